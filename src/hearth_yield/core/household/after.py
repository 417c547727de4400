"""What a sum that is put in would make of a position. (docs/method.md, Household)"""

from __future__ import annotations

from dataclasses import dataclass

from ..figures.figure import Figure, Unit, Unknown, derive, given
from ..figures.parts import HoldsFigures
from ..worth.outlay import Bought
from .positions import Position, Quote


@dataclass(frozen=True, slots=True, kw_only=True)
class After(HoldsFigures):
    """In the payer's currency; share_of_value: of all that is owned, with the sum in it."""

    shares: Figure
    cost: Figure
    yield_on_cost: Figure
    share_of_value: Figure


def after_buying(
    quote: Quote, position: Position | None, total: Figure, bought: Bought, home: str
) -> After:
    """position: what is held; None: nothing. total: the value of all that is owned, at home.

    190 at 8,638.00, then 146 for 9,976.18 at 68.33, 1.98 a year: 336 for 18,614.18, 3.574 %.
    """
    currency = quote.currency
    none = given("shares", Unit.COUNT, 0.0, "nothing is held")
    free = given("cost", Unit.INDEX, 0.0, "nothing is held", currency=currency)
    shares = derive(
        "shares after it",
        Unit.COUNT,
        "shares + whole shares bought",
        [position.shares if position else none, bought.shares],
        lambda held, more: held + more,
    )
    cost = derive(
        "cost after it",
        Unit.INDEX,
        "cost + what they cost",
        [position.cost if position else free, bought.spent],
        lambda was, more: was + more,
        currency=currency,
    )
    value = derive(
        "value after it",
        Unit.INDEX,
        f"shares × price × {home} for one {currency}",
        [shares, quote.price, quote.at_home],
        lambda n, p, rate: n * p * rate,
        currency=home,
    )
    return After(
        shares=shares,
        cost=cost,
        yield_on_cost=derive(
            "yield on cost after it",
            Unit.YIELD,
            "shares × declared rate ÷ cost",
            [shares, quote.rate, cost],
            lambda n, r, c: n * r / c if c > 0 else Unknown("nothing was paid"),
        ),
        share_of_value=derive(
            "share of value after it",
            Unit.FRACTION,
            "value after it ÷ (value of all + what they cost)",
            [value, total, bought.spent, quote.at_home],
            lambda v, t, spent, rate: v / (t + spent * rate),
        ),
    )
