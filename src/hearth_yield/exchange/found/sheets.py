"""A sheet: what a file of any common tabular sort is, once it is read."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from itertools import chain

Cell = str | float | date | None


@dataclass(frozen=True, slots=True)
class Sheet:
    """rows: cells as they are held; a text is stripped, and an empty one is None."""

    file: str
    name: str
    rows: list[list[Cell]]
    hidden: bool = False
    _distinct: dict[range, list[str]] = field(
        default_factory=dict, init=False, repr=False, compare=False
    )
    _columns: dict[tuple[int, range], list[Cell]] = field(
        default_factory=dict, init=False, repr=False, compare=False
    )

    def texts(self, row: int) -> list[str]:
        """The cells of a row that are one."""
        return [c for c in self.rows[row] if type(c) is str]

    def distinct(self, rows: range) -> list[str]:
        """The texts of some rows, each once, in the order in which they stand."""
        if rows not in self._distinct:
            cells = dict.fromkeys(chain.from_iterable(self.rows[rows.start : rows.stop]))
            self._distinct[rows] = [c for c in cells if type(c) is str]
        return self._distinct[rows]

    def column(self, at: int, rows: range) -> list[Cell]:
        """One cell of each of some rows; None where a row ends before it."""
        if (at, rows) not in self._columns:
            some = self.rows[rows.start : rows.stop]
            whole = min(map(len, some), default=0) > at
            self._columns[at, rows] = (
                [row[at] for row in some]
                if whole
                else [row[at] if at < len(row) else None for row in some]
            )
        return self._columns[at, rows]

    @property
    def width(self) -> int:
        return max((len(r) for r in self.rows), default=0)
