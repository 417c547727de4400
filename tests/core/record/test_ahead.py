"""The next payment, who broke a streak, and what the dividend did in a slump."""

from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Slump
from hearth_yield.core.record.ahead import next_payment, who_broke
from hearth_yield.core.record.downturns import slumps_paid
from hearth_yield.core.record.history import build_record
from tests.core.build import TODAY, notice, paid, payer, steady, yearly_raises


def test_a_declared_payment_comes_before_a_projected_one() -> None:
    coming = paid(date(2026, 8, 10), 0.4, pay_date=date(2026, 8, 24), declared_on=date(2026, 6, 20))
    file = steady(dividends=(*steady().dividends, coming)).cut(TODAY)
    found = next_payment(file, build_record(file))
    assert found is not None
    assert (found.ex_date, found.projected) == (date(2026, 8, 10), False)
    assert found.amount.value == 0.4


def test_without_one_the_next_is_projected_a_year_after_its_slot() -> None:
    file = steady().cut(TODAY)
    record = build_record(file)
    found = next_payment(file, record)
    assert found is not None
    assert (found.ex_date, found.projected) == (date(2026, 8, 10), True)
    assert found.amount.value == pytest.approx((record.declared_rate.value or 0) / 4)
    assert "projected" in found.amount.notes[0]


def test_an_uneven_payer_is_projected_by_slot() -> None:
    held = [
        paid(date(y, m, 12), a, pay_date=date(y, m, 26))
        for y in range(2018, 2027)
        for m, a in ((4, 0.30), (10, 0.90))
        if (y, m) < (2026, 6)
    ]
    file = PayerFile(payer=payer(), dividends=tuple(held)).cut(TODAY)
    found = next_payment(file, build_record(file))
    assert found is not None
    assert (found.ex_date, found.amount.value) == (date(2026, 10, 12), 0.90)
    assert found.pay_date == date(2026, 10, 26)


def test_nothing_is_projected_while_nothing_is_paid() -> None:
    file = steady(notices=(notice(date(2026, 6, 1)),)).cut(TODAY)
    assert next_payment(file, build_record(file)) is None


def test_a_weekend_moves_to_monday() -> None:
    held = [paid(date(y, 8, 15), 1.0, payments_per_year=1) for y in range(2018, 2026)]
    file = PayerFile(payer=payer(), dividends=tuple(held)).cut(TODAY)
    found = next_payment(file, build_record(file))
    assert found is not None
    assert found.ex_date == date(2026, 8, 17), "15 August 2026 is a Saturday"


def test_who_broke_a_streak_is_named() -> None:
    held = yearly_raises(2010, 2017, 0.10, 0.05)
    flat = [paid(date(2018, m, 10), held[-1].amount) for m in (2, 5, 8, 11)]
    later = yearly_raises(2019, 2025, 0.20, 0.05)
    file = PayerFile(payer=payer(), dividends=(*held, *flat, *later)).cut(TODAY)
    record = build_record(file)
    broke = who_broke(record.years, record.raises_in_a_row)
    assert broke is not None
    assert (broke.year, broke.outcome) == (2018, "held")


@pytest.mark.parametrize(
    ("begins", "ends", "action", "change"),
    [
        (date(2005, 3, 1), date(2006, 1, 31), "raised", 0.05),
        (date(2005, 3, 1), date(2005, 5, 1), "held", 0.0),
        (date(1990, 3, 1), date(1991, 4, 1), None, None),
    ],
)
def test_a_slump(begins: date, ends: date, action: str | None, change: float | None) -> None:
    slump = Slump(name="the slump", begins=begins, ends=ends)
    (found,) = slumps_paid(steady(slumps=(slump,)).cut(TODAY))
    assert found.action == action
    assert found.change.value == (None if change is None else pytest.approx(change, abs=1e-9))


def test_a_suspension_in_a_slump_is_the_worst() -> None:
    slump = Slump(name="the slump", begins=date(2025, 1, 1), ends=None)
    file = steady(slumps=(slump,), notices=(notice(date(2026, 6, 1)),)).cut(TODAY)
    (found,) = slumps_paid(file)
    assert (found.action, found.change.value) == ("suspended", -1.0)
