"""The ruler: a quantity of today against the payer's own weeks. (docs/method.md, Range)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

import numpy as np

from ..errors import MethodError
from ..facts.payer_file import PayerFile
from ..figures.arrays import Floats
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..record.history import Record
from .quantity import YIELD, Quantity
from .quarters import QuarterEnd, over, quarter_ends
from .sample import Statistics, percentile_of, share_above
from .weekly import Weekly, past_year, weekly_values

WINDOWS: dict[str, int | None] = {"3": 156, "5": 260, "10": 520, "all": None}
TYPICAL = ("mean", "median")
"""What can stand for the usual value."""
SCALE_STEPS = 9


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
    base, beside = quantity.base(file, record), beside_of(file, quantity)

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


def beside_of(file: PayerFile, quantity: Quantity) -> list[Figure]:
    """What the value takes besides base and price, as an input; none for most."""
    return [quantity.beside(file)] if quantity.beside else []


def ruler_of(
    file: PayerFile,
    record: Record,
    window: str,
    quantity: Quantity = YIELD,
    weekly: Weekly | None = None,
    typical: str = "",
) -> Ruler:
    """Today's value against the complete weeks of one window ("3", "5", "10" years, "all", or
    between two days: "2019-02-04..2020-03-31").

    weekly: the quantity's, where the caller has them. typical: "mean" or "median", what stands for
    the usual value; the quantity's own where it is not said.
    """
    weekly = weekly if weekly is not None else weekly_values(file, quantity)
    in_window = _within(weekly, window)
    weeks = in_window.known()
    stats = Statistics(file, quantity, weeks, len(in_window.days) - len(weeks.days))
    now, base, name = value_now(file, record, quantity), quantity.base(file, record), quantity.name
    beside = beside_of(file, quantity)
    span = window_told(window)
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
        premium=over(
            f"price vs price at the {usual} {name}",
            f"price ÷ price at the {usual} {name} − 1",
            file.price,
            fair,
        ),
        low_52=_extreme_close(file, "52-week low", highest=False),
        high_52=_extreme_close(file, "52-week high", highest=True),
        quarters=tuple(quarter_ends(file, quantity, in_window, held, usual)),
        price_scale=price_scale(quantity, base, weeks.values, now, beside),
    )


def _within(weekly: Weekly, window: str) -> Weekly:
    """The complete weeks of a window. Raises MethodError for one that there is not."""
    if window in WINDOWS:
        return weekly.last(WINDOWS[window])
    first, dots, last = window.partition("..")
    if not dots:
        raise MethodError(
            "no such window", field="window", value=window, rule=f"one of {', '.join(WINDOWS)}"
        )
    return weekly.between(date.fromisoformat(first), date.fromisoformat(last))


def window_told(window: str) -> str:
    """ "5-year", "all years", or its two days."""
    if window == "all":
        return "all years"
    return f"{window}-year" if window in WINDOWS else window.replace("..", " to ")


def _compared(
    stats: Statistics, now: Figure, held: Figure, usual: str, label: str
) -> dict[str, Figure]:
    """Today's value against the usual one, and its place among the weeks."""
    name = stats.quantity.name
    return {
        "deviation": over(label, f"{name} today ÷ {usual} {name} − 1", now, held),
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
