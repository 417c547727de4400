"""Payers of every rhythm: counted, stated, lapsed, uneven, and read day by day."""

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, NoticeKind
from hearth_yield.core.record.declared_rate import payments_of, rate_steps, read_on, read_rate
from hearth_yield.core.record.history import Outcome, build_record
from hearth_yield.core.record.payments import is_uneven

from ..build import dividends, notice, payer, split

LAST = date(2026, 5, 12)
DAY = date(2026, 6, 1)


def file(*paid: Dividend, **more: object) -> PayerFile:
    return PayerFile(payer=payer(), dividends=paid, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize("per_year", [1, 2, 4, 12])
def test_a_steady_rhythm_is_counted(per_year: int) -> None:
    cut = file(*dividends([0.5] * (3 * per_year), per_year, LAST)).cut(DAY)
    assert read_on(cut, DAY).rhythm == per_year
    assert read_on(cut, DAY).rate == pytest.approx(0.5 * per_year)


@pytest.mark.parametrize("per_year", [1, 2, 4, 12])
@pytest.mark.parametrize("slide", [-9, 9])
def test_a_slid_payment_does_not_change_the_count(per_year: int, slide: int) -> None:
    paid = list(dividends([0.5] * (3 * per_year), per_year, LAST))
    moved = paid[-1]
    paid[-1] = Dividend(
        ex_date=moved.ex_date + timedelta(days=slide),
        amount=0.5,
        currency="TLL",
        declared_on=moved.declared_on,
    )
    cut = file(*paid).cut(DAY)
    assert read_on(cut, DAY).rhythm == per_year


@pytest.mark.parametrize(("per_year", "days"), [(1, 578), (2, 304), (4, 167), (12, 76)])
def test_silence_lapses_after_one_and_a_half_periods_and_a_month(per_year: int, days: int) -> None:
    whole = file(*dividends([0.5] * (3 * per_year), per_year, LAST))
    last_good, first_bad = LAST + timedelta(days=days), LAST + timedelta(days=days + 1)
    assert read_on(whole.cut(last_good), last_good).rate is not None
    lapsed = read_on(whole.cut(first_bad), first_bad)
    assert lapsed.rate is None
    assert "lapsed" in (lapsed.reason or "")


def test_what_is_stated_beats_what_is_counted() -> None:
    paid = dividends([0.5, 0.5], 4, LAST, stated=True)
    assert read_on(file(*paid).cut(DAY), DAY).rate == pytest.approx(2.0)
    known = PayerFile(payer=payer(rhythm=2), dividends=dividends([0.5], 2, LAST)).cut(DAY)
    assert "not settled" in (read_on(known, DAY).reason or "")


def test_a_newcomers_rhythm_is_not_settled_before_its_second_year() -> None:
    cut = file(*dividends([0.5] * 3, 4, LAST)).cut(DAY)
    assert "not settled: 3 payments" in (read_on(cut, DAY).reason or "")
    one = file(*dividends([0.5], 4, LAST)).cut(DAY)
    assert "1 payment in" in (read_on(one, DAY).reason or "")


@pytest.mark.parametrize(
    ("amounts", "uneven"),
    [
        ([0.20, 0.40, 0.21, 0.42, 0.22], True),
        ([0.40, 0.20, 0.42, 0.21, 0.44], True),
        ([0.30, 0.30, 0.31, 0.31, 0.32], False),
        ([0.20, 0.40, 0.40, 0.40, 0.40], False),
        ([0.50, 0.40, 0.30, 0.20, 0.10], False),
        ([0.40, 0.42, 0.21], False),
    ],
)
def test_uneven_means_the_same_pattern_two_years_running(
    amounts: list[float], uneven: bool
) -> None:
    cut = file(*dividends(amounts, 2, LAST)).cut(DAY)
    assert is_uneven(payments_of(cut), 2, cut.payer) is uneven


def test_what_the_person_knows_of_evenness_rules() -> None:
    paid = dividends([0.30, 0.30, 0.31, 0.31, 0.32], 2, LAST)
    told = PayerFile(payer=payer(evenness="uneven"), dividends=paid).cut(DAY)
    assert read_on(told, DAY).rate == pytest.approx(0.63)
    level = dividends([0.20, 0.40, 0.21, 0.42, 0.22], 2, LAST)
    denied = PayerFile(payer=payer(evenness="level"), dividends=level).cut(DAY)
    assert read_on(denied, DAY).rate == pytest.approx(0.44)


def test_an_uneven_payer_that_resumed_waits_for_every_slot() -> None:
    paid = dividends([0.20, 0.40, 0.21, 0.42, 0.22], 2, date(2019, 5, 12), stated=True)
    again = dividends([0.10], 2, LAST, stated=True)
    halted = (notice(date(2020, 1, 10)), notice(date(2026, 3, 1), NoticeKind.RESUMED))
    told = PayerFile(payer=payer(evenness="uneven"), dividends=(*paid, *again), notices=halted).cut(
        DAY
    )
    assert "only 1 of 2 uneven payments" in (read_on(told, DAY).reason or "")


def test_an_omission_sets_the_rate_to_nil_until_the_next_declaration() -> None:
    paid = dividends([0.5] * 12, 4, LAST, stated=True)
    omitted = (notice(date(2026, 5, 20), NoticeKind.OMITTED),)
    assert read_on(file(*paid, notices=omitted).cut(DAY), DAY).rate == 0.0
    later = Dividend(
        ex_date=date(2026, 8, 12),
        amount=0.3,
        currency="TLL",
        declared_on=date(2026, 7, 12),
        payments_per_year=4,
    )
    day = date(2026, 7, 20)
    whole = file(*paid, later, notices=omitted)
    assert read_on(whole.cut(day), day).rate == pytest.approx(1.2)
    assert build_record(whole.cut(day)).years[-1].outcome is Outcome.SUSPENDED


def test_a_payment_declared_before_the_notice_but_due_after_it_does_not_count() -> None:
    paid = dividends([0.5] * 8, 4, date(2026, 7, 12), stated=True)
    halted = (notice(date(2026, 6, 20)),)
    assert read_on(file(*paid, notices=halted).cut(date(2026, 7, 1)), date(2026, 7, 1)).rate == 0.0


def test_nothing_on_record_is_unknown() -> None:
    assert read_rate([], (), payer(), DAY).reason == "no regular dividend on record"


def test_amounts_of_different_rhythms_are_compared_as_yearly_rates() -> None:
    yearly = dividends([2.0, 2.0], 1, date(2024, 5, 12), stated=True)
    quarterly = dividends([0.52] * 4, 4, date(2025, 5, 12), stated=True)
    found = build_record(file(*yearly, *quarterly).cut(date(2025, 6, 1)))
    assert {y.year: y.outcome for y in found.years}[2024] is Outcome.RAISED


@pytest.mark.parametrize(
    ("change", "outcome"), [(1.0004, "held"), (0.9996, "held"), (0.9994, "cut")]
)
def test_rounding_after_a_split_is_no_cut(change: float, outcome: str) -> None:
    paid = [*dividends([0.3] * 8, 4, date(2025, 11, 12))]
    after = Dividend(
        ex_date=date(2026, 2, 12),
        amount=0.1 * change,
        currency="TLL",
        declared_on=date(2026, 1, 12),
    )
    found = build_record(
        file(*paid, after, splits=(split(date(2026, 1, 2), 3),)).cut(date(2026, 3, 1))
    )
    assert found.years[-1].outcome.value == outcome


@settings(max_examples=40, deadline=None)
@given(
    amounts=st.lists(st.integers(1, 400).map(lambda n: n / 100), min_size=1, max_size=24),
    per_year=st.sampled_from([1, 2, 4, 12]),
    stated=st.booleans(),
    halt=st.one_of(st.none(), st.integers(0, 2000)),
)
def test_the_steps_say_on_every_day_what_that_day_reads(
    amounts: list[float], per_year: int, stated: bool, halt: int | None
) -> None:
    """Two ways to one answer: all days at once, and each day from its own cut."""
    notices = () if halt is None else (notice(LAST - timedelta(days=halt)),)
    whole = file(*dividends(amounts, per_year, LAST, stated=stated), notices=notices)
    days, rates = rate_steps(whole.cut(DAY))
    for day in [LAST - timedelta(days=n) for n in (0, 29, 31, 200, 400, 900, 1500)]:
        at = int(np.searchsorted(days, np.datetime64(day), side="right")) - 1
        seen = read_on(whole.cut(day), day).rate
        if at < 0 or np.isnan(rates[at]):
            assert seen is None
        else:
            assert seen == pytest.approx(float(rates[at]))


def abroad(paid: Dividend) -> Dividend:
    return replace(paid, currency="THK")


def test_a_dividend_in_another_currency_is_never_taken_for_one_in_the_payers() -> None:
    cut = file(*map(abroad, dividends([0.5] * 12, 4, LAST))).cut(DAY)
    record = build_record(cut)
    assert record.declared_rate.value is None
    assert record.declared_rate.reason == "paid in THK, which is not converted to TLL"
    assert all(y.total.value is None for y in record.years)
    assert record.trailing_rate.value is None
    assert record.growth[1].value is None
    _, rates = rate_steps(cut)
    assert np.isnan(rates).all()


def test_a_change_of_currency_starts_anew_and_is_no_cut() -> None:
    *before, last = dividends([0.5] * 12, 4, LAST)
    record = build_record(file(*map(abroad, before), replace(last, amount=0.05)).cut(DAY))
    assert record.declared_rate.value == pytest.approx(0.2)
    assert record.years[-1].outcome is Outcome.STARTED
    assert record.years[-1].total.value is None  # its other payments are in the other currency
    assert record.last_cut is None
