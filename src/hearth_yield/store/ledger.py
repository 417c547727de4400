"""What a person owns, as it was entered: accounts, entries and what they said before."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from datetime import date
from decimal import Decimal
from typing import Any

import msgspec
from sqlalchemy import (
    ColumnElement,
    Connection,
    Row,
    Select,
    delete,
    func,
    insert,
    select,
    tuple_,
    union,
    update,
)

from hearth_yield.core.errors import NotFound
from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind, PayerKey

from .tables import account, entered_since, entry, former_entry, payer, product_state

_ACCOUNT = tuple(
    account.c[name]
    for name in (
        *("id", "name", "currency", "sheltered", "method", "keeps_cash"),
        *("entered_from", "closed_on"),
    )
)
_SINCE = (
    select(func.min(entered_since.c.day))
    .where(entered_since.c.account_id == account.c.id)
    .scalar_subquery()
)
"""From which day imports enter its dividends."""
_ENTRY = tuple(c for c in entry.columns if c.name not in ("made_at", "deleted_at", "intention"))
_BATCH = 1000


class KeptEntry(msgspec.Struct, frozen=True, kw_only=True):
    """An entry, the source it came from (None: typed) and when, and when it was deleted."""

    entry: Entry
    source: int | None
    made_at: str
    deleted_at: str | None


def accounts(connection: Connection) -> list[Account]:
    """In the order they were made."""
    query = select(*_ACCOUNT, _SINCE).where(account.c.deleted_at.is_(None)).order_by(account.c.id)
    return [_account(row) for row in connection.execute(query)]


def get_account(connection: Connection, id: int) -> Account:
    """Raises NotFound."""
    row = connection.execute(select(*_ACCOUNT, _SINCE).where(account.c.id == id)).first()
    if row is None:
        raise NotFound("no such account", field="account", value=id)
    return _account(row)


def _account(row: Any) -> Account:
    id, name, currency, sheltered, method, keeps_cash, entered_from, closed_on, since = row
    days = [d for d in (entered_from, since) if d is not None]
    return Account(
        id=id,
        name=name,
        currency=currency,
        sheltered=sheltered,
        method=CostMethod(method),
        keeps_cash=keeps_cash,
        entered_from=min(days, default=None),
        closed_on=closed_on,
    )


def _values(made: Account) -> dict[str, Any]:
    return {c.name: getattr(made, c.name) for c in _ACCOUNT if c.name != "id"}


def add_account(connection: Connection, made: Account, at: str, source: int | None = None) -> int:
    """Its id; that of `made` does not count. source: the import it came with."""
    values = _values(made) | {"made_at": at, "source_id": source}
    new = insert(account).values(**values).returning(account.c.id)
    return int(connection.execute(new).scalar_one())


def change_account(connection: Connection, made: Account) -> None:
    """A day from which dividends are entered counts over those of imports. Raises NotFound."""
    values = _values(made)
    if made.entered_from == get_account(connection, made.id).entered_from:
        del values["entered_from"]
    else:
        connection.execute(delete(entered_since).where(entered_since.c.account_id == made.id))
    _one(connection, update(account).where(account.c.id == made.id).values(**values))


def enter_since(connection: Connection, id: int, day: date, source: int) -> None:
    """An import enters the dividends of an account from a day on."""
    made = insert(entered_since).values(source_id=source, account_id=id, day=day)
    connection.execute(made)


def set_account_deleted(connection: Connection, id: int, at: str | None) -> None:
    """Raises NotFound."""
    _one(connection, update(account).where(account.c.id == id).values(deleted_at=at))


def _one(connection: Connection, change: Any) -> None:
    if not connection.execute(change).rowcount:
        raise NotFound("it is not in the ledger", field="id", value=None)


def home(connection: Connection) -> str | None:
    """The currency in which the person wants sums; None where nobody said."""
    found: str | None = connection.scalar(select(product_state.c.home))
    return found


def set_home(connection: Connection, currency: str | None) -> None:
    connection.execute(update(product_state).values(home=currency))


def count_entries(connection: Connection, account_id: int) -> int:
    """Of an account, those sent to it among them."""
    c = entry.c
    mine = ((c.account_id == account_id) | (c.to_id == account_id)) & c.deleted_at.is_(None)
    return int(connection.execute(select(func.count()).where(mine)).scalar_one())


def used_accounts(connection: Connection) -> set[int]:
    """Those in which something is entered, or to which something went."""
    stands = entry.c.deleted_at.is_(None)
    own, others = select(entry.c.account_id).where(stands), select(entry.c.to_id).where(stands)
    return {id for (id,) in connection.execute(union(own, others)) if id is not None}


def openings(connection: Connection) -> dict[int, set[tuple[PayerKey, date]]]:
    """By account, whose shares were held at first, and on which day."""
    c = entry.c
    where = (c.kind == EntryKind.OPENING.value) & c.deleted_at.is_(None)
    found: dict[int, set[tuple[PayerKey, date]]] = {}
    query = select(c.account_id, c.exchange, c.symbol, c.day).where(where)
    for id, exchange, symbol, day in connection.execute(query):
        found.setdefault(id, set()).add(((exchange or "", symbol), day))
    return found


def entries(connection: Connection, until: date | None = None) -> list[Entry]:
    """Those that stand, dated by a day, in order of days."""
    query = select(*_ENTRY).where(entry.c.deleted_at.is_(None))
    if until is not None:
        query = query.where(entry.c.day <= until)
    return [entry_of(row) for row in connection.execute(query.order_by(entry.c.day, entry.c.id))]


def newest_kept(
    connection: Connection,
    *,
    account_id: int | None = None,
    of: PayerKey | None = None,
    kinds: Sequence[EntryKind] = (),
    until: date | None = None,
    skip: int = 0,
    most: int = 100,
) -> tuple[list[KeptEntry], int]:
    """The newest first, and how many there are in all."""
    c = entry.c
    where: list[ColumnElement[bool]] = [c.deleted_at.is_(None)]
    if account_id is not None:
        where.append((c.account_id == account_id) | (c.to_id == account_id))
    if of is not None:
        exchange, symbol = of
        own = (c.exchange == exchange) & (c.symbol == symbol)
        where.append(own | ((c.into_exchange == exchange) & (c.into_symbol == symbol)))
    if kinds:
        where.append(c.kind.in_([k.value for k in kinds]))
    if until is not None:
        where.append(c.day <= until)
    found = int(
        connection.execute(select(func.count()).select_from(entry).where(*where)).scalar_one()
    )
    query = _kept().where(*where).order_by(c.day.desc(), c.id.desc()).offset(skip).limit(most)
    return [_kept_entry(row) for row in connection.execute(query)], found


def get(connection: Connection, id: int) -> KeptEntry:
    """Deleted ones too. Raises NotFound."""
    row = connection.execute(_kept().where(entry.c.id == id)).first()
    if row is None:
        raise NotFound("no such entry", field="id", value=id)
    return _kept_entry(row)


def _kept() -> Select[Any]:
    return select(*_ENTRY, entry.c.made_at, entry.c.deleted_at)


def _kept_entry(row: Row[Any]) -> KeptEntry:
    return KeptEntry(
        entry=entry_of(row), source=row.source_id, made_at=row.made_at, deleted_at=row.deleted_at
    )


def row_columns() -> Sequence[ColumnElement[Any]]:
    """What `entry_of` reads."""
    return _ENTRY


def entry_of(row: Any) -> Entry:
    (
        id, account_id, kind, day, exchange, symbol, shares, price, amount, currency,
        fee, tax, withheld, returned, spent, settled, bought, chosen, to,
        into_exchange, into_symbol, new, old, cash, moves, into_amount, into_currency,
        note, reference, _source,
    ) = row[: len(_ENTRY)]  # fmt: skip
    return Entry(
        id=id,
        account=account_id,
        kind=_KINDS[kind],
        day=day,
        payer=None if symbol is None else (exchange, symbol),
        shares=shares,
        price=price,
        amount=amount,
        currency=currency,
        fee=fee,
        tax=tax,
        withheld=withheld,
        returned=returned,
        spent=spent,
        settled=settled,
        bought=bought,
        chosen=tuple((date.fromisoformat(d), n) for d, n in chosen) if chosen else (),
        to=to,
        into=None if into_symbol is None else (into_exchange, into_symbol),
        new=_ONE if new is None else new,
        old=_ONE if old is None else old,
        cash=_NIL if cash is None else cash,
        moves=_ONE if moves is None else moves,
        into_amount=into_amount,
        into_currency=into_currency or "",
        note=note,
        reference=reference,
    )


_KINDS = {k.value: k for k in EntryKind}
_ONE, _NIL = Decimal(1), Decimal(0)


def _cells(made: Entry) -> dict[str, Any]:
    """What is stored of an entry, but its id."""
    exchange, symbol = made.payer or (None, None)
    into_exchange, into_symbol = made.into or (None, None)
    converts = made.kind is EntryKind.CONVERSION
    terms = {n: getattr(made, n) if converts else None for n in ("new", "old", "cash", "moves")}
    plain = (
        *("day", "shares", "price", "amount", "currency", "fee", "tax", "withheld", "returned"),
        *("spent", "settled", "bought", "into_amount", "into_currency", "note", "reference"),
    )
    return {
        **{name: getattr(made, name) for name in plain},
        **terms,
        "account_id": made.account,
        "kind": made.kind.value,
        "exchange": exchange,
        "symbol": symbol,
        "chosen": [[d.isoformat(), n] for d, n in made.chosen],
        "to_id": made.to,
        "into_exchange": into_exchange,
        "into_symbol": into_symbol,
    }


def add(connection: Connection, made: Entry, at: str, intention: str | None = None) -> int:
    """A typed one: its id; that of `made` does not count. Said twice with one intention: once."""
    if intention is not None:
        known = select(entry.c.id).where(entry.c.intention == intention)
        held = connection.execute(known).scalar_one_or_none()
        if held is not None:
            return int(held)
    new = insert(entry).values(**_cells(made), made_at=at, intention=intention)
    return int(connection.execute(new.returning(entry.c.id)).scalar_one())


def add_many(connection: Connection, made: Iterable[Entry], source: int | None, at: str) -> int:
    """How many were added."""
    rows = [_cells(e) | {"source_id": source, "made_at": at} for e in made]
    for first in range(0, len(rows), _BATCH):
        connection.execute(insert(entry), rows[first : first + _BATCH])
    return len(rows)


def change(connection: Connection, made: Entry, at: str) -> None:
    """What it said is kept. Raises NotFound."""
    before = get(connection, made.id).entry
    said = msgspec.to_builtins(before, builtin_types=())
    connection.execute(insert(former_entry).values(entry_id=made.id, said=said, until=at))
    connection.execute(update(entry).where(entry.c.id == made.id).values(**_cells(made)))


def former(connection: Connection, id: int) -> list[tuple[str, Entry]]:
    """What an entry said before, the newest first, and until when."""
    c = former_entry.c
    query = select(c.until, c.said).where(c.entry_id == id).order_by(c.id.desc())
    return [(until, msgspec.convert(said, Entry)) for until, said in connection.execute(query)]


def times_edited(connection: Connection, ids: Sequence[int]) -> dict[int, int]:
    """How often each was changed, of those that were."""
    c = former_entry.c
    query = select(c.entry_id, func.count()).where(c.entry_id.in_(ids)).group_by(c.entry_id)
    return {id: int(n) for id, n in connection.execute(query)}


def set_deleted(connection: Connection, id: int, at: str | None) -> None:
    """Deleted at a time, or put back. Raises NotFound."""
    _one(connection, update(entry).where(entry.c.id == id).values(deleted_at=at))


def called(connection: Connection, payers: Iterable[PayerKey]) -> dict[PayerKey, tuple[str, str]]:
    """Names and currencies of payers that are stored."""
    wanted = sorted(set(payers))
    if not wanted:
        return {}
    c = payer.c
    query = select(c.exchange, c.symbol, c.name, c.currency).where(
        tuple_(c.exchange, c.symbol).in_(wanted)
    )
    return {(e, s): (name, currency) for e, s, name, currency in connection.execute(query)}
