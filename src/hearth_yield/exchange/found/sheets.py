"""Files of any common tabular sort as sheets of cells. Formulas and links are never followed: what
is read are the values a file holds."""

from __future__ import annotations

import csv
import io
import zipfile
import zlib
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from pathlib import PurePosixPath
from typing import Any

from charset_normalizer import from_bytes
from python_calamine import CalamineError, CalamineWorkbook, SheetVisibleEnum
from selectolax.lexbor import LexborHTMLParser, LexborNode

from hearth_yield.core.errors import TooLarge

from .bounds import bounded_workbook
from .old_workbook import read_apart

Cell = str | float | date | None
MAX_SHEETS = 200
MAX_ROWS = 300_000
MAX_COLUMNS = 400
MAX_CELLS = 4_000_000
OLD_WORKBOOK = b"\xd0\xcf\x11\xe0"


@dataclass(frozen=True, slots=True)
class Sheet:
    """rows: cells as they are held; a text is stripped, and an empty one is None. texts: of each
    row the cells that are one."""

    file: str
    name: str
    rows: Sequence[Sequence[Cell]]
    hidden: bool = False
    texts: Sequence[Sequence[str]] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        texts = [[c for c in row if type(c) is str] for row in self.rows]
        object.__setattr__(self, "texts", texts)

    @property
    def width(self) -> int:
        return max((len(r) for r in self.rows), default=0)


class Unreadable(Exception):
    """Why a file gives no sheets, in words."""


def sheets_of(file: str, raw: bytes) -> list[Sheet]:
    """Every sheet or table of a file that has cells. Raises Unreadable, TooLarge."""
    name = PurePosixPath(file).name
    if raw[:2] == b"PK" or raw[:4] == OLD_WORKBOOK:
        found = _workbook(name, raw)
    else:
        text = text_of(raw)
        found = _page(name, text) if _is_page(text) else [_separated(name, text)]
    held = [s for s in found if any(c is not None for r in s.rows for c in r)]
    if not held:
        raise Unreadable("there is nothing in it")
    cells = sum(len(r) for s in held for r in s.rows)
    if cells > MAX_CELLS or len(held) > MAX_SHEETS:
        raise TooLarge(
            "the file has too many cells",
            field=name,
            value=cells,
            rule=f"at most {MAX_CELLS:,} cells on {MAX_SHEETS} sheets",
        )
    return held


def _workbook(name: str, raw: bytes) -> list[Sheet]:
    try:
        if raw[:2] != b"PK":
            sheets = [Sheet(name, n, _cells(rows), h) for n, h, rows in read_apart(raw)]
            for sheet in sheets:
                _small(name, sheet.rows)
            return sheets
        book = CalamineWorkbook.from_filelike(io.BytesIO(bounded_workbook(name, raw)))
        hidden = {m.name for m in book.sheets_metadata if m.visible is not SheetVisibleEnum.Visible}
        found = []
        for sheet_name in book.sheet_names[: MAX_SHEETS + 1]:
            rows = book.get_sheet_by_name(sheet_name).to_python(skip_empty_area=False)
            _small(name, rows)
            found.append(Sheet(name, sheet_name, _cells(rows), sheet_name in hidden))
        return found
    except _TORN as error:
        raise Unreadable(f"it is no workbook that can be read ({error})") from error


_TORN = (
    CalamineError,
    zipfile.BadZipFile,
    zlib.error,
    RuntimeError,
    NotImplementedError,
    EOFError,
    OSError,
    ValueError,
)
"""What a damaged or encrypted workbook can raise."""


def _cells(rows: Sequence[Sequence[Any]]) -> list[list[Cell]]:
    return [[c if type(c) is float else _cell(c) for c in row] for row in rows]


def _small(name: str, rows: Sequence[Sequence[Any]]) -> None:
    if len(rows) > MAX_ROWS or (rows and len(rows[0]) > MAX_COLUMNS):
        raise TooLarge(
            "a sheet is too large",
            field=name,
            value=f"{len(rows)} rows",
            rule=f"at most {MAX_ROWS:,} rows and {MAX_COLUMNS} columns",
        )


def _cell(value: Any) -> Cell:
    match value:
        case None | bool() | time() | timedelta():
            return None if value is None else str(value)
        case datetime():
            return value.date()
        case date():
            return value
        case int() | float():
            return float(value)
    text = str(value).strip()
    return text or None


def text_of(raw: bytes) -> str:
    """Bytes of a text in any common encoding."""
    for encoding in (
        ("utf-8-sig", "utf-16") if raw[:2] in (b"\xff\xfe", b"\xfe\xff") else ("utf-8-sig",)
    ):
        try:
            return raw.decode(encoding)
        except UnicodeError:
            continue
    best = from_bytes(raw[:200_000]).best()
    try:
        return raw.decode(best.encoding if best else "cp1252")
    except (UnicodeError, LookupError):
        return raw.decode("cp1252", errors="replace")


def _is_page(text: str) -> bool:
    head = text[:4000].lower()
    return "<table" in head or "<html" in head or "<!doctype html" in head


def _separated(name: str, text: str) -> Sheet:
    """Cells parted by the character that parts most lines alike."""
    if "\0" in text:
        raise Unreadable("it is neither a text nor a workbook")
    lines = [line for line in text.splitlines() if line.strip()][:200]
    # Of two that fit alike the comma is likelier to be a decimal sign.
    parted = max("\t;|,", key=lambda d: _alike(lines, d))
    rows: list[list[Cell]] = []
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=parted)
    try:
        for row in reader:
            rows.append([c.strip() or None for c in row[:MAX_COLUMNS]])
            if len(rows) > MAX_ROWS:
                _small(name, rows)
    except csv.Error as error:
        raise Unreadable(f"line {reader.line_num} is no line of a table ({error})") from error
    return Sheet(name, PurePosixPath(name).stem, rows)


def _alike(lines: Sequence[str], delimiter: str) -> tuple[float, int]:
    """The share of lines that fall into the commonest number of cells, and that number."""
    try:
        counts = Counter(len(row) for row in csv.reader(lines, delimiter=delimiter))
    except csv.Error:
        return (0.0, 0)
    cells, times = max(counts.items(), key=lambda x: (x[0] > 1, x[1], x[0]), default=(1, 0))
    return (times / max(1, len(lines)) if cells > 1 else 0.0, cells)


def _page(name: str, text: str) -> list[Sheet]:
    """The tables of a page, those within others apart."""
    tables = LexborHTMLParser(text).css("table")[: MAX_SHEETS + 1]
    if not tables:
        raise Unreadable("the page has no table")
    return [
        Sheet(name, _caption(table) or f"table {n}", _table_rows(table))
        for n, table in enumerate(tables, 1)
        if not table.css("table table")
    ]


def _caption(table: LexborNode) -> str:
    held = table.css_first("caption")
    return held.text(strip=True)[:80] if held else ""


def _table_rows(table: LexborNode) -> list[list[Cell]]:
    """Rows as they stand; a cell over several columns is in the first of them."""
    rows: list[list[Cell]] = []
    for tr in table.css("tr")[:MAX_ROWS]:
        row: list[Cell] = []
        for td in tr.css("th, td"):
            row.append(" ".join(td.text(separator=" ").split()) or None)
            wide = td.attributes.get("colspan") or "1"
            extra = min(int(wide), 50) - 1 if wide.isdigit() else 0
            row += [None] * extra
        rows.append(row[:MAX_COLUMNS])
    return rows
