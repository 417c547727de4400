"""A bug is a bug: it is told as ours, noted without a person's figures, and stops nothing else."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date
from pathlib import Path

import pytest
from typer.testing import CliRunner

from hearth_yield import faults_log
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.cli import app
from hearth_yield.core import review as core_review
from hearth_yield.core.errors import Miscomputed, Uncomputable
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.core.review import computing
from hearth_yield.store.database import Database
from tests.client import Client
from tests.conftest import EXAMPLES
from tests.patience import ended

TODAY = date(2026, 6, 30)
SECRET = "4711.08"


@pytest.fixture
def log(tmp_path: Path) -> Iterator[Path]:
    faults_log.keep_in(tmp_path / "log")
    yield tmp_path / "log" / faults_log.NAME
    for handler in faults_log.LOG.handlers[:]:
        faults_log.LOG.removeHandler(handler)
        handler.close()


def fails_for(symbol: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """A bug in Cover that one payer meets."""
    plain = core_review.BUILDERS[Stage.COVER]

    def build(file, held, question):  # type: ignore[no-untyped-def]
        if file.payer.symbol == symbol:
            raise KeyError(SECRET)
        return plain(file, held, question)

    monkeypatch.setitem(core_review.BUILDERS, Stage.COVER, build)


@pytest.mark.parametrize("kind", [KeyError, ValueError, TypeError, AttributeError, IndexError])
def test_only_arithmetic_is_a_matter_of_facts(twenty: Database, kind: type[Exception]) -> None:
    payer = ReviewCache(twenty).review("ELV", "TRS", TODAY, Question()).payer
    with pytest.raises(Miscomputed, match="a fault of the product"), computing(payer):
        raise kind(SECRET)
    for sum_of in (OverflowError, ZeroDivisionError):
        with pytest.raises(Uncomputable, match="look for a fact") as told, computing(payer):
            raise sum_of
        assert not isinstance(told.value, Miscomputed)


def test_a_bug_in_a_stage_is_answered_as_ours_and_noted(
    client: Client, monkeypatch: pytest.MonkeyPatch, log: Path
) -> None:
    fails_for("TRS", monkeypatch)
    got = client.get("/api/payers/ELV/TRS/review")
    assert got.status_code == 500
    assert got.json()["title"] == "A fault of Hearth Yield"
    assert "look for" not in got.text
    assert SECRET not in got.text
    assert client.get("/api/payers/ELV/GWK/review").status_code == 200
    noted = log.read_text()
    assert "builtins.KeyError" in noted
    assert "core/review.py" in noted
    assert "Miscomputed: Tallow & Reed Soapworks could not be computed" in noted
    assert SECRET not in noted


def test_a_bug_over_one_payer_keeps_no_other_from_being_measured(
    twenty: Database, monkeypatch: pytest.MonkeyPatch, log: Path
) -> None:
    fails_for("TRS", monkeypatch)
    day = date(2019, 6, 28)
    ensure_measures(twenty, HouseRules(), day)
    entries = universe(ReviewCache(twenty), day).candidates
    told = {
        e.symbol: str(e.measured.cells["payout"].reason) for e in entries if e.measured is not None
    }
    assert len(told) > 10
    assert "a fault of the product" in told["TRS"]
    assert "look for" not in told["TRS"]
    assert not [s for s, words in told.items() if s != "TRS" and "fault of the product" in words]
    assert log.read_text().count("builtins.KeyError") == 1


def test_a_bug_in_a_route_is_answered_in_words_and_noted_by_its_route(
    client: Client, monkeypatch: pytest.MonkeyPatch, log: Path
) -> None:
    def fails(*_: object, **__: object) -> None:
        raise RuntimeError(SECRET)

    monkeypatch.setattr("hearth_yield.api.payers.find_payers", fails)
    got = client.get("/api/payers")
    assert (got.status_code, got.json()["type"]) == (500, "about:fault")
    assert "no fault of your data" in got.json()["detail"]
    assert SECRET not in got.text + log.read_text()
    assert "a fault in GET /api/payers" in log.read_text()
    opened = client.get("/api/payers", headers={"accept": "text/html"})
    assert "A fault of Hearth Yield" in opened.text


def test_a_bug_in_a_task_ends_it_in_words(
    client: Client, monkeypatch: pytest.MonkeyPatch, log: Path
) -> None:
    def fails(*_: object, **__: object) -> int:
        raise LookupError(SECRET)

    monkeypatch.setattr("hearth_yield.actions.import_files.import_files", fails)
    raw = (EXAMPLES / "pennant-lamps.zip").read_bytes()
    found = client.post("/api/imports/preview", files=[("files", ("p.zip", raw))]).json()
    job = client.post("/api/imports", json={"token": found["token"]}).json()
    told = ended(client, job["id"])
    assert (told["state"], told["problem"]["title"]) == ("failed", "A fault of Hearth Yield")
    assert "builtins.LookupError" in log.read_text()


@pytest.mark.parametrize("verbose", [False, True])
def test_a_bug_in_a_command_ends_in_a_sentence_and_is_told_whole_when_asked(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, verbose: bool
) -> None:
    def fails(*_: object, **__: object) -> int:
        raise LookupError(SECRET)

    monkeypatch.setenv("HEARTH_DATA", str(tmp_path))
    monkeypatch.setattr("hearth_yield.actions.import_files.import_files", fails)
    words = ["import", str(EXAMPLES / "pennant-lamps.zip")]
    done = CliRunner().invoke(app, [*(["--verbose"] if verbose else []), *words])
    assert done.exit_code == 1
    assert "this is a fault of Hearth Yield; nothing was changed" in done.stderr
    assert (SECRET in done.stderr) == verbose
    assert SECRET not in (tmp_path / faults_log.NAME).read_text()
