"""The ruler: a quantity of today against the payer's own weeks. (docs/method.md, Range)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial
from typing import Any

import numpy as np

from ..errors import MethodError
from ..facts.records import PayerFile
from ..facts.robust import quantile
from ..figures.arrays import Floats
from ..figures.figure import (
    Figure,
    Sample,
    SampleRow,
    Touch,
    Unit,
    Unknown,
    derive,
    percent,
    touch_of,
    unknown,
)
from ..figures.parts import HoldsFigures
from ..figures.ties import all_at_most, ties
from ..record.history import Record
from .quantity import YIELD, Quantity
from .weekly import Weekly, past_year, weekly_values

WINDOWS: dict[str, int | None] = {"3": 156, "5": 260, "10": 520, "all": None}
TYPICAL = ("mean", "median")
"""What can stand for the usual value."""
LEAST_WEEKS = 52
SCALE_STEPS = 9


@dataclass(frozen=True, slots=True, kw_only=True)
class QuarterEnd(HoldsFigures):
    day: date
    value: Figure
    against_typical: Figure

    @property
    def key(self) -> str:
        return self.day.isoformat()


@dataclass(frozen=True, slots=True, kw_only=True)
class Ruler:
    """A quantity of one payer against its own weeks in one window.

    beside: what its value takes besides base and price. usual: "mean" or "median"; typical: that
    one; deviation, fair price and premium are against it. price_scale: heights from a little under
    the lowest to a little over the highest, each with its price.
    """

    quantity: Quantity
    window: str
    base: Figure
    beside: Figure | None
    now: Figure
    weeks: Weekly
    count: Figure
    mean: Figure
    median: Figure
    lower_quartile: Figure
    upper_quartile: Figure
    highest: Figure
    lowest: Figure
    usual: str
    typical: Figure
    deviation: Figure
    percentile: Figure
    share_higher: Figure
    longest_above: Figure
    fair_price: Figure
    premium: Figure
    low_52: Figure
    high_52: Figure
    quarters: tuple[QuarterEnd, ...]
    price_scale: tuple[tuple[float, float], ...]

    @property
    def figures(self) -> dict[str, Figure]:
        """What the ruler says, by name."""
        return {name: getattr(self, name) for name in RULED}


RULED = (
    "base",
    "now",
    "typical",
    "mean",
    "median",
    "lower_quartile",
    "upper_quartile",
    "highest",
    "lowest",
    "deviation",
    "percentile",
    "share_higher",
    "longest_above",
    "fair_price",
    "premium",
    "count",
)


def percentile_of(sample: Floats, today: float) -> float:
    """Mid-rank: (below + ½ equal) / n, a fraction.

    Source: docs/method.md, Range. 3.1 3.4 3.4 3.6 3.9 4.2, today 3.6 → 0.5833.
    """
    equal = ties(sample, today)
    below = float(((sample < today) & ~equal).sum())
    return (below + float(equal.sum()) / 2) / len(sample)


def share_above(sample: Floats, today: float) -> float:
    """Share of the sample above today's, ties not: 2 of 6 in the example of `percentile_of`."""
    return float((~all_at_most(sample, today)).sum()) / len(sample)


def longest_run_above(sample: Floats, level: float) -> tuple[int, int]:
    """Length and last index of the longest run above a level; (0, -1) when there is none."""
    best, end, run = 0, -1, 0
    for i, above in enumerate(~all_at_most(sample, level)):
        run = run + 1 if above else 0
        if run > best:
            best, end = run, i
    return best, end


def price_at(quantity: Quantity, base: float, target: float, beside: float = 0.0) -> float:
    """The price at which the quantity has a value. 1.40 at a yield of 3.5 % → 40.00; 4 % → 35.00.

    beside: what else the value takes, per share. Raises MethodError for a target that is not above
    0.
    """
    if target <= 0:
        raise MethodError(
            f"a target {quantity.name} must be above 0",
            field=quantity.id,
            value=target,
            rule=f"{quantity.name} > 0",
        )
    return float(quantity.price(base, target, beside))


def value_now(file: PayerFile, record: Record, quantity: Quantity) -> Figure:
    """Unknown while the base is nil: nothing is being paid."""
    base, beside = quantity.base(file, record), _beside(file, quantity)

    def compute(b: float, p: float, x: float = 0.0) -> float | Unknown:
        found = float(quantity.value(b, p, x)) if b > 0 else 1.0
        if p <= 0:
            return Unknown("the price is not positive")
        return found if found > 0 else Unknown(f"{quantity.name} is not positive")

    now = derive(
        quantity.name,
        quantity.unit,
        quantity.formula,
        [base, file.price, *beside],
        compute,
        period=file.price.period,
    )
    if base.value is not None and base.value <= 0:
        return unknown(quantity.name, quantity.unit, quantity.nothing, inputs=now.inputs)
    return now


def _beside(file: PayerFile, quantity: Quantity) -> list[Figure]:
    """What the value takes besides base and price, as an input; none for most."""
    return [quantity.beside(file)] if quantity.beside else []


def _rows_of(w: Weekly) -> list[SampleRow]:
    return [
        SampleRow(day=d, values=(float(v), float(b), float(c)), source=int(s), since=k)
        for d, v, b, c, s, k in zip(
            w.days.astype(date),
            w.values,
            w.bases,
            w.closes,
            w.sources,
            w.base_days.astype(date),
            strict=True,
        )
    ]


class _Statistics:
    """Builds the figures that rest on one sample of weeks."""

    def __init__(self, file: PayerFile, quantity: Quantity, weeks: Weekly, without: int) -> None:
        self.quantity = quantity
        self.weeks = weeks
        self.close_age = file.close_age
        self.n = len(weeks.values)
        self.ordered = np.sort(weeks.values)
        self.currency = file.payer.currency
        span = f"{weeks.days[0]} to {weeks.days[-1]}" if self.n else None
        notes = (
            (f"{without} weeks without a known {quantity.base_name} excluded",) if without else ()
        )
        self.count = Figure(
            label="weeks in the sample",
            unit=Unit.WEEKS,
            value=float(self.n),
            formula=f"last closes of complete weeks, with the {quantity.base_name} known each day",
            period=span,
            notes=notes,
            touch=_touch_of(file, quantity, weeks),
            sample=Sample(
                columns=(
                    (quantity.name, quantity.unit),
                    (quantity.base_name, Unit.PER_SHARE),
                    ("close", Unit.PER_SHARE),
                ),
                rows=partial(_rows_of, weeks),
            ),
        )

    def figure(self, label: str, unit: Unit, formula: str, value: float, **meta: Any) -> Figure:
        if self.n < LEAST_WEEKS:
            name = self.quantity.name
            reason = f"{self.n} weeks with a known {name}; {LEAST_WEEKS} are needed"
            return unknown(label, unit, reason, formula=formula, inputs=(self.count,), **meta)
        figure = Figure(
            label=label, unit=unit, value=value, formula=formula, inputs=(self.count,), **meta
        )
        return self.close_age.of(figure)

    def quantile(self, label: str, q: float) -> Figure:
        value = quantile(self.ordered, q) if self.n else 0.0
        return self.figure(label, self.quantity.unit, f"{percent(q)} of the weeks lie below", value)

    def extreme(self, label: str, highest: bool) -> Figure:
        if not self.n:
            return self.figure(label, self.quantity.unit, label, 0.0)
        y = self.weeks.values
        i = int(np.argmax(y) if highest else np.argmin(y))
        return self.figure(
            label,
            self.quantity.unit,
            f"the week with the {'highest' if highest else 'lowest'} {self.quantity.name}",
            float(y[i]),
            known_on=self.weeks.days[i].astype(date),
        )

    def mean(self, label: str) -> Figure:
        value = float(self.weeks.values.mean()) if self.n else 0.0
        return self.figure(
            label, self.quantity.unit, f"mean of the weekly {self.quantity.name}s", value
        )

    def longest_above(self, mean: Figure) -> Figure:
        run, end = longest_run_above(self.weeks.values, mean.value or 0.0)
        return self.figure(
            "longest stretch above the mean",
            Unit.WEEKS,
            "longest run of sample weeks above the mean",
            float(run),
            known_on=self.weeks.days[end].astype(date) if end >= 0 else None,
        )

    def against(
        self, label: str, formula: str, now: Figure, compute: Callable[[Floats, float], float]
    ) -> Figure:
        """A fraction that holds today's value against the sample."""
        sample = self.figure("weeks in the sample", Unit.WEEKS, "complete weeks", self.n)
        return derive(
            label,
            Unit.FRACTION,
            formula,
            [now, self.count if sample.known else sample],
            lambda t, _: compute(self.weeks.values, t),
        )


def ruler_of(
    file: PayerFile,
    record: Record,
    window: str,
    quantity: Quantity = YIELD,
    weekly: Weekly | None = None,
    typical: str = "",
) -> Ruler:
    """Today's value against the complete weeks of one window ("3", "5", "10" years or "all").

    weekly: the quantity's, where the caller has them. typical: "mean" or "median", what stands for
    the usual value; the quantity's own where it is not said.
    """
    if window not in WINDOWS:
        raise MethodError(
            "no such window", field="window", value=window, rule=f"one of {', '.join(WINDOWS)}"
        )
    weekly = weekly if weekly is not None else weekly_values(file, quantity)
    in_window = weekly.last(WINDOWS[window])
    weeks = in_window.known()
    stats = _Statistics(file, quantity, weeks, len(in_window.days) - len(weeks.days))
    now, base, name = value_now(file, record, quantity), quantity.base(file, record), quantity.name
    beside = _beside(file, quantity)
    span = "all years" if window == "all" else f"{window}-year"
    usual = typical or quantity.typical
    mean = stats.mean(f"{span} mean {name}")
    median = stats.quantile(f"{span} median {name}", 0.5)
    held = median if usual == "median" else mean
    fair = _price_at_typical(quantity, usual, base, held, beside)
    return Ruler(
        quantity=quantity,
        window=window,
        base=base,
        beside=beside[0] if beside else None,
        now=now,
        weeks=weeks,
        count=stats.count,
        mean=mean,
        median=median,
        lower_quartile=stats.quantile(f"lower quartile of {name}s", 0.25),
        upper_quartile=stats.quantile(f"upper quartile of {name}s", 0.75),
        highest=stats.extreme(f"highest {name}", True),
        lowest=stats.extreme(f"lowest {name}", False),
        usual=usual,
        typical=held,
        **_compared(stats, now, held, usual, f"{name} vs {span} {usual}"),
        longest_above=stats.longest_above(mean),
        fair_price=fair,
        premium=_over(
            f"price vs price at the {usual} {name}",
            f"price ÷ price at the {usual} {name} − 1",
            file.price,
            fair,
        ),
        low_52=_extreme_close(file, "52-week low", highest=False),
        high_52=_extreme_close(file, "52-week high", highest=True),
        quarters=tuple(_quarter_ends(file, quantity, in_window, held, usual)),
        price_scale=price_scale(quantity, base, weeks.values, now, beside),
    )


def _compared(
    stats: _Statistics, now: Figure, held: Figure, usual: str, label: str
) -> dict[str, Figure]:
    """Today's value against the usual one, and its place among the weeks."""
    name = stats.quantity.name
    return {
        "deviation": _over(label, f"{name} today ÷ {usual} {name} − 1", now, held),
        "percentile": stats.against(
            f"percentile of today's {name}",
            "(weeks below + ½ weeks equal) ÷ weeks",
            now,
            percentile_of,
        ),
        "share_higher": stats.against(
            f"share of weeks with a higher {name}",
            f"weeks with a {name} above today's ÷ weeks",
            now,
            share_above,
        ),
    }


def _over(label: str, formula: str, one: Figure, other: Figure) -> Figure:
    return derive(label, Unit.FRACTION, formula, [one, other], lambda a, b: a / b - 1)


def price_at_value(
    label: str, quantity: Quantity, base: Figure, value: Figure, beside: Sequence[Figure]
) -> Figure:
    """The price at which the quantity has a value."""

    def compute(b: float, v: float, x: float = 0.0) -> float | Unknown:
        if b <= 0:
            return Unknown(quantity.nothing)
        price = price_at(quantity, b, v, x)
        return price if price > 0 else Unknown("debt takes all of it at that multiple")

    return derive(
        label,
        Unit.PER_SHARE,
        quantity.price_formula.format(value.label),
        [base, value, *beside],
        compute,
        currency=base.currency,
    )


def _price_at_typical(
    quantity: Quantity, usual: str, base: Figure, held: Figure, beside: Sequence[Figure]
) -> Figure:
    label = f"price at the {usual} {quantity.name}"
    return price_at_value(label, quantity, base, held, beside)


def price_scale(
    quantity: Quantity, base: Figure, values: Floats, now: Figure, beside: Sequence[Figure] = ()
) -> tuple[tuple[float, float], ...]:
    """Values from a little under the lowest to a little over the highest, each with its price.

    Returns: nine (value, price) pairs, evenly spaced, or none while the base is not positive.
    """
    seen = [*values.tolist(), *([now.value] if now.value else [])]
    extra = beside[0].value if beside else 0.0
    if not base.value or base.value <= 0 or not seen or extra is None:
        return ()
    steps = np.linspace(min(seen) * 0.92, max(seen) * 1.08, SCALE_STEPS)
    return tuple((float(v), price_at(quantity, base.value, float(v), extra)) for v in steps)


def _touch_of(file: PayerFile, quantity: Quantity, weeks: Weekly) -> Touch | None:
    """Whether a person had a hand in a close of the sample, or in a base it reads."""
    if not len(weeks.days):
        return None
    first, last = weeks.days[0].astype(date), weeks.days[-1].astype(date)
    week = timedelta(days=7)
    closes = file.closes_touch(first - week, last + week)
    return touch_of([closes, quantity.by_hand(file, first)])


def _extreme_close(file: PayerFile, label: str, *, highest: bool) -> Figure:
    recent = past_year(file)
    meta: dict[str, Any] = {
        "currency": file.payer.currency,
        "formula": f"{label} of the closes held",
    }
    if not recent.any():
        return unknown(label, Unit.PER_SHARE, "no closes in the past 52 weeks", **meta)
    closes = file.adjusted_closes[recent]
    i = int(np.argmax(closes) if highest else np.argmin(closes))
    figure = Figure(
        label=label,
        unit=Unit.PER_SHARE,
        value=float(closes[i]),
        **file.close_meta(int(np.flatnonzero(recent)[i])),
        **meta,
    )
    return file.close_age.of(figure).with_touch(
        file.closes_touch(file.day - timedelta(weeks=52), file.day)
    )


def _quarter_ends(
    file: PayerFile, quantity: Quantity, weeks: Weekly, held: Figure, usual: str
) -> list[QuarterEnd]:
    """The last sampled week of each calendar quarter."""
    if not len(weeks.days):
        return []
    quarter = weeks.days.astype("datetime64[M]").astype(np.int64) // 3
    ends = np.append(np.flatnonzero(quarter[:-1] != quarter[1:]), len(quarter) - 1)
    rows = []
    for i in ends:
        day = weeks.days[i].astype(date)
        label = f"{quantity.name} on {day.isoformat()}"
        value = _value_of_week(file, quantity, weeks, int(i), label)
        against = _over(
            f"{label} vs {usual}", f"{quantity.name} ÷ {usual} {quantity.name} − 1", value, held
        )
        rows.append(QuarterEnd(day=day, value=value, against_typical=against))
    return rows


def _value_of_week(
    file: PayerFile, quantity: Quantity, weeks: Weekly, i: int, label: str
) -> Figure:
    """One week's value from the base known by then and that week's close."""
    day, since = weeks.days[i].astype(date), weeks.base_days[i].astype(date)
    read_by_hand = quantity.by_hand(file, day)
    if np.isnan(weeks.values[i]):
        none = unknown(label, quantity.unit, f"no known {quantity.base_name} that week")
        return none.with_touch(read_by_hand)
    source, currency = int(weeks.sources[i]), file.payer.currency
    base = Figure(
        label=f"{quantity.base_name} known that day",
        unit=Unit.PER_SHARE,
        value=float(weeks.bases[i]),
        formula="as the record read on that day, in today's shares",
        currency=currency,
        known_on=since,
        touch=read_by_hand,
    )
    close = Figure(
        label="close",
        unit=Unit.PER_SHARE,
        value=float(weeks.closes[i]),
        period=f"close of {day.isoformat()}, in today's shares",
        currency=currency,
        known_on=day,
        source=source,
        touch=file.closes_touch(day - timedelta(days=7), day + timedelta(days=7)),
    )
    inputs = [base, close]
    if quantity.beside is not None:
        inputs.append(
            base.but(label=f"{quantity.beside_name} known that day", value=float(weeks.besides[i]))
        )
    return derive(
        label,
        quantity.unit,
        quantity.formula.replace("price", "close"),
        inputs,
        lambda b, c, x=0.0: float(quantity.value(b, c, x)),
        known_on=day,
    )
