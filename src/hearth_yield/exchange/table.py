"""Reading one CSV table: cells to values, with every fault found."""

from __future__ import annotations

import codecs
import csv
import io
import re
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from itertools import accumulate, islice
from typing import Any, Protocol

from hearth_yield.core.errors import TooLarge
from hearth_yield.core.facts.columns import Column
from hearth_yield.core.facts.tables import UNITS
from hearth_yield.rows import Rows
from hearth_yield.texts import visible

from .cells import BadCell, Cell, Dialect, as_people_write, reader_of, spelt
from .columns import Format
from .exact import product
from .faults import COUNTED, Fault, Faults

MAX_ROWS = 1_000_000
PIECE = 1 << 20
"""Bytes of a text that are looked at together."""
MAX_REMEMBERED = 100_000
CHUNK = 256
MADE_AT_ONCE = 4096
Place = int | tuple[int, int] | str
"""What a row was made of: a row or column of a sheet by its number, one cell, or words."""


class Spelling(Protocol):
    """Says a place as the reader of a sheet would. column: the cell of it that a column came
    from."""

    def __call__(self, place: Place, column: str | None = None, /) -> str: ...


@dataclass(slots=True)
class Origin:
    """Where some rows came from, one after the other."""

    places: Sequence[Place]
    spell: Spelling


@dataclass(slots=True)
class MadeTable:
    """Rows of a table of the product's own that were made of other files: texts, and values that
    are read already."""

    name: str
    rows: Rows = field(default_factory=lambda: Rows(()))
    origins: list[Origin] = field(default_factory=list)

    @property
    def file(self) -> str:
        """As if it were one."""
        return f"{self.name}.csv"

    def add(self, row: Mapping[str, Cell], place: Place, spell: Spelling) -> None:
        self.rows.add(row)
        last = self.origins[-1] if self.origins else None
        if last is not None and last.spell is spell and isinstance(last.places, list):
            last.places.append(place)
        else:
            self.origins.append(Origin([place], spell))

    def take(self, rows: Rows, origins: Iterable[Origin]) -> None:
        """More rows, and where they came from."""
        self.rows.join(rows)
        self.origins += origins

    def origin_of(self, at: int) -> tuple[Place, Spelling]:
        """Where one of its rows came from, and who says so. Raises IndexError."""
        for origin in self.origins:
            if at < len(origin.places):
                return origin.places[at], origin.spell
            at -= len(origin.places)
        raise IndexError(at)


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


_BREAK = re.compile(r"\r\n|\r|\n")
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
    table, names = Table(format=format, file=made.file), made.rows.names
    _bounded(table, len(made.rows))
    if not _check_header(table, list(names)):
        return table
    reader = _TableReader(table, names, dialect)
    for begin in range(0, len(made.rows), MADE_AT_ONCE):
        some = [made.rows.column(name)[begin : begin + MADE_AT_ONCE] for name in names]
        lines = range(begin + 2, begin + 2 + len(some[0]))
        if not reader.read_sound(lines, some):
            for line, cells in zip(lines, zip(*some, strict=True), strict=True):
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


def read_cells(format: Format, rows: Sequence[Mapping[str, Cell]], dialect: Dialect) -> Table:
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
        self._readers = [reader_of(c, dialect) for c in self._columns]
        self._known: list[dict[Cell, Any]] = [{} for _ in self._columns]
        self._defaults = {
            c.name: c.default for c in table.format.columns if c.default and c.name not in header
        }
        self._said: set[tuple[str, str]] = set()
        self._scaled = table.format.name == "statements"
        names = [n for n in header if not (self._scaled and n == "unit")]
        table.records = Rows([*names, *self._defaults])

    def read(self, line: int, cells: Sequence[Cell]) -> None:
        """One row, with every fault in it; an empty one is passed over."""
        table = self._table
        if all(cell in (None, "") for cell in cells):
            return
        if len(cells) != len(self._columns):
            wanted = f"{len(self._columns)} cells, as in line 1"
            table.faults.add(line, None, f"{len(cells)} cells", wanted)
            return
        record: dict[str, Any] = dict(self._defaults)
        sound = True
        for i, (column, cell) in enumerate(zip(self._columns, cells, strict=True)):
            try:
                record[column.name] = self._readers[i](cell)
            except BadCell as bad:
                expected = str(bad) or column.expected
                try:
                    record[column.name] = value = self._as_people_write(i, cell, bad)
                except BadCell as worse:
                    table.faults.add(line, column.name, spelt(cell), str(worse) or expected)
                    sound = False
                else:
                    self._say(line, column, spelt(cell), value)
        if self._scaled:
            unit = _scale(table, line, record, self._dialect)
            if sound and unit is not None:
                table.units.append(unit)
            sound &= unit is not None
        if sound:
            table.records.append(record)
            table.lines.append(line)

    def read_sound(self, lines: Sequence[int], held: Sequence[Sequence[Cell]]) -> bool:
        """Many rows at once, column by column; False, with nothing kept, unless every one is
        sound."""
        if self._scaled:
            return False
        columns: list[Sequence[Any]] = []
        for i, cells in enumerate(held):
            known = self._known[i]
            if len(known) > MAX_REMEMBERED:
                known.clear()
            try:
                for cell in set(cells):
                    if cell not in known:
                        known[cell] = self._readers[i](cell)
            except BadCell:
                return False
            columns.append([known[cell] for cell in cells])
        columns += [[default] * len(lines) for default in self._defaults.values()]
        self._table.records.extend(columns)
        self._table.lines.extend(lines)
        return True

    def _as_people_write(self, i: int, cell: Cell, bad: BadCell) -> Any:
        """What a text says with what people put around it. Raises BadCell, for what can be read two
        ways too."""
        if str(bad) or not isinstance(cell, str) or not cell.strip():
            raise bad
        found = as_people_write(cell.strip(), self._columns[i], self._dialect)
        if found is None:
            raise BadCell
        return self._readers[i](found)

    def _say(self, line: int, column: Column, text: str, value: object) -> None:
        """That a column is not written as ours are, once; what is marked behind, pence and the
        like, apart."""
        sort = (column.name, text[-1:] if not text[-1:].isdecimal() else "")
        if sort not in self._said:
            self._said.add(sort)
            told = f"{column.expected}; it is read as {value}, and others of its column alike"
            self._table.faults.add(line, column.name, text, told, warning=True)


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
