"""Payers that a table names row by row or column by column, and the product does not hold: they
are added, or what is theirs is left out, as the person says."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Mapping, Sequence

from .headings import plain
from .patience import tick
from .payers import Known, Payers
from .sheets import Cell
from .table import Found, text_of
from .tables import TICKER

NAMED, LONGEST_SYMBOL = 5, 12
_BRACKETS = re.compile(r"[(\[][^()\[\]]*[)\]]$")

Key = Cell | tuple[Cell, ...]
COLUMNS = ("symbol", "exchange", "name", "isin")
Told = tuple[str, str, str]
"""Symbol, exchange and name, as far as they stand there; an ISIN stands for a symbol."""


def told_of(found: Found, payers: Payers) -> Mapping[Told, bool]:
    """The payers that a table names, each once, with whether it is held."""
    if found.lie == "wide":
        names = [x.heading for x in found.lines[1:]]
        return {("", "", name): payers.named(name) is not None for name in names}
    named = {"symbol", "name", "isin"} & set(found.columns_of)
    if found.payer or found.kind in ("payers", "series") or not named:
        return {}
    all_told = dict.fromkeys(map(told_by(found), dict.fromkeys(keys_of(found))))
    return {t: _is_held(payers, t) for t in all_told if t[0] or t[2]}


def _is_held(payers: Payers, told: Told) -> bool:
    tick()
    return payers.told(*told) is not None


def keys_of(found: Found) -> Sequence[Key]:
    """The cells of each row that name its payer, as they stand."""
    columns = [
        found.sheet.column(at, found.rows)
        for c in COLUMNS
        if (at := found.columns_of.get(c)) is not None
    ]
    return columns[0] if len(columns) == 1 else list(zip(*columns, strict=True))


def told_by(found: Found) -> Callable[[Key], Told]:
    """Of such cells the symbol, the exchange and the name, as far as they are told."""
    columns = [c for c in COLUMNS if c in found.columns_of]

    def told(key: Key) -> Told:
        cells = key if isinstance(key, tuple) else (key,)
        texts = dict(zip(columns, map(text_of, cells), strict=True))
        symbol = texts.get("symbol", "") or texts.get("isin", "")
        return symbol, texts.get("exchange", ""), texts.get("name", "")

    return told


def spelt(told: Mapping[Told, bool]) -> str:
    """Who is not held, for a question."""
    names = list(
        dict.fromkeys(name or symbol for (symbol, _, name), held in told.items() if not held)
    )
    more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
    return ", ".join(n[:40] for n in names[:NAMED]) + more


def new_of(told: Told, exchange: str, currency: str, taken: Collection[str]) -> Known:
    """The payer that is made of what a table tells of one. Where it tells one text alone, that is
    its name, and its symbol where it has the form of one. taken: keys that other payers have."""
    symbol, own, name = told
    text = _BRACKETS.sub("", (symbol or name).strip()).strip()
    short = text if symbol or TICKER.fullmatch(text) else plain(text).upper()
    made = re.sub(r"[^\w.&/-]+", "-", short)[:LONGEST_SYMBOL].strip("-")
    exchange, number, unique = own or exchange, 2, made
    while f"{exchange}/{unique}" in taken:
        unique, number = f"{made}-{number}", number + 1
    return Known(exchange, unique, name or text, currency, 12)
