"""The feed, signals, the Hearth and comparisons, each against what it cannot do without."""

from __future__ import annotations

import csv
import io
import shutil
import statistics
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path

import httpx
import numpy as np
import uvicorn

from hearth_yield.actions.decide import decide
from hearth_yield.actions.ensure_measures import ensure_measures
from hearth_yield.actions.fill_demo import fill_demo
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.make_signals import ensure_signals
from hearth_yield.actions.pull_feed import pull_feed
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.comparing.scoring import firmness
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.demo.script import TODAY
from hearth_yield.feed.http_feed import HttpFeed
from hearth_yield.market.service import create_market
from hearth_yield.store.database import Database, pin_today
from hearth_yield.store.facts import named_payers

from .timing import medians_ms

AT = "2026-07-01T00:00:00+00:00"
DAYS = 8
SIGNALLED, FOLLOWED = 200, 40
COMPARED = ("TRS", "AMLH", "CRF", "SKW", "GRNB", "ORVN")


def _csv(rows: list[dict[str, str]]) -> bytes:
    out = io.StringIO()
    writer = csv.DictWriter(out, list(dict.fromkeys(name for row in rows for name in row)))
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue().encode()


@contextmanager
def market() -> Iterator[str]:
    config = uvicorn.Config(create_market(), host="127.0.0.1", port=0, log_level="error")
    server = uvicorn.Server(config)
    threading.Thread(target=server.run, daemon=True).start()
    while not server.started:
        time.sleep(0.01)
    url = f"http://127.0.0.1:{server.servers[0].sockets[0].getsockname()[1]}"
    httpx.get(f"{url}/v1/published?until=2026-07-01", timeout=60)
    yield url
    server.should_exit = True


def feed_day_ms(demo: Path, folder: Path) -> tuple[float, float]:
    """A day of the feed for the demo's payers, and the same rows from files: medians, the two taken
    turn by turn on databases of their own."""
    ours: list[float] = []
    theirs: list[float] = []
    fed, filed = (Database(shutil.copy(demo, folder / f"{n}.sqlite")) for n in ("fed", "filed"))
    with market() as url:
        feed, after = HttpFeed(url), 0
        for n in range(1, DAYS + 1):
            day = TODAY + timedelta(days=n)
            delivery = feed.published(after, day)
            after = delivery.last
            rows: dict[str, list[dict[str, str]]] = {}
            for item in delivery.items:
                rows.setdefault(item.table, []).append(dict(item.cells))
            if not rows:
                continue
            start = time.perf_counter()
            pull_feed(fed, feed, until=day, at=AT)
            ours.append(time.perf_counter() - start)
            files = [(f"{table}.csv", _csv(some)) for table, some in rows.items()]
            start = time.perf_counter()
            import_files(filed, files, at=AT)
            theirs.append(time.perf_counter() - start)
    fed.close()
    filed.close()
    return statistics.median(ours) * 1000, statistics.median(theirs) * 1000


def signals_ms(folder: Path) -> tuple[float, float]:
    """A payer's signals after a day's prices, and its measures, over so many payers; a fifth of
    them are followed."""
    database = Database(folder / "signalled.sqlite")
    database.migrate()
    fill_demo(database, SIGNALLED)
    cache, rules = ReviewCache(database), HouseRules()
    with database.read() as connection:
        keys = [(e, s) for e, s, *_ in named_payers(connection)]
    for exchange, symbol in keys[:FOLLOWED]:
        price = cache.review(exchange, symbol, TODAY, Question()).price.value or 1.0
        decide(
            cache,
            exchange,
            symbol,
            today=TODAY,
            as_of=TODAY,
            recorded_at=AT,
            verdict="wait",
            words="not yet",
            buy_below=Decimal(str(round(price * 0.9, 2))),
            question=Question(),
        )
    ensure_signals(database, rules, TODAY)
    ensure_measures(database, rules, TODAY)
    times: list[list[float]] = [[], []]
    for n in (1, 2, 3):
        day = TODAY + timedelta(days=n)
        _a_days_prices(database, keys, day)
        for act, found in ((ensure_signals, times[0]), (ensure_measures, times[1])):
            start = time.perf_counter()
            act(database, rules, day)
            found.append(time.perf_counter() - start)
    database.close()
    ours, theirs = (statistics.median(t) / len(keys) * 1000 for t in times)
    return ours, theirs


def _a_days_prices(database: Database, keys: list[tuple[str, str]], day: date) -> None:
    lines = "".join(f"{e},{s},{day.isoformat()},{20 + n % 7}\n" for n, (e, s) in enumerate(keys))
    raw = f"exchange,symbol,day,close\n{lines}".encode()
    import_files(database, [("prices.csv", raw)], at=AT)
    with database.write(facts=False) as connection:
        pin_today(connection, day)


def hearth(client: httpx.Client) -> tuple[float, float]:
    """What the Hearth asks for, by request, with as many payers decided on as a person may own."""
    asked = ("/api/signals?unseen=true", "/api/watch", "/api/coming-payments")
    for key in client.get("/api/payers/keys").json()[:FOLLOWED]:
        body = {"verdict": "wait", "words": "-", "as_of": TODAY.isoformat(), "buy_below": "9"}
        path = f"/api/payers/{key['exchange']}/{key['symbol']}/decisions"
        assert client.post(path, json=body).status_code == 201
    begun = client.post("/api/signals").json()
    while client.get(f"/api/jobs/{begun['id']}").json()["state"] == "running":
        time.sleep(0.1)

    def ours() -> None:
        for path in asked:
            assert client.get(path).status_code == 200

    def theirs() -> None:
        for _ in asked:
            client.get("/bench/empty")

    return medians_ms(ours, theirs)


def comparing(client: httpx.Client) -> tuple[float, float]:
    """Six payers compared, and their six reviews, all warm."""
    query = [("payer", f"ELV/{s}") for s in COMPARED]

    def ours() -> None:
        assert client.get("/api/compare", params=query).status_code == 200

    def theirs() -> None:
        for symbol in COMPARED:
            assert client.get(f"/api/payers/ELV/{symbol}/review").status_code == 200

    return medians_ms(ours, theirs, rounds=20)


def firm_ms() -> float:
    """10,000 weightings of six payers on nine measures."""
    shares = np.random.default_rng(1).random((9, 6))
    start = time.perf_counter()
    assert firmness(shares) is not None
    return (time.perf_counter() - start) * 1000
