"""The ledger: accounts and entries, typed as one writes them."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from msgspec.structs import replace
from pydantic import BaseModel, Field

from hearth_yield.actions import keep_entries
from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Entry, EntryKind
from hearth_yield.core.household.typed import AS_TYPED, MONEY, in_ledger_units, units_of
from hearth_yield.store import ledger
from hearth_yield.store.ledger import KeptEntry

from .answer import wire
from .context import First, Here, Id, When
from .holdings import AccountOut, account_out
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}, 404: {"model": Problem}})
KindName = Literal[
    "conversion",
    "opening",
    "buy",
    "reinvestment",
    "return_of_capital",
    "sell",
    "transfer",
    "dividend",
    "deposit",
    "withdrawal",
    "exchange",
    "interest",
    "fee",
    "tax",
    "stated",
]
Number = Annotated[Decimal, Field(max_digits=30, allow_inf_nan=False)]
Short = Annotated[str, Field(max_length=100)]
OTHERS = ("shares", "settled", "into_amount")


class ChosenIn(BaseModel):
    day: date
    shares: Number


class EntryIn(BaseModel):
    """Shares, prices and amounts as typed, in `currency`, where none is said the payer's, without
    one the account's; settled in the account's own. edits: how often it had been changed when this
    change was begun; without it, this counts whatever stands there. intention: a key made once for
    what the person means to enter; said again, it is entered once. ask: what cannot be, and a
    total that is far from shares × price, is refused so that the person is asked."""

    account: int
    kind: KindName
    day: date
    exchange: Short = ""
    symbol: Short = ""
    shares: Number | None = None
    price: Number | None = None
    amount: Number | None = None
    currency: Annotated[str, Field(max_length=20)] = ""
    fee: Number | None = None
    tax: Number | None = None
    withheld: Number | None = None
    returned: Number | None = None
    spent: Number | None = None
    settled: Number | None = None
    bought: date | None = None
    chosen: Annotated[list[ChosenIn], Field(max_length=200)] = []
    to: int | None = None
    into_exchange: Short = ""
    into_symbol: Short = ""
    new: Number | None = None
    old: Number | None = None
    cash: Number | None = None
    moves: Number | None = None
    into_amount: Number | None = None
    into_currency: Annotated[str, Field(max_length=20)] = ""
    note: Annotated[str, Field(max_length=2000)] = ""
    edits: Annotated[int, Field(ge=0)] | None = None
    intention: Annotated[str, Field(min_length=8, max_length=64)] | None = None
    ask: bool = False

    def entry(self, own: str, usual: str, id: int = 0) -> Entry:
        """own: the account's currency; usual: the payer's, in which it is where none is said.
        Raises InvalidInput for more decimals than are kept."""
        currency = (self.currency or usual).strip().upper()
        into = (self.into_currency or "").strip().upper()
        numbers = {n: getattr(self, n) for n in (*MONEY, *AS_TYPED, *OTHERS)}
        held = in_ledger_units(numbers, currency=currency, own=own, into=into)
        return Entry(
            id=id,
            account=self.account,
            kind=EntryKind(self.kind),
            day=self.day,
            payer=_key(self.exchange, self.symbol),
            currency=currency,
            bought=self.bought,
            chosen=tuple((c.day, units_of("shares", c.shares, SHARE_DIGITS)) for c in self.chosen),
            to=self.to,
            into=_key(self.into_exchange, self.into_symbol),
            into_currency=into,
            note=self.note.strip(),
            **held,
        )


def _key(exchange: str, symbol: str) -> tuple[str, str] | None:
    return (exchange.strip(), symbol.strip()) if symbol.strip() else None


@wire
class ChosenOut:
    """Shares of a lot that a sale or a transfer takes, in place of the first in."""

    day: date
    shares: str


@wire
class EntryOut:
    """As it was typed: numbers as texts, to the last digit. comes_to: the amount, also where it
    follows from shares and price. reference: what an institution calls it; edits: how often it
    was changed. source: the import it came from; null
    for what was typed. name: of the payer, null where it is not stored."""

    id: int
    account: int
    kind: KindName
    day: date
    exchange: str
    symbol: str
    name: str | None
    shares: str | None
    price: str | None
    amount: str | None
    comes_to: str | None
    currency: str
    fee: str | None
    tax: str | None
    withheld: str | None
    returned: str | None
    spent: str | None
    settled: str | None
    bought: date | None
    to: int | None
    into_exchange: str
    into_symbol: str
    new: str | None
    old: str | None
    cash: str | None
    moves: str | None
    into_amount: str | None
    into_currency: str
    note: str
    reference: str | None
    chosen: list[ChosenOut]
    edits: int
    source: int | None
    deleted: bool


@wire
class EntriesOut:
    """found: how many there are in all."""

    found: int
    accounts: list[AccountOut]
    entries: list[EntryOut]


@wire
class EntryMade:
    id: int


@router.get("/entries")
def entries(
    here: Here,
    when: When,
    account: int | None = None,
    exchange: Short = "",
    symbol: Short = "",
    kind: Annotated[list[KindName], Query()] = [],  # noqa: B006 - FastAPI copies it
    first: First = 0,
    count: Annotated[int, Query(ge=1, le=500)] = 100,
) -> EntriesOut:
    """The newest first, dated by the day that is viewed."""
    with here.database.read() as connection:
        kept, found = ledger.newest_kept(
            connection,
            account_id=account,
            of=(exchange, symbol) if symbol else None,
            kinds=[EntryKind(k) for k in kind],
            until=when.as_of,
            skip=first,
            most=count,
        )
        accounts = ledger.accounts(connection)
        names = ledger.called(connection, [k.entry.payer for k in kept if k.entry.payer])
        edits = ledger.times_edited(connection, [k.entry.id for k in kept])
    own = {a.id: a.currency for a in accounts}
    return EntriesOut(
        found=found,
        accounts=[account_out(a) for a in accounts],
        entries=[
            _entry(k, own.get(k.entry.account, ""), names, edits.get(k.entry.id, 0)) for k in kept
        ],
    )


def _entry(
    kept: KeptEntry, own: str, names: dict[tuple[str, str], tuple[str, str]], edits: int
) -> EntryOut:
    e = kept.entry
    digits = minor_digits(e.currency)
    exchange, symbol = e.payer or ("", "")
    into_exchange, into_symbol = e.into or ("", "")
    converts = e.kind is EntryKind.CONVERSION
    return EntryOut(
        id=e.id,
        account=e.account,
        kind=e.kind.value,
        day=e.day,
        exchange=exchange,
        symbol=symbol,
        name=names.get(e.payer, (None, ""))[0] if e.payer else None,
        shares=None if e.shares is None else shares_text(e.shares),
        price=None if e.price is None else exact_text(e.price),
        amount=_money(e.amount, digits),
        comes_to=_money(_comes_to(e), digits),
        currency=e.currency,
        fee=_money(e.fee or None, digits),
        tax=_money(e.tax or None, digits),
        withheld=_money(e.withheld or None, digits),
        returned=_money(e.returned or None, digits),
        spent=_money(e.spent, digits),
        settled=_money(e.settled, minor_digits(own)),
        bought=e.bought,
        to=e.to,
        into_exchange=into_exchange,
        into_symbol=into_symbol,
        new=exact_text(e.new) if converts else None,
        old=exact_text(e.old) if converts else None,
        cash=exact_text(e.cash) if converts else None,
        moves=exact_text(e.moves) if converts else None,
        into_amount=_money(e.into_amount, minor_digits(e.into_currency)),
        into_currency=e.into_currency,
        note=e.note,
        reference=e.reference,
        chosen=[ChosenOut(day=d, shares=shares_text(n)) for d, n in e.chosen],
        edits=edits,
        source=kept.source,
        deleted=kept.deleted_at is not None,
    )


def _comes_to(e: Entry) -> int | None:
    """What a trade cost or brought in all, typed or not."""
    if e.kind is EntryKind.BUY:
        return e.paid
    if e.kind in (EntryKind.OPENING, EntryKind.TRANSFER):
        return e.cost
    return e.brought if e.kind is EntryKind.SELL else e.amount


def exact_text(value: Decimal) -> str:
    return format(value, "f")


def shares_text(units: int) -> str:
    return exact_text(as_decimal(units, SHARE_DIGITS).normalize())


def _money(units: int | None, digits: int) -> str | None:
    return None if units is None else exact_text(as_decimal(units, digits))


def _read(here: Here, said: EntryIn, id: int = 0) -> Entry:
    """Raises InvalidInput, NotFound without such an account."""
    key = (said.exchange, said.symbol)
    with here.database.read() as connection:
        own = ledger.get_account(connection, said.account).currency
        usual = ledger.called(connection, [key]).get(key, ("", own))[1]
    return said.entry(own, usual, id)


@router.post("/entries", status_code=201, responses={409: {"model": Problem}})
def add_entry(here: Here, said: EntryIn) -> EntryMade:
    id = keep_entries.add_entry(
        here.cache,
        _read(here, said),
        today=here.moment().today,
        at=here.now(),
        intention=said.intention,
        ask=said.ask,
    )
    return EntryMade(id=id)


@router.put("/entries/{id}", status_code=204, responses={409: {"model": Problem}})
def change_entry(here: Here, id: Id, said: EntryIn) -> None:
    """What it said before is kept."""
    keep_entries.change_entry(
        here.cache,
        _read(here, said, id),
        today=here.moment().today,
        at=here.now(),
        ask=said.ask,
        edits=said.edits,
    )


@wire
class FormerOut:
    """What an entry said until then."""

    until: str
    entry: EntryOut


@router.get("/entries/{id}/former")
def former(here: Here, id: Id) -> list[FormerOut]:
    """What an entry said before it was changed, the newest first."""
    with here.database.read() as connection:
        kept = ledger.get(connection, id)
        own = {a.id: a.currency for a in ledger.accounts(connection)}
        said = ledger.former(connection, id)
        names = ledger.called(connection, [e.payer for _, e in said if e.payer])
    return [
        FormerOut(
            until=until,
            entry=_entry(replace(kept, entry=e), own.get(e.account, ""), names, len(said) - 1 - n),
        )
        for n, (until, e) in enumerate(said)
    ]


@router.delete("/entries/{id}", status_code=204, responses={409: {"model": Problem}})
def delete_entry(here: Here, id: Id, ask: bool = False) -> None:
    """It can be put back. ask: refused where more would go than was held without it."""
    keep_entries.delete_entry(here.cache, id, today=here.moment().today, at=here.now(), ask=ask)


@router.post("/entries/{id}/restore", status_code=204, responses={409: {"model": Problem}})
def put_back_entry(here: Here, id: Id) -> None:
    keep_entries.put_back_entry(here.cache, id)
