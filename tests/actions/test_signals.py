"""Signals as they are kept: the same day by day as at once, gone with an import and back with it,
seen once and for all."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path

import pytest

from hearth_yield.actions import make_signals as making
from hearth_yield.actions.decide import Memo, decide
from hearth_yield.actions.import_files import undo_import
from hearth_yield.actions.make_signals import (
    ensure_signals,
    mark_signals,
    newest_signals,
    pending_signals,
)
from hearth_yield.actions.pull_feed import pull_feed
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import Cancelled, InvalidInput
from hearth_yield.core.expecting.expectation import Expectation, Side, Way
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.feed.http_feed import HttpFeed
from hearth_yield.store.database import Database
from hearth_yield.store.signals import KeptSignal
from tests.conftest import SOAK
from tests.databases import PAYERS
from tests.feed.market import market_beside

AT = "2026-07-01T08:00:00+00:00"
TODAY = date(2026, 6, 30)
RULES = HouseRules()
EVERY = HouseRules(signals=dict.fromkeys(("raised", "declared", "ex_soon", "data_old"), "all"))


@pytest.fixture(scope="module")
def feed() -> Iterator[HttpFeed]:
    with market_beside() as beside:
        yield HttpFeed(beside.url)


def decided(database: Database, symbol: str, buy_below: str, memo: Memo) -> None:
    decide(
        ReviewCache(database),
        "ELV",
        symbol,
        today=TODAY,
        as_of=TODAY,
        recorded_at=AT,
        verdict="wait",
        words="not yet",
        buy_below=Decimal(buy_below),
        question=Question(),
        memo=memo,
    )


@pytest.fixture
def followed(twenty: Database) -> Database:
    """The demo with two payers followed: one is waited for, of one something is expected."""
    rate = ReviewCache(twenty).review("ELV", "WKTG", TODAY, Question()).figure("declared_rate")
    assert rate is not None
    assert rate.value is not None
    holds = Expectation(
        measure="declared_rate",
        way=Way.LEVEL,
        side=Side.AT_LEAST,
        value=round(rate.value, 4) - 0.01,
        until=date(2026, 12, 31),
        then=None,
    )
    decided(twenty, "WKTG", "12.00", Memo(expectations=[holds], next_look=date(2026, 9, 15)))
    decided(twenty, "TRS", "66.00", Memo(trim_above=Decimal("68.00")))
    return twenty


def told(database: Database, until: date = date.max) -> list[KeptSignal]:
    return list(newest_signals(database, until))


def kinds(found: list[KeptSignal], symbol: str) -> set[str]:
    return {k.signal.kind.id for k in found if k.symbol == symbol}


def test_half_a_year_on_what_was_waited_for_and_feared_is_told(
    followed: Database, feed: HttpFeed
) -> None:
    day = date(2026, 12, 31)
    pull_feed(followed, feed, until=day, at=AT)
    assert pending_signals(followed, RULES, day) == PAYERS
    assert ensure_signals(followed, RULES, day) == PAYERS
    assert pending_signals(followed, RULES, day) == 0
    found = told(followed)
    assert {"cut", "expectation", "look_due", "buy_reached", "ex_soon"} <= kinds(found, "WKTG")
    assert {"buy_reached", "declared", "ex_soon"} <= kinds(found, "TRS")
    (cut,) = [k for k in found if k.symbol == "WKTG" and k.signal.kind.id == "cut"]
    assert cut.signal.day == date(2026, 10, 22)
    others = {k.signal.kind.id for k in found if k.symbol not in ("WKTG", "TRS")}
    assert others <= {"cut", "suspended"}


def twin_of(database: Database, folder: Path, name: str) -> Database:
    with database.engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    shutil.copy(database.path, folder / name)
    return Database(folder / name)


def test_day_by_day_the_same_are_told_as_at_once(
    followed: Database, feed: HttpFeed, tmp_path: Path
) -> None:
    """Ten weeks, with the misprints that are put right the day after."""
    at_once = twin_of(followed, tmp_path, "at_once.sqlite")
    last = date(2026, 9, 8)
    day = TODAY
    while day < last:
        step = 1 if SOAK or day < date(2026, 7, 6) else 11
        day = min(day + timedelta(days=step), last)
        pull_feed(followed, feed, until=day, at=AT)
        ensure_signals(followed, EVERY, day)
    pull_feed(at_once, feed, until=last, at=AT)
    ensure_signals(at_once, EVERY, last)
    assert len(told(at_once)) > 50
    assert told(followed) == told(at_once)
    at_once.close()


def test_an_import_that_is_undone_takes_its_signals_and_brings_the_same_again(
    followed: Database, feed: HttpFeed
) -> None:
    ensure_signals(followed, EVERY, TODAY)
    before = told(followed)
    day = date(2026, 8, 4)
    source = pull_feed(followed, feed, until=day, at=AT)
    ensure_signals(followed, EVERY, day)
    after = told(followed)
    assert len(after) > len(before)
    undo_import(followed, source, at=AT)
    ensure_signals(followed, EVERY, day)
    left = told(followed)
    assert [k for k in left if k.signal.day <= TODAY] == before
    facts = {"cut", "raised", "declared", "buy_reached", "trim_reached", "test_changed"}
    assert not [k for k in left if k.signal.day > TODAY and k.signal.kind.id in facts]
    pull_feed(followed, feed, until=day, at=AT)
    ensure_signals(followed, EVERY, day)
    assert told(followed) == after


def test_what_was_seen_stays_seen_also_when_it_is_made_again(
    followed: Database, feed: HttpFeed
) -> None:
    day = date(2026, 7, 20)
    source = pull_feed(followed, feed, until=day, at=AT)
    ensure_signals(followed, RULES, day)
    (one,) = [k for k in told(followed) if k.symbol == "TRS" and k.signal.kind.id == "buy_reached"][
        :1
    ]
    event = (one.exchange, one.symbol, one.signal.kind.id, one.signal.event)
    mark_signals(followed, [event], at=AT)
    mark_signals(followed, [event], at=AT)
    undo_import(followed, source, at=AT)
    ensure_signals(followed, RULES, day)
    pull_feed(followed, feed, until=day, at=AT)
    ensure_signals(followed, RULES, day)
    (again,) = [k for k in told(followed) if k.signal == one.signal]
    assert again.seen
    assert again.signal not in [k.signal for k in newest_signals(followed, day, unseen=True)]
    mark_signals(followed, [event], at=None)
    assert again.signal in [k.signal for k in newest_signals(followed, day, unseen=True)]
    with pytest.raises(InvalidInput, match="no such kind"):
        mark_signals(followed, [("ELV", "TRS", "rumour", "x")], at=AT)


def test_stopped_on_the_way_the_rest_is_made_later(
    followed: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(making, "BATCH", 6)

    def stop(step: str, done: int, total: int) -> None:
        if done:
            raise Cancelled("cancelled")

    with pytest.raises(Cancelled):
        ensure_signals(followed, RULES, TODAY, stop)
    assert 0 < pending_signals(followed, RULES, TODAY) < PAYERS
    ensure_signals(followed, RULES, TODAY)
    stopped = told(followed)
    changed = HouseRules(signal_ex_days=8)
    ensure_signals(followed, changed, TODAY)
    ensure_signals(followed, RULES, TODAY)
    assert told(followed) == stopped


def test_an_empty_household_has_none(empty: Database) -> None:
    assert ensure_signals(empty, RULES, TODAY) == 0
    assert pending_signals(empty, RULES, TODAY) == 0
