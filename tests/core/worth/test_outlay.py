"""What a sum would buy and earn, reckoned by hand."""

from __future__ import annotations

import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figures.figure import Figure, Unit, given, unknown
from hearth_yield.core.worth.outlay import check_outlay, outlay_of

PRICE = given("price", Unit.PER_SHARE, 61.76, "close", currency="TLL")
BELOW = given("buy-below price", Unit.PER_SHARE, 50.0, "yours", currency="TLL")
RATE = given("declared rate", Unit.PER_SHARE, 1.9832, "declared", currency="TLL")


def kept(part: float) -> Figure:
    return given("part kept of a dividend", Unit.FRACTION, part, "house rule")


def value(figure: Figure) -> float:
    assert figure.value is not None, figure.reason
    return figure.value


def test_ten_thousand_at_todays_price_and_below() -> None:
    """161 × 61.76 = 9,943.36; × 1.9832 = 319.2952; a quarter less tax of 25 %. 200 at 50."""
    found = outlay_of(10_000, PRICE, BELOW, RATE, kept(0.75), "TLL")
    assert value(found.now.shares) == 161
    assert value(found.now.spent) == pytest.approx(9943.36)
    assert value(found.now.year) == pytest.approx(319.2952)
    assert value(found.now.quarter) == pytest.approx(79.8238)
    assert value(found.now.month) == pytest.approx(26.607933)
    assert value(found.now.year_after_tax) == pytest.approx(239.4714)
    assert value(found.now.month_after_tax) == pytest.approx(19.95595)
    assert (value(found.below.shares), value(found.below.year)) == (200, pytest.approx(396.64))


def test_a_sum_that_buys_exactly_so_many_loses_none_to_rounding() -> None:
    price = given("price", Unit.PER_SHARE, 0.1, "close")
    assert value(outlay_of(0.3, price, BELOW, RATE, kept(1.0), "TLL").now.shares) == 3


def test_what_is_unknown_stays_unknown() -> None:
    nothing = unknown("declared rate", Unit.PER_SHARE, "no dividend on record")
    found = outlay_of(10_000, PRICE, BELOW, nothing, kept(1.0), "TLL")
    assert value(found.now.shares) == 161
    assert (found.now.year.value, found.now.year.reason) == (
        None,
        "declared rate unknown: no dividend on record",
    )


@pytest.mark.parametrize(("amount", "price"), [(0, None), (-5, None), (1e13, None), (5, 0)])
def test_no_sum_and_no_price_are_refused(amount: float, price: float | None) -> None:
    with pytest.raises(InvalidInput, match="above 0"):
        check_outlay(amount, price)
