"""What Watch and the Journal read of many payers at once: the same however it was read."""

from collections.abc import Mapping
from datetime import date
from decimal import Decimal
from typing import Any

import pytest

from hearth_yield.actions import read_journal as journal
from hearth_yield.actions import watch_payers as watching
from hearth_yield.actions.decide import Memo, decide
from hearth_yield.actions.ensure_measures import ensure_measures
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.expecting.expectation import Expectation, Judged, Side, Track, Way
from hearth_yield.core.finding.measured import Measured
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.demo.script import TODAY
from hearth_yield.store.database import Database
from hearth_yield.store.facts import named_payers
from tests.databases import PAYERS

AT = "2026-06-30T00:00:00+00:00"
THEN = date(2022, 6, 30)
EXPECTED = (
    ("declared_rate", Way.GROWTH, Side.AT_LEAST, 0.04, date(2029, 6, 30)),
    ("payout", Way.THROUGHOUT, Side.AT_MOST, 0.7, date(2028, 6, 30)),
    ("affo_payout", Way.LEVEL, Side.AT_MOST, 0.9, date(2025, 6, 30)),
    ("debt_to_ebitda", Way.LEVEL, Side.AT_MOST, 2.0, date(2030, 6, 30)),
)


@pytest.fixture
def decided(twenty: Database) -> Database:
    """A decision of four years ago on every fourth payer, of every kind."""
    cache = ReviewCache(twenty)
    with twenty.read() as connection:
        keys = [(exchange, symbol) for exchange, symbol, *_ in named_payers(connection)]
    memo = Memo(
        trim_above=Decimal("80"),
        expectations=[
            Expectation(measure=m, way=way, side=side, value=value, until=until, then=None)
            for m, way, side, value, until in EXPECTED
        ],
    )
    for exchange, symbol in keys[::4]:
        decide(
            cache,
            exchange,
            symbol,
            today=THEN,
            as_of=THEN,
            recorded_at=AT,
            verdict="hold",
            words="Steady.",
            buy_below=Decimal("20"),
            question=Question(),
            memo=memo,
        )
    return twenty


def became(judged: Judged) -> list[Any]:
    """All of an expectation but the words of its working."""
    return [
        (judged.expectation, judged.track),
        *((f.value, f.reason, f.touch, f.cautions, f.unit) for f in (judged.value, judged.wanted)),
    ]


def told(database: Database, day: date) -> list[Any]:
    cache = ReviewCache(database)
    at = cache.edition()
    watched = [
        (
            w.waiting.payer.symbol,
            w.waiting.state,
            w.waiting.price.value,
            [(n, became(j)) for n, j in w.waiting.slipping],
            w.waiting.reaches,
        )
        for w in watching.watch_payers(cache, day, at)
    ]
    entries = journal.read_journal(cache, day, at).entries
    return [
        watched,
        [(e.made.symbol, e.outcome.since, list(map(became, e.outcome.judged))) for e in entries],
    ]


@pytest.mark.parametrize("day", [TODAY, date(2025, 3, 31)])
def test_kept_measures_tell_what_reviews_tell(
    decided: Database, monkeypatch: pytest.MonkeyPatch, day: date
) -> None:
    ensure_measures(decided, HouseRules(), day)
    from_kept = told(decided, day)

    def nothing_ready(*_: object) -> Mapping[tuple[str, str], Measured]:
        return {}

    monkeypatch.setattr(watching, "ready_measures", nothing_ready)
    monkeypatch.setattr(journal, "ready_measures", nothing_ready)
    assert told(decided, day) == from_kept
    assert len(from_kept[0]) == PAYERS // 4
    tracks = {became[0][1] for *_, judged in from_kept[1] for became in judged}
    assert {Track.ON, Track.OFF, Track.UNKNOWN} <= tracks


def test_what_is_read_once_moves_with_the_facts(decided: Database) -> None:
    cache = ReviewCache(decided)
    before = watching.watch_payers(cache, TODAY, cache.edition())
    last = before[-1].waiting
    again = watching.watch_payers(cache, TODAY, cache.edition())
    assert all(a.waiting is b.waiting for a, b in zip(before, again, strict=True))
    row = f"{last.payer.exchange},{last.payer.symbol},{TODAY.isoformat()},1.00\n"
    raw = f"exchange,symbol,day,close\n{row}".encode()
    import_files(decided, [("prices.csv", raw)], at=AT)
    after = {
        w.waiting.payer.symbol: w.waiting
        for w in watching.watch_payers(cache, TODAY, cache.edition())
    }
    moved = after[last.payer.symbol]
    assert last.price.value != 1.0
    assert (moved.price.value, moved.nearest) == (1.0, pytest.approx(1 / 20 - 1))


def test_the_record_is_of_all_decisions_though_the_newest_are_listed(
    decided: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    cache = ReviewCache(decided)
    whole = journal.read_journal(cache, TODAY, cache.edition())
    monkeypatch.setattr(journal, "MOST", 4)
    few = journal.read_journal(cache, TODAY, cache.edition())
    assert (len(few.entries), few.found) == (4, PAYERS // 4)
    assert (few.held, few.judged, few.by_verdict) == (whole.held, whole.judged, whole.by_verdict)
    assert few.by_verdict[0].decisions == PAYERS // 4
