"""What a sum would buy of a payer and earn, at today's price and at the price one would buy below.
(docs/method.md, Decisions)"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..errors import InvalidInput
from ..figures.figure import Figure, Unit, derive, given
from ..figures.parts import HoldsFigures

MOST = 1e12
PARTS = {"year": 1, "quarter": 4, "month": 12}


@dataclass(frozen=True, slots=True, kw_only=True)
class Bought(HoldsFigures):
    """What one price buys: whole shares, what they cost, and what they earn at the declared rate,
    before tax and after it."""

    price: Figure
    shares: Figure
    spent: Figure
    year: Figure
    quarter: Figure
    month: Figure
    year_after_tax: Figure
    quarter_after_tax: Figure
    month_after_tax: Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Outlay(HoldsFigures):
    """amount: in the payer's currency. now: at today's price; below: at the buy-below price."""

    amount: Figure
    now: Bought
    below: Bought


def check_outlay(amount: float | None, price: float | None) -> None:
    """Raises InvalidInput."""
    for field, value, most in (("outlay", amount, MOST), ("outlay_at", price, 1e9)):
        if value is not None and not 0 < value <= most:
            what = "a sum to put in" if field == "outlay" else "a price"
            raise InvalidInput(
                f"{what} must be above 0", field=field, value=value, rule=f"0 < it ≤ {most:,.0f}"
            )


def outlay_of(
    amount: float, price: Figure, buy_below: Figure, rate: Figure, kept: Figure, currency: str
) -> Outlay:
    """10,000 at 61.76, of a payer that pays 1.98 a year: 161 shares for 9,943.36, earning
    318.78 a year. kept: the part of a dividend that is kept after tax."""
    held = given("sum to put in", Unit.INDEX, amount, "yours", currency=currency)
    return Outlay(
        amount=held,
        now=_bought(held, price, rate, kept, currency),
        below=_bought(held, buy_below, rate, kept, currency),
    )


def _bought(amount: Figure, price: Figure, rate: Figure, part: Figure, currency: str) -> Bought:
    shares = derive(
        "whole shares",
        Unit.COUNT,
        f"sum ÷ {price.label}, rounded down",
        [amount, price],
        lambda a, p: float(math.floor(a / p * (1 + 1e-12))),
    )
    spent = derive(
        "what they cost",
        Unit.INDEX,
        f"whole shares × {price.label}",
        [shares, price],
        lambda n, p: n * p,
        currency=currency,
    )
    earned = {
        name: derive(
            f"income a {name}",
            Unit.INDEX,
            "whole shares × declared rate" + (f" ÷ {n}" if n > 1 else ""),
            [shares, rate],
            lambda count, r, n=n: count * r / n,
            currency=currency,
        )
        for name, n in PARTS.items()
    }
    kept = {
        f"{name}_after_tax": derive(
            f"income a {name}, after tax",
            Unit.INDEX,
            f"income a {name} × part kept of a dividend",
            [figure, part],
            lambda income, k: income * k,
            currency=currency,
        )
        for name, figure in earned.items()
    }
    return Bought(price=price, shares=shares, spent=spent, **earned, **kept)
