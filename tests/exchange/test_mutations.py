"""Ten thousand random mutations of the example package: read or refused, never a traceback and
never a partial write."""

import io
import random
import sqlite3
import zipfile
from pathlib import Path

import pytest

from hearth_yield.actions.import_files import import_files
from hearth_yield.core.errors import HearthError
from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.package import read_files
from hearth_yield.store.database import Database
from hearth_yield.store.facts import FACT_TABLES
from tests.conftest import EXAMPLES, sample

EACH = 1000
KEPT_LINES = 24
"""Of each table, so that ten thousand fit into a test run; every column is still there."""


def example_files() -> dict[str, bytes]:
    with zipfile.ZipFile(EXAMPLES / "pennant-lamps.zip") as archive:
        files = {i.filename: archive.read(i) for i in archive.infolist()}
    return {
        name: raw if name.endswith(".json") else b"\n".join(raw.split(b"\n")[:KEPT_LINES]) + b"\n"
        for name, raw in files.items()
    }


FILES = example_files()


def mutated(chance: random.Random, most: int = 12) -> bytes:
    """Bytes replaced, dropped and put in, lines doubled, and at times the zip itself bitten."""
    files = {name: bytearray(raw) for name, raw in FILES.items()}
    for _ in range(chance.randint(1, most)):
        raw = files[chance.choice(sorted(files))]
        at = chance.randrange(len(raw))
        if chance.random() < 0.15:
            end = raw.find(b"\n", at)
            raw[end:end] = raw[at:end]
        else:
            raw[at : at + chance.randint(0, 3)] = chance.randbytes(chance.randint(0, 3))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, raw in files.items():
            archive.writestr(name, bytes(raw))
    whole = bytearray(out.getvalue())
    if chance.random() < 0.3:
        whole[chance.randrange(len(whole))] = chance.randrange(256)
    if chance.random() < 0.05:
        del whole[chance.randrange(len(whole)) :]
    return bytes(whole)


@pytest.mark.parametrize("part", range(sample(3, 10)))
def test_a_mutated_package_is_read_or_refused_but_never_breaks(part: int) -> None:
    chance = random.Random(f"mutations {part}")
    read = 0
    for _ in range(EACH):
        try:
            reading = read_files([("m.zip", mutated(chance))], NothingStored())
        except HearthError:
            continue
        assert reading.faults or reading.records
        if not reading.refused:
            read += 1
            assert set(reading.records) <= set(FACT_TABLES)
    assert read > 0  # some are harmless: the reader is not simply refusing everything


def counts(path: Path) -> list[int]:
    with sqlite3.connect(path) as raw:
        tables = [s.table.name for s in FACT_TABLES.values()]
        return [raw.execute(f"SELECT count(*) FROM {t}").fetchone()[0] for t in tables]


def test_a_mutated_package_is_kept_whole_or_not_at_all(empty: Database) -> None:
    chance = random.Random("kept or not")
    nothing = counts(empty.path)
    kept = 0
    for _ in range(sample(40, 150)):
        package = mutated(chance, most=1)
        try:
            reading = read_files([("m.zip", package)], NothingStored())
            import_files(empty, [("m.zip", package)], at="now")
        except HearthError:
            assert counts(empty.path) == nothing
            continue
        kept += 1
        assert counts(empty.path) == [len(reading.records.get(n, ())) for n in FACT_TABLES]
        with empty.write() as connection:
            for spec in reversed(FACT_TABLES.values()):
                connection.execute(spec.table.delete())
    assert kept > 0
