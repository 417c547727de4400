"""Files as people have them, in the browser: from a file, a paste or the keyboard to a review."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.databases import new_database
from tests.exchange.found.files import WIDE, workbook
from tests.recalculated import converted

from .conftest import serving


@pytest.fixture
def base_url(whole_server: str) -> str:
    return whole_server


LANTERNS = [["Brass Lanterns"], *WIDE]
KETTLES = [["Copper Kettles"], *WIDE]


def drop(page: Page, path: Path, raw: bytes) -> None:
    path.write_bytes(raw)
    page.get_by_label("Drop files here").set_input_files(str(path))


def create(page: Page, symbol: str) -> None:
    understood = page.get_by_role("region", name="What was understood")
    understood.get_by_role("button", name=re.compile("^A new payer")).first.click()
    understood.get_by_label("Symbol", exact=True).fill(symbol)
    understood.get_by_role("button", name="Create payer").click()
    expect(understood.get_by_role("button", name="Create payer")).to_have_count(0)


def test_an_ods_with_a_sheet_a_payer_becomes_reviews_and_the_next_one_needs_one_click(
    page: Page, tmp_path: Path
) -> None:
    books = {
        "first": workbook({"Brass Lanterns": LANTERNS, "Copper Kettles": KETTLES}),
        "second": workbook({"Brass Lanterns": [*LANTERNS, ["Total assets", 1900, 2000, 2100]]}),
    }
    ods = converted(books, "ods", tmp_path)
    page.goto("/sources?tab=import")
    drop(page, tmp_path / "payers of mine.ods", ods["first"])
    understood = page.get_by_role("region", name="What was understood")
    expect(understood).to_contain_text("3 periods across")
    expect(understood.get_by_label("Net sales is taken for").first).to_have_value("revenue")
    create(page, "BRL")
    create(page, "CPK")
    understood.get_by_role("button", name="millions").click()
    expect(understood).to_contain_text("Written as negative, and turned: capital expenditure")
    expect(page.get_by_label("Name of the import profile")).to_have_value("payers of mine")
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_text(re.compile("payers of mine.ods is in"))).to_be_visible()
    page.get_by_role("link", name="Copper Kettles").click()
    expect(page.get_by_role("heading", name="Copper Kettles")).to_be_visible()

    page.goto("/sources?tab=import")
    expect(page.get_by_role("heading", name="Import profiles")).to_be_visible()
    drop(page, tmp_path / "next year.ods", ods["second"])
    expect(understood).to_contain_text("Read by your profile “payers of mine”")
    expect(understood).to_contain_text("amounts in: millions")
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_text(re.compile("next year.ods is in"))).to_be_visible()


PASTE = """([text, html]) => {
  const data = new DataTransfer();
  data.setData("text/plain", text);
  if (html) data.setData("text/html", html);
  (document.activeElement ?? document.body).dispatchEvent(
    new ClipboardEvent("paste", { bubbles: true, cancelable: true, clipboardData: data }));
}"""
DIVIDENDS = (
    "<table><tr><th>Ex-dividend date</th><th>Amount</th></tr>"
    "<tr><td>September 11, 2026</td><td>TLL 0.31*</td></tr></table>"
)


def test_a_table_of_a_page_is_pasted_and_the_import_undone(page: Page) -> None:
    page.goto("/sources?tab=import")
    expect(page.get_by_role("heading", name="Sources")).to_be_visible()
    page.evaluate(PASTE, ["ignored", DIVIDENDS])
    understood = page.get_by_role("region", name="What was understood")
    understood.get_by_label("Whose is it? Name or symbol of a payer").fill("tallow")
    understood.get_by_role("button", name=re.compile("^Tallow & Reed")).click()
    expect(understood).to_contain_text("1 dividend")
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_text("pasted.html is in")).to_be_visible()
    page.get_by_role("button", name="Undo the import of pasted.html").click()
    expect(page.get_by_text(re.compile("^undone"))).to_be_visible()


def test_a_wrong_paste_into_a_grid_is_not_taken_or_taken_back(page: Page) -> None:
    page.goto("/sources/ELV/TRS?tab=dividends")
    page.get_by_role("button", name="Enter by hand").click()
    amount = page.get_by_label("Amount, 1", exact=True)
    amount.fill("0.5")
    amount.focus()
    page.evaluate(PASTE, ["7\t8\n9\t10", ""])
    note = page.get_by_role("region", name="Pasted cells")
    expect(note).to_contain_text("4 cells go where they are outlined.")
    expect(amount).to_have_value("7")
    page.keyboard.press("Escape")
    expect(note).to_have_count(0)
    expect(amount).to_have_value("0.5")
    amount.focus()
    page.evaluate(PASTE, ["7\t8\n9\t10", ""])
    expect(note).to_be_visible()
    page.keyboard.press("Enter")
    expect(amount).to_have_value("7")
    expect(page.get_by_label("Amount, 2", exact=True)).to_have_value("9")
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(amount).to_have_value("0.5")
    page.get_by_role("button", name="Redo", exact=True).click()
    expect(amount).to_have_value("7")
    page.get_by_role("button", name="Clear", exact=True).click()
    expect(amount).to_have_value("")


def test_a_new_quarter_is_entered_by_keyboard(page: Page) -> None:
    page.goto("/sources/ELV/TRS")
    page.get_by_role("button", name="A new quarter").press("Enter")
    form = page.get_by_role("region", name="A new quarter")
    expect(form.get_by_label("Period end, 1")).to_have_value("2026-06-30")
    expect(form.get_by_label("Published on, 1")).to_be_focused()
    for _ in range(2):
        page.keyboard.press("Enter")
    for value in ("221.5", "115", "64", "42.5"):
        page.keyboard.type(value)
        page.keyboard.press("Enter")
    expect(form.get_by_text("1 added, 0 changed, 0 the same.")).to_be_visible()
    keep = form.get_by_role("button", name="Keep it")
    expect(keep).to_be_enabled()  # what is shown may be of what was typed before
    keep.press("Enter")
    expect(page.get_by_text("Kept, as source no. 2.")).to_be_visible()
    expect(
        page.get_by_role("columnheader", name=re.compile("quarter to 2026-06-30"))
    ).to_be_visible()


def test_todays_price_takes_a_figure_and_two_keys(page: Page) -> None:
    page.goto("/sources/ELV/BRNH?tab=splits")
    page.get_by_role("button", name="A new dividend").click()
    expect(page.get_by_label("Ex date, 1", exact=True)).to_be_focused()
    page.get_by_role("button", name="Today’s price").click()
    close = page.get_by_label("Close, 1", exact=True)
    expect(close).to_be_focused()
    expect(page.get_by_label("Day, 1", exact=True)).to_have_value("2026-06-30")


class Keyboard:
    """Types, and counts the strokes."""

    def __init__(self, page: Page) -> None:
        self.page, self.strokes = page, 0

    def type(self, text: str) -> None:
        self.strokes += len(text)
        self.page.keyboard.type(text)

    def press(self, key: str, times: int = 1) -> None:
        for _ in range(times):
            self.strokes += 1
            self.page.keyboard.press(key)


LINES = {
    "Revenue": "80 77 75 72 70",
    "Operating profit": "14 13 13 12 12",
    "Depreciation and amortization": "4 4 4 4 4",
    "Interest expense": "1 1 1 1 1",
    "Net income": "10 9 9 8 8",
    "Diluted EPS": "1 .9 .9 .8 .8",
    "Diluted shares": "10 10 10 10 10",
    "Cash from operations": "15 14 13 13 12",
    "Capital expenditure": "5 5 5 4 4",
    "Dividends paid": "6 6 5 5 5",
    "Cash": "7 7 6 6 5",
    "Long-term debt": "20 21 22 23 24",
    "Total assets": "95 92 90 88 85",
    "Equity": "55 52 50 48 45",
}


def test_a_payer_is_typed_in_under_350_strokes(page: Page) -> None:
    """Payer, ten yearly dividends, five years of fourteen lines and a price."""
    page.goto("/sources?tab=import")
    page.get_by_role("button", name="a payer, on one sheet").click()
    expect(page.get_by_label("Exchange", exact=True)).to_have_value("ELV")
    keys = Keyboard(page)
    keys.type("Brass Lanterns")
    keys.press("Tab")
    keys.type("BRL")
    for name, typed in ((re.compile("^Close of"), "12"), ("Dividend per share, 2025", "")):
        keys.strokes += 1
        page.get_by_label(name).focus()
        keys.type(typed)
    for amount in (".6", ".6", ".5", ".5", ".5", ".4", ".4", ".4", ".3", ".3"):
        keys.type(amount)
        keys.press("Tab")
    page.get_by_label("Revenue, 2025").focus()
    for year in range(5):
        for values in LINES.values():
            keys.type(values.split()[year])
            keys.press("Enter")
    page.get_by_role("button", name="Read it").focus()
    keys.press("Enter")
    understood = page.get_by_role("region", name="What was understood")
    expect(understood).to_contain_text("5 statements, 10 dividends")
    expect(understood).to_contain_text("1 price")
    page.get_by_role("button", name="Import now").focus()
    keys.press("Enter")
    expect(page.get_by_text("typed.txt is in")).to_be_visible()
    assert keys.strokes < 350
    page.get_by_role("link", name="Brass Lanterns").click()
    expect(page.get_by_role("heading", name="Brass Lanterns")).to_be_visible()


def test_a_payer_is_pasted_in_under_20_strokes(page: Page) -> None:
    years = "\t".join(["", "2025", "2024", "2023", "2022", "2021"])
    rows = [f"{name}\t" + values.replace(" ", "\t") for name, values in LINES.items()]
    sheet = ["Brass Lanterns, TLL in millions", years, "DPS\t.6\t.6\t.5\t.5\t.5", *rows]
    text = "\n".join([*sheet, "", "Date\tClose", "2026-06-30\t12"])
    page.goto("/sources?tab=import")
    expect(page.get_by_role("heading", name="Sources")).to_be_visible()
    keys = Keyboard(page)
    keys.strokes += 2  # Ctrl and V
    page.evaluate(PASTE, [text, ""])
    page.get_by_role("button", name=re.compile("^A new payer")).first.focus()
    keys.press("Enter")
    expect(page.get_by_label("Symbol", exact=True)).to_be_focused()
    expect(page.get_by_label("Exchange", exact=True)).to_have_value("ELV")
    keys.type("BRL")
    keys.press("Enter")
    page.get_by_role("button", name="Import now").focus()
    keys.press("Enter")
    expect(page.get_by_text("pasted.txt is in")).to_be_visible()
    assert keys.strokes < 20


def test_every_table_of_the_page_is_saved_whole(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_role("link", name="Adderstone Pumps")).to_be_visible()
    page.get_by_role("button", name="Copy or save a table").click()
    expect(page.get_by_role("dialog")).to_contain_text("59 rows")
    with page.expect_download() as saved:
        page.get_by_role("button", name=re.compile("^CSV: Payers$")).click()
    lines = Path(saved.value.path()).read_text("utf-8-sig").splitlines()
    assert len(lines) == 60
    assert "Adderstone Pumps" in lines[1]
    with page.expect_download() as book:
        page.get_by_role("button", name=re.compile("^XLSX: Payers$")).click()
    assert Path(book.value.path()).read_bytes()[:2] == b"PK"


MATRIX = "Date,ALD,BIR\n2026-06-30,12.5,40\n2026-06-29,12.4,41\n"


def test_the_first_import_of_an_empty_product_stays_where_it_is(page: Page, tmp_path: Path) -> None:
    """A matrix of closes of payers that nobody holds, and then the way to their reviews."""
    new_database(tmp_path / "empty.sqlite").close()
    with serving(tmp_path / "empty.sqlite") as url:
        page.goto(f"{url}/sources")
        drop(page, tmp_path / "closes.csv", MATRIX.encode())
        understood = page.get_by_role("region", name="What was understood")
        expect(understood).to_contain_text("Not held yet: ALD, BIR. What becomes of them?")
        understood.get_by_role("button", name="Add them").click()
        for asks, answer in (
            ("On which exchange are they?", "ELV"),
            ("In which country are they?", "Sundrey Isles"),
            ("In which currency are they counted?", "TLL"),
        ):
            understood.get_by_label(asks).fill(answer)
            understood.get_by_label(asks).press("Enter")
            expect(understood.get_by_label(asks)).to_have_count(0)
        understood.get_by_role("button", name="companies").click()
        page.get_by_role("button", name="Import now").click()
        expect(page.get_by_text(re.compile("closes.csv is in"))).to_be_visible()
        expect(page.get_by_role("button", name="Import", exact=True)).to_have_attribute(
            "aria-current", "page"
        )
        page.get_by_role("link", name="ALD").click()
        expect(page.get_by_role("heading", name="ALD")).to_be_visible()


def test_a_reading_that_takes_long_says_so_and_is_stopped(page: Page, tmp_path: Path) -> None:
    page.route("**/api/imports/preview", lambda _: None)  # no answer comes
    page.goto("/sources?tab=import")
    drop(page, tmp_path / "closes.csv", MATRIX.encode())
    progress = page.get_by_role("progressbar", name="The files are being read")
    expect(progress).to_be_visible()
    page.get_by_role("button", name="Cancel").click()
    expect(progress).to_have_count(0)
    expect(page.get_by_label("Drop files here")).to_be_enabled()
    page.unroute("**/api/imports/preview")
    drop(page, tmp_path / "others.csv", MATRIX.encode())
    expect(page.get_by_role("region", name="What was understood")).to_be_visible()
