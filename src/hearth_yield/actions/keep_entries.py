"""Enter in the ledger, change what was entered, delete it and put it back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from msgspec.structs import replace

from hearth_yield.core.errors import Conflict, InvalidInput, NotFound, Unsure
from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Account, Entry
from hearth_yield.core.household.income.due import EARLY, LATE
from hearth_yield.core.household.kinds import (
    check_account,
    check_entry,
    is_currency,
    tidy_account,
    total_apart,
)
from hearth_yield.core.household.ledger import Place
from hearth_yield.core.household.lots import Unresolved
from hearth_yield.core.household.receipts import CAME
from hearth_yield.store import ledger

from .read_holdings import Ground, ground_of, walked
from .review_cache import ReviewCache

MOST_ACCOUNTS = 50


def add_account(cache: ReviewCache, made: Account, at: str) -> int:
    """Its id. Raises InvalidInput for a name that is empty, too long or taken."""
    with cache.database.write(facts=False, ledger=True) as connection:
        held = ledger.accounts(connection)
        check_account(made, held)
        if len(held) >= MOST_ACCOUNTS:
            raise Conflict(
                "that is as many accounts as fit", field="name", rule=f"at most {MOST_ACCOUNTS}"
            )
        return ledger.add_account(connection, tidy_account(made), at)


def change_account(cache: ReviewCache, made: Account) -> None:
    """Raises InvalidInput as `add_account`, NotFound, Conflict for another currency where entries
    are counted in the one it has."""
    with cache.database.write(facts=False, ledger=True) as connection:
        was = ledger.get_account(connection, made.id).currency
        if tidy_account(made).currency != was and ledger.count_entries(connection, made.id):
            raise Conflict(
                f"what is entered in it is counted in {was}",
                field="currency",
                value=made.currency[:20],
                rule=f"{was}, or an account without entries",
            )
        held = [a for a in ledger.accounts(connection) if a.id != made.id]
        check_account(made, held)
        ledger.change_account(connection, tidy_account(made))


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


def set_home(cache: ReviewCache, currency: str) -> None:
    """The currency in which sums stand. Raises InvalidInput for none."""
    said = currency.strip().upper()
    if not is_currency(said):
        raise InvalidInput(
            "name the currency of sums", field="currency", value=said[:20], rule="three letters"
        )
    with cache.database.write(facts=False, ledger=True) as connection:
        ledger.set_home(connection, said)


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


def change_entry(
    cache: ReviewCache, made: Entry, *, today: date, at: str, ask: bool, edits: int | None = None
) -> None:
    """What it said before is kept, and what an institution calls it.

    edits: how often it had been changed when this was begun; None: whatever stands there.
    Raises: as `add_entry`, and NotFound; Conflict for one that was changed meanwhile.
    """
    _check(cache, made, today, replace_id=made.id, ask=ask)
    with cache.database.write(facts=False, ledger=True) as connection:
        there = ledger.get(connection, made.id)
        if there.deleted_at is not None:
            raise NotFound("this entry was deleted", field="id", value=made.id)
        stands = ledger.times_edited(connection, [made.id]).get(made.id, 0)
        if edits is not None and edits != stands:
            raise Conflict(
                "it was changed elsewhere meanwhile; nothing was saved",
                field="edits",
                value=stands,
                rule="what stood there when you began",
            )
        ledger.change(connection, replace(made, reference=there.entry.reference), at)


def delete_entry(cache: ReviewCache, id: int, *, today: date, at: str, ask: bool) -> None:
    """Kept out of sight, so that it can be put back. Raises NotFound, Unsure."""
    with cache.database.read() as connection:
        ledger.get(connection, id)
    if ask:
        ground = ground_of(cache, today, cache.edition())
        left = [e for e in ground.entries if e.id != id]
        doubt = _too_much(ground, ground_of(cache, today, cache.edition(), left), today)
        _ask([] if doubt is None else [doubt])
    with cache.database.write(facts=False, ledger=True) as connection:
        ledger.set_deleted(connection, id, at)


def put_back_entry(cache: ReviewCache, id: int) -> None:
    """Raises NotFound, Conflict where its account is deleted."""
    with cache.database.write(facts=False, ledger=True) as connection:
        entry = ledger.get(connection, id).entry
        there = {a.id for a in ledger.accounts(connection)}
        if not {entry.account, *([] if entry.to is None else [entry.to])} <= there:
            raise Conflict(
                "its account was deleted; put that back first",
                field="account",
                value=entry.account,
                rule="an account that is there",
            )
        ledger.set_deleted(connection, id, None)


def _check(
    cache: ReviewCache, made: Entry, today: date, *, replace_id: int | None, ask: bool
) -> None:
    with cache.database.read() as connection:
        accounts = {a.id: a for a in ledger.accounts(connection)}
    check_entry(made, accounts, today)
    if not ask:
        return
    ground = ground_of(cache, today, cache.edition())
    others = [e for e in ground.entries if e.id != replace_id]
    new = replace(made, id=replace_id or 1 + max((e.id for e in others), default=0))
    after = ground_of(cache, today, cache.edition(), [*others, new])
    found = [
        _apart(made),
        _twice(made, accounts[made.account], after, today),
        _too_much(ground, after, today),
    ]
    _ask([said for said in found if said is not None])


def _ask(doubts: Sequence[tuple[str, str]]) -> None:
    """Raises Unsure with all that is doubtful, each with the field it is about."""
    if doubts:
        raise Unsure(
            "; and ".join(said for _, said in doubts),
            field=doubts[0][0],
            rule="change it, or enter what is missing; else it is kept as it is",
        )


def _apart(made: Entry) -> tuple[str, str] | None:
    """That a total which was typed is not what shares and price come to."""
    expected = total_apart(made)
    if expected is None:
        return None
    digits = minor_digits(made.currency)
    return "amount", (
        f"the amount, {as_decimal(made.amount or 0, digits):,f}, is not what shares, price, "
        f"fee and tax come to, {as_decimal(expected, digits):,f}"
    )


def _twice(made: Entry, account: Account, ground: Ground, today: date) -> tuple[str, str] | None:
    """That a dividend is entered that the record counts already."""
    if made.kind not in CAME or made.payer is None:
        return None
    _, came = walked(ground, today)
    near = [
        r.day
        for r in came.get((made.account, made.payer), ())
        if r.on_record and r.day - EARLY <= made.day <= r.day + LATE
    ]
    if not near:
        return None
    return "day", (
        f"the payment of {near[-1].isoformat()} counts already, as {account.name} takes its "
        "dividends from the record; from which day you enter them is said under Accounts"
    )


def _too_much(before: Ground, after: Ground, today: date) -> tuple[str, str] | None:
    """That more would go than was held, and did not before."""
    stood = _unresolved(before, today)
    for place, why in sorted(_unresolved(after, today).items(), key=lambda found: found[0]):
        standing = stood.get(place)
        if standing is None or why.since < standing.since:
            account = next(a.name for a in after.accounts if a.id == place[0])
            missing = as_decimal(why.missing, SHARE_DIGITS).normalize()
            return "shares", (
                f"on {why.since.isoformat()} more of {place[1][1]} would go from {account} than "
                f"was held: {missing:,f} are missing"
            )
    return None


def _unresolved(ground: Ground, today: date) -> dict[Place, Unresolved]:
    book, _ = walked(ground, today)
    return {p: h.unresolved for p, h in book.held.items() if h.unresolved is not None}
