"""A few payers side by side, on the day that is viewed."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from hearth_yield.core.comparing.comparison import Asked, Comparison, compare, no_rate
from hearth_yield.core.comparing.sets import compare_sets
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.points import newest_point
from hearth_yield.core.facts.records import Series
from hearth_yield.core.figures.figure import Figure, Unit, derive
from hearth_yield.core.figures.measure import Measure
from hearth_yield.core.question import Question
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache

MOST = 6
MOST_LINES = 20
Key = tuple[str, str]


def default_lines(id: str = "overview") -> list[Asked]:
    """Those of a set, each with a weight of one."""
    sets = compare_sets()
    found = next((s for s in sets if s.id == id), sets[0])
    return [default_line(MEASURES[m]) for m in found.measures]


def default_line(measure: Measure) -> Asked:
    """One of which neither end is the better counts for nothing unless a weight is given."""
    if measure.better == "neither":
        return Asked(id=measure.id, better="high", weight=0.0)
    return Asked(id=measure.id, better=measure.better, weight=1.0)


def compare_payers(
    cache: ReviewCache, keys: Sequence[Key], lines: Sequence[Asked], as_of: date, at: Edition
) -> Comparison:
    """Raises: InvalidInput for too few or too many payers, or one twice; NotFound."""
    if not 1 <= len(keys) <= MOST or len(set(keys)) < len(keys):
        raise InvalidInput(
            "compare a few payers, each once",
            field="payer",
            value=len(keys),
            rule=f"1 to {MOST} payers",
        )
    reviews = [cache.review(e, s, as_of, Question(), at) for e, s in keys]
    return compare(reviews, lines, lambda other, into: _rate(cache, other, into, as_of, at))


def _rate(cache: ReviewCache, other: str, into: str, as_of: date, at: Edition) -> Figure:
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
    def load() -> object:
        with cache.database.read() as connection:
            return payer_files.load_series(connection, "exchange_rate", currency, of_currency=of)

    series = cache.shared.get((at.facts, "rate", of, currency), load)
    if not isinstance(series, Series):
        return None
    return newest_point(label, Unit.INDEX, series.until(as_of), "exchange_rate", as_of)
