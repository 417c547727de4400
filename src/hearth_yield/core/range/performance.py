"""What the price did, with dividends and without, over a year or any span; what it came from, and
what a sum put in then would be now. (docs/method.md, Range)"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from functools import cached_property

import numpy as np

from ..facts.payer_file import PayerFile
from ..facts.records import Series
from ..figures.figure import (
    Figure,
    Sample,
    SampleRow,
    Touch,
    Unit,
    Unknown,
    derive,
    touch_of,
    unknown,
)
from ..figures.parts import HoldsFigures
from ..figures.solve import yearly_return
from ..record.payments import Payment, in_another_currency
from .quantity import Quantity
from .reinvested import added, paid_between

YEAR_DAYS = 365.25
STALE = 14
"""Days a close may lie before the day a span begins on."""
PUT_IN = 10_000.0


@dataclass(frozen=True, kw_only=True)
class Grown(HoldsFigures):
    """One payer between two days. id: of the span; begins, ends: the days of the closes it is told
    from; None where there is none.

    quantity: what the return is put down to.
    """

    id: str
    file: PayerFile = field(repr=False)
    quantity: Quantity
    asked: tuple[date, date]

    @property
    def key(self) -> str:
        return self.id

    @cached_property
    def _places(self) -> tuple[int, int] | str:
        """Of the first and the last close, or why there are none."""
        days, (first, last) = self.file.prices.days, self.asked
        if not len(days):
            return "no prices are held"
        at = int(np.searchsorted(days, np.datetime64(first), side="right")) - 1
        if at < 0 or (first - days[at].astype(date)).days > STALE:
            began = days[0].astype(date)
            if at < 0 and (began - first).days > STALE:
                return f"prices begin on {began.isoformat()}"
            if at >= 0:
                return f"no close is held within {STALE} days before {first.isoformat()}"
            at = 0
        to = int(np.searchsorted(days, np.datetime64(last), side="right")) - 1
        return (at, to) if to > at else "the span holds fewer than two closes"

    @property
    def begins(self) -> date | None:
        places = self._places
        return None if isinstance(places, str) else self._day(places[0])

    @property
    def ends(self) -> date | None:
        places = self._places
        return None if isinstance(places, str) else self._day(places[1])

    def _day(self, place: int) -> date:
        day: date = self.file.prices.days[place].astype(date)
        return day

    @property
    def years(self) -> float:
        begins, ends = self.begins, self.ends
        return (ends - begins).days / YEAR_DAYS if begins and ends else 0.0

    @property
    def _period(self) -> str | None:
        return f"{self.begins} to {self.ends}" if self.begins else None

    @cached_property
    def _closes(self) -> list[Figure]:
        """The first close and the last, in today's shares."""
        places = self._places
        if isinstance(places, str):
            return [unknown("close", Unit.PER_SHARE, places).with_exclusions(self._left)] * 2
        return [
            Figure(
                label=f"close of {self._day(at).isoformat()}",
                unit=Unit.PER_SHARE,
                value=float(self.file.adjusted_closes[at]),
                currency=self.file.payer.currency,
                **self.file.close_meta(at),
            ).with_exclusions(self._left)
            for at in places
        ]

    @cached_property
    def _left(self) -> tuple[str, ...]:
        """Closes a person left out, so that the span begins or ends on another day."""
        found: list[str] = []
        for day, asked in zip((self.begins, self.ends), self.asked, strict=True):
            near = timedelta(days=STALE)
            first, last = (
                (min(day, asked), max(day, asked)) if day else (asked - near, asked + near)
            )
            found += self.file.exclusions_within("prices", first, last)
        return tuple(dict.fromkeys(found))

    @property
    def _closes_touch(self) -> Touch | None:
        """Whether a person had a hand in any close of the span."""
        begins, ends = self.begins, self.ends
        return self.file.closes_touch(begins, ends) if begins and ends else None

    @property
    def _paid_touch(self) -> Touch | None:
        """Whether a person had a hand in a dividend of the span, or left one out of it."""
        begins, ends = self.begins or date.max, self.ends or date.min
        left = any(x.table == "dividends" and begins < x.day <= ends for x in self.file.exclusions)
        own = [t for p in self._payments for t in (p.fact.touch, p.split_touch)]
        return touch_of([*own, Touch.EDITED if left else None])

    @cached_property
    def _payments(self) -> list[Payment]:
        begins, ends = self.begins, self.ends
        return paid_between(self.file, begins, ends) if begins and ends else []

    @cached_property
    def received(self) -> Figure:
        """Dividends per share that went ex within it."""
        label, currency = "dividends received", self.file.payer.currency
        foreign = in_another_currency(self._payments, currency)
        if self.begins is None or foreign:
            why = foreign or self._closes[0].reason or ""
            return unknown(label, Unit.PER_SHARE, why)
        held = self._payments
        return Figure(
            label=label,
            unit=Unit.PER_SHARE,
            value=float(sum(p.amount for p in held)),
            formula="what went ex after the first day and up to the last, in today's shares",
            currency=currency,
            period=self._period,
            sample=Sample(
                columns=(("dividend", Unit.PER_SHARE),),
                rows=lambda: [
                    SampleRow(day=p.ex_date, values=(p.amount,), source=p.fact.source) for p in held
                ],
            ),
            touch=self._paid_touch,
        ).with_exclusions(self._left)

    @cached_property
    def price(self) -> Figure:
        """The change of the price alone."""
        return self._derive(
            "price change", "last close ÷ first close − 1", self._closes, lambda a, b: b / a - 1
        )

    @cached_property
    def total(self) -> Figure:
        """With each dividend put back in at the close of its ex-date."""
        return self._derive(
            "return with dividends put back in",
            "last close ÷ first close × Π (1 + dividend ÷ close of its ex-date) − 1",
            [*self._closes, self.received],
            lambda a, b, _: b / a * self._put_back() - 1,
        ).with_touch(self._closes_touch)

    def _put_back(self) -> float:
        """What one share became by putting dividends back in."""
        places = self._places
        if isinstance(places, str):
            return 1.0
        return float(np.prod(added(self.file)[places[0] + 1 : places[1] + 1]))

    @cached_property
    def price_a_year(self) -> Figure:
        return self._a_year(self.price)

    @cached_property
    def total_a_year(self) -> Figure:
        return self._a_year(self.total)

    @cached_property
    def market_price(self) -> Figure:
        return self._market("market", self.file.market_index)

    @cached_property
    def market_total(self) -> Figure:
        return self._market("market with dividends", self.file.market_total)

    @cached_property
    def market_total_a_year(self) -> Figure:
        return self._a_year(self.market_total)

    @cached_property
    def against_market(self) -> Figure:
        """The return with dividends less the market's."""
        return self._derive(
            "return against the market",
            "return with dividends − market with dividends",
            [self.total, self.market_total],
            lambda mine, theirs: mine - theirs,
        )

    @cached_property
    def worth_put_back(self) -> Figure:
        """Of PUT_IN put in on the first day, its dividends put back in: what the market's sum is
        held against."""
        return self._of_a_sum(
            "put in then, dividends put back in",
            "× (1 + return with dividends)",
            [self.total],
            lambda x: 1 + x,
        )

    @cached_property
    def worth_now(self) -> Figure:
        """Of PUT_IN put in on the first day, its dividends kept apart."""
        return self._of_a_sum(
            "put in then, worth at the end",
            "÷ first close × last close",
            self._closes,
            lambda a, b: b / a,
        )

    @cached_property
    def received_of_it(self) -> Figure:
        return self._of_a_sum(
            "put in then, dividends received",
            "÷ first close × dividends received",
            [self._closes[0], self.received],
            lambda a, d: d / a,
        )

    @cached_property
    def market_worth(self) -> Figure:
        """The same sum in the market, dividends put back in."""
        return self._of_a_sum(
            "in the market", "× (1 + market with dividends)", [self.market_total], lambda x: 1 + x
        )

    def _of_a_sum(
        self, label: str, formula: str, inputs: Sequence[Figure], became: Callable[..., float]
    ) -> Figure:
        """What PUT_IN became."""
        return derive(
            f"{PUT_IN:,.0f} {label}",
            Unit.INDEX,
            f"{PUT_IN:,.0f} {formula}",
            inputs,
            lambda *v: PUT_IN * became(*v),
            currency=self.file.payer.currency,
            period=self._period,
        )

    @cached_property
    def yearly(self) -> Figure:
        """R that makes the dividends and the last close worth the first close, a year."""
        begins = self.begins

        def compute(a: float, b: float, _: float) -> float | Unknown:
            if begins is None or self.years < 1:
                return Unknown("the span is shorter than a year")
            got = [((p.ex_date - begins).days / YEAR_DAYS, p.amount) for p in self._payments]
            found = yearly_return(a, [*got, (self.years, b)])
            return Unknown("no rate of return gives it") if found is None else found

        return self._derive(
            "return a year",
            "R that solves Σ dividend ÷ (1 + R)^t + last close ÷ (1 + R)^n = first close",
            [*self._closes, self.received],
            compute,
        )

    @cached_property
    def _bases(self) -> list[Figure]:
        """The measure per share as it was known on the first day and on the last."""
        days, values = self.quantity.steps(self.file)
        found = []
        for day in (self.begins, self.ends):
            label = f"{self.quantity.base_name} known on {day}"
            at = -1 if day is None else int(np.searchsorted(days, np.datetime64(day), "right")) - 1
            if day is None or at < 0 or not values[at] > 0:
                why = f"no positive {self.quantity.base_name} was known on {day}"
                touch = None if day is None else self.quantity.by_hand(self.file, day)
                found.append(unknown(label, Unit.PER_SHARE, why, touch=touch))
                continue
            found.append(
                Figure(
                    label=label,
                    unit=Unit.PER_SHARE,
                    value=float(values[at]),
                    formula="as the facts read on that day, in today's shares",
                    known_on=days[at].astype(date),
                    currency=self.file.payer.currency,
                    touch=self.quantity.by_hand(self.file, day),
                ).with_exclusions(self._left)
            )
        return found

    @cached_property
    def from_growth(self) -> Figure:
        """The part of the yearly return that growth of the measure brought."""
        return self._part(
            f"from growth of {self.quantity.base_name}",
            "ln(last measure ÷ first measure) ÷ n × R ÷ ln(1 + R)",
            lambda n, a, b, f0, f1: math.log(f1 / f0) / n,
        )

    @cached_property
    def from_re_rating(self) -> Figure:
        """The part that a higher or lower multiple brought."""
        return self._part(
            "from re-rating",
            "ln((last close ÷ last measure) ÷ (first close ÷ first measure)) ÷ n × R ÷ ln(1 + R)",
            lambda n, a, b, f0, f1: math.log(b / f1 / (a / f0)) / n,
        )

    @cached_property
    def from_income(self) -> Figure:
        """What is left: the dividends."""
        return derive(
            "from income",
            Unit.FRACTION,
            "return a year − from growth − from re-rating",
            [self.yearly, self.from_growth, self.from_re_rating],
            lambda r, g, m: r - g - m,
            period=self._period,
        )

    def _part(self, label: str, formula: str, log: Callable[..., float]) -> Figure:
        return self._derive(
            label,
            formula,
            [self.yearly, *self._closes, *self._bases],
            lambda r, *v: log(self.years, *v) * scale_of(r),
        )

    def _a_year(self, over: Figure) -> Figure:
        return self._derive(
            f"{over.label} a year",
            "(1 + change) ^ (1 ÷ years) − 1",
            [over],
            lambda x: (
                (1 + x) ** (1 / self.years) - 1
                if self.years >= 1
                else Unknown("the span is shorter than a year")
            ),
        )

    def _market(self, label: str, series: Series | None) -> Figure:
        if series is None:
            none = unknown(label, Unit.FRACTION, f"no {label} index is held for this currency")
            return none.with_exclusions(self._left)
        ends = [_point(series, day) for day in (self.begins, self.ends) if day]
        if len(ends) < 2 or None in ends:
            none = unknown(label, Unit.FRACTION, f"the {label} index does not reach over the span")
            return none.with_exclusions(self._left)
        first, last = (x for x in ends if x is not None)
        return self._derive(
            label, "last point ÷ first point − 1", [first, last], lambda a, b: b / a - 1
        )

    def _derive(
        self,
        label: str,
        formula: str,
        inputs: Sequence[Figure],
        compute: Callable[..., float | Unknown],
    ) -> Figure:
        found = derive(label, Unit.FRACTION, formula, inputs, compute, period=self._period)
        return found.with_exclusions(self._left)


def scale_of(rate: float) -> float:
    """R ÷ ln(1 + R), by which parts that add up in logs add up to R."""
    return rate / math.log1p(rate) if abs(rate) > 1e-12 else 1.0


def _point(series: Series, day: date) -> Figure | None:
    """The newest point for a day or the two weeks before it."""
    after = bisect_right(series.points, day, key=lambda p: p.day)
    if after == 0 or series.points[after - 1].day < day - timedelta(days=STALE):
        return None
    p = series.points[after - 1]
    return Figure(
        label=f"{series.name} on {p.day.isoformat()}",
        unit=Unit.INDEX,
        value=p.value,
        known_on=p.published_on,
        source=p.source,
        touch=p.touch,
    )
