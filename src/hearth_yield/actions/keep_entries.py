"""Enter in the ledger, change what was entered, delete it and put it back."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace as with_part
from datetime import date

from msgspec.structs import replace

from hearth_yield.core.errors import Conflict, InvalidInput, NotFound, Unsure
from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Account, Entry
from hearth_yield.core.household.kinds import check_entry, is_currency, total_apart
from hearth_yield.core.household.ledger import Place
from hearth_yield.core.household.lots import Unresolved
from hearth_yield.store import ledger

from .read_holdings import Ground, ground_of, walked
from .review_cache import ReviewCache

MOST_ACCOUNTS = 50
MOST_NAME = 60


def add_account(cache: ReviewCache, made: Account, at: str) -> int:
    """Its id. Raises InvalidInput for a name that is empty, too long or taken."""
    with cache.database.write(facts=False, ledger=True) as connection:
        held = ledger.accounts(connection)
        _check_account(made, held)
        if len(held) >= MOST_ACCOUNTS:
            raise Conflict(
                "that is as many accounts as fit", field="name", rule=f"at most {MOST_ACCOUNTS}"
            )
        return ledger.add_account(connection, _tidy(made), at)


def change_account(cache: ReviewCache, made: Account) -> None:
    """Raises InvalidInput as `add_account`, NotFound."""
    with cache.database.write(facts=False, ledger=True) as connection:
        held = [a for a in ledger.accounts(connection) if a.id != made.id]
        _check_account(made, held)
        ledger.change_account(connection, _tidy(made))


def delete_account(cache: ReviewCache, id: int, at: str | None) -> None:
    """Deleted at a time, or put back. Raises Conflict for one in which something is entered."""
    with cache.database.write(facts=False, ledger=True) as connection:
        entered = ledger.count_entries(connection, id)
        if at is not None and entered:
            raise Conflict(
                f"{entered} {'entry is' if entered == 1 else 'entries are'} in it; delete them "
                "first, or close the account: its past is kept then",
                field="account",
                value=id,
                rule="an account without entries",
            )
        ledger.set_account_deleted(connection, id, at)


def _tidy(made: Account) -> Account:
    return with_part(made, name=made.name.strip(), currency=made.currency.strip().upper())


def _check_account(made: Account, others: Sequence[Account]) -> None:
    name, currency = made.name.strip(), made.currency.strip()
    if not 0 < len(name) <= MOST_NAME:
        raise InvalidInput(
            "name the account", field="name", value=name[:100], rule=f"1 to {MOST_NAME} letters"
        )
    if name.casefold() in (a.name.casefold() for a in others):
        raise InvalidInput(
            "an account of that name is there already",
            field="name",
            value=name,
            rule="a name of its own",
        )
    if not is_currency(currency):
        raise InvalidInput(
            "name its currency", field="currency", value=currency[:20], rule="three letters"
        )


def add_entry(
    cache: ReviewCache,
    made: Entry,
    *,
    today: date,
    at: str,
    intention: str | None = None,
    ask: bool = False,
) -> int:
    """Its id; said twice with the same intention, entered once.

    ask: whether the person is asked about what cannot be, and about a total that is not what
    shares and price come to. Raises: InvalidInput for an entry that says too little; Unsure.
    """
    _check(cache, made, today, replace_id=None, ask=ask)
    with cache.database.write(facts=False, ledger=True) as connection:
        return ledger.add(connection, made, at, intention)


def change_entry(cache: ReviewCache, made: Entry, *, today: date, at: str, ask: bool) -> None:
    """What it said before is kept. Raises as `add_entry`, and NotFound."""
    _check(cache, made, today, replace_id=made.id, ask=ask)
    with cache.database.write(facts=False, ledger=True) as connection:
        if ledger.get(connection, made.id).deleted_at is not None:
            raise NotFound("this entry was deleted", field="id", value=made.id)
        ledger.change(connection, made, at)


def delete_entry(cache: ReviewCache, id: int, *, today: date, at: str, ask: bool) -> None:
    """Kept out of sight, so that it can be put back. Raises NotFound, Unsure."""
    with cache.database.read() as connection:
        ledger.get(connection, id)
    if ask:
        ground = ground_of(cache, today, cache.edition())
        left = [e for e in ground.entries if e.id != id]
        _ask_what_cannot_be(cache, ground, left, today)
    with cache.database.write(facts=False, ledger=True) as connection:
        ledger.set_deleted(connection, id, at)


def put_back_entry(cache: ReviewCache, id: int) -> None:
    """Raises NotFound."""
    with cache.database.write(facts=False, ledger=True) as connection:
        ledger.set_deleted(connection, id, None)


def _check(
    cache: ReviewCache, made: Entry, today: date, *, replace_id: int | None, ask: bool
) -> None:
    with cache.database.read() as connection:
        accounts = {a.id: a for a in ledger.accounts(connection)}
    check_entry(made, accounts, today)
    if not ask:
        return
    expected = total_apart(made)
    if expected is not None:
        digits = minor_digits(made.currency)
        raise Unsure(
            f"the amount, {as_decimal(made.amount or 0, digits):,f}, is not what shares, price, "
            f"fee and tax come to, {as_decimal(expected, digits):,f}",
            field="amount",
            value=str(as_decimal(made.amount or 0, digits)),
            rule="within half a per cent; the amount counts where they differ",
        )
    ground = ground_of(cache, today, cache.edition())
    others = [e for e in ground.entries if e.id != replace_id]
    new = replace(made, id=replace_id or 1 + max((e.id for e in others), default=0))
    _ask_what_cannot_be(cache, ground, [*others, new], today)


def _ask_what_cannot_be(
    cache: ReviewCache, before: Ground, entries: Sequence[Entry], today: date
) -> None:
    """Raises Unsure where more would go than was held, and did not before."""
    stood = _unresolved(before, today)
    after = ground_of(cache, today, cache.edition(), entries)
    for place, why in sorted(_unresolved(after, today).items(), key=lambda found: found[0]):
        standing = stood.get(place)
        if standing is None or why.since < standing.since:
            account = next(a.name for a in after.accounts if a.id == place[0])
            missing = as_decimal(why.missing, SHARE_DIGITS).normalize()
            raise Unsure(
                f"on {why.since.isoformat()} more of {place[1][1]} would go from {account} than "
                f"was held: {missing:,f} are missing",
                field="shares",
                value=str(missing),
                rule="no more than was held that day; enter what is missing, or an opening",
            )


def _unresolved(ground: Ground, today: date) -> dict[Place, Unresolved]:
    book, _ = walked(ground, today)
    return {p: h.unresolved for p, h in book.held.items() if h.unresolved is not None}
