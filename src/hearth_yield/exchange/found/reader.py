"""The reader of foreign files, a program of its own: whatever a file makes of it ends with it.

It reads one file from its standard input and writes frames to its standard output, each four bytes
of length and a JSON list: `sheet`, `rows`, `texts` (rows of as many texts each), `only`, `text`,
`left`, `refused`, and `end` when all is said. `apart.py` starts it, bounds it and puts the frames
together. Formulas and links are never followed: what is read are the values a file holds.
"""

from __future__ import annotations

import csv
import gc
import io
import json
import sys
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from datetime import date, datetime
from itertools import chain, islice
from math import isfinite
from typing import TYPE_CHECKING, Any, NoReturn

from . import encodings, ofx

if TYPE_CHECKING:  # what most files need not is imported where it is needed
    import zipfile

MAX_SHEETS = 200
MAX_ROWS = 300_000
MAX_COLUMNS = 400
MAX_CELLS = 2_000_000
MAX_TEXT = 2000
"""Characters that are kept of one cell."""
MAX_TEXTS = 32_000_000
MAX_MEMBERS = 100
CHUNK = 20_000
"""Cells in a frame, about."""
OLD_WORKBOOK = b"\xd0\xcf\x11\xe0"
TEXTS = {str}
PARTED = "\x1f"
"""What parts texts that come in one."""
TORN = (RuntimeError, NotImplementedError, EOFError, OSError, ValueError)
"""What a damaged file can raise, beside what is a zip's own."""

Rows = Iterable[Sequence[Any]]


class Refused(Exception):
    """Why a file is not read. large: it is more than a file may be; else it is none that can be."""

    def __init__(self, words: str, *, large: bool = False, value: str = "") -> None:
        super().__init__(words)
        self.words, self.large, self.value = words, large, value


class Writer:
    """Writes frames, and counts what a file holds."""

    def __init__(self, put: Callable[[bytes], object]) -> None:
        self._put = put
        self.sheets = 0
        self.cells = 0
        self.texts = 0
        self.cut = 0

    def frame(self, *parts: Any) -> None:
        raw = json.dumps(parts, ensure_ascii=False, separators=(",", ":")).encode(
            "utf-8", "replace"
        )
        self._put(len(raw).to_bytes(4, "big") + raw)

    def sheet(self, name: str, rows: Rows, *, hidden: bool = False) -> None:
        """A sheet, some rows at a time; one without cells is left out."""
        count, begun, cut = 0, False, self.cut
        for some in _pieces(rows):
            count += len(some)
            if count > MAX_ROWS:
                many = f"more than {MAX_ROWS:,} rows"
                raise Refused("a sheet is too large", large=True, value=many)
            frame, cells = self._texts(some) or self._rows(some)
            self._bound(cells + len(some))
            if cells and not begun:
                begun = True
                self._begin(name, hidden)
                self.frame("rows", [[]] * (count - len(some)), [])  # what stands empty above
            if begun:
                self.frame(*frame)
        if self.cut > cut:
            texts = f"{self.cut - cut:,} texts" if self.cut - cut > 1 else "a text"
            self.frame(
                "left", f"what is longer than {MAX_TEXT:,} characters of {texts} in “{name}”"
            )

    def _texts(self, rows: Sequence[Sequence[Any]]) -> tuple[Sequence[Any], int] | None:
        """The frame of rows of as many texts each, none of them long, and how many cells hold one;
        None for others."""
        width = len(rows[0])
        if not 0 < width <= MAX_COLUMNS or {*map(len, rows)} != {width}:
            return None
        flat = list(chain.from_iterable(rows))
        if {*map(type, flat)} != TEXTS or max(sizes := list(map(len, flat))) > MAX_TEXT:
            return None
        texts = list(map(str.strip, flat))
        joined = PARTED.join(texts)
        if joined.count(PARTED) != len(texts) - 1:
            return None
        self.texts += sum(sizes)
        return ("texts", width, joined), len(texts) - texts.count("")

    def _rows(self, rows: Sequence[Sequence[Any]]) -> tuple[Sequence[Any], int]:
        """The frame of any rows, and how many cells they have."""
        days: list[tuple[int, int]] = []
        cells = [self._cells(row, n, days) for n, row in enumerate(rows)]
        return ("rows", cells, days), sum(map(len, cells))

    def _cells(self, row: Sequence[Any], at: int, days: list[tuple[int, int]]) -> list[Any]:
        """A row without what stands empty at its end; days are told apart as they are texts too."""
        cells: list[Any] = [
            (c.strip() or None) if type(c) is str and len(c) <= MAX_TEXT else _plain(c) for c in row
        ]
        while cells and cells[-1] is None:
            cells.pop()
        if len(cells) > MAX_COLUMNS:
            wide = f"{len(cells):,} columns"
            raise Refused("a sheet is too large", large=True, value=wide)
        self.cut += sum(type(c) is str and len(c) > MAX_TEXT for c in row)
        for n, cell in enumerate(cells):
            kind = type(cell)
            if kind is str:
                self.texts += len(cell)
            elif kind is date:
                days.append((at, n))
                cells[n] = cell.isoformat()
        return cells

    def only(self, sheets: int) -> None:
        """Takes back what was begun after so many sheets: a file comes in whole or not at all."""
        self.sheets = sheets
        self.frame("only", sheets)

    def _begin(self, name: str, hidden: bool) -> None:
        self.sheets += 1
        if self.sheets > MAX_SHEETS:
            many = f"more than {MAX_SHEETS} sheets"
            raise Refused("the file has too many sheets", large=True, value=many)
        self.frame("sheet", name[:200], hidden)

    def _bound(self, cells: int) -> None:
        self.cells += cells
        if self.cells > MAX_CELLS:
            many = f"more than {MAX_CELLS:,} cells"
            raise Refused("the file has too many cells", large=True, value=many)
        if self.texts > MAX_TEXTS:
            many = f"more than {MAX_TEXTS // 10**6} million characters"
            raise Refused("the texts of the file are too long", large=True, value=many)


def _pieces(rows: Rows) -> Iterator[list[Sequence[Any]]]:
    """Some rows at a time, as many as hold about so many cells."""
    left, many = iter(rows), 64
    while some := list(islice(left, many)):
        yield some
        many = max(1, CHUNK * len(some) // (sum(map(len, some)) + len(some)))


def _plain(value: Any) -> Any:
    """A cell as a text, a number or a day; None where nothing stands."""
    kind = type(value)
    if kind is str:
        return value[: 2 * MAX_TEXT].strip()[:MAX_TEXT] or None
    if value is None or (kind is float and isfinite(value)):
        return value
    if kind is datetime:
        return value.date()
    if kind is date:
        return value
    if kind is int:
        return float(value)
    return str(value)[:MAX_TEXT].strip() or None


def read(raw: bytes, name: str, encoding: str, out: Writer, *, inside: bool = False) -> None:
    """All sheets of a file. inside: it stood in an archive; another one in it is not opened."""
    if raw[:2] == b"PK":
        archive = _opened(raw)
        names = {n.lower() for n in archive.namelist()}
        if "xl/workbook.bin" in names:
            raise Refused("binary workbooks are not read; save it as XLSX")
        if names & {"xl/workbook.xml", "content.xml"}:
            return _workbook(raw, out)
        if inside or not _is_archive(archive):
            raise Refused("it is no workbook that can be read")
        return _archive(archive, encoding, out)
    if raw[:4] == OLD_WORKBOOK:
        return _workbook(raw, out)
    text = _text(raw, encoding, out)
    if ofx.is_ofx(text):
        return _statement(text, out)
    if _is_page(text):
        return _page(text, out)
    return out.sheet(_last(name).rsplit(".", 1)[0] or name, separated(text))


def _last(path: str) -> str:
    """The name at the end of a path."""
    return path.replace("\\", "/").rsplit("/", 1)[-1]


def _opened(raw: bytes) -> zipfile.ZipFile:
    import zipfile

    try:
        return zipfile.ZipFile(io.BytesIO(raw))
    except (zipfile.BadZipFile, *TORN) as error:
        raise Refused(f"it is no workbook that can be read ({str(error)[:200]})") from error


def _workbook(raw: bytes, out: Writer) -> None:
    from python_calamine import CalamineError, CalamineWorkbook, SheetVisibleEnum

    try:
        book = CalamineWorkbook.from_filelike(io.BytesIO(raw))
        hidden = {m.name for m in book.sheets_metadata if m.visible is not SheetVisibleEnum.Visible}
        for sheet_name in book.sheet_names[: MAX_SHEETS + 1]:
            sheet = book.get_sheet_by_name(sheet_name)
            if sheet.total_height > MAX_ROWS or sheet.total_width > MAX_COLUMNS:
                area = f"{sheet.total_height:,} rows of {sheet.total_width:,} columns"
                raise Refused("a sheet spans too many cells", large=True, value=area)
            out.sheet(
                sheet_name, sheet.to_python(skip_empty_area=False), hidden=sheet_name in hidden
            )
    except (CalamineError, *TORN) as error:
        raise Refused(f"it is no workbook that can be read ({str(error)[:200]})") from error


def _is_archive(archive: zipfile.ZipFile) -> bool:
    """Whether it holds files as people have them."""
    ends = (".csv", ".tsv", ".txt", ".xlsx", ".xls", ".ods", ".htm", ".html", ".ofx", ".qfx")
    return any(n.lower().endswith(ends) for n in archive.namelist())


def _archive(archive: zipfile.ZipFile, encoding: str, out: Writer) -> None:
    """Files within an archive, each as if it came by itself."""
    import zipfile

    members = [m for m in archive.infolist() if not m.is_dir()]
    for member in members[:MAX_MEMBERS]:
        name = _last(member.filename)
        if name.startswith(".") or "__MACOSX" in member.filename:
            continue
        whole = out.sheets
        try:
            with archive.open(member) as packed:
                raw = packed.read()
            read(raw, name, encoding, out, inside=True)
        except (zipfile.BadZipFile, *TORN) as error:
            out.only(whole)
            out.frame("left", f"{name[:80]} ({str(error)[:120]})")
        except Refused as why:
            if why.large:
                raise
            out.only(whole)
            out.frame("left", f"{name[:80]}: {why.words}")
    if len(members) > MAX_MEMBERS:
        out.frame("left", f"{len(members) - MAX_MEMBERS} more files of the archive")


def _text(raw: bytes, encoding: str, out: Writer) -> str:
    try:
        found = encodings.decode(raw, encoding)
    except (UnicodeError, LookupError):
        raise Refused(f"it is no text in {encoding[:40]}") from None
    if found.choices:
        out.frame("text", found.encoding, found.sure, list(found.choices))
    if "\0" in found.text:
        raise Refused("it is neither a text nor a workbook")
    if found.text[:200].lstrip().upper().startswith("!TYPE:"):
        raise Refused("it is a statement in QIF, which is not read; save it as OFX or CSV")
    return found.text


def _statement(text: str, out: Writer) -> None:
    """The transactions and positions of accounts."""
    found = ofx.statement_of(text)
    if not found.transactions and not found.positions:
        raise Refused("it is a statement in OFX without a transaction or a position")
    for words in found.left[:MAX_MEMBERS]:
        out.frame("left", words)
    top = [(f"Currency: {found.currency}",)] if found.currency else []
    if found.transactions:
        out.sheet("Transactions", [*top, ofx.HEAD, *found.transactions])
    if found.positions:
        out.sheet("Positions", [*top, ofx.POSITIONS_HEAD, *found.positions])


def _is_page(text: str) -> bool:
    head = text[:4000].lower()
    return "<table" in head or "<html" in head or "<!doctype html" in head


def separated(text: str) -> Iterator[list[str]]:
    """Cells parted by the character that parts most lines alike."""
    lines = [line[:10_000] for line in text[:1_000_000].splitlines() if line.strip()][:200]
    # Of two that fit alike the comma is likelier to be a decimal sign.
    parted = max("\t;|,", key=lambda d: _alike(lines, d))
    csv.field_size_limit(1_000_000)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=parted)
    try:
        yield from reader
    except csv.Error as error:
        line = f"line {reader.line_num} is no line of a table ({error})"
        raise Refused(line) from error


def _alike(lines: Sequence[str], delimiter: str) -> tuple[float, int]:
    """The share of lines that fall into the commonest number of cells, and that number."""
    try:
        counts = Counter(len(row) for row in csv.reader(lines, delimiter=delimiter))
    except csv.Error:
        return (0.0, 0)
    cells, times = max(counts.items(), key=lambda x: (x[0] > 1, x[1], x[0]), default=(1, 0))
    return (times / max(1, len(lines)) if cells > 1 else 0.0, cells)


def _page(text: str, out: Writer) -> None:
    """The tables of a page, those within others apart."""
    from selectolax.lexbor import LexborHTMLParser

    tables = LexborHTMLParser(text).css("table")[: MAX_SHEETS + 1]
    if not tables:
        raise Refused("the page has no table")
    for n, table in enumerate(tables, 1):
        if table.css("table table"):
            continue
        caption = table.css_first("caption")
        name = caption.text(strip=True)[:80] if caption else ""
        out.sheet(name or f"table {n}", _table_rows(table))


def _table_rows(table: Any) -> Iterator[list[str | None]]:
    """Rows as they stand; a cell over several columns or rows is in the first of them."""
    below: dict[int, int] = {}
    for tr in table.css("tr"):
        row: list[str | None] = []
        for td in tr.css("th, td"):
            _pass_over(row, below)
            if len(row) > MAX_COLUMNS:
                break
            at, tall = len(row), _span(td, "rowspan", 500)
            row.append(" ".join(td.text(separator=" ")[: 2 * MAX_TEXT].split()) or None)
            row += [None] * (_span(td, "colspan", 50) - 1)
            if tall > 1:
                below |= dict.fromkeys(range(at, len(row)), tall)
        below = {column: left - 1 for column, left in below.items() if left > 1}
        yield row[:MAX_COLUMNS]


def _pass_over(row: list[str | None], below: dict[int, int]) -> None:
    """The columns that a cell of a row above reaches down to."""
    while len(row) in below and len(row) <= MAX_COLUMNS:
        row.append(None)


def _span(td: Any, name: str, most: int) -> int:
    told = (td.attributes.get(name) or "1")[:4]
    return max(1, min(int(told), most)) if told.isascii() and told.isdigit() else 1


def _bounded(memory: int, seconds: int) -> None:
    """What the system holds this process to; where it cannot, `apart.py` watches."""
    if sys.platform != "linux":
        return
    import resource

    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def main(name: str, encoding: str, memory: str, seconds: str) -> NoReturn:
    gc.disable()  # what it reads is no circle, and it ends with it
    if int(memory):
        _bounded(int(memory), int(seconds))
    out = Writer(sys.stdout.buffer.write)
    try:
        read(sys.stdin.buffer.read(), name, encoding, out)
        out.frame("end")
    except Refused as why:
        out.frame("refused", why.words, why.large, why.value)
    except MemoryError:
        out.frame("refused", "it takes too much memory to read", True, "")
    except TORN as error:
        out.frame("refused", f"it is damaged ({str(error)[:200]})", False, "")
    sys.stdout.buffer.flush()
    raise SystemExit(0)
