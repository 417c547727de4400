"""Nothing typed is lost or lands elsewhere, and nothing is refused without a word."""

from __future__ import annotations

import json
import re

from playwright.sync_api import Page, Route, expect

WORDS = "In your own words"


def decision(page: Page, symbol: str) -> None:
    page.goto(f"/review/ELV/{symbol}?stage=decision&sort=name")
    expect(page.get_by_label(WORDS)).to_be_visible()


def test_two_tabs_on_one_payer_show_one_draft(page: Page) -> None:
    decision(page, "AMLH")
    other = page.context.new_page()
    decision(other, "AMLH")
    page.get_by_label(WORDS).fill("from the first")
    expect(other.get_by_label(WORDS)).to_have_value("from the first")
    other.get_by_label(WORDS).fill("from the first, and the second")
    expect(page.get_by_label(WORDS)).to_have_value("from the first, and the second")


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
    expect(page).to_have_url(re.compile(r"aim=0\.0\d"))


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


def test_a_shared_stage_opens_with_its_heading_in_sight(page: Page) -> None:
    for stage, heading in (("cover", "Cover"), ("worth", "Worth"), ("decision", "Decision")):
        page.goto(f"/review/ELV/IVBR?stage={stage}")
        expect(page.locator("#decision")).to_be_visible()
        expect(page.get_by_role("heading", name=heading, level=2)).to_be_in_viewport(ratio=1)
        box = page.get_by_role("heading", name=heading, level=2).bounding_box()
        assert box is not None
        assert box["y"] > 57, stage  # below the bar that stays at the top
