"""A feed that means no good, or is badly made: the good rows come in, the bad ones are told with
their reason, and nothing that it does holds the product up."""

from __future__ import annotations

import gzip
import json
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any
from urllib.parse import parse_qs, urlsplit

import pytest

from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.pull_feed import NOTHING, pull_feed
from hearth_yield.api.jobs import Jobs
from hearth_yield.core.errors import Cancelled, Unreachable
from hearth_yield.feed.http_feed import HttpFeed, Patience
from hearth_yield.progress import Progress
from hearth_yield.store import sources
from hearth_yield.store.database import Database, pin_today
from tests.conftest import example
from tests.patience import until

AT = "2026-07-01T00:00:00+00:00"
WEEK = date(2026, 7, 7)
QUICK = Patience(tries=2, seconds=20, first_wait=0.01, in_all=60)
SHORT = Patience(tries=2, seconds=20, first_wait=0.01, in_all=1)
Answer = Callable[[BaseHTTPRequestHandler, int], None]


def price(number: int, day: str = "2026-07-01", known_on: str = "2026-07-01", **cells: Any) -> Any:
    row = {"exchange": "ELV", "symbol": "PNL", "day": day, "close": 12.5} | cells
    return {"number": number, "known_on": known_on, "table": "prices", "row": row}


def sent(raw: bytes, **headers: str) -> Answer:
    def answer(handler: BaseHTTPRequestHandler, after: int) -> None:
        handler.send_response(200)
        for name, value in headers.items():
            handler.send_header(name.replace("_", "-"), value)
        handler.end_headers()
        handler.wfile.write(raw)

    return answer


def page(*items: Any, more: bool = False) -> Answer:
    """What was not asked for yet of some rows."""

    def answer(handler: BaseHTTPRequestHandler, after: int) -> None:
        numbers = [i.get("number") if isinstance(i, dict) else None for i in items]
        left = [
            i for i, n in zip(items, numbers, strict=True) if not isinstance(n, int) or n > after
        ]
        sent(json.dumps({"items": left, "more": more and bool(left)}).encode())(handler, after)

    return answer


def dripping(handler: BaseHTTPRequestHandler, after: int) -> None:
    """A byte now and then, until nobody listens."""
    handler.send_response(200)
    handler.end_headers()
    pause = threading.Event()
    try:
        while not pause.wait(0.05):
            handler.wfile.write(b" ")
            handler.wfile.flush()
    except OSError:
        return


@contextmanager
def feed_of(answer: Answer, patience: Patience = QUICK) -> Iterator[HttpFeed]:
    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            parts = urlsplit(self.path)
            if parts.path == "/v1/about":
                about = {"name": "a fe\x07ed", "first_day": "2026-01-01", "last_day": "2030-01-01"}
                sent(json.dumps(about).encode())(self, 0)
            else:
                try:
                    answer(self, int(parse_qs(parts.query)["after"][0]))
                except OSError:
                    return

        def log_message(self, *_: object) -> None:
            """Says nothing."""

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    server.daemon_threads = True
    threading.Thread(target=server.serve_forever, daemon=True).start()
    try:
        yield HttpFeed(f"http://127.0.0.1:{server.server_port}", patience=patience)
    finally:
        server.shutdown()
        server.server_close()


@pytest.fixture
def lamps(empty: Database) -> Database:
    import_files(empty, example("pennant-lamps"), at=AT)
    with empty.write() as connection:
        pin_today(connection, date(2026, 6, 30))
    return empty


def closes(database: Database) -> dict[str, float]:
    with database.read() as connection:
        rows = connection.exec_driver_sql("SELECT day, close FROM price WHERE day > '2026-06-30'")
        return dict(rows.all())


def told_of(database: Database, source: int) -> list[str]:
    with database.read() as connection:
        return [w["expected"] for w in sources.report(connection, source).warnings]


GOOD = price(9_000, day="2026-07-02")
SET_ASIDE: dict[str, tuple[list[Any], str]] = {
    "a line break in a key": ([price(1, symbol="PNL\n")], "payers that are not held"),
    "a line break in a day": ([price(1, day="2026-07-01\n")], ""),
    "no key": ([price(1, day=None), price(2, day=None)], "a row without its day"),
    "an empty key": ([price(1, day="  ")], "a row without its day"),
    "four hundred of one cause": (
        [price(n, close=-n, day=f"2025-{1 + n % 12:02d}-{1 + n // 34:02d}") for n in range(1, 401)],
        "more rows",
    ),
    "two thousand of many causes": (
        [
            price(
                n,
                close=f"x{n}",
                day=f"20{10 + n % 9}-{1 + n % 12:02d}-{1 + n % 28:02d}",
                volume="y",
            )
            for n in range(1, 2001)
        ],
        "more rows",
    ),
    "a strange column": ([price(1, colour="red")], "no column 'colour' is known"),
    "a day to come": ([price(1, day="2031-01-01")], "2031-01-01 is still to come on 2026-07-07"),
    "no date": ([price(1, day="soon")], "expected"),
    "a word for a number": ([price(1, close="dear")], "“dear”"),
    "no number at all": ([{"table": "prices", "row": {}}], "number"),
    "a number that is a text": ([{**price(1), "number": "1"}], "number"),
    "a list for a row": ([{**price(1), "row": [1]}], "row"),
    "a nest for a cell": ([price(1, close=[[[[1]]]])], "close"),
    "not an object": ([7, None, "x"], "set aside"),
    "a control character": ([price(1, volume="1\x00")], "expected"),
    "half a character": ([price(1, volume="\ud800")], "set aside: row.volume"),
    "a long text": ([price(1, volume="9" * 5000)], "volume"),
    "a table of ours that is none": ([{**price(1), "table": "household"}], "not known"),
    "the same row twice, the second wrong": ([price(1), price(2, close=0)], "“0”"),
}


@pytest.mark.parametrize("kind", SET_ASIDE)
def test_bad_rows_are_set_aside_with_their_reason_and_the_rest_comes_in(
    kind: str, lamps: Database
) -> None:
    rows, words = SET_ASIDE[kind]
    with feed_of(page(*rows, GOOD)) as feed:
        source = pull_feed(lamps, feed, until=WEEK, at=AT)
        assert closes(lamps)["2026-07-02"] == 12.5
        assert any(words in told for told in told_of(lamps, source)) or not words
        later = price(9_001, day="2026-07-03")
    with feed_of(page(*rows, GOOD, later)) as feed:
        pull_feed(lamps, feed, until=WEEK, at=AT)
    assert closes(lamps)["2026-07-03"] == 12.5


def test_nothing_but_bad_rows_is_told_once_and_what_comes_later_comes_in(lamps: Database) -> None:
    bad = [price(n, close=-1, day=f"2026-06-{n:02d}") for n in range(1, 9)]
    with feed_of(page(*bad)) as feed:
        source = pull_feed(lamps, feed, until=WEEK, at=AT)
        assert len([t for t in told_of(lamps, source) if "“-1" in t]) == 8
        assert pull_feed(lamps, feed, until=WEEK, at=AT) == NOTHING
    torn = [{"number": n, "table": "prices"} for n in range(9, 30)]
    with feed_of(page(*bad, *torn, more=True)) as feed:
        assert pull_feed(lamps, feed, until=WEEK, at=AT) != NOTHING
    with feed_of(page(*bad, *torn, GOOD)) as feed:
        pull_feed(lamps, feed, until=WEEK, at=AT)
    assert closes(lamps) == {"2026-07-02": 12.5}


REFUSED: dict[str, tuple[Answer, str]] = {
    "compressed": (sent(gzip.compress(b" " * 10**7), content_encoding="gzip"), "compressed"),
    "broken gzip": (sent(b"\x1f\x8b\x08\x00rest", content_encoding="gzip"), "compressed"),
    "deep JSON": (sent(b"[" * 10**6), "cut off"),
    "deep and whole JSON": (sent(b"[" * 10**5 + b"]" * 10**5), "cut off"),
    "too much": (sent(b" " * 17 * 2**20), "too much at once"),
    "too many rows": (sent(b'{"items":[' + b"1," * 6000 + b"1]}"), "more than 5,000 rows"),
    "another shape": (sent(b'{"items": {"a": 1}}'), "another shape"),
    "no JSON": (sent(b"<html>"), "cut off"),
    "more of nothing": (sent(b'{"items": [], "more": true}'), "nothing new"),
    "moved elsewhere": (
        lambda h, _: (h.send_response(302), h.send_header("location", "/x"), h.end_headers()),
        "status 302",
    ),  # type: ignore[dict-item, return-value]
}


@pytest.mark.parametrize("kind", REFUSED)
def test_an_answer_that_is_none_is_refused_in_words_and_nothing_is_kept(
    kind: str, lamps: Database
) -> None:
    answer, words = REFUSED[kind]
    with feed_of(answer) as feed, pytest.raises(Unreachable, match=words):
        pull_feed(lamps, feed, until=WEEK, at=AT)
    assert closes(lamps) == {}


def test_an_answer_that_never_ends_is_given_up(lamps: Database) -> None:
    with feed_of(dripping, SHORT) as feed, pytest.raises(Unreachable, match="come to an end"):
        pull_feed(lamps, feed, until=WEEK, at=AT)


def test_while_it_drips_it_can_be_cancelled_and_the_server_closes() -> None:
    """A task is left at once, though its line stays open."""
    begun = threading.Event()

    def look(step: str, done: int, total: int) -> None:
        if begun.is_set():
            raise Cancelled("enough")
        begun.set()

    with feed_of(dripping) as feed:
        with pytest.raises(Cancelled):
            feed.published(0, WEEK, look)
        jobs = Jobs()

        def task(progress: Progress) -> int:
            feed.published(0, WEEK, progress)
            return 0

        job = jobs.start(task, once="feed")
        assert jobs.start(task, once="feed") is job
        jobs.close()
        until(lambda: job.state == "cancelled")
        assert jobs.start(task, once="feed") is not job
        jobs.close()
