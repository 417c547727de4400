"""What the dividend is taken to grow by where the person types nothing. (docs/method.md, Worth)

Read in an order in which no step raises what the one before has found: its own growth since the
last cut; what a history of cuts came to; where its cash is going while it pays out too much.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date

from ..cover.measures import PAYOUT
from ..figures.figure import Figure, Unit, Unknown, derive, given, percent, touch_of, unknown
from ..figures.inputs import Default, Inputs
from ..judging.judge import Test
from ..record.history import Record, Year
from ..record.payments import manual_edits_between
from .declare import Ground

FLOOR = -0.05
LEAST_YEARS = 3
SPANS = (5, 10)
OFTEN = 3
"""Of the last ten years and the running one, so many with a cut or a stop make a habit of it."""
TEN = 10


def default_growth(ground: Ground, _: Inputs) -> Default:
    """The lower of 5- and 10-year growth since the last cut or suspension, held down by a history
    of cuts and by cash that shrinks under too high a payout. Unknown with fewer than three full
    years on record.

    Source: docs/method.md, Worth. Halved to 0.50, three years later 0.65: 2.66 %.
    """
    record = ground.record
    full = [y for y in record.years if y.full]
    touch = manual_edits_between(ground.file, _first_day(record))
    if len(full) < LEAST_YEARS:
        few = f"{_few(len(full))} on record; {LEAST_YEARS} are needed"
        return Default(unknown("growth", Unit.FRACTION, few).with_touch(touch), f"unknown: {few}")
    found = _own(record, full)
    for hold in (_held_to_its_cuts, _held_to_its_cash):
        found = hold(ground, full, found)
    return Default(found.figure.with_touch(touch), found.origin)


def own_spans(ground: Ground, _: Inputs) -> list[Default]:
    """Growth over all full years on record, where there are too few to take it for granted."""
    full = [y for y in ground.record.years if y.full]
    if not 1 < len(full) < LEAST_YEARS:
        return []
    n = full[-1].year - full[0].year
    return [Default(_growth(full[0], full[-1], n, n), f"its {n} year{'s' if n > 1 else ''}")]


def _few(n: int) -> str:
    return f"{n} full year{'' if n == 1 else 's'} of dividends"


def _first_day(record: Record) -> date:
    return record.years[0].payments[0].ex_date if record.years else date.min


def _own(record: Record, full: Sequence[Year]) -> Default:
    """The lower of growth over 5 and 10 years. Years before the base count as years without growth:
    what a cut took is in the rate already, and a catch-up after it is no pace to go on at."""
    since = record.last_cut
    held = [y for y in full if since is None or all(p.known_on >= since for p in y.payments)]
    if len(held) < 2:
        after = f" since the reduction of {since.isoformat()}" if since else ""
        words = f"{_few(len(held))}{after}"
        zero = given(
            "growth",
            Unit.FRACTION,
            0.0,
            f"house default: 0 %, with {words}",
            cautions=(f"growth rests on {words}",),
        )
        return Default(zero, words)
    last, by_year = held[-1], {y.year: y for y in held}
    spans = [_growth(by_year.get(last.year - n, held[0]), last, n) for n in SPANS]
    origin = "lower of 5- and 10-year growth"
    first = held[0].year
    if since and first > last.year - TEN:
        origin += f" since the reduction of {since.isoformat()}"
    figure = derive(
        "growth",
        Unit.FRACTION,
        "the lower of both",
        spans,
        min,
        notes=(f"house default: {origin}",),
    )
    return Default(figure, origin)


def _growth(base: Year, last: Year, n: int, span: int | None = None) -> Figure:
    """(D_y ÷ D_b) ^ (1/n) − 1. n: the years it is spread over, also where the base is later."""
    years = last.year - base.year
    later = f", {n - years} of them before {base.year} without growth" if years < n else ""
    return derive(
        f"dividend growth over {span or n} year{'' if (span or n) == 1 else 's'}",
        Unit.FRACTION,
        f"({last.year} ÷ {base.year}) ^ (1/{n}) − 1{later}",
        [last.total, base.total],
        lambda now, then: (now / then) ** (1 / n) - 1 if then > 0 else Unknown("nothing was paid"),
        period=f"{base.year} to {last.year}",
    )


def _cut_years(record: Record) -> list[int]:
    """Years among the last ten complete ones and the running one with a cut or a stop."""
    last = max(y.year for y in record.years if y.complete)
    return sorted({d.year for d in record.cuts if d.year > last - TEN})


def _held_to_its_cuts(ground: Ground, full: Sequence[Year], found: Default) -> Default:
    """Who cuts time and again is not taken to hold its dividend from now on."""
    cuts, last = _cut_years(ground.record), full[-1]
    base = next((y for y in full if y.year >= last.year - TEN), last)
    n = last.year - base.year
    if len(cuts) < OFTEN or n == 0:
        return found
    over = _growth(base, last, n)
    named = ", ".join(map(str, cuts))
    return _lowered(
        found,
        over,
        f"not under {percent(FLOOR)}, as it was cut or stopped in {named}",
        f"growth over {n} years, with cuts in {named}",
        lambda g, whole: min(g, max(FLOOR, whole)),
    )


def _held_to_its_cash(ground: Ground, full: Sequence[Year], found: Default) -> Default:
    """Towards the trend of what pays the dividend, the further the payout is over its limit."""
    trend = ground.cover.leading.per_share_trend
    test = next((t for t in ground.tests if t.id == PAYOUT.id), None)
    if test is None:
        return found
    payout, weight = test.measure, _pull_of(test)
    touch = touch_of([trend.touch, payout.touch])
    found = Default(found.figure.with_touch(touch), found.origin)
    if trend.value is None or trend.value >= 0 or weight <= 0:
        return found
    how = payout.breach or percent(payout.value or 0.0, 1)
    return _lowered(
        found,
        trend,
        f"taken {percent(weight)} of the way towards it (not under {percent(FLOOR)}), as the payout"
        f" is {how} against your {percent(test.limit)}",
        "trend of cash per share, as the payout is over your limit",
        lambda g, t: min(g, g + weight * (max(t, FLOOR) - g)),
    )


def _pull_of(test: Test) -> float:
    """How far growth is taken towards the trend: (payout − limit) ÷ a third of the limit, within
    0 … 1; all of the way where the payout has no size. 66.67 % of 60 % → ⅓."""
    if test.measure.breach:
        return 1.0
    if test.measure.value is None or test.limit <= 0:
        return 0.0
    return min(1.0, max(0.0, (test.measure.value - test.limit) / (test.limit / 3)))


def _lowered(
    found: Default, by: Figure, why: str, origin: str, compute: Callable[[float, float], float]
) -> Default:
    figure = derive(
        "growth",
        Unit.FRACTION,
        f"the lower of growth so far and {by.label}, {why}",
        [found.figure, by],
        compute,
        notes=found.figure.notes,
        touch=found.figure.touch,
    )
    before, after = found.figure.value, figure.value
    if before is None or after is None or after >= before:
        return found
    return Default(figure.but(notes=(*found.figure.notes, f"held down: {why}")), origin)
