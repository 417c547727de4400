"""Take facts out again as a Data Package: one payer, several, or everything."""

from __future__ import annotations

from collections.abc import Sequence

from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.exchange.writing import write_facts_book, write_package
from hearth_yield.store import facts
from hearth_yield.store.database import Database


def read_keys(words: Sequence[str]) -> list[tuple[str, str]] | None:
    """["ELV/TRS", "ELV/GWK"] as keys; none of them means everything. A symbol may hold a slash or a
    comma. Raises InvalidInput."""
    found = []
    for word in words:
        exchange, slash, symbol = word.strip().partition("/")
        if not (exchange and slash and symbol):
            raise InvalidInput(
                "name payers as EXCHANGE/SYMBOL", field="payer", value=word, rule="EXCHANGE/SYMBOL"
            )
        found.append((exchange, symbol))
    return found or None


def export_facts(
    database: Database, payers: Sequence[tuple[str, str]] | None, *, name: str, book: bool = False
) -> bytes:
    """A zip that brings the same facts in again; book: a workbook that does.

    Raises: NotFound for a payer that is not held; TooLarge for more rows than a sheet holds.
    """
    with database.read() as connection:
        held = facts.known_payers(connection)
        for key in payers or ():
            if key not in held:
                raise NotFound(
                    f"no payer {key[1]} on {key[0]} is held", field="payer", value="/".join(key)
                )
        records = facts.records_of(connection, payers)
    return write_facts_book(records) if book else write_package(records, name)
