"""What a quarter earns, in the lines of its kind: company, partnership, trust or financial."""

from __future__ import annotations

import math
from random import Random

from .accounts import PREFERRED_RATE, RATIO_SCALE, Books, Lines
from .economy import borrowing_rates
from .operations import TAX, Operation
from .script import Script

SHARE_PAY = 0.006
"""Of revenue, that a company's people are paid in shares."""
BOUGHT_PROFIT = 0.5
"""How profitable a bought business is, of one grown at home."""


class Income:
    """A payer's income statements, one quarter after the other. wear: share of plant that is worn
    down in a quarter; generous: how it pays its own in shares, of what is usual."""

    def __init__(self, script: Script, wear: float, random: Random) -> None:
        self.script, self.wear, self.random = script, wear, random
        self.tax = self.let = 0.0
        self.generous = 1.0

    def quarter(self, op: Operation, books: Books) -> Lines:
        """Its income statement, and what only a trust or a partnership reports."""
        script, random = self.script, self.random
        larger = 1 + books.bought
        revenue = round(op.revenue * books.shares * larger)
        profit = op.profit * books.shares + op.planned * books.shares * books.bought * BOUGHT_PROFIT
        lines: Lines = {"revenue": revenue}
        self.tax = 0.7 * self.tax + random.gauss(0, 0.011)
        if script.kind == "financial":
            return lines | {"net_income": round(profit)}
        usual, floating = borrowing_rates(script.land, op.end)
        rate = script.floating * floating + (1 - script.floating) * usual
        lines["interest_expense"] = round(books.debt * rate / 4 * random.uniform(0.96, 1.04))
        dearer = lines["interest_expense"] - round(books.debt * usual / 4)
        lines["depreciation_amortization"] = round(
            books.plant * self.wear * random.uniform(0.95, 1.05)
        )
        if script.kind == "company":
            self._company(op, books, lines, round(profit) - dearer)
        elif script.kind == "partnership":
            self._partnership(op, books, lines, round(profit) - dearer)
        else:
            self._trust(op, books, lines, round(profit) - dearer)
        if books.preferred:
            lines["preferred_dividends"] = round(books.preferred * PREFERRED_RATE / 4)
        return lines

    def _one_off(self, op: Operation, books: Books) -> tuple[int, int]:
        """A windfall comes in June, a write-down in December: gain and impairment."""
        script, year = self.script, op.end.year
        planned = op.plan.earned * books.shares
        gain = planned * (script.windfalls.get(year, 1.0) - 1) if op.end.month == 6 else 0
        lost = planned * script.impairments.get(year, 0.0) if op.end.month == 12 else 0
        return round(gain), min(round(lost), round(0.8 * books.plant))

    def _company(self, op: Operation, books: Books, lines: Lines, profit: int) -> None:
        gain, lost = self._one_off(op, books)
        taxed = round(profit * min(max(TAX + self.tax, 0.15), 0.36) if profit > 0 else profit * 0.1)
        lines["tax"] = taxed
        lines["net_income"] = profit - taxed + gain - lost
        _spend(op, books, lines, gain - lost)
        lines["stock_based_compensation"] = round(lines["revenue"] * SHARE_PAY * self.generous)
        _note_one_offs(lines, gain, lost)

    def _partnership(self, op: Operation, books: Books, lines: Lines, profit: int) -> None:
        """profit: distributable cash flow, before what maintenance takes by chance."""
        gain, lost = self._one_off(op, books)
        kept_up = round(lines["depreciation_amortization"] * self.random.uniform(0.1, 0.32))
        lines["maintenance_capex"] = kept_up
        lines["distributable_cash_flow"] = profit
        lines["tax"] = 0
        written_down = lines["depreciation_amortization"]
        lines["net_income"] = profit - written_down + kept_up + gain - lost
        _spend(op, books, lines, gain - lost)
        _note_one_offs(lines, gain, lost)

    def _trust(self, op: Operation, books: Books, lines: Lines, affo: int) -> None:
        gain, lost = self._one_off(op, books)
        revenue, random = lines["revenue"], self.random
        capex, rent = (round(revenue * f) for f in (random.uniform(0.05, 0.11), 0.01))
        rent = round(rent * random.uniform(0.3, 1.7))
        written_down = lines["depreciation_amortization"]
        lines |= {
            "recurring_capex": capex,
            "straight_line_rent": rent,
            "property_depreciation": written_down,
            "net_income": affo + capex + rent - written_down + gain - lost,
            "net_operating_income": revenue - round(op.cost * books.shares),
            "tax": 0,
        }
        lines["ebit"] = lines["net_income"] + lines["interest_expense"]
        self.let = 0.8 * self.let + random.gauss(0, 0.005) + 0.15 * math.log(max(op.fortune, 0.1))
        usual = op.plan.revenue * op.season * books.shares
        occupied = min(max(0.962 + self.let + 0.3 * (revenue / usual - 1), 0.7), 1)
        lines["occupancy"] = round(occupied * RATIO_SCALE)
        _note_one_offs(lines, gain, lost)


def _spend(op: Operation, books: Books, lines: Lines, one_off: int) -> None:
    """EBIT = revenue − cost of revenue − operating expenses + what came once."""
    lines["ebit"] = lines["net_income"] + lines["tax"] + lines["interest_expense"]
    lines["cost_of_revenue"] = round(op.cost * books.shares * (1 + books.bought))
    lines["operating_expenses"] = (
        lines["revenue"] - lines["cost_of_revenue"] - lines["ebit"] + one_off
    )


def _note_one_offs(lines: Lines, gain: int, lost: int) -> None:
    if gain:
        lines["gains_on_property_sales"] = gain
    if lost:
        lines["impairments"] = lost
