"""Reading one CSV table: cells to values, with every fault found."""

from __future__ import annotations

import codecs
import csv
import io
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from itertools import accumulate, islice
from typing import Any, TypeVar

from hearth_yield.core.errors import TooLarge
from hearth_yield.core.facts.columns import FIRST_DAY, LAST_DAY, Column, Type
from hearth_yield.core.facts.isin import is_isin
from hearth_yield.core.facts.tables import UNITS
from hearth_yield.rows import Rows
from hearth_yield.texts import is_plain, visible

from .columns import Format
from .exact import product
from .faults import COUNTED, Fault, Faults
from .found.dates import Order, date_of, order_of
from .found.numbers import Style, exact_of, number_of, style_of

MAX_ROWS = 1_000_000
PIECE = 1 << 20
"""Bytes of a text that are looked at together."""
MAX_CELL = 2000
MAX_REMEMBERED = 100_000
CHUNK = 256
MADE_AT_ONCE = 4096


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeTable:
    """A table of the product's own, made of other files: its cells as texts, by column. name: as if
    it were a file. places: where each row came from."""

    name: str
    cells: Rows
    places: Sequence[str] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Dialect:
    """How a file writes its cells; None means: find out, or the plain form."""

    delimiter: str | None = None
    decimal: str = "."
    group: str | None = None
    missing: frozenset[str] = frozenset({""})
    unit: str | None = None
    encoding: str = "utf-8"


@dataclass(slots=True)
class Table:
    """A table read: records with the line each came from, and the faults. units: what each row's
    money was multiplied by, so that a fault can show the value as the file has it."""

    format: Format
    file: str
    records: Rows = field(default_factory=lambda: Rows(()))
    lines: list[int] = field(default_factory=list)
    units: list[float] = field(default_factory=list)
    faults: Faults = field(init=False)

    def __post_init__(self) -> None:
        self.faults = Faults(self.file)


N = TypeVar("N", float, Decimal)
MOST_DIGITS = 60
"""Of an exact number; none is longer."""


class _BadCell(Exception):
    """Carries what was expected, where that is not what the column says."""


_BREAK = re.compile(r"\r\n|\r|\n")
_ISO_DATE = re.compile(r"\d{4}-\d{2}-\d{2}", re.ASCII)
_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?")


def _digits_reader(dialect: Dialect) -> Callable[[str], str]:
    """Cells to numbers as Python writes them, digit by digit. A group character must stand between
    groups of three digits."""
    point, group = dialect.decimal, dialect.group
    groups = group if group is not None else ("," if point == "." else ".")
    grouped = re.compile(
        rf"[+-]?\d{{1,3}}(?:[{re.escape(groups)}\u00a0\u202f ]\d{{3}})+(?:{re.escape(point)}\d*)?"
    )
    strip = str.maketrans("", "", groups + "\u00a0\u202f ")

    def read(cell: str) -> str:
        text = cell.replace("\u2212", "-")
        if text.startswith("(") and text.endswith(")"):
            text = f"-{text[1:-1]}"  # an accountant's minus
        if not _NUMBER.fullmatch(text) or (point != "." and "." in text):
            if grouped.fullmatch(text):
                text = text.translate(strip)
            if point != ".":
                text = text.replace(".", "x").replace(point, ".")
            if not _NUMBER.fullmatch(text):
                raise _BadCell
        return text

    return read


def _number_reader(dialect: Dialect) -> Callable[[str], float]:
    digits = _digits_reader(dialect)

    def read(cell: str) -> float:
        value = float(digits(cell))
        if value in (float("inf"), float("-inf")):
            raise _BadCell
        return value

    return read


def rearm(cell: str) -> str:
    """Undoes `writing.disarm`: an apostrophe before what a spreadsheet would run goes."""
    armed = len(cell) > 1 and cell[0] == "'" and cell[1] in "=+-@'\t\r"
    return cell[1:] if armed else cell


def _reader_for(column: Column, dialect: Dialect) -> Callable[[str], Any]:
    """What a cell of a column says. Raises _BadCell."""
    if column.type in (Type.NUMBER, Type.EXACT, Type.INTEGER):
        return _numbers_of(column, dialect)

    def choice(cell: str) -> str:
        value = cell.lower()
        if value not in column.choices:
            raise _BadCell
        return value

    def text(cell: str) -> str:
        cell = rearm(cell)
        if len(cell) > MAX_CELL or not is_plain(cell) or not column.fits(cell):
            raise _BadCell
        return cell

    return {
        Type.CURRENCY: _currency,
        Type.ISIN: _isin,
        Type.DATE: _day,
        Type.CHOICE: choice,
        Type.TEXT: text,
    }[column.type]


def _numbers_of(column: Column, dialect: Dialect) -> Callable[[str], float | Decimal]:
    number, digits = _number_reader(dialect), _digits_reader(dialect)

    def checked(value: N) -> N:
        refused = column.refuses(value)
        if refused is not None:
            raise _BadCell(refused)
        return value

    def exact(cell: str) -> Decimal:
        """No binary float on the way."""
        if len(cell) > MOST_DIGITS:
            raise _BadCell
        return checked(Decimal(digits(cell)))

    def whole(cell: str) -> int:
        value = checked(number(cell))
        if value != int(value):
            raise _BadCell
        return int(value)

    if column.type is Type.NUMBER:
        return lambda cell: checked(number(cell))
    return exact if column.type is Type.EXACT else whole


def _day(cell: str) -> date:
    if not _ISO_DATE.fullmatch(cell):
        raise _BadCell
    try:
        found = date.fromisoformat(cell)
    except ValueError:
        raise _BadCell from None
    if not FIRST_DAY <= found <= LAST_DAY:
        raise _BadCell(f"a date from {FIRST_DAY.year} to {LAST_DAY.year}")
    return found


def _currency(cell: str) -> str:
    if not (len(cell) == 3 and cell.isascii() and cell.isalpha() and cell.isupper()):
        raise _BadCell
    return cell


def _isin(cell: str) -> str:
    told = cell.upper()
    if not is_isin(told):
        raise _BadCell
    return told


ENCODINGS = re.compile(
    r"utf-?(8|16|16-?le|16-?be|32)(-sig)?|us-?ascii|ascii|latin-?[19]|iso-?8859-?\d{1,2}"
    r"|(cp|windows-?)\d{3,4}|mac-?roman|koi8-?[ru]|shift-?jis|euc-?(jp|kr)|gb18030|gbk|big5"
)
"""Encodings of text that a file may be in."""


def decoded(raw: bytes, dialect: Dialect) -> io.TextIOWrapper:
    """Bytes as a text to go through, which is never held whole; a byte-order mark is dropped.
    Raises UnicodeError, LookupError."""
    if not ENCODINGS.fullmatch(dialect.encoding.lower().replace("_", "-")):
        raise LookupError(dialect.encoding)
    utf8 = dialect.encoding.lower().replace("-", "") == "utf8"
    encoding = "utf-8-sig" if utf8 else dialect.encoding
    decoder = codecs.getincrementaldecoder(encoding)()
    for begin in range(0, len(raw), PIECE):
        decoder.decode(raw[begin : begin + PIECE])
    decoder.decode(b"", True)
    return io.TextIOWrapper(io.BytesIO(raw), encoding=encoding, newline="")


def delimiter_of(header: str, dialect: Dialect) -> str:
    """The named separator, else the one the header line holds most of."""
    if dialect.delimiter:
        return dialect.delimiter
    return max(",;\t|", key=header.count)


def read_table(
    raw: bytes, file: str, recognise: Callable[[frozenset[str]], Format | None], dialect: Dialect
) -> Table | Fault:
    """Read one CSV file whole.

    recognise: picks the format from the header's column names.
    Returns: the table with all its faults, or the one fault that kept it from being read.
    """
    try:
        text = decoded(raw, dialect)
    except (UnicodeError, LookupError):
        return Fault(
            file=file,
            line=None,
            column=None,
            value=None,
            expected=f"text in {visible(dialect.encoding[:40])}; name its encoding in the "
            "descriptor",
        )
    delimiter = delimiter_of(text.readline(PIECE), dialect)
    text.seek(0)
    if delimiter == ";" and dialect.decimal == "." and dialect.group is None:
        dialect = replace(dialect, group="")  # "1,234" could be either: only a descriptor can say
    rows = csv.reader(text, delimiter=delimiter, strict=True)
    try:
        header = [h.strip().lower() for h in next(rows, [])]
    except csv.Error as error:
        return Fault(file=file, line=1, column=None, value=None, expected=f"a header row ({error})")
    format = recognise(frozenset(header))
    if format is None:
        return Fault(
            file=file,
            line=1,
            column=None,
            value=visible(", ".join(header[:40])[:120]) or None,
            expected="the columns of a known table; see docs/data-formats.md",
        )
    table = Table(format=format, file=file)
    if _check_header(table, header):
        _read_rows(table, header, rows, dialect)
    return table


def _check_header(table: Table, header: list[str]) -> bool:
    known, before = table.format.by_name, set[str]()
    for name in sorted(table.format.required - set(header)):
        table.faults.add(1, name, None, "this column, which the table needs")
    for i, name in enumerate(header):
        if name not in known:
            expected = f"a column of the {table.format.name} table"
            table.faults.add(1, name[:120] or f"column {i + 1}", name, expected, cause=expected)
        elif name in before:
            table.faults.add(1, name, name, "each column once", cause="each column once")
        before.add(name)
    return table.faults.found == 0


def read_made(made: MadeTable, format: Format, dialect: Dialect) -> Table:
    """The rows of a table that was made of other files, by the same reader. Raises TooLarge."""
    table, names = Table(format=format, file=made.name), made.cells.names
    _bounded(table, len(made.cells))
    if not _check_header(table, list(names)):
        return table
    reader = _TableReader(table, names, dialect)
    for begin in range(0, len(made.cells), MADE_AT_ONCE):
        some = made.cells[begin : begin + MADE_AT_ONCE]
        columns = [some.column(name) for name in names]
        lines = range(begin + 2, begin + 2 + len(some))
        if not reader.read_sound(lines, columns):
            for line, cells in zip(lines, zip(*columns, strict=True), strict=True):
                reader.read(line, cells)
                if _unread(table, line):
                    return table
    return table


def _unread(table: Table, line: int) -> bool:
    """Whether so much is at fault that what follows is not looked at, which is said."""
    if table.faults.too_many:
        rest = f"fewer than {COUNTED:,} faults; the rest is unread"
        table.faults.add(line, None, None, rest)
    return table.faults.too_many


def _bounded(table: Table, rows: int) -> None:
    if rows > MAX_ROWS:
        raise TooLarge(
            "too many rows", field=table.file, value=rows, rule=f"at most {MAX_ROWS:,} rows"
        )


TYPED = "typed in"
MAX_TYPED = 2000


def read_cells(format: Format, rows: Sequence[Mapping[str, str]], dialect: Dialect) -> Table:
    """Rows typed by a person: cells by column name. Raises TooLarge."""
    if len(rows) > MAX_TYPED:
        raise TooLarge(
            "too many rows to type",
            field="rows",
            value=len(rows),
            rule=f"at most {MAX_TYPED}; a file takes more",
        )
    table = Table(format=format, file=TYPED)
    header = list(dict.fromkeys(name for row in rows for name in row))
    names = [*header, *sorted(format.required - set(header))]
    if _check_header(table, names):
        reader = _TableReader(table, names, dialect)
        for line, row in enumerate(rows, 1):
            reader.read(line, [row.get(n, "") for n in names])
    return table


def _read_rows(
    table: Table, header: list[str], rows: Iterator[list[str]], dialect: Dialect
) -> None:
    """All rows of a file, some at a time: where none of them is at fault that is faster than row by
    row, which says what is wrong where."""
    reader = _TableReader(table, header, dialect)
    counter: Any = rows
    chunk: list[list[str]] = [[]]
    torn: csv.Error | None = None
    while chunk and torn is None:
        before, chunk = counter.line_num, []
        try:
            chunk.extend(islice(rows, CHUNK))
        except csv.Error as error:
            torn = error
        lines = _lines(before, counter.line_num, chunk)
        whole = {*map(len, chunk)} == {len(header)}
        if not (whole and reader.read_sound(lines, list(zip(*chunk, strict=True)))):
            for line, cells in zip(lines, chunk, strict=True):
                reader.read(line, cells)
                if _unread(table, line):
                    return
        _bounded(table, len(table.records))
    if torn:
        table.faults.add(counter.line_num, None, None, f"well-formed CSV ({torn})")


def _lines(before: int, now: int, chunk: Sequence[Sequence[str]]) -> Sequence[int]:
    """The line each row ends on: a cell may hold line breaks."""
    if now - before == len(chunk):
        return range(before + 1, now + 1)
    breaks = (1 + sum(len(_BREAK.findall(cell)) for cell in cells) for cells in chunk)
    return list(accumulate(breaks, initial=before))[1:]


class _TableReader:
    """Reads rows of cells into a table's records and faults. Cells repeat (symbols, days, prices):
    what a column's cell said is remembered."""

    def __init__(self, table: Table, header: Sequence[str], dialect: Dialect) -> None:
        self._table = table
        self._dialect = dialect
        self._columns = [table.format.by_name[name] for name in header]
        self._readers = [_reader_for(c, dialect) for c in self._columns]
        self._known: list[dict[str, Any]] = [{} for _ in self._columns]
        self._defaults = {
            c.name: c.default for c in table.format.columns if c.default and c.name not in header
        }
        self._said: set[tuple[str, str]] = set()
        self._scaled = table.format.name == "statements"
        names = [n for n in header if not (self._scaled and n == "unit")]
        table.records = Rows([*names, *self._defaults])

    def read(self, line: int, cells: Sequence[str]) -> None:
        """One row, with every fault in it; an empty one is passed over."""
        table = self._table
        if not any(cells):
            return
        if len(cells) != len(self._columns):
            wanted = f"{len(self._columns)} cells, as in line 1"
            table.faults.add(line, None, f"{len(cells)} cells", wanted)
            return
        record: dict[str, Any] = dict(self._defaults)
        sound = True
        for i, (column, cell) in enumerate(zip(self._columns, cells, strict=True)):
            try:
                record[column.name] = self._value(i, cell)
            except _BadCell as bad:
                expected = str(bad) or column.expected
                try:
                    record[column.name] = value = self._as_people_write(i, cell, bad)
                except _BadCell as worse:
                    table.faults.add(line, column.name, cell.strip(), str(worse) or expected)
                    sound = False
                else:
                    self._say(line, column, cell, value)
        if self._scaled:
            unit = _scale(table, line, record, self._dialect)
            if sound and unit is not None:
                table.units.append(unit)
            sound &= unit is not None
        if sound:
            table.records.append(record)
            table.lines.append(line)

    def read_sound(self, lines: Sequence[int], texts: Sequence[Sequence[str]]) -> bool:
        """Many rows at once, column by column; False, with nothing kept, unless every one is
        sound."""
        if self._scaled:
            return False
        columns: list[Sequence[Any]] = []
        for i, cells in enumerate(texts):
            known = self._known[i]
            if len(known) > MAX_REMEMBERED:
                known.clear()
            try:
                for cell in set(cells):
                    if cell not in known:
                        known[cell] = self._value(i, cell)
            except _BadCell:
                return False
            columns.append([known[cell] for cell in cells])
        columns += [[default] * len(lines) for default in self._defaults.values()]
        self._table.records.extend(columns)
        self._table.lines.extend(lines)
        return True

    def _as_people_write(self, i: int, cell: str, bad: _BadCell) -> Any:
        """A number or a day with what people put around one: €12.50, 1'000, 45 %, 30.06.2026.
        Raises _BadCell, for what can be read two ways too."""
        column, text = self._columns[i], cell.strip()
        plain: object = None
        if str(bad) or not text:
            raise _BadCell(str(bad))
        if column.type is Type.DATE and not order_of([text]).asked:
            plain = date_of(text, Order(day_first=True))
        elif column.type in (Type.NUMBER, Type.INTEGER, Type.EXACT):
            read = exact_of if column.type is Type.EXACT else number_of
            style = style_of([text])
            if not style.asked:
                plain = read(text, style)
            elif self._dialect.group is None:
                plain = read(text, Style(self._dialect.decimal))
        if plain is None:
            raise _BadCell
        written = format(plain, "f") if isinstance(plain, Decimal) else str(plain)
        return self._readers[i](written.replace(".", self._dialect.decimal))

    def _say(self, line: int, column: Column, cell: str, value: object) -> None:
        """That a column is not written as ours are, once; what is marked behind, pence and the
        like, apart."""
        sort = (column.name, cell.strip()[-1:] if not cell.strip()[-1:].isdecimal() else "")
        if sort not in self._said:
            self._said.add(sort)
            told = f"{column.expected}; it is read as {value}, and others of its column alike"
            self._table.faults.add(line, column.name, cell.strip(), told, warning=True)

    def _value(self, i: int, cell: str) -> Any:
        """What the cell of a column says. Raises _BadCell."""
        column, text = self._columns[i], cell.strip()
        if text not in self._dialect.missing:
            return self._readers[i](text)
        if column.required and column.default is None:
            raise _BadCell
        return column.default


def _scale(table: Table, line: int, record: dict[str, Any], dialect: Dialect) -> float | None:
    """Money lines into single units of currency; the file must name its unit."""
    unit = record.pop("unit", None) or dialect.unit
    if unit not in UNITS:
        table.faults.add(
            line, "unit", unit or "", "the unit amounts are in: 1, thousand or million"
        )
        return None
    factor = UNITS[unit]
    sound = True
    for column in table.format.columns:
        value = record.get(column.name)
        if not column.scaled or value is None:
            continue
        record[column.name] = single = product(value, factor)
        refused = column.refuses(single)
        if refused is not None:
            table.faults.add(line, column.name, f"{value:g} {unit}", refused)
            sound = False
    return factor if sound else None
