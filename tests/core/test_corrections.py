"""Cases in which an independent calculation found the core wrong. Each is worked by hand."""

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest

from hearth_yield.core.cover.cover import Basis, build_cover
from hearth_yield.core.facts.age import missing_periods
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years
from hearth_yield.core.facts.records import Dividend, DividendKind, Split
from hearth_yield.core.facts.statements import Span, Statement, fiscal_year_of
from hearth_yield.core.figures.ties import all_at_least, all_at_most, at_least, same
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import State
from hearth_yield.core.kinds import Kind
from hearth_yield.core.names import named_figures
from hearth_yield.core.question import Question
from hearth_yield.core.record.history import Record, build_record
from hearth_yield.core.record.inflation import build_inflation
from hearth_yield.core.record.payments import Outcome
from hearth_yield.core.review import Review, build_review

from .build import (
    dividends,
    notice,
    paid,
    payer,
    plain_years,
    price_index,
    review,
    steady,
    weekly_prices,
    year_statement,
    yearly_raises,
)

DAY = date(2026, 6, 30)


def record(day: date, *held: Dividend, **more: object) -> Record:
    given = {"payer": payer(), **more}
    return build_record(PayerFile(dividends=held, **given).cut(day))  # type: ignore[arg-type]


def says(found: Review, place: int) -> str:
    finding = [*found.stages.values()][place].finding
    return "".join(p if isinstance(p, str) else "#" for p in finding)


def totals(found: Record) -> dict[int, float | None]:
    return {y.year: y.total.value for y in found.years}


def outcomes(found: Record) -> dict[int, Outcome]:
    return {y.year: y.outcome for y in found.years}


def monthly(first_year: int, last_year: int) -> list[Dividend]:
    """0.10 a month in the first year, a cent more each year."""
    return [
        paid(date(y, m, 28), 0.10 + 0.01 * (y - first_year))
        for y in range(first_year, last_year + 1)
        for m in range(1, 13)
    ]


def test_a_monthly_history_that_begins_in_january_keeps_its_years() -> None:
    found = record(DAY, *monthly(2020, 2025))
    assert totals(found) == pytest.approx(
        {y: 12 * (0.10 + 0.01 * (y - 2020)) for y in range(2020, 2026)}
    )
    assert found.growth[5].value == pytest.approx((0.15 / 0.10) ** 0.2 - 1)


def test_a_change_from_quarterly_to_monthly_keeps_its_years() -> None:
    quarterly = [paid(date(y, m, 28), 0.30) for y in range(2016, 2020) for m in (3, 6, 9, 12)]
    found = record(DAY, *quarterly, *monthly(2020, 2025))
    assert totals(found)[2019] == pytest.approx(1.20)
    assert totals(found)[2020] == pytest.approx(1.20)
    assert totals(found)[2021] == pytest.approx(1.32)


def test_a_quarterly_payment_that_slid_over_new_year_still_goes_to_its_slot() -> None:
    held = [paid(date(y, m, 20), 0.5) for y in range(2020, 2025) for m in (3, 6, 9, 12)]
    held[7] = paid(date(2022, 1, 4), 0.5)
    assert totals(record(DAY, *held))[2021] == pytest.approx(2.0)
    assert totals(record(DAY, *held))[2022] == pytest.approx(2.0)


SPLIT = Split(effective_on=date(2026, 7, 22), new_shares=3, old_shares=1)


@pytest.mark.parametrize("announced", [None, date(2026, 5, 1)])
@pytest.mark.parametrize("day", [date(2026, 7, 15), date(2026, 7, 21), date(2026, 7, 22)])
def test_a_dividend_declared_before_a_split_and_ex_after_it_is_no_cut(
    announced: date | None, day: date
) -> None:
    """0.60 a quarter, then 0.21 a quarter on three times the shares: 0.63 on today's."""
    before = yearly_raises(2016, 2025, 0.60, 0.0)
    recent = [paid(date(2026, m, 10), 0.60) for m in (2, 5)]
    coming = paid(date(2026, 8, 10), 0.21, declared_on=date(2026, 7, 10))
    file = PayerFile(
        payer=payer(),
        dividends=(*before, *recent, coming),
        splits=(replace(SPLIT, announced_on=announced),),
    )
    found = build_record(file.cut(day))
    on_todays_shares = 3 if day >= SPLIT.effective_on else 1
    assert found.declared_rate.value == pytest.approx(4 * 0.63 / on_todays_shares)
    assert found.years[-1].outcome is Outcome.RAISED
    assert found.years_without_reduction.value == 9


def test_an_announced_split_is_not_known_before() -> None:
    announced = replace(SPLIT, announced_on=date(2026, 6, 12))
    file = PayerFile(payer=payer(), splits=(announced,))
    assert file.cut(date(2026, 6, 11)).pending_splits == ()
    assert file.cut(date(2026, 6, 12)).pending_splits == (announced,)
    assert file.cut(SPLIT.effective_on).pending_splits == ()


def halves(years: range, interim: float, final: float, growth: float = 0.05) -> list[Dividend]:
    return [
        paid(date(y, m, 15), amount * (1 + growth) ** (y - years[0]))
        for y in years
        for m, amount in ((4, interim), (10, final))
    ]


def test_a_suspended_uneven_payer_was_never_cut() -> None:
    held = halves(range(2015, 2021), 0.20, 0.40)
    found = record(DAY, *held, notices=(notice(date(2021, 2, 1)),))
    assert Outcome.CUT not in outcomes(found).values()
    assert found.latest_raise.value == pytest.approx(0.05)
    assert found.uneven


def test_the_past_of_a_resumed_uneven_payer_stays_uneven() -> None:
    held = halves(range(2015, 2021), 0.20, 0.40)
    again = [paid(date(2023, 4, 15), 0.10), paid(date(2023, 10, 15), 0.22)]
    stops = (notice(date(2021, 2, 1)),)
    found = record(DAY, *held, *again, notices=stops)
    assert Outcome.CUT not in outcomes(found).values()
    assert outcomes(found)[2023] is Outcome.RESUMED


def test_a_young_interim_and_final_payer_is_not_cut_every_half_year() -> None:
    held = halves(range(2024, 2026), 0.09, 0.18)
    stated = [replace(d, payments_per_year=2) for d in held]
    found = record(date(2025, 12, 31), *stated)
    assert found.declared_rate.value == pytest.approx((0.09 + 0.18) * 1.05)
    assert "pattern not settled" in found.declared_rate.notes
    assert outcomes(found) == {2024: Outcome.STARTED, 2025: Outcome.RAISED}
    alone = record(date(2024, 5, 1), *stated)
    assert "not settled" in (alone.declared_rate.reason or "")


def test_a_part_paid_year_is_neither_base_nor_end_nor_counted() -> None:
    """Two of four payments in 2015 and in 2025."""
    held = yearly_raises(2015, 2025, 0.50, 0.06)
    found_in = [d for d in held if not (d.ex_date.year in (2015, 2025) and d.ex_date.month > 6)]
    file = PayerFile(
        payer=payer(), dividends=tuple(found_in), price_index=price_index(2014, date(2026, 5, 1))
    ).cut(DAY)
    found = build_record(file)
    assert found.growth[5].reason == "2025 was only part paid (2 of 4 payments)"
    ahead = build_inflation(file, found, base_years=(2016, 2015))
    assert (ahead.years_ahead.value, ahead.years_ahead.period) == (8, "of 8")
    assert [p.base_year for p in ahead.paces] == [2016, 2015]
    assert "only part paid" in (ahead.paces[1].needed.reason or "")


def test_a_year_in_which_the_rhythm_changes_is_full() -> None:
    """1.00 in April and October, from 2021 on 0.50 in each quarter."""
    old = [paid(date(y, m, 10), 1.00) for y in range(2015, 2021) for m in (4, 10)]
    new = [paid(date(y, m, 10), 0.50) for y in range(2021, 2026) for m in (1, 4, 7, 10)]
    found = record(DAY, *old, *new)
    assert all(y.full for y in found.years[:-1])
    assert list(totals(found).values()) == pytest.approx([2.0] * 11)


@pytest.mark.parametrize("months", [(1, 4, 7, 10), (3, 6, 9, 12), (4, 7, 10)])
@pytest.mark.parametrize("day", [date(2021, 7, 20), date(2022, 3, 1), date(2024, 6, 30), DAY])
def test_a_change_of_rhythm_at_the_same_yearly_amount_is_no_cut(
    months: tuple[int, ...], day: date
) -> None:
    old = [paid(date(y, m, 10), 1.00) for y in range(2010, 2021) for m in (4, 10)]
    first = [paid(date(2021, m, 10), 0.50) for m in months]
    new = [paid(date(y, m, 10), 0.50) for y in range(2022, 2026) for m in ((1, *months)[-4:])]
    found = record(day, *old, *first, *new)
    assert set(outcomes(found).values()) <= {Outcome.STARTED, Outcome.HELD}
    assert not found.latest_raise.known


def test_a_change_to_fewer_payments_is_no_raise() -> None:
    old = [paid(date(y, m, 10), 0.50) for y in range(2010, 2021) for m in (1, 4, 7, 10)]
    new = [paid(date(y, m, 10), 1.00) for y in range(2021, 2026) for m in (4, 10)]
    for day in (date(2021, 4, 20), date(2022, 4, 20), DAY):
        found = record(day, *old, *new)
        assert set(outcomes(found).values()) <= {Outcome.STARTED, Outcome.HELD}, day


def test_a_cut_with_a_change_of_rhythm_is_a_cut() -> None:
    """2 × 1.00, then 4 × 0.30: 1.20 instead of 2.00."""
    old = [paid(date(y, m, 10), 1.00) for y in range(2010, 2021) for m in (4, 10)]
    new = [paid(date(y, m, 10), 0.30) for y in range(2021, 2026) for m in (1, 4, 7, 10)]
    found = record(DAY, *old, *new)
    assert outcomes(found)[2021] is Outcome.CUT
    assert found.years_without_reduction.value == 4


def test_an_even_amount_is_an_even_amount_whatever_its_last_bit() -> None:
    rate, target = 4 * 0.35, 0.04
    price = rate / target
    assert at_least(rate / 35.0, target)
    assert same(price, 35.0)
    closes = np.array([35.0, 35.0 * (1 + 2e-16), 34.99, 35.01])
    assert all_at_most(closes, price).tolist() == [True, True, True, False]
    odd = np.array([np.inf, -np.inf, np.nan, 0.04])
    assert all_at_least(odd, 0.04).tolist() == [True, False, False, True]
    assert all_at_most(odd, 0.04).tolist() == [False, True, False, True]


def test_closes_at_the_target_count_for_every_close() -> None:
    """The yield of any close, taken as the aim, must find that close again."""
    file = steady(prices=weekly_prices(date(2021, 1, 1), date(2026, 6, 26), 31.13, 0.0007))
    found = review(file)
    rate = found.record.declared_rate.value or 0.0
    closes = file.prices.closes[-52:]
    for at in closes:
        aim = review(file, question=Question(aim=rate / float(at))).aim
        assert aim is not None
        assert aim.closes_52.value == float((closes <= at * (1 + 1e-9)).sum())


GAPPED = (*range(2008, 2011), 2024, 2025)


def test_five_years_with_a_gap_are_not_five_years() -> None:
    statements = tuple(s for s in plain_years(2008, 2025) if s.period_end.year in GAPPED)
    cut = PayerFile(
        payer=payer(), statements=statements, dividends=dividends([1.25] * 80, 4, date(2026, 5, 12))
    ).cut(DAY)
    lead = build_cover(cut, build_record(cut)).leading
    assert "2 of 5 fiscal years in a row" in (lead.per_share_trend.reason or "")
    assert "2 of at least 3 fiscal years in a row" in (lead.through_cycle.reason or "")
    assert [y.end.year for y in lead.years] == [2024, 2025]


def test_a_missing_year_leaves_its_gap_on_the_axis() -> None:
    """100 a year more each year, 2019 missing: nothing is freak, and nothing is with 2019 shut."""
    years = [y for y in range(2015, 2026) if y != 2019]
    statements = [
        year_statement(
            y, net_income=1000.0 + 100 * (y - 2015), diluted_shares=10.0, dividends_paid=1.0
        )
        for y in years
    ]
    cut = PayerFile(payer=payer(Kind.FINANCIAL), statements=tuple(statements)).cut(DAY)
    lead = build_cover(cut, build_record(cut)).leading
    assert not any(y.freak for y in lead.years)
    assert lead.per_share_trend.value == pytest.approx(100 / 1800, rel=2e-3)


def weeks_year(end: date, **lines: float) -> Statement:
    return Statement(
        period_end=end,
        span=Span.YEAR,
        published_on=end + timedelta(days=60),
        currency="TLL",
        lines={"net_income": 100.0, "dividends_paid": 50.0, "diluted_shares": 10.0} | lines,
    )


def test_fiscal_years_of_52_and_53_weeks_have_names_of_their_own() -> None:
    ends = [date(2021, 1, 2), date(2022, 1, 1), date(2022, 12, 31), date(2023, 12, 30)]
    cut = PayerFile(payer=payer(), statements=tuple(weeks_year(e) for e in ends)).cut(
        date(2024, 6, 30)
    )
    assert [p.label for p in fiscal_years(cut)] == [f"fiscal {y}" for y in range(2020, 2024)]
    keys = [k for k in named_figures(build_review(cut, HouseRules())) if k.endswith("driver")]
    assert sum("earnings.years." in k for k in keys) == 4
    assert missing_periods(ends, 12) == []
    quarters = [
        date(2022, 4, 2),
        date(2022, 7, 2),
        date(2022, 10, 1),
        date(2022, 12, 31),
        date(2023, 4, 1),
        date(2023, 9, 30),
    ]
    assert missing_periods(quarters, 3) == [date(2023, 6, 30)]


@pytest.mark.parametrize(
    ("end", "name"),
    [
        (date(2022, 1, 1), 2021),
        (date(2022, 12, 31), 2022),
        (date(2022, 3, 31), 2021),
        (date(2022, 6, 23), 2021),
        (date(2022, 6, 24), 2022),  # half in each: by the year it ends in
        (date(2022, 6, 30), 2022),
        (date(2022, 9, 30), 2022),
        (date(2022, 1, 29), 2021),
    ],
)
def test_a_fiscal_year_is_named_by_the_year_that_holds_most_of_it(end: date, name: int) -> None:
    assert fiscal_year_of(end) == name


def test_an_old_close_gives_no_yield_today() -> None:
    file = steady(prices=weekly_prices(date(2010, 1, 1), date(2019, 6, 14)))
    found = review(file)
    assert found.price.value is None
    assert found.price.reason == "the newest close is of 14 June 2019"
    assert found.price.was == 40.0
    assert found.range.now.value is None
    assert found.range.now.was == pytest.approx((found.record.declared_rate.value or 0) / 40)
    assert not found.worth.price_against_buy_below.known
    assert not any(m.on for m in found.worth.models if m.id == "yield_reversion")


def test_an_ageing_close_marks_all_that_rests_on_it() -> None:
    found = review(steady(prices=weekly_prices(date(2010, 1, 1), date(2026, 6, 12))))
    said = ("the newest close is of 12 June 2026",)
    assert found.price.cautions == said
    assert found.range.deviation.cautions == said
    assert found.worth.price_against_buy_below.cautions == said
    assert found.record.declared_rate.cautions == ()
    fresh = review(steady())
    assert not any(f.cautions for f in named_figures(fresh).values())


def test_old_statements_give_no_state() -> None:
    found = review(steady(statements=plain_years(2005, 2015)))
    assert found.state is State.UNKNOWN
    reason = "the newest fiscal year is of 31 December 2015"
    lead = found.cover.leading
    assert lead.latest is not None
    assert lead.through_cycle.reason == reason
    assert reason in (lead.latest.payout.reason or "")
    assert lead.latest.payout.was == pytest.approx(0.5)
    assert lead.years[-1].payout.value == pytest.approx(0.5)


def test_what_happens_later_is_not_known() -> None:
    file = steady(payer=payer(delisted_on=date(2026, 7, 15)))
    assert file.cut(DAY).payer.delisted_on is None
    after = review(file, date(2026, 7, 20))
    assert after.payer.delisted_on == date(2026, 7, 15)
    assert after.state is None
    assert after.price.reason == "delisted on 15 July 2026"
    assert not after.record.declared_rate.known
    assert not after.worth.combined.known


def test_a_special_in_another_currency_is_not_added_up() -> None:
    special = paid(date(2025, 6, 1), 100.0, kind=DividendKind.SPECIAL, currency="THK")
    found = record(DAY, *yearly_raises(2020, 2025, 0.5, 0.0), special)
    (year,) = [y for y in found.years if y.year == 2025]
    assert year.special is not None
    assert year.special.value is None
    assert "THK" in (year.special.reason or "")


def test_statements_in_another_currency_are_not_held_against_the_dividend() -> None:
    foreign = tuple(replace(s, currency="THK") for s in plain_years(2015, 2025))
    lead = review(steady(statements=foreign)).cover.leading
    assert "THK, which is not converted to TLL" in (lead.declared.reason or "")
    assert "THK" in (lead.through_cycle.reason or "")
    assert lead.latest is not None
    assert lead.latest.payout.value == pytest.approx(0.5)


def test_distributable_cash_is_taken_after_preferred_dividends() -> None:
    lines = {
        "distributable_cash_flow": 100.0,
        "operating_cash_flow": 120.0,
        "preferred_dividends": 20.0,
        "dividends_paid": 60.0,
    }
    cut = PayerFile(payer=payer(Kind.PARTNERSHIP), statements=(year_statement(2025, **lines),)).cut(
        DAY
    )
    lead = build_cover(cut, build_record(cut)).leading
    assert lead.basis is Basis.DISTRIBUTABLE_CASH
    assert lead.latest is not None
    assert lead.latest.payout.value == pytest.approx(60 / 80)
