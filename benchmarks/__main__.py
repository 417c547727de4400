"""Runs every benchmark and prints each as a ratio with its aim."""

from __future__ import annotations

import gzip
import re
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path

import httpx
import uvicorn
from fastapi import FastAPI
from sqlalchemy import select

from hearth_yield.actions.fill_demo import fill_demo
from hearth_yield.actions.review_cache import Cache
from hearth_yield.api.app import STATIC, create_app
from hearth_yield.core.finding.look_back import past_of
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.review import review_of
from hearth_yield.store import payer_files
from hearth_yield.store import tables as t
from hearth_yield.store.database import Database

from . import found, household, large, owned, watched, worth
from .timing import medians_ms

SYMBOL = "TRS"


def load_rows(database: Database) -> int:
    """The rows that a review reads, loaded with SQLAlchemy Core and nothing else: the payer's own,
    the one price index of its currency, and the slumps its charts show."""
    with database.read() as connection:
        payer = connection.execute(select(t.payer).where(t.payer.c.symbol == SYMBOL)).one()
        count = sum(
            len(connection.execute(select(x).where(x.c.payer_id == payer.id)).all())
            for x in large.OWNED
        )
        s, p = t.series.c, t.series_point
        index = select(s.id).where(s.kind == "price_index", s.currency == payer.currency).limit(1)
        points = select(p).where(p.c.series_id == index.scalar_subquery())
        for query in (points, select(t.slump)):
            count += len(connection.execute(query).all())
        return count


@contextmanager
def served(app: FastAPI) -> Iterator[httpx.Client]:
    config = uvicorn.Config(app, host="127.0.0.1", port=0, log_level="error")
    server = uvicorn.Server(config)
    threading.Thread(target=server.run, daemon=True).start()
    while not server.started:
        time.sleep(0.01)
    port = server.servers[0].sockets[0].getsockname()[1]
    with httpx.Client(base_url=f"http://127.0.0.1:{port}") as client:
        yield client
    server.should_exit = True


def with_empty_endpoint(app: FastAPI) -> FastAPI:
    def nothing() -> dict[str, str]:
        return {}

    app.router.add_api_route("/bench/empty", nothing, methods=["GET"])
    app.router.routes.insert(0, app.router.routes.pop())
    return app


def forget(app: FastAPI) -> None:
    """Empties what the cache keeps, so that a review is loaded and computed anew."""
    cache = app.state.context.cache
    for kept in (cache.files, cache.reviews):
        kept._held.clear()
    assert isinstance(cache.files, Cache)


def whole_review(database: Database, app: FastAPI, client: httpx.Client) -> tuple[float, float]:
    day = date(2026, 6, 30)

    def review() -> None:
        forget(app)
        client.get(f"/api/payers/ELV/{SYMBOL}/review", params={"as_of": day}).raise_for_status()

    return medians_ms(review, lambda: load_rows(database))


def moved_input(client: httpx.Client) -> tuple[float, float]:
    growths = iter(range(10_000))

    def move() -> None:
        growth = 0.01 + next(growths) * 1e-5
        asked = {"inputs": f"growth:{growth}"}
        client.get(f"/api/payers/ELV/{SYMBOL}/worth", params=asked).raise_for_status()

    return medians_ms(move, lambda: client.get("/bench/empty"), 200)


def moved_strain(client: httpx.Client) -> tuple[float, float]:
    falls = iter(range(10_000))

    def move() -> None:
        asked = {"strain": f"fall:{0.05 + next(falls) * 1e-5}"}
        client.get(f"/api/payers/ELV/{SYMBOL}/strain", params=asked).raise_for_status()

    return medians_ms(move, lambda: client.get("/bench/empty"), 200)


def searched(client: httpx.Client) -> tuple[float, float]:
    def search() -> None:
        client.get("/api/payers", params=large.SEARCH).raise_for_status()

    return medians_ms(search, lambda: client.get("/bench/empty"), 200)


def tried(client: httpx.Client) -> tuple[float, float]:
    """The effect of changed house rules on all payers, and a search over as many."""
    rules = client.get("/api/house-rules").raise_for_status().json()["rules"]
    changes = iter(range(10_000))

    def change() -> None:
        settings = rules["settings"] | {"close_under": 0.1 + next(changes) * 1e-5}
        client.post("/api/house-rules/preview", json=rules | {"settings": settings})

    def search() -> None:
        client.get("/api/payers", params=large.SEARCH).raise_for_status()

    return medians_ms(change, search, 60)


def looking_back(database: Database) -> tuple[float, float]:
    """Milliseconds a year end of looking back on the demo's payers, and a bare review of it."""
    day = date(2026, 6, 30)
    with database.read() as connection:
        shared = payer_files.Shared()
        files = [
            payer_files.load(connection, exchange, symbol, shared)
            for exchange, symbol in payer_files.keys(connection)[::6]
        ]
    start = time.perf_counter()
    found = [past_of(file, day) for file in files]
    ours = time.perf_counter() - start
    ends = [(f, d) for f, p in zip(files, found, strict=True) for d in p.days]
    start = time.perf_counter()
    for file, end in ends:
        review_of(file, end, HouseRules())
    theirs = time.perf_counter() - start
    return ours / len(ends) * 1000, theirs / len(ends) * 1000


def first_load_kb() -> dict[str, float]:
    """Gzipped script each place needs before it shows: its chunk and all it imports at once."""

    def chunks(name: str, seen: set[str]) -> set[str]:
        if name in seen:
            return seen
        seen.add(name)
        text = (STATIC / "assets" / name).read_text()
        for other in re.findall(r'from"\./([^"]+\.js)"|import"\./([^"]+\.js)"', text):
            chunks(other[0] or other[1], seen)
        return seen

    page = (STATIC / "index.html").read_text()
    entry = set(re.findall(r'(?:src|href)="/assets/([^"]+\.js)"', page))
    found = {}
    for place in ("PayersPage", "ReviewPage", "HouseRulesPage", "SourcesPage"):
        needed: set[str] = set()
        for name in entry | {p.name for p in (STATIC / "assets").glob(f"{place}-*.js")}:
            chunks(name, needed)
        sizes = [len(gzip.compress((STATIC / "assets" / n).read_bytes())) for n in needed]
        found[place] = sum(sizes) / 1000
    return found


def main() -> int:
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        database = Database(folder / "bench.sqlite")
        database.migrate()
        fill_demo(database)
        app = with_empty_endpoint(create_app(database))
        with served(app) as client:
            rows = [
                (
                    "cold review (all figures, findings, tests) ÷ bare load of its rows",
                    *whole_review(database, app, client),
                    3,
                ),
                ("moved Worth input ÷ empty endpoint", *moved_input(client), 3),
                ("moved strain ÷ empty endpoint", *moved_strain(client), 3),
                ("grid of 7 × 7 ÷ a valuation", *worth.grid(client, SYMBOL), 2),
                ("100,000 draws ÷ drawing alone", *worth.draws(database, SYMBOL), 4),
                ("200 valuations ÷ as many workbooks", *worth.workbooks(database), 1 / 20),
                ("workbook of 50 sheets ÷ its cells alone", *found.reading(), 3),
                (f"{owned.ROWS:,} trades into entries ÷ their cells alone", *owned.trades(), 5),
                (f"{owned.ROWS:,} of OFX into entries ÷ their cells alone", *owned.statement(), 5),
                (
                    f"{found.CLOSES:,} closes of another make ÷ our own form",
                    *found.closes(folder),
                    3,
                ),
                ("comparing six ÷ six warm reviews", *watched.comparing(client), 1),
                ("the Hearth ÷ as many empty endpoints", *watched.hearth(client), 5),
                ("a page of Holdings ÷ empty endpoint", *household.page(client), 10),
                ("Holdings after an entry ÷ 100 ms", household.after_an_entry(client), 100.0, 1),
                ("firmness of 10,000 weightings ÷ 50 ms", watched.firm_ms(), 50.0, 1),
            ]
        fed = watched.feed_day_ms(database.path, folder)
        rows.append(("a day of the feed ÷ the same rows from files", *fed, 3))
        rows.append(("a day of the feed ÷ 1 s", fed[0], 1000.0, 1))
        rows.append(
            (
                f"positions from {household.ENTRIES:,} entries ÷ reading them",
                *household.held_positions(folder),
                2,
            )
        )
        rows.append(
            (
                f"income from {household.ENTRIES:,} entries ÷ reading what it rests on",
                *household.income(database, folder),
                3,
            )
        )
        rows.append(("signals after a day's prices ÷ measures", *watched.signals_ms(folder), 2))
        rows.append(
            (
                f"{large.PRICE_ROWS:,} prices ÷ sqlite3's .import",
                *(1000 * s for s in large.import_seconds(folder)),
                4,
            )
        )
        big = large.world(folder / "big.sqlite", large.SEARCHED)
        rows.append(("all measures of a payer ÷ bare load of its rows", *large.measure_ms(big), 3))
        with served(with_empty_endpoint(create_app(big))) as client:
            rows.append((f"search over {large.SEARCHED:,} ÷ empty endpoint", *searched(client), 5))
            rows.append(
                (f"Data by payer of {large.SEARCHED:,} opened ÷ 400 ms", *found.opened(client), 1)
            )
            rows.append((f"rules tried on {large.SEARCHED:,} ÷ a search", *tried(client), 8))
        rows.append(("looking back ÷ as many reviews", *looking_back(database), 1))
        memory = large.server_mb(big.path)
    missed = 0
    for name, ours, theirs, aim in rows:
        ratio = ours / theirs
        missed += ratio > aim
        print(f"{name}: {ours:.2f} ms ÷ {theirs:.2f} ms = {ratio:.3g}× (aim ≤ {aim:g}×)")
    missed += memory > 300
    print(f"server with {large.SEARCHED:,} payers: {memory:.0f} MB (aim ≤ 300 MB)")
    for place, size in first_load_kb().items():
        missed += size > 200
        print(f"first-load script of {place}: {size:.0f} kB gzipped (aim ≤ 200 kB)")
    return missed


if __name__ == "__main__":
    sys.exit(min(main(), 1))
