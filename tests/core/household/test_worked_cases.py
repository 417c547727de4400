"""Ledgers worked by hand, as data: lots, gains and cash to the last unit."""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Sequence
from datetime import date
from decimal import Decimal
from fractions import Fraction
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.cash import cash_after
from hearth_yield.core.household.entries import Account, CostMethod
from hearth_yield.core.household.ledger import Book, Known, walk
from hearth_yield.core.household.lots import total
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.exchange.cells import Dialect
from hearth_yield.exchange.columns import IN_FILES
from hearth_yield.exchange.ledger_rows import read_ledger
from hearth_yield.exchange.table import read_cells

DATA = Path(__file__).parents[2] / "data" / "household_cases.json"
CASES = json.loads(DATA.read_text())
UNTIL = date(2026, 1, 1)
NAMES = {1: "Main", 2: "Other"}


def day(text: str) -> date:
    return date.fromisoformat(text)


def text(units: int | None, digits: int) -> str | None:
    return None if units is None else f"{as_decimal(units, digits):f}"


class Worked:
    def __init__(self, case: dict[str, Any]) -> None:
        method = CostMethod(case.get("method", "fifo"))
        self.accounts = [
            Account(id=1, name="Main", currency="TLL", method=method, keeps_cash=True),
            Account(id=2, name="Other", currency="TLL", method=method),
        ]
        self.currency = case.get("currency", "TLL")
        payers = {("ELV", "A"): self.currency, ("ELV", "B"): self.currency}
        rows = [{"account": "Main", **line} for line in case["lines"]]
        table = read_cells(IN_FILES["entries"], rows, Dialect())
        self.entries = read_ledger([table], self.accounts, payers, UNTIL).entries
        assert [f for f in table.faults.listed() if not f.warning] == []
        splits = [(day(d), Fraction(ratio)) for d, ratio in case.get("splits", ())]
        known = Known(currencies=payers, splits={("ELV", "A"): splits})
        rates = SeriesRates("TLL", {self.currency: [(day(d), r) for d, r in case.get("rates", ())]})
        self.book: Book = walk(self.accounts, self.entries, known, rates, "TLL", UNTIL)

    def lots(self) -> list[list[str | None]]:
        return sorted(
            [
                f"{NAMES[account]} {payer[1]}",
                lot.day.isoformat(),
                f"{as_decimal(lot.shares, SHARE_DIGITS).normalize():f}",
                text(lot.cost, minor_digits(self.currency)),
                *([text(lot.home, 2)] if self.currency != "TLL" else []),
            ]
            for (account, payer), held in self.book.held.items()
            for lot in (held.lots if held.unresolved is None else ())
        )

    def gains(self, of: str, digits: int) -> dict[str, str | None]:
        found: dict[str, list[int | None]] = defaultdict(list)
        for sale in self.book.sales:
            name = f"{NAMES[sale.account]} {sale.payer[1]}"
            found[name] += [getattr(lot, of) for lot in sale.lots]
        return {name: text(total(parts), digits) for name, parts in found.items()}

    def cash(self) -> dict[str, str | None]:
        found = cash_after(self.entries, self.book.converted, {1: "TLL"}, UNTIL)
        return {f"Main {c}": text(n, minor_digits(c)) for (_, c), n in found.items()}


def expected_lots(case: dict[str, Any]) -> Sequence[Any]:
    return sorted(case["lots"])


@pytest.mark.parametrize("case", CASES, ids=[c["name"] for c in CASES])
def test_a_ledger_comes_to_what_was_worked_by_hand(case: dict[str, Any]) -> None:
    worked = Worked(case)
    assert worked.lots() == expected_lots(case)
    if "gain" in case:
        assert worked.gains("gain", minor_digits(worked.currency)) == case["gain"]
    for name, of in (("gain_at_home", "gain_at_home"), ("by_price", "by_price")):
        if name in case:
            assert worked.gains(of, 2) == case[name]
    if "cash" in case:
        assert worked.cash() == case["cash"]
    if "unresolved" in case:
        held = worked.book.held.items()
        since = {f"{NAMES[a]} {p[1]}": h.unresolved.since for (a, p), h in held if h.unresolved}
        assert {n: d.isoformat() for n, d in since.items()} == case["unresolved"]


def test_every_line_of_the_cases_is_entered_to_the_last_digit() -> None:
    """No expectation here is a rounded one: each has the decimals of its currency."""
    for case in CASES:
        for lot in case["lots"]:
            cost = lot[3]
            if cost is not None:
                exponent = Decimal(cost).as_tuple().exponent
                assert exponent == -minor_digits(case.get("currency", "TLL"))
