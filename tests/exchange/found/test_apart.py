"""Files made to bring the product down: each ends in words, within what a file may take, and the
server goes on."""

from __future__ import annotations

import io
import json
import subprocess
import sys
import zipfile
from collections.abc import Callable

import pytest

from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.found import apart
from hearth_yield.exchange.found.apart import MEMORY, SECONDS, Unreadable, read_apart
from tests.conftest import SOAK, zipped

from .files import workbook

PLAIN = workbook({"S": [["Date", "Close"], ["2026-06-30", 1]]})
MOST = 500 * 2**20
"""Bytes that no file may cost, in the server and the reader together."""
SHEET = "xl/worksheets/sheet1.xml"


def changed(raw: bytes, change: Callable[[str, bytes], tuple[str, bytes]]) -> bytes:
    """A workbook whose parts are changed, or named otherwise."""
    with zipfile.ZipFile(io.BytesIO(raw)) as held:
        return zipped(dict(change(m, held.read(m)) for m in held.namelist()))


def sheet(change: Callable[[bytes], bytes], path: str = SHEET) -> bytes:
    """The plain workbook with its sheet changed; path: where it stands then."""

    def part(name: str, content: bytes) -> tuple[str, bytes]:
        if name == SHEET:
            return path, change(content)
        told = path.removeprefix("xl/").encode()
        return name, content.replace(b"worksheets/sheet1.xml", told)

    return changed(PLAIN, part)


def far(xml: bytes) -> bytes:
    return xml.replace(b'r="B2"', b'r="XFD1048576"')


def without_references(xml: bytes) -> bytes:
    """Cells that do not say where they are, in the last row there is."""
    bare = xml.replace(b'r="A1"', b"").replace(b'r="B1"', b"").replace(b'r="A2"', b"")
    return bare.replace(b'r="B2"', b"").replace(b'<row r="2"', b'<row r="4294967295"')


def ods(rows: str) -> bytes:
    return zipped(
        {
            "mimetype": b"application/vnd.oasis.opendocument.spreadsheet",
            "META-INF/manifest.xml": b"<manifest/>",
            "content.xml": (
                "<office:document-content xmlns:office='urn:oasis:names:tc:opendocument:xmlns:"
                "office:1.0' xmlns:table='urn:oasis:names:tc:opendocument:xmlns:table:1.0' "
                "xmlns:text='urn:oasis:names:tc:opendocument:xmlns:text:1.0'><office:body>"
                f"<office:spreadsheet><table:table table:name='S'>{rows}</table:table>"
                "</office:spreadsheet></office:body></office:document-content>"
            ).encode(),
        }
    )


CELL = "<table:table-cell {} office:value-type='float' office:value='1'/>"
ROWS = "<table:table-row table:number-rows-repeated='900000000'>{}</table:table-row>"


def shared() -> bytes:
    """One text of a megabyte, in 20,000 cells."""
    cell = '<row r="{0}"><c r="A{0}" t="s"><v>0</v></c></row>'
    rows = "".join(cell.format(n) for n in range(1, 20_001)).encode()
    text = b"<si><t>" + b"x" * 1_000_000 + b"</t></si>"

    def part(name: str, content: bytes) -> tuple[str, bytes]:
        if name == SHEET:
            head, _, rest = content.partition(b"<sheetData>")
            return name, head + b"<sheetData>" + rows + b"</sheetData>" + rest.split(
                b"</sheetData>"
            )[1]
        if name.endswith("sharedStrings.xml"):
            return name, content.split(b"<si>")[0] + text + b"</sst>"
        return name, content

    return changed(workbook({"S": [["Date"], ["x"]]}), part)


def expanding(method: int) -> bytes:
    """Nothing, 400 MB of it."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as archive, archive.open("prices.csv", "w") as member:
        for _ in range(400):
            member.write(b"0" * 2**20)
    return out.getvalue()


ATTACKS: dict[str, Callable[[], bytes]] = {
    "a cell in the last corner": lambda: sheet(far),
    "lower-case references": lambda: sheet(lambda x: far(x).replace(b"XFD", b"xfd")),
    "cells without references in a far row": lambda: sheet(without_references),
    "a sheet elsewhere": lambda: sheet(far, "xl/elsewhere/one.xml"),
    "a sheet that is named in capitals": lambda: sheet(far, "xl/worksheets/sheet1.XML"),
    "rows repeated": lambda: ods(ROWS.format(CELL.format(""))),
    "cells repeated": lambda: ods(
        ROWS.format(CELL.format("table:number-columns-repeated='900000000'"))
    ),
    "a long text in many cells": shared,
    "an archive that expands, deflated": lambda: expanding(zipfile.ZIP_DEFLATED),
    "an archive that expands, by bzip2": lambda: expanding(zipfile.ZIP_BZIP2),
    "an archive in an archive": lambda: zipped({"a.csv": expanding(zipfile.ZIP_DEFLATED)}),
    "a page of nothing but rows": lambda: b"<table>" + b"<tr><td>1" * 4_000_000,
    "a page of tables in tables": lambda: b"<table><tr><td>" * 200_000,
    "a cell over more columns than there are": lambda: (
        "<table><tr><td colspan='²'>Date<td colspan='99999999999'>Close</table>".encode()
    ),
    "lines without end": lambda: b"1,2\n" * 15_000_000,
    "one line without end": lambda: b"1," * 20_000_000,
    "one cell without end": lambda: b"x" * 60_000_000,
    "a quote that is never closed": lambda: b'a,b\n1,"' + b"x\n" * 20_000_000,
    "damaged": lambda: PLAIN[:-200],
    "no workbook at all": lambda: b"PK\x03\x04" + b"x" * 1000,
    "an old workbook of nothing": lambda: b"\xd0\xcf\x11\xe0" + b"\xff" * 100_000,
}


SLOW = {"a page of tables in tables", "an archive that expands, by bzip2"}
"""They take all the time that a file may."""
COSTS = """
import json, resource, sys
from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.found.apart import Unreadable, read_apart
def taken():
    of = [resource.getrusage(w) for w in (resource.RUSAGE_SELF, resource.RUSAGE_CHILDREN)]
    return [1024 * sum(u.ru_maxrss for u in of), sum(u.ru_utime + u.ru_stime for u in of)]
raw, before = sys.stdin.buffer.read(), taken()
try:
    said = f"{len(read_apart('x', raw).sheets)} sheets"
except (TooLarge, Unreadable) as why:
    said = str(why)
memory, seconds = (now - then for now, then in zip(taken(), before))
print(json.dumps({"said": said, "memory": memory, "seconds": seconds}))
"""


def costs(raw: bytes) -> dict[str, float | str]:
    """What reading a file takes, in a process that does nothing else, and how it ends."""
    command = [sys.executable, "-c", COSTS]
    done = subprocess.run(command, input=raw, capture_output=True, check=True)
    found: dict[str, float | str] = json.loads(done.stdout)
    return found


@pytest.mark.parametrize("name", [a for a in ATTACKS if SOAK or a not in SLOW])
def test_no_file_takes_more_than_a_file_may(name: str) -> None:
    found = costs(ATTACKS[name]())
    assert float(found["memory"]) < MOST, found
    assert float(found["seconds"]) < SECONDS + 2, found
    assert found["said"]


@pytest.mark.parametrize("name", ["a cell in the last corner", "a long text in many cells"])
def test_where_the_system_does_not_bound_it_a_watch_does(name: str) -> None:
    with pytest.raises((TooLarge, Unreadable)):
        read_apart("x.xlsx", ATTACKS[name](), watched=True)


@pytest.mark.parametrize(
    ("does", "why"),
    [
        ("held = bytearray(10**9); input()", "too much memory"),
        ("while True: pass", "takes too long"),
    ],
)
def test_the_watch_ends_what_takes_too_much(
    does: str, why: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(apart, "_RUN", does.replace("input()", "import time; time.sleep(9999)"))
    monkeypatch.setattr(apart, "SECONDS", 1)
    with pytest.raises(TooLarge, match=why):
        read_apart("x.csv", b"a,b\n", watched=True)


@pytest.mark.parametrize(
    "does",
    [
        "import os; os.kill(os.getpid(), 11)",
        "raise SystemExit(3)",
        "import sys; sys.stdout.buffer.write(b'\\0\\0\\0\\x09[1,2')",
        "import sys; sys.stdout.buffer.write(b'\\0\\0\\0\\x02{}')",
        "import sys; sys.stdout.buffer.write(b'\\xff\\xff\\xff\\xff')",
        "import sys; sys.stdout.buffer.write(b'\\0\\0\\0\\x07[\"rows\"')",
        "",
    ],
)
def test_a_reader_that_breaks_off_is_said_in_words(
    does: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(apart, "_RUN", does)
    with pytest.raises(Unreadable, match="its reader broke off"):
        read_apart("x.csv", b"a,b\n1,2\n")


def test_the_reader_takes_no_more_than_the_system_gives_it() -> None:
    """The bound is the system's, not a count of ours."""
    assert MEMORY < MOST
    with pytest.raises(TooLarge, match="memory"):
        read_apart("far.xlsx", sheet(far))


def test_files_of_an_archive_come_in_as_if_each_came_by_itself() -> None:
    found = read_apart("all.zip", zipped({"a/PNL.csv": b"Date,Close\n1,2\n", "b.xlsx": PLAIN}))
    assert [s.name for s in found.sheets] == ["PNL", "S"]
    torn = read_apart("all.zip", zipped({"a.csv": b"x,y\n1,2\n", "b.xlsx": PLAIN[:-300]}))
    assert [s.name for s in torn.sheets] == ["a"]
    assert torn.left[0].startswith("b.xlsx")
    broken = b"x,y\n" + b"1,2\n" * 20_000 + b'3,"' + b"z" * 1_100_000
    half = read_apart("all.zip", zipped({"a.csv": b"x,y\n1,2\n", "b.csv": broken}))
    assert [s.name for s in half.sheets] == ["a"]
    assert half.left[0].startswith("b.csv: line")


def test_a_long_text_is_cut_and_a_far_empty_cell_is_nothing() -> None:
    found = read_apart("x.csv", b"a," + b"y" * 50_000 + b"\n1,2\n")
    assert [len(str(c)) for c in found.sheets[0].rows[0]] == [1, 2000]
    assert found.left == ["what is longer than 2,000 characters of a text in “x”"]
