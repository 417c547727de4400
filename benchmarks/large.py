"""What a large world costs: importing a million prices, keeping the measures of thousands ready,
searching them, and the memory the server needs."""

from __future__ import annotations

import random
import shutil
import subprocess
import sys
import time
from collections.abc import Iterator, Sequence
from contextlib import suppress
from datetime import date, timedelta
from pathlib import Path

from sqlalchemy import select

from hearth_yield.actions.ensure_measures import BATCH, ensure_measures
from hearth_yield.actions.fill_demo import fill_demo
from hearth_yield.actions.import_files import import_files
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.store import tables as t
from hearth_yield.store.database import Database

TODAY = date(2026, 6, 30)
PRICE_ROWS = 1_000_000
PAYERS = 500
MEASURED = 2000
SEARCHED = 5000
WHERE = (
    '{"join":"all","parts":[{"id":"yield","op":"at_least","value":0.03,"words":[]},'
    '{"id":"kind","op":"is","words":["company"]},'
    '{"id":"deviation","op":"at_least","value":0,"words":[]}]}'
)


def _prices() -> Iterator[str]:
    chance = random.Random("prices")
    first = date(2015, 1, 1)
    for payer in range(PAYERS):
        close = 50.0
        for n in range(PRICE_ROWS // PAYERS):
            close *= 1 + chance.gauss(0, 0.01)
            yield f"ELV,X{payer:04d},{first + timedelta(n)},{close:.2f}\n"


def import_seconds(folder: Path) -> tuple[float, float]:
    """A million prices into a database of ours, and by sqlite3's own .import into a table."""
    header = "exchange,symbol,name,kind,country,currency,fiscal_year_end_month\n"
    payers = header + "".join(
        f"ELV,X{n:04d},Payer {n},company,Isles,TLL,12\n" for n in range(PAYERS)
    )
    file = folder / "prices.csv"
    file.write_text("exchange,symbol,day,close\n" + "".join(_prices()))
    database = Database(folder / "import.sqlite")
    database.migrate()
    import_files(database, [("payers.csv", payers.encode())], at="now")
    start = time.perf_counter()
    import_files(database, [("prices.csv", file.read_bytes())], at="now")
    ours = time.perf_counter() - start
    database.close()
    tool = shutil.which("sqlite3")
    if tool is None:
        raise SystemExit("the sqlite3 tool is missing: apt-get install sqlite3")
    table = "exchange TEXT, symbol TEXT, day TEXT, close REAL, PRIMARY KEY (exchange, symbol, day)"
    script = (
        f"CREATE TABLE price ({table}) WITHOUT ROWID;\n.mode csv\n.import --skip 1 {file} price\n"
    )
    start = time.perf_counter()
    subprocess.run([tool, str(folder / "bare.sqlite")], input=script, text=True, check=True)
    return ours, time.perf_counter() - start


def measure_ms(database: Database) -> tuple[float, float]:
    """Making all measures of a payer, and one bare load of the same rows. The two are taken turn by
    turn, a batch of one between two batches of the other, so that the machine's moods hit both."""
    with database.read() as connection:
        ids = list(connection.scalars(select(t.payer.c.id).limit(MEASURED)))
    bare: list[float] = []

    def load_as_many(step: str, done: int, total: int) -> None:
        if done >= len(ids):
            raise _Enough
        start = time.perf_counter()
        _load_bare(database, ids[done : done + BATCH])
        bare.append(time.perf_counter() - start)

    start = time.perf_counter()
    with suppress(_Enough):
        ensure_measures(database, HouseRules(), TODAY, load_as_many)
    ours = time.perf_counter() - start - sum(bare)
    ensure_measures(database, HouseRules(), TODAY)
    return ours / len(ids) * 1000, sum(bare) / len(ids) * 1000


OWNED = (
    t.payer_note,
    t.dividend,
    t.dividend_notice,
    t.split,
    t.price,
    t.statement,
    t.exposure,
    t.estimate,
    t.guidance,
)
"""What a payer's facts are read from."""


class _Enough(Exception):
    pass


def _load_bare(database: Database, ids: Sequence[int]) -> None:
    with database.read() as connection:
        for id in ids:
            for table in OWNED:
                connection.execute(select(table).where(table.c.payer_id == id)).all()


def world(path: Path, payers: int) -> Database:
    """A made-up world of a size."""
    database = Database(path)
    database.migrate()
    fill_demo(database, payers)
    return database


def peak_mb() -> float:
    """The most memory this program has had. The kernel's own mark of it: getrusage would hand on
    the mark of whoever started the program."""
    status = Path("/proc/self/status").read_text()
    return int(status.split("VmHWM:")[1].split()[0]) / 1024


def server_mb(path: Path) -> float:
    """Memory of a server of its own after it has answered a search over all payers."""
    script = (
        "import sys; from pathlib import Path; from fastapi.testclient import TestClient;"
        "from hearth_yield.api.app import create_app; from hearth_yield.store.database import"
        " Database; from benchmarks.large import WHERE, peak_mb;"
        "client = TestClient(create_app(Database(Path(sys.argv[1]))), base_url='http://127.0.0.1');"
        "ask = lambda **q: client.get('/api/payers', params=q).raise_for_status();"
        "ask(where=WHERE, sort='yield', columns='yield,deviation,payout'); ask(sort='state');"
        "client.get('/api/payers/groups', params={'columns': 'yield,payout'}).raise_for_status();"
        "print(peak_mb())"
    )
    words = [sys.executable, "-W", "ignore", "-c", script, str(path)]
    return float(subprocess.run(words, capture_output=True, text=True, check=True).stdout)


SEARCH = {
    "where": WHERE,
    "sort": "yield",
    "descending": "true",
    "count": "60",
    "columns": "kind,yield,deviation,raises,payout,price_against_buy_below",
}
