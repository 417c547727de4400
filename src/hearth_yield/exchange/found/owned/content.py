"""Columns of a list of what a person owns that are known by what stands in them: days, and kinds of
entries."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import replace

from hearth_yield.core.household.kinds import KINDS

from ..dates import date_of
from ..sheets import Cell
from ..table import Found, text_of
from ..units import currencies_of, currency_code
from .words import kind_called

SAMPLE = 200
MOST = 0.8
"""So large a part of what stands in a column must be of a sort for it to be of that sort."""
_DAYS = {"day", "pay_day", "settle_day"}


def aim_by_content(found: Found) -> None:
    """A column of days where no heading says which is, or only that of settlement; a column of
    kinds where none is known. Taken by likeness, and said so."""
    targets = {x.target for x in found.lines}
    if not targets & (_DAYS - {"settle_day"}):
        _aim(found, "day", lambda c: date_of(c, found.order) is not None)
    if "kind" not in targets:
        _aim(found, "kind", _is_kind)


def _is_kind(cell: Cell) -> bool:
    called = kind_called(text_of(cell)) if isinstance(cell, str) else None
    return called is not None and called.kind in KINDS


def _aim(found: Found, target: str, fits: Callable[[Cell], bool]) -> None:
    named = set(found.columns_of.values())
    for n, line in enumerate(found.lines):
        if line.target is None and line.sure and line.place not in named:
            some = _some(found, line.place)
            if len(some) > 1 and sum(map(fits, some)) >= MOST * len(some):
                found.lines[n] = replace(line, target=target, sure=False)
                return


def _some(found: Found, place: int) -> Sequence[Cell]:
    cells = found.sheet.column(place, found.rows)[:SAMPLE]
    return [c for c in cells if c is not None]


def aim_at_settled(found: Found, known: Collection[str]) -> None:
    """An amount whose heading names a currency, beside a column of others, is what was settled in
    the account's own: "Currency" and "Amount (TLL)". known: currencies of payers."""
    column = next((x.place for x in found.lines if x.target == "currency"), None)
    if column is None:
        return
    cells = dict.fromkeys(found.sheet.column(column, found.rows))
    codes = {code[0] for c in cells if (code := currency_code(c)) is not None}
    for n, line in enumerate(found.lines):
        named = currencies_of(line.heading, known) - {"$"}
        if line.target in ("amount", "net") and len(named) == 1 and codes - named:
            found.lines[n] = replace(line, target="settled")
            found.settled_in = named.pop()
