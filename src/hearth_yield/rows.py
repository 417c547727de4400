"""Rows held by column: many rows of one table in the room that a list for each column takes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from itertools import repeat
from typing import Any, overload

Row = Mapping[str, Any]


class Rows(Sequence[Row]):
    """Rows that all have the same names. Each is made as a dict when it is asked for, so a change
    to one changes nothing here."""

    def __init__(self, names: Sequence[str], columns: Sequence[list[Any]] | None = None) -> None:
        """columns: one list for each name, all of one length; none: no rows yet."""
        self._columns = dict(zip(names, columns or [[] for _ in names], strict=True))

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(self._columns)

    def column(self, name: str) -> list[Any]:
        return self._columns[name]

    def append(self, row: Row) -> None:
        """row: names as here. Raises KeyError."""
        cells = [row[name] for name in self._columns]
        for values, cell in zip(self._columns.values(), cells, strict=True):
            values.append(cell)

    def add(self, row: Row) -> None:
        """A row that may have other names: what one lacks is None in it."""
        columns = self._columns
        if len(row) != len(columns) or row.keys() != columns.keys():
            before = len(self)
            columns |= {n: [None] * before for n in row if n not in columns}
        for name, values in columns.items():
            values.append(row.get(name))

    def join(self, other: Rows) -> None:
        """Rows that may have other names: what they lack is None in them."""
        before, more = len(self), len(other)
        self._columns |= {n: [None] * before for n in other.names if n not in self._columns}
        for name, values in self._columns.items():
            values.extend(other.column(name) if name in other.names else [None] * more)

    def extend(self, columns: Sequence[Sequence[Any]]) -> None:
        """Add rows as columns, in the order of the names."""
        for values, more in zip(self._columns.values(), columns, strict=True):
            values.extend(more)

    def __len__(self) -> int:
        return len(next(iter(self._columns.values()), ()))

    def __iter__(self) -> Iterator[Row]:
        rows = zip(*self._columns.values(), strict=True)
        return map(dict, map(zip, repeat(self.names), rows))

    @overload
    def __getitem__(self, at: int) -> Row: ...
    @overload
    def __getitem__(self, at: slice) -> Rows: ...
    def __getitem__(self, at: int | slice) -> Row | Rows:
        if isinstance(at, slice):
            return Rows(self.names, [values[at] for values in self._columns.values()])
        return {name: values[at] for name, values in self._columns.items()}


def names_of(rows: Sequence[Row]) -> Sequence[str]:
    """Every name that some row has."""
    if isinstance(rows, Rows):
        return rows.names
    return list(dict.fromkeys(name for row in rows for name in row))


def column_of(rows: Sequence[Row], name: str) -> Sequence[Any]:
    """One value of each row; None where it has no such name."""
    if isinstance(rows, Rows):
        return rows.column(name) if name in rows.names else [None] * len(rows)
    return [row.get(name) for row in rows]


def keys_of(rows: Sequence[Row], names: Sequence[str]) -> Iterator[tuple[Any, ...]]:
    """Some values of each row together."""
    return zip(*(column_of(rows, name) for name in names), strict=True)
