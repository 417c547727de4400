"""What is made of a table: rows of the product's own tables, each with the cell it came from."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

from hearth_yield.exchange.cells import Cell
from hearth_yield.exchange.table import MadeTable, Origin, Place, Spelling
from hearth_yield.rows import Rows

from .patience import tick

MOST_SAID = 1000
"""So many rows that are left out, or wrong, are told each for itself; the rest are counted."""


@dataclass(frozen=True, slots=True)
class InSheet:
    """Says the places of a sheet. across: what is made is a column of it, and what it is made of
    the rows; cells: those columns, or rows, by the column they fill."""

    cells: Mapping[str, int] = field(default_factory=dict)
    across: bool = False

    def __call__(self, place: Place, column: str | None = None, /) -> str:
        if isinstance(place, str):
            return place
        if isinstance(place, tuple):
            return f"cell {cell_name(*place)}"
        other = self.cells.get(column or "")
        if other is not None:
            return f"cell {cell_name(other, place) if self.across else cell_name(place, other)}"
        return f"column {column_name(place)}" if self.across else f"row {place + 1}"


@dataclass(frozen=True, slots=True)
class _InFile:
    """Places in a sheet as places in a file."""

    where: str
    spell: Spelling

    def __call__(self, place: Place, column: str | None = None, /) -> str:
        return f"{self.where}, {self.spell(place, column)}"


@dataclass(slots=True)
class Made:
    """tables: the rows, by table; spell: says where each came from. notes: what was turned or
    assumed; left_out: what of the sheet is not in it, each with why; wrong: cells that are no
    value; untold: how many more of either there are."""

    spell: InSheet = field(default_factory=InSheet)
    tables: dict[str, MadeTable] = field(default_factory=dict)
    notes: list[str] = field(default_factory=list)
    left_out: list[str] = field(default_factory=list)
    wrong: list[str] = field(default_factory=list)
    untold: int = 0

    def add(self, table: str, row: Mapping[str, Cell], place: Place) -> None:
        self.tables.setdefault(table, MadeTable(table)).add(row, place, self.spell)

    def add_many(self, table: str, rows: Rows, places: Sequence[int]) -> None:
        held = self.tables.setdefault(table, MadeTable(table))
        held.take(rows, [Origin(places, self.spell)])

    def leave(self, words: str) -> None:
        self._say(self.left_out, words)

    def refuse(self, words: str) -> None:
        self._say(self.wrong, words)

    def _say(self, to: list[str], words: str) -> None:
        tick()
        if len(to) < MOST_SAID:
            to.append(words)
        else:
            self.untold += 1

    @property
    def counts(self) -> Mapping[str, int]:
        """How many rows there are of each table."""
        return {name: len(made.rows) for name, made in self.tables.items()}

    @property
    def columns(self) -> set[str]:
        """Every column in which something was made."""
        return {n for made in self.tables.values() for n in made.rows.names}


def in_file(where: str, origins: Sequence[Origin]) -> list[Origin]:
    """Places in a sheet as places in a file."""
    return [Origin(o.places, _InFile(where, o.spell)) for o in origins]


@lru_cache(maxsize=1000)
def owner(key: str) -> Mapping[str, str]:
    """EXCHANGE/SYMBOL as two cells."""
    exchange, _, symbol = key.partition("/")
    return {"exchange": exchange, "symbol": symbol}


def cell_name(row: int, column: int) -> str:
    """A cell as a spreadsheet names it: B7."""
    return f"{column_name(column)}{row + 1}"


def column_name(column: int) -> str:
    letters, n = "", column
    while n >= 0:
        letters, n = chr(65 + n % 26) + letters, n // 26 - 1
    return letters
