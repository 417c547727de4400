"""What goes out comes in again, the same; and no spreadsheet runs what it holds."""

import csv
import io
import json
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.actions.export_facts import export_facts, read_keys
from hearth_yield.actions.import_files import import_files
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.exchange.cells import rearm
from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.package import read_files
from hearth_yield.exchange.writing import FORMULA_STARTS, disarm, write_package
from hearth_yield.store import facts
from hearth_yield.store.database import Database
from tests.conftest import example
from tests.databases import copy_of

NOW = "2026-06-30T10:00:00+00:00"


def held(database: Database) -> dict[str, list[dict[str, object]]]:
    with database.read() as connection:
        return facts.records_of(connection)


def test_everything_out_and_in_again_is_the_same(twenty: Database, empty: Database) -> None:
    import_files(twenty, example("pennant-lamps"), at=NOW)
    package = export_facts(twenty, None, name="all")
    import_files(empty, [("all.zip", package)], at=NOW)
    assert held(empty) == held(twenty)
    assert export_facts(empty, None, name="all") == package


def test_one_payer_brings_its_currencys_index_along(twenty: Database, empty: Database) -> None:
    import_files(empty, [("x.zip", export_facts(twenty, [("ELV", "CRF")], name="x"))], at=NOW)
    there, here = held(empty), held(twenty)
    assert [p["symbol"] for p in there["payers"]] == ["CRF"]
    codes = {s["code"] for s in here["series"] if s["currency"] == "TLL"}
    assert there["series_points"] == [p for p in here["series_points"] if p["code"] in codes]
    assert there["dividend_notices"] == [
        n for n in here["dividend_notices"] if n["symbol"] == "CRF"
    ]
    assert len(there["prices"]) == 2009


def test_the_package_names_its_fields_and_keys(twenty: Database) -> None:
    with zipfile.ZipFile(io.BytesIO(export_facts(twenty, None, name="all"))) as archive:
        descriptor = json.loads(archive.read("datapackage.json"))
        names = set(archive.namelist())
    by_name = {r["name"]: r for r in descriptor["resources"]}
    assert {r["path"] for r in descriptor["resources"]} | {"datapackage.json"} == names
    assert by_name["prices"]["schema"]["primaryKey"] == ["exchange", "symbol", "day"]
    types = {f["name"]: f["type"] for f in by_name["dividends"]["schema"]["fields"]}
    assert (types["ex_date"], types["amount"], types["kind"]) == ("date", "number", "string")


hostile = st.text(min_size=1, max_size=40).filter(
    lambda s: s.strip() == s and all(ord(c) >= 32 or c in "\n\t" for c in s) and "\x00" not in s
)


@given(
    text=st.one_of(hostile, st.sampled_from(["=1+1", "+1", "-x", "@x", "'", "'=x", "''", "a=b"]))
)
def test_hostile_texts_are_disarmed_and_given_back(text: str) -> None:
    written = disarm(text)
    assert not written.startswith(FORMULA_STARTS[:4])
    assert rearm(written) == text


@settings(max_examples=60, deadline=None)
@given(
    name=hostile.filter(lambda s: s.strip(".") and not any(0xD800 <= ord(c) < 0xE000 for c in s)),
    close=st.floats(1e-9, 1e12),
    volume=st.one_of(st.none(), st.floats(0, 1e14)),
)
def test_names_and_numbers_survive_to_the_last_bit(
    name: str, close: float, volume: float | None
) -> None:
    records = {
        "payers": [
            {
                "exchange": "E",
                "symbol": "A",
                "name": name,
                "kind": "company",
                "country": "S",
                "currency": "TLL",
                "fiscal_year_end_month": 12,
                "description": "",
            }
        ],
        "prices": [
            {"exchange": "E", "symbol": "A", "day": "2026-01-02", "close": close, "volume": volume}
        ],
    }
    reading = read_files([("x.zip", write_package(records, "x"))], NothingStored())
    assert reading.faults == []
    assert reading.records["payers"][0]["name"] == name
    (price,) = reading.records["prices"]
    assert (price["close"], price.get("volume")) == (close, volume)


def test_no_cell_of_a_hostile_name_begins_as_a_formula() -> None:
    payer = {
        "exchange": "E",
        "symbol": "A",
        "name": '=HYPERLINK("http://x")',
        "kind": "company",
        "country": "@S",
        "currency": "TLL",
        "fiscal_year_end_month": 12,
        "description": "-1",
    }
    with zipfile.ZipFile(io.BytesIO(write_package({"payers": [payer]}, "x"))) as archive:
        rows = list(csv.reader(io.StringIO(archive.read("payers.csv").decode())))
    assert not any(cell.startswith(("=", "+", "-", "@")) for row in rows for cell in row)


@pytest.mark.parametrize("text", ["TRS", "ELV/", "/TRS", ""])
def test_payers_are_named_in_full(text: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        read_keys([text])
    assert caught.value.field == "payer"


def test_a_payer_that_is_not_held_is_refused(twenty: Database) -> None:
    with pytest.raises(NotFound):
        export_facts(twenty, [("ELV", "NOPE")], name="x")


def test_the_page_offers_a_dated_zip(client: TestClient, empty: Database) -> None:
    got = client.get("/api/export", params={"payer": "ELV/TRS"})
    assert got.headers["content-type"] == "application/zip"
    assert 'filename="trs-2026-06-30.zip"' in got.headers["content-disposition"]
    import_files(empty, [("trs.zip", got.content)], at=NOW)
    assert client.get("/api/export", params={"payer": "ELV/NO"}).status_code == 404


def test_the_command_line_writes_what_it_reads(
    twenty_file: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    from typer.testing import CliRunner

    from hearth_yield.cli import app

    monkeypatch.setenv("HEARTH_DATA", str(tmp_path / "one"))
    run = CliRunner().invoke
    copy_of(twenty_file, tmp_path / "one" / "hearth-yield.sqlite").close()
    to = tmp_path / "out.zip"
    assert run(app, ["export", str(to), "--payer", "ELV/ORVN"]).exit_code == 0
    monkeypatch.setenv("HEARTH_DATA", str(tmp_path / "two"))
    done = run(app, ["import", str(to)])
    assert done.exit_code == 0
    assert "splits: 2 added" in done.output
