"""A spreadsheet as people have it, in the browser: from the file to a review."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.exchange.found.files import WIDE, workbook

from .conftest import serious


def test_a_spreadsheet_becomes_a_payer_under_review(page: Page, tmp_path: Path) -> None:
    path = tmp_path / "lanterns.xlsx"
    path.write_bytes(workbook({"Lanterns": [["Brass Lanterns"], *WIDE]}))
    page.goto("/sources?tab=import")
    page.get_by_label("Drop files here").set_input_files(str(path))
    understood = page.get_by_role("region", name="What was understood")
    expect(understood).to_contain_text("3 periods across")
    expect(understood.get_by_label("Net sales is taken for")).to_have_value("revenue")
    assert serious(page) == []
    understood.get_by_role("button", name="A new payer").click()
    for label, value in (
        ("Name", "Brass Lanterns"),
        ("Exchange", "ELV"),
        ("Symbol", "BRL"),
        ("Country", "Sundrey"),
        ("Currency, three letters", "TLL"),
    ):
        understood.get_by_label(label, exact=True).fill(value)
    understood.get_by_role("button", name="Make it").click()
    understood.get_by_role("button", name="millions").click()
    expect(understood).to_contain_text("Written as negative, and turned: capital expenditure")
    page.get_by_role("button", name="Import now").click()
    expect(page.get_by_text(re.compile("lanterns.xlsx is in"))).to_be_visible(timeout=30_000)
    page.goto("/review/ELV/BRL")
    expect(page.get_by_role("heading", name="Brass Lanterns")).to_be_visible()
