"""What goes to paper is the whole of a place: every row, every stage, the names of the models."""

from __future__ import annotations

import io
import re

import httpx
import pytest
from playwright.sync_api import Page, expect
from pypdf import PdfReader

from tests.patience import until

STUB = "() => { window.print = () => { window.timesPrinted = (window.timesPrinted ?? 0) + 1 } }"
PARTLY = "Printed as it stood in the browser"
PLACES = {
    "/": "Hearth",
    "/watch": "Watch",
    "/holdings": "The next twelve months",
    "/holdings?tab=positions": "Newharbour Optics",
    "/holdings?tab=entries": "Harbour account",
    "/journal": "Journal",
    "/compare?compared=ELV/TRS,ELV/GWK,ELV/SKW": "Greywake Kilns",
    "/house-rules": "Margin of safety 20",
    "/glossary": "Glossary",
    "/sources?tab=payers": "Tallow & Reed Soapworks",
    "/sources/ELV/TRS?tab=dividends": "Tallow & Reed Soapworks",
}
"""Each with words that are on its paper."""


def sheets(page: Page) -> list[str]:
    """The text of each sheet, as the browser lays it out on paper."""
    reader = PdfReader(io.BytesIO(page.pdf(prefer_css_page_size=True)))
    return [re.sub(r"\s+", " ", sheet.extract_text()) for sheet in reader.pages]


def printed(page: Page, address: str) -> list[str]:
    """A place by Ctrl+P, once it is whole."""
    page.goto(address)
    page.evaluate(STUB)
    expect(page.get_by_role("heading", level=1).first).to_be_visible()
    page.keyboard.press("Control+p")
    until(lambda: page.evaluate("() => window.timesPrinted") == 1)
    return sheets(page)


def test_every_payer_is_on_paper_under_headings_that_are_repeated(
    page: Page, base_url: str
) -> None:
    found = printed(page, "/payers")
    whole = " ".join(found)
    listed = httpx.get(f"{base_url}/api/payers?count=500", timeout=60).json()
    assert len(listed["rows"]) == 59
    assert [r["name"] for r in listed["rows"] if r["name"] not in whole] == []
    assert len(found) > 2
    assert all("Kind" in sheet and "First to give" in sheet for sheet in found)
    assert PARTLY not in whole
    expect(page.get_by_role("table")).to_be_visible()
    drawn = page.locator("section.payers tbody tr:not([data-gap])")
    expect(drawn).not_to_have_count(59)  # afterwards only what is in sight is drawn again


def test_a_review_prints_every_stage_and_worth_the_names_of_its_models(page: Page) -> None:
    whole = " ".join(printed(page, "/review/ELV/TRS"))
    for stage in ("Record", "Cover", "Footing", "Range", "Worth", "Decision", "Findings"):
        assert stage in whole
    for name in ("Constant growth", "Two stages", "Yield reversion", "Cash flow to equity"):
        assert name in whole, name
    assert re.search(r"Dividend growth \d\.\d\d", whole)
    assert "Required return 8.00" in whole
    assert "earnings can fall" in whole
    assert "assets can fall" in whole


VIEWS = {
    "record=payments&cover=matrix&footing=balance&range=years&worth=trials": (
        "What happened|Operating cash flow|Total assets|Price against what the mean yield"
        "|For today’s price to be fair|Two inputs at once"
    ),
    "record=slumps&cover=lines&footing=business&range=price&worth=return": (
        "The dividend was|The share count|with dividends put back in"
        "|What the yearly return comes from"
    ),
    "cover=bridge&footing=lines&worth=peers": (
        "Left after the dividend|Property depreciation|Median of those left in"
    ),
    "cover=uses&footing=newest&worth=cases": (
        "Kept as cash|What moved most first|Capital expenditure|Combined value, by chances"
    ),
    "cover=strain&footing=parts": "Tests under the strain|Tenants",
    "footing=peers": "Payers of Property|More interest cover",
    "footing=slumps": "Revenue|Market",
}
"""Of a review, so many views at once, each with words that are on its paper."""


@pytest.mark.parametrize("views", VIEWS)
def test_every_view_of_a_stage_prints_whole(page: Page, views: str) -> None:
    whole = " ".join(printed(page, f"/review/ELV/LRT?{views}"))
    assert [w for w in VIEWS[views].split("|") if w not in whole] == []
    assert PARTLY not in whole


@pytest.mark.parametrize("address", PLACES)
def test_every_place_prints_whole(page: Page, address: str) -> None:
    found = printed(page, address)
    whole = " ".join(found)
    assert PLACES[address] in whole
    assert PARTLY not in whole
    assert all(sheet.strip() for sheet in found)


def test_the_browsers_own_menu_prints_what_is_there_and_says_what_is_missing(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_text("Adderstone Pumps")).to_be_visible()
    told = " ".join(sheets(page))
    assert re.search(rf"{PARTLY}: \d+ of 59 rows", told)
    assert "Ctrl+P" in told


@pytest.mark.parametrize("by", ["the button", "the search box"])
def test_it_is_printed_otherwise_too(page: Page, by: str) -> None:
    page.goto("/payers")
    page.evaluate(STUB)
    if by == "the button":
        page.get_by_role("button", name="Print this page").click()
    else:
        page.get_by_placeholder(re.compile("Search payers")).fill("print")
        page.get_by_role("option", name=re.compile("Print this page")).click()
    until(lambda: page.evaluate("() => window.timesPrinted") == 1)
    assert PARTLY not in " ".join(sheets(page))


@pytest.mark.parametrize("symbol", ["TRS", "NWO"])
def test_a_memo_fills_its_two_sheets_and_is_no_wider(
    page: Page, base_url: str, symbol: str
) -> None:
    """Of a new payer most is unknown, with reasons longer than a column."""
    body = {"verdict": "hold", "words": "Steady.", "as_of": "2026-06-30"}
    made = page.request.post(f"/api/payers/ELV/{symbol}/decisions", data=body)
    assert made.status == 201, made.text()
    page.goto(f"/api/decisions/{made.json()['id']}/memo")
    first, second = sheets(page)
    assert "What was found" in first
    assert "Tests and their cushions" in first
    assert "Combined value" in second
    assert "Rests on" in second
    page.emulate_media(media="print")
    page.set_viewport_size({"width": 680, "height": 1000})  # A4 less its margins
    assert page.evaluate("() => document.documentElement.scrollWidth") <= 680
