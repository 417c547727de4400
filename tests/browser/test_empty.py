"""An empty household teaches what belongs here."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from .conftest import serious, serving

pytestmark = pytest.mark.xdist_group("browser")


@pytest.fixture(scope="module")
def base_url(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    path: Path = tmp_path_factory.mktemp("empty") / "empty.sqlite"
    with serving(path) as url:
        yield url


def test_the_hearth_says_how_to_begin(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_role("heading", level=1)).to_have_text("Hearth")
    expect(page.get_by_role("link", name="your limits")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("link", name="Import a spreadsheet").click()
    expect(page.get_by_text("Drop files here")).to_be_visible()


def test_payers_leads_to_sources(page: Page) -> None:
    page.goto("/payers")
    expect(page.get_by_text("No prices held")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("link", name="Import your first payer").click()
    expect(page.get_by_text("Nothing yet.")).to_be_visible()


def test_every_part_of_sources_says_what_belongs_there(page: Page) -> None:
    for tab, words in (
        ("shared", "None is held yet. A price index is what dividends are held against"),
        ("edits", "Nothing is edited or excluded."),
        ("held", "No payer is held yet"),
    ):
        page.goto(f"/sources?tab={tab}")
        expect(page.get_by_text(words)).to_be_visible()
        assert serious(page) == []


def test_a_first_payer_is_typed_by_hand_and_reviewed(page: Page) -> None:
    page.goto("/sources?tab=import")
    page.get_by_role("button", name="a payer").click()
    for name, cell in (
        ("Name", "Newcomers & Sons"),
        ("Symbol", "NEW"),
        ("Exchange", "ELV"),
        ("Country", "Sundrey Isles"),
        ("Currency, three letters", "TLL"),
    ):
        page.get_by_label(name, exact=True).fill(cell)
    page.get_by_role("button", name="Keep the payer alone").click()
    expect(page.get_by_text("Kept, as source no. 1.")).to_be_visible()
    page.goto("/review/ELV/NEW")
    expect(page.get_by_role("heading", level=1)).to_have_text("Newcomers & Sons")
    expect(page.get_by_text("No regular dividend on record").first).to_be_visible()
    page.goto("/payers")
    expect(page.get_by_role("link", name="Newcomers & Sons")).to_be_visible()
