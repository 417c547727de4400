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

Row = Sequence[str]


@dataclass(slots=True)
class Part:
    """An aggregate: its values by name, and what is in it."""

    name: str
    values: dict[str, str] = field(default_factory=dict)
    parts: list[Part] = field(default_factory=list)
    _told: dict[str, str] | None = None

    def get(self, name: str) -> str:
        """The first value of that name here or deeper; empty where there is none."""
        return self.told().get(name, "")

    def told(self) -> dict[str, str]:
        """All values here and deeper, the outermost of a name."""
        if self._told is None:
            held: dict[str, str] = {}
            for part in reversed(self.parts):
                held.update(part.told())
            self._told = held | self.values if held else self.values
        return self._told

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
    closed = {name.upper() for name in set(_CLOSED.findall(text))}
    root = Part("")
    stack = [root]
    for slash, raw_name, raw in _TAG.findall(text):
        name, value = raw_name.upper(), raw.strip()
        if slash:
            if stack[-1].name == name and len(stack) > 1:
                stack.pop()
            elif name in closed:
                places = [n for n, p in enumerate(stack) if p.name == name and n]
                if places:
                    del stack[places[-1] :]
            continue
        transaction = name in KINDS or name in POSITIONS
        if value or (name not in closed and not transaction):
            told = unescape(value) if "&" in value else value
            stack[-1].values.setdefault(name, told[:LONGEST])
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
        told = one.told()
        get = told.get
        symbol, code, name = self._security(one)
        total = (get("TOTAL") or get("TRNAMT") or "").replace(",", ".")
        currency, settled = self._currency_of(one, total)
        of_transfer = one.name == "TRANSFER"
        price, out = get("UNITPRICE", ""), total.startswith("-")
        return (
            self._account,
            day_of(get("DTTRADE") or get("DTPOSTED") or get("DTSETTLE") or ""),
            _kind(one, told, total),
            symbol,
            code,
            name,
            get("UNITS", ""),
            "" if of_transfer else price,
            "" if out else total,
            total[1:] if out else "",
            _sum(told, "COMMISSION", "FEES", "LOAD"),
            get("TAXES", ""),
            _sum(told, "WITHHOLDING", "STATEWITHHOLDING"),
            currency,
            settled,
            get("AVGCOSTBASIS") or (price if of_transfer else ""),
            day_of(get("DTPURCHASE", "")),
            " ".join(filter(None, dict.fromkeys((get("NAME"), get("MEMO"))))),
            get("FITID", ""),
        )

    def _security(self, one: Part) -> Security:
        id = one.get("UNIQUEID")
        symbol, code, name = self._securities.get(id, ("", "", ""))
        code = code or _code(one)
        return symbol, code, name or ("" if symbol or code else id)

    def _currency_of(self, one: Part, total: str) -> tuple[str, str]:
        """What its amounts are in, and what that is in the account's own."""
        if "CURSYM" not in one.told():
            return self._currency, ""
        other = one.first("CURRENCY")
        code = other.values.get("CURSYM", "") if other else ""
        if other is None or not code or code == self._currency:
            return self._currency, ""
        rate, amount = number_of(other.values.get("CURRATE", "")), number_of(total)
        settled = "" if rate is None or amount is None else f"{round(abs(amount) * rate, 2):f}"
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
            "",
            held.get("CURSYM") or self._currency,
            held.get("AVGCOSTBASIS"),
        )

    def _cash(self, as_of: str) -> None:
        there = self._statement.first("INVBAL"), self._statement.first("LEDGERBAL")
        balance = next((p for p in there if p is not None), None)
        amount = number_of(balance.get("AVAILCASH") or balance.get("BALAMT")) if balance else None
        if balance is None or amount is None:
            return
        day = as_of or day_of(balance.get("DTASOF"))
        row = (self._account, day, "", "", "", "", "", _text(amount), self._currency, "")
        self._made.positions.append(row)


def _kind(one: Part, told: Mapping[str, str], total: str) -> str:
    kind = KINDS[one.name]
    if kind in ("buy", "sell"):
        of = told.get("BUYTYPE") or told.get("SELLTYPE") or ""
        return "sell short" if of.upper() in SHORT else kind
    if one.name == "TRANSFER":
        return f"transfer {'out' if told.get('TFERACTION', '').upper() == 'OUT' else 'in'}"
    if one.name == "INCOME" and told.get("INCOMETYPE", "").upper() == "INTEREST":
        return "dividend" if "UNIQUEID" in told else "interest"
    if not kind:
        cash = OF_CASH.get(told.get("TRNTYPE", "").upper(), "")
        return cash or ("debit" if total.startswith("-") else "credit")
    return kind


def number_of(text: str) -> Decimal | None:
    """A number as the standard has them: a point or a comma before its decimals, no groups."""
    try:
        value = Decimal(text.strip().replace(",", "."))
    except InvalidOperation:
        return None
    return value if value.is_finite() else None


def _sum(told: Mapping[str, str], *names: str) -> str:
    parts = [told[n] for n in names if n in told]
    if len(parts) < 2:
        return parts[0] if parts else ""
    return f"{sum((n for p in parts if (n := number_of(p)) is not None), Decimal(0)):f}"


def _text(value: Decimal | None) -> str:
    return "" if value is None else f"{value:f}"


def day_of(text: str) -> str:
    """The day of a moment as it is written, whatever its time zone: 20260105120000[-5:EST]."""
    return f"{text[:4]}-{text[4:6]}-{text[6:8]}" if text[:8].isdigit() and len(text) >= 8 else ""
