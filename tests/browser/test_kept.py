"""Nothing typed is lost or lands elsewhere, and nothing is refused without a word."""

from __future__ import annotations

import json
import re

from playwright.sync_api import Page, Route, expect

WORDS = "In your own words"


def decision(page: Page, symbol: str) -> None:
    page.goto(f"/review/ELV/{symbol}?stage=decision&sort=name")
    expect(page.get_by_label(WORDS)).to_be_visible()


def test_a_draft_stays_with_its_payer(page: Page) -> None:
    decision(page, "AMLH")
    page.get_by_label(WORDS).fill("mustard, if cheaper")
    page.get_by_label(re.compile("^Buy below")).fill("12")
    page.get_by_role("heading", name="Decision", level=2).click()
    page.wait_for_load_state("networkidle")
    page.keyboard.press("n")
    expect(page.get_by_role("heading", level=1)).to_have_text("Ashcombe Timber")
    expect(page.get_by_label(WORDS)).to_have_value("")
    expect(page.get_by_label(re.compile("^Buy below"))).to_have_value("")
    page.get_by_label(WORDS).fill("timber")
    page.get_by_role("heading", name="Decision", level=2).click()
    page.wait_for_load_state("networkidle")
    page.keyboard.press("p")
    expect(page.get_by_role("heading", level=1)).to_have_text("Amberlough Mustard")
    expect(page.get_by_label(WORDS)).to_have_value("mustard, if cheaper")
    expect(page.get_by_label(re.compile("^Buy below"))).to_have_value("12")


def test_a_draft_survives_a_way_through_the_search_box(page: Page) -> None:
    decision(page, "AMLH")
    page.get_by_label(WORDS).fill("kept")
    page.get_by_role("heading", name="Decision", level=2).click()
    page.keyboard.press("/")
    page.keyboard.type("ashcombe")
    expect(page.get_by_role("option", name=re.compile("Ashcombe"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_have_text("Ashcombe Timber")
    expect(page.get_by_label(WORDS)).to_have_value("")
    page.get_by_label(WORDS).fill("x")
    decision(page, "AMLH")
    expect(page.get_by_label(WORDS)).to_have_value("kept")


def test_two_tabs_on_one_payer_show_one_draft(page: Page) -> None:
    decision(page, "AMLH")
    other = page.context.new_page()
    decision(other, "AMLH")
    page.get_by_label(WORDS).fill("from the first")
    expect(other.get_by_label(WORDS)).to_have_value("from the first")
    other.get_by_label(WORDS).fill("from the first, and the second")
    expect(page.get_by_label(WORDS)).to_have_value("from the first, and the second")


def test_a_damaged_draft_is_no_draft(page: Page) -> None:
    page.goto("/payers")
    for raw in ("{", '"x"', '{"words": 5}', "[1]"):
        page.evaluate('raw => localStorage.setItem(\'hearth.draft.["ELV","AMLH"]\', raw)', raw)
        decision(page, "AMLH")
        expect(page.get_by_label(WORDS)).to_have_value("")


def refuse(route: Route) -> None:
    route.fulfill(
        status=409,
        content_type="application/problem+json",
        body=json.dumps(
            {
                "type": "about:Conflict",
                "title": "Not possible as things stand",
                "status": 409,
                "detail": "Decisions are made today",
                "field": "as_of",
            }
        ),
    )


def test_a_refusal_that_names_no_field_of_the_form_is_told(page: Page) -> None:
    decision(page, "AMLH")
    page.route("**/decisions", lambda r: refuse(r) if r.request.method == "POST" else r.continue_())
    page.get_by_text("hold", exact=True).click()
    page.get_by_label(WORDS).fill("the day has turned")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_role("alert")).to_contain_text("Decisions are made today")
    expect(page.get_by_label(WORDS)).to_have_value("the day has turned")


def test_an_answer_that_got_lost_records_once(page: Page) -> None:
    decision(page, "AMLH")
    lost: list[int] = []

    def lose_the_first(route: Route) -> None:
        if route.request.method != "POST":
            route.continue_()
        elif not lost:
            lost.append(route.fetch().status)
            route.abort()
        else:
            route.continue_()

    page.route("**/decisions", lose_the_first)
    page.get_by_text("hold", exact=True).click()
    page.get_by_label(WORDS).fill("said once")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_role("alert")).to_contain_text("does not answer")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_text("Recorded.")).to_be_visible()
    expect(page.get_by_role("article")).to_have_count(1)
    assert lost == [201]


def test_a_program_that_ends_during_an_import_is_told(page: Page) -> None:
    from tests.conftest import EXAMPLES

    page.goto("/sources?tab=import")
    page.route("**/api/jobs/*", lambda route: route.abort())
    page.get_by_label("Drop files here").set_input_files(str(EXAMPLES / "pennant-lamps.zip"))
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_role("alert")).to_contain_text("does not answer")


def test_single_keys_act_wherever_nothing_is_typed(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("checkbox", name="Mark Adderstone Pumps").focus()
    page.keyboard.press("/")
    expect(page.get_by_role("combobox", name=re.compile("^Search payers"))).to_be_focused()
    page.keyboard.press("Escape")
    page.get_by_label("Show").focus()
    page.keyboard.press("/")
    expect(page.get_by_role("combobox", name=re.compile("^Search payers"))).to_be_focused()


def test_j_takes_the_focus_along_and_arrows_aim_from_there(page: Page) -> None:
    held: list[Route] = []
    page.route(re.compile(r"/api/payers/ELV/TRS/range\?"), lambda route: held.append(route))
    page.goto("/review/ELV/TRS?as_of=2026-06-29")
    expect(page.get_by_role("heading", name="Worth", level=2)).to_be_attached()
    for _ in range(3):
        page.keyboard.press("j")
    title = page.get_by_role("heading", name="Range", level=2)
    expect(title).to_be_focused()
    for route in held:
        route.continue_()
    expect(page.locator("#range").get_by_role("slider")).to_be_attached()
    expect(title).to_be_focused()
    page.keyboard.press("ArrowUp")
    expect(page).to_have_url(re.compile("aim=0.03"))


def test_what_gives_first_is_near_in_the_order_of_tabs(page: Page) -> None:
    page.goto("/review/ELV/TRS")
    first = page.locator("dt", has_text="First to give").locator("..").get_by_role("button")
    expect(first).to_be_visible()
    page.locator("#main").focus()
    for _ in range(6):
        page.keyboard.press("Tab")
        if first.evaluate("e => e === document.activeElement"):
            break
    expect(first).to_be_focused()


def test_back_undoes_a_choice_and_does_not_leave_the_page(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name=re.compile("^Yield, %")).click()
    expect(page).to_have_url(re.compile("sort=yield"))
    page.get_by_role("button", name="Cover", exact=True).click()
    expect(page).to_have_url(re.compile("cols=cover"))
    page.go_back()
    expect(page).not_to_have_url(re.compile("cols="))
    expect(page).to_have_url(re.compile("sort=yield"))
    page.go_back()
    expect(page).to_have_url(re.compile("/payers$"))


def test_a_chart_shown_as_a_table_stays_one(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover")
    cover = page.locator("#cover")
    cover.get_by_role("button", name="table").click()
    expect(cover.get_by_role("table", name="Cover by year")).to_be_visible()
    page.reload()
    expect(cover.get_by_role("table", name="Cover by year")).to_be_visible()


def test_a_day_to_come_is_refused_in_words(page: Page) -> None:
    page.goto("/payers")
    page.get_by_role("button", name=re.compile("^As of")).click()
    page.get_by_label("View as of").fill("2030-01-01")
    expect(page.get_by_role("alert")).to_contain_text("1 January 2030 is still to come")
    assert "as_of" not in page.url


def test_a_price_that_is_none_is_refused_in_words(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range")
    price = page.get_by_label("Price, TLL")
    price.fill("abc")
    price.press("Enter")
    expect(page.locator("#range").get_by_role("alert")).to_contain_text("“abc” is not a number")
    price.fill("1,234")
    price.press("Enter")
    expect(page.locator("#range").get_by_role("alert")).to_contain_text("can be read as 1234")


def test_the_delisted_stand_apart_until_asked_for(page: Page) -> None:
    page.goto("/payers?q=ravensgate")
    name = page.locator("tbody tr[data-place]")
    expect(page.get_by_text("No payer meets this.")).to_be_visible()
    page.get_by_role("checkbox", name="with 1 delisted").check()
    expect(name).to_have_count(1)
    expect(page).to_have_url(re.compile("delisted=true"))


def test_a_search_by_sector_shows_the_whole_sector_too(page: Page) -> None:
    where = '{"join":"all","parts":[{"id":"yield","op":"at_least","value":0.04,"words":[]}]}'
    page.goto(f"/payers?by=sector&where={where}")
    row = page.get_by_role("row", name=re.compile("Property"))
    expect(row).to_contain_text(" of 8")
    expect(row.get_by_text(re.compile("^all: ")).first).to_be_visible()


def test_what_an_address_asks_in_vain_is_told_and_left_out(page: Page) -> None:
    page.goto("/review/ELV/AMLH?stage=worth&inputs=growth:0.9&aim=0")
    told = page.locator("#worth").get_by_role("alert")
    expect(told).to_have_text(
        "Growth must lie between -50 % and 50 %; it was left out of the address"
    )
    aim = page.locator("#range").get_by_role("alert")
    expect(aim).to_contain_text("A target yield must be above 0")
    expect(page).to_have_url(re.compile(r"AMLH\?stage=worth$"))
    page.get_by_role("textbox", name="Dividend growth").fill("3")
    expect(told).to_have_count(0)
    expect(page).to_have_url(re.compile("growth(:|%3A)0.03"))


def test_an_address_of_a_day_to_come_shows_the_way_back(page: Page) -> None:
    page.goto("/?as_of=2030-01-01")
    expect(page.get_by_role("alert")).to_contain_text("1 January 2030 is still to come")
    page.get_by_role("button", name="Go to today").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_role("table").first).to_be_visible()


def test_a_shared_stage_opens_with_its_heading_in_sight(page: Page) -> None:
    for stage, heading in (("cover", "Cover"), ("worth", "Worth"), ("decision", "Decision")):
        page.goto(f"/review/ELV/IVBR?stage={stage}")
        expect(page.locator("#decision")).to_be_visible()
        expect(page.get_by_role("heading", name=heading, level=2)).to_be_in_viewport(ratio=1)
        box = page.get_by_role("heading", name=heading, level=2).bounding_box()
        assert box is not None
        assert box["y"] > 57, stage  # below the bar that stays at the top
