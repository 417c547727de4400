"""Why a payment did not come as due, in the person's words."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from sqlalchemy import Connection, delete, select
from sqlalchemy.dialects.sqlite import insert as put

from hearth_yield.core.household.ledger import Place

from .tables import explained_payment

Payment = tuple[Place, date]
"""The account and the payer, and the ex-date."""


def explained(connection: Connection) -> Mapping[Payment, str]:
    e = explained_payment.c
    rows = connection.execute(select(e.account_id, e.exchange, e.symbol, e.ex_date, e.words))
    return {((a, (x, s)), day): words for a, x, s, day, words in rows}


def explain(connection: Connection, payment: Payment, words: str, at: str) -> None:
    """In place of what was said before; empty words take it back."""
    (account, (exchange, symbol)), day = payment
    e = explained_payment.c
    if not words:
        of_it = (e.account_id == account) & (e.exchange == exchange) & (e.symbol == symbol)
        connection.execute(delete(explained_payment).where(of_it, e.ex_date == day))
        return
    row = {
        "account_id": account,
        "exchange": exchange,
        "symbol": symbol,
        "ex_date": day,
        "words": words,
        "made_at": at,
    }
    made = put(explained_payment).values(**row)
    connection.execute(
        made.on_conflict_do_update(
            index_elements=["account_id", "exchange", "symbol", "ex_date"],
            set_={"words": words, "made_at": at},
        )
    )
