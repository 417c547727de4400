"""A strain in the page: what falls, where it gives, the map, keeping it; all payers under it."""

import re

from playwright.sync_api import Page, expect

from .conftest import serious


def test_a_tenant_is_strained_until_a_test_gives(page: Page) -> None:
    page.goto("/review/ELV/LRT?stage=footing&footing=strain")
    stage = page.locator("#footing")
    expect(stage).to_contain_text("AFFO payout gives first, when all revenue falls 2.0")
    stage.get_by_label("What falls").select_option("tenant/Households")
    expect(page).to_have_url(re.compile("strain_part=tenant"))
    expect(stage).to_contain_text(re.compile("when revenue from Households falls 2.2"))
    tests = stage.get_by_role("table", name=re.compile("^Tests under the strain"))
    row = tests.get_by_role("row", name=re.compile("^over a limit.*AFFO payout"))
    expect(row).to_be_visible()
    stage.get_by_label("Falls by", exact=True).fill("1")
    expect(tests.get_by_role("row", name=re.compile("AFFO payout"))).to_have_accessible_name(
        re.compile("^close to a limit")
    )
    expect(page).to_have_url(re.compile("strain=fall%3A0.01|strain=fall:0.01"))
    page.reload()
    expect(stage.get_by_label("What falls")).to_have_value("tenant/Households")
    tests.get_by_role("button", name=re.compile("^AFFO payout at the declared rate")).last.click()
    drawer = page.get_by_role("dialog")
    expect(drawer).to_contain_text("Declared rate ÷ AFFO per share")
    page.keyboard.press("Escape")
    assert serious(page) == []


def test_the_map_moves_by_arrows_and_says_where_it_stands(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover&cover=strain&strain=fall:0.02")
    stage = page.locator("#cover")
    chart = stage.get_by_role("application", name=re.compile("Map of a fall of revenue"))
    chart.focus()
    expect(chart).to_contain_text("the tests that hold today still hold")
    page.keyboard.press("ArrowRight")
    expect(chart).to_contain_text("FCF payout has given; the dividend is covered")
    expect(page).to_have_url(re.compile(r"0\.03"))
    expect(stage.get_by_label("Falls by", exact=True)).to_have_value("3.0")
    for _ in range(4):
        page.keyboard.press("ArrowUp")
    expect(chart).to_contain_text("margin down 2.0 points")
    expect(stage.get_by_label("Margin falls by")).to_have_value("2.0")
    assert serious(page) == []


def test_a_strain_is_kept_and_goes_into_the_decision(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover&cover=strain&strain=fall:0.1,months:6")
    stage = page.locator("#cover")
    stage.get_by_label("Keep this strain as").fill("Half a bad year")
    stage.get_by_role("button", name="Keep").click()
    kept = stage.get_by_role("listitem").filter(has_text="Half a bad year")
    expect(kept).to_contain_text("all revenue −10 % for 6 months")
    decision = page.locator("#decision")
    expect(decision).to_contain_text("Strains kept on it")
    expect(decision).to_contain_text("Half a bad year")
    kept.get_by_role("button", name="Delete Half a bad year").click()
    expect(kept).to_have_count(0)
    expect(decision).not_to_contain_text("Half a bad year")


def test_every_payer_under_one_strain(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover&cover=strain&strain=fall:0.1")
    page.locator("#cover").get_by_role("link", name="Apply to all payers").click()
    expect(page.get_by_role("heading", name="Under a strain")).to_be_visible()
    expect(page.get_by_test_id("strained")).to_contain_text("With all revenue −10 %")
    row = page.get_by_role("row", name=re.compile("Tallow & Reed Soapworks"))
    expect(row).to_contain_text("over a limit")
    assert serious(page) == []
    row.get_by_role("link").click()
    expect(page.locator("#footing").get_by_label("Falls by", exact=True)).to_have_value("10.0")


def test_a_finding_is_disagreed_with_and_the_decision_keeps_it(page: Page) -> None:
    page.goto("/review/ELV/TRS?stage=cover")
    rail = page.get_by_role("complementary", name="Findings")
    rail.get_by_role("button", name="Disagree with what Cover found").click()
    rail.get_by_label("Why you disagree").fill("a year of building, not a bad year")
    rail.get_by_role("button", name="Save").click()
    expect(rail).to_contain_text("You disagree: a year of building, not a bad year")
    page.reload()
    expect(rail).to_contain_text("You disagree: a year of building")
    assert serious(page) == []
    rail.get_by_role("button", name="Edit").click()
    rail.get_by_role("button", name="Delete").click()
    expect(rail).not_to_contain_text("You disagree")
