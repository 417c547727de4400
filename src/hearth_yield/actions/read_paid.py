"""What came of all that was ever held, by month and payer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import partial

from hearth_yield.core.household.income.overview import coming_of
from hearth_yield.core.household.income.paid import Came, by_index, restated
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .read_holdings import kept_walk
from .read_income import Income, left_of, read_income
from .review_cache import ReviewCache


@dataclass(frozen=True, slots=True, kw_only=True)
class PaidOver:
    """came: all that came by the day, at home. without: how many receipts are not in it, as no
    exchange rate of their day, or in today's money no price index of it, is known."""

    income: Income
    came: Sequence[Came]
    without: int

    @property
    def ahead(self) -> list[Came]:
        """What comes in the next twelve months."""
        found = self.income
        coming = coming_of(found.ahead, found.ground.at_home, found.kept, found.day)
        return [(c.ahead.place[1], c.ahead.comes, c.amount) for c in coming if c.amount]


def read_paid(
    cache: ReviewCache, as_of: date, at: Edition, *, after_tax: bool, real: bool
) -> PaidOver:
    """real: in the money of the day it is viewed on. Made once for an edition of facts, rules and
    ledger."""
    income = read_income(cache, as_of, at, after_tax=after_tax)
    key = ("paid", at, as_of, after_tax, real)
    make = partial(_made, cache, as_of, at, income, real=real)
    found: PaidOver = cache.followed.get(key, make)
    return found


def _made(cache: ReviewCache, as_of: date, at: Edition, income: Income, *, real: bool) -> PaidOver:
    _, receipts = kept_walk(cache, as_of, at)
    places = [(place, r) for place, some in receipts.items() for r in some]
    every = [(place[1], r.day, left_of(income, place, r)) for place, r in places]
    came = [(payer, day, amount) for payer, day, amount in every if amount is not None]
    if real:
        shared = cache.shared.get(at.facts, payer_files.Shared)
        home = income.held.home
        with cache.database.read() as connection:
            series = shared.of_kind(connection, "price_index", home) if home else None
        came = restated(came, by_index(series.until(as_of) if series else None))
    return PaidOver(income=income, came=came, without=len(every) - len(came))
