"""What a trade came to in all, and what a dividend was before its tax, as a row tells it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from .signs import is_before_costs, is_before_tax, near, price_part
from .told import Told

SAMPLE = 2000
"""So many rows say how a list tells its amounts."""
MOST_REST, MOST_PART = Decimal(50), Decimal("0.03")
"""So much of a trade, or so large a part of it, may be a fee that is not told apart; no more than a
quarter of it."""


@dataclass(slots=True)
class Sums:
    """How a list tells its amounts. part: what its prices are to be times. before_costs,
    before_tax: of amounts of trades and of dividends, None where nothing says. rests: what some
    trade cost beyond its shares was read as its fee."""

    part: Decimal = Decimal(1)
    before_costs: bool | None = None
    before_tax: bool | None = None
    rests: bool = False

    @classmethod
    def of(cls, rows: Sequence[Told], said: str) -> Sums:
        """said: "before" or "after", of the tax on dividends, where the person did. Rows in
        hundredths of their currency are turned to whole ones."""
        some = rows[:SAMPLE]
        part = price_part(some)
        for row in rows:
            if row.small:
                row.to_whole(amounts_too=part == 1)
        before_tax = said == "before" if said else is_before_tax(some)
        return cls(part, is_before_costs(some, part), before_tax)

    def price(self, row: Told) -> Decimal | None:
        return None if row.price is None else abs(row.price) * self.part

    def total(self, row: Told, costs: Decimal) -> Decimal | None:
        """What a trade came to in all, costs in it."""
        if row.net is not None:
            return abs(row.net)
        before = row.gross
        if row.amount is not None:
            if not self.before_costs or not costs:
                return abs(row.amount)
            before = row.amount
        if before is None:
            return None
        return abs(before) + costs if row.kind == "buy" else abs(before) - costs

    def rest(self, row: Told, total: Decimal) -> Decimal:
        """What a trade cost beyond its shares, where nothing else says."""
        base, price = row.gross, self.price(row)
        if base is None and price is not None and row.shares and not row.rate:
            base = abs(row.shares) * price
        if base is None:
            return Decimal(0)
        rest = total - abs(base) if row.kind == "buy" else abs(base) - total
        most = min(max(MOST_REST, abs(base) * MOST_PART), abs(base) / 4)
        if near(total, abs(base)) or not 0 < rest <= most:
            return Decimal(0)
        self.rests = True
        return rest

    def gross(self, row: Told) -> tuple[Decimal, Decimal]:
        """The gross of a dividend, and what was withheld of it."""
        tax, fee = abs(row.tax) + abs(row.withheld), abs(row.fee)
        if row.taxed_apart:
            tax = abs(row.tax) + row.withheld
        if row.gross is not None:
            if not tax and row.net is not None:
                tax = max(Decimal(0), abs(row.gross) - abs(row.net) - fee)
            return abs(row.gross), tax
        if row.net is not None:
            return self._of_net(row, abs(row.net), tax, fee)
        each = row.price if row.per_share is None else row.per_share
        if row.amount is None:
            return abs((row.shares or 0) * (each or Decimal(0))), tax
        amount = abs(row.amount)
        if tax and not row.taxed_apart and self.before_tax is False:
            return amount + tax + fee, tax
        return amount, tax

    def _of_net(
        self, row: Told, net: Decimal, tax: Decimal, fee: Decimal
    ) -> tuple[Decimal, Decimal]:
        if row.taxed_apart:
            return net + fee, tax
        if row.amount is not None and abs(row.amount) >= net:
            return abs(row.amount), tax or abs(row.amount) - net - fee
        if row.per_share is not None and row.shares and not tax:
            gross = abs(row.shares * row.per_share) * self.part
            if net < gross <= 2 * net:
                return gross, gross - net - fee
        return net + tax + fee, tax

    def net(self, row: Told) -> Decimal:
        """What a dividend brought."""
        gross, tax = self.gross(row)
        return gross - tax - abs(row.fee)
