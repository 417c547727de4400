"""What is held, worth and paid. (docs/method.md, Household)"""

from dataclasses import replace as with_part
from datetime import date
from fractions import Fraction

import pytest

from hearth_yield.core.figures.figure import Figure, Unit, given, unknown
from hearth_yield.core.household.after import after_buying
from hearth_yield.core.household.entries import Account, Entry
from hearth_yield.core.household.ledger import Book, Known
from hearth_yield.core.household.positions import Position, Quote, positions
from hearth_yield.core.household.rates import SeriesRates
from hearth_yield.core.household.receipts import Paid, receipts
from hearth_yield.core.household.totals import Totals, share_of
from hearth_yield.core.worth.outlay import outlay_of

from .build import ABROAD, CURRENCIES, HOME, MAIN, PAYER, Steps, book, entry, money
from .test_worked import RATES, SPLIT, TRADES, abroad

DAY = date(2023, 1, 2)


def quote(payer: tuple[str, str] = PAYER, price: float = 18.0, rate: float = 1.2) -> Quote:
    currency = CURRENCIES[payer]
    return Quote(
        payer=payer,
        name=payer[1],
        currency=currency,
        price=given("price", Unit.PER_SHARE, price, "close", currency=currency),
        rate=given("declared rate", Unit.PER_SHARE, rate, "declared", currency=currency),
        at_home=given("rate", Unit.INDEX, 1.0 if currency == HOME else 0.9, "rate"),
        buy_below=given("buy-below price", Unit.PER_SHARE, 16.0, "yours", currency=currency),
        trim_above=given("trim-above price", Unit.PER_SHARE, 25.0, "yours", currency=currency),
    )


def held(found: Book, *quotes: Quote, by_account: bool = False) -> tuple[Position, ...]:
    mine = {q.payer: q for q in quotes or (quote(),)}
    return positions(found, mine, {}, HOME, by_account)


def value(figure: Figure) -> float:
    assert figure.value is not None, figure.reason
    return figure.value


def test_yield_on_cost_and_on_own_money() -> None:
    (position,) = held(book(TRADES, splits=SPLIT))
    assert value(position.yield_on_cost) == pytest.approx(0.093628, abs=5e-7)
    back = entry("return_of_capital", "2022-06-01", amount="90.00")
    (position,) = held(book((*TRADES, back), splits=SPLIT))
    assert value(position.yield_on_cost) == pytest.approx(0.097429, abs=5e-7)
    assert value(position.yield_on_own_money) == value(position.yield_on_cost)
    kept = [
        entry("buy", "2020-01-02", "160", amount="2007.00"),
        entry("reinvestment", "2021-01-04", "20", amount="320.00", spent="300.00"),
    ]
    (position,) = held(book(kept))
    assert value(position.yield_on_cost) == pytest.approx(0.093628, abs=5e-7)
    assert value(position.yield_on_own_money) == pytest.approx(0.107623, abs=5e-7)


def test_the_gain_at_home_is_price_and_currency() -> None:
    (position,) = held(book(abroad(), rates=RATES), quote(ABROAD, 26.0, 1.0))
    assert value(position.gain_held) == pytest.approx(740.00)
    assert value(position.gain_by_price) == pytest.approx(480.00)
    assert value(position.gain_by_currency) == pytest.approx(260.00)
    assert value(position.income_at_home) == pytest.approx(90.00)


def test_a_position_is_of_all_accounts_or_of_each() -> None:
    sent = entry("transfer", "2022-04-01", "60", to=2)
    found = book((*TRADES, sent), splits=SPLIT)
    (together,) = held(found)
    apart = held(found, by_account=True)
    assert value(together.shares) == 180
    assert [value(p.shares) for p in apart] == [120, 60]
    assert sum(value(p.cost) for p in apart) == value(together.cost) == 2307.0
    assert together.bought == (date(2020, 1, 2), date(2020, 6, 1))


def test_a_cost_that_is_not_entered_is_unknown_and_says_so() -> None:
    found = book([entry("opening", "2020-01-02", "100")])
    (position,) = held(found)
    assert value(position.value) == 1800.0
    assert position.cost.reason == "the cost of an opening is not entered"
    assert position.yield_on_cost.reason == "cost unknown: the cost of an opening is not entered"
    assert position.shares.sample is not None
    assert [r.values for r in position.shares.sample.rows()] == [(100.0,)]


def test_an_opening_tells_its_cost_by_a_price_too() -> None:
    found = book([entry("opening", "2020-01-02", "100", price="32.115")])
    assert value(held(found)[0].cost) == 3211.5
    both = book([entry("opening", "2020-01-02", "100", price="32.115", amount="3200.00")])
    assert value(held(both)[0].cost) == 3200.0


def test_more_sold_than_held_is_unresolved() -> None:
    found = book([entry("buy", "2020-01-02", "10", price="20"), *TRADES[2:]])
    (position,) = held(found)
    assert position.shares.reason == "more went than was held on 2022-03-01"
    assert not position.ended


def test_what_was_sold_is_ended_with_its_gain() -> None:
    gone = entry("sell", "2022-04-01", "180", price="18.00")
    (position,) = held(book((*TRADES, gone), splits=SPLIT))
    assert position.ended
    assert value(position.realised) == 951.00 + (3240.00 - 2307.00)


def test_sums_hold_what_is_known_and_name_what_is_not() -> None:
    found = book((*TRADES, *abroad()), splits=SPLIT, rates=Steps())
    no_rate = with_part(quote(ABROAD), at_home=unknown("rate", Unit.INDEX, "no rate THK"))
    totals = Totals(positions=held(found, quote(), no_rate), home=HOME)
    assert value(totals.value) == 3240.0
    assert totals.value.notes == ("without ADRP: rate unknown: no rate THK",)
    assert value(totals.yield_on_cost) == pytest.approx(0.093628, abs=5e-7)
    assert value(share_of(totals.positions[0].value_at_home, totals.value, "share")) == 1.0
    nothing = Totals(positions=(), home=HOME)
    assert nothing.value.reason == "nothing is held"


PAID = {
    PAYER: [
        Paid(ex_date=date(2020, 6, 1), pay_date=date(2020, 6, 20), amount=0.50, currency="TLL"),
        Paid(ex_date=date(2021, 1, 4), pay_date=None, amount=0.30, currency="TLL"),
        Paid(ex_date=date(2022, 12, 20), pay_date=date(2023, 1, 20), amount=0.30, currency="TLL"),
    ]
}
KNOWN = Known(currencies=CURRENCIES, splits={PAYER: [(date(2021, 1, 4), Fraction(2))]})


def came(account: Account, *entries: Entry) -> list[tuple[str, int, bool]]:
    """Day, net, and whether it is the record's."""
    every = (*TRADES, *entries)
    found = receipts(book(every, splits=SPLIT), [account], every, PAID, KNOWN, Steps(), HOME, DAY)
    return [(r.day.isoformat(), r.net, r.on_record) for r in found[1, PAYER]]


def test_the_record_counts_as_received_for_the_shares_before_the_ex_date() -> None:
    """100 of the day before, not the 50 bought on it; a split that day doubles what was held."""
    assert came(MAIN) == [
        ("2020-06-20", money("50.00"), True),
        ("2021-02-03", money("90.00"), True),
    ]


def test_from_a_day_on_only_what_is_entered_counts() -> None:
    mine = entry("dividend", "2021-02-05", amount="90.00", withheld="13.50", returned="10.00")
    account = with_part(MAIN, entered_from=date(2021, 1, 1))
    assert came(account, mine) == [
        ("2020-06-20", money("50.00"), True),
        ("2021-02-05", money("66.50"), False),
    ]


def test_received_is_net_and_at_the_rate_of_its_day() -> None:
    rates = SeriesRates(HOME, {"THK": [(date(2020, 1, 1), 0.8), (date(2021, 1, 1), 0.9)]})
    paid = entry(
        "dividend", "2021-06-01", amount="100.00", withheld="15.00", payer=ABROAD, currency="THK"
    )
    entries = abroad(paid)
    found = book(entries, rates=rates)
    mine = receipts(found, [MAIN], entries, {}, Known(currencies=CURRENCIES), rates, HOME, DAY)
    (position,) = positions(found, {ABROAD: quote(ABROAD)}, mine, HOME)
    assert value(position.received) == pytest.approx(76.50)


def test_a_rate_is_the_days_or_the_last_before() -> None:
    rates = SeriesRates(HOME, {"THK": [(date(2020, 1, 1), 0.8), (date(2021, 1, 1), 0.9)]})
    assert rates.convert(10_000, "THK", HOME, date(2020, 12, 31)) == 8_000
    assert rates.convert(9_000, HOME, "THK", date(2021, 6, 1)) == 10_000
    assert rates.convert(1, "THK", HOME, date(2019, 12, 31)) is None


def test_what_a_sum_would_make_of_it() -> None:
    mine = [entry("opening", "2020-01-02", "190", amount="8638.00")]
    at = quote(price=68.33, rate=1.98)
    (position,) = held(book(mine), at)
    kept = given("part kept", Unit.FRACTION, 1.0, "no tax")
    bought = outlay_of(10_000.0, at.price, at.buy_below, at.rate, kept, HOME).now
    total = Totals(positions=(position,), home=HOME).value
    after = after_buying(at, position, total, bought, HOME)
    assert value(after.shares) == 336
    assert value(after.cost) == pytest.approx(18_614.18)
    assert value(after.yield_on_cost) == pytest.approx(0.035740, abs=5e-7)
    assert value(after.share_of_value) == pytest.approx(1.0)
