"""Whatever comes in can be taken back, in any mixture and order that the rules allow."""

import sqlite3
from datetime import date, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.core.errors import Conflict
from hearth_yield.store.database import Database
from tests.conftest import sample
from tests.databases import new_database

NOW = "2026-06-30T10:00:00+00:00"
PAYER = (
    "exchange,symbol,name,kind,country,currency,fiscal_year_end_month,description\n"
    "E,{symbol},{name},company,S,TLL,12,x\n"
)
symbols = st.sampled_from(["A", "B"])
closes = st.integers(1, 30)
batch = st.one_of(
    st.tuples(st.just("payers"), symbols, st.sampled_from(["One", "Two"])),
    st.tuples(
        st.just("prices"), symbols, st.lists(st.tuples(st.integers(0, 4), closes), min_size=1)
    ),
    st.tuples(
        st.just("splits"), symbols, st.lists(st.tuples(st.integers(0, 4), closes), min_size=1)
    ),
)


def csv_of(kind: str, symbol: str, content: object) -> str:
    if kind == "payers":
        return PAYER.format(symbol=symbol, name=content)
    rows = dict(content)  # type: ignore[call-overload]
    day = date(2026, 1, 2)
    if kind == "prices":
        head = "exchange,symbol,day,close\n"
        return head + "".join(
            f"E,{symbol},{day + timedelta(days=7 * d)},{c}\n" for d, c in rows.items()
        )
    head = "exchange,symbol,effective_on,new_shares,old_shares\n"
    return head + "".join(f"E,{symbol},{day + timedelta(days=d)},{c},1\n" for d, c in rows.items())


def facts(database: Database) -> list[str]:
    with sqlite3.connect(database.path) as raw:
        return sorted(
            r
            for r in raw.iterdump()
            if r.startswith(('INSERT INTO "payer"', 'INSERT INTO "price', 'INSERT INTO "split'))
        )


@settings(max_examples=sample(10, 400), deadline=None)
@given(batches=st.lists(batch, min_size=1, max_size=6))
def test_undoing_all_newest_first_leads_back_step_by_step(batches: list) -> None:
    with TemporaryDirectory() as folder:
        database = new_database(Path(folder) / "x.sqlite")
        first = PAYER.format(symbol="A", name="Zero") + "E,B,Zero,company,S,TLL,12,x\n"
        import_files(database, [("payers.csv", first.encode())], at=NOW)
        states, sources = [facts(database)], []
        for kind, symbol, content in batches:
            raw = csv_of(kind, symbol, content).encode()
            try:
                sources.append(import_files(database, [(f"{kind}.csv", raw)], at=NOW))
            except Conflict:
                continue
            states.append(facts(database))
        for source in reversed(sources):
            assert facts(database) == states.pop()
            undo_import(database, source, at=NOW)
        assert facts(database) == states.pop()
        database.close()
