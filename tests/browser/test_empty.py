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


def test_payers_leads_to_sources(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_text("No prices held")).to_be_visible()
    assert serious(page) == []
    page.get_by_role("link", name="Bring in your first payer").click()
    expect(page.get_by_text("Nothing yet.")).to_be_visible()
