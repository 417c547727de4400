"""Lines over the years and the newest quarter, by hand."""

from collections.abc import Mapping
from datetime import date

import pytest

from hearth_yield.core.facts.edits import Edited
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.footing.lines import Line, Mark
from hearth_yield.core.footing.stage import build_footing
from tests.core.build import TODAY, payer, year_statement


def lines(
    years: list[Mapping[str, float]], excluded: Mapping[tuple[str, date], Edited] | None = None
) -> dict[str, Line]:
    held = tuple(year_statement(2026 - len(years) + n, **x) for n, x in enumerate(years))
    file = PayerFile(payer=payer(), statements=held, excluded_years=excluded or {}).cut(TODAY)
    return {x.id: x for x in build_footing(file).lines}


def test_growth_against_revenue_and_what_it_says() -> None:
    """Over three years revenue 1000 → 1331 (10 % a year), costs 500 → 864 (20 %), debt 300 → 300
    (0 %), shares 100 → 97.0299 (−1 %), occupancy 0.90 → 0.96 (2 points a year)."""
    found = lines(
        [
            {
                "revenue": 1000 * 1.1**n,
                "cost_of_revenue": 500 * 1.2**n,
                "short_term_debt": 0.0,
                "long_term_debt": 300.0,
                "diluted_shares": 100 * 0.99**n,
                "occupancy": 0.90 + 0.02 * n,
                "total_assets": 2000.0,
                "tax": 30.0 * 1.05**n,
            }
            for n in range(4)
        ]
    )
    revenue, costs, debt = found["revenue"], found["cost_of_revenue"], found["total_debt"]
    assert revenue.growth_3.value == pytest.approx(0.10)
    assert (revenue.growth_5.value, revenue.mark) == (None, Mark.FOR)
    assert costs.against.value == pytest.approx(0.10)
    assert (costs.mark, debt.mark) == (Mark.AGAINST, Mark.FOR)
    assert debt.against.value == pytest.approx(-0.10)
    assert found["diluted_shares"].growth_3.value == pytest.approx(-0.01)
    assert found["diluted_shares"].mark is Mark.FOR
    assert found["occupancy"].growth_3.value == pytest.approx(0.02)
    assert found["occupancy"].latest.value == pytest.approx(0.02)
    assert found["tax"].mark is None
    # gross profit 500 → 1331 − 864 = 467: (467 / 500)^(1/3) − 1 = −2.2503 %
    assert found["gross_profit"].growth_3.value == pytest.approx(-0.022503, abs=1e-6)
    assert found["gross_profit"].mark is Mark.AGAINST


def test_a_freak_year_is_ringed_and_counts_until_it_is_excluded() -> None:
    """Net income 100, 104, 108 … with 400 in place of 124 in 2022: the changes into and out of it
    are the extremes of nine, and the middle one, 112 to 116, stays it without them."""
    earned = [100.0 + 4 * n for n in range(10)]
    earned[6] = 400.0  # 2022, the seventh of 2016 to 2025
    years = [{"revenue": 1000.0, "net_income": e} for e in earned]
    found = lines(years)["net_income"]
    assert found.freaks == ["fiscal 2022"]
    assert len(found.median.inputs) == 9
    assert found.median.value == pytest.approx(4 / 112)
    note = Edited(original=None, reason="sold the mill", made_on=date(2026, 1, 5))
    without = lines(years, {("earnings", date(2022, 12, 31)): note})["net_income"]
    assert len(without.median.inputs) == 7
    assert without.median.value == pytest.approx(4 / 112)
    assert "fiscal 2022 excluded: sold the mill" in without.median.notes
    other = lines(years, {("ffo", date(2022, 12, 31)): note})["net_income"]
    assert len(other.median.inputs) == 9


def test_a_wild_year_does_not_decide_the_usual_change() -> None:
    """+300, −60, +5, +4 and +6 %: the mean would be 51 %."""
    sold = [100.0]
    for change in (3.0, -0.6, 0.05, 0.04, 0.06):
        sold.append(sold[-1] * (1 + change))
    years = [{"revenue": r} for r in sold]
    assert lines(years)["revenue"].median.value == pytest.approx(0.05)


def quarter(end: date, **more: float) -> Statement:
    return Statement(
        period_end=end,
        span=Span.QUARTER,
        published_on=date(2026, 5, 10) if end.year == 2026 else date(2025, 5, 10),
        currency="TLL",
        lines=more,
    )


def test_the_newest_quarter_line_by_line_what_moved_most_first() -> None:
    """Revenue 200 → 210 (+5 %), net income 20 → 15 (−25 %), operating expenses 60 → 75 (+25 %, 20
    points over revenue), interest 0.4 → 0.8 (+100 %, but 0.2 % of revenue)."""
    then = {"revenue": 200.0, "net_income": 20.0, "operating_expenses": 60.0}
    now = {"revenue": 210.0, "net_income": 15.0, "operating_expenses": 75.0}
    held = (
        quarter(date(2025, 3, 31), interest_expense=0.4, **then),
        quarter(date(2026, 3, 31), interest_expense=0.8, **now),
    )
    footing = build_footing(PayerFile(payer=payer(), statements=held).cut(TODAY))
    (compared,) = footing.compared
    assert [x.id for x in compared.lines] == [
        "operating_expenses",
        "net_income",
        "revenue",
        "interest_expense",
        "net_margin",
    ]
    expenses, income, revenue, interest, margin = compared.lines
    assert (revenue.amount.value, revenue.mark) == (10.0, Mark.FOR)
    assert income.change is not None
    assert (income.change.value, income.mark) == (pytest.approx(-0.25), Mark.AGAINST)
    assert (expenses.mark, interest.mark) == (Mark.AGAINST, Mark.AGAINST)
    # 15 / 210 − 20 / 200 = −2.857 points
    assert margin.amount.value == pytest.approx(-0.028571, abs=1e-6)


def test_without_a_quarter_of_the_year_before_nothing_is_compared() -> None:
    held = (quarter(date(2026, 3, 31), revenue=210.0),)
    assert build_footing(PayerFile(payer=payer(), statements=held).cut(TODAY)).compared == ()
