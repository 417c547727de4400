"""Take facts out again as a Data Package: one payer, several, or everything."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from sqlalchemy import Connection

from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.exchange.ledger_rows import account_row, entry_row
from hearth_yield.exchange.writing import write_facts_book, write_package
from hearth_yield.store import facts, ledger
from hearth_yield.store.database import Database

Owned = Literal["with", "without", "only"]


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


def ledger_records(connection: Connection) -> dict[str, list[dict[str, object]]]:
    """What a person owns, as tables of a file."""
    accounts = {a.id: a for a in ledger.accounts(connection)}
    return {
        "accounts": [account_row(a) for a in accounts.values()],
        "entries": [entry_row(e, accounts) for e in ledger.entries(connection)],
    }


def export_facts(
    database: Database,
    payers: Sequence[tuple[str, str]] | None,
    *,
    name: str,
    book: bool = False,
    owned: Owned = "with",
) -> bytes:
    """A zip that brings the same facts in again; book: a workbook that does. owned: whether
    accounts and entries are in it; where payers are named they are not.

    Raises: NotFound for a payer that is not held; TooLarge for more rows than a sheet holds.
    """
    with database.read() as connection:
        held = facts.known_payers(connection)
        for key in payers or ():
            if key not in held:
                raise NotFound(
                    f"no payer {key[1]} on {key[0]} is held", field="payer", value="/".join(key)
                )
        records = {} if owned == "only" else dict(facts.records_of(connection, payers))
        if payers is None and owned != "without":
            records |= ledger_records(connection)
    return write_facts_book(records) if book else write_package(records, name)
