"""Worth in the browser: the return path from an aim, reasons, cases, trials, peers, a workbook."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect


def test_an_aim_moved_by_keys_becomes_the_exit_of_the_return_path(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=range&quantity=earnings")
    handle = page.get_by_role("slider", name=re.compile("Target price to earnings"))
    handle.focus()
    for _ in range(4):
        page.keyboard.press("PageUp")
    expect(page).to_have_url(re.compile(r"aim="))
    page.get_by_role("button", name="Use as the exit of the return path").click()
    stage = page.locator("#worth")
    told = stage.get_by_test_id("path")
    expect(told).to_contain_text("a year: income")
    expect(page).to_have_url(re.compile("path_multiple"))
    first = told.inner_text()
    stage.get_by_label("Sold after", exact=True).fill("10")
    expect(told).to_contain_text("sold after 10 years")
    assert told.inner_text() != first
    stage.get_by_role("button", name="revenue, margin and shares").click()
    expect(told).to_contain_text("change of the share count")
    page.reload()
    expect(told).to_contain_text("sold after 10 years")


def test_a_trust_end_to_end_on_affo_net_assets_and_its_peers(page: Page, tmp_path: Path) -> None:
    page.goto("/review/ELV/ORCF?stage=worth")
    stage = page.locator("#worth")
    stage.get_by_role("button", name=re.compile("others,")).click()
    row = stage.get_by_role("row", name=re.compile("^Net asset value from income"))
    row.get_by_role("checkbox").check()
    expect(row).to_contain_text("switched on by you")
    stage.get_by_role("button", name=re.compile("^Its cash")).click()
    stage.get_by_role("row", name=re.compile("^AFFO, sold")).get_by_role(
        "button", name=re.compile("Details")
    ).click()
    expect(stage.get_by_text("Where it comes from")).to_be_visible()
    expect(stage.get_by_role("region", name=re.compile("year by year"))).to_contain_text("10")
    with page.expect_download() as got:
        stage.get_by_role("link", name=re.compile("Export as a workbook")).click()
    assert got.value.suggested_filename == "worth-ORCF-2026-06-30.xlsx"
    stage.get_by_role("button", name="Peers", exact=True).click()
    median = stage.get_by_role("row", name=re.compile("^Median of those left in"))
    expect(median).to_be_visible()
    before = median.inner_text()
    stage.get_by_role("checkbox", name=re.compile("^Kiln Lane")).uncheck()
    expect(median).not_to_have_text(before)
    stage.get_by_role("button", name=re.compile(r"Take over \(price to AFFO\)")).click()
    expect(page).to_have_url(re.compile("peers_affo"))
    stage.get_by_role("button", name="What it is worth").click()
    expect(stage.get_by_role("row", name=re.compile("^Its peers’ price to AFFO"))).to_contain_text(
        "switched on by you"
    )
