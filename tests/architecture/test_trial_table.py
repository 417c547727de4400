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
    from decimal import Decimal
    from pathlib import Path

    from hearth_yield.core.facts.columns import Column, Type
    from hearth_yield.core.facts.tables import TABLES, FactTable

    @dataclass(frozen=True, kw_only=True)
    class Rating:
        given_on: date
        agency: str
        grade: int
        fee: Decimal | None
        lot: Decimal | None
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
            Column(name="fee", type=Type.EXACT, low=0),
            Column(name="lot", type=Type.EXACT, places=8),
        ),
    )
    dividends = TABLES["dividends"]
    TABLES["dividends"] = replace(
        dividends,
        columns=(*dividends.columns, Column(name="withheld", type=Type.NUMBER, low=0, high=1)),
    )

    from sqlalchemy import inspect, select, text
    from hearth_yield.actions.back_up import back_up, restore
    from hearth_yield.core.errors import InvalidInput
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

    plain = Database.migrate

    def migrate(self, to="head"):
        """And what a migration would add."""
        plain(self, to)
        with self.engine.begin() as connection:
            if not inspect(connection).has_table("rating"):
                tables.metadata.tables["rating"].create(connection)
                connection.execute(text("ALTER TABLE dividend ADD COLUMN withheld REAL"))

    Database.migrate = migrate

    def made(name):
        database = Database(Path(sys.argv[1]) / name)
        database.migrate()
        return database

    database = made("one.sqlite")
    files = [
        ("payers.csv", b"exchange,symbol,name,kind,country,currency,fiscal_year_end_month\\n"
                       b"ELV,X,X Works,company,Sundrey Isles,TLL,12\\n"),
        ("dividends.csv", b"exchange,symbol,ex_date,amount,currency,withheld\\n"
                          b"ELV,X,2026-03-02,1,TLL,0.15\\n"),
        ("ratings.csv", b"exchange,symbol,given_on,by,grade,fee,lot\\n"
                        b"ELV,X,2026-01-05,Lantern,7,0.10,1234567890.12345678\\n"
                        b"ELV,X,2026-02-05,Beacon,8,,\\n"),
    ]
    wrong = [(n, raw.replace(b",7,", b",70,").replace(b"02-05", b"08-05")
             .replace(b"345678", b"3456789")) for n, raw in files]
    told = {(f.column, f.warning) for f in preview_import(database, wrong, today=TODAY).faults}
    assert told == {("grade", False), ("lot", False), ("given_on", True)}, told
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
    assert (str(first.fee), first.lot) == ("0.10", Decimal("1234567890.12345678"))
    assert (second.fee, second.lot) == (None, None)
    dearer = [("ratings.csv", files[2][1].replace(b"0.10", b"0.123456789012345678901"))]
    changed = import_files(database, dearer, at=NOW, today=TODAY)
    assert str(read()[0][0].fee) == "0.123456789012345678901"
    undo_import(database, changed, at=NOW)
    assert str(read()[0][0].fee) == "0.10"
    shown = show_facts(database, "ELV", "X", "ratings", 0, 10, "")
    assert shown.window.found == 2
    raw = back_up(database, at=NOW)
    third = made("three.sqlite")
    restore(third, raw, at=NOW)
    with third.read() as connection:
        rows = connection.execute(select(tables.FACTS["ratings"])).all()
    assert [(r.agency, r.fee, r.lot) for r in rows] == [
        ("Lantern", Decimal("0.10"), first.lot), ("Beacon", None, None)]
    damaged = raw.replace(b"1234567890.12345678", b"1234567890.123456789")
    try:
        restore(third, damaged, at=NOW)
    except InvalidInput as refused:
        assert refused.field == "rating", refused.field
    else:
        raise AssertionError("more decimals than are kept")
    key = {"given_on": "2026-01-05", "agency": "Lantern"}
    exclude(database, "ELV", "X", table="ratings", key=key, reason="old", at=NOW)
    found, (out,) = read()
    assert [r.agency for r in found] == ["Beacon"] and out.name == "Lantern of 2026-01-05"
    with zipfile.ZipFile(io.BytesIO(export_facts(database, [("ELV", "X")], name="x"))) as archive:
        head = archive.read("ratings.csv").splitlines()[0].decode()
        assert head == "exchange,symbol,given_on,by,grade,fee,lot"
        assert b"1234567890.12345678" in archive.read("ratings.csv")
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
    assert ",".join(c["name"] for c in columns) == head
    facts = page.get("/api/payers/ELV/X/facts/ratings").json()
    assert [r["cells"]["by"] for r in facts["rows"]] == ["Beacon", "Lantern"]
    assert [r["cells"].get("lot") for r in facts["rows"]] == [None, "1234567890.12345678"]
    print("found everywhere")
'''


def test_a_table_and_a_column_are_declared_in_one_place(tmp_path: Path) -> None:
    words = [sys.executable, "-W", "ignore", "-c", textwrap.dedent(TRIAL), str(tmp_path)]
    ran = subprocess.run(words, capture_output=True, text=True, timeout=SECONDS, check=False)
    assert ran.stdout.strip() == "found everywhere", ran.stderr[-3000:]
