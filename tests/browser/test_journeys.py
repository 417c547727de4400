"""The two ways through the product that everything else widens."""

import re

from playwright.sync_api import Page, expect

from tests.conftest import EXAMPLES
from tests.patience import until

YIELD = re.compile(r"\d\.\d\d")


def move_the_aim(page: Page) -> None:
    aim = page.get_by_role("slider", name="Target yield")
    aim.focus()
    told = page.get_by_test_id("aim")
    before = told.inner_text()
    for _ in range(6):
        page.keyboard.press("ArrowUp")
    expect(told).not_to_have_text(before)
    expect(aim).to_have_attribute("aria-valuetext", re.compile(r"\d\.\d\d.*TLL"))

    def aims() -> set[str]:
        """The yield that the handle stands at and the one that is told of."""
        handle = aim.get_attribute("aria-valuetext") or ""
        return {*YIELD.findall(handle)[:1], *YIELD.findall(told.inner_text())[:1]}

    until(aims, is_so=lambda found: len(found) == 1)
    expect(page).to_have_url(re.compile(r"aim=0\.03"))


def test_from_a_name_to_a_dated_decision_by_keyboard(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_role("link", name="Adderstone Pumps")).to_be_visible()
    page.keyboard.press("/")
    page.keyboard.type("tallow")
    expect(page.get_by_role("option", name=re.compile("Tallow"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1, name="Tallow & Reed Soapworks")).to_be_visible()

    for stage in ("Cover", "Footing", "Range", "Worth", "Decision"):
        page.keyboard.press("j")
        expect(page.get_by_role("heading", level=2, name=stage)).to_be_in_viewport()
        expect(page).to_have_url(re.compile(f"stage={stage.lower()}"))
    page.keyboard.press("k")
    page.keyboard.press("k")
    expect(page.get_by_role("heading", level=2, name="Range")).to_be_in_viewport()

    move_the_aim(page)

    page.get_by_role("textbox", name="Dividend growth").fill("3")
    page.get_by_role("textbox", name="Required return").fill("9")
    page.locator("#worth").get_by_role("button", name=re.compile("Its dividends")).click()
    model = page.get_by_role("row", name=re.compile("^Constant growth"))
    expect(model).to_contain_text("33.99")  # 1.98 × 1.03 ÷ 0.06
    expect(page).to_have_url(re.compile(r"required_return(:|%3A)0\.09"))

    page.get_by_role("button", name=re.compile("^buy-below price")).first.focus()
    page.keyboard.press("Enter")
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("Combined value × (1 − margin of safety)")
    for step in ("combined value", "its dividends", "constant growth, middle", "declared rate"):
        drawer.get_by_role("button", name=step, exact=True).click()
    drawer.get_by_role("button", name=re.compile("regular dividend, ex")).click()
    expect(drawer).to_contain_text("Known on")
    expect(drawer).to_contain_text("the Sundrey Isles (demo, no. 1)")
    page.keyboard.press("Escape")
    expect(drawer).to_be_hidden()

    page.get_by_text("wait", exact=True).click()
    page.get_by_label("In your own words").fill("Good soap, dear price.")
    page.get_by_role("button", name=re.compile("from Worth")).click()
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_text("Recorded.")).to_be_visible()

    page.reload()
    past = page.get_by_role("article", name="Decision of 30 June 2026")
    expect(past).to_contain_text("Good soap, dear price.")
    expect(page.get_by_role("textbox", name="Required return")).to_have_value("9.00")
    expect(page.get_by_role("complementary", name="Findings")).to_contain_text("Wait; buy below")


def test_from_a_faulty_package_to_a_new_payer_and_back(page: Page) -> None:
    page.goto("/sources?tab=import")
    chooser = page.get_by_label("Drop files here, or choose them")
    chooser.set_input_files(str(EXAMPLES / "faulty.zip"))
    expect(page.get_by_text("34 errors")).to_be_visible()
    rows = page.get_by_role("region", name="Errors").get_by_role("row")
    expect(rows).to_have_count(35)
    expect(page.get_by_role("region", name="Warnings").get_by_role("row")).to_have_count(6)
    bad_date = rows.filter(has_text="10/06/2025")
    expect(bad_date).to_contain_text("dividends.csv")
    expect(bad_date).to_contain_text("a date as YYYY-MM-DD")
    expect(page.get_by_role("button", name="Import now")).to_have_count(0)

    chooser.set_input_files(str(EXAMPLES / "pennant-lamps.zip"))
    expect(page.get_by_role("row", name="prices 391 0 0")).to_be_visible()
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_text("pennant-lamps.zip is in, as source no. 2.")).to_be_visible()

    page.keyboard.press("/")
    page.keyboard.type("pennant")
    expect(page.get_by_role("option", name=re.compile("Pennant Lamps"))).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1, name="Pennant Lamps")).to_be_visible()
    expect(page.get_by_text("Raised 9 years running")).to_be_visible()

    page.goto("/sources?tab=import")
    page.get_by_role("button", name="Undo the import of pennant-lamps.zip").click()
    expect(page.get_by_text(re.compile("^undone"))).to_be_visible()
    page.goto("/payers?q=pennant")
    expect(page.get_by_text("No payer meets this")).to_be_visible()
