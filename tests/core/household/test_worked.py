"""Worked figures of docs/method.md, Household."""

from dataclasses import replace as with_part
from datetime import date

import pytest
from msgspec.structs import replace

from hearth_yield.core.household.entries import CostMethod, Entry

from .build import (
    ABROAD,
    MAIN,
    OTHER,
    PAYER,
    SECOND,
    Steps,
    book,
    entry,
    gain,
    holding,
    lots,
    money,
)

FIRST = entry("buy", "2020-01-02", "100", price="20.00", fee="5.00")
MORE = entry("buy", "2020-06-01", "50", price="30.00", fee="5.00")
SOLD = entry("sell", "2022-03-01", "120", price="18.00", fee="6.00")
SPLIT = {PAYER: [("2021-01-04", 2)]}
TRADES = (FIRST, MORE, SOLD)
AVERAGE = (with_part(MAIN, method=CostMethod.AVERAGE), with_part(SECOND, method=CostMethod.AVERAGE))


def test_first_in_first_out() -> None:
    found = book(TRADES, splits=SPLIT)
    assert gain(found) == money("951.00")
    assert holding(found).cost == money("2307.00")
    assert lots(found) == [
        ("2020-01-02", 80, money("802.00")),
        ("2020-06-01", 100, money("1505.00")),
    ]


def test_average_cost() -> None:
    found = book(TRADES, splits=SPLIT, accounts=AVERAGE)
    assert gain(found) == money("750.00")
    assert holding(found).cost == money("2106.00")
    assert sum(size for _, size, _ in lots(found)) == 180
    assert [day for day, _, _ in lots(found)] == ["2020-01-02", "2020-06-01"]


def test_lots_of_chosen_days_go_first() -> None:
    chosen = entry(
        "sell", "2022-03-01", "120", price="18.00", fee="6.00", chosen=[("2020-06-01", "100")]
    )
    found = book((FIRST, MORE, chosen), splits=SPLIT)
    assert lots(found) == [("2020-01-02", 180, money("1804.50"))]
    assert gain(found) == money("2154.00") - money("1705.50")


def test_returned_capital_takes_cost_a_share_alike() -> None:
    back = entry("return_of_capital", "2022-06-01", amount="90.00")
    found = book((*TRADES, back), splits=SPLIT)
    assert holding(found).cost == money("2217.00")
    assert lots(found)[0][2] == money("762.00")
    assert gain(found) == money("951.00")


def test_returned_capital_goes_to_lots_bought_before_the_ex_date() -> None:
    late = entry("buy", "2022-05-20", "10", price="20.00")
    back = entry("return_of_capital", "2022-06-01", amount="90.00")
    found = book((*TRADES, late, back), splits=SPLIT, ex_dates={PAYER: ["2022-05-10"]})
    assert lots(found)[-1] == ("2022-05-20", 10, money("200.00"))
    assert holding(found).cost == money("2417.00")


def test_returned_capital_beyond_the_cost_is_gain() -> None:
    back = entry("return_of_capital", "2020-03-01", amount="2100.00")
    found = book((FIRST, back))
    assert (holding(found).cost, gain(found)) == (0, money("95.00"))


def test_returned_capital_at_home_at_the_lots_own_rate() -> None:
    bought = entry("buy", "2020-01-02", "100", price="20", payer=ABROAD, currency="THK")
    back = entry("return_of_capital", "2021-01-02", amount="100.00", payer=ABROAD, currency="THK")
    rates = Steps({"THK": {date(2020, 1, 1): "0.80", date(2021, 1, 1): "0.90"}})
    found = holding(book((bought, back), rates=rates), ABROAD)
    assert (found.cost, found.home) == (money("1900.00"), money("1520.00"))


def test_a_transfer_takes_lots_with_their_days_and_cost() -> None:
    sent = entry("transfer", "2022-04-01", "60", to=2)
    found = book((*TRADES, sent), splits=SPLIT)
    assert lots(found, account=2) == [("2020-01-02", 60, money("601.50"))]
    average = book((*TRADES, sent), splits=SPLIT, accounts=AVERAGE)
    assert holding(average, account=2).cost == money("702.00")
    assert gain(average) == money("750.00")


def test_a_conversion_with_cash() -> None:
    swap = entry("conversion", "2022-05-02", into=OTHER, new="3", old="4", cash="1.00")
    found = book((*TRADES, swap), splits=SPLIT)
    assert holding(found, OTHER).cost == money("2127.00")
    assert sum(size for _, size, _ in lots(found, OTHER)) == 135
    assert lots(found) == []
    assert lots(found, OTHER)[0][0] == "2020-01-02"
    assert gain(found) == money("951.00")


def test_a_spin_off_takes_its_part_of_the_cost() -> None:
    off = entry("conversion", "2022-05-02", into=OTHER, new="1", old="5", moves="0.20")
    found = book((*TRADES, off), splits=SPLIT)
    assert (holding(found, OTHER).shares, holding(found, OTHER).cost) == (36 * 10**8, 461_40)
    assert (holding(found).shares, holding(found).cost) == (180 * 10**8, 1845_60)


@pytest.mark.parametrize(("cash", "gained"), [("12.81", "-1.20"), ("0", "-2307.00")])
def test_what_is_taken_over_or_worthless_is_sold_for_its_cash(cash: str, gained: str) -> None:
    end = entry("conversion", "2022-05-02", cash=cash)
    found = book((*TRADES, end), splits=SPLIT)
    assert holding(found).lots == []
    assert gain(found) - money("951.00") == money(gained)


def test_rights_that_are_paid_add_to_the_cost() -> None:
    paid = entry("conversion", "2022-05-02", into=PAYER, new="5", old="4", cash="-2.00")
    found = book((*TRADES, paid), splits=SPLIT)
    assert (holding(found).shares, holding(found).cost) == (225 * 10**8, money("2667.00"))


def abroad(*more: Entry) -> tuple[Entry, ...]:
    return (entry("buy", "2020-01-02", "100", price="20.00", payer=ABROAD, currency="THK"), *more)


RATES = Steps({"THK": {date(2020, 1, 1): "0.80", date(2021, 1, 1): "0.90"}})


def test_a_gain_at_home_is_price_and_currency() -> None:
    sold = entry("sell", "2021-01-04", "40", price="26.00", payer=ABROAD, currency="THK")
    (sale,) = book(abroad(sold), rates=RATES).sales
    (lot,) = sale.lots
    assert (lot.gain_at_home, lot.by_price) == (money("296.00"), money("192.00"))
    whole = entry("sell", "2021-01-04", "100", price="26.00", payer=ABROAD, currency="THK")
    (lot,) = book(abroad(whole), rates=RATES).sales[0].lots
    assert (lot.gain_at_home, lot.by_price) == (money("740.00"), money("480.00"))


def test_the_rate_a_trade_was_settled_at_wins() -> None:
    bought = entry(
        "buy", "2020-01-02", "100", price="20", fee="5", payer=ABROAD, currency="THK",
        settled="1700.00",
    )  # fmt: skip
    found = holding(book((bought,), rates=RATES), ABROAD)
    assert (found.cost, found.home) == (money("2005.00"), money("1700.00"))


def test_a_total_that_was_typed_wins_over_shares_times_price() -> None:
    found = book((replace(FIRST, amount=money("2004.31")),))
    assert holding(found).cost == money("2004.31")


def test_without_a_rate_the_cost_at_home_is_unknown() -> None:
    found = holding(book(abroad()), ABROAD)
    assert (found.cost, found.home) == (money("2000.00"), None)
