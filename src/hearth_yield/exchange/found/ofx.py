"""Statements of accounts in OFX: the old form (SGML), the newer (XML) and their relatives, as
sheets of transactions and positions.

Read by its tags alone, whatever else is wrong with it: nothing is looked up, no entity but those of
plain text is known, days stay as they are written, and what is broken in one transaction costs that
one. (Open Financial Exchange 1.0.3 and 2.2, chapters 11 and 13)
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from decimal import Decimal, InvalidOperation
from html import unescape

_TAG = re.compile(r"<(/?)([A-Za-z][A-Za-z0-9_.:-]*)[^<>]*>([^<]*)")
_CLOSED = re.compile(r"</([A-Za-z][A-Za-z0-9_.:-]*)\s*>")
DEEPEST = 40
LONGEST = 300
HEAD = (
    *("Account", "Trade date", "Type", "Symbol", "ISIN", "Name", "Quantity", "Price", "Money in"),
    *("Money out", "Commission", "Tax", "Tax withheld", "Currency", "Settled amount"),
    *("Average cost", "Date bought", "Description", "Reference"),
)
POSITIONS_HEAD = (
    *("Account", "As of", "Symbol", "ISIN", "Name", "Quantity", "Market price", "Balance"),
    *("Currency", "Average cost"),
)
_BOUGHT = ("BUYSTOCK", "BUYMF", "BUYDEBT", "BUYOTHER")
_SOLD = ("SELLSTOCK", "SELLMF", "SELLDEBT", "SELLOTHER")
KINDS = {
    **dict.fromkeys(_BOUGHT, "buy"),
    **dict.fromkeys(_SOLD, "sell"),
    **dict.fromkeys(("BUYOPT", "SELLOPT", "CLOSUREOPT"), "option exercise"),
    **dict.fromkeys(("JRNLFUND", "JRNLSEC"), "journal"),
    "INCOME": "dividend",
    "REINVEST": "reinvestment",
    "RETOFCAP": "return of capital",
    "TRANSFER": "transfer",
    "INVEXPENSE": "fee",
    "MARGININTEREST": "interest",
    "SPLIT": "stock split",
    "INVBANKTRAN": "",
    "STMTTRN": "",
}
"""What each transaction is called in the sheet; of cash it depends."""
OF_CASH = {
    **dict.fromkeys(("INT",), "interest"),
    **dict.fromkeys(("DIV",), "dividend"),
    **dict.fromkeys(("FEE", "SRVCHG"), "fee"),
}
SHORT = ("SELLSHORT", "BUYTOCOVER")
POSITIONS = ("POSSTOCK", "POSMF", "POSDEBT", "POSOTHER", "POSOPT")

Row = Sequence[str | None]


@dataclass(slots=True)
class Part:
    """An aggregate: its values by name, and what is in it."""

    name: str
    values: dict[str, str] = field(default_factory=dict)
    parts: list[Part] = field(default_factory=list)

    def get(self, *names: str) -> str:
        """The first value of that name here or deeper, but not in a currency of its own."""
        for name in names:
            found = self._find(name)
            if found:
                return found
        return ""

    def _find(self, name: str) -> str:
        if name in self.values:
            return self.values[name]
        return next((v for p in self.parts if (v := p._find(name))), "")

    def all(self, names: Mapping[str, object] | Sequence[str]) -> Iterator[Part]:
        """Parts of these names, outermost ones only."""
        for part in self.parts:
            if part.name in names:
                yield part
            else:
                yield from part.all(names)

    def first(self, name: str) -> Part | None:
        return next(self.all((name,)), None)


def is_ofx(text: str) -> bool:
    head = text[:4000].lstrip("\ufeff \r\n\t").upper()
    return head.startswith("OFXHEADER") or "<OFX>" in head


def tree_of(text: str) -> Part:
    """The aggregates of a document. A value ends with the next tag, whether it is closed or not;
    one transaction never stands in another."""
    closed = {name.upper() for name in _CLOSED.findall(text)}
    root = Part("")
    stack = [root]
    for slash, raw_name, raw in _TAG.findall(text):
        name, value = raw_name.upper(), raw.strip()
        if slash:
            places = [n for n, p in enumerate(stack) if p.name == name and n]
            if places:
                del stack[places[-1] :]
            continue
        transaction = name in KINDS or name in POSITIONS
        if value or (name not in closed and not transaction):
            stack[-1].values.setdefault(name, unescape(value)[:LONGEST])
            continue
        if transaction:
            _leave(stack, name)
        part = Part(name)
        stack[-1].parts.append(part)
        if len(stack) < DEEPEST:
            stack.append(part)
    return root


def _leave(stack: list[Part], name: str) -> None:
    """Ends transactions that were not ended, as another begins."""
    within = [n for n, p in enumerate(stack) if p.name in KINDS or p.name in POSITIONS]
    if within and not (name == "STMTTRN" and stack[within[0]].name == "INVBANKTRAN"):
        del stack[within[0] :]


@dataclass(slots=True)
class Statement:
    """Sheets of one document. left: what of it is in none. currency: of all its accounts, where it
    is one."""

    transactions: list[Row]
    positions: list[Row]
    left: list[str]
    currency: str = ""


def statement_of(text: str) -> Statement:
    root = tree_of(text)
    securities = _securities(root)
    made = Statement([], [], [])
    statements = list(root.all(("INVSTMTRS", "STMTRS", "CCSTMTRS")))
    for statement in statements:
        _Reader(statement, securities, made).read()
    codes = {s.values.get("CURDEF", "") for s in statements}
    made.currency = codes.pop() if len(codes) == 1 else ""
    return made


Security = tuple[str, str, str]
"""Symbol, ISIN or CUSIP, name."""


def _securities(root: Part) -> Mapping[str, Security]:
    found = {}
    for info in root.all(("SECINFO",)):
        id = info.get("UNIQUEID")
        ticker = info.get("TICKER")
        own = bool(ticker) and id.endswith(f"/{ticker}")  # by exchange and symbol, as we write it
        found[id] = (id if own else ticker, _code(info), info.get("SECNAME"))
    return found


def _code(part: Part) -> str:
    """An ISIN, or the CUSIP that stands in one."""
    id = part.get("UNIQUEID")
    return id if part.get("UNIQUEIDTYPE").upper() in ("ISIN", "CUSIP") or len(id) == 12 else ""


class _Reader:
    def __init__(
        self, statement: Part, securities: Mapping[str, Security], made: Statement
    ) -> None:
        self._statement, self._securities, self._made = statement, securities, made
        self._account = statement.get("ACCTID")
        self._currency = statement.values.get("CURDEF", "")

    def read(self) -> None:
        transactions = list(self._statement.all(KINDS))
        for one in self._not_reversed(transactions):
            self._made.transactions.append(self._row(one))
        as_of = day_of(self._statement.values.get("DTASOF", ""))
        for held in self._statement.all(POSITIONS):
            self._made.positions.append(self._position(held, as_of))
        self._cash(as_of)

    def _not_reversed(self, transactions: Sequence[Part]) -> list[Part]:
        """Without those that take another back, or mend it, and those that are taken back."""
        gone: set[str] = set()
        names = {t.get("FITID") for t in transactions}
        for one in transactions:
            other = one.get("REVERSALFITID")
            mended = one.get("CORRECTFITID")
            if other:
                gone |= {other, one.get("FITID")}
                self._say_gone(one, other, names, "takes back")
            elif mended:
                gone.add(mended)
                if one.get("CORRECTACTION").upper() == "DELETE":
                    gone.add(one.get("FITID"))
                self._say_gone(one, mended, names, "mends")
        return [t for t in transactions if not t.get("FITID") or t.get("FITID") not in gone]

    def _say_gone(self, one: Part, other: str, names: set[str], does: str) -> None:
        own = one.get("FITID") or one.name
        if other in names:
            self._made.left.append(f"transaction {other[:60]}, which {own[:60]} {does}")
        else:
            self._made.left.append(
                f"transaction {own[:60]} {does} {other[:60]}, which is not in this file; delete "
                "that under Holdings, Entries"
            )

    def _row(self, one: Part) -> Row:
        symbol, code, name = self._security(one)
        total = number_of(one.get("TOTAL", "TRNAMT"))
        currency, settled = self._currency_of(one, total)
        cost = one.get("AVGCOSTBASIS") or (one.get("UNITPRICE") if one.name == "TRANSFER" else "")
        came, went = (total, None) if total is not None and total > 0 else (None, total)
        return (
            self._account,
            day_of(one.get("DTTRADE", "DTPOSTED", "DTSETTLE")),
            _kind(one),
            symbol,
            code,
            name,
            one.get("UNITS"),
            "" if one.name == "TRANSFER" else one.get("UNITPRICE"),
            _text(came),
            _text(-went if went is not None else None),
            _text(_sum(one, "COMMISSION", "FEES", "LOAD")),
            _text(_sum(one, "TAXES")),
            _text(_sum(one, "WITHHOLDING", "STATEWITHHOLDING")),
            currency,
            _text(settled),
            cost,
            day_of(one.get("DTPURCHASE")),
            " ".join(filter(None, dict.fromkeys((one.get("NAME"), one.get("MEMO"))))),
            one.get("FITID"),
        )

    def _security(self, one: Part) -> Security:
        id = one.get("UNIQUEID")
        symbol, code, name = self._securities.get(id, ("", "", ""))
        code = code or _code(one)
        return symbol, code, name or ("" if symbol or code else id)

    def _currency_of(self, one: Part, total: Decimal | None) -> tuple[str, Decimal | None]:
        """What its amounts are in, and what that is in the account's own."""
        other = one.first("CURRENCY")
        code = other.values.get("CURSYM", "") if other else ""
        if not code or code == self._currency or other is None:
            return self._currency, None
        rate = number_of(other.values.get("CURRATE", ""))
        settled = None if rate is None or total is None else round(abs(total) * rate, 2)
        return code, settled

    def _position(self, held: Part, as_of: str) -> Row:
        symbol, code, name = self._security(held)
        units = number_of(held.get("UNITS"))
        if units is not None and held.get("POSTYPE").upper() == "SHORT":
            units = -abs(units)
        if held.name == "POSOPT":
            self._made.left.append(
                f"options of {name or symbol or code}, which the ledger does not keep"
            )
            units = None
        return (
            self._account,
            as_of or day_of(held.get("DTPRICEASOF")),
            symbol,
            code,
            name,
            _text(units),
            held.get("UNITPRICE"),
            None,
            held.get("CURSYM") or self._currency,
            held.get("AVGCOSTBASIS") or None,
        )

    def _cash(self, as_of: str) -> None:
        there = self._statement.first("INVBAL"), self._statement.first("LEDGERBAL")
        balance = next((p for p in there if p is not None), None)
        amount = number_of(balance.get("AVAILCASH", "BALAMT")) if balance else None
        if balance is None or amount is None:
            return
        day = as_of or day_of(balance.get("DTASOF"))
        row = (self._account, day, "", "", "", None, None, _text(amount), self._currency, None)
        self._made.positions.append(row)


def _kind(one: Part) -> str:
    kind = KINDS[one.name]
    if one.get("BUYTYPE").upper() in SHORT or one.get("SELLTYPE").upper() in SHORT:
        return "sell short"
    if one.name == "TRANSFER":
        return f"transfer {'out' if one.get('TFERACTION').upper() == 'OUT' else 'in'}"
    if one.name == "INCOME" and one.get("INCOMETYPE").upper() == "INTEREST":
        return "dividend" if one.get("UNIQUEID") else "interest"
    if one.name in ("STMTTRN", "INVBANKTRAN"):
        kind = OF_CASH.get(one.get("TRNTYPE").upper(), "")
        total = number_of(one.get("TRNAMT")) or Decimal(0)
        return kind or ("credit" if total > 0 else "debit")
    return kind


def number_of(text: str) -> Decimal | None:
    """A number as the standard has them: a point or a comma before its decimals, no groups."""
    try:
        value = Decimal(text.strip().replace(",", "."))
    except InvalidOperation:
        return None
    return value if value.is_finite() else None


def _sum(one: Part, *names: str) -> Decimal | None:
    found = [n for name in names if (n := number_of(one.get(name))) is not None]
    return sum(found, Decimal(0)) if found else None


def _text(value: Decimal | None) -> str | None:
    return None if value is None else f"{value:f}"


def day_of(text: str) -> str:
    """The day of a moment as it is written, whatever its time zone: 20260105120000[-5:EST]."""
    return f"{text[:4]}-{text[4:6]}-{text[6:8]}" if text[:8].isdigit() and len(text) >= 8 else ""
