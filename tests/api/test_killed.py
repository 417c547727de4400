"""A whole server, killed while a person works: what it acknowledged is there, the rest whole or not
at all, and the file is sound."""

from __future__ import annotations

import contextlib
import os
import random
import socket
import sqlite3
import subprocess
import sys
import threading
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import date
from pathlib import Path
from typing import Any

import httpx

from hearth_yield.actions.import_files import import_files
from hearth_yield.store.database import pin_today
from tests.conftest import example, sample
from tests.databases import new_database
from tests.patience import SECONDS, until

PNL = "/api/payers/ELV/PNL"
HEAD = "exchange,symbol,day,close\n"
DAY = "2026-06-26"
CLOSES = 400
KILLS = sample(3, 200)
LONGEST = 3.0
"""Seconds after which the server is killed at the latest."""


@dataclass(slots=True)
class Deed:
    """Something a person does. rows: an SQL query that counts what it leaves, or takes away; of
    these there are `without` before and `whole` after."""

    name: str
    rows: str
    without: int
    whole: int
    acknowledged: bool = False
    answered: bool = False
    settled: bool = False

    def found(self, raw: sqlite3.Connection) -> int:
        return int(raw.execute(self.rows).fetchone()[0])

    def settle(self, raw: sqlite3.Connection) -> None:
        """After a kill: what it came to is what it stays."""
        if not self.settled:
            self.answered, self.settled = self.acknowledged, True
            self.whole, self.acknowledged = self.found(raw), True


@dataclass(slots=True)
class Person:
    """Does one thing after another until nobody answers. deeds: what was begun."""

    client: httpx.Client
    draw: random.Random
    count: int = 0
    deeds: list[Deed] = field(default_factory=list)

    def work(self) -> None:
        with contextlib.suppress(httpx.TransportError):
            while True:
                self.draw.choice(DEEDS)(self)

    def begins(self, name: str, rows: str, whole: int, without: int = 0) -> Deed:
        deed = Deed(name=name, rows=rows, whole=whole, without=without)
        self.deeds.append(deed)
        return deed

    def next(self, name: str) -> str:
        self.count += 1
        return f"{name} {self.count}"

    def asks(self, method: str, path: str, **more: Any) -> Any:
        got = self.client.request(method, path, **more)
        assert got.status_code < 300, (method, path, got.text)
        return got.json() if got.content else None

    def waits(self, job: dict[str, Any]) -> dict[str, Any]:
        found = until(
            lambda: self.asks("GET", f"/api/jobs/{job['id']}"),
            is_so=lambda j: j["state"] != "running",
        )
        assert found["state"] == "done", found
        return dict(found)


def decides(person: Person) -> None:
    words = person.next("decided")
    deed = person.begins(
        words, f"SELECT count(*) FROM decision WHERE words='{words}' AND kept != '{{}}'", 1
    )
    body = {"verdict": "hold", "words": words, "as_of": "2026-06-30", "next_look": "2026-12-01"}
    person.asks("POST", f"{PNL}/decisions", json=body)
    deed.acknowledged = True


def saved(person: Person, name: str) -> Deed:
    """Columns under a name."""
    deed = person.begins(name, f"SELECT count(*) FROM saved_view WHERE name='{name}'", 1)
    body = {"name": name, "columns": {"columns": ["yield"]}}
    person.asks("PUT", "/api/saved", json=body)
    deed.acknowledged = True
    return deed


def saves(person: Person) -> None:
    saved(person, person.next("saved"))


def sets_rules(person: Person) -> None:
    note = person.next("ruled")
    deed = person.begins(note, f"SELECT count(*) FROM house_rules WHERE note='{note}'", 1)
    rules = person.asks("GET", "/api/house-rules")["rules"]
    rules["settings"]["margin_of_safety"] = 0.1 + person.count % 20 / 100
    person.asks("PUT", "/api/house-rules", json={"rules": rules, "note": note})
    deed.acknowledged = True


def edits(person: Person) -> None:
    reason = person.next("edited")
    deed = person.begins(reason, f"SELECT count(*) FROM edit WHERE reason='{reason}'", 1)
    body = {"table": "prices", "key": {"day": DAY}, "field": "close", "reason": reason}
    person.asks("POST", f"{PNL}/edits", json=body | {"value": 50 + person.count % 20})
    deed.acknowledged = True


def enters(person: Person) -> None:
    """Six closes of a month long ago, and takes them back now and then."""
    person.count += 1
    year, month = 1800 + person.count // 12, person.count % 12 + 1
    days = [f"{year}-{month:02}-{day:02}" for day in range(1, 7)]
    count = (
        f"SELECT count(*) FROM price WHERE day BETWEEN '{days[0]}' AND '{days[-1]}' "
        "AND payer_id = (SELECT id FROM payer WHERE symbol='PNL')"
    )
    deed = person.begins(f"entered {days[0]}", count, 6)
    rows = [{"exchange": "ELV", "symbol": "PNL", "day": d, "close": "9"} for d in days]
    body = {"table": "prices", "rows": rows, "accepted": list(range(20))}
    source = person.asks("POST", "/api/typed-facts", json=body)["source"]
    deed.acknowledged = True
    if person.draw.random() < 0.5:
        deed.without, deed.whole, deed.acknowledged = 6, 0, False
        person.asks("POST", f"/api/imports/{source}/undo")
        deed.acknowledged = True


def imports(person: Person) -> None:
    """A payer with its closes, and takes them back now and then."""
    symbol = person.next("X").replace(" ", "")
    days = [f"{2000 + n // 200}-{n // 20 % 10 + 1:02}-{n % 20 + 1:02}" for n in range(CLOSES)]
    payers = (
        "exchange,symbol,name,kind,country,currency,fiscal_year_end_month\n"
        f"ELV,{symbol},Payer {symbol},company,Sundrey Isles,TLL,12\n"
    )
    closes = HEAD + "".join(f"ELV,{symbol},{day},9\n" for day in days)
    count = (
        f"SELECT (SELECT count(*) FROM payer WHERE symbol='{symbol}') + (SELECT count(*) FROM "
        f"price WHERE payer_id = (SELECT id FROM payer WHERE symbol='{symbol}'))"
    )
    deed = person.begins(f"imported {symbol}", count, CLOSES + 1)
    files = [("files", ("payers.csv", payers)), ("files", ("prices.csv", closes))]
    token = person.asks("POST", "/api/imports/preview", files=files)["token"]
    source = person.waits(person.asks("POST", "/api/imports", json={"token": token}))["source"]
    deed.acknowledged = True
    if person.draw.random() < 0.5:
        deed.without, deed.whole, deed.acknowledged = CLOSES + 1, 0, False
        person.asks("POST", f"/api/imports/{source}/undo")
        deed.acknowledged = True


def restores(person: Person) -> None:
    """A backup that was just made, over columns that were saved after it."""
    backup = person.client.get("/api/backup").content
    deed = saved(person, person.next("restored"))
    deed.without, deed.whole, deed.acknowledged = 1, 0, False
    person.waits(person.asks("POST", "/api/restore", files={"file": ("backup.json", backup)}))
    deed.acknowledged = True


DEEDS: tuple[Callable[[Person], None], ...] = (
    decides,
    saves,
    sets_rules,
    edits,
    enters,
    imports,
    restores,
)


@contextlib.contextmanager
def served(folder: Path) -> Iterator[tuple[subprocess.Popen[bytes], str]]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = os.environ | {"HEARTH_DATA": str(folder), "HEARTH_PORT": str(port)}
    words = [sys.executable, "-m", "hearth_yield", "serve"]
    said = folder.parent / "said.txt"
    with said.open("wb") as out:
        process = subprocess.Popen(words, env=environment, stdout=out, stderr=out)
    url = f"http://127.0.0.1:{port}"

    def answers() -> bool:
        assert process.poll() is None, said.read_text()
        with contextlib.suppress(httpx.TransportError):
            return httpx.get(f"{url}/api/status", timeout=SECONDS).status_code == 200
        return False

    try:
        until(answers)
        yield process, url
    finally:
        process.kill()
        process.wait(SECONDS)


def sound(raw: sqlite3.Connection, deeds: list[Deed]) -> None:
    assert raw.execute("PRAGMA integrity_check").fetchall() == [("ok",)]
    assert raw.execute("PRAGMA foreign_key_check").fetchall() == []
    for deed in deeds:
        found = deed.found(raw)
        assert found in ({deed.whole} if deed.acknowledged else {deed.whole, deed.without}), deed


def household(path: Path) -> None:
    """A small one, so that a backup and a restore fit between two kills."""
    database = new_database(path)
    import_files(database, example("pennant-lamps"), at="2026-06-30T10:00:00+00:00")
    with database.write() as connection:
        pin_today(connection, date(2026, 6, 30))
    database.close()


def test_killed_again_and_again_it_loses_nothing_and_keeps_no_half(tmp_path: Path) -> None:
    folder = tmp_path / "data"
    path = folder / "hearth-yield.sqlite"
    household(path)
    draw = random.Random(20261201)
    done: list[Deed] = []
    count = 0
    for _ in range(KILLS):
        with served(folder) as (process, url):
            assert [p.name for p in folder.iterdir() if p.name.startswith(".")] == []
            client = httpx.Client(base_url=url, timeout=SECONDS)
            person = Person(client=client, draw=draw, count=count, deeds=done)
            killer = threading.Timer(draw.uniform(0.05, LONGEST), process.kill)
            killer.start()
            with client:
                person.work()
            killer.join()
            process.wait(SECONDS)
        count = person.count
        with contextlib.closing(sqlite3.connect(path)) as raw:
            sound(raw, done)
            for deed in done:
                deed.settle(raw)
    kinds = Counter(deed.name.split()[0] for deed in done)
    print(f"{KILLS} kills, {sum(d.answered for d in done)} of {len(done)} acknowledged: {kinds}")
    assert any(d.answered for d in done)
