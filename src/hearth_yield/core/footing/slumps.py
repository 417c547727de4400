"""Past slumps: how far price and revenue fell from their peaks, against the market's fall, and what
the dividend did. (docs/method.md, Footing, Slumps)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from ..facts.payer_file import PayerFile
from ..facts.periods import A_YEAR
from ..facts.records import Series, Slump
from ..facts.statements import Span, Statement, fiscal_year_of
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Sample, SampleRow, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from ..record.downturns import SlumpPaid, slumps_paid

LEAST_POINTS = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class SlumpFelt(HoldsFigures):
    """One slump. price, market: the deepest fall from a peak within it; revenue: of fiscal years
    that touch it, from the one before; paid: what the dividend did."""

    slump: Slump
    place: int
    paid: SlumpPaid
    price: Figure
    market: Figure
    against_market: Figure
    revenue: Figure

    @property
    def key(self) -> str:
        return str(self.place)


def slumps_felt(file: PayerFile) -> tuple[SlumpFelt, ...]:
    """The slumps known by the day, the oldest first."""
    return tuple(_felt(file, paid) for paid in slumps_paid(file))


def _felt(file: PayerFile, paid: SlumpPaid) -> SlumpFelt:
    slump = paid.slump
    ends = min(slump.ends or file.last_day, file.last_day)
    price = deepest_fall(
        "price from peak to trough", file.prices.days, file.adjusted_closes, slump.begins, ends
    ).with_touch(file.closes_touch(slump.begins, ends))
    market = _market(file.market_index, slump.begins, ends)
    return SlumpFelt(
        slump=slump,
        place=paid.place,
        paid=paid,
        price=price,
        market=market,
        against_market=derive(
            "price against the market",
            Unit.FRACTION,
            "price’s fall − the market’s fall",
            [price, market],
            lambda mine, theirs: mine - theirs,
            period=slump.name,
        ),
        revenue=_revenue(file, slump.begins, ends),
    )


def deepest_fall(label: str, days: Days, values: Floats, begins: date, ends: date) -> Figure:
    """The deepest fall from an earlier high between two days, as a fraction under 0.

    min over t of value_t ÷ max(values up to t) − 1. Source: docs/method.md, Footing, Slumps.
    100, 120, 90, 96 → 90 ÷ 120 − 1 = −25 %.
    """
    inside = (days >= np.datetime64(begins)) & (days <= np.datetime64(ends))
    held, when = values[inside], days[inside]
    if len(held) < LEAST_POINTS:
        return unknown(label, Unit.FRACTION, f"fewer than {LEAST_POINTS} points are held of it")
    highs = np.maximum.accumulate(held)
    low = int(np.argmin(held / highs))
    peak = int(np.argmax(held[: low + 1]))
    ends_of_fall = [
        Figure(
            label=f"{name} of {when[at].astype(date).isoformat()}",
            unit=Unit.INDEX,
            value=float(held[at]),
            known_on=when[at].astype(date),
        )
        for name, at in (("trough", low), ("peak", peak))
    ]
    rows = [
        SampleRow(day=d.astype(date), values=(float(v),), source=None)
        for d, v in zip(when, held, strict=True)
    ]
    return derive(
        label,
        Unit.FRACTION,
        "trough ÷ the highest before it − 1, where that is deepest",
        ends_of_fall,
        lambda trough, top: trough / top - 1,
        period=f"{begins.isoformat()} to {ends.isoformat()}",
        sample=Sample(columns=(("value", Unit.INDEX),), rows=lambda: rows),
    )


def _market(series: Series | None, begins: date, ends: date) -> Figure:
    label = "market from peak to trough"
    if series is None:
        return unknown(label, Unit.FRACTION, "no market index is held for this currency")
    days = np.array([p.day for p in series.points], dtype="datetime64[D]")
    values = np.array([p.value for p in series.points], dtype=np.float64)
    return deepest_fall(label, days, values, begins, ends)


def _revenue(file: PayerFile, begins: date, ends: date) -> Figure:
    """From the fiscal year before the slump to the one after: the deepest fall from an earlier one;
    0 where none fell."""
    label = "revenue from peak to trough"
    touched = _touching(file.of_span(Span.YEAR), begins, ends)
    lines = [s.line("revenue") for s in touched]
    known = [f for f in lines if f.known]
    if len(known) < 2:
        return unknown(label, Unit.FRACTION, "fewer than two fiscal years around it are held")
    return derive(
        label,
        Unit.FRACTION,
        "the lowest fiscal year ÷ the highest before it − 1, where that is deepest",
        known,
        _deepest,
        period=f"fiscal {fiscal_year_of(touched[0].period_end)} "
        f"to {fiscal_year_of(touched[-1].period_end)}",
    )


def _deepest(*values: float) -> float | Unknown:
    highest, deepest = values[0], 0.0
    for value in values[1:]:
        if highest > 0:
            deepest = min(deepest, value / highest - 1)
        highest = max(highest, value)
    return deepest if highest > 0 else Unknown("revenue was not positive")


def _touching(years: Sequence[Statement], begins: date, ends: date) -> list[Statement]:
    """Fiscal years from the last that ended by the slump's beginning to the first that ended after
    it; those in the newest one's currency."""
    year = timedelta(days=A_YEAR[1])
    held = [s for s in years if begins - year <= s.period_end <= ends + year]
    return [s for s in held if s.currency == held[-1].currency]
