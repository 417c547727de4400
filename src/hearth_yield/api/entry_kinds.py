"""The kinds of entries with their fields, and a trade in a line of words."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter, Query

from hearth_yield.actions.read_entry_line import read_entry_line
from hearth_yield.core.household.kinds import CHOOSES, FIELDS, KINDS
from hearth_yield.store import ledger

from .answer import wire
from .context import Here
from .ledger import KindName, exact_text
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


@wire
class EntryFieldOut:
    id: str
    name: str
    type: Literal["payer", "shares", "price", "money", "day", "account", "ratio", "currency"]
    means: str


@wire
class EntryKindOut:
    """needs: fields without which it says nothing; either: of which one is needed. chooses: lots
    that go can be chosen."""

    kind: KindName
    name: str
    did: str
    means: str
    needs: list[str]
    either: list[str]
    may: list[str]
    chooses: bool


@wire
class EntryKindsOut:
    fields: list[EntryFieldOut]
    kinds: list[EntryKindOut]


@wire
class PayerNamed:
    exchange: str
    symbol: str
    name: str
    currency: str


@wire
class EntryLineOut:
    """What a line of words says; payers: who may be meant, null where nobody was named."""

    kind: KindName
    shares: str
    price: str | None
    day: date
    payers: list[PayerNamed] | None


@router.get("/entry-kinds")
def entry_kinds() -> EntryKindsOut:
    """Every kind of entry, and the fields it has."""
    return EntryKindsOut(
        fields=[
            EntryFieldOut(id=f.id, name=f.name, type=f.type, means=f.means) for f in FIELDS.values()
        ],
        kinds=[
            EntryKindOut(
                kind=k.kind.value,
                name=k.name,
                did=k.did,
                means=k.means,
                needs=list(k.needs),
                either=list(k.either),
                may=list(k.may),
                chooses=k.kind in CHOOSES,
            )
            for k in KINDS.values()
        ],
    )


@router.get("/entry-line")
def entry_line(here: Here, text: Annotated[str, Query(max_length=400)]) -> EntryLineOut | None:
    """What a line such as "bought 50 TRS at 21.40 today" says; null for one that is no entry."""
    line = read_entry_line(here.cache, text, here.moment().today)
    if line is None:
        return None
    with here.database.read() as connection:
        called = ledger.called(connection, line.payers or ())
    return EntryLineOut(
        kind=line.kind.value,
        shares=exact_text(line.shares),
        price=None if line.price is None else exact_text(line.price),
        day=line.day,
        payers=None
        if line.payers is None
        else [
            PayerNamed(exchange=e, symbol=s, name=called[e, s][0], currency=called[e, s][1])
            for e, s in line.payers
        ],
    )
