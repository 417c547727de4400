"""What one payer is expected to pay: slots of the past year that nothing declared fills."""

from datetime import date, timedelta

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, Payer
from hearth_yield.core.household.income.ahead import Stands, ahead
from hearth_yield.core.household.income.paying import Paying, paying_of
from hearth_yield.core.kinds import Kind

from .build import A, book_of, buy, known

DAY = date(2025, 12, 31)


def quarterly(*, years: int = 3, amount: float = 0.5, declared: int = 0) -> list[Dividend]:
    """Ex on the 10th of March, June, September and December, paid 20 days later."""
    found = [
        Dividend(
            ex_date=date(year, month, 10),
            amount=amount,
            currency="TLL",
            declared_on=date(year, month, 10) - timedelta(days=30),
            pay_date=date(year, month, 10) + timedelta(days=20),
        )
        for year in range(2026 - years, 2026)
        for month in (3, 6, 9, 12)
    ]
    ahead_of = [
        Dividend(
            ex_date=date(2026, 3, 10) + n * timedelta(days=91),
            amount=0.6,
            currency="TLL",
            declared_on=date(2025, 12, 20),
            pay_date=date(2026, 3, 30) + n * timedelta(days=91),
        )
        for n in range(declared)
    ]
    return [*found, *ahead_of]


def payer_of(dividends: list[Dividend], day: date = DAY) -> Paying:
    own = Payer(
        symbol="A",
        exchange="ELV",
        name="A",
        kind=Kind.COMPANY,
        currency="TLL",
        country="XX",
        fiscal_year_end_month=12,
    )
    return paying_of(PayerFile(payer=own, dividends=tuple(dividends)).cut(day))


def test_the_past_year_a_year_on_at_the_declared_rate() -> None:
    found = payer_of(quarterly())
    assert [s.comes for s in found.slots] == [
        *(date(2026, 3, 30), date(2026, 6, 30), date(2026, 9, 30), date(2026, 12, 30))
    ]
    assert [s.each for s in found.slots] == [0.5] * 4


def test_a_declared_payment_fills_its_slot_and_raises_the_others() -> None:
    found = payer_of(quarterly(declared=1))
    assert [s.comes.month for s in found.slots] == [6, 9, 12]
    assert [s.each for s in found.slots] == [pytest.approx(0.6)] * 3
    book = book_of([buy(date(2024, 1, 2), 100)], known(), DAY)
    coming = ahead(book, {A: found}, known(), DAY)
    assert [a.stands for a in coming] == [Stands.DECLARED, *[Stands.EXPECTED] * 3]
    assert sum(a.gross for a in coming) == pytest.approx(240)


@pytest.mark.parametrize("day", [date(2025, 3, 20), date(2025, 7, 15), date(2025, 12, 5), DAY])
def test_where_nothing_changes_a_year_ahead_is_the_declared_rate(day: date) -> None:
    found = payer_of(quarterly(), day)
    book = book_of([buy(date(2024, 1, 2), 100)], known(), day)
    assert sum(a.gross for a in ahead(book, {A: found}, known(), day)) == pytest.approx(200)


def test_what_went_ex_is_paid_on_the_shares_held_then() -> None:
    day = date(2025, 12, 15)
    found = payer_of(quarterly(), day)
    book = book_of([buy(date(2024, 1, 2), 100), buy(date(2025, 12, 10), 50, id=2)], known(), day)
    first, *rest = ahead(book, {A: found}, known(), day)
    assert (first.stands, first.shares) == (Stands.GONE_EX, 100)
    assert {a.shares for a in rest} == {150.0}


def test_where_a_payment_is_missing_on_record_even_steps_are_expected() -> None:
    dividends = quarterly()
    del dividends[-3]
    found = payer_of(dividends)
    assert [s.comes for s in found.slots] == [
        DAY - timedelta(days=1) + n * timedelta(days=365) / 4 for n in range(1, 5)
    ]
    assert sum(s.each for s in found.slots) == pytest.approx(2.0)


def test_nothing_is_expected_of_a_payer_without_dividends() -> None:
    found = payer_of([])
    assert (found.slots, found.payments, found.rates) == ((), (), ())
