"""Reading one CSV table: cells to values, with every fault found."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from hearth_yield.core.errors import TooLarge

from .columns import UNITS, Column, Format, Type

MAX_ROWS = 2_000_000
MAX_FAULTS = 1000
MAX_CELL = 2000
MAX_REMEMBERED = 100_000
Memo = dict[str, Any]
"""Cells of one column that were read before: symbols, days and prices repeat."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """One thing wrong with a file. A warning does not stop the import."""

    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str
    warning: bool = False


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
    records: list[dict[str, Any]] = field(default_factory=list)
    lines: list[int] = field(default_factory=list)
    units: list[float] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)

    def fault(
        self,
        line: int | None,
        column: str | None,
        value: object,
        expected: str,
        *,
        warning: bool = False,
    ) -> None:
        shown = None if value is None else str(value)[:120]
        self.faults.append(
            Fault(
                file=self.file, line=line, column=column, value=shown, expected=expected,
                warning=warning,
            )
        )  # fmt: skip


class _BadCell(Exception):
    pass


_ISO_DATE = re.compile(r"\d{4}-\d{2}-\d{2}", re.ASCII)
_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?")


def _number_reader(dialect: Dialect) -> Callable[[str], float]:
    """Cells to numbers. A group character must stand between groups of three digits."""
    point, group = dialect.decimal, dialect.group
    groups = group if group is not None else ("," if point == "." else ".")
    grouped = re.compile(
        rf"[+-]?\d{{1,3}}(?:[{re.escape(groups)}\u00a0\u202f ]\d{{3}})+(?:{re.escape(point)}\d*)?"
    )
    strip = str.maketrans("", "", groups + "\u00a0\u202f ")

    def read(cell: str) -> float:
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
        value = float(text)
        if value in (float("inf"), float("-inf")):
            raise _BadCell
        return value

    return read


def rearm(cell: str) -> str:
    """Undoes `writing.disarm`: an apostrophe before what a spreadsheet would run goes."""
    armed = len(cell) > 1 and cell[0] == "'" and cell[1] in "=+-@'\t\r"
    return cell[1:] if armed else cell


def _reader_for(column: Column, dialect: Dialect) -> Callable[[str], Any]:
    number = _number_reader(dialect)

    def checked(cell: str) -> float:
        value = number(cell)
        below = column.low is not None and value < column.low
        above = column.high is not None and value > column.high
        if (column.positive and value <= 0) or below or above:
            raise _BadCell
        return value

    def whole(cell: str) -> int:
        value = checked(cell)
        if value != int(value):
            raise _BadCell
        return int(value)

    def day(cell: str) -> date:
        if not _ISO_DATE.fullmatch(cell):
            raise _BadCell
        try:
            return date.fromisoformat(cell)
        except ValueError:
            raise _BadCell from None

    def choice(cell: str) -> str:
        value = cell.lower()
        if value not in column.choices:
            raise _BadCell
        return value

    def text(cell: str) -> str:
        cell = rearm(cell)
        if len(cell) > MAX_CELL or any(ord(c) < 32 and c not in "\n\t" for c in cell):
            raise _BadCell
        return cell

    def currency(cell: str) -> str:
        if not (len(cell) == 3 and cell.isascii() and cell.isalpha() and cell.isupper()):
            raise _BadCell
        return cell

    return {
        Type.CURRENCY: currency,
        Type.NUMBER: checked, Type.INTEGER: whole, Type.DATE: day, Type.CHOICE: choice,
        Type.TEXT: text,
    }[column.type]  # fmt: skip


def decode(raw: bytes, dialect: Dialect) -> str:
    """Bytes to text; a byte-order mark is dropped. Raises UnicodeDecodeError."""
    encoding = "utf-8-sig" if dialect.encoding.lower().replace("-", "") == "utf8" else None
    return raw.decode(encoding or dialect.encoding)


def delimiter_of(text: str, dialect: Dialect) -> str:
    """The named separator, else the one the header line holds most of."""
    if dialect.delimiter:
        return dialect.delimiter
    header = text.split("\n", 1)[0]
    return max(",;\t|", key=header.count)


def read_table(
    raw: bytes, file: str, recognise: Callable[[frozenset[str]], Format | None], dialect: Dialect
) -> Table | Fault:
    """Read one CSV file whole.

    recognise: picks the format from the header's column names.
    Returns: the table with all its faults, or the one fault that kept it from being read.
    """
    try:
        text = decode(raw, dialect)
    except (UnicodeDecodeError, LookupError):
        return Fault(
            file=file, line=None, column=None, value=None,
            expected=f"text in {dialect.encoding}; name the encoding in the descriptor",
        )  # fmt: skip
    delimiter = delimiter_of(text, dialect)
    if delimiter == ";" and dialect.decimal == "." and dialect.group is None:
        dialect = replace(dialect, group="")  # "1,234" could be either: only a descriptor can say
    rows = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
    try:
        header = [h.strip().lower() for h in next(rows, [])]
    except csv.Error as error:
        return Fault(file=file, line=1, column=None, value=None, expected=f"a header row ({error})")
    format = recognise(frozenset(header))
    if format is None:
        return Fault(
            file=file, line=1, column=None, value=", ".join(header)[:120] or None,
            expected="the columns of a known table; see docs/data-formats.md",
        )  # fmt: skip
    table = Table(format=format, file=file)
    if _check_header(table, header):
        _read_rows(table, header, rows, dialect)
    return table


def _check_header(table: Table, header: list[str]) -> bool:
    known = table.format.by_name
    for name in sorted(table.format.required - set(header)):
        table.fault(1, name, None, "this column, which the table needs")
    for i, name in enumerate(header):
        if name not in known:
            table.fault(
                1,
                name or f"column {i + 1}",
                name,
                "a column of the " + table.format.name + " table",
            )
        elif name in header[:i]:
            table.fault(1, name, name, "each column once")
    return not table.faults


TYPED = "typed in"
MAX_TYPED = 2000


def read_cells(format: Format, rows: Sequence[Mapping[str, str]], dialect: Dialect) -> Table:
    """Rows typed by a person: cells by column name. Raises TooLarge."""
    if len(rows) > MAX_TYPED:
        raise TooLarge(
            "too many rows to type", field="rows", value=len(rows),
            rule=f"at most {MAX_TYPED}; a file takes more",
        )  # fmt: skip
    table = Table(format=format, file=TYPED)
    header = list(dict.fromkeys(name for row in rows for name in row))
    missing = format.required - set(header)
    if _check_header(table, [*header, *sorted(missing)]):
        names = [*header, *sorted(missing)]
        columns = [format.by_name[n] for n in names]
        readers = [_reader_for(c, dialect) for c in columns]
        memos: list[Memo] = [{} for _ in columns]
        defaults = {c.name: c.default for c in format.columns if c.default and c.name not in names}
        for line, row in enumerate(rows, 1):
            cells = [row.get(n, "") for n in names]
            record = _read_row(table, line, cells, columns, readers, memos, dialect)
            if record is not None:
                table.records.append(defaults | record)
                table.lines.append(line)
    return table


def _read_rows(
    table: Table, header: list[str], rows: Iterator[list[str]], dialect: Dialect
) -> None:
    columns = [table.format.by_name[name] for name in header]
    readers = [_reader_for(c, dialect) for c in columns]
    memos: list[Memo] = [{} for _ in columns]
    defaults = {
        c.name: c.default for c in table.format.columns if c.default and c.name not in header
    }
    reader: Any = rows
    try:
        for cells in rows:
            line = reader.line_num
            if not any(cells):
                continue
            if len(table.records) >= MAX_ROWS:
                raise TooLarge(
                    "too many rows",
                    field=table.file,
                    value=len(table.records),
                    rule=f"at most {MAX_ROWS:,} rows",
                )
            if len(cells) != len(columns):
                table.fault(
                    line, None, f"{len(cells)} cells", f"{len(columns)} cells, as in line 1"
                )
                continue
            record = _read_row(table, line, cells, columns, readers, memos, dialect)
            if record is not None:
                table.records.append(defaults | record if defaults else record)
                table.lines.append(line)
            if len(table.faults) >= MAX_FAULTS:
                table.fault(line, None, None, f"fewer than {MAX_FAULTS} faults; the rest is unread")
                return
    except csv.Error as error:
        table.fault(reader.line_num, None, None, f"well-formed CSV ({error})")


def _read_row(
    table: Table,
    line: int,
    cells: list[str],
    columns: list[Column],
    readers: list[Callable[[str], Any]],
    memos: list[Memo],
    dialect: Dialect,
) -> dict[str, Any] | None:
    record: dict[str, Any] = {}
    sound = True
    for cell, column, read, known in zip(cells, columns, readers, memos, strict=False):
        if cell in known:
            record[column.name] = known[cell]
            continue
        text = cell.strip()
        if text in dialect.missing:
            if column.required and column.default is None:
                table.fault(line, column.name, "", column.expected)
                sound = False
            record[column.name] = column.default
            continue
        try:
            value = record[column.name] = read(text)
        except _BadCell:
            table.fault(line, column.name, text, column.expected)
            sound = False
            continue
        if len(known) < MAX_REMEMBERED:
            known[cell] = value
    if table.format.name == "statements":
        unit = _scale(table, line, record, dialect)
        if sound and unit is not None:
            table.units.append(unit)
        sound &= unit is not None
    return record if sound else None


def _scale(table: Table, line: int, record: dict[str, Any], dialect: Dialect) -> float | None:
    """Money lines into single units of currency; the file must name its unit."""
    unit = record.pop("unit", None) or dialect.unit
    if unit not in UNITS:
        table.fault(line, "unit", unit or "", "the unit amounts are in: 1, thousand or million")
        return None
    factor = UNITS[unit]
    for column in table.format.columns:
        if column.scaled and record.get(column.name) is not None:
            record[column.name] *= factor
    return factor
