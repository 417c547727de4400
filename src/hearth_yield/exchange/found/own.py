"""Sheets that are tables of the product's own: as it exports them, and as they come back."""

from __future__ import annotations

from hearth_yield.core.facts.columns import Type
from hearth_yield.exchange.columns import recognise
from hearth_yield.exchange.writing import disarm

from .made import InSheet, Made
from .sheets import Sheet


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
    texts = {c.name for c in format.columns if c.type is Type.TEXT}
    made = Made(InSheet({name: at for at, name in enumerate(header)}))
    for n, row in enumerate(sheet.rows[1:], 2):
        held = {
            name: disarm(cell) if isinstance(cell, str) and name in texts else cell
            for name, cell in zip(header, row, strict=False)
        }
        if any(cell is not None for cell in held.values()):
            made.add(format.name, held, n - 1)
    return made
