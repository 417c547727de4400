"""A sheet that is written from top to bottom, and how its cells look."""

from __future__ import annotations

import io
from dataclasses import dataclass, field
from typing import Any

import xlsxwriter
from xlsxwriter.utility import xl_rowcol_to_cell

from hearth_yield.core.figures.figure import Unit

from .cells import Cell

FORMATS = {
    Unit.FRACTION: "0.00%",
    Unit.YIELD: "0.00%",
    Unit.MULTIPLE: '0.00"×"',
    Unit.PER_SHARE: "#,##0.00",
    Unit.MONEY: "#,##0",
    Unit.SHARES: "#,##0",
    Unit.YEARS: "0",
    Unit.COUNT: "0.00",
}
LONGEST_NAME = 31
FORBIDDEN = "[]:*?/\\'"


@dataclass(slots=True)
class Book:
    """A workbook in memory; `done` closes it and gives its bytes."""

    stream: io.BytesIO = field(default_factory=io.BytesIO)
    book: Any = None
    looks: dict[tuple[str, ...], Any] = field(default_factory=dict)
    names: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        self.book = xlsxwriter.Workbook(
            self.stream, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False}
        )

    def look(self, *ways: str) -> Any:
        """A format of several ways: "0.00%" and such, or bold, muted, yours, top."""
        if ways not in self.looks:
            known: dict[str, dict[str, Any]] = {
                "bold": {"bold": True},
                "title": {"bold": True, "font_size": 14},
                "muted": {"font_color": "#6b6459"},
                "yours": {"font_color": "#2f4a6d", "bg_color": "#eef2f6", "border": 1},
                "top": {"top": 1},
                "wrap": {"text_wrap": True, "valign": "top"},
                "right": {"align": "right"},
            }
            made: dict[str, Any] = {}
            for way in ways:
                made |= known.get(way) or {"num_format": way}
            self.looks[ways] = self.book.add_format(made)
        return self.looks[ways]

    def sheet(self, name: str) -> Paper:
        plain = "".join(c for c in name if c not in FORBIDDEN).strip() or "Sheet"
        short, n = plain[:LONGEST_NAME], 2
        while short.lower() in self.names:
            short, n = f"{plain[: LONGEST_NAME - 3]} {n}", n + 1
        self.names.add(short.lower())
        sheet = self.book.add_worksheet(short)
        sheet.hide_gridlines(2)
        return Paper(self, sheet, short)

    def done(self) -> bytes:
        self.book.close()
        return self.stream.getvalue()


@dataclass(slots=True)
class Paper:
    """One sheet. Text is always written as text, so that a name that looks like a formula stays a
    name; a formula has no stored value, so that whoever opens it computes it."""

    book: Book
    sheet: Any
    name: str

    def text(self, row: int, col: int, text: str, *ways: str) -> None:
        self.sheet.write_string(row, col, text, self.book.look(*ways) if ways else None)

    def number(self, row: int, col: int, value: float, unit: Unit, *ways: str) -> Cell:
        self.sheet.write_number(row, col, value, self.book.look(FORMATS.get(unit, "0.00"), *ways))
        return Cell(self.at(row, col), value)

    def formula(self, row: int, col: int, held: Cell, unit: Unit, *ways: str) -> Cell:
        """Written out; hands back the cell it stands in."""
        look = self.book.look(FORMATS.get(unit, "0.00"), *ways)
        self.sheet.write_formula(row, col, f"={held.text}", look, "")
        return Cell(self.at(row, col), held.value)

    def at(self, row: int, col: int) -> str:
        return f"'{self.name}'!{xl_rowcol_to_cell(row, col, row_abs=True, col_abs=True)}"
