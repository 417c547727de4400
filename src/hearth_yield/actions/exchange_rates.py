"""What a currency costs in another, as known on a day."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date

from hearth_yield.core.comparing.comparison import no_rate
from hearth_yield.core.facts.points import newest_point
from hearth_yield.core.facts.records import Series
from hearth_yield.core.figures.figure import Figure, Unit, derive
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache


def newest_rate(cache: ReviewCache, other: str, into: str, as_of: date, at: Edition) -> Figure:
    """What one unit of a currency costs in another, as known on the day; where only the other way
    is held, one over it."""
    label = f"{into} for one {other}"
    straight = _newest(cache, label, of=other, currency=into, as_of=as_of, at=at)
    if straight is not None:
        return straight
    turned = _newest(cache, f"{other} for one {into}", of=into, currency=other, as_of=as_of, at=at)
    if turned is not None:
        return derive(label, Unit.INDEX, "1 ÷ the rate", [turned], lambda r: 1 / r)
    return no_rate(other, into, f"no exchange rate between {other} and {into} is held")


def _newest(
    cache: ReviewCache, label: str, *, of: str, currency: str, as_of: date, at: Edition
) -> Figure | None:
    series = _series(cache, of, currency, as_of, at)
    if series is None:
        return None
    return newest_point(label, Unit.INDEX, series, "exchange_rate", as_of)


def _series(cache: ReviewCache, of: str, currency: str, as_of: date, at: Edition) -> Series | None:
    def load() -> object:
        with cache.database.read() as connection:
            return payer_files.load_series(connection, "exchange_rate", currency, of_currency=of)

    series = cache.shared.get((at.facts, "rate", of, currency), load)
    return series.until(as_of) if isinstance(series, Series) else None


def rates_over_time(
    cache: ReviewCache, others: Iterable[str], into: str, as_of: date, at: Edition
) -> SeriesRates:
    """Every day's rate of some currencies that was known by a day; where only the other way is
    held, one over it."""
    found: dict[str, list[tuple[date, float]]] = {}
    for other in others:
        straight = _series(cache, other, into, as_of, at)
        turned = None if straight else _series(cache, into, other, as_of, at)
        if straight is not None:
            found[other] = [(p.day, p.value) for p in straight.points]
        elif turned is not None:
            found[other] = [(p.day, 1 / p.value) for p in turned.points if p.value]
    return SeriesRates(into, found)
