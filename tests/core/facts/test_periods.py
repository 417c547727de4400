"""Twelve months out of quarters and halves, and weeks out of days."""

from datetime import date, timedelta

import numpy as np
import pytest

from hearth_yield.core.cover.cover import build_cover
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years, trailing_period
from hearth_yield.core.facts.records import PriceHistory
from hearth_yield.core.facts.robust import trend
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.kinds import JUDGED, Kind
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.range.ruler import ruler_of
from hearth_yield.core.range.weekly import past_year, weekly_values
from hearth_yield.core.record.history import build_record

from ..build import dividends, payer, plain_years, steady, weekly_prices, year_statement

DAY = date(2026, 6, 30)


def interim(end: date, span: Span, cash: float, published: date | None = None) -> Statement:
    return Statement(
        period_end=end,
        span=span,
        published_on=published or end + timedelta(days=40),
        currency="TLL",
        lines={
            "operating_cash_flow": cash,
            "capital_expenditure": 0.0,
            "net_income": cash,
            "dividends_paid": 1.0,
            "diluted_shares": 10.0,
        },
    )


def file(*statements: Statement, kind: Kind = Kind.COMPANY) -> PayerFile:
    return PayerFile(payer=payer(kind), statements=statements)


def test_two_halves_make_twelve_months() -> None:
    halves = [
        interim(date(2025, 9, 30), Span.HALF, 5.0),
        interim(date(2026, 3, 31), Span.HALF, 7.0),
    ]
    period = trailing_period(file(*plain_years(2022, 2024), *halves).cut(DAY))
    assert period is not None
    assert (period.end, period.line("net_income").value) == (date(2026, 3, 31), 12.0)
    assert period.line("diluted_shares").value == 10.0


def test_quarters_newer_than_halves_win() -> None:
    ends = [date(2025, 6, 30), date(2025, 9, 30), date(2025, 12, 31), date(2026, 3, 31)]
    quarters = [interim(e, Span.QUARTER, 2.0) for e in ends]
    halves = [
        interim(date(2025, 6, 30), Span.HALF, 5.0),
        interim(date(2025, 12, 31), Span.HALF, 7.0),
    ]
    period = trailing_period(file(*halves, *quarters).cut(DAY))
    assert period is not None
    assert period.line("net_income").value == 8.0


def test_an_unpublished_quarter_is_not_used() -> None:
    ends = [date(2025, 3, 31), date(2025, 6, 30), date(2025, 9, 30), date(2025, 12, 31)]
    newest = interim(date(2026, 3, 31), Span.QUARTER, 9.0, published=date(2026, 7, 5))
    whole = file(*(interim(e, Span.QUARTER, 1.0) for e in ends), newest)
    before, after = (trailing_period(whole.cut(d)) for d in (DAY, date(2026, 7, 5)))
    assert before is not None
    assert after is not None
    assert (before.line("net_income").value, after.line("net_income").value) == (4.0, 12.0)


def test_without_any_statement_there_is_no_period() -> None:
    assert trailing_period(file().cut(DAY)) is None
    cut = file().cut(DAY)
    cover = build_cover(cut, build_record(cut))
    assert cover.leading.latest is None
    assert not cover.net_income.known


def test_twelve_fiscal_years_are_kept() -> None:
    assert [p.end.year for p in fiscal_years(file(*plain_years(2000, 2025)).cut(DAY))] == list(
        range(2014, 2026)
    )


@pytest.mark.parametrize("kind", JUDGED)
def test_every_kind_covers_on_its_own_bases(kind: Kind) -> None:
    lines = {"ffo": 90.0, "affo": 80.0, "distributable_cash_flow": 85.0}
    statement = year_statement(2025, **dict(plain_years(2025, 2025)[0].lines), **lines)
    cut = file(statement, kind=kind).cut(DAY)
    lead = build_cover(cut, build_record(cut)).leading
    assert lead.latest is not None
    paid_from = {"company": 100.0, "property_trust": 80.0, "partnership": 85.0, "financial": 100.0}
    assert lead.latest.driver.value == paid_from[kind.value]
    assert lead.latest.payout.value == pytest.approx(50 / paid_from[kind.value])


def test_a_fiscal_year_that_ends_in_june_stands_under_its_own_end() -> None:
    odd = Statement(
        period_end=date(2025, 6, 30),
        span=Span.YEAR,
        published_on=date(2025, 8, 20),
        currency="TLL",
        lines={"net_income": 1.0},
    )
    (period,) = fiscal_years(file(odd).cut(DAY))
    assert period.label == "fiscal 2025"


def test_a_trend_needs_five_known_years() -> None:
    ends = [date(y, 12, 31) for y in range(2021, 2026)]
    known = [s.line("net_income") for s in plain_years(2022, 2025)]
    assert "4 of 5" in (trend("t", ends[1:], known).reason or "")
    nil = [year_statement(y, net_income=0.0).line("net_income") for y in range(2021, 2026)]
    assert trend("t", ends, nil).reason == "every year is nil"
    rising = [
        year_statement(y, net_income=100.0 + 10 * i).line("net_income")
        for i, y in enumerate(range(2021, 2026))
    ]
    assert trend("t", ends, rising).value == pytest.approx(10 / 120, rel=1e-3)


def test_of_daily_closes_the_last_of_each_week_counts() -> None:
    days = [date(2026, 5, 25) + timedelta(days=n) for n in range(12)]
    trading = [d for d in days if d.weekday() < 5]
    prices = PriceHistory.of([(d, 10.0 + i) for i, d in enumerate(trading)])
    weekly = weekly_values(PayerFile(payer=payer(), prices=prices).cut(date(2026, 6, 5)), YIELD)
    assert weekly.days.astype(date).tolist() == [date(2026, 5, 29), date(2026, 6, 5)]
    assert weekly.closes.tolist() == [14.0, 19.0]


@pytest.mark.parametrize(("window", "weeks"), [("3", 156), ("5", 260), ("10", 520), ("all", 1183)])
def test_a_window_holds_its_complete_weeks(window: str, weeks: int) -> None:
    """All: from the first Friday after the rhythm is settled, 24 October 2003, to 19 June 2026."""
    cut = steady(prices=weekly_prices(date(2002, 1, 4), date(2026, 6, 26))).cut(DAY)
    found = ruler_of(cut, build_record(cut), window)
    assert len(found.weeks.days) == weeks
    assert found.weeks.days[-1] < cut.prices.days[-1]


def test_weeks_without_a_dividend_are_excluded_and_counted() -> None:
    paid = dividends([0.5] * 12, 4, date(2026, 5, 12))
    prices = weekly_prices(date(2021, 6, 25), date(2026, 6, 26), 40.0)
    cut = PayerFile(payer=payer(), dividends=paid, prices=prices).cut(DAY)
    found = ruler_of(cut, build_record(cut), "5")
    assert found.count.value is not None
    assert found.count.value < 160
    assert "excluded" in found.count.notes[0]
    assert not np.isnan(found.weeks.values).any()


def test_a_gap_among_the_weeks_stays_a_gap() -> None:
    history = weekly_prices(date(2019, 1, 4), date(2026, 6, 26), 40.0)
    keep = [i for i in range(len(history)) if not 300 <= i < 320]
    rows = [(history.days[i].astype(date), float(history.closes[i])) for i in keep]
    cut = steady(prices=PriceHistory.of(rows, source=3)).cut(DAY)
    assert ruler_of(cut, build_record(cut), "5").count.value == 240


def test_the_past_52_weeks_end_on_the_day() -> None:
    cut = steady(prices=weekly_prices(date(2020, 1, 3), date(2026, 6, 26))).cut(DAY)
    recent = cut.prices.days[past_year(cut)]
    assert len(recent) == 52
    assert recent[0] > np.datetime64(DAY - timedelta(weeks=52))
