"""Cash to the minor unit. (docs/method.md, Household)"""

from datetime import date

from msgspec.structs import replace

from hearth_yield.core.household.cash import cash_after
from hearth_yield.core.household.entries import Entry

from .build import OTHER, book, entry, money

DAY = date(2030, 12, 31)


def cash(*entries: Entry, until: date = DAY) -> dict[str, int]:
    found = cash_after(entries, book(entries).converted, {1: "TLL"}, until)
    return {currency: amount for (_, currency), amount in found.items()}


WORKED = (
    entry("deposit", "2020-01-01", payer=None, amount="5000.00"),
    entry("buy", "2020-01-02", "100", price="20.00", fee="5.00"),
    entry("sell", "2020-02-03", "40", price="22.00", fee="5.00"),
    entry("dividend", "2020-03-02", amount="54.00", withheld="8.10"),
    entry("return_of_capital", "2020-04-01", amount="12.00"),
    entry("interest", "2020-05-01", payer=None, amount="1.25"),
    entry("fee", "2020-06-01", payer=None, amount="3.00"),
    entry("tax", "2020-07-01", payer=None, amount="2.10"),
    entry("withdrawal", "2020-08-03", payer=None, amount="500.00"),
    entry(
        "exchange", "2020-09-01", payer=None, amount="1000.00",
        into_amount="1250.00", into_currency="THK",
    ),
)  # fmt: skip


def test_what_came_less_what_went() -> None:
    assert cash(*WORKED) == {"TLL": money("2424.05"), "THK": money("1250.00")}


def test_a_past_day_knows_what_had_moved_by_then() -> None:
    assert cash(*WORKED, until=date(2020, 2, 29)) == {"TLL": money("3870.00")}


def test_of_a_reinvestment_the_rest_stays() -> None:
    put_back = entry(
        "reinvestment", "2020-03-02", "2.5", amount="54.00", withheld="8.10", spent="45.00"
    )
    assert cash(*WORKED[:2], put_back) == {"TLL": money("2995.90")}


def test_a_refund_is_a_tax_below_nil() -> None:
    assert cash(entry("tax", "2020-07-01", amount="-2.10")) == {"TLL": money("2.10")}


def test_what_was_settled_moves_the_account() -> None:
    bought = replace(WORKED[1], currency="THK", settled=money("1604.00"))
    assert cash(WORKED[0], bought) == {"TLL": money("3396.00")}


def test_a_conversion_pays_by_the_shares_held() -> None:
    swap = entry("conversion", "2020-05-04", into=OTHER, new="3", old="4", cash="1.00")
    assert cash(*WORKED[:3], swap) == {"TLL": money("3930.00")}


def test_accounts_that_keep_no_cash_have_none() -> None:
    assert cash_after(WORKED, (), {}, DAY) == {}
