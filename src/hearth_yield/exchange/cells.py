"""What a cell says of its column: a text is read, a number or a day is taken as it is, and either
is held against the column."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from hearth_yield.core.facts.columns import FIRST_DAY, LAST_DAY, Column, Type
from hearth_yield.core.facts.isin import is_isin
from hearth_yield.texts import is_plain

from .found.dates import Order, date_of, order_of
from .found.numbers import Style, exact_of, number_of, style_of

Cell = str | float | Decimal | date | None
"""A text as it was written, or a value that was read already."""
MAX_CELL = 2000
MOST_DIGITS = 60
"""Of an exact number; none is longer."""
BEYOND = 1e300
"""No number of a column is as large, whatever stands in a file."""
NUMBERS = (Type.NUMBER, Type.EXACT, Type.INTEGER)
_ISO_DATE = re.compile(r"\d{4}-\d{2}-\d{2}", re.ASCII)
_NUMBER = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?")


@dataclass(frozen=True, slots=True, kw_only=True)
class Dialect:
    """How a file writes its cells; None means: find out, or the plain form."""

    delimiter: str | None = None
    decimal: str = "."
    group: str | None = None
    missing: frozenset[str] = frozenset({""})
    unit: str | None = None
    encoding: str = "utf-8"


class BadCell(Exception):
    """Carries what was expected, where that is not what the column says."""


def reader_of(column: Column, dialect: Dialect) -> Callable[[Cell], Any]:
    """Cells of a column as its values; what is empty is its default. The reader raises BadCell."""
    of_text, checked = _text_reader(column, dialect), _check_of(column)

    def read(cell: Cell) -> Any:
        if isinstance(cell, str):
            text = cell.strip()
            if text not in dialect.missing:
                return of_text(text)
        elif cell is not None:
            return checked(cell) if column.type in TYPED else of_text(spelt(cell))
        if column.required and column.default is None:
            raise BadCell
        return column.default

    return read


def spelt(cell: Cell) -> str:
    """A value as the shortest text that reads back to the same, without an exponent."""
    match cell:
        case None:
            return ""
        case str():
            return cell.strip()
        case date():
            return cell.isoformat()
        case Decimal():
            return format(cell, "f")
    text = repr(cell)
    if "e" in text:
        text = format(Decimal(text), "f")
    return text.removesuffix(".0") if text != "-0.0" else "0"


def _text_reader(column: Column, dialect: Dialect) -> Callable[[str], Any]:
    """What a text says that is not empty."""
    if column.type in NUMBERS:
        return _number_reader(column, dialect)

    def choice(cell: str) -> str:
        value = cell.lower()
        if value not in column.choices:
            raise BadCell
        return value

    def text(cell: str) -> str:
        cell = rearm(cell)
        if len(cell) > MAX_CELL or not is_plain(cell) or not column.fits(cell):
            raise BadCell
        return cell

    return {
        Type.CURRENCY: _currency,
        Type.ISIN: _isin,
        Type.DATE: _iso_day,
        Type.CHOICE: choice,
        Type.TEXT: text,
    }[column.type]


def _number_reader(column: Column, dialect: Dialect) -> Callable[[str], float | Decimal]:
    """Cells to numbers, digit by digit. A group character must stand between groups of three
    digits."""
    checked, exact = _check_of(column), column.type is Type.EXACT
    point, group = dialect.decimal, dialect.group
    groups = group if group is not None else ("," if point == "." else ".")
    grouped = re.compile(
        rf"[+-]?\d{{1,3}}(?:[{re.escape(groups)}\u00a0\u202f ]\d{{3}})+(?:{re.escape(point)}\d*)?"
    )
    strip = str.maketrans("", "", groups + "\u00a0\u202f ")

    def read(cell: str) -> float | Decimal:
        text = cell.replace("\u2212", "-")
        if text.startswith("(") and text.endswith(")"):
            text = f"-{text[1:-1]}"  # an accountant's minus
        if not _NUMBER.fullmatch(text) or (point != "." and "." in text):
            if grouped.fullmatch(text):
                text = text.translate(strip)
            if point != ".":
                text = text.replace(".", "x").replace(point, ".")
            if not _NUMBER.fullmatch(text):
                raise BadCell
        if exact and len(cell) > MOST_DIGITS:
            raise BadCell
        value: float | Decimal = checked(Decimal(text) if exact else float(text))
        return value

    return read


def _check_of(column: Column) -> Callable[[Any], Any]:
    """A value as the column holds it, where it may stand there."""

    def number(cell: Any) -> Any:
        if not isinstance(cell, int | float) or not -BEYOND < cell < BEYOND:
            raise BadCell
        value = float(cell) + 0.0  # no minus before a nought
        _allow(column, value)
        return value

    def exact(cell: Any) -> Any:
        """No binary float on the way of a text; a number has the digits that it is shown with."""
        if not isinstance(cell, int | float | Decimal) or not -BEYOND < cell < BEYOND:
            raise BadCell
        value = cell if isinstance(cell, Decimal) else Decimal(repr(cell))
        _allow(column, value)
        return value

    def whole(cell: Any) -> Any:
        value = number(cell)
        if value != int(value):
            raise BadCell
        return int(value)

    if column.type is Type.DATE:
        return _day
    return {Type.EXACT: exact, Type.INTEGER: whole}.get(column.type, number)


def _allow(column: Column, value: float | Decimal) -> None:
    refused = column.refuses(value)
    if refused is not None:
        raise BadCell(refused)


TYPED = (*NUMBERS, Type.DATE)
"""Columns that take a value as it is; for the others it is spelt."""


def _iso_day(cell: str) -> date:
    if not _ISO_DATE.fullmatch(cell):
        raise BadCell
    try:
        return _day(date.fromisoformat(cell))
    except ValueError:
        raise BadCell from None


def _day(cell: Any) -> date:
    if not isinstance(cell, date):
        raise BadCell
    if not FIRST_DAY <= cell <= LAST_DAY:
        raise BadCell(f"a date from {FIRST_DAY.year} to {LAST_DAY.year}")
    return cell


def _currency(cell: str) -> str:
    if not (len(cell) == 3 and cell.isascii() and cell.isalpha() and cell.isupper()):
        raise BadCell
    return cell


def _isin(cell: str) -> str:
    told = cell.upper()
    if not is_isin(told):
        raise BadCell
    return told


def rearm(cell: str) -> str:
    """Undoes `writing.disarm`: an apostrophe before what a spreadsheet would run goes."""
    armed = len(cell) > 1 and cell[0] == "'" and cell[1] in "=+-@'\t\r"
    return cell[1:] if armed else cell


def as_people_write(text: str, column: Column, dialect: Dialect) -> Cell:
    """A number or a day with what people put around one: €12.50, 1'000, 45 %, 30.06.2026; None for
    what is neither, and for what can be read two ways."""
    if column.type is Type.DATE and not order_of([text]).asked:
        return date_of(text, Order(day_first=True))
    if column.type in NUMBERS:
        read = exact_of if column.type is Type.EXACT else number_of
        style = style_of([text])
        if not style.asked:
            return read(text, style)
        if dialect.group is None:
            return read(text, Style(dialect.decimal))
    return None
