"""What was bought and sold after a decision."""

from datetime import date
from decimal import Decimal
from fractions import Fraction

import pytest

from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.core.household.followed import Followed, followed

from .build import PAYER

DECIDED = date(2024, 3, 1)
SPLIT = [(date(2024, 9, 2), Fraction(2))]


def trade(kind: EntryKind, day: date, shares: int, price: str, fee: int = 0, tax: int = 0) -> Entry:
    return Entry(
        id=0,
        account=1,
        kind=kind,
        day=day,
        payer=PAYER,
        shares=shares * 10**8,
        price=Decimal(price),
        currency="TLL",
        fee=fee,
        tax=tax,
    )


BUYS = [
    trade(EntryKind.BUY, date(2024, 2, 29), 7, "1"),
    trade(EntryKind.BUY, DECIDED, 100, "20", fee=500),
    trade(EntryKind.BUY, date(2024, 5, 2), 50, "24", fee=500),
]
SALE = trade(EntryKind.SELL, date(2025, 1, 2), 30, "15", fee=600, tax=1000)


def after(trades: list[Entry], before: date | None = None, currency: str = "TLL") -> Followed:
    below = Decimal("21.00")
    return followed(trades, SPLIT, currency, since=DECIDED, before=before, buy_below=below)


def test_trades_are_counted_in_todays_shares_from_the_day_on() -> None:
    found = after([*BUYS, SALE])
    assert found.bought is not None
    assert (found.bought.shares.value, found.bought.price.value) == (300.0, 10.7)
    assert (found.bought.first, found.bought.last) == (DECIDED, date(2024, 5, 2))
    assert found.against_buy_below is not None
    assert found.against_buy_below.value == pytest.approx(0.019047619)
    assert found.sold is not None
    assert (found.sold.shares.value, found.sold.price.value) == (30.0, 14.8)


def test_what_came_after_the_next_decision_is_not_counted() -> None:
    found = after([*BUYS, SALE], before=date(2024, 5, 2))
    assert found.bought is not None
    assert found.bought.shares.value == 200.0
    assert found.sold is None


def test_a_trade_in_another_currency_has_no_average_and_says_so() -> None:
    found = after(BUYS, currency="THK")
    assert found.bought is not None
    assert found.bought.price.value is None
    assert found.bought.price.reason == "a trade was entered in TLL"
    assert found.bought.shares.value == 300.0
