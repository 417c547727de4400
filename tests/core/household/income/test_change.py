"""What changed the income: the worked figures, and that parts sum to the whole."""

from datetime import date, timedelta
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.household.entries import Entry, PayerKey
from hearth_yield.core.household.income.change import Changed, Why, changed
from hearth_yield.core.household.income.paying import Paying

from .build import A, B, book_of, buy, known, paying

D0, D1 = date(2024, 12, 31), date(2025, 12, 31)
START = date(2020, 1, 1)
TRADES = [buy(START, 100, A, 1), buy(START, 200, B, 2)]
PRICES = [(START, 0.80), (date(2025, 11, 3), 0.90)]


def price(currency: str, day: date) -> float | None:
    if currency == "TLL":
        return 1.0
    return next((p for d, p in reversed(PRICES) if d <= day), None)


def between(
    entries: list[Entry],
    payers: dict[PayerKey, Paying],
    since: date = D0,
    until: date = D1,
    splits: dict[PayerKey, list[tuple[date, Fraction]]] | None = None,
) -> Changed:
    of = known(splits)
    book = book_of(entries, of, until)
    return changed(book, entries, payers, of, price, lambda _: 1.0, since, until)


def two(raised: date, bought: date) -> Changed:
    """A: 100 shares at 2.00, then 120 and 2.20. B: 200 at 1.00, then 0.60, in a currency that goes
    from 0.80 to 0.90."""
    payers = {
        A: paying(rates=[(START, 2.0), (raised, 2.2)]),
        B: paying(rates=[(START, 1.0), (date(2025, 9, 1), 0.6)], currency="THK"),
    }
    return between([*TRADES, buy(bought, 20, A, 3)], payers)


def parts(found: Changed) -> dict[str, float]:
    told: dict[str, float] = {}
    for c in found.changes:
        told[c.why.value] = told.get(c.why.value, 0.0) + c.by
    return {why: round(by, 9) for why, by in told.items()}


def test_bought_before_it_was_raised() -> None:
    found = two(raised=date(2025, 6, 2), bought=date(2025, 3, 3))
    assert (found.first, round(found.last, 9)) == (360.0, 372.0)
    assert parts(found) == {"bought": 40.0, "raised": 24.0, "cut": -64.0, "currency": 12.0}
    assert found.linked == pytest.approx(372 / 400 - 1)


def test_raised_before_it_was_bought() -> None:
    found = two(raised=date(2025, 3, 3), bought=date(2025, 6, 2))
    assert parts(found) == {"raised": 20.0, "bought": 44.0, "cut": -64.0, "currency": 12.0}
    assert found.linked == pytest.approx(380 / 360 * 372 / 424 - 1)


def test_a_split_changes_nothing() -> None:
    """Rates are in today's shares, and so are the shares."""
    payers = {A: paying(rates=[(START, 2.0)])}
    found = between([buy(START, 100)], payers, splits={A: [(date(2025, 5, 5), Fraction(2))]})
    assert (found.first, found.changes) == (400.0, ())


def test_a_payer_without_a_rate_of_its_currency_is_named() -> None:
    payers = {A: paying(rates=[(START, 2.0)], currency="XXX")}
    of = known()
    trades = [buy(START, 100)]
    book = book_of(trades, of, D1)
    found = changed(book, trades, payers, of, lambda c, d: None, lambda _: 1.0, D0, D1)
    assert (found.without, found.first, found.changes) == ((A,), 0.0, ())


def test_a_rate_that_begins_or_ends_is_told_apart() -> None:
    payers = {A: paying(rates=[(date(2025, 2, 3), 2.0), (date(2025, 8, 4), None)])}
    found = between([buy(START, 100)], payers)
    assert [(c.why, c.by) for c in found.changes] == [(Why.BEGUN, 200.0), (Why.ENDED, -200.0)]


days = st.integers(1, 700).map(lambda n: START + timedelta(days=n))


@given(
    buys=st.lists(st.tuples(days, st.integers(1, 500), st.sampled_from([A, B])), max_size=12),
    rates=st.lists(st.tuples(days, st.one_of(st.none(), st.floats(0, 5))), max_size=6),
    cut=st.integers(50, 650),
)
def test_the_parts_of_two_spans_are_those_of_the_whole(
    buys: list[tuple[date, int, PayerKey]], rates: list[tuple[date, float | None]], cut: int
) -> None:
    steps = sorted(rates, key=lambda r: r[0])
    payers = {A: paying(rates=steps), B: paying(rates=steps, currency="THK")}
    entries = [buy(d, n, p, i) for i, (d, n, p) in enumerate(buys, 1)]
    middle, end = START + timedelta(days=cut), START + timedelta(days=701)
    whole = between(entries, payers, START, end)
    one, other = between(entries, payers, START, middle), between(entries, payers, middle, end)
    assert one.last == pytest.approx(other.first)
    assert whole.last - whole.first == pytest.approx(sum(c.by for c in whole.changes), abs=1e-6)
    for why in Why:
        sums = [sum(c.by for c in f.changes if c.why is why) for f in (whole, one, other)]
        assert sums[0] == pytest.approx(sums[1] + sums[2], abs=1e-6)
