"""The feed over real HTTP: what goes amiss is got over, counted and told; nothing is lost, nothing
comes twice."""

from __future__ import annotations

import json
import signal
import subprocess
import sys
import textwrap
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import httpx
import pytest
from sqlalchemy import text

from hearth_yield.actions.import_files import undo_import
from hearth_yield.actions.pull_feed import NOTHING, pull_feed
from hearth_yield.core.errors import Cancelled, InvalidInput, Unreachable
from hearth_yield.feed.http_feed import HttpFeed, Patience
from hearth_yield.market.service import create_market
from hearth_yield.store import sources
from hearth_yield.store.database import Database
from tests.conftest import SOAK
from tests.databases import client_of, copy_of
from tests.patience import ended

from .market import Beside, market_beside

AT = "2026-07-01T08:00:00+00:00"
WEEK = date(2026, 7, 7)
QUICK = Patience(tries=3, seconds=1.0, first_wait=0.01)


@pytest.fixture(scope="module")
def market() -> Iterator[Beside]:
    with market_beside() as beside:
        httpx.get(f"{beside.url}/v1/published?until=2026-07-01", timeout=60)
        yield beside


@pytest.fixture
def feed(market: Beside) -> Iterator[HttpFeed]:
    market.misbehave()
    yield HttpFeed(market.url, patience=QUICK)
    market.misbehave()


FACTS = (
    "SELECT exchange, symbol, day, close FROM price JOIN payer ON payer.id = payer_id"
    " WHERE day > '2026-06-30' ORDER BY 1, 2, 3",
    "SELECT exchange, symbol, ex_date, dividend.kind, amount FROM dividend"
    " JOIN payer ON payer.id = payer_id WHERE declared_on > '2026-06-30' ORDER BY 1, 2, 3, 4",
    "SELECT exchange, symbol, fiscal_year, measure, mean FROM estimate"
    " JOIN payer ON payer.id = payer_id WHERE published_on > '2026-06-30' ORDER BY 1, 2, 3, 4",
)


def facts_of(database: Database) -> list[list[tuple[object, ...]]]:
    with database.read() as connection:
        return [[tuple(r) for r in connection.execute(text(q))] for q in FACTS]


def today_of(database: Database) -> str:
    with database.read() as connection:
        return str(connection.execute(text("SELECT pinned_today FROM product_state")).scalar_one())


def told_of(database: Database, source: int) -> str:
    with database.read() as connection:
        return "; ".join(w["expected"] for w in sources.report(connection, source).warnings)


@pytest.fixture(scope="module")
def plain(
    demo_file: Path, tmp_path_factory: pytest.TempPathFactory, market: Beside
) -> list[list[tuple[object, ...]]]:
    """The week as an untroubled feed brings it."""
    database = copy_of(demo_file, tmp_path_factory.mktemp("plain") / "plain.sqlite")
    market.misbehave()
    pull_feed(database, HttpFeed(market.url, patience=QUICK), until=WEEK, at=AT)
    found = facts_of(database)
    database.close()
    assert len(found[0]) > 200
    return found


def test_a_week_comes_in_as_a_source_and_the_day_moves(demo: Database, feed: HttpFeed) -> None:
    source = pull_feed(demo, feed, until=WEEK, at=AT)
    assert today_of(demo) == "2026-07-07"
    with demo.read() as connection:
        kept = sources.get(connection, source)
    assert (kept["kind"], kept["file_name"]) == ("feed", "the Sundrey market, to 2026-07-07")
    assert pull_feed(demo, feed, until=WEEK, at=AT) == NOTHING
    with pytest.raises(InvalidInput, match="only be moved on"):
        pull_feed(demo, feed, until=date(2026, 7, 6), at=AT)


def test_day_by_day_brings_what_comes_at_once(
    demo: Database, feed: HttpFeed, plain: list[list[tuple[object, ...]]]
) -> None:
    for day in range(1, 8):
        pull_feed(demo, feed, until=date(2026, 7, day), at=AT)
    assert facts_of(demo) == plain


def test_undone_it_is_as_before_and_comes_again(
    demo: Database, feed: HttpFeed, plain: list[list[tuple[object, ...]]]
) -> None:
    before = facts_of(demo)
    first = pull_feed(demo, feed, until=date(2026, 7, 3), at=AT)
    second = pull_feed(demo, feed, until=WEEK, at=AT)
    undo_import(demo, first, at=AT)
    assert facts_of(demo) != plain
    pull_feed(demo, feed, until=WEEK, at=AT)
    assert facts_of(demo) == plain
    with demo.read() as connection:
        newest = sources.newest_first(connection)[0]["id"]
    undo_import(demo, newest, at=AT)
    undo_import(demo, second, at=AT)
    assert facts_of(demo) == before


@pytest.mark.parametrize(
    ("faults", "words"),
    [
        ({"fail": 2}, "2 × it answers that it failed"),
        ({"half": 2}, "2 × an answer that is cut off"),
        ({"wrong": 1}, "1 × rows of the wrong types"),
        ({"twice": 1}, "3 × rows sent twice"),
        ({"back": 1}, "1 × rows dated before"),
        ({"early": 1}, "1 × rows sent before their day"),
    ],
)
def test_what_goes_amiss_is_got_over_and_told(
    demo: Database,
    feed: HttpFeed,
    market: Beside,
    plain: list[list[tuple[object, ...]]],
    faults: dict[str, float],
    words: str,
) -> None:
    market.misbehave(**faults)
    source = pull_feed(demo, feed, until=WEEK, at=AT)
    assert words in told_of(demo, source)
    pull_feed(demo, feed, until=WEEK, at=AT)
    assert facts_of(demo) == plain


@pytest.mark.parametrize(
    ("faults", "words"),
    [
        ({"fail": 9}, "answers that it failed"),
        ({"half": 9}, "cut off"),
        ({"slow": 3.0}, "took too long"),
    ],
)
def test_where_it_does_not_end_nothing_is_kept(
    demo: Database, feed: HttpFeed, market: Beside, faults: dict[str, float], words: str
) -> None:
    before = facts_of(demo)
    market.misbehave(**faults)
    with pytest.raises(Unreachable, match=words):
        pull_feed(demo, feed, until=WEEK, at=AT)
    assert (facts_of(demo), today_of(demo)) == (before, "2026-06-30")


def test_nobody_there(demo: Database) -> None:
    with pytest.raises(Unreachable, match="nobody answers there"):
        pull_feed(demo, HttpFeed("http://127.0.0.1:9", patience=QUICK), until=WEEK, at=AT)


def test_rows_that_stay_wrong_are_set_aside_and_the_rest_is_kept(
    demo: Database, feed: HttpFeed, market: Beside
) -> None:
    market.misbehave(wrong=9)
    source = pull_feed(demo, feed, until=WEEK, at=AT)
    assert "set aside: " in told_of(demo, source)
    assert len(facts_of(demo)[0]) > 200


def test_a_correction_puts_right_and_can_be_undone(demo: Database, market: Beside) -> None:
    feed = HttpFeed(market.url, patience=QUICK)
    pull_feed(demo, feed, until=WEEK, at=AT)
    before = facts_of(demo)
    row = {"exchange": "ELV", "symbol": "TRS", "day": "2026-07-02", "close": 12.34}
    market.correct("2026-07-08", "prices", row)
    source = pull_feed(demo, feed, until=date(2026, 7, 8), at=AT)
    assert ("ELV", "TRS", "2026-07-02", 12.34) in facts_of(demo)[0]
    undo_import(demo, source, at=AT)
    assert facts_of(demo) == before


def test_a_value_no_file_may_hold_is_set_aside(demo: Database, market: Beside) -> None:
    feed = HttpFeed(market.url, patience=QUICK)
    row = {"exchange": "ELV", "symbol": "SKW", "day": "2026-07-09", "close": -4}
    market.correct("2026-07-10", "prices", row)
    market.correct("2026-07-10", "prices", {**row, "symbol": "NOBODY"})
    market.correct("2026-07-10", "payers", {"exchange": "ELV", "symbol": "NEW"})
    source = pull_feed(demo, feed, until=date(2026, 7, 10), at=AT)
    told = told_of(demo, source)
    assert "set aside: prices.csv, close: “-4”" in told
    assert "1 rows of payers that are not held" in told
    assert "1 rows of tables that are not known" in told
    assert ("ELV", "TRS", "2026-07-10") in {r[:3] for r in facts_of(demo)[0]}


def test_cancelled_on_the_way_nothing_is_kept(demo: Database, feed: HttpFeed) -> None:
    before = facts_of(demo)
    steps = 0

    def stop(step: str, done: int, total: int) -> None:
        nonlocal steps
        steps += 1
        if steps > 3:
            raise Cancelled("cancelled; nothing was kept")

    with pytest.raises(Cancelled):
        pull_feed(demo, feed, until=WEEK, at=AT, progress=stop)
    assert (facts_of(demo), today_of(demo)) == (before, "2026-06-30")


def test_the_shape_of_a_feed_is_documented_as_it_is() -> None:
    held = json.loads((Path(__file__).parents[2] / "docs/feed.openapi.json").read_text())
    assert held == create_market().openapi(), "run make api-types"


def test_the_feed_is_asked_through_the_api(demo: Database, feed: HttpFeed) -> None:
    with client_of(demo, feed) as client:
        assert client.get("/api/status").json()["feed"] is True
        begun = client.post("/api/feed", json={"until": "2026-07-03"}).json()
        assert ended(client, begun["id"])["state"] == "done"
        assert client.get("/api/status").json()["today"] == "2026-07-03"
        assert client.get("/api/sources").json()[0]["kind"] == "feed"


def test_without_a_feed_that_is_said(demo: Database) -> None:
    answer = client_of(demo).post("/api/feed", json={})
    assert (answer.status_code, answer.json()["field"]) == (409, "feed")


def test_a_household_of_its_own_asks_up_to_today_only(empty: Database, feed: HttpFeed) -> None:
    with client_of(empty, feed) as client:
        answer = client.post("/api/feed", json={"until": "2099-01-01"})
    assert (answer.status_code, answer.json()["field"]) == (422, "until")


KILLED_AT = """
    import os, signal, sys
    from datetime import date
    from itertools import count
    from pathlib import Path
    from hearth_yield.actions.pull_feed import pull_feed
    from hearth_yield.feed.http_feed import HttpFeed
    from hearth_yield.store.database import Database

    path, url, last = sys.argv[1:]
    steps = count()

    def step(name, done, total):
        if next(steps) == int(last):
            os.kill(os.getpid(), signal.SIGKILL)

    database = Database(Path(path))
    pull_feed(database, HttpFeed(url), until=date(2026, 7, 7), at="now", progress=step)
"""


@pytest.mark.parametrize("last", range(8) if SOAK else (1, 4))
def test_killed_anywhere_and_begun_again_it_is_as_if_it_ran_through(
    demo: Database, feed: HttpFeed, market: Beside, plain: list[list[tuple[object, ...]]], last: int
) -> None:
    command = [sys.executable, "-c", textwrap.dedent(KILLED_AT), str(demo.path), market.url]
    ended = subprocess.run([*command, str(last)], check=False)
    assert ended.returncode == -signal.SIGKILL, "it was to be killed on the way"
    assert today_of(demo) == "2026-06-30"
    pull_feed(demo, feed, until=WEEK, at=AT)
    assert facts_of(demo) == plain
    with demo.read() as connection:
        assert [s["kind"] for s in sources.newest_first(connection)] == ["feed", "demo"]
