"""What comes into the ledger from files: what is new of it, kept with its source, and taken back.

Two lines are the same by what an institution calls them, in one account, else by all that they
say. Of lines that say the same there are as many as in the file that has most of them. One that was
edited since is still the same, and one that was deleted stays away.
"""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

import msgspec
from msgspec.structs import astuple, replace
from sqlalchemy import Connection, delete, func, select, union, update

from hearth_yield.core.errors import Conflict
from hearth_yield.core.household.entries import Account, Entry

from .ledger import add_account, add_many, enter_since, entry_of, row_columns
from .tables import account, entered_since, entry, former_entry


@dataclass(frozen=True, slots=True)
class LedgerPlan:
    """What is new. accounts: with ids below nil, by which new entries name them; same: how many
    entries are there already; named: of these by id what an institution calls them, where the
    ledger did not know that; differ: names under which the ledger says otherwise. entered: from
    which day dividends are entered in accounts that are there, by their ids."""

    accounts: Sequence[Account] = ()
    entries: Sequence[Entry] = ()
    same: int = 0
    named: Mapping[int, str] = field(default_factory=dict)
    differ: Sequence[str] = ()
    entered: Mapping[int, date] = field(default_factory=dict)

    @property
    def changes(self) -> bool:
        return bool(self.accounts or self.entries or self.entered)


def plan(
    connection: Connection,
    accounts: Sequence[Account],
    entries: Sequence[Entry],
    entered: Mapping[int, date],
) -> LedgerPlan:
    """Of what was read, what the ledger does not have."""
    if not accounts and not entries and not entered:
        return LedgerPlan()
    held = _Held(connection)
    new: list[int] = []
    named: dict[int, str] = {}
    with_name = [n for n, e in enumerate(entries) if e.reference is not None]
    known = [n for n in with_name if held.has_name(entries[n])]
    differ = [entries[n].reference or "" for n in known if not held.ever_said(entries[n])]
    for n in sorted({*with_name} - {*known}):
        if held.knows_name(entries[n]):
            continue
        there = held.take(entries[n], nameless=True)
        if there is None:
            new.append(n)
        else:
            named[there] = entries[n].reference or ""
        held.learn(entries[n])
    for n, made in enumerate(entries):
        if made.reference is None and held.take(made, nameless=False) is None:
            new.append(n)
    return LedgerPlan(
        accounts=accounts,
        entries=[entries[n] for n in sorted(new)],
        same=len(entries) - len(new),
        named=named,
        differ=differ,
        entered=entered,
    )


class _Held:
    """What is entered, deleted ones and what edited ones said before among them; each is the same
    as one line of a file."""

    def __init__(self, connection: Connection) -> None:
        rows = connection.execute(select(*row_columns()).order_by(entry.c.id))
        held = {e.id: e for e in map(entry_of, rows)}
        self._by_said: dict[Hashable, dict[int, bool]] = {}
        for id, e in held.items():
            self._add(e, id, e.reference is None)
        former = select(former_entry.c.entry_id, former_entry.c.said)
        for id, said in connection.execute(former):
            self._add(msgspec.convert(said, Entry), id, held[id].reference is None)
        self._named = {
            (e.account, e.reference): id for id, e in held.items() if e.reference is not None
        }
        self._learnt: set[tuple[int, str | None]] = set()
        self._taken: set[int] = set()

    def _add(self, made: Entry, id: int, nameless: bool) -> None:
        self._by_said.setdefault(_said(made), {})[id] = nameless

    def has_name(self, made: Entry) -> bool:
        """Whether one of that name is entered; it is taken then."""
        id = self._named.get((made.account, made.reference or ""))
        if id is not None:
            self._taken.add(id)
        return id is not None

    def ever_said(self, made: Entry) -> bool:
        """Whether the one of its name says the same, or did before it was edited."""
        id = self._named[made.account, made.reference or ""]
        return id in self._by_said.get(_said(made), {})

    def knows_name(self, made: Entry) -> bool:
        """Whether another line has this name."""
        return (made.account, made.reference) in self._learnt

    def learn(self, made: Entry) -> None:
        self._learnt.add((made.account, made.reference))

    def take(self, made: Entry, *, nameless: bool) -> int | None:
        """One that says the same and is not taken; it is taken then. nameless: that no institution
        has a name for."""
        there = self._by_said.get(_said(made), {})
        for id, has_none in there.items():
            if id not in self._taken and (has_none or not nameless):
                self._taken.add(id)
                return id
        return None


def _said(made: Entry) -> Hashable:
    """All that it says but its note and what an institution calls it."""
    return astuple(replace(made, id=0, note="", reference=None))


def apply(connection: Connection, planned: LedgerPlan, source: int, at: str) -> int:
    """Write what is new under a source. Returns how many rows that are."""
    ids = {a.id: add_account(connection, a, at, source) for a in planned.accounts}

    def there(id: int) -> int:
        return ids.get(id, id)

    made: Iterable[Entry] = (
        replace(e, account=there(e.account), to=None if e.to is None else there(e.to))
        for e in planned.entries
    )
    for id, name in planned.named.items():
        connection.execute(update(entry).where(entry.c.id == id).values(reference=name))
    for id, day in planned.entered.items():
        enter_since(connection, id, day, source)
    return len(ids) + add_many(connection, made, source, at)


def count(connection: Connection, source: int) -> dict[str, int]:
    """Accounts and entries that stand as a source brought them."""
    found: dict[str, int] = {}
    for name, table in (("accounts", account), ("entries", entry)):
        mine = (table.c.source_id == source) & table.c.deleted_at.is_(None)
        n = connection.execute(select(func.count()).select_from(table).where(mine)).scalar_one()
        found |= {name: int(n)} if n else {}
    return found


def undo(connection: Connection, source: int) -> None:
    """Take back what a source brought; an account stays where something else is entered in it.
    Raises Conflict for entries that were edited since."""
    e = entry.c
    mine = select(e.id).where(e.source_id == source)
    edited = connection.execute(
        select(func.count(func.distinct(former_entry.c.entry_id))).where(
            former_entry.c.entry_id.in_(mine.where(e.deleted_at.is_(None)))
        )
    ).scalar_one()
    if edited:
        were = "1 of its entries was" if edited == 1 else f"{edited} of its entries were"
        raise Conflict(
            f"{were} edited since",
            field="source",
            value=source,
            rule="delete what was edited first; then the rest can be taken back",
        )
    connection.execute(delete(entry).where(e.source_id == source))
    connection.execute(delete(entered_since).where(entered_since.c.source_id == source))
    used = union(
        select(e.account_id),
        select(e.to_id).where(e.to_id.is_not(None)),
        select(entered_since.c.account_id),
    )
    left = account.c.id.not_in(used)
    connection.execute(delete(account).where(account.c.source_id == source, left))
