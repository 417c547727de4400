"""Worth in the browser: the return path from an aim, reasons, cases, trials, peers, a workbook."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from .conftest import serious


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
    assert serious(page) == []


def test_an_exit_yield_of_nil_is_a_sentence_at_the_input_and_the_page_lives(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth&worth=return&path_measure=yield")
    stage = page.locator("#worth")
    told = stage.get_by_test_id("path")
    expect(told).to_contain_text("a year: income")
    stage.get_by_label("Exit yield", exact=True).fill("0")
    expect(stage.get_by_role("alert").first).to_contain_text("Exit yield: between")
    expect(told).to_contain_text("a year: income")


def test_a_model_set_aside_keeps_its_reason(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth")
    stage = page.locator("#worth")
    row = stage.get_by_role("row", name=re.compile("^Fading growth"))
    row.get_by_role("checkbox").uncheck()
    stage.get_by_label("Why it is set aside").fill("the fade is a guess")
    page.keyboard.press("Enter")
    expect(row).to_contain_text("switched off by you: the fade is a guess")
    page.reload()
    expect(row).to_contain_text("the fade is a guess")
    weighed = stage.get_by_role("row", name=re.compile("^Two stages"))
    weighed.get_by_role("button", name=re.compile("Details")).click()
    before = page.get_by_text(re.compile("combined value [0-9]")).first.inner_text()
    stage.get_by_label("Weight of Two stages").fill("5")
    expect(page).to_have_url(re.compile("weights="))
    expect(page.get_by_text(re.compile("combined value [0-9]")).first).not_to_have_text(before)
    assert serious(page) == []


def test_a_second_case_is_built_and_compared(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth&worth=cases&inputs=growth:0.03")
    stage = page.locator("#worth")
    stage.get_by_label("Keep what is shown now as").fill("careful")
    stage.get_by_role("button", name="Keep", exact=True).click()
    expect(stage.get_by_role("button", name="careful", exact=True)).to_be_visible()
    stage.get_by_label("Dividend growth", exact=True).fill("7")
    expect(page).to_have_url(re.compile("growth:0.07|growth%3A0.07"))
    stage.get_by_label("Keep what is shown now as").fill("hopeful")
    stage.get_by_role("button", name="Keep", exact=True).click()
    hopeful = stage.get_by_role("button", name="hopeful", exact=True)
    expect(hopeful).to_be_visible()
    grows = stage.get_by_role("row", name=re.compile("^Dividend growth"))
    expect(grows).to_contain_text("3.00")
    expect(grows).to_contain_text("7.00")
    assert serious(page) == []
    page.reload()
    stage.get_by_role("button", name="careful", exact=True).click()
    expect(page).to_have_url(re.compile("growth:0.03|growth%3A0.03"))
    stage.get_by_role("button", name="Delete hopeful").click()
    expect(hopeful).to_have_count(0)


def test_what_moves_it_is_ranked_and_two_inputs_make_a_grid(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth&worth=trials")
    stage = page.locator("#worth")
    expect(stage.get_by_text("For today’s price to be fair")).to_be_visible()
    expect(stage).to_contain_text(re.compile("The chance that it exceeds the price is"))
    grid = stage.get_by_role("table", name=re.compile("across, .* down"))
    expect(grid.get_by_role("row")).to_have_count(8)
    stage.get_by_label("Across").select_option(label="Mean yield")
    expect(page).to_have_url(re.compile("across=mean_yield"))
    expect(grid.get_by_text("Mean yield →")).to_be_visible()
    before = grid.inner_text()
    stage.get_by_label("Required return", exact=True).fill("9.5")
    expect(grid).not_to_have_text(before)
    assert serious(page) == []
    corner = grid.get_by_role("row").nth(1).get_by_role("button").first
    value = corner.inner_text()
    corner.click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text(value)
    expect(drawer).to_contain_text("Mean of the models that are on")


def test_growth_over_the_return_is_said_and_the_rest_lives(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth&inputs=growth:0.09,later_growth:0.08&on=constant_growth")
    stage = page.locator("#worth")
    row = stage.get_by_role("row", name=re.compile("^Constant growth"))
    expect(row).to_contain_text("not below the required return")
    expect(stage.get_by_role("row", name=re.compile("^Yield reversion"))).to_be_visible()
    stage.get_by_role("button", name="What moves it").click()
    expect(stage.get_by_text("For today’s price to be fair")).to_be_visible()


def test_a_trust_end_to_end_on_affo_net_assets_and_its_peers(page: Page, tmp_path: Path) -> None:
    page.goto("/review/ELV/ORCF?stage=worth")
    stage = page.locator("#worth")
    for name in ("AFFO, sold at a multiple", "Net asset value from income"):
        row = stage.get_by_role("row", name=re.compile(f"^{name}"))
        row.get_by_role("checkbox").check()
        expect(row).to_contain_text("switched on by you")
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
    stage.get_by_role("button", name=re.compile(r"Count in \(price to AFFO\)")).click()
    expect(page).to_have_url(re.compile("peers_affo"))
    stage.get_by_role("button", name="What it is worth").click()
    expect(stage.get_by_role("row", name=re.compile("^Its peers’ price to AFFO"))).to_contain_text(
        "switched on by you"
    )
    assert serious(page) == []


def test_low_and_high_are_typed_with_their_chances(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=worth")
    stage = page.locator("#worth")
    stage.get_by_role("button", name="Low and high cases, and their chances").click()
    stage.get_by_label("Dividend growth, low").fill("1")
    expect(page).to_have_url(re.compile(r"growth\.low"))
    stage.get_by_label("Chance of the low case").fill("50")
    expect(stage).to_contain_text("the combined value is")
    assert serious(page) == []
