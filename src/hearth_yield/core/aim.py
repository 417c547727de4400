"""The aim: a yield or price the person would like, and how often the market offered it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from .errors import InvalidInput, MethodError
from .facts import PayerFile
from .figure import Figure, Touch, Unit, Unknown, derive
from .ranges import YieldRange, price_at_yield
from .record import Record
from .ties import all_at_least, all_at_most
from .weekly import past_year


@dataclass(frozen=True, slots=True, kw_only=True)
class Aim:
    """A yield (or price) the person would like, and how often the market offered it."""

    target_yield: Figure
    target_price: Figure
    against_price: Figure
    weeks_offered: Figure
    last_offered: date | None
    closes_52: Figure


def yield_at_price(record: Record, price: float) -> float:
    """declared rate ÷ price, the yield a price aims at. Raises MethodError without either."""
    rate = record.declared_rate.value
    if price <= 0 or not rate:
        raise MethodError(
            "no price can be aimed at" if not rate else "a target price must be above 0",
            field="aim_price",
            value=price,
            rule="a price above 0, of a payer that pays",
        )
    return rate / price


def aim_at(
    file: PayerFile,
    record: Record,
    span: YieldRange,
    target_yield: float,
    touch: Touch | None = None,
    *,
    typed: bool = True,
) -> Aim:
    """What a target yield means as a price, and how often it was to be had.

    touch: that of the figure it was taken from, where the person did not type it. typed: whether
    the person did.

    weeks_offered counts sampled weeks with a yield at or above the target; closes_52 counts the
    closes of the past 52 weeks at or below the target price. Source: docs/method.md, Range.
    """
    origin = "yours" if typed else "today's yield, until you set one"
    wanted = Figure(
        label="target yield", unit=Unit.YIELD, value=target_yield, notes=(origin,), touch=touch
    )
    if target_yield <= 0:
        raise InvalidInput(
            "a target yield must be above 0", field="aim", value=target_yield, rule="above 0 %"
        )
    price = derive(
        "price at the target yield",
        Unit.PER_SHARE,
        "declared rate ÷ target yield",
        [record.declared_rate, wanted],
        lambda d, t: price_at_yield(d, t) if d > 0 else Unknown("nothing is being paid"),
        currency=file.payer.currency,
    )
    offered = all_at_least(span.weeks.yields, target_yield)
    last = span.weeks.days[offered][-1].astype(date) if offered.any() else None
    recent = file.adjusted_closes[past_year(file)]
    return Aim(
        target_yield=wanted,
        target_price=price,
        against_price=derive(
            "target price vs price",
            Unit.FRACTION,
            "target price ÷ price − 1",
            [price, file.price],
            lambda t, p: t / p - 1,
        ),
        weeks_offered=derive(
            "weeks that offered it",
            Unit.WEEKS,
            "sampled weeks with a yield at or above the target",
            [wanted, span.count],
            lambda *_: float(offered.sum()),
        ),
        last_offered=last,
        closes_52=derive(
            "closes at or below it in 52 weeks",
            Unit.COUNT,
            f"of {len(recent)} closes held, those at or below the target price",
            [price],
            lambda p: float(all_at_most(recent, p).sum()),
            period=f"of {len(recent)}",
        ).also(file.closes_touch(file.day - timedelta(weeks=52), file.day)),
    )
