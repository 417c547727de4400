"""What is made of a table: rows of the product's own tables, each with the cell it came from."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import chain
from operator import itemgetter
from typing import Generic, NamedTuple, TypeVar, overload

import msgspec

from hearth_yield.exchange.exact import product
from hearth_yield.rows import Rows

from .patience import tick

Of = TypeVar("Of")
MOST_SAID = 1000
"""So many rows that are left out, or wrong, are told each for itself; the rest are counted."""


class MadeRow(NamedTuple):
    """place: where in the sheet it stands, as its reader would say it."""

    table: str
    cells: Mapping[str, str]
    place: str


class Spelt(Sequence[str], Generic[Of]):
    """Texts that are made when they are asked for, as few of many are."""

    def __init__(self, of: Sequence[Of], spell: Callable[[Of], str]) -> None:
        self._of, self._spell = of, spell

    def __len__(self) -> int:
        return len(self._of)

    @overload
    def __getitem__(self, at: int) -> str: ...
    @overload
    def __getitem__(self, at: slice) -> Sequence[str]: ...
    def __getitem__(self, at: int | slice) -> str | Sequence[str]:
        if isinstance(at, slice):
            return Spelt(self._of[at], self._spell)
        return self._spell(self._of[at])


class Many(NamedTuple):
    """Rows that all have the same columns, with the place of each."""

    table: str
    cells: Rows
    places: Sequence[str]


@dataclass(slots=True)
class Made:
    """single, many: the rows. notes: what was turned or assumed; left_out: what of the sheet is not
    in it, each with why; wrong: cells that are no value; untold: how many more of either there
    are."""

    single: list[MadeRow] = field(default_factory=list)
    many: list[Many] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    left_out: list[str] = field(default_factory=list)
    wrong: list[str] = field(default_factory=list)
    untold: int = 0

    def add(self, table: str, cells: Mapping[str, str], place: str) -> None:
        self.single.append(MadeRow(table, cells, place))

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
        found = Counter(r.table for r in self.single)
        for part in self.many:
            found[part.table] += len(part.cells)
        return found

    @property
    def columns(self) -> set[str]:
        """Every column in which something was made."""
        return {n for r in self.single for n in r.cells} | {
            n for part in self.many for n in part.cells.names
        }

    @property
    def rows(self) -> list[MadeRow]:
        """All rows, one by one."""
        of_many = (
            MadeRow(part.table, cells, place)
            for part in self.many
            for cells, place in zip(part.cells, part.places, strict=True)
        )
        return [*of_many, *self.single]

    def of(self, table: str) -> list[Many]:
        """The rows of a table, those that were made one by one at the end."""
        found = [p for p in self.many if p.table == table]
        own = [r for r in self.single if r.table == table]
        if own:
            found.append(Many(table, as_texts([r.cells for r in own]), [r.place for r in own]))
        return found


def joined(parts: Sequence[Many]) -> Many:
    """Rows of one table as one; empty where one part lacks what others have."""
    if len(parts) == 1:
        return parts[0]
    names = list(dict.fromkeys(chain.from_iterable(p.cells.names for p in parts)))
    columns: list[list[str]] = [[] for _ in names]
    for part in parts:
        for name, texts in zip(names, columns, strict=True):
            held = name in part.cells.names
            texts.extend(part.cells.column(name) if held else [""] * len(part.cells))
    places = [place for part in parts for place in part.places]
    return Many(parts[0].table, Rows(names, columns), places)


@lru_cache(maxsize=1000)
def owner(key: str) -> Mapping[str, str]:
    """EXCHANGE/SYMBOL as two cells."""
    exchange, _, symbol = key.partition("/")
    return {"exchange": exchange, "symbol": symbol}


def times(value: float, factor: float) -> str:
    """A number in another unit."""
    return plain_number(product(value, factor))


def plain_number(value: float) -> str:
    """Without an exponent, to twelve places."""
    text = repr(value)
    if "e" not in text and len(text) < 16:
        return text.removesuffix(".0") if text != "-0.0" else "0"
    text = f"{value:.12f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text


def plain_numbers(values: Sequence[float]) -> list[str]:
    """The same of many at once: thirty times faster than one by one."""
    text = msgspec.json.encode(values).decode()[1:-1] + ","
    if "e" in text or "n" in text or "-0.0," in text:
        return [plain_number(v) for v in values]
    return text.replace(".0,", ",").split(",")[:-1]


def cell_name(row: int, column: int) -> str:
    """A cell as a spreadsheet names it: B7."""
    return f"{column_name(column)}{row + 1}"


def column_name(column: int) -> str:
    letters, n = "", column
    while n >= 0:
        letters, n = chr(65 + n % 26) + letters, n // 26 - 1
    return letters


def as_texts(rows: Sequence[Mapping[str, str]]) -> Rows:
    """Rows by column; empty where one lacks what others have."""
    shapes = dict.fromkeys(map(tuple, rows))
    names = list(dict.fromkeys(chain.from_iterable(shapes)))
    if len(shapes) == 1:
        return Rows(names, [list(map(itemgetter(name), rows)) for name in names])
    return Rows(names, [[row.get(name, "") for row in rows] for name in names])
