"""Sheets that are tables of the product's own: as it exports them, and as they come back."""

from __future__ import annotations

from datetime import date

from hearth_yield.core.facts.columns import Type
from hearth_yield.exchange.columns import Format, recognise
from hearth_yield.exchange.writing import disarm

from .made import Made
from .sheets import Cell, Sheet


def own_table(sheet: Sheet) -> Made | None:
    """The rows of a sheet whose first row holds the columns of one of the product's tables, and
    nothing else; None for any other."""
    if not sheet.rows:
        return None
    header = [str(c).strip().lower() if c is not None else "" for c in sheet.rows[0]]
    while header and not header[-1]:
        header.pop()
    format = recognise("", frozenset(header))
    if format is None or not set(header) <= set(format.by_name) or len(set(header)) < len(header):
        return None
    made = Made()
    for n, row in enumerate(sheet.rows[1:], 2):
        cells = {
            name: text
            for name, cell in zip(header, row, strict=False)
            if (text := _text(format, name, cell))
        }
        if cells:
            made.add(format.name, dict.fromkeys(header, "") | cells, f"row {n}")
    return made


def _text(format: Format, name: str, cell: Cell) -> str:
    """A cell as a file of the product's own has it: numbers in the shortest form that reads back
    to the same."""
    match cell:
        case None:
            return ""
        case date():
            return cell.isoformat()
        case float():
            return str(int(cell)) if cell.is_integer() and abs(cell) < 1e15 else repr(cell)
    return disarm(cell) if format.by_name[name].type is Type.TEXT else cell
