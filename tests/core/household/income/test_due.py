"""Due against received."""

from datetime import date, timedelta
from fractions import Fraction

import pytest
from msgspec.structs import replace

from hearth_yield.core.facts.records import DividendKind
from hearth_yield.core.household.entries import Account, Entry, EntryKind
from hearth_yield.core.household.income.due import Answer, Due, dues
from hearth_yield.core.household.income.paying import OnRecord
from hearth_yield.core.household.income.tax import TaxRules

from .build import ACCOUNT, RATES, A, book_of, buy, entry, known, paid, paying

EX, PAY = date(2025, 3, 3), date(2025, 3, 17)
RULES = TaxRules(withheld={"XX": 0.15})
HELD = buy(date(2025, 1, 2), 180)


def answered(
    *entries: Entry,
    day: date = date(2025, 12, 31),
    payments: tuple[OnRecord, ...] = (paid(EX, 0.30, PAY),),
    account: Account = ACCOUNT,
    splits: list[tuple[date, Fraction]] | None = None,
    since: date = date.min,
) -> list[Due]:
    every = [HELD, *(replace(e, id=n) for n, e in enumerate(entries, 2))]
    of = known({A: splits or []})
    book = book_of(every, of, day)
    payers = {A: paying(*payments, country="XX")}
    return dues(book, [account], every, payers, of, RATES, RULES, "TLL", day, since)


def came(day: date, gross: int, withheld: int = 0) -> Entry:
    return entry(EntryKind.DIVIDEND, day, amount=gross, withheld=withheld)


def test_what_is_due_is_shares_times_the_amount_less_what_the_country_withholds() -> None:
    (due,) = answered()
    assert (due.gross, due.withheld, due.net) == (5400, 810, 4590)


@pytest.mark.parametrize(
    ("gross", "withheld", "answer"),
    [
        (5400, 810, Answer.RECEIVED),
        (4635, 0, Answer.RECEIVED),
        (4545, 0, Answer.RECEIVED),
        (4000, 0, Answer.SHORT),
        (4544, 0, Answer.SHORT),
        (4636, 0, Answer.OVER),
        (5400, 1620, Answer.SHORT),
    ],
)
def test_what_came_is_held_against_it_within_one_per_cent(
    gross: int, withheld: int, answer: Answer
) -> None:
    (due,) = answered(came(PAY, gross, withheld))
    assert (due.answer, due.came) == (answer, gross - withheld)


def test_forty_for_forty_five_ninety_is_five_ninety_short() -> None:
    (due,) = answered(came(PAY, 4000))
    assert (due.net - (due.came or 0), due.answer) == (590, Answer.SHORT)


@pytest.mark.parametrize(
    ("day", "answer"),
    [
        (date(2025, 3, 10), Answer.TO_COME),
        (PAY, Answer.TO_COME),
        (PAY + timedelta(days=20), Answer.TO_COME),
        (PAY + timedelta(days=21), Answer.MISSING),
    ],
)
def test_it_is_missing_once_twenty_days_have_passed(day: date, answer: Answer) -> None:
    (due,) = answered(day=day)
    assert due.answer is answer


def test_nothing_is_due_before_the_ex_date_or_on_what_was_bought_on_it() -> None:
    assert answered(day=EX - timedelta(days=1)) == []
    late = buy(EX, 20)
    (due,) = answered(late)
    assert due.shares == 180 * 10**8


@pytest.mark.parametrize(
    ("apart", "answer"),
    [(-4, "unexpected"), (-3, "received"), (20, "received"), (21, "unexpected")],
)
def test_it_comes_three_days_before_to_twenty_after(apart: int, answer: str) -> None:
    found = answered(came(PAY + timedelta(days=apart), 4590))
    assert answer in {d.answer.value for d in found}


def test_several_entries_add() -> None:
    (due,) = answered(came(PAY, 2000), came(PAY + timedelta(days=1), 2590))
    assert (due.came, due.answer, due.entries) == (4590, Answer.RECEIVED, (2, 3))


def test_monthly_payments_are_parted_half_way() -> None:
    payments = (paid(EX, 0.3, PAY), paid(EX + timedelta(days=10), 0.3, PAY + timedelta(days=10)))
    found = answered(
        came(PAY + timedelta(days=5), 4590), came(PAY + timedelta(days=7), 4590), payments=payments
    )
    assert [d.came for d in found] == [4590, 4590]


def test_a_special_of_the_same_day_is_due_with_it() -> None:
    special = paid(EX, 0.10, PAY, kind=DividendKind.SPECIAL)
    found = answered(came(PAY, 6120), payments=(paid(EX, 0.30, PAY), special))
    assert [(d.net, d.answer) for d in found] == [(4590, "received"), (1530, "received")]
    assert sum(d.came or 0 for d in found) == 6120


def test_a_return_of_capital_is_not_taxed_and_an_entry_of_it_answers() -> None:
    back = paid(EX, 0.30, PAY, kind=DividendKind.RETURN_OF_CAPITAL)
    (due,) = answered(entry(EntryKind.RETURN_OF_CAPITAL, PAY, amount=5400), payments=(back,))
    assert (due.net, due.answer) == (5400, Answer.RECEIVED)


def test_shares_are_those_of_the_ex_date_where_a_split_falls_on_it() -> None:
    (due,) = answered(splits=[(EX, Fraction(2))])
    assert (due.shares, due.gross) == (360 * 10**8, 10_800)


def test_an_account_that_takes_the_record_received_it() -> None:
    account = Account(id=1, name="Main", currency="TLL")
    (due,) = answered(account=account)
    assert (due.answer, due.on_record) == (Answer.RECEIVED, True)
    (due,) = answered(account=account, day=PAY - timedelta(days=1))
    assert due.answer is Answer.TO_COME


def test_in_another_currency_it_is_held_against_the_days_rate() -> None:
    """45.90 TLL at 0.80 are 57.38 THK; 56.00 THK are 44.80 TLL, within 3 %."""
    entries = [entry(EntryKind.DIVIDEND, PAY, amount=amount) for amount in (5600, 5400)]
    answers = [answered(replace(e, currency="THK"))[0].answer for e in entries]
    assert answers == [Answer.RECEIVED, Answer.SHORT]


@pytest.mark.parametrize("late", [0, 5, 20])
def test_what_answers_a_payment_of_before_the_first_day_is_not_unexpected(late: int) -> None:
    """The first day that is looked at lies between a payment and what came of it."""
    found = answered(came(PAY + timedelta(days=late), 4590), since=PAY + timedelta(days=1))
    assert found == []
