"""Levels and sloping lines that a person drew on a payer's price."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from ..facts.records import Split, split_factor


@dataclass(frozen=True, slots=True, kw_only=True)
class PriceLine:
    """From one day and price to another, in the shares of drawn_on; a level has one price. id: 0
    of a new one."""

    name: str
    first_day: date
    first_price: float
    last_day: date
    last_price: float
    drawn_on: date
    id: int = 0

    def in_todays(self, splits: Sequence[Split]) -> PriceLine:
        """In today's shares. splits: those in effect today."""
        shares = split_factor(splits, self.drawn_on)
        return replace(
            self, first_price=self.first_price / shares, last_price=self.last_price / shares
        )
