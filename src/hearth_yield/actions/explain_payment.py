"""Say why a payment did not come as due, or take that back."""

from __future__ import annotations

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.columns import FIRST_DAY, LAST_DAY
from hearth_yield.store import explained, ledger
from hearth_yield.store.database import Database
from hearth_yield.store.explained import Payment

MAX_WORDS = 300


def explain_payment(database: Database, payment: Payment, words: str, *, at: str) -> None:
    """Empty words take it back. Raises InvalidInput, NotFound (an account)."""
    told = words.strip()
    if len(told) > MAX_WORDS:
        raise InvalidInput(
            "that is too long",
            field="words",
            value=len(told),
            rule=f"at most {MAX_WORDS} characters",
        )
    if not FIRST_DAY <= payment[1] <= LAST_DAY:
        raise InvalidInput(
            "no payment goes ex on that day",
            field="ex_date",
            value=payment[1].isoformat(),
            rule=f"a date from {FIRST_DAY.year} to {LAST_DAY.year}",
        )
    with database.write(facts=False, ledger=True) as connection:
        ledger.get_account(connection, payment[0][0])
        explained.explain(connection, payment, told, at)
