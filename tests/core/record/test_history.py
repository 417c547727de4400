from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, DividendKind, NoticeKind
from hearth_yield.core.record.declared_rate import rate_steps
from hearth_yield.core.record.history import Outcome, Record, build_record

from ..build import dividends, notice, payer, split, steady, yearly_raises


def record(as_of: date, *paid: Dividend, **more: object) -> Record:
    return build_record(PayerFile(payer=payer(), dividends=paid, **more).cut(as_of))  # type: ignore[arg-type]


def test_a_declared_cut_counts_before_it_is_paid_and_trailing_is_called_out() -> None:
    paid = [*yearly_raises(2020, 2025, 0.5, 0.0)]
    cut = Dividend(
        ex_date=date(2026, 2, 10), amount=0.2, currency="TLL", declared_on=date(2026, 1, 20)
    )
    before = record(date(2026, 1, 19), *paid, cut)
    after = record(date(2026, 1, 20), *paid, cut)
    assert before.declared_rate.value == pytest.approx(2.0)
    assert after.declared_rate.value == pytest.approx(0.8)
    assert after.trailing_rate.value == pytest.approx(2.0)
    assert after.trailing_gap.value == pytest.approx(1.5)
    assert after.years_without_reduction.value == 0


def test_specials_and_returns_of_capital_never_count() -> None:
    special = Dividend(
        ex_date=date(2025, 12, 1), amount=9.0, currency="TLL", kind=DividendKind.SPECIAL
    )
    back = Dividend(
        ex_date=date(2025, 12, 2), amount=9.0, currency="TLL", kind=DividendKind.RETURN_OF_CAPITAL
    )
    r = record(date(2026, 1, 31), *yearly_raises(2022, 2025, 0.5, 0.0), special, back)
    assert r.declared_rate.value == pytest.approx(2.0)
    assert r.years[-1].total.value == pytest.approx(2.0)
    assert r.years[-1].special is not None
    assert r.years[-1].special.value == 9.0


def test_a_suspension_sets_the_rate_to_nil_and_old_payments_never_count_again() -> None:
    old = yearly_raises(2015, 2019, 0.5, 0.0)
    new = dividends([0.1, 0.1], 4, date(2022, 5, 10), stated=True)
    notices = (notice(date(2020, 1, 15)), notice(date(2022, 1, 2), NoticeKind.RESUMED))
    halted = record(date(2021, 6, 1), *old, *new, notices=notices)
    resumed = record(date(2022, 6, 1), *old, *new, notices=notices)
    assert halted.declared_rate.value == 0.0
    assert resumed.declared_rate.value == pytest.approx(0.4)
    outcomes = {y.year: y.outcome for y in resumed.years}
    assert outcomes[2020] is outcomes[2021] is Outcome.SUSPENDED
    assert outcomes[2022] is Outcome.RESUMED


def test_nothing_declared_for_too_long_is_lapsed() -> None:
    r = record(date(2026, 12, 31), *yearly_raises(2020, 2025, 0.5, 0.0))
    assert r.declared_rate.value is None
    assert "lapsed" in (r.declared_rate.reason or "")


@pytest.mark.parametrize("shift", [-6, 0, 6])
def test_a_sliding_ex_date_is_no_change_of_rhythm(shift: int) -> None:
    paid = yearly_raises(2022, 2025, 0.5, 0.0)
    paid[-1] = Dividend(ex_date=date(2025, 11, 10 + shift), amount=0.5, currency="TLL")
    assert record(date(2025, 12, 1), *paid).rhythm.value == 4


def test_a_payment_that_slid_over_new_year_stays_in_its_slot() -> None:
    days = [date(2022, 6, 28), date(2022, 12, 28), date(2023, 6, 28), date(2024, 1, 3)]
    days += [date(2024, 6, 28), date(2024, 12, 27)]
    r = record(date(2025, 1, 31), *(Dividend(ex_date=d, amount=1.0, currency="TLL") for d in days))
    assert {y.year: len(y.payments) for y in r.years} == {2022: 2, 2023: 2, 2024: 2}
    assert [y.outcome for y in r.years[1:]] == [Outcome.HELD, Outcome.HELD]


def test_uneven_slots_are_compared_with_the_year_before() -> None:
    paid = dividends([0.20, 0.40, 0.21, 0.42, 0.22, 0.44], 2, date(2025, 11, 10))
    r = record(date(2026, 1, 5), *paid)
    assert r.uneven
    assert r.years[-1].outcome is Outcome.RAISED
    assert r.declared_rate.value == pytest.approx(0.66)


def test_streaks_and_growth_of_a_steady_raiser() -> None:
    r = build_record(steady().cut(date(2026, 6, 30)))
    assert r.raises_in_a_row.value == 23
    assert r.years_without_reduction.value == 23
    assert r.growth[10].value == pytest.approx(0.05)
    assert r.latest_raise.value == pytest.approx(0.05)
    assert "begins in 2002" in r.raises_in_a_row.notes[0]


def test_growth_is_unknown_without_its_base_year() -> None:
    r = record(date(2026, 1, 31), *yearly_raises(2022, 2025, 0.5, 0.1))
    assert r.growth[3].value == pytest.approx(0.1)
    assert r.growth[5].value is None
    assert "2022" in (r.growth[5].reason or "")


def test_no_dividends_at_all_reads_as_unknown() -> None:
    r = record(date(2026, 1, 31))
    assert r.declared_rate.value is None
    assert r.raises_in_a_row.value is None
    assert r.years == ()


def test_a_split_changes_no_growth_and_no_streak() -> None:
    plain = steady()
    halved = tuple(
        d
        if d.ex_date >= date(2014, 6, 2)
        else Dividend(
            ex_date=d.ex_date,
            amount=d.amount * 3,
            currency="TLL",
            declared_on=d.declared_on,
            source=1,
        )
        for d in plain.dividends
    )
    other = steady(dividends=halved, splits=(split(date(2014, 6, 2), 3),))
    a, b = (build_record(f.cut(date(2026, 6, 30))) for f in (plain, other))
    assert [y.total.value for y in a.years] == pytest.approx([y.total.value for y in b.years])
    assert a.raises_in_a_row.value == b.raises_in_a_row.value


def test_rate_steps_give_each_day_what_it_knew() -> None:
    file = steady().cut(date(2026, 6, 30))
    days, rates = rate_steps(file)
    raised_on = date(2025, 2, 10).replace(day=10) - (date(2025, 2, 10) - date(2025, 1, 21))
    at = list(days.astype(date)).index(raised_on)
    assert rates[at] == pytest.approx(0.4 * 1.05**23)
    assert rates[at - 1] == pytest.approx(0.4 * 1.05**22)
