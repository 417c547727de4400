"""Workbooks as LibreOffice computes them, which knows nothing of this product."""

from __future__ import annotations

import subprocess
from collections.abc import Iterable, Iterator
from pathlib import Path
from xml.etree import ElementTree

from tests.patience import OFFICE_SECONDS

TABLE = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
OFFICE = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
MOST_BLANKS = 50
MOST_AT_ONCE = 60
"""Books in one run of the office program; over some hundreds it leaves some out."""

Sheet = list[list[float | str]]
"""Rows of cells: numbers, or texts."""


def recalculated(books: dict[str, bytes], at: Path) -> dict[str, dict[str, Sheet]]:
    """Sheets by name of every workbook, all of them recalculated in one run."""
    _convert(books, "fods", at)
    return {name: _sheets(at / f"{name}.fods") for name in books}


def converted(books: dict[str, bytes], to: str, at: Path) -> dict[str, bytes]:
    """Workbooks in another format (ods, xls), all of them in one run."""
    _convert(books, to, at)
    return {name: (at / f"{name}.{to}").read_bytes() for name in books}


def _convert(books: dict[str, bytes], to: str, at: Path) -> None:
    """The office program's own folder is made once for all tests of a process, beside theirs."""
    for name, content in books.items():
        (at / f"{name}.xlsx").write_bytes(content)
    for names in batched(books, MOST_AT_ONCE):
        command = ["soffice", "--headless", f"-env:UserInstallation=file://{at.parent}/office"]
        command += [
            "--convert-to",
            to,
            "--outdir",
            str(at),
            *(str(at / f"{n}.xlsx") for n in names),
        ]
        patience = OFFICE_SECONDS * (1 + len(names) / 10)
        subprocess.run(command, check=True, capture_output=True, timeout=patience)


def batched(names: Iterable[str], most: int) -> Iterator[list[str]]:
    rest = list(names)
    for first in range(0, len(rest), most):
        yield rest[first : first + most]


def _sheets(path: Path) -> dict[str, Sheet]:
    root = ElementTree.parse(path).getroot()
    return {t.get(f"{TABLE}name") or "": _rows(t) for t in root.iter(f"{TABLE}table")}


def _rows(table: ElementTree.Element) -> Sheet:
    rows: Sheet = []
    for row in table.iter(f"{TABLE}table-row"):
        cells: list[float | str] = []
        for cell in row:
            times = int(cell.get(f"{TABLE}number-columns-repeated") or 1)
            cells += [_value(cell)] * min(times, MOST_BLANKS)
        times = int(row.get(f"{TABLE}number-rows-repeated") or 1)
        rows += [cells] * min(times, MOST_BLANKS)
    return rows


def _value(cell: ElementTree.Element) -> float | str:
    held = cell.get(f"{OFFICE}value")
    return float(held) if held is not None else "".join(cell.itertext()).strip()


def line(sheet: Sheet, name: str) -> list[float | str]:
    """The cells after the name of a line."""
    return next(row[1:] for row in sheet if row and row[0] == name)
