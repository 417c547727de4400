from collections.abc import Sequence
from datetime import date

import pytest

from hearth_yield.core.cover.cover import Basis, Cover, build_cover
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import trailing_period
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.facts.robust import freak_years
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.kinds import Kind
from hearth_yield.core.record.history import build_record

from ..build import dividends, payer, plain_years, year_statement, yearly_raises

DAY = date(2026, 6, 30)


PAID = dividends([1.25] * 40, 4, date(2026, 5, 12))
"""5.00 a year on the 10 shares of `plain_years`: half of its cash, as its 50 paid are."""


def cover(
    *statements: Statement, kind: Kind = Kind.COMPANY, paid: Sequence[Dividend] = PAID
) -> Cover:
    file = PayerFile(payer=payer(kind), statements=statements, dividends=tuple(paid)).cut(DAY)
    return build_cover(file, build_record(file))


def test_payout_left_and_per_share_of_the_latest_year() -> None:
    lead = cover(*plain_years(2018, 2025)).leading
    assert lead.basis is Basis.FREE_CASH_FLOW
    assert lead.latest is not None
    assert lead.latest.payout.value == pytest.approx(0.5)
    assert lead.latest.left.value == 50
    assert lead.latest.left_after_buybacks.value == 50
    assert lead.latest.per_share.value == 10
    assert lead.declared.value == pytest.approx(0.5)
    assert lead.through_cycle.value == pytest.approx(0.5)


def test_cash_burn_is_a_breach_without_a_ratio() -> None:
    lead = cover(*plain_years(2018, 2025, cash=-10.0)).leading
    assert lead.latest is not None
    assert lead.latest.payout.value is None
    assert lead.latest.payout.breach == "cash burn"


def test_a_year_without_dividends_is_unknown_not_zero() -> None:
    lead = cover(*plain_years(2018, 2025, paid=0.0)).leading
    assert lead.latest is not None
    assert lead.latest.payout.value is None
    assert "no dividends were paid" in (lead.latest.payout.reason or "")


def test_preferred_dividends_come_first() -> None:
    lines = dict(plain_years(2025, 2025)[0].lines) | {"preferred_dividends": 20.0}
    lead = cover(year_statement(2025, **lines)).leading
    assert lead.latest is not None
    assert lead.latest.payout.value == pytest.approx(50 / 80)


@pytest.mark.parametrize(
    ("equity", "payout"), [({"preferred_equity": 80.0, "total_assets": 900.0}, None), ({}, 0.5)]
)
def test_preferred_dividends_that_nothing_tells_are_no_nil_beside_preferred_equity(
    equity: dict[str, float], payout: float | None
) -> None:
    lines = {"net_income": 100.0, "dividends_paid": 50.0, "diluted_shares": 10.0, **equity}
    latest = cover(year_statement(2025, **lines), kind=Kind.FINANCIAL).leading.latest
    assert latest is not None
    assert latest.payout.value == payout
    said = [*latest.driver.notes, latest.payout.reason or ""]
    assert any("preferred dividends" in words for words in said)


def test_dividends_missing_from_the_cash_flow_are_counted_from_the_record() -> None:
    lines = dict(plain_years(2025, 2025)[0].lines)
    del lines["dividends_paid"]
    file = PayerFile(
        payer=payer(),
        statements=(year_statement(2025, **lines),),
        dividends=tuple(yearly_raises(2025, 2025, 0.5, 0.0)),
    )
    cut = file.cut(DAY)
    latest = build_cover(cut, build_record(cut)).leading.latest
    assert latest is not None
    assert latest.dividends.value == pytest.approx(0.5 * 4 * 10)
    assert latest.payout.value == pytest.approx(0.2)


def test_through_the_cycle_needs_three_years() -> None:
    figure = cover(*plain_years(2024, 2025)).leading.through_cycle
    assert figure.value is None
    assert "2 of at least 3" in (figure.reason or "")


def test_trust_funds_are_derived_and_give_way_to_published_ones() -> None:
    lines = {
        "net_income": 50.0,
        "property_depreciation": 60.0,
        "impairments": 5.0,
        "gains_on_property_sales": 15.0,
        "recurring_capex": 20.0,
        "straight_line_rent": 4.0,
        "operating_cash_flow": 110.0,
        "dividends_paid": 57.0,
        "diluted_shares": 10.0,
    }
    derived = cover(year_statement(2025, **lines), kind=Kind.PROPERTY_TRUST).leading.latest
    published = cover(
        year_statement(2025, **lines, affo=95.0), kind=Kind.PROPERTY_TRUST
    ).leading.latest
    assert derived is not None
    assert published is not None
    assert derived.driver.value == pytest.approx(76.0)
    assert "derived" in derived.driver.notes
    assert published.driver.value == 95.0


def test_missing_core_line_is_unknown_with_its_name() -> None:
    lines = dict(plain_years(2025, 2025)[0].lines)
    del lines["capital_expenditure"]
    latest = cover(year_statement(2025, **lines)).leading.latest
    assert latest is not None
    assert "capital expenditure" in (latest.payout.reason or "")


def quarter(end: date, cash: float) -> Statement:
    return Statement(
        period_end=end,
        span=Span.QUARTER,
        published_on=date(2026, 5, 10),
        currency="TLL",
        lines={
            "operating_cash_flow": cash,
            "capital_expenditure": 1.0,
            "dividends_paid": 5.0,
            "net_income": cash,
            "diluted_shares": 10.0,
        },
    )


def test_trailing_twelve_months_sum_the_newest_four_quarters() -> None:
    ends = [date(2025, 6, 30), date(2025, 9, 30), date(2025, 12, 31), date(2026, 3, 31)]
    quarters = [quarter(e, 10.0 + i) for i, e in enumerate(ends)]
    trailing = cover(*plain_years(2020, 2025), *quarters).leading.trailing
    assert trailing is not None
    assert trailing.driver.value == pytest.approx(10 + 11 + 12 + 13 - 4)
    assert trailing.per_share.value == pytest.approx(4.2)


def test_a_gap_among_the_quarters_falls_back_to_the_year_and_says_so() -> None:
    ends = [date(2025, 3, 31), date(2025, 9, 30), date(2025, 12, 31), date(2026, 3, 31)]
    file = PayerFile(
        payer=payer(), statements=(*plain_years(2020, 2025), *(quarter(e, 10.0) for e in ends))
    )
    period = trailing_period(file.cut(DAY))
    assert period is not None
    assert period.label == "fiscal 2025"
    assert period.note is not None


ENDS = [date(y, 12, 31) for y in range(2016, 2026)]


def test_one_freak_year_is_found_and_only_that_one() -> None:
    values = [100.0, 104.0, 109.0, 112.0, 260.0, 121.0, 127.0, 131.0, 134.0, 141.0]
    assert freak_years(ENDS, values) == [i == 4 for i in range(10)]


@pytest.mark.parametrize("n", [3, 6])
def test_too_few_neighbours_mark_nothing(n: int) -> None:
    values = [100.0] * (n - 1) + [900.0]
    assert not any(freak_years(ENDS[:n], values))


def test_a_falling_cash_trend_is_negative_while_earnings_hold() -> None:
    statements = [
        year_statement(
            y,
            net_income=100.0,
            operating_cash_flow=140.0 - 12 * i,
            capital_expenditure=40.0,
            dividends_paid=45.0,
            diluted_shares=10.0,
        )
        for i, y in enumerate(range(2019, 2026))
    ]
    found = cover(*statements)
    earnings = found.of(Basis.EARNINGS)
    assert (found.leading.per_share_trend.value or 0) < 0
    assert earnings is not None
    assert earnings.latest is not None
    assert earnings.latest.payout.value == pytest.approx(0.45)
    assert (found.leading.latest.payout.value or 0) > 1  # type: ignore[union-attr]
