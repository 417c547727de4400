"""Payers that a table names row by row or column by column, and the product does not hold: they
are added, or what is theirs is left out, as the person says."""

from __future__ import annotations

import re
from collections.abc import Mapping

from .headings import plain
from .payers import Known, Payers
from .table import Found
from .tables import TICKER

NAMED, LONGEST_SYMBOL = 5, 12
_BRACKETS = re.compile(r"[(\[][^()\[\]]*[)\]]$")

Told = tuple[str, str, str]
"""Symbol, exchange and name, as far as they stand there."""


def told_of(found: Found, payers: Payers) -> Mapping[Told, bool]:
    """The payers that a table names, each once, with whether it is held."""
    if found.lie == "wide":
        names = [x.heading for x in found.lines[1:]]
        return {("", "", name): payers.named(name) is not None for name in names}
    columns = found.columns_of
    told: dict[Told, bool] = {}
    if found.payer or found.kind in ("payers", "series") or not {"symbol", "name"} & set(columns):
        return told
    places = [columns.get(n, -1) for n in ("symbol", "exchange", "name")]
    for n in found.rows:
        symbol, exchange, name = (found.text_at(n, at) for at in places)
        key = (symbol, exchange, name)
        if key not in told and (symbol or name):
            told[key] = payers.told(symbol, exchange, name) is not None
    return told


def spelt(told: Mapping[Told, bool]) -> str:
    """Who is not held, for a question."""
    names = list(
        dict.fromkeys(name or symbol for (symbol, _, name), held in told.items() if not held)
    )
    more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
    return ", ".join(n[:40] for n in names[:NAMED]) + more


def new_of(told: Told, exchange: str, currency: str) -> Known:
    """The payer that is made of what a table tells of one. Where it tells one text alone, that is
    its name, and its symbol where it has the form of one."""
    symbol, own, name = told
    text = _BRACKETS.sub("", (symbol or name).strip()).strip()
    short = text if TICKER.fullmatch(text) else plain(text).upper()
    symbol = re.sub(r"[^\w.&/-]+", "-", short).strip("-")[:LONGEST_SYMBOL]
    return Known(own or exchange, symbol, name or text, currency, 12)
