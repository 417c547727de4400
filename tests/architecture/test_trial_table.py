"""A table of facts, or a column, is declared once: a throw-away one of each is found everywhere."""

from __future__ import annotations

import subprocess
import sys
import textwrap
from pathlib import Path

from tests.patience import SECONDS

TRIAL = '''
    """Run by itself, as what is declared stands for the whole of a process."""
    import io, sys, zipfile
    from dataclasses import dataclass, replace
    from datetime import date
    from pathlib import Path

    from hearth_yield.core.facts.columns import Column, Type
    from hearth_yield.core.facts.tables import TABLES, FactTable

    @dataclass(frozen=True, kw_only=True)
    class Rating:
        given_on: date
        agency: str
        grade: int
        source: int | None = None
        entered: bool = False

        known_on = placed_on = property(lambda self: self.given_on)
        called = property(lambda self: f"{self.agency} of {self.given_on}")
        sort = property(lambda self: self.agency)

    TABLES["ratings"] = FactTable(
        name="ratings",
        held="rating",
        owner="payers",
        key=("given_on", "agency"),
        record=Rating,
        known_by=("given_on",),
        columns=(
            Column(name="given_on", type=Type.DATE, required=True, past=True),
            Column(name="agency", type=Type.TEXT, required=True, in_files="by"),
            Column(name="grade", type=Type.INTEGER, required=True, low=1, high=20, editable=True),
        ),
    )
    dividends = TABLES["dividends"]
    TABLES["dividends"] = replace(
        dividends,
        columns=(*dividends.columns, Column(name="withheld", type=Type.NUMBER, low=0, high=1)),
    )

    from sqlalchemy import text
    from hearth_yield.actions.edit_facts import exclude
    from hearth_yield.actions.enter_facts import Typed, preview_typed
    from hearth_yield.actions.export_facts import export_facts
    from hearth_yield.actions.import_files import import_files, preview_import, undo_import
    from hearth_yield.actions.show_facts import show_facts
    from hearth_yield.store import tables
    from hearth_yield.store.database import Database
    from hearth_yield.store.payer_files import Shared
    from hearth_yield.store.payer_reader import PayerReader
    from hearth_yield.store.edits import standing

    TODAY, NOW = date(2026, 6, 30), "2026-06-30T10:00:00+00:00"

    def made(name):
        """What a migration would add."""
        database = Database(Path(sys.argv[1]) / name)
        database.migrate()
        with database.engine.begin() as connection:
            tables.metadata.tables["rating"].create(connection)
            connection.execute(text("ALTER TABLE dividend ADD COLUMN withheld REAL"))
        return database

    database = made("one.sqlite")
    files = [
        ("payers.csv", b"exchange,symbol,name,kind,country,currency,fiscal_year_end_month\\n"
                       b"ELV,X,X Works,company,Sundrey Isles,TLL,12\\n"),
        ("dividends.csv", b"exchange,symbol,ex_date,amount,currency,withheld\\n"
                          b"ELV,X,2026-03-02,1,TLL,0.15\\n"),
        ("ratings.csv", b"exchange,symbol,given_on,by,grade\\n"
                        b"ELV,X,2026-01-05,Lantern,7\\nELV,X,2026-02-05,Beacon,8\\n"),
    ]
    wrong = [(n, raw.replace(b",7\\n", b",70\\n").replace(b"02-05", b"08-05")) for n, raw in files]
    told = {(f.column, f.warning) for f in preview_import(database, wrong, today=TODAY).faults}
    assert told == {("grade", False), ("given_on", True)}, told
    typed = Typed(table="ratings", rows=[dict(exchange="ELV", symbol="X", given_on="5 March 2026",
                                              by="Lantern", grade="9")])
    source = import_files(database, files, at=NOW, today=TODAY)
    assert preview_typed(database, typed, today=TODAY).tables["ratings"].added == 1
    assert preview_import(database, files[2:], today=TODAY).tables["ratings"].same == 2

    def read():
        with database.read() as connection:
            edited = standing(connection, "ELV", "X")
            reader = PayerReader(connection, 1, frozenset(), edited)
            return reader.read(Rating), reader.exclusions

    (first, second), _ = read()
    assert (first.agency, first.grade, second.given_on) == ("Lantern", 7, date(2026, 2, 5))
    shown = show_facts(database, "ELV", "X", "ratings", 0, 10, "")
    assert shown.window.found == 2
    key = {"given_on": "2026-01-05", "agency": "Lantern"}
    exclude(database, "ELV", "X", table="ratings", key=key, reason="old", at=NOW)
    found, (out,) = read()
    assert [r.agency for r in found] == ["Beacon"] and out.name == "Lantern of 2026-01-05"
    with zipfile.ZipFile(io.BytesIO(export_facts(database, [("ELV", "X")], name="x"))) as archive:
        assert archive.read("ratings.csv").splitlines()[0] == b"exchange,symbol,given_on,by,grade"
        assert b"withheld" in archive.read("dividends.csv").splitlines()[0]
        again = [(n, archive.read(n)) for n in archive.namelist() if n.endswith(".csv")]
    other = made("two.sqlite")
    import_files(other, again, at=NOW, today=TODAY)
    assert preview_import(other, files[1:], today=TODAY).tables["ratings"].same == 2
    undo_import(database, source, at=NOW)
    assert read()[0] == ()
    from fastapi.testclient import TestClient
    from hearth_yield.api.app import create_app
    page = TestClient(create_app(other), base_url="http://127.0.0.1")
    columns = page.get("/api/formats/ratings").json()
    assert [c["name"] for c in columns] == ["exchange", "symbol", "given_on", "by", "grade"]
    facts = page.get("/api/payers/ELV/X/facts/ratings").json()
    assert [r["cells"]["by"] for r in facts["rows"]] == ["Beacon", "Lantern"]
    print("found everywhere")
'''


def test_a_table_and_a_column_are_declared_in_one_place(tmp_path: Path) -> None:
    words = [sys.executable, "-W", "ignore", "-c", textwrap.dedent(TRIAL), str(tmp_path)]
    ran = subprocess.run(words, capture_output=True, text=True, timeout=SECONDS, check=False)
    assert ran.stdout.strip() == "found everywhere", ran.stderr[-3000:]
