"""Months as statistics and sheets lay them out: a year to a row and a month to a column, or the
other way about, or a column for each of the two."""

from __future__ import annotations

import calendar
import re
from collections.abc import Sequence
from datetime import date
from typing import NamedTuple

from .dates import months
from .headings import plain
from .sheets import Cell, Sheet

LEAST = 6
"""So many months side by side make a table of them."""
_YEAR = re.compile(r"(1[89]|2[01])\d\d")
YEARS = frozenset(("year", "jahr", "année", "annee", "año", "anno", "jaar", "år", "ano", "rok"))
"""Headings of a column of years beside one of months."""


class OfMonth(NamedTuple):
    """A cell that holds the value of a month, which ends on a day."""

    row: int
    column: int
    end: date


def year_of(cell: Cell) -> int | None:
    """A cell that is a year and nothing else."""
    text = f"{cell:.0f}" if isinstance(cell, float) and cell == int(cell) else cell
    return int(text) if isinstance(text, str) and _YEAR.fullmatch(text) else None


def month_of(cell: Cell) -> int | None:
    """A cell that is the name or the number of a month and nothing else."""
    if isinstance(cell, float):
        return int(cell) if cell in range(1, 13) else None
    if not isinstance(cell, str):
        return None
    if cell.isdecimal() and len(cell) <= 2:
        return int(cell) if 1 <= int(cell) <= 12 else None
    return months().get(cell.lower().rstrip("."))


def end_of(year: int, month: int) -> date:
    return date(year, month, calendar.monthrange(year, month)[1])


def grid_of(sheet: Sheet, head: int, rows: range) -> Sequence[OfMonth]:
    """The months of a table whose headings are months and whose rows are years, or the other way
    about; none where it is neither."""
    heads = sheet.rows[head]
    across = {at: m for at, c in enumerate(heads) if at and (m := _named(c))}
    if len(across) >= LEAST:
        years = {n: y for n in rows if sheet.rows[n] and (y := year_of(sheet.rows[n][0]))}
        return [OfMonth(n, at, end_of(y, m)) for n, y in years.items() for at, m in across.items()]
    titles = {at: y for at, c in enumerate(heads) if at and (y := year_of(c))}
    if not titles:
        return []
    down = {n: m for n in rows if sheet.rows[n] and (m := _named(sheet.rows[n][0]))}
    if len(down) < LEAST:
        return []
    return [OfMonth(n, at, end_of(y, m)) for at, y in titles.items() for n, m in down.items()]


def _named(cell: Cell) -> int | None:
    return month_of(cell) if isinstance(cell, str) and not cell.isdecimal() else None


def is_of_years(heading: str) -> bool:
    return plain(heading) in YEARS
