"""The demo's household: consistent with the made-up world, with the stories that it tells."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from functools import cache
from pathlib import Path

import pytest

from hearth_yield.actions.read_holdings import Ground, Holdings, ground_of, read_holdings, walked
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.household.amounts import SHARE
from hearth_yield.core.household.cash import cash_after
from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.core.household.receipts import shares_before
from hearth_yield.demo import household as own
from hearth_yield.demo.household import ACCOUNTS, HARBOUR, OLD, OVERSEAS, Seen, entries
from hearth_yield.demo.script import TODAY
from hearth_yield.store.database import Database

from .world import world

CAME = (EntryKind.DIVIDEND, EntryKind.REINVESTMENT, EntryKind.RETURN_OF_CAPITAL)


@cache
def made() -> list[Entry]:
    seen = Seen()
    seen.look(world())
    return entries(seen)


@pytest.fixture(scope="module")
def cache_of_demo(demo_file: Path) -> Iterator[ReviewCache]:
    database = Database(demo_file)
    yield ReviewCache(database)
    database.close()


@pytest.fixture(scope="module")
def held(cache_of_demo: ReviewCache) -> Holdings:
    return read_holdings(cache_of_demo, TODAY, cache_of_demo.edition())


@pytest.fixture(scope="module")
def ground(cache_of_demo: ReviewCache) -> Ground:
    return ground_of(cache_of_demo, TODAY, cache_of_demo.edition())


def test_three_accounts_two_currencies_fifteen_years(held: Holdings) -> None:
    assert [a.name for a in held.accounts] == [a.name for a in ACCOUNTS]
    assert {p.quote.currency for p in held.held} == {"TLL", "THK"}
    assert 22 <= len(held.held) + len(held.ended) <= 28
    days = [e.day for e in made()]
    assert days == sorted(days)
    assert max(days).year - min(days).year == 15
    old = [e for e in made() if e.account == OLD.id]
    assert {e.kind for e in old} == {EntryKind.OPENING, EntryKind.CONVERSION}


def test_what_is_stored_is_what_is_made(ground: Ground) -> None:
    plain = [(e.day, e.kind, e.payer, e.shares, e.amount) for e in made()]
    assert [(e.day, e.kind, e.payer, e.shares, e.amount) for e in ground.entries] == plain


def test_nothing_is_bought_that_could_not_be_paid() -> None:
    for entry in made():
        if entry.kind is EntryKind.BUY and entry.account == HARBOUR.id:
            found = cash_after(made(), (), {HARBOUR.id: HARBOUR.currency}, entry.day)
            assert found[HARBOUR.id, HARBOUR.currency] >= 0


def test_every_position_is_resolved_and_everything_has_a_value(held: Holdings) -> None:
    assert not [p.key for p in held.held if p.unresolved]
    assert held.totals.value.notes == ()
    assert [n for n in held.totals.cost.notes if "Ashcombe Timber" not in n] == []
    assert held.totals.cost.value is not None


def test_dividends_are_what_the_world_paid_on_the_shares_held(ground: Ground) -> None:
    book, _ = walked(ground, TODAY)
    off: set[tuple[str, date]] = set()
    for payer, followed in ground.followed.items():
        for paid in followed.paid:
            place = (HARBOUR.id, payer)
            if place not in book.held or not paid.ex_date >= own.BEGAN or paid.comes > TODAY:
                continue
            shares = shares_before(book, ground.known, place, paid.ex_date) or 0
            due = round(shares / SHARE * paid.amount * 100)
            here = [e for e in ground.entries if e.payer == payer and e.day == paid.pay_date]
            came = sum(e.amount or 0 for e in here if e.kind in CAME and e.account == HARBOUR.id)
            if abs(came - due) > 1:
                off.add((payer[1], paid.comes))
    assert {(s, d.year) for s, d in off} == {own.MISSING[:2], own.SHORT[:2]}
    assert len(off) == 2


def test_the_stories_are_there(held: Holdings) -> None:
    ended = {p.quote.payer[1]: p for p in held.ended}
    (cut, _) = own.AFTER_THE_CUT
    assert (ended[cut].realised.value or 0) < 0
    early = [e for e in made() if e.kind is EntryKind.SELL and e.payer == ("ELV", own.TOO_EARLY[0])]
    price = next(p for p in held.held if p.quote.payer[1] == own.TOO_EARLY[0]).quote.price.value
    assert price is not None
    assert float(early[0].price or 0) < price / 2
    young = next(p for p in held.held if p.quote.payer[1] == own.SPUN_OFF[1])
    assert young.cost.value == pytest.approx(0.14 * 3940.50, abs=0.01)
    again = [p for p in held.held if any(lot.by_dividend for lot in p.lots)]
    assert {p.quote.payer[1] for p in again} == set(own.PUT_BACK)
    abroad = [p for p in held.held if p.places[0][0] == OVERSEAS.id]
    assert all(p.gain_by_currency.value for p in abroad)
    assert next(p for p in held.held if p.quote.payer[1] == "GWK").shares.value
