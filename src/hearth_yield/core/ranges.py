"""Range: is the yield high or low for this payer? (docs/method.md, Range)"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial
from typing import Any

import numpy as np

from .errors import MethodError
from .facts import Floats, PayerFile
from .figure import Figure, Row, Sample, Touch, Unit, Unknown, derive, percent, touch_of, unknown
from .payments import READ_BACK, hand_in
from .record import Record
from .robust import quantile
from .ties import all_at_least, all_at_most, ties
from .weekly import WeeklyYields, past_year, weekly_yields

WINDOWS: dict[str, int | None] = {"3": 156, "5": 260, "10": 520, "all": None}
LEAST_WEEKS = 52
SCALE_STEPS = 9


@dataclass(frozen=True, slots=True, kw_only=True)
class QuarterEnd:
    day: date
    fraction: Figure
    against_mean: Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class YieldRange:
    """The yield of one payer against its own weeks in one window."""

    window: str
    now: Figure
    weeks: WeeklyYields
    count: Figure
    mean: Figure
    median: Figure
    lower_quartile: Figure
    upper_quartile: Figure
    highest: Figure
    lowest: Figure
    deviation: Figure
    percentile: Figure
    share_of_weeks: Figure
    longest_above: Figure
    fair_price: Figure
    premium: Figure
    low_52: Figure
    high_52: Figure
    quarters: tuple[QuarterEnd, ...]
    price_scale: tuple[tuple[float, float], ...]


def percentile_of(sample: Floats, today: float) -> float:
    """Mid-rank: (below + ½ equal) / n, a fraction.

    Source: docs/method.md, Range. 3.1 3.4 3.4 3.6 3.9 4.2, today 3.6 → 0.5833.
    """
    equal = ties(sample, today)
    below = float(((sample < today) & ~equal).sum())
    return (below + float(equal.sum()) / 2) / len(sample)


def share_of_weeks_at_least(sample: Floats, today: float) -> float:
    """Share of the sample at or above today's: 0.5 in the example of `percentile_of`."""
    return float(all_at_least(sample, today).sum()) / len(sample)


def longest_run_above(sample: Floats, level: float) -> tuple[int, int]:
    """Length and last index of the longest run above a level; (0, -1) when there is none."""
    best, end, run = 0, -1, 0
    for i, above in enumerate(~all_at_most(sample, level)):
        run = run + 1 if above else 0
        if run > best:
            best, end = run, i
    return best, end


def price_at_yield(declared_rate: float, yield_fraction: float) -> float:
    """declared rate ÷ yield. 1.40 at 3.5 % → 40.00; at 4 % → 35.00."""
    if yield_fraction <= 0:
        raise MethodError(
            "a target yield must be above 0", field="yield", value=yield_fraction, rule="yield > 0"
        )
    return declared_rate / yield_fraction


def yield_now(file: PayerFile, record: Record) -> Figure:
    return derive(
        "yield",
        Unit.YIELD,
        "declared rate ÷ price",
        [record.declared_rate, file.price],
        lambda d, p: d / p if p > 0 else Unknown("the price is not positive"),
        period=file.price.period,
    )


def _rows_of(w: WeeklyYields) -> list[Row]:
    return [
        Row(day=d, values=(float(y), float(r), float(c)), source=int(s), since=k)
        for d, y, r, c, s, k in zip(
            w.days.astype(date),
            w.yields,
            w.rates,
            w.closes,
            w.sources,
            w.rate_days.astype(date),
            strict=True,
        )
    ]


class _Statistics:
    """Builds the figures that rest on one sample of weeks."""

    def __init__(self, file: PayerFile, weeks: WeeklyYields, left_out: int) -> None:
        self.weeks = weeks
        self.close_age = file.close_age
        self.n = len(weeks.yields)
        self.ordered = np.sort(weeks.yields)
        self.currency = file.payer.currency
        span = f"{weeks.days[0]} to {weeks.days[-1]}" if self.n else None
        notes = (f"{left_out} weeks without a known dividend left out",) if left_out else ()
        self.count = Figure(
            label="weeks in the sample",
            unit=Unit.WEEKS,
            value=float(self.n),
            formula="last closes of complete weeks, each with the rate known that day",
            period=span,
            notes=notes,
            touch=_touch_of(file, weeks),
            sample=Sample(
                columns=(
                    ("yield", Unit.YIELD),
                    ("declared rate", Unit.PER_SHARE),
                    ("close", Unit.PER_SHARE),
                ),
                rows=partial(_rows_of, weeks),
            ),
        )

    def figure(self, label: str, unit: Unit, formula: str, value: float, **meta: Any) -> Figure:
        if self.n < LEAST_WEEKS:
            reason = f"{self.n} weeks with a known yield; {LEAST_WEEKS} are needed"
            return unknown(label, unit, reason, formula=formula, inputs=(self.count,), **meta)
        figure = Figure(
            label=label, unit=unit, value=value, formula=formula, inputs=(self.count,), **meta
        )
        return self.close_age.of(figure)

    def quantile(self, label: str, q: float) -> Figure:
        value = quantile(self.ordered, q) if self.n else 0.0
        return self.figure(label, Unit.YIELD, f"{percent(q)} of the weeks lie below", value)

    def extreme(self, label: str, highest: bool) -> Figure:
        if not self.n:
            return self.figure(label, Unit.YIELD, label, 0.0)
        y = self.weeks.yields
        i = int(np.argmax(y) if highest else np.argmin(y))
        return self.figure(
            label,
            Unit.YIELD,
            "the week with the highest yield" if highest else "the week with the lowest yield",
            float(y[i]),
            known_on=self.weeks.days[i].astype(date),
        )

    def mean(self, label: str) -> Figure:
        value = float(self.weeks.yields.mean()) if self.n else 0.0
        return self.figure(label, Unit.YIELD, "mean of the weekly yields", value)

    def longest_above(self, mean: Figure) -> Figure:
        run, end = longest_run_above(self.weeks.yields, mean.value or 0.0)
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
        """A fraction that holds today's yield against the sample."""
        sample = self.figure("weeks in the sample", Unit.WEEKS, "complete weeks", self.n)
        return derive(
            label,
            Unit.FRACTION,
            formula,
            [now, self.count if sample.known else sample],
            lambda t, _: compute(self.weeks.yields, t),
        )


def range_of_yield(
    file: PayerFile, record: Record, window: str, weekly: WeeklyYields | None = None
) -> YieldRange:
    """Today's yield against the complete weeks of one window ("3", "5", "10" years or "all")."""
    if window not in WINDOWS:
        raise MethodError(
            "no such window", field="window", value=window, rule=f"one of {', '.join(WINDOWS)}"
        )
    weekly = weekly if weekly is not None else weekly_yields(file)
    in_window = weekly.last(WINDOWS[window])
    weeks = in_window.paying()
    stats = _Statistics(file, weeks, len(in_window.days) - len(weeks.days))
    now = yield_now(file, record)
    if now.value == 0:
        now = unknown("yield", Unit.YIELD, "nothing is being paid", inputs=now.inputs)
    name = "all years" if window == "all" else f"{window}-year"
    mean = stats.mean(f"{name} mean yield")
    fair = _fair_price(record, mean)
    return YieldRange(
        window=window,
        now=now,
        weeks=weeks,
        count=stats.count,
        mean=mean,
        median=stats.quantile(f"{name} median yield", 0.5),
        lower_quartile=stats.quantile("lower quartile of yields", 0.25),
        upper_quartile=stats.quantile("upper quartile of yields", 0.75),
        highest=stats.extreme("highest yield", True),
        lowest=stats.extreme("lowest yield", False),
        deviation=_over(f"yield vs {name} mean", "yield today ÷ mean yield − 1", now, mean),
        percentile=stats.against(
            "percentile of today's yield",
            "(weeks below + ½ weeks equal) ÷ weeks",
            now,
            percentile_of,
        ),
        share_of_weeks=stats.against(
            "share of weeks at least this high",
            "weeks with a yield at or above today's ÷ weeks",
            now,
            share_of_weeks_at_least,
        ),
        longest_above=stats.longest_above(mean),
        fair_price=fair,
        premium=_over(
            "price vs price at the mean yield",
            "price ÷ price at the mean yield − 1",
            file.price,
            fair,
        ),
        low_52=_extreme_close(file, "52-week low", highest=False),
        high_52=_extreme_close(file, "52-week high", highest=True),
        quarters=tuple(_quarter_ends(file, in_window, mean)),
        price_scale=price_scale(record.declared_rate, weeks.yields, now),
    )


def _over(label: str, formula: str, one: Figure, other: Figure) -> Figure:
    return derive(label, Unit.FRACTION, formula, [one, other], lambda a, b: a / b - 1)


def _fair_price(record: Record, mean: Figure) -> Figure:
    return derive(
        "price at the mean yield",
        Unit.PER_SHARE,
        "declared rate ÷ mean yield",
        [record.declared_rate, mean],
        lambda d, m: price_at_yield(d, m) if d > 0 else Unknown("nothing is being paid"),
        currency=record.declared_rate.currency,
    )


def price_scale(rate: Figure, yields: Floats, now: Figure) -> tuple[tuple[float, float], ...]:
    """Yields from a little under the lowest to a little over the highest, each with its price.

    Returns: nine (yield, price) pairs, evenly spaced, or none while nothing is being paid.
    """
    seen = [*yields.tolist(), *([now.value] if now.value else [])]
    if not rate.value or not seen:
        return ()
    steps = np.linspace(min(seen) * 0.92, max(seen) * 1.08, SCALE_STEPS)
    return tuple((float(y), price_at_yield(rate.value, float(y))) for y in steps)


def _touch_of(file: PayerFile, weeks: WeeklyYields) -> Touch | None:
    """Whether a person had a hand in a close of the sample, or in a dividend it reads."""
    if not len(weeks.days):
        return None
    first, last = weeks.days[0].astype(date), weeks.days[-1].astype(date)
    week = timedelta(days=7)
    closes = file.closes_touch(first - week, last + week)
    return touch_of([closes, hand_in(file, first - READ_BACK)])


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
    return file.close_age.of(figure).also(
        file.closes_touch(file.day - timedelta(weeks=52), file.day)
    )


def _quarter_ends(file: PayerFile, weeks: WeeklyYields, mean: Figure) -> list[QuarterEnd]:
    """The last sampled week of each of the last eight calendar quarters."""
    if not len(weeks.days):
        return []
    quarter = weeks.days.astype("datetime64[M]").astype(np.int64) // 3
    ends = np.append(np.flatnonzero(quarter[:-1] != quarter[1:]), len(quarter) - 1)
    rows = []
    for i in ends[-8:]:
        day = weeks.days[i].astype(date)
        label = f"yield on {day.isoformat()}"
        fraction = _yield_of_week(file, weeks, int(i), label)
        rows.append(
            QuarterEnd(
                day=day,
                fraction=fraction,
                against_mean=_over(f"{label} vs mean", "yield ÷ mean yield − 1", fraction, mean),
            )
        )
    return rows


def _yield_of_week(file: PayerFile, weeks: WeeklyYields, i: int, label: str) -> Figure:
    """One week's yield from the rate known by then and that week's close."""
    day, since = weeks.days[i].astype(date), weeks.rate_days[i].astype(date)
    read_by_hand = hand_in(file, day - READ_BACK)
    if np.isnan(weeks.yields[i]):
        none = unknown(label, Unit.YIELD, "nothing known was being paid that week")
        return none.also(read_by_hand)
    source, currency = int(weeks.sources[i]), file.payer.currency
    rate = Figure(
        label="declared rate known that day",
        unit=Unit.PER_SHARE,
        value=float(weeks.rates[i]),
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
    return derive(
        label, Unit.YIELD, "declared rate ÷ close", [rate, close], lambda r, c: r / c, known_on=day
    )
