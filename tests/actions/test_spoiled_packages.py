"""Damaged packages: refused with faults, or taken in and read to the last figure and undone."""

from __future__ import annotations

import io
import json
import random
import zipfile
from collections.abc import Callable, Iterator
from datetime import date

from hearth_yield.actions.export_facts import export_facts
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import Conflict, RejectedImport, TooLarge, Uncomputable
from hearth_yield.core.question import Question
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.conftest import example, sample, zipped

from .test_imports import dump

NOW = "2026-06-30T10:00:00+00:00"
DAY = date(2026, 6, 30)
MOST_FAULTS = 2000
ODD_CELLS = (
    "",
    " ",
    "-",
    "0",
    "-1",
    "1e999",
    "nan",
    "inf",
    "1e-320",
    "1,5",
    "1.234,5",
    "12_000",
    "９",
    "0001-01-01",
    "9999-12-31",
    "2024-02-30",
    "2026-06-30T00:00",
    "\x00",
    "\ufeff",
    "\ud800",
    '"',
    '"x',
    "=1+1",
    "'",
    "a" * 3000,
    "ELV",
    "ELV/PNL",
    "USDX",
    "year",
    "quarter",
    "special",
)
ODD_BYTES = (b"\x00", b"\xff\xfe", b"\r", b"\n\n", b'"', b",,,,", b";", b"\xed\xa0\x80", b"\x1a")
ODD_JSON: tuple[object, ...] = (
    None,
    0,
    -1,
    1e308,
    "",
    "x",
    [],
    {},
    [[]],
    {"x": 1},
    "../../x.csv",
    "prices.csv",
    ["prices.csv"] * 3,
    "utf-7",
    "zip",
    "base64",
    "\t",
    "|",
    "million",
    "thousand",
)


def members() -> dict[str, bytes]:
    with zipfile.ZipFile(io.BytesIO(example("pennant-lamps")[0][1])) as archive:
        return {n: archive.read(n) for n in archive.namelist()}


def spoil_cell(files: dict[str, bytes], chance: random.Random) -> None:
    name = chance.choice([n for n in files if n.endswith(".csv")])
    lines = files[name].split(b"\n")
    at = chance.randrange(min(len(lines), 40))
    cells = lines[at].split(b",")
    cells[chance.randrange(len(cells))] = chance.choice(ODD_CELLS).encode(errors="surrogatepass")
    lines[at] = b",".join(cells)
    files[name] = b"\n".join(lines)


def spoil_lines(files: dict[str, bytes], chance: random.Random) -> None:
    name = chance.choice([n for n in files if n.endswith(".csv")])
    lines = files[name].split(b"\n")
    a, b = chance.randrange(len(lines)), chance.randrange(len(lines))
    match chance.randrange(4):
        case 0:
            lines[a], lines[b] = lines[b], lines[a]
        case 1:
            lines.insert(a, lines[b])
        case 2:
            del lines[min(a, b) : max(a, b)]
        case _:
            lines = lines[:1] + chance.sample(lines[1:], len(lines) - 1)
    files[name] = b"\n".join(lines)


def spoil_bytes(files: dict[str, bytes], chance: random.Random) -> None:
    name = chance.choice(list(files))
    raw = bytearray(files[name])
    at = chance.randrange(len(raw))
    raw[at : at + chance.randrange(3)] = chance.choice(ODD_BYTES)
    files[name] = bytes(raw)


def spoil_description(files: dict[str, bytes], chance: random.Random) -> None:
    name = "datapackage.json"
    described = json.loads(files[name])
    here: object = described
    while True:
        keys = list(here) if isinstance(here, dict) else list(range(len(here)))  # type: ignore[arg-type]
        key = chance.choice(keys) if keys else None
        inner = here[key] if key is not None else None  # type: ignore[index]
        if isinstance(inner, dict | list) and inner and chance.random() < 0.8:
            here = inner
            continue
        if key is not None:
            here[key] = chance.choice(ODD_JSON)  # type: ignore[index]
        break
    files[name] = json.dumps(described).encode()


def spoil_names(files: dict[str, bytes], chance: random.Random) -> None:
    name = chance.choice(list(files))
    raw = files.pop(name)
    files[chance.choice(["../" + name, "x/" + name, name.upper(), "prices.csv", "x", "/x.csv"])] = (
        raw
    )


SPOILERS: tuple[Callable[[dict[str, bytes], random.Random], None], ...] = (
    spoil_cell,
    spoil_cell,
    spoil_cell,
    spoil_lines,
    spoil_bytes,
    spoil_description,
    spoil_names,
)


def spoiled(n: int) -> bytes:
    chance = random.Random(n)
    files = members()
    for _ in range(chance.choice((1, 1, 2, 3))):
        if "datapackage.json" in files:
            try:
                chance.choice(SPOILERS)(files, chance)
            except ValueError:  # spoiled beyond being spoiled again
                break
    raw = zipped(files)
    if chance.random() < 0.1:
        at = chance.randrange(len(raw))
        raw = raw[:at] + bytes([chance.randrange(256)]) + raw[at + chance.randrange(4) :]
    return raw


def refusal_of(database: Database, n: int) -> RejectedImport | Conflict | TooLarge | None:
    """None: it came in, can be read whole, and went again."""
    try:
        source = import_files(database, [("spoiled.zip", spoiled(n))], at=NOW)
    except (RejectedImport, Conflict, TooLarge) as error:
        return error
    unreadable = [e for e in reviewed(database) if e is not None]
    assert all("PNL" in e.message or "Pennant" in e.message for e in unreadable), n
    assert export_facts(database, (), name="spoiled")
    undo_import(database, source, at=NOW)
    return None


def reviewed(database: Database) -> Iterator[Uncomputable | None]:
    """Each payer, or why it cannot be computed."""
    cache = ReviewCache(database)
    with database.read() as connection:
        keys = payer_files.keys(connection)
    for exchange, symbol in keys:
        try:
            cache.review(exchange, symbol, DAY, Question())
        except Uncomputable as error:
            yield error
        else:
            yield None


def test_a_damaged_package_is_refused_in_words_or_taken_in_whole(empty: Database) -> None:
    before, refused, cases = dump(empty), 0, sample(100, 10_000)
    for n in range(cases):
        refusal = refusal_of(empty, n)
        refused += refusal is not None
        if isinstance(refusal, RejectedImport):
            assert 0 < len(refusal.faults) <= MOST_FAULTS, n
            assert sum(len(str(f)) for f in refusal.faults) < 2_000_000, n
        if n % 25 == 0:
            assert dump(empty) == before, n
    assert dump(empty) == before
    assert cases * 0.2 < refused < cases * 0.95
