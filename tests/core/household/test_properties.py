"""What must hold of every ledger, however untidy."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import replace as with_part
from datetime import date, timedelta
from fractions import Fraction
from random import Random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.core.household.ledger import Book, Rates, walk
from tests.conftest import sample

from .build import HOME, Steps
from .untidy import FIRST, Untidy

LAST = date(2030, 1, 1)
RATES = Steps({"THK": {FIRST: "0.8", date(2015, 1, 1): "0.9"}})
SEEDS = st.integers(0, 10**6)


def walked(of: Untidy, entries: Sequence[Entry], until: date = LAST, rates: Rates = RATES) -> Book:
    return walk(of.accounts, entries, of.known, rates, HOME, until)


def state(book: Book) -> dict[str, Any]:
    """All of a book that a person could see."""
    return {
        "lots": {p: (h.lots, h.unresolved) for p, h in book.held.items() if h.lots or h.unresolved},
        "sales": sorted(book.sales, key=repr),
        "converted": sorted(book.converted, key=repr),
        "steps": {p: s[-1] for p, s in book.steps.items() if s},
    }


def few(seed: int, number: int = 60) -> tuple[Untidy, list[Entry]]:
    """Many trades of few payers: most days and places meet."""
    of = Untidy(seed, payers_held=4)
    entries = of.entries(number)
    return of, [replace(e, day=FIRST + (e.day - FIRST) // 60) for e in entries]


@settings(max_examples=sample(60, 2000), deadline=None)
@given(SEEDS)
def test_no_order_of_typing_matters(seed: int) -> None:
    of, entries = few(seed)
    mixed = entries[:]
    Random(seed).shuffle(mixed)
    again = [replace(e, id=n) for n, e in enumerate(mixed)]
    assert state(walked(of, entries)) == state(walked(of, again))


@settings(max_examples=sample(60, 2000), deadline=None)
@given(SEEDS, st.integers(0, 130))
def test_what_is_entered_for_later_moves_no_earlier_day(seed: int, days: int) -> None:
    of, entries = few(seed)
    until = FIRST + timedelta(days=days)
    known = [e for e in entries if e.day <= until]
    assert state(walked(of, entries, until)) == state(walked(of, known, until))


def resolved(of: Untidy, entries: Sequence[Entry]) -> list[Entry]:
    """Without the lines by which more goes than was held."""
    while True:
        book = walked(of, entries)
        broken = [day for steps in book.steps.values() for day, held in steps if held is None]
        if not broken:
            return list(entries)
        first = min(broken)
        goes = (EntryKind.SELL, EntryKind.TRANSFER)
        entries = [e for e in entries if not (e.kind in goes and e.day == first)]


@settings(max_examples=sample(40, 1000), deadline=None)
@given(SEEDS)
def test_cost_left_and_sold_and_returned_is_what_was_paid(seed: int) -> None:
    """In the payers' currency, where all count in one."""
    of, made = few(seed)
    entries = resolved(of, [replace(e, amount=e.amount or 1000) for e in made])
    book = walked(of, entries)
    bought = sum(e.paid for e in entries if e.kind is EntryKind.BUY)
    bought += sum(e.spent_on_shares for e in entries if e.kind is EntryKind.REINVESTMENT)
    bought += sum(e.amount or 0 for e in entries if e.kind is EntryKind.OPENING)
    bought += sum(e.amount or 0 for e in entries if e.kind is EntryKind.TRANSFER and e.arrives)
    left = sum(h.cost or 0 for h in book.held.values())
    gone = sum(o.lot.cost or 0 for sale in book.sales for o in sale.lots)
    assert left + gone == bought
    assert all(o.shares > 0 and (o.cost or 0) >= 0 for h in book.held.values() for o in h.lots)


@settings(max_examples=sample(40, 1000), deadline=None)
@given(SEEDS)
def test_shares_are_conserved_over_transfers(seed: int) -> None:
    of, made = few(seed)
    of.known = with_part(of.known, splits={})
    kinds = (EntryKind.BUY, EntryKind.SELL, EntryKind.TRANSFER)
    entries = resolved(of, [e for e in made if e.kind in kinds])
    book = walked(of, entries)
    net: dict[Any, int] = defaultdict(int)
    for e in entries:
        if e.kind is EntryKind.BUY:
            net[e.payer] += e.shares or 0
        elif e.kind is EntryKind.SELL:
            net[e.payer] -= e.shares or 0
        elif e.to is None:
            net[e.payer] += e.shares or 0
    held: dict[Any, int] = defaultdict(int)
    for (_, payer), holding in book.held.items():
        held[payer] += holding.shares
    assert {p: n for p, n in net.items() if n} == {p: n for p, n in held.items() if n}


def test_a_split_there_and_back_leaves_shares_and_cost() -> None:
    of, made = few(11)
    entries = [e for e in made if e.kind is EntryKind.BUY]
    day = max(e.day for e in entries)
    of.known = with_part(of.known, splits={})
    plain = state(walked(of, entries))
    there = [(day + timedelta(days=1), Fraction(2)), (day + timedelta(days=2), Fraction(1, 2))]
    of.known = with_part(of.known, splits=dict.fromkeys(of.payers, there))
    assert state(walked(of, entries))["lots"] == plain["lots"]


@pytest.mark.parametrize("seed", range(sample(3, 40)))
def test_an_untidy_ledger_of_twenty_thousand_lines_is_walked(seed: int) -> None:
    of = Untidy(seed)
    book = walked(of, of.entries(20_000))
    assert len(book.held) > 500
    for holding in book.held.values():
        assert not (holding.unresolved and holding.lots)
        assert all(lot.shares > 0 for lot in holding.lots)
        keys = [lot.key for lot in holding.lots]
        assert keys == sorted(set(keys))
