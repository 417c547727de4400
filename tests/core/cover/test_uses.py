"""Uses of cash and the year of crossing, by hand."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.cover.uses import PARTS, uses_of_cash
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.review import build_review
from tests.core.build import TODAY, payer, plain_years, year_statement, yearly_raises

WORKED = {
    "operating_cash_flow": 480.0,
    "capital_expenditure": 150.0,
    "dividends_paid": 160.0,
    "buybacks": 60.0,
    "share_issuance": 10.0,
    "short_term_debt": 0.0,
    "long_term_debt": 330.0,
    "cash": 95.0,
    "total_assets": 2000.0,
}
BEFORE = {"long_term_debt": 300.0, "short_term_debt": 0.0, "cash": 100.0, "total_assets": 2000.0}


def used(*years: dict[str, float]):  # type: ignore[no-untyped-def]
    held = tuple(year_statement(2026 - len(years) + n, **x) for n, x in enumerate(years))
    return uses_of_cash(fiscal_years(PayerFile(payer=payer(), statements=held).cut(TODAY)))


def test_the_worked_example() -> None:
    """480 − 150 − 160 − 60 + 10 + 30 + 5 (cash fell) → other 155."""
    (uses,) = used(BEFORE, WORKED)
    assert uses.other.value == 155
    assert [getattr(uses, name).value for name in PARTS] == [150, 160, 50, -30, -5]
    assert uses.shares["dividends"].value == pytest.approx(1 / 3)
    assert uses.maintenance.value is None


def test_years_together_and_a_gap() -> None:
    two = used(BEFORE, WORKED, WORKED)
    assert [u.label for u in two] == ["fiscal 2024", "fiscal 2025", "2 years"]
    assert two[-1].operating_cash_flow.value == 960
    assert two[-1].other.value == 155 + (480 - 150 - 160 - 50)
    assert used(WORKED) == ()


@given(
    st.lists(
        st.fixed_dictionaries(
            {name: st.integers(0, 10**12).map(float) for name in (*WORKED, "preferred_dividends")}
        ),
        min_size=2,
        max_size=6,
    )
)
def test_the_parts_sum_to_what_came_in_to_the_unit(years: list[dict[str, float]]) -> None:
    for uses in used(*years):
        parts = [getattr(uses, name).value for name in (*PARTS, "other")]
        assert sum(parts) == uses.operating_cash_flow.value


def crossing_of(cash: list[float], paid: list[float]):  # type: ignore[no-untyped-def]
    statements = tuple(
        s
        for n, (c, p) in enumerate(zip(cash, paid, strict=True))
        for s in plain_years(2021 + n, 2021 + n, cash=c, paid=p)
    )
    file = PayerFile(
        payer=payer(), statements=statements, dividends=tuple(yearly_raises(2015, 2025, 1.0, 0.0))
    )
    return build_review(file.cut(TODAY), HouseRules()).cover.leading


def test_the_year_in_which_the_dividend_overtakes_cash() -> None:
    """Per share: cash 10.0 falling 0.5 a year to 8.0 in 2025, dividends 4.0 rising 0.5 to 6.0: the
    room of 2.0 closes by 1.0 a year, so 2027."""
    found = crossing_of([100, 95, 90, 85, 80], [40, 45, 50, 55, 60])
    assert found.crossing.value == pytest.approx(2.0, abs=0.02)
    assert found.crossing_year == 2027


def test_lines_that_part_or_have_crossed_say_so() -> None:
    parting = crossing_of([100, 105, 110, 115, 120], [40, 40, 40, 40, 40])
    assert (parting.crossing.value, parting.crossing.breach) == (None, None)
    assert parting.crossing_year is None
    over = crossing_of([50, 50, 50, 50, 50], [60, 60, 60, 60, 60])
    assert over.crossing.breach == "overtaken already"
