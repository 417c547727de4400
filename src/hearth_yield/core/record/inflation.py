"""Inflation: does the dividend keep pace with prices? (docs/method.md, Inflation)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from ..facts.age import freshness
from ..facts.payer_file import PayerFile
from ..facts.records import Series, SeriesPoint
from ..figures.figure import Figure, Unit, Unknown, derive, touch_of, unknown
from ..figures.parts import HoldsFigures
from .history import Record, Year
from .payments import manual_edits_between

MONTHS_NEEDED = 10
AHEAD_YEARS = 10
READ_BACK_YEARS = 3
"""Whether a year is full is read from payments up to so many years before."""


@dataclass(frozen=True, kw_only=True)
class Pace(HoldsFigures):
    """What the dividend would have to be now just to have kept pace since a year. base: what was
    paid then; years: those since."""

    base_year: int
    base: Figure
    needed: Figure
    ahead: Figure
    years: Sequence[int]
    index: PriceIndex = field(repr=False, compare=False)

    @property
    def key(self) -> str:
        return str(self.base_year)

    @cached_property
    def path(self) -> dict[int, Figure]:
        """What it would have had to be each year since, as far as the price index is known."""
        then = self.index.of_year(self.base_year)
        steps = {
            y: keeping_pace(self.base, then, self.index.of_year(y), self.base_year)
            for y in self.years
        }
        return {y: f for y, f in steps.items() if f.known}


@dataclass(frozen=True, slots=True, kw_only=True)
class Inflation:
    real_growth: dict[int, Figure]
    real_growth_whole: Figure
    paces: tuple[Pace, ...]
    real_years: dict[int, Figure]
    years_ahead: Figure


def price_index(series: Series | None) -> PriceIndex:
    """The index of a cut series, made once for all payers of its currency."""
    if series is None:
        return PriceIndex(None)
    if PriceIndex not in series.made:
        series.made[PriceIndex] = PriceIndex(series)
    found: PriceIndex = series.made[PriceIndex]
    return found


class PriceIndex:
    """Yearly means of a price index as far as it was published; each is built once."""

    def __init__(self, series: Series | None) -> None:
        self._series = series
        self._years: dict[int, Figure] = {}
        self._points: dict[int, list[SeriesPoint]] = {}
        for point in series.points if series else ():
            self._points.setdefault(point.day.year, []).append(point)

    def of_year(self, year: int) -> Figure:
        """Mean of the year's months; at least 10 must be known, and fewer than 12 is noted."""
        if year not in self._years:
            self._years[year] = self._mean(year)
        return self._years[year]

    def _mean(self, year: int) -> Figure:
        label = f"price index, {year}"
        if self._series is None:
            return unknown(label, Unit.INDEX, "no price index is held for this currency")
        points = self._points.get(year, [])
        if len(points) < MONTHS_NEEDED:
            reason = f"{len(points)} months of {year} known; {MONTHS_NEEDED} are needed"
            return unknown(label, Unit.INDEX, reason)
        notes = () if len(points) >= 12 else (f"mean of {len(points)} months known",)
        return Figure(
            label=label,
            unit=Unit.INDEX,
            value=sum(p.value for p in points) / len(points),
            formula=f"mean of the year's months of {self._series.name}",
            period=f"{points[0].day.isoformat()} to {points[-1].day.isoformat()}",
            known_on=max(p.published_on for p in points),
            source=points[-1].source,
            notes=notes,
            touch=touch_of(p.touch for p in points),
        )

    def now(self, day: date, delisted: date | None = None) -> Figure:
        """The newest month known, as current as it is on a day."""
        label = "price index, now"
        if self._series is None or not self._series.points:
            return unknown(label, Unit.INDEX, "no price index is held for this currency")
        point = self._series.points[-1]
        name = f"the newest month of {self._series.name}"
        return freshness("price_index", point.day, day, name, delisted).of(
            Figure(
                label=label,
                unit=Unit.INDEX,
                value=point.value,
                period=f"month of {point.day.isoformat()[:7]}",
                known_on=point.published_on,
                source=point.source,
                touch=point.touch,
            )
        )


def price_change(series: Series | None, since: date, until: date) -> Figure:
    """How prices moved over a span of days: the newest month known by its end, against the month
    as long before it.

    190.6 in May 2026, 185.0 in May 2025: 3.0270 %.
    """
    label = "rise of prices"
    if series is None:
        return unknown(label, Unit.FRACTION, "no price index is held for this currency")
    known = series.until(until).points
    newest = known[-1] if known else None
    before = [p for p in known if newest and p.day <= newest.day - (until - since)]
    if newest is None or not before:
        return unknown(label, Unit.FRACTION, "the price index does not reach back so far")
    points = [
        Figure(
            label=f"price index, {p.day.isoformat()[:7]}",
            unit=Unit.INDEX,
            value=p.value,
            known_on=p.published_on,
            source=p.source,
            touch=p.touch,
        )
        for p in (newest, before[-1])
    ]
    return derive(
        label,
        Unit.FRACTION,
        "price index of the newest month known ÷ of the month as long before it − 1",
        points,
        lambda now, then: now / then - 1,
        period=f"{before[-1].day.isoformat()[:7]} to {newest.day.isoformat()[:7]}",
    )


def keeping_pace(base: Figure, index_base: Figure, index_now: Figure, year: int) -> Figure:
    """What a base-year dividend comes to in today's money: D_base × I_now ÷ I_base.

    Source: docs/method.md, Inflation. 0.42, 151.7 → 268.4: 0.7431.
    """
    return derive(
        f"keeping pace since {year}",
        Unit.PER_SHARE,
        "dividend then × price index now ÷ price index then",
        [base, index_now, index_base],
        lambda d, now, then: d * now / then,
        currency=base.currency,
    )


def real_rate(nominal: float, inflation: float) -> float:
    """(1 + nominal) / (1 + inflation) − 1, both fractions a year over the same span."""
    return (1 + nominal) / (1 + inflation) - 1


def inflation_over(index: PriceIndex, first: int, last: int) -> Figure:
    """Price growth a year between two years' means."""
    n = last - first
    return derive(
        f"inflation, {first} to {last}",
        Unit.FRACTION,
        f"(index {last} ÷ index {first}) ^ (1/{n}) − 1",
        [index.of_year(last), index.of_year(first)],
        lambda now, then: (now / then) ** (1 / n) - 1,
    )


def real_growth_over(growth: Figure, index: PriceIndex, last: int, n: int) -> Figure:
    return derive(
        f"real growth over {n} year{'s' if n > 1 else ''}",
        Unit.FRACTION,
        "(1 + dividend growth) ÷ (1 + inflation) − 1",
        [growth, inflation_over(index, last - n, last)],
        real_rate,
        period=growth.period,
    )


def years_ahead(file: PayerFile, years: Sequence[Year], index: PriceIndex) -> Figure:
    """In how many of the last ten years dividend growth beat that year's inflation; a year that was
    paid in part, and the one after it, do not count."""
    label = "years ahead of inflation"
    paid = {y.year: y.total for y in years if y.full}
    pairs = []
    counted = [y.year for y in years if y.complete][-AHEAD_YEARS:]
    for year in counted:
        if year not in paid or year - 1 not in paid:
            continue
        growth = derive(
            f"dividend growth, {year}",
            Unit.FRACTION,
            "this year ÷ last year − 1",
            [paid[year], paid[year - 1]],
            lambda now, then: now / then - 1 if then > 0 else Unknown("nothing paid before"),
        )
        prices = inflation_over(index, year - 1, year)
        if growth.value is not None and prices.value is not None:
            pairs.append((growth, prices))
    if not pairs:
        why = "no two full years in a row with a known price index"
        return unknown(label, Unit.COUNT, why).with_touch(manual_edits_between(file, date.min))
    first = date(max(1, counted[0] - READ_BACK_YEARS), 1, 1)
    return derive(
        label,
        Unit.COUNT,
        f"years of the last {len(pairs)} in which the dividend grew faster than prices",
        [f for pair in pairs for f in pair],
        lambda *v: sum(v[i] > v[i + 1] for i in range(0, len(v), 2)),
        period=f"of {len(pairs)}",
    ).with_touch(manual_edits_between(file, first))


def pace_since(record: Record, index: PriceIndex, now: Figure, year: Year) -> Pace:
    base = year.total
    if not year.full:
        base = unknown(base.label, base.unit, year.why_not_full, currency=base.currency)
    needed = keeping_pace(base, index.of_year(year.year), now, year.year)
    ahead = derive(
        f"declared rate against keeping pace since {year.year}",
        Unit.FRACTION,
        "declared rate ÷ what keeping pace asks − 1",
        [record.declared_rate, needed],
        lambda d, n: d / n - 1 if n > 0 else Unknown(f"nothing was paid in {year.year}"),
    )
    return Pace(
        base_year=year.year,
        base=base,
        needed=needed,
        ahead=ahead,
        years=[y.year for y in record.years if y.year >= year.year],
        index=index,
    )


def build_inflation(file: PayerFile, record: Record, base_years: Sequence[int] = ()) -> Inflation:
    """Real growth and keeping pace, from two bases at once.

    Bases: the earliest full year on record and ten years back, where that was full; years of choice
    take their places in this order. One that was not full answers why it is no base.
    """
    index = price_index(file.price_index)
    complete = [y for y in record.years if y.complete]
    last = complete[-1].year if complete else file.day.year - 1
    by_year = {y.year: y for y in complete}
    now = index.now(file.day, file.payer.delisted_on)
    full = [y.year for y in complete if y.full]
    wanted = [*full[:1], *(y for y in full if y == last - 10)]
    for place, year in enumerate(base_years):
        if year in by_year:
            wanted[place : place + 1] = [year]
    return Inflation(
        real_growth={
            n: real_growth_over(growth, index, last, n) for n, growth in record.growth.items()
        },
        real_growth_whole=_real_whole(record.growth_whole, index),
        paces=tuple(pace_since(record, index, now, by_year[y]) for y in dict.fromkeys(wanted)),
        real_years={
            y.year: keeping_pace(y.total, index.of_year(y.year), now, y.year) for y in complete
        },
        years_ahead=years_ahead(file, record.years, index),
    )


def _real_whole(growth: Figure, index: PriceIndex) -> Figure:
    if growth.period is None:
        return growth.but(label="real growth over the whole record")
    first, last = (int(y) for y in growth.period.split(" to "))
    return real_growth_over(growth, index, last, last - first).but(
        label="real growth over the whole record"
    )
