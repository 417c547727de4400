"""The aim: a value or price the person would like, and how often the market offered it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from ..errors import InvalidInput, MethodError
from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Touch, Unit, derive
from ..figures.parts import HoldsFigures
from ..figures.ties import all_at_least, all_at_most
from .ruler import Ruler, price_at_value
from .weekly import past_year


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim(HoldsFigures):
    """A value of a quantity (or a price) that is aimed at, and how often the market offered it."""

    target: Figure
    target_price: Figure
    against_price: Figure
    weeks_offered: Figure
    last_offered: date | None
    closes_52: Figure


def target_at_price(ruler: Ruler, price: float) -> float:
    """What a price aims at: 1.40 at 40.00 → a yield of 3.5 %. Raises MethodError without either."""
    base = ruler.base.value
    if price <= 0 or not base:
        raise MethodError(
            "no price can be aimed at" if not base else "a target price must be above 0",
            field="aim_price",
            value=price,
            rule="a price above 0, of a payer that pays",
        )
    beside = ruler.beside.value if ruler.beside else 0.0
    return float(ruler.quantity.value(base, price, beside or 0.0))


def aim_at(
    file: PayerFile, ruler: Ruler, target: float, touch: Touch | None = None, *, typed: bool = True
) -> Aim:
    """What a target means as a price, and how often it was to be had.

    touch: that of the figure it was taken from, where the person did not type it. typed: whether
    the person did.

    weeks_offered counts sampled weeks at the target or better; closes_52 counts the closes of the
    past 52 weeks at or below the target price. Source: docs/method.md, Range.
    """
    quantity = ruler.quantity
    if target <= 0:
        raise InvalidInput(
            f"a target {quantity.name} must be above 0", field="aim", value=target, rule="above 0"
        )
    origin = "yours" if typed else f"today's {quantity.name}, until you set one"
    wanted = Figure(
        label=f"target {quantity.name}",
        unit=quantity.unit,
        value=target,
        notes=(origin,),
        touch=touch,
    )
    beside = [ruler.beside] if ruler.beside else []
    label = f"price at the target {quantity.name}"
    price = price_at_value(label, quantity, ruler.base, wanted, beside)
    return Aim(
        target=wanted,
        target_price=price,
        against_price=derive(
            "target price vs price",
            Unit.FRACTION,
            "target price ÷ price − 1",
            [price, file.price],
            lambda t, p: t / p - 1,
        ),
        **_offered(ruler, wanted, target),
        closes_52=_closes(file, price),
    )


def _offered(ruler: Ruler, wanted: Figure, target: float) -> dict[str, Any]:
    """Weeks at the target or better, and the last of them."""
    quantity, values = ruler.quantity, ruler.weeks.values
    high = quantity.cheap_when_high
    offered = all_at_least(values, target) if high else all_at_most(values, target)
    side = "above" if high else "below"
    weeks = derive(
        "weeks that offered it",
        Unit.WEEKS,
        f"sampled weeks with a {quantity.name} at or {side} the target",
        [wanted, ruler.count],
        lambda *_: float(offered.sum()),
    )
    last = ruler.weeks.days[offered][-1].astype(date) if offered.any() else None
    return {"weeks_offered": weeks, "last_offered": last}


def _closes(file: PayerFile, price: Figure) -> Figure:
    """Closes of the past 52 weeks at or below a price."""
    recent = file.adjusted_closes[past_year(file)]
    return derive(
        "closes at or below it in 52 weeks",
        Unit.COUNT,
        f"of {len(recent)} closes held, those at or below the target price",
        [price],
        lambda p: float(all_at_most(recent, p).sum()),
        period=f"of {len(recent)}",
    ).with_touch(file.closes_touch(file.day - timedelta(weeks=52), file.day))
