"""Damage to files of every format that is read: facts, a reason or a fault, and nothing else.
The reader's process is under its bounds as always."""

import io
import random
import zipfile
from collections.abc import Callable, Mapping, Sequence
from functools import cache
from html import escape
from pathlib import Path

import pytest

from hearth_yield.core.errors import HearthError
from hearth_yield.exchange.found.reading import made_tables, read_found
from hearth_yield.exchange.package import read_files
from tests.conftest import sample, zipped
from tests.exchange.test_packages import example
from tests.recalculated import converted

from .files import FILES, AsFound
from .test_apart import CELL, ods
from .test_found import AROUND, HELD
from .test_ofx import NEW, OLD
from .test_owned import ACCOUNT, CASES

SMALL = [f for f in FILES if len(f.raw) < 50_000]
HOSTILE = ("=1+1", "1e999", "²", "NaN", "-0", "9" * 40, "\u202e12", "31.02.2025", "((1))", "1,2,3")


def page(file: AsFound) -> bytes:
    """The first sheet of a workbook as a page would show it."""
    rows: Sequence[Sequence[object]] = next(iter(file.book.values()))
    cells = "".join(
        f"<tr>{''.join(f'<td>{escape(str(c or str()))}</td>' for c in r)}</tr>" for r in rows
    )
    return f"<!doctype html><table>{cells}</table>".encode()


BOOKS = [f for f in SMALL if f.book]
TEXTS = [f for f in SMALL if not f.book]


@cache
def seeds(office: str) -> Mapping[str, Sequence[tuple[str, bytes]]]:
    """By format, files that are whole. office: where an office program may write."""
    books = {f"b{n}": f.raw for n, f in enumerate(BOOKS[:6])}
    made = {to: converted(books, to, Path(office)) for to in ("ods", "xls")}
    row = "<table:table-row>{}</table:table-row>"
    return {
        "csv": [(f.name, f.raw) for f in TEXTS],
        "xlsx": [(f.name, f.raw) for f in BOOKS],
        "ods": [("x.ods", raw) for raw in made["ods"].values()]
        + [("x.ods", ods(row.format(CELL)))],
        "xls": [("x.xls", raw) for raw in made["xls"].values()],
        "html": [("x.html", page(f)) for f in BOOKS],
        "zip": [("all.zip", zipped({f.name: f.raw for f in SMALL[n : n + 3]})) for n in range(6)],
        "owned": [(c["name"], c["text"].encode()) for c in CASES],
        "ofx": [("mine.ofx", OLD.encode()), ("mine.ofx", NEW.encode())],
        "own": [(name, raw) for n in ("pennant-lamps", "faulty") for name, raw in example(n)],
    }


def spoilt(raw: bytes, draw: random.Random) -> bytes:
    """Some bytes changed, lost or put in."""
    held = bytearray(raw)
    for _ in range(draw.randint(1, 6)):
        at = draw.randrange(len(held) or 1)
        match draw.randrange(4):
            case 0 if held:
                held[at] = draw.randrange(256)
            case 1:
                del held[at : at + draw.randint(1, 20)]
            case 2:
                held[at:at] = bytes(draw.randrange(256) for _ in range(draw.randint(1, 9)))
            case _:
                held[at:at] = draw.choice(HOSTILE).encode()
    return bytes(held)


def inside(raw: bytes, draw: random.Random) -> bytes:
    """A zip in which one part is spoilt and packed again, so that nothing outside tells it."""
    with zipfile.ZipFile(io.BytesIO(raw)) as archive:
        parts = {n: archive.read(n) for n in archive.namelist() if not n.endswith("/")}
    name = draw.choice(sorted(parts))
    return zipped(parts | {name: spoilt(parts[name], draw)})


FORMATS = ("csv", "xlsx", "ods", "xls", "html", "zip", "owned", "ofx", "own")


@pytest.fixture(scope="module")
def office(tmp_path_factory: pytest.TempPathFactory) -> str:
    return str(tmp_path_factory.mktemp("office"))


@pytest.mark.parametrize("format", FORMATS)
def test_damage_gives_facts_a_reason_or_a_fault_and_nothing_else(format: str, office: str) -> None:
    draw = random.Random(format)
    files = seeds(office)[format]
    for _ in range(sample(10, 1_500)):
        name, raw = draw.choice(files)
        hurt: Callable[[bytes, random.Random], bytes] = (
            inside if raw[:2] == b"PK" and draw.random() < 0.7 else spoilt
        )
        told = {f"0.{id}": v for f in FILES if f.name == name for id, v in f.choices.items()}
        told |= ACCOUNT | {"account-4711": "Harbour", "amounts": "before", "others": "cash"}
        try:
            found = read_found([(name, hurt(raw, draw))], AROUND, told)
            read_files((), HELD, made=made_tables(found))
            if format == "own":
                read_files([(name, hurt(raw, draw))], HELD)
        except HearthError:
            continue
