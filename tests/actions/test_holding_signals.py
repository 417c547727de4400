"""Signals of what is held: each once, as the day knew it, gone once it is mended or explained."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import pytest

from hearth_yield.actions.explain_payment import explain_payment
from hearth_yield.actions.holding_signals import newest_signals, signals_of_holdings, unseen_in_all
from hearth_yield.actions.make_signals import ensure_signals, mark_signals
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.store import ledger
from hearth_yield.store.database import Database, edition
from hearth_yield.store.signals import KeptSignal
from tests.databases import kept_demo

AT = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)


@pytest.fixture
def demo(tmp_path: Path) -> ReviewCache:
    path = tmp_path / "own.sqlite"
    path.write_bytes(Path(kept_demo()).read_bytes())
    return ReviewCache(Database(path))


def stands(cache: ReviewCache, day: date = TODAY) -> list[KeptSignal]:
    with cache.database.read() as connection:
        at = edition(connection)
    return signals_of_holdings(cache, day, at)


def of(found: list[KeptSignal], kind: str) -> list[KeptSignal]:
    return [k for k in found if k.signal.kind.id == kind]


def test_a_payment_that_never_came_is_told_from_the_day_it_is_missing(demo: ReviewCache) -> None:
    (missing,) = of(stands(demo), "payment_missing")
    assert missing.symbol == "AMLH"
    day = missing.signal.day
    assert of(stands(demo, day.replace(day=day.day)), "payment_missing")
    before = date.fromordinal(day.toordinal() - 1)
    assert not of(stands(demo, before), "payment_missing")


def test_it_goes_once_it_is_entered(demo: ReviewCache) -> None:
    (missing,) = of(stands(demo), "payment_missing")
    net = missing.signal.said[0]
    account, _, ex_date = missing.signal.event.partition(":")
    paid = Entry(
        id=0,
        account=int(account),
        kind=EntryKind.DIVIDEND,
        day=date.fromisoformat(ex_date).replace(day=28),
        payer=(missing.exchange, missing.symbol),
        amount=round(100 * net.value),  # type: ignore[union-attr]
        currency=missing.currency,
    )
    with demo.database.write(facts=False, ledger=True) as connection:
        ledger.add_many(connection, [paid], None, AT)
    assert not of(stands(demo), "payment_missing")


def test_it_goes_once_the_person_says_why_and_comes_back_with_that(demo: ReviewCache) -> None:
    (missing,) = of(stands(demo), "payment_missing")
    account, _, ex_date = missing.signal.event.partition(":")
    payment = ((int(account), (missing.exchange, missing.symbol)), date.fromisoformat(ex_date))
    explain_payment(demo.database, payment, "  the bank is looking  ", at=AT)
    assert not of(stands(demo), "payment_missing")
    explain_payment(demo.database, payment, "", at=AT)
    assert of(stands(demo), "payment_missing") == [missing]


def test_one_seen_is_not_new_again_and_one_event_is_told_once(demo: ReviewCache) -> None:
    with demo.database.read() as connection:
        at = edition(connection)
    ensure_signals(demo.database, demo.house_rules(at), TODAY)
    both = newest_signals(demo, TODAY, at)
    raised = {(k.symbol, k.signal.day) for k in both if k.signal.kind.id == "income_raised"}
    plain = {(k.symbol, k.signal.day) for k in both if k.signal.kind.id == "raised"}
    assert raised
    assert not raised & plain
    new = [k for k in both if not k.seen]
    assert unseen_in_all(demo, TODAY, at) == len(new)
    first = of(stands(demo), "payment_missing")[0]
    event = (first.exchange, first.symbol, first.signal.kind.id, first.signal.event)
    mark_signals(demo.database, [event], at=AT)
    assert [k.seen for k in of(stands(demo), "payment_missing")] == [True]
    assert unseen_in_all(demo, TODAY, at) == len(new) - 1
