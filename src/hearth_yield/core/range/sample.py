"""Statistics of a sample of weeks, each a figure that opens the weeks. (docs/method.md, Range)"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from functools import partial
from typing import Any

import numpy as np

from ..facts.payer_file import PayerFile
from ..facts.robust import quantile
from ..figures.arrays import Floats
from ..figures.figure import (
    Figure,
    Sample,
    SampleRow,
    Touch,
    Unit,
    derive,
    percent,
    touch_of,
    unknown,
)
from ..figures.ties import all_at_most, ties
from .quantity import Quantity
from .weekly import Weekly

LEAST_WEEKS = 52


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


class Statistics:
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
            held = "1 week" if self.n == 1 else f"{self.n} weeks"
            reason = f"{held} with a known {name}; {LEAST_WEEKS} are needed"
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


def _touch_of(file: PayerFile, quantity: Quantity, weeks: Weekly) -> Touch | None:
    """Whether a person had a hand in a close of the sample, or in a base it reads."""
    if not len(weeks.days):
        return None
    first, last = weeks.days[0].astype(date), weeks.days[-1].astype(date)
    week = timedelta(days=7)
    closes = file.closes_touch(first - week, last + week)
    return touch_of([closes, quantity.by_hand(file, first)])
