"""Income as figures: after tax, growth against prices."""

import pytest

from hearth_yield.core.figures.figure import Unit, given
from hearth_yield.core.household.income.change import Changed
from hearth_yield.core.household.income.figures import IncomeFigures


def figures(linked: float | None, prices: float = 0.025) -> IncomeFigures:
    return IncomeFigures(
        home="TLL",
        apart=(),
        kept=None,
        changed=Changed(first=360.0, last=372.0, changes=(), linked=linked, without=()),
        prices=given("rise of prices", Unit.FRACTION, prices, "a test"),
    )


def test_growth_is_set_against_prices() -> None:
    found = figures(372 / 400 - 1)
    assert found.linked.value == pytest.approx(-0.07)
    assert found.real.value == pytest.approx(-0.092683, abs=5e-7)
    assert found.change.value == 12.0


def test_nothing_that_paid_before_has_no_growth() -> None:
    found = figures(None)
    assert found.linked.reason == "nothing paid anything at the beginning"
    assert found.real.value is None
    assert found.a_year.reason == "nothing is held"
