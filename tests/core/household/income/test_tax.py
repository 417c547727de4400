"""What tax leaves, worked by hand."""

import pytest

from hearth_yield.core.household.income.tax import TaxRules


@pytest.mark.parametrize(
    ("withheld", "home", "credited", "sheltered", "taken"),
    [
        (0.15, 0.25, 1.0, False, 0.25),
        (0.15, 0.25, 0.0, False, 0.40),
        (0.30, 0.25, 1.0, False, 0.30),
        (0.15, 0.25, 1.0, True, 0.15),
        (0.0, 0.25, 1.0, False, 0.25),
        (0.15, 0.0, 1.0, False, 0.15),
        (0.20, 0.30, 0.5, False, 0.40),
    ],
)
def test_what_is_taken_of_a_dividend(
    withheld: float, home: float, credited: float, sheltered: bool, taken: float
) -> None:
    rules = TaxRules(withheld={"XX": withheld}, home=home, credited=credited)
    assert rules.kept("XX", sheltered) == pytest.approx(1 - taken)


def test_a_country_without_a_rate_withholds_nothing() -> None:
    rules = TaxRules(withheld={"XX": 0.15})
    assert (rules.kept("YY", False), rules.kept(None, False)) == (1.0, 1.0)
    assert rules.takes
    assert not TaxRules().takes
