"""What must outlast a kill, a full disk, another writer, a lost answer, or one odd fact."""

from __future__ import annotations

import os
import resource
import signal
import subprocess
import sys
import textwrap
import threading
import time
from datetime import date
from decimal import Decimal
from pathlib import Path

import pytest
from sqlalchemy import func, insert, select, update

from hearth_yield.actions import import_files as imports
from hearth_yield.actions.decide import decide, past_decisions
from hearth_yield.actions.edit_facts import edit_value
from hearth_yield.actions.edit_facts import restore as restore_edit
from hearth_yield.actions.edit_facts import withdraw as withdraw_edit
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.read_journal import read_journal
from hearth_yield.actions.review_cache import Cache, ReviewCache
from hearth_yield.actions.watch_payers import watch_payers
from hearth_yield.actions.whole_file import write_whole
from hearth_yield.core.errors import Uncomputable
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.store import edits, measures
from hearth_yield.store import tables as t
from hearth_yield.store.database import Database
from tests.conftest import SOAK, example
from tests.databases import PAYERS
from tests.patience import SECONDS

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"


def one_more(
    cache: ReviewCache, intention: str | None, words: str = "why not", symbol: str = "TRS"
) -> int:
    return decide(
        cache,
        "ELV",
        symbol,
        today=DAY,
        as_of=DAY,
        recorded_at=NOW,
        verdict="hold",
        words=words,
        buy_below=Decimal("40"),
        question=Question(),
        intention=intention,
    )


def test_a_decision_sent_twice_is_recorded_once(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    first = one_more(cache, "a-key-of-its-own")
    assert one_more(cache, "a-key-of-its-own") == first
    assert one_more(cache, "another-key") != first
    assert len(past_decisions(cache, "ELV", "TRS", DAY)) == 2


def edited(database: Database) -> list[float]:
    with database.read() as connection:
        return [a.value for a in edits.standing(connection, "ELV", "TRS")]


def edit(database: Database, value: float, day: str = "2026-06-30") -> int:
    return edit_value(
        database,
        "ELV",
        "TRS",
        table="prices",
        key={"day": day},
        field="close",
        value=value,
        reason="misprint",
        at=NOW,
    )


def test_of_one_figure_one_edit_stands_whichever_way_it_came_back(twenty: Database) -> None:
    first, second = edit(twenty, 50.0), edit(twenty, 55.0)
    assert edited(twenty) == [55.0]
    restore_edit(twenty, first, at=NOW)
    assert edited(twenty) == [50.0]
    restore_edit(twenty, second, at=NOW)
    assert edited(twenty) == [55.0]
    withdraw_edit(twenty, second, at=NOW)
    assert edited(twenty) == []


def test_a_date_written_otherwise_is_the_same_key(twenty: Database) -> None:
    edit(twenty, 50.0)
    edit(twenty, 55.0, "20260630")
    assert edited(twenty) == [55.0]
    assert ReviewCache(twenty).review("ELV", "TRS", DAY, Question()).price.value == 55.0


def test_one_payer_that_cannot_be_computed_does_not_stop_the_others(twenty: Database) -> None:
    """A split that no import takes any more, as an older one may have left it."""
    for symbol in ("TRS", "GWK"):
        one_more(ReviewCache(twenty), None, symbol=symbol)
    with twenty.write() as connection:
        ids = select(t.payer.c.id).where(t.payer.c.symbol == "TRS").scalar_subquery()
        source = connection.scalar(select(func.min(t.source.c.id)))
        connection.execute(
            insert(t.split).values(
                payer_id=ids,
                effective_on=date(2026, 6, 1),
                source_id=source,
                new_shares=1e-308,
                old_shares=1e308,
            )
        )
        measures.touch(connection, None)
    cache = ReviewCache(twenty)
    with pytest.raises(Uncomputable, match="cannot be computed"):
        cache.review("ELV", "TRS", DAY, Question())
    assert ensure_measures(twenty, HouseRules(), DAY) == PAYERS
    found = {e.symbol: e.measured for e in universe(cache, DAY).candidates}
    assert found["TRS"] is not None
    assert "cannot be computed" in (found["TRS"].cells["yield"].reason or "")
    assert found["GWK"] is not None
    assert found["GWK"].cells["yield"].value is not None
    watched = {w.waiting.payer.symbol: w for w in watch_payers(cache, DAY, cache.edition())}
    assert "cannot be computed" in (watched["TRS"].waiting.price.reason or "")
    assert len(watched["GWK"].waiting.reaches) == 1
    outcomes = {e.made.symbol: e.outcome for e in read_journal(cache, DAY, cache.edition()).entries}
    assert set(outcomes) == {"TRS", "GWK"}
    assert not outcomes["TRS"].judged


@pytest.mark.parametrize("day", [date(1, 1, 1), date(9999, 12, 31)])
def test_dates_at_the_ends_of_the_calendar_stop_nobody(twenty: Database, day: date) -> None:
    with twenty.write() as connection:
        newest = connection.scalar(
            select(func.max(t.dividend.c.id)).join(t.payer).where(t.payer.c.symbol == "TRS")
        )
        changed = update(t.dividend).where(t.dividend.c.id == newest)
        connection.execute(changed.values(ex_date=day, declared_on=date(2026, 6, 1)))
        measures.touch(connection, None)
    ensure_measures(twenty, HouseRules(), DAY)
    entries = {e.symbol: e.measured for e in universe(ReviewCache(twenty), DAY).candidates}
    assert all(entries.values())


def test_a_full_disk_leaves_the_file_that_was_there(tmp_path: Path) -> None:
    kept = tmp_path / "backup.json"
    kept.write_bytes(b"the good one")
    child = f"""
        import resource
        from pathlib import Path
        from hearth_yield.actions.whole_file import write_whole
        resource.setrlimit(resource.RLIMIT_FSIZE, (1000, 1000))
        write_whole(Path({str(kept)!r}), b"x" * 100_000)
    """
    done = subprocess.run(
        [sys.executable, "-c", textwrap.dedent(child)], capture_output=True, check=False
    )
    assert done.returncode != 0
    assert kept.read_bytes() == b"the good one"
    assert not [p for p in tmp_path.iterdir() if p != kept] or done.returncode < 0
    assert resource.getrlimit(resource.RLIMIT_FSIZE)[0] != 1000


def test_what_is_written_whole_is_there_whole(tmp_path: Path) -> None:
    to = tmp_path / "new" / "out.zip"
    write_whole(to, b"abc")
    write_whole(to, b"abcd")
    assert to.read_bytes() == b"abcd"
    assert list(to.parent.iterdir()) == [to]


CLI = "from hearth_yield.cli import app; app()"


@pytest.mark.parametrize("command", ["backup", "export"])
def test_backup_and_export_write_a_whole_file(
    twenty: Database, tmp_path: Path, command: str
) -> None:
    target = tmp_path / "out"
    environment = {**os.environ, "HEARTH_DATA": str(tmp_path)}
    twenty.path.rename(tmp_path / "hearth-yield.sqlite")
    subprocess.run(
        [sys.executable, "-c", CLI, command, str(target)],
        env=environment,
        check=True,
        capture_output=True,
    )
    assert target.stat().st_size > 100_000


@pytest.mark.parametrize("command", ["backup", "export"])
@pytest.mark.parametrize("after", [None, *(n / 10 for n in range(1, 60))] if SOAK else [None])
def test_a_kill_while_writing_leaves_the_old_file_or_the_new_one(
    twenty: Database, tmp_path: Path, command: str, after: float | None
) -> None:
    """after: seconds until the kill; None: as soon as something new lies beside the file."""
    target = tmp_path / "out" / "kept"
    target.parent.mkdir()
    target.write_bytes(b"the good one")
    environment = {**os.environ, "HEARTH_DATA": str(tmp_path)}
    twenty.path.rename(tmp_path / "hearth-yield.sqlite")
    with subprocess.Popen(
        [sys.executable, "-c", CLI, command, str(target)],
        env=environment,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    ) as child:
        if after is None:
            while child.poll() is None and len(list(target.parent.iterdir())) == 1:
                pass
        else:
            time.sleep(after)
        child.send_signal(signal.SIGKILL)
    found = target.read_bytes()
    whole = found.endswith(b"}") if command == "backup" else found[:2] == b"PK"
    assert found == b"the good one" or (whole and len(found) > 100_000)


def test_others_write_while_an_import_is_read(
    twenty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Reading waits in the middle; a decision is recorded meanwhile, and the import comes in."""
    reading, go_on = threading.Event(), threading.Event()
    plain = imports.read_files

    def slow(*given):  # type: ignore[no-untyped-def]
        found = plain(*given)
        reading.set()
        assert go_on.wait(SECONDS)
        return found

    monkeypatch.setattr(imports, "read_files", slow)
    done: list[int] = []
    steps: list[str] = []
    thread = threading.Thread(
        target=lambda: done.append(
            imports.import_files(
                twenty,
                example("pennant-lamps"),
                at=NOW,
                progress=lambda step, *_: steps.append(step),
            )
        )
    )
    thread.start()
    assert reading.wait(SECONDS)
    assert one_more(ReviewCache(twenty), None) > 0
    go_on.set()
    thread.join(SECONDS)
    assert done
    assert steps[0] == "reading"


def test_facts_that_change_while_an_import_is_read_are_held_against_it_again(
    twenty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A second import of the same file comes in between: then nothing of the first is new."""
    plain, calls = imports.read_files, []

    def meddling(*given):  # type: ignore[no-untyped-def]
        found = plain(*given)
        calls.append(1)
        if len(calls) == 1:
            imports.import_files(twenty, example("pennant-lamps"), at=NOW)
        return found

    monkeypatch.setattr(imports, "read_files", meddling)
    with pytest.raises(imports.Conflict, match="held already"):
        imports.import_files(twenty, example("pennant-lamps"), at=NOW)
    assert len(calls) == 3


def test_what_many_ask_for_at_once_is_made_once() -> None:
    kept, made = Cache(4), []
    started = threading.Barrier(8)

    def make() -> int:
        made.append(1)
        time.sleep(0.1)
        return len(made)

    def ask(found: list[int]) -> None:
        started.wait()
        found.append(kept.get("key", make))

    found: list[int] = []
    threads = [threading.Thread(target=ask, args=(found,)) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert found == [1] * 8


def test_what_could_not_be_made_is_tried_again() -> None:
    kept, turns = Cache(4), iter([ZeroDivisionError(), None])

    def make() -> str:
        error = next(turns)
        if error:
            raise error
        return "made"

    with pytest.raises(ZeroDivisionError):
        kept.get("key", make)
    assert kept.get("key", make) == "made"
