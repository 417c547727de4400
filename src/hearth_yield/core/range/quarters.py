"""A quantity at the ends of calendar quarters, against its usual value. (docs/method.md, Range)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Unit, derive, unknown
from ..figures.parts import HoldsFigures
from .quantity import Quantity
from .weekly import Weekly


@dataclass(frozen=True, slots=True, kw_only=True)
class QuarterEnd(HoldsFigures):
    day: date
    value: Figure
    against_typical: Figure

    @property
    def key(self) -> str:
        return self.day.isoformat()


def over(label: str, formula: str, one: Figure, other: Figure) -> Figure:
    """one ÷ other − 1."""
    return derive(label, Unit.FRACTION, formula, [one, other], lambda a, b: a / b - 1)


def quarter_ends(
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
        against = over(
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
