"""Which fields each kind of entry has, and what an entry must be. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date
from typing import Literal

from ..errors import InvalidInput
from .amounts import worth
from .entries import Account, Entry, EntryKind

FieldType = Literal["payer", "shares", "price", "money", "day", "account", "ratio", "currency"]
APART = 200
"""A typed total is asked about where it is more than one part of so many from shares × price."""


@dataclass(frozen=True, slots=True, kw_only=True)
class EntryField:
    """A field of an entry as it is typed. below_nil: that it may be."""

    id: str
    name: str
    type: FieldType
    means: str = ""
    below_nil: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class KindOfEntry:
    """needs: fields without which it says nothing; may: those it can have besides. did: the word
    for it in a list. either: one of these is needed."""

    kind: EntryKind
    name: str
    did: str
    means: str
    needs: tuple[str, ...]
    may: tuple[str, ...] = ()
    either: tuple[str, ...] = ()

    @property
    def has(self) -> tuple[str, ...]:
        return tuple(dict.fromkeys((*self.needs, *self.either, *self.may)))


FIELDS: dict[str, EntryField] = {
    f.id: f
    for f in (
        EntryField(id="payer", name="Payer", type="payer"),
        EntryField(id="shares", name="Shares", type="shares"),
        EntryField(id="price", name="Price a share", type="price"),
        EntryField(id="amount", name="Amount", type="money"),
        EntryField(id="fee", name="Fee", type="money"),
        EntryField(id="tax", name="Tax", type="money"),
        EntryField(id="withheld", name="Tax withheld", type="money"),
        EntryField(
            id="returned",
            name="Returned capital in it",
            type="money",
            means="What of the gross is the payer’s capital that comes back: it takes cost.",
        ),
        EntryField(id="spent", name="Spent on shares", type="money"),
        EntryField(
            id="settled",
            name="Settled in the account’s currency",
            type="money",
            means="What was moved in the account’s own currency; it tells the rate.",
        ),
        EntryField(id="bought", name="Day bought", type="day"),
        EntryField(id="to", name="To account", type="account"),
        EntryField(id="into", name="New payer", type="payer"),
        EntryField(id="new", name="New shares", type="ratio"),
        EntryField(id="old", name="for old shares", type="ratio"),
        EntryField(
            id="cash",
            name="Cash for an old share",
            type="price",
            means="Below nil where it was paid, as for rights.",
            below_nil=True,
        ),
        EntryField(
            id="moves",
            name="Part of the cost that goes over",
            type="ratio",
            means="1 for all: then the old shares end.",
        ),
        EntryField(id="into_amount", name="Amount received", type="money"),
        EntryField(id="into_currency", name="Currency received", type="currency"),
    )
}


def _kind(
    kind: EntryKind, name: str, did: str, means: str, needs: str, may: str = "", either: str = ""
) -> KindOfEntry:
    return KindOfEntry(
        kind=kind,
        name=name,
        did=did,
        means=means,
        needs=tuple(needs.split()),
        may=tuple(may.split()),
        either=tuple(either.split()),
    )


KINDS: dict[EntryKind, KindOfEntry] = {
    k.kind: k
    for k in (
        _kind(
            EntryKind.BUY,
            "Buy",
            "bought",
            "Shares bought: at a price with a fee, or for an amount in all.",
            "payer shares",
            "fee tax settled",
            "price amount",
        ),
        _kind(
            EntryKind.SELL,
            "Sale",
            "sold",
            "Shares sold: the amount is what came in, after fee and tax.",
            "payer shares",
            "fee tax settled",
            "price amount",
        ),
        _kind(
            EntryKind.OPENING,
            "Opening",
            "held",
            "Shares that were held at the start of the day; what they cost and when they were "
            "bought, if you know.",
            "payer shares",
            "price amount bought settled",
        ),
        _kind(
            EntryKind.DIVIDEND,
            "Dividend",
            "received",
            "A dividend that came; the amount is before what was withheld.",
            "payer amount",
            "withheld fee returned settled",
        ),
        _kind(
            EntryKind.REINVESTMENT,
            "Reinvestment",
            "reinvested",
            "A dividend and the shares it bought, or that was taken in shares; what is left over "
            "stays as cash.",
            "payer amount shares",
            "withheld fee returned settled",
            "spent price",
        ),
        _kind(
            EntryKind.RETURN_OF_CAPITAL,
            "Returned capital",
            "got back",
            "Capital that a payer gave back: it takes cost and is no income.",
            "payer amount",
            "settled",
        ),
        _kind(
            EntryKind.TRANSFER,
            "Transfer",
            "moved",
            "Shares that go to another account with their cost, come from outside, or leave it.",
            "payer shares",
            "to price amount bought",
        ),
        _kind(
            EntryKind.CONVERSION,
            "Conversion",
            "converted",
            "New shares for old: a merger, a spin-off, rights, a new symbol; without a new payer "
            "it was taken over for cash, or ended worthless.",
            "payer",
            "into new old cash moves",
        ),
        _kind(EntryKind.DEPOSIT, "Deposit", "put in", "Cash that was put in.", "amount", "settled"),
        _kind(
            EntryKind.WITHDRAWAL,
            "Withdrawal",
            "took out",
            "Cash that was taken out.",
            "amount",
            "settled",
        ),
        _kind(
            EntryKind.EXCHANGE,
            "Exchange",
            "exchanged",
            "Money of one currency for another.",
            "amount into_amount into_currency",
        ),
        _kind(
            EntryKind.INTEREST,
            "Interest",
            "earned",
            "Interest on cash; below nil where it was paid.",
            "amount",
            "settled",
        ),
        _kind(EntryKind.FEE, "Fee", "paid", "A fee of the account.", "amount", "payer settled"),
        _kind(
            EntryKind.TAX,
            "Tax",
            "paid in tax",
            "Tax paid; a refund is below nil.",
            "amount",
            "payer settled",
        ),
        _kind(
            EntryKind.STATED,
            "Statement",
            "stated",
            "Shares of a payer, or cash, that the institution says are there at the day’s end. It "
            "changes nothing in the ledger; Holdings says where the two differ.",
            "",
            "payer",
            "shares amount",
        ),
    )
}
SIGNED = {
    (EntryKind.TAX, "amount"),
    (EntryKind.INTEREST, "amount"),
    (EntryKind.TRANSFER, "shares"),
    (EntryKind.STATED, "amount"),
}
"""What may be below nil."""
NIL = {(EntryKind.STATED, "shares"), (EntryKind.STATED, "amount"), (EntryKind.OPENING, "amount")}
WHOLE = ("new", "old", "moves")
"""Fields that are 1 where nobody typed them."""


MOST = {"price": 10**9, "ratio": 10**6}
"""Beyond which a field is a slip."""
CHOOSES = (EntryKind.SELL, EntryKind.TRANSFER)


def is_currency(text: str) -> bool:
    """Whether it is written as currencies are."""
    return len(text) == 3 and text.isascii() and text.isalpha()


MOST_NAME = 60


def tidy_account(made: Account) -> Account:
    return replace(made, name=made.name.strip(), currency=made.currency.strip().upper())


def check_account(made: Account, others: Iterable[Account]) -> None:
    """Raises InvalidInput for a name that is empty, too long or taken, and for no currency."""
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


def check_entry(entry: Entry, accounts: Mapping[int, Account], today: date) -> None:
    """Raises InvalidInput naming the field for an entry that says too little, or what cannot be."""
    kind = KINDS[entry.kind]
    account = accounts.get(entry.account)
    if account is None:
        raise _refused("account", entry.account, "an account of yours")
    if entry.day > today:
        raise _refused("day", entry.day.isoformat(), f"on or before {today.isoformat()}")
    if account.closed_on is not None and entry.day > account.closed_on:
        raise _refused("day", entry.day.isoformat(), f"by {account.closed_on}, when it was closed")
    for name, said in (("currency", entry.currency), ("into_currency", entry.into_currency)):
        if said and not is_currency(said):
            raise _refused(name, said[:20], "three letters")
    for name in kind.needs:
        if not _has(entry, name):
            raise _refused(name, None, f"{FIELDS[name].name.lower()} of a {kind.name.lower()}")
    if kind.either and not any(_has(entry, name) for name in kind.either):
        named = " or ".join(FIELDS[n].name.lower() for n in kind.either)
        raise _refused(kind.either[0], None, f"{named} of a {kind.name.lower()}")
    for name in FIELDS:
        if name not in kind.has and name != "payer" and _has(entry, name):
            raise _refused(name, _said(entry, name), f"nothing: a {kind.name.lower()} has no such")
    if entry.chosen and (
        entry.kind not in CHOOSES
        or any(n <= 0 for _, n in entry.chosen)
        or sum(n for _, n in entry.chosen) > abs(entry.shares or 0)
    ):
        raise _refused("chosen", len(entry.chosen), "lots of what goes, together no more than that")
    if entry.kind is EntryKind.STATED and entry.shares is not None and entry.payer is None:
        raise _refused("payer", None, "payer of the shares that are stated")
    _check_sizes(entry, kind)
    _check_targets(entry, accounts)


def _has(entry: Entry, name: str) -> bool:
    value = getattr(entry, name)
    if (entry.kind, name) in NIL:
        return value is not None
    return value not in (None, "", 0) and not (name in WHOLE and value == 1)


def _said(entry: Entry, name: str) -> object:
    value = getattr(entry, name)
    return value if isinstance(value, str | int) else str(value)


def _check_sizes(entry: Entry, kind: KindOfEntry) -> None:
    for name in kind.has:
        value = getattr(entry, name)
        if FIELDS[name].type not in ("shares", "price", "money", "ratio") or value is None:
            continue
        free = FIELDS[name].below_nil or (entry.kind, name) in SIGNED
        if value < 0 and not free:
            raise _refused(name, str(value), "0 or more")
        most = MOST.get(FIELDS[name].type)
        if most is not None and abs(value) > most:
            raise _refused(name, str(value), f"at most {most:,}")
    if entry.kind is EntryKind.CONVERSION and not (entry.new > 0 < entry.old):
        raise _refused("new", f"{entry.new} for {entry.old}", "more than 0 for more than 0")
    if not 0 <= entry.moves <= 1:
        raise _refused("moves", str(entry.moves), "from 0 to 1")
    if "returned" in kind.has and entry.returned > (entry.amount or 0):
        raise _refused("returned", entry.returned, "no more than the amount")
    if entry.net < 0 and entry.kind in (EntryKind.DIVIDEND, EntryKind.REINVESTMENT):
        raise _refused("withheld", entry.withheld, "no more than the amount, with the fee")


def _check_targets(entry: Entry, accounts: Mapping[int, Account]) -> None:
    if entry.to is not None and (entry.to not in accounts or entry.to == entry.account):
        raise _refused("to", entry.to, "another account of yours")
    if entry.to is not None and (entry.shares or 0) < 0:
        raise _refused("shares", entry.shares, "more than 0 to another account")


def _refused(field: str, value: object, rule: str) -> InvalidInput:
    name = FIELDS[field].name.lower() if field in FIELDS else field
    said = f"{name} is missing" if value is None else f"this {name} cannot be"
    return InvalidInput(said, field=field, value=value, rule=rule)


def total_apart(entry: Entry) -> int | None:
    """What a buy or a sale would come to by its shares and price, where a total that was typed
    differs by more than half a per cent; None where it does not, or nothing can be compared."""
    if entry.kind not in (EntryKind.BUY, EntryKind.SELL):
        return None
    if entry.price is None or entry.amount is None or not entry.shares:
        return None
    plain = worth(entry.shares, entry.price, entry.currency)
    sides = entry.fee + entry.tax
    expected = plain + sides if entry.kind is EntryKind.BUY else plain - sides
    return expected if abs(entry.amount - expected) * APART > abs(expected) else None
