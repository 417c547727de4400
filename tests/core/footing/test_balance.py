"""What is owed against what carries it: small balance sheets, and what must hold of all."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years
from hearth_yield.core.facts.statements import Span
from hearth_yield.core.figures.figure import Figure, Unit, Unknown
from hearth_yield.core.footing.balance import (
    Balance,
    debt_of_capital,
    debt_to_equity,
    interest_cover,
    owed_against,
    share_cushion,
    years_to_repay,
)
from hearth_yield.core.footing.business import Course, course_of
from hearth_yield.core.footing.indexed import indexed_years
from hearth_yield.core.kinds import Kind
from tests.core.build import TODAY, payer, plain_years, review, steady, year_statement


def money(value: float | None, label: str = "amount") -> Figure:
    reason = None if value is not None else "not reported"
    return Figure(label=label, unit=Unit.MONEY, value=value, reason=reason)


def said(figure: Figure) -> tuple[object, ...]:
    return figure.value, figure.breach, figure.spared


@pytest.mark.parametrize(
    ("owed", "base", "want"),
    [
        (240.0, 120.0, (2.0, None, None)),
        (-30.0, 120.0, (-0.25, None, None)),
        (240.0, 0.0, (None, "no EBITDA", None)),
        (240.0, -5.0, (None, "no EBITDA", None)),
        (0.0, 0.0, (None, None, "no debt")),
        (-30.0, -5.0, (None, None, "no debt")),
        (None, 120.0, (None, None, None)),
        (240.0, None, (None, None, None)),
    ],
)
def test_what_is_owed_against_what_carries_it(
    owed: float | None, base: float | None, want: tuple[object, ...]
) -> None:
    figure = owed_against(
        "x", "f", money(owed), money(base), Unit.MULTIPLE, nothing="no debt", weak="no EBITDA"
    )
    assert said(figure) == want


def test_interest_is_earned_so_many_times_and_none_to_pay_is_passed() -> None:
    assert said(interest_cover(money(360.0), money(50.0))) == (pytest.approx(7.2), None, None)
    assert said(interest_cover(money(-20.0), money(50.0))) == (pytest.approx(-0.4), None, None)
    assert said(interest_cover(money(-20.0), money(0.0))) == (None, None, "no interest to pay")


@pytest.mark.parametrize(
    ("debt", "equity", "want"),
    [
        (40.0, 60.0, (0.4, None, None)),
        (-40.0, 100.0, (pytest.approx(-2 / 3), None, None)),
        (-40.0, 30.0, (None, None, "more cash than debt")),
        (0.0, 0.0, (None, None, "more cash than debt")),
        (40.0, 0.0, (None, "no equity", None)),
        (40.0, -10.0, (None, "no equity", None)),
    ],
)
def test_debt_of_all_capital(debt: float, equity: float, want: tuple[object, ...]) -> None:
    assert said(debt_of_capital(money(debt), money(equity))) == want


def test_equity_that_is_a_sliver_of_assets_says_nothing_and_names_what_does() -> None:
    assert said(debt_to_equity(money(50.0), money(10.0), money(100.0)))[0] == 5.0
    thin = debt_to_equity(money(50.0), money(9.99), money(100.0))
    assert thin.value is None
    assert thin.breach is None
    assert "net debt to EBITDA and debt to assets" in (thin.reason or "")


@given(st.floats(0.01, 0.99), st.floats(0.05, 0.95))
def test_equity_less_its_cushion_stands_at_the_limit(share: float, limit: float) -> None:
    """Debt 1 of capital 1 ÷ share; equity shrunk by the cushion makes debt the limit's share."""
    cushion = share_cushion(share, limit)
    assert not isinstance(cushion, Unknown)
    equity = (1 / share - 1) * (1 - cushion)
    assert 1 / (1 + equity) == pytest.approx(limit, rel=1e-9)


def test_net_cash_is_a_whole_cushion_and_no_equity_none() -> None:
    assert share_cushion(0.0, 0.5) == 1.0
    assert share_cushion(-0.3, 0.5) == 1.0
    assert share_cushion(0.4, 0.5) == pytest.approx(1 / 3)
    assert isinstance(share_cushion(1.0, 0.5), Unknown)


@pytest.mark.parametrize(
    ("debt", "kept", "want"),
    [
        (120.0, 40.0, (3.0, None, None)),
        (120.0, 0.0, (None, "nothing left to repay with", None)),
        (120.0, -1.0, (None, "nothing left to repay with", None)),
        (-10.0, -1.0, (None, None, "more cash than debt")),
    ],
)
def test_years_to_repay(debt: float, kept: float, want: tuple[object, ...]) -> None:
    assert said(years_to_repay(money(debt), money(kept))) == want


SHEET = {
    "cash": 30.0,
    "long_term_debt": 120.0,
    "short_term_debt": 10.0,
    "total_assets": 400.0,
    "total_liabilities": 250.0,
    "equity": 150.0,
    "current_assets": 90.0,
    "current_liabilities": 60.0,
    "ebit": 60.0,
    "depreciation_amortization": 20.0,
    "interest_expense": 8.0,
    "operating_cash_flow": 75.0,
    "capital_expenditure": 25.0,
    "dividends_paid": 20.0,
    "preferred_dividends": 5.0,
    "diluted_shares": 10.0,
}


def balance(**more: float | None) -> Balance:
    lines = {k: v for k, v in (SHEET | more).items() if v is not None}
    file = PayerFile(payer=payer(), statements=(year_statement(2025, **lines),)).cut(TODAY)
    (year,) = fiscal_years(file)
    return Balance(period=year)


def test_one_balance_sheet_read_in_every_way() -> None:
    """Debt 130, net debt 100, EBITDA 80, free cash flow 50 of which 25 is left."""
    b = balance()
    assert {
        "total_debt": 130.0,
        "net_debt": 100.0,
        "debt_to_ebitda": 1.25,
        "debt_of_capital": 0.4,
        "debt_to_equity": pytest.approx(130 / 150),
        "debt_to_assets": 0.325,
        "liabilities_to_assets": 0.625,
        "interest_cover": 7.5,
        "current_ratio": 1.5,
        "cash_to_long_debt": 0.25,
        "years_to_repay": 4.0,
        "cash_less_liabilities": -200.0,
    } == {
        name: getattr(b, name).value
        for name in (
            "total_debt",
            "net_debt",
            "debt_to_ebitda",
            "debt_of_capital",
            "debt_to_equity",
            "debt_to_assets",
            "liabilities_to_assets",
            "interest_cover",
            "current_ratio",
            "cash_to_long_debt",
            "years_to_repay",
            "cash_less_liabilities",
        )
    }


@pytest.mark.parametrize(
    ("missing", "unknown"),
    [
        ("total_assets", "debt_to_assets"),
        ("ebit", "debt_to_ebitda"),
        ("interest_expense", "interest_cover"),
        ("current_liabilities", "current_ratio"),
        ("dividends_paid", "years_to_repay"),
        ("total_liabilities", "cash_less_liabilities"),
    ],
)
def test_a_line_that_is_missing_is_named_where_it_is_missed(missing: str, unknown: str) -> None:
    figure = getattr(balance(**{missing: None}), unknown)
    assert (figure.value, figure.breach, figure.spared) == (None, None, None)
    assert missing.replace("_", " ") in figure.reason.lower().replace("ebit ", "ebit ")


@given(st.floats(0.001, 1000.0))
def test_a_balance_in_another_unit_has_the_same_ratios(by: float) -> None:
    plain = balance()
    money_lines = {k: v * by for k, v in SHEET.items() if k != "diluted_shares"}
    scaled = balance(**money_lines)
    for name in ("debt_to_ebitda", "debt_of_capital", "interest_cover", "years_to_repay"):
        assert getattr(scaled, name).value == pytest.approx(getattr(plain, name).value, rel=1e-9)


def test_years_are_indexed_on_the_first_in_which_all_four_are_above_nil() -> None:
    loss, *good = plain_years(2020, 2023)
    lines = dict(loss.lines) | {"net_income": -5.0}
    statements = (year_statement(2020, **lines), *good)
    file = PayerFile(payer=payer(), statements=statements).cut(TODAY)
    rows = indexed_years(fiscal_years(file))
    assert [r.key for r in rows] == [f"{y}-12-31" for y in range(2020, 2024)]
    assert rows[1].revenue.value == 100.0
    assert rows[0].net_income.value == -5.0
    assert rows[0].base.end.year == 2021
    assert indexed_years(()) == ()


def test_a_line_that_began_below_nil_has_no_index() -> None:
    lines = dict(plain_years(2020, 2020)[0].lines) | {"net_income": -5.0}
    statements = tuple(year_statement(y, **lines) for y in (2020, 2021))
    file = PayerFile(payer=payer(), statements=statements).cut(TODAY)
    rows = indexed_years(fiscal_years(file))
    assert [r.revenue.value for r in rows] == [100.0, 100.0]
    assert rows[1].net_income.value is None
    assert "was not positive in fiscal 2020" in (rows[1].net_income.reason or "")


def course(revenue: list[float], income: list[float]) -> Course:
    first = 2026 - len(revenue)
    statements = tuple(
        year_statement(first + n, revenue=r, net_income=i)
        for n, (r, i) in enumerate(zip(revenue, income, strict=True))
    )
    file = PayerFile(payer=payer(), statements=statements).cut(TODAY)
    return course_of(fiscal_years(file), Kind.COMPANY)


def grown(rate: float) -> list[float]:
    return [100.0 * (1 + rate) ** n for n in range(6)]


@pytest.mark.parametrize(
    ("revenue", "income", "squeezed"),
    [
        (0.03, -0.03, True),
        (0.03, -0.01, False),
        (0.001, -0.03, False),
        (0.0, 0.001, False),
        (-0.03, 0.03, False),
    ],
)
def test_revenue_grows_and_income_falls_from_two_percent_a_year(
    revenue: float, income: float, squeezed: bool
) -> None:
    assert course(grown(revenue), grown(income)).squeezed is squeezed


def test_a_last_year_alone_squeezes_nobody() -> None:
    """The trend of net income is level; only its last year fell."""
    assert not course(grown(0.05), [*[100.0] * 5, 60.0]).squeezed
    assert not course([*[100.0] * 5, 130.0], grown(-0.05)).squeezed


def test_a_squeeze_is_told_with_both_readings_and_no_sign_against_its_verb() -> None:
    held = course(grown(0.05), grown(-0.06))
    words = "".join(p if isinstance(p, str) else "#" for p in held.squeeze)
    assert words == (
        "revenue grew by # a year (trend; # compound) "
        "while net income fell by # (trend; # compound)"
    )
    loss = course(grown(0.05), [100.0, 80.0, 60.0, 30.0, 10.0, -20.0])
    assert loss.squeezed
    words = "".join(p if isinstance(p, str) else "#" for p in loss.squeeze)
    assert words.endswith("while net income fell by # (trend)")


def test_the_newest_balance_sheet_counts_where_quarters_are_missing_and_both_dates_are_said() -> (
    None
):
    """A year to December, then a single quarter to March that owes twice as much."""
    owing = {"long_term_debt": 480.0, "short_term_debt": 0.0, "cash": 0.0, "total_assets": 1000.0}
    years = tuple(
        year_statement(y, **{**dict(plain_years(y, y)[0].lines), **owing})
        for y in (2023, 2024, 2025)
    )
    quarter = replace(
        years[-1],
        period_end=date(2026, 3, 31),
        published_on=date(2026, 5, 5),
        span=Span.QUARTER,
        lines=years[-1].lines | {"long_term_debt": 960.0, "ebit": 30.0},
    )
    file = steady(statements=(*years, quarter))
    found = review(file).footing.balance
    assert found is not None
    alone = review(steady(statements=years)).footing.balance
    assert alone is not None
    assert found.debt_to_assets.value == pytest.approx(0.96)
    assert found.debt_to_assets.period == "quarter to 2026-03-31"
    assert found.debt_to_ebitda.value == pytest.approx(2 * (alone.debt_to_ebitda.value or 0))
    assert found.debt_to_ebitda.notes == (
        "owned and owed: quarter to 2026-03-31; earned: fiscal 2025",
    )
    assert found.interest_cover.value == alone.interest_cover.value
    before = review(file, date(2026, 5, 4)).footing.balance
    assert before is not None
    assert before.debt_to_assets.value == alone.debt_to_assets.value
