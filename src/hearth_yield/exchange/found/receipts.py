"""Receipts: papers each of which stands for several shares, or for part of one. What is told a
share and what is told a receipt are never mixed in silence."""

from __future__ import annotations

import re
from collections.abc import Iterable

from .numbers import Style, number_of
from .sheets import Cell

COLUMN = "shares_per_receipt"
OPTIONS = (
    ("divided", "For a receipt, and the record is by the share: divide them"),
    ("times", "For a share, and the record is by the receipt: multiply them"),
    ("as told", "For what the record is by: leave them"),
)
_RATIO = re.compile(r"(\d{1,6}(?:\.\d{1,6})?)\s?[:/]\s?(\d{1,6}(?:\.\d{1,6})?)", re.ASCII)
_RECEIPT = r"\b(?:ADRs?|ADSs?|GDRs?|CDIs?|BDRs?|[Rr]eceipts?)\b"
_STANDS_FOR = re.compile(
    rf"{_RECEIPT}[^\d\n]{{1,40}}(\d{{1,4}}(?:\.\d{{1,4}})?) (?:[\w-]{{1,20}} ){{0,2}}[Ss]hares?\b"
)


def shares_of(cell: Cell, style: Style) -> float | None:
    """How many shares a receipt stands for: 4, 0.5, "4:1" and "1:4", where one side is one
    receipt and the other its shares; None for anything else."""
    if isinstance(cell, float):
        return cell if cell > 0 else None
    text = cell if isinstance(cell, str) else ""
    if ratio := _RATIO.fullmatch(text):
        sides = sorted(map(float, ratio.groups()))
        return sides[1] if sides[0] == 1 else None
    value = number_of(text, style)
    return value if value and value > 0 else None


def said_above(text: str) -> float | None:
    """ "each ADS represents 4 ordinary shares": 4."""
    told = {float(x) for x in _STANDS_FOR.findall(text)} - {0.0}
    return told.pop() if len(told) == 1 else None


def spelt(each: Iterable[float]) -> str:
    """What receipts stand for, for a question."""
    counts = sorted(set(each))
    told = f"{counts[0]:g}" if len(counts) == 1 else f"{counts[0]:g} to {counts[-1]:g}"
    return f"{told} share{'' if counts == [1] else 's'}"
