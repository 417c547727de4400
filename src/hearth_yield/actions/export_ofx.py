"""Accounts as one statement in OFX."""

from __future__ import annotations

from datetime import date

from hearth_yield.core.household.entries import PayerKey
from hearth_yield.exchange.ofx import Named, Written, write_ofx
from hearth_yield.store import facts, ledger
from hearth_yield.store.database import Database


def export_ofx(database: Database, day: date) -> Written:
    """All accounts with what is entered by a day."""
    with database.read() as connection:
        accounts, entries = ledger.accounts(connection), ledger.entries(connection, day)
        names: dict[PayerKey, Named] = {
            (exchange, symbol): Named(name, isin)
            for exchange, symbol, name, _, _, isin in facts.named_payers(connection)
        }
    return write_ofx(accounts, entries, names, day)
