"""What is held, as lists of positions tell it."""

from __future__ import annotations

from hearth_yield.exchange.table import MadeTable
from hearth_yield.rows import column_of

POSITIONS = "positions"
"""What is held at first, until it is known whether the same files tell how it came."""
_MOVES = frozenset(("buy", "sell", "opening", "transfer", "reinvestment", "conversion"))
_STATED = ("account", "day", "currency", "exchange", "symbol", "shares", "note", "reference")


def settle_positions(entries: MadeTable, positions: MadeTable) -> None:
    """Adds what is held to the entries: of an account whose shares come and go in the same files,
    as the institution states it; of another, as what was there at first."""
    kinds = zip(column_of(entries.rows, "account"), column_of(entries.rows, "kind"), strict=True)
    moving = {str(a).casefold() for a, k in kinds if k in _MOVES}
    for n, row in enumerate(positions.rows):
        held = dict(row)
        if str(held["account"]).casefold() in moving:
            held = {k: held[k] for k in _STATED if held.get(k)} | {"kind": "stated"}
        entries.add(held, *positions.origin_of(n))
