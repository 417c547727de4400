"""What Record measures: what was paid, what is declared, and both against prices."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from ..figures.figure import Figure, Unit
from ..figures.measure import (
    AmongPeers,
    Direction,
    Key,
    Measure,
    Sentence,
    Size,
    Stage,
    TestSpec,
    Usual,
    advisory,
    every_kind,
    measure,
)
from .ahead import AHEAD_SPANS, who_broke
from .history import SPANS, Record
from .stage import RecordStage

_record = partial(measure, Stage.RECORD)
_FRACTION, _PER_SHARE, _YEARS = Unit.FRACTION, Unit.PER_SHARE, Unit.YEARS
RHYTHMS = {1: "yearly", 2: "half-yearly", 4: "quarterly", 12: "monthly"}


KEEPS_UP = "Over ten years its dividend should have grown faster than prices."


def _passes(short: str, limit: float, means: str) -> TestSpec:
    limits = every_kind(advisory(limit))
    return TestSpec(direction=Direction.PASS, limits=limits, short=lambda _: short, means=means)


def _rhythm(stage: RecordStage) -> Sentence:
    times = stage.record.rhythm.value
    return (RHYTHMS.get(round(times), f"{times:g} times a year"),) if times else ()


def _a_year(stage: RecordStage) -> Sentence:
    if not stage.record.declared_rate.value:
        return ()
    return (", ".join(("a year", *map(str, _rhythm(stage)))),)


def _gap(stage: RecordStage) -> Sentence:
    gap = stage.record.trailing_gap
    if not stage.record.gap_called_out or gap.value is None:
        return ()
    return (Size(figure=gap), " over declared" if gap.value > 0 else " under declared")


def _raised_on(stage: RecordStage) -> Sentence:
    known_on = stage.record.latest_raise.known_on
    return (known_on,) if known_on else ()


def _broken(read: Callable[[Record], Figure]) -> Callable[[RecordStage], Sentence]:
    """Which year a streak ended at."""

    def note(stage: RecordStage) -> Sentence:
        streak = read(stage.record)
        broke = who_broke(stage.record.years, streak)
        if streak.value is None:
            return ()
        if broke is None or broke.year == stage.record.years[0].year:
            return ("since the record began",)
        return (f"{broke.outcome.value} in {broke.year}",)

    return note


def _full_years(stage: RecordStage) -> Sentence:
    period = stage.inflation.years_ahead.period
    return (f"{period} full years",) if period else ()


def _growth_over(n: int) -> Callable[[RecordStage], Figure]:
    return lambda stage: stage.record.growth[n]


def _growth_ahead(n: int) -> Callable[[RecordStage], Figure]:
    return lambda stage: stage.ahead[n]


def _real_growth_over(n: int) -> Callable[[RecordStage], Figure]:
    return lambda stage: stage.inflation.real_growth[n]


FIVE_AND_TEN: Mapping[int, Mapping[str, Any]] = {
    5: {
        "compared": {"overview": 20, "record": 30},
        "peers": AmongPeers(place=130, words="a faster dividend"),
    },
    10: {"compared": {"record": 40}},
}
"""What else is declared of dividend growth over so many years."""


def _growths() -> dict[int, Measure]:
    columns = {1: 60, 5: 70, 10: 80}
    return {
        n: _record(
            f"growth_{n}",
            f"Dividend growth, {_span(n)}",
            _FRACTION,
            _growth_over(n),
            f"dividend growth over {_span(n)}",
            signed=True,
            better="high",
            columns={"record": columns[n]} if n in columns else {},
            **FIVE_AND_TEN.get(n, {}),
            frozen=n in (5, 10),
        )
        for n in SPANS
    }


def _real_growths() -> dict[int, Measure]:
    return {
        n: _record(
            f"real_growth_{n}",
            f"Real dividend growth, {_span(n)}",
            _FRACTION,
            _real_growth_over(n),
            f"real growth over {_span(n)}",
            signed=True,
            better="high",
            test=_passes("real growth", 0.0, KEEPS_UP) if n == 10 else None,
            columns={"record": 90} if n == 10 else {},
            compared={"overview": 30, "record": 50} if n == 10 else {},
            frozen=n == 10,
        )
        for n in SPANS
    }


def _span(n: int) -> str:
    return f"{n} year{'s' if n > 1 else ''}"


GROWTHS, REAL_GROWTHS = _growths(), _real_growths()
"""By the years they span."""
AHEAD = {
    n: _record(
        f"growth_ahead_{n}",
        f"Dividend growth, {_span(n)} with the year ahead",
        _FRACTION,
        _growth_ahead(n),
        f"dividend growth over {_span(n)} with the year ahead",
        signed=True,
        better="high",
    )
    for n in AHEAD_SPANS
}
WHOLE = _record(
    "growth_whole",
    "Dividend growth, whole record",
    _FRACTION,
    lambda s: s.record.growth_whole,
    "dividend growth over the whole record",
    signed=True,
    better="high",
)
REAL_WHOLE = _record(
    "real_growth_whole",
    "Real dividend growth, whole record",
    _FRACTION,
    lambda s: s.inflation.real_growth_whole,
    "real growth over the whole record",
    signed=True,
    better="high",
)
MEASURES: tuple[Measure, ...] = (
    _record(
        "declared_rate",
        "Declared rate",
        _PER_SHARE,
        lambda s: s.record.declared_rate,
        better="neither",
        key=Key(name="Declared rate", note=_rhythm),
        head=Key(name="Pays", even_unknown=True, note=_a_year),
        columns={"record": 10},
        usual=Usual(name="dividend growth", way="growth", value=0.05),
        frozen=True,
    ),
    _record(
        "trailing_rate",
        "Trailing rate",
        _PER_SHARE,
        lambda s: s.record.trailing_rate,
        better="neither",
        key=Key(name="Paid in the last 12 months", note=_gap),
    ),
    _record(
        "trailing_gap",
        "Trailing vs declared",
        _FRACTION,
        lambda s: s.record.trailing_gap,
        "trailing rate [above|below] the declared by {}",
        better="low",
    ),
    _record(
        "rhythm",
        "Payments a year",
        Unit.COUNT,
        lambda s: s.record.rhythm,
        "pays {} times a year",
        better="neither",
    ),
    _record(
        "raises",
        "Raises",
        _YEARS,
        lambda s: s.record.raises_in_a_row,
        "raised {} running",
        key=Key(name="Raises in a row", note=_broken(lambda r: r.raises_in_a_row)),
        test=_passes("raises", 10, "So many years running it should have raised its dividend."),
        columns={"overview": 50, "record": 30},
        compared={"overview": 40, "record": 10},
        frozen=True,
    ),
    _record(
        "no_reduction",
        "No reduction",
        _YEARS,
        lambda s: s.record.years_without_reduction,
        "no reduction for {}",
        key=Key(
            name="Years without a reduction", note=_broken(lambda r: r.years_without_reduction)
        ),
        test=_passes("no reduction", 10, "So many years running it should not have cut."),
        columns={"record": 40},
        compared={"record": 20},
        frozen=True,
    ),
    _record(
        "latest_raise",
        "Latest raise",
        _FRACTION,
        lambda s: s.record.latest_raise,
        better="high",
        key=Key(name="Latest raise", note=_raised_on),
        columns={"record": 50},
    ),
    *GROWTHS.values(),
    *REAL_GROWTHS.values(),
    *AHEAD.values(),
    WHOLE,
    REAL_WHOLE,
    _record(
        "years_ahead",
        "Years ahead of prices, of ten",
        Unit.COUNT,
        lambda s: s.inflation.years_ahead,
        "raises beat prices in {} of ten years",
        better="high",
        key=Key(name="Ahead of inflation", note=_full_years),
        columns={"record": 100},
        compared={"record": 60},
    ),
)
