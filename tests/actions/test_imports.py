import sqlite3
from datetime import date

import pytest

from hearth_yield.actions import import_files as imports
from hearth_yield.actions.decide import decide, past_decisions
from hearth_yield.actions.import_files import import_files, plan_import, preview_import, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import Cancelled, Conflict, NotFound, RejectedImport
from hearth_yield.core.question import Question
from hearth_yield.progress import Progress
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.conftest import example

NOW = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)
PRICE = "exchange,symbol,day,close\n"


def dump(database: Database) -> list[str]:
    """Every stored row but the log of sources."""
    with sqlite3.connect(database.path) as raw:
        rows = list(raw.iterdump())
    passing = ("source", "product_state", "sqlite_seq", "payer_change", "kept")
    skipped = tuple(f'INSERT INTO "{table}' for table in passing)
    return [r for r in rows if not r.startswith(skipped)]


def bring(database: Database, name: str, text: str, progress: Progress | None = None) -> int:
    return import_files(database, [(name, text.encode())], at=NOW, progress=progress)


def test_a_preview_counts_and_writes_nothing(twenty: Database) -> None:
    before = dump(twenty)
    found = preview_import(twenty, example("pennant-lamps"))
    assert {n: c.added for n, c in found.tables.items()}["prices"] == 391
    assert not found.refused
    assert dump(twenty) == before


def test_import_then_undo_leaves_the_database_as_it_was(twenty: Database) -> None:
    before = dump(twenty)
    source = import_files(twenty, example("pennant-lamps"), at=NOW)
    with twenty.read() as connection:
        file = payer_files.load(connection, "ELV", "PNL")
    assert len(file.prices) == 391
    assert {d.source for d in file.dividends} == {source}
    undo_import(twenty, source, at=NOW)
    assert dump(twenty) == before


def test_what_a_preview_planned_is_what_is_written_while_the_facts_stand(
    twenty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    reads: list[object] = []
    plain = imports.read_files
    monkeypatch.setattr(imports, "read_files", lambda *of: (reads.append(of), plain(*of))[1])
    lamps = example("pennant-lamps")
    _, planned = plan_import(twenty, lamps, today=TODAY)
    source = import_files(twenty, lamps, at=NOW, today=TODAY, planned=planned)
    assert len(reads) == 1
    undo_import(twenty, source, at=NOW)
    import_files(twenty, lamps, at=NOW, today=TODAY, planned=planned)
    assert len(reads) == 2  # the facts have changed since
    with pytest.raises(Conflict, match="held already"):
        import_files(twenty, lamps, at=NOW, today=TODAY, planned=planned)
    assert len(reads) == 3
    _, planned = plan_import(twenty, [("prices.csv", f"{PRICE}ELV,TRS,2026-07-01,70\n".encode())])
    with pytest.raises(RejectedImport, match="not accepted"):  # on its day it is still to come
        import_files(
            twenty,
            [("prices.csv", f"{PRICE}ELV,TRS,2026-07-01,70\n".encode())],
            at=NOW,
            accepted=(),
            today=TODAY,
            planned=planned,
        )


def test_a_change_keeps_what_was_there_and_undo_brings_it_back(twenty: Database) -> None:
    before = dump(twenty)
    text = f"{PRICE}ELV,TRS,2026-06-28,70.00\nELV,TRS,2026-06-30,71.00\n"
    counts = preview_import(twenty, [("prices.csv", text.encode())]).tables["prices"]
    assert (counts.added, counts.changed, counts.same) == (1, 1, 0)
    source = bring(twenty, "prices.csv", text)
    with twenty.read() as connection:
        file = payer_files.load(connection, "ELV", "TRS")
    assert file.prices.closes[[-3, -1]].tolist() == [70.0, 71.0]
    assert file.prices.sources[[-3, -1]].tolist() == [source, source]
    undo_import(twenty, source, at=NOW)
    assert dump(twenty) == before


def test_faults_keep_everything_out(twenty: Database) -> None:
    before = dump(twenty)
    with pytest.raises(RejectedImport) as caught:
        import_files(twenty, example("faulty"), at=NOW)
    assert len(caught.value.faults) == 34
    assert dump(twenty) == before


def test_cancelling_halfway_keeps_nothing(twenty: Database) -> None:
    before = dump(twenty)
    steps: list[str] = []

    def stop(step: str, done: int, total: int) -> None:
        steps.append(step)
        if step == "prices":
            raise Cancelled("enough")

    with pytest.raises(Cancelled):
        import_files(twenty, example("pennant-lamps"), at=NOW, progress=stop)
    assert "payers" in steps
    assert dump(twenty) == before


def test_the_same_files_twice_bring_nothing_new(twenty: Database) -> None:
    import_files(twenty, example("pennant-lamps"), at=NOW)
    assert preview_import(twenty, example("pennant-lamps")).held_already == NOW
    with pytest.raises(Conflict, match="held already"):
        import_files(twenty, example("pennant-lamps"), at=NOW)


def test_what_a_later_import_rests_on_is_not_undone_first(twenty: Database) -> None:
    first = import_files(twenty, example("pennant-lamps"), at=NOW)
    second = bring(twenty, "prices.csv", f"{PRICE}ELV,PNL,2026-06-29,36.00\n")
    with pytest.raises(Conflict, match="rests on this import"):
        undo_import(twenty, first, at=NOW)
    undo_import(twenty, second, at=NOW)
    undo_import(twenty, first, at=NOW)


def test_what_a_later_import_changed_is_not_undone_first(twenty: Database) -> None:
    first = bring(twenty, "prices.csv", f"{PRICE}ELV,TRS,2026-06-30,71.00\n")
    second = bring(twenty, "prices.csv", f"{PRICE}ELV,TRS,2026-06-30,72.00\n")
    with pytest.raises(Conflict):
        undo_import(twenty, first, at=NOW)
    undo_import(twenty, second, at=NOW)
    with twenty.read() as connection:
        assert payer_files.load(connection, "ELV", "TRS").prices.closes[-1] == 71.0


@pytest.mark.parametrize(("source", "error"), [(1, Conflict), (99, NotFound)])
def test_only_imports_that_stand_are_undone(twenty: Database, source: int, error: type) -> None:
    with pytest.raises(error):
        undo_import(twenty, source, at=NOW)


def test_a_decision_outlives_the_undo_of_its_payer(twenty: Database) -> None:
    source = import_files(twenty, example("pennant-lamps"), at=NOW)
    cache = ReviewCache(twenty)
    decide(
        cache,
        "ELV",
        "PNL",
        today=TODAY,
        as_of=TODAY,
        recorded_at=NOW,
        verdict="wait",
        words="too dear",
        buy_below=None,
        question=Question(),
    )
    undo_import(twenty, source, at=NOW)
    import_files(twenty, example("pennant-lamps"), at=NOW)
    assert past_decisions(cache, "ELV", "PNL", TODAY)[0].made.words == "too dear"


def test_an_import_reaches_the_next_review(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    before = cache.review("ELV", "TRS", TODAY, Question()).price.value
    bring(twenty, "prices.csv", f"{PRICE}ELV,TRS,2026-06-30,99.50\n")
    assert before != 99.5
    assert cache.review("ELV", "TRS", TODAY, Question()).price.value == 99.5
