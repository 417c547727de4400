"""Whose a table is, as far as what stands around it tells: tables one beneath the other are of one
payer, or each of its own."""

from __future__ import annotations

import re
from collections.abc import Sequence

from .headings import meaning, plain
from .numbers import bare
from .sheets import Cell, Sheet
from .table import Found
from .units import unit_of

LOOKED_UP = 8
"""So many rows above its headings speak for a table."""
_PARTS = re.compile(r"[,;:(|]|\s[–—-]\s")
_PLAIN_SHEET = re.compile(
    r"(?:sheet|tabelle|feuil|hoja|foglio|blad|table|data|export|pasted|typed)\s*\d*", re.IGNORECASE
)
_SECTION = re.compile(
    r"\b(?:income|balance|cash|statements?|profit|loss|position|flows?|results?|dividends?|prices?"
    r"|quotes?|history|quarter\w*|annual|half|summary|ratios?|per share|consolidated|financial\w*"
    r"|key figures|segment\w*|estimates?|bilanz|guv|gewinn|kapitalfluss\w*|ergebnis|kurse"
    r"|dividenden|résultats?|flux|bilan|cours|cuentas?|flujos?|resultados?|conto|stato|rendiconto"
    r"|prezzi|balans|resultaten|kasstroom)\b",
    re.IGNORECASE,
)
"""What a heading of a part of one payer's figures says."""


def first_above(found: Found, before: Found | None) -> int:
    """The first of the rows that speak for a table: after the last figures of the one above."""
    first = max(0, found.head - LOOKED_UP)
    if before is None:
        return first
    rows = found.sheet.rows
    figures = (n for n in range(found.head - 1, first - 1, -1) if any(map(_is_number, rows[n])))
    return max(first, next(figures, before.head) + 1)


def _is_number(cell: Cell) -> bool:
    return isinstance(cell, float) or (isinstance(cell, str) and bare(cell) is not None)


def is_another(found: Found, before: Found, title: str) -> bool:
    """Whether a table beneath another is of another payer: it has a title of its own, and tells
    the same of the same periods, or is a list of the same sort."""
    if not title or found.kind != before.kind or found.lie != before.lie:
        return False
    section = _SECTION.search(title) is not None
    if not found.across:
        return not section
    periods = set(_heads(found.sheet, found.head)) & set(_heads(before.sheet, before.head))
    mine, its = ({x.target for x in f.lines if x.target} for f in (found, before))
    shared = len(mine & its) if periods else 0
    return shared > len(mine) / 2 if section else shared > 0


def _heads(sheet: Sheet, row: int) -> Sequence[str]:
    return [str(c) for c in sheet.rows[row][1:] if c is not None]


def title_of(lines: Sequence[str]) -> str:
    """What of the texts above a table may be a title; empty where nothing is."""
    for line in lines:
        if name := _name_in(_PARTS.split(line.strip())[0].strip()):
            return name
    return ""


def name_guess(found: Found, above: Sequence[str], stem: str) -> str:
    """What a payer may be called: by what stands above, the sheet, or the file."""
    title = title_of(above)
    named = [title] if title and not _SECTION.search(title) else []
    names = (_name_in(text) for text in (*named, found.sheet.name, title, stem))
    return next((n for n in names if n), "")


def _name_in(text: str) -> str:
    folded = plain(text)
    named = len(folded) > 1 and not _PLAIN_SHEET.fullmatch(folded) and not unit_of(text)
    if not named or any(meaning(k, text) for k in ("statements", "prices", "dividends")):
        return ""
    return text[:120]
