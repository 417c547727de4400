"""Back up, lose everything, restore: through the page."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect


@pytest.fixture
def base_url(own_server: str) -> str:
    return own_server


def test_back_up_lose_and_restore(page: Page, tmp_path: Path) -> None:
    page.goto("/review/ELV/TRS?stage=decision")
    page.get_by_text("hold", exact=True).click()
    page.get_by_label("In your own words").fill("Kept in the backup.")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_text("Recorded.")).to_be_visible()

    page.goto("/sources?tab=export")
    with page.expect_download() as download:
        page.get_by_role("link", name="Everything as a backup").click()
    saved = tmp_path / "saved.json"
    download.value.save_as(saved)

    page.goto("/review/ELV/TRS?stage=decision")
    page.get_by_text("avoid", exact=True).click()
    page.get_by_label("In your own words").fill("Made after the backup.")
    page.get_by_role("button", name="Record the decision").click()
    expect(page.get_by_text("Recorded.")).to_be_visible()

    page.goto("/sources?tab=export")
    page.get_by_label("Restore a backup").set_input_files(str(saved))
    asked = page.get_by_role("alertdialog")
    expect(asked).to_contain_text("Replace everything?")
    asked.get_by_role("button", name="Cancel").click()
    page.get_by_label("Restore a backup").set_input_files(str(saved))
    asked.get_by_role("button", name="Replace everything").click()
    expect(page.get_by_text("Restored.")).to_be_visible()

    page.goto("/review/ELV/TRS?stage=decision")
    expect(page.get_by_text("Kept in the backup.")).to_be_visible()
    expect(page.get_by_text("Made after the backup.")).to_have_count(0)
    assert list((tmp_path / "data").glob("before-restore-*.json"))
