"""Accounts as statements in OFX 2 (XML), for other programs. (Open Financial Exchange 2.2, 13.9)

What the standard has no word for stays out: conversions, exchanges of currencies, what institutions
stated, and the lots that were chosen; `write_ofx` says how many lines that are. A dividend's total
is its gross; its tax stands beside it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from xml.etree.ElementTree import Element, SubElement, indent, tostring

from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Account, Entry, EntryKind, PayerKey

HEADER = (
    '<?xml version="1.0" encoding="UTF-8" standalone="no"?>\n'
    '<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>\n'
)
PRICE = Decimal(1).scaleb(-8)
BANK = {
    EntryKind.DEPOSIT: "DEP",
    EntryKind.WITHDRAWAL: "PAYMENT",
    EntryKind.INTEREST: "INT",
    EntryKind.FEE: "FEE",
    EntryKind.TAX: "OTHER",
}
"""Kinds of cash, as the standard calls them."""
OUT = (EntryKind.WITHDRAWAL, EntryKind.FEE, EntryKind.TAX)


@dataclass(frozen=True, slots=True)
class Named:
    """What is known of a payer: its name and ISIN."""

    name: str
    isin: str | None = None


@dataclass(frozen=True, slots=True)
class Written:
    """left: entries that the standard has no word for."""

    raw: bytes
    left: int


def write_ofx(
    accounts: Sequence[Account],
    entries: Sequence[Entry],
    payers: Mapping[PayerKey, Named],
    day: date,
) -> Written:
    """One document, as of a day, with a statement for each account: one for each currency in which
    something is entered, but that what was settled in the account's own stands in that one."""
    root = Element("OFX")
    _sign_on(root, day)
    messages = SubElement(root, "INVSTMTMSGSRSV1")
    securities: dict[PayerKey, None] = {}
    left = 0
    for account in accounts:
        by_currency: dict[str, list[Entry]] = {}
        for entry in entries:
            if account.id in (entry.account, entry.to):
                own = account.currency if entry.settled is not None else entry.currency
                by_currency.setdefault(own, []).append(entry)
        for currency, mine in sorted(by_currency.items()):
            one = _Statement(messages, account, currency, payers, day)
            left += one.write(mine)
            securities |= dict.fromkeys(one.securities)
    if securities:
        _securities(root, securities, payers)
    indent(root)
    return Written(HEADER.encode() + tostring(root, encoding="utf-8") + b"\n", left)


def _sign_on(root: Element, day: date) -> None:
    answer = SubElement(SubElement(root, "SIGNONMSGSRSV1"), "SONRS")
    _status(answer)
    _put(answer, DTSERVER=_day(day), LANGUAGE="ENG")


def _status(into: Element) -> None:
    _put(SubElement(into, "STATUS"), CODE="0", SEVERITY="INFO")


def _securities(
    root: Element, keys: Mapping[PayerKey, None], payers: Mapping[PayerKey, Named]
) -> None:
    listed = SubElement(SubElement(root, "SECLISTMSGSRSV1"), "SECLIST")
    for key in keys:
        info = SubElement(SubElement(listed, "STOCKINFO"), "SECINFO")
        _security(info, key, payers)
        named = payers.get(key)
        _put(info, SECNAME=(named.name if named else key[1])[:120], TICKER=key[1])


def _security(into: Element, key: PayerKey, payers: Mapping[PayerKey, Named]) -> None:
    named = payers.get(key)
    isin = named.isin if named else None
    id = isin or "/".join(filter(None, key))
    _put(SubElement(into, "SECID"), UNIQUEID=id, UNIQUEIDTYPE="ISIN" if isin else "OTHER")


class _Statement:
    def __init__(
        self,
        messages: Element,
        account: Account,
        currency: str,
        payers: Mapping[PayerKey, Named],
        day: date,
    ) -> None:
        self._account, self._currency_of, self._payers = account, currency, payers
        self.securities: list[PayerKey] = []
        answer = SubElement(messages, "INVSTMTTRNRS")
        _put(answer, TRNUID=str(account.id))
        _status(answer)
        self._body = SubElement(answer, "INVSTMTRS")
        _put(self._body, DTASOF=_day(day), CURDEF=currency)
        named = SubElement(self._body, "INVACCTFROM")
        _put(named, BROKERID="hearth-yield", ACCTID=account.name)
        self._list = SubElement(self._body, "INVTRANLIST")
        self._day = day

    def write(self, entries: Sequence[Entry]) -> int:
        """Returns how many entries are left out."""
        first = min(e.day for e in entries)
        _put(self._list, DTSTART=_day(first), DTEND=_day(self._day))
        return sum(not self._entry(e) for e in sorted(entries, key=lambda e: (e.day, e.id)))

    def _entry(self, entry: Entry) -> bool:
        match entry.kind:
            case EntryKind.BUY | EntryKind.SELL:
                self._trade(entry)
            case EntryKind.DIVIDEND | EntryKind.REINVESTMENT:
                self._dividend(entry)
            case EntryKind.RETURN_OF_CAPITAL:
                self._returned(entry, entry.amount or 0, "C")
            case EntryKind.TRANSFER | EntryKind.OPENING:
                self._transfer(entry)
            case kind if kind in BANK:
                self._bank(entry)
            case _:
                return False
        return True

    def _trade(self, entry: Entry) -> None:
        bought = entry.kind is EntryKind.BUY
        outer = SubElement(self._list, "BUYSTOCK" if bought else "SELLSTOCK")
        inner = SubElement(outer, "INVBUY" if bought else "INVSELL")
        self._about(inner, entry)
        total = -entry.paid if bought else entry.brought
        sides = entry.fee + entry.tax
        plain = self._money(abs(total) - sides if bought else total + sides, entry.currency)
        shares = as_decimal(entry.shares or 0, SHARE_DIGITS)
        price = entry.price if entry.price is not None else _each(plain, shares)
        _put(
            inner,
            UNITS=_number(shares if bought else -shares),
            UNITPRICE=_number(price),
            COMMISSION=_number(self._money(entry.fee, entry.currency)),
            TAXES=_number(self._money(entry.tax, entry.currency)),
            TOTAL=_number(self._money(total, entry.currency)),
        )
        self._currency(inner, entry)
        _put(inner, SUBACCTSEC="CASH", SUBACCTFUND="CASH")
        _put(outer, **({"BUYTYPE": "BUY"} if bought else {"SELLTYPE": "SELL"}))

    def _dividend(self, entry: Entry) -> None:
        income = (entry.amount or 0) - entry.returned
        if income:
            one = SubElement(self._list, "INCOME")
            self._about(one, entry)
            _put(
                one,
                INCOMETYPE="DIV",
                TOTAL=_number(self._money(income, entry.currency)),
                SUBACCTSEC="CASH",
                SUBACCTFUND="CASH",
            )
            if entry.withheld:
                _put(one, WITHHOLDING=_number(self._money(entry.withheld, entry.currency)))
            self._currency(one, entry)
        if entry.returned:
            self._returned(entry, entry.returned, "C")
        if entry.fee:
            cost = SubElement(self._list, "INVEXPENSE")
            self._about(cost, entry, "F")
            _put(
                cost,
                TOTAL=_number(self._money(-entry.fee, entry.currency)),
                SUBACCTSEC="CASH",
                SUBACCTFUND="CASH",
            )
            self._currency(cost, entry)
        if entry.kind is EntryKind.REINVESTMENT:
            self._reinvested(entry)

    def _reinvested(self, entry: Entry) -> None:
        one = SubElement(self._list, "REINVEST")
        self._about(one, entry, "R")
        spent = self._money(entry.spent_on_shares, entry.currency)
        shares = as_decimal(entry.shares or 0, SHARE_DIGITS)
        price = entry.price if entry.price is not None else _each(spent, shares)
        _put(
            one,
            INCOMETYPE="DIV",
            TOTAL=_number(-spent),
            SUBACCTSEC="CASH",
            UNITS=_number(shares),
            UNITPRICE=_number(price),
        )
        self._currency(one, entry)

    def _returned(self, entry: Entry, amount: int, part: str) -> None:
        one = SubElement(self._list, "RETOFCAP")
        self._about(one, entry, part if entry.kind is not EntryKind.RETURN_OF_CAPITAL else "")
        _put(
            one,
            TOTAL=_number(self._money(amount, entry.currency)),
            SUBACCTSEC="CASH",
            SUBACCTFUND="CASH",
        )
        self._currency(one, entry)

    def _transfer(self, entry: Entry) -> None:
        """Shares that come or go, and those that were held at first: they came then."""
        one = SubElement(self._list, "TRANSFER")
        self._about(one, entry)
        shares = as_decimal(abs(entry.shares or 0), SHARE_DIGITS)
        coming = entry.kind is EntryKind.OPENING or entry.to == self._account.id or entry.arrives
        _put(one, SUBACCTSEC="CASH", UNITS=_number(shares if coming else -shares))
        _put(one, TFERACTION="IN" if coming else "OUT", POSTYPE="LONG")
        if coming and entry.cost is not None:
            cost = self._money(entry.cost, entry.currency)
            _put(one, AVGCOSTBASIS=_number(_each(cost, shares)))
        if coming and entry.bought is not None:
            _put(one, DTPURCHASE=_day(entry.bought))

    def _bank(self, entry: Entry) -> None:
        outer = SubElement(self._list, "INVBANKTRAN")
        one = SubElement(outer, "STMTTRN")
        sign = -1 if entry.kind in OUT else 1
        _put(
            one,
            TRNTYPE=BANK[entry.kind],
            DTPOSTED=_day(entry.day),
            TRNAMT=_number(self._money(sign * (entry.amount or 0), entry.currency)),
            FITID=_id(entry),
            NAME=entry.kind.value.capitalize(),
        )
        if entry.note:
            _put(one, MEMO=entry.note[:255])
        self._currency(one, entry)
        _put(outer, SUBACCTFUND="CASH")

    def _about(self, into: Element, entry: Entry, part: str = "") -> None:
        """Which transaction it is, and of which payer. part: of one that is written as several."""
        about = SubElement(into, "INVTRAN")
        _put(about, FITID=_id(entry) + (f"-{part}" if part else ""), DTTRADE=_day(entry.day))
        if entry.note:
            _put(about, MEMO=entry.note[:255])
        if entry.payer is not None:
            self.securities.append(entry.payer)
            _security(into, entry.payer, self._payers)

    def _currency(self, into: Element, entry: Entry) -> None:
        """Where it is none of the statement's: at the rate at which it was settled."""
        if entry.currency == self._currency_of or entry.settled is None or not entry.moved:
            return
        own = as_decimal(entry.settled, minor_digits(self._currency_of))
        rate = _each(own, abs(self._money(entry.moved, entry.currency)))
        _put(SubElement(into, "CURRENCY"), CURRATE=_number(rate), CURSYM=entry.currency)

    @staticmethod
    def _money(units: int, currency: str) -> Decimal:
        return as_decimal(units, minor_digits(currency))


def _each(total: Decimal, shares: Decimal) -> Decimal:
    return (total / shares).quantize(PRICE, ROUND_HALF_UP) if shares else Decimal(0)


def _id(entry: Entry) -> str:
    return entry.reference or f"hearth-yield-{entry.id}"


def _day(day: date) -> str:
    return f"{day:%Y%m%d}"


def _number(value: Decimal) -> str:
    return f"{value:f}"


def _put(into: Element, **values: str) -> None:
    for name, value in values.items():
        SubElement(into, name).text = value
