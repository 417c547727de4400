"""What other rules do to prices, on four payers worked by hand."""

import pytest

from hearth_yield.core.finding.price_effects import Priced, price_effect


def priced(symbol: str, price: float | None, buy_below: float | None, offered: float) -> Priced:
    return Priced(
        exchange="ELV",
        symbol=symbol,
        name=symbol,
        price=price,
        buy_below=buy_below,
        offered=offered,
        offered_after_tax=offered * 0.75,
        market_return=0.07,
    )


BEFORE = [
    priced("A", 40.0, 50.0, 0.09),
    priced("B", 40.0, 40.0, 0.07),
    priced("C", 40.0, 32.0, 0.06),
    priced("D", 40.0, None, 0.05),
]


def test_a_wider_margin_takes_payers_out_of_reach() -> None:
    """Buy-below falls by a tenth, 50 → 45, 40 → 36, 32 → 28.8: B at 40 is no longer under it."""
    after = [
        priced(p.symbol, p.price, p.buy_below and p.buy_below * 0.9, p.offered or 0) for p in BEFORE
    ]
    found = price_effect(BEFORE, after)
    assert (found.known, found.moved) == (3, 3)
    assert found.by == pytest.approx(-0.1)
    assert (found.in_reach.now, found.in_reach.then) == (2, 1)
    (crossed,) = found.crossings
    assert (crossed.symbol, crossed.before, crossed.after, crossed.in_reach) == (
        "B",
        40.0,
        36.0,
        False,
    )
    assert (found.beats_market.now, found.beats_market.then) == (2, 2)
    assert found.after_tax.now == pytest.approx(0.065 * 0.75)


def test_nothing_moves_where_the_rules_say_the_same() -> None:
    found = price_effect(BEFORE, BEFORE)
    assert (found.moved, found.by, found.crossings) == (0, None, [])


def test_a_payer_without_a_price_or_a_worth_crosses_nothing() -> None:
    after = [priced("D", None, 45.0, 0.05)]
    found = price_effect([priced("D", None, 30.0, 0.05)], after)
    assert (found.crossings, found.in_reach.now, found.moved) == ([], 0, 1)
