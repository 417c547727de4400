"""The command line, run as a person runs it."""

import json
import sqlite3
from pathlib import Path

import pytest
from typer.testing import CliRunner, Result

from hearth_yield.cli import app
from tests.conftest import EXAMPLES


@pytest.fixture
def run(tmp_path: Path, monkeypatch: pytest.MonkeyPatch):
    monkeypatch.setenv("HEARTH_DATA", str(tmp_path / "data"))

    def command(*words: str) -> Result:
        return CliRunner().invoke(app, list(words))

    return command


def test_importing_a_package_says_what_came_in(run) -> None:
    done = run("import", str(EXAMPLES / "pennant-lamps.zip"))
    assert done.exit_code == 0
    assert "prices: 391 added, 0 changed, 0 the same" in done.output
    assert "kept as source 1" in done.output


def test_faults_are_told_one_a_line_and_nothing_is_kept(run) -> None:
    done = run("import", str(EXAMPLES / "faulty.zip"))
    assert done.exit_code == 1
    lines = done.stderr.splitlines()
    assert sum(x.startswith("fault ") for x in lines) == 34
    assert sum(x.startswith("warning ") for x in lines) == 5
    assert "fault dividends.csv:3:ex_date has “10/06/2025”; expected a date as YYYY-MM-DD" in lines
    assert lines[-1] == "faulty.zip has faults; nothing was kept"


def test_single_csvs_go_together_as_one_import(run) -> None:
    folder = EXAMPLES / "pennant-lamps"
    done = run("import", str(folder / "payers.csv"), str(folder / "prices.csv"))
    assert done.exit_code == 0
    assert "kept as source 1" in done.output


def test_the_same_again_is_refused_kindly(run) -> None:
    run("import", str(EXAMPLES / "pennant-lamps.zip"))
    again = run("import", str(EXAMPLES / "pennant-lamps.zip"))
    assert again.exit_code == 1
    assert "held already" in again.output


def test_a_close_of_a_day_to_come_is_asked(run, tmp_path: Path) -> None:
    run("import", str(EXAMPLES / "pennant-lamps.zip"))
    closes = tmp_path / "prices.csv"
    closes.write_text("exchange,symbol,day,close\nELV,PNL,2190-01-02,40\n")
    asked = run("import", str(closes))
    assert asked.exit_code == 1
    assert "warning prices.csv:2:day has “2190-01-02”; expected a day up to today" in asked.stderr
    assert run("import", str(closes), "--accept-warnings").exit_code == 0


def test_undo_and_undo_again(run) -> None:
    run("import", str(EXAMPLES / "pennant-lamps.zip"))
    assert run("undo", "1").exit_code == 0
    again = run("undo", "1")
    assert again.exit_code == 1
    assert "undone already" in again.output


def test_the_demo_is_made_once(run) -> None:
    assert "Demo data created" in run("demo", "--only-fill").output
    assert run("demo", "--only-fill").output == ""


def test_the_schema_is_the_apis(run, tmp_path: Path) -> None:
    to = tmp_path / "schema.json"
    assert run("schema", str(to)).exit_code == 0
    schema = json.loads(to.read_text())
    assert "/api/payers/{exchange}/{symbol}/review" in schema["paths"]


def test_a_file_that_is_not_there_is_refused(run) -> None:
    assert run("import", "nowhere.csv").exit_code == 2


def test_back_up_wipe_and_restore(run, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    run("import", str(EXAMPLES / "pennant-lamps.zip"))
    saved = tmp_path / "saved.json"
    assert run("backup", str(saved)).exit_code == 0
    monkeypatch.setenv("HEARTH_DATA", str(tmp_path / "fresh"))
    done = run("restore", str(saved))
    assert done.exit_code == 0
    assert "the state before is in" in done.output
    assert "held already" in run("import", str(EXAMPLES / "pennant-lamps.zip")).output
    saved.write_text("{}")
    assert run("restore", str(saved)).exit_code == 1


def test_data_of_a_newer_version_is_refused_in_words(run, tmp_path: Path) -> None:
    run("demo", "--only-fill", "--payers", "1")
    (path,) = tmp_path.rglob("hearth-yield.sqlite")
    with sqlite3.connect(path) as raw:
        raw.execute("UPDATE alembic_version SET version_num = '9999'")
    told = run("backup", str(tmp_path / "x.json"))
    assert told.exit_code == 1
    assert "written by a newer version" in told.stderr


def test_a_data_folder_that_is_a_file_is_refused_in_words(
    run, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "file").write_text("x")
    monkeypatch.setenv("HEARTH_DATA", str(tmp_path / "file" / "data"))
    told = run("backup", str(tmp_path / "x.json"))
    assert told.exit_code == 1
    assert "the data folder cannot be made" in told.stderr


@pytest.mark.parametrize("port", ["0", "99999", "eighty"])
def test_a_port_that_is_none_is_refused_in_words(
    run, monkeypatch: pytest.MonkeyPatch, port: str
) -> None:
    monkeypatch.setenv("HEARTH_PORT", port)
    told = run("serve")
    assert told.exit_code == 1
    assert "HEARTH_PORT cannot be" in told.stderr


def test_a_file_that_cannot_be_written_is_told_in_words(run, tmp_path: Path) -> None:
    run("demo", "--only-fill", "--payers", "1")
    (tmp_path / "file").write_text("x")
    told = run("export", str(tmp_path / "file" / "out.zip"))
    assert told.exit_code == 1
    assert "nothing was kept" in told.stderr
