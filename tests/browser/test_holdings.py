"""Holdings by the keyboard: from an entry to its undoing."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect


def test_an_entry_is_made_and_undone_without_a_mouse(page: Page, own_server: str) -> None:
    page.goto(f"{own_server}/holdings")
    page.get_by_label("Name").focus()
    page.keyboard.type("Main")
    page.keyboard.press("Tab")
    page.keyboard.type("TLL")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Entries")).to_be_visible()
    page.locator("body").press("/")
    page.keyboard.type("bought 50 TRS at 40.10 on 2024-06-03")
    expect(page.get_by_role("option", name=re.compile("^Enter"))).to_be_visible()
    page.keyboard.press("Enter")
    line = page.get_by_label("What you bought, sold or hold")
    expect(line).to_have_value("bought 50 TRS at 40.10 on 2024-06-03")
    line.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("Entered: 50 of Tallow & Reed Soapworks at 40.10 TLL")).to_be_visible()
    delete = page.get_by_role("button", name="Delete: Buy of 3 June 2024")
    delete.focus()
    page.keyboard.press("Enter")
    expect(delete).to_have_count(0)
    undo = page.get_by_role("button", name="Undo")
    undo.focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("cell", name="2,005.00 TLL")).to_be_visible()
    page.get_by_role("button", name="Positions").focus()
    page.keyboard.press("Enter")
    row = page.get_by_role("row", name=re.compile("Tallow & Reed Soapworks"))
    row.get_by_role("button", name=re.compile("^cost: 2,005")).focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("dialog")).to_contain_text("Cost of all lots, with fees")
    page.keyboard.press("Escape")
    page.keyboard.press("h")
    expect(page.get_by_text("You own 1 position worth •••")).to_be_visible()


PASTED = (
    "Trade date\tType\tTicker\tQuantity\tPrice\tCommission\n"
    "3.6.2024\tBought\tTRS\t50\t40.10\t5\n"
    "4.6.2025\tSale\tTRS\t10\t44.00\t5\n"
)
PASTE = """(text) => {
  const data = new DataTransfer();
  data.setData("text/plain", text);
  document.activeElement.dispatchEvent(
    new ClipboardEvent("paste", { bubbles: true, cancelable: true, clipboardData: data }));
}"""


def test_a_block_of_entries_is_pasted_kept_and_undone(page: Page, own_server: str) -> None:
    made = page.request.post(
        f"{own_server}/api/accounts",
        data={"name": "Main", "currency": "TLL"},
        headers={"origin": own_server},
    )
    assert made.status == 201
    page.goto(f"{own_server}/holdings?tab=entries&entry=several")
    grid = page.get_by_role("region", name="Several entries")
    expect(grid.get_by_label("Account, 1")).to_have_value("Main")
    grid.get_by_label("Shares, 1").focus()
    page.evaluate(PASTE, PASTED)
    note = page.get_by_role("region", name="Pasted cells")
    expect(note).to_be_visible()
    page.keyboard.press("Enter")
    expect(grid.get_by_label("Kind, 2")).to_have_value("Sale")
    expect(grid.get_by_label("Account, 2")).to_have_value("Main")
    expect(grid).to_contain_text("2 added, 0 changed, 0 the same")
    grid.get_by_role("button", name="Keep it").click()
    expect(page.get_by_role("cell", name="2,010.00 TLL")).to_be_visible()
    expect(page.get_by_role("cell", name="435.00 TLL")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("cell", name="435.00 TLL")).to_have_count(0)
