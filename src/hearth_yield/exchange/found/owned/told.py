"""The rows of a list of what a person owns, as they stand: each with its day, its kind, its payer
and its amounts, exact, and none of them judged yet."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_HALF_UP, Decimal

from ..dates import date_of, numbered_day
from ..made import Made, cell_name
from ..numbers import Style, exact_of, is_nil, is_small
from ..patience import tick
from ..sheets import Cell
from ..table import Found, text_of
from ..units import currencies_in, currency_code
from .forms import Form
from .whose import Names, Whose, payer_of_rows
from .words import SIGNS, SKIPPED, Called, is_sum, kind_called

NUMBERS = (
    *("shares", "price", "per_share", "gross", "net", "amount", "settled", "rate"),
    *("money_in", "money_out", "balance", "cost_a_share", "cost"),
)
SUMMED = ("fee", "tax", "withheld")
"""Of these there may be several columns, which are added."""
MONEY = ("net", "amount", "gross", "money_in", "money_out")
TEXTS = ("note", "reference", "account")
BESIDE = ("tax", "interest", "fee", "reinvestment", "return_of_capital", *SKIPPED)
"""What a row may be though its section is of another kind."""
OF_CASH = ("fee", "interest", "tax", "deposit", "withdrawal", "exchange")
"""Kinds that need no payer: only one that is stored is taken from their words."""
DAYS = ("day", "settle_day")
OF_A_SHARE = ("price", "per_share", "cost_a_share")
AMOUNTS = ("gross", "net", "amount", "fee", "tax", "withheld", "cost")
HUNDREDTH = Decimal("0.01")
PLACES = Decimal(1).scaleb(-10)
"""Beyond which the digits of a cell's binary number are noise."""
MOST_PLACES = 10
_DIGIT = re.compile(r"[\d(+−-]")
_COUNT = r"(?P<n>\d(?:[.,']?\d){0,18})"
_UNITS = r"(?:x|×|shares?|units?|stk\.?|stück|pcs\.?|titres|azioni|acciones)(?!\w)"
_EACH = r"(?:[A-Z]{3}\s?|[€£$]\s?)?(?P<p>\d(?:[.,']?\d){0,18})"
_AT = rf"(?:@|(?<!\w)(?:at|à|zu|a|for|je)(?!\w))\s*{_EACH}"
_TRADE = re.compile(rf"(?<![\w.,]){_COUNT}(?!\w)[^@\d]{{0,60}}?{_AT}", re.IGNORECASE)
_SHARES = re.compile(rf"(?<![\w.,]){_COUNT}\s*{_UNITS}", re.IGNORECASE)
_AFTER = re.compile(rf"(?<!\w)(?:stk\.?|stück|qty|quantity|shares|units)[ :]{{0,3}}{_COUNT}", re.I)
_FIRST = re.compile(rf"^\D{{0,24}}(?<![\w.,]){_COUNT}(?![\w.,%/])")


@dataclass(slots=True, kw_only=True)
class Told:
    """One row. n: its place in the sheet. back: it takes another one back. inward: of a transfer,
    whether it comes in. sign: the direction of its cash, where the row says it. small: its currency
    is told in hundredths. taxed_apart: a line of its own told the tax that was withheld. of: the
    dividend of a reinvestment, or the other side of an exchange."""

    n: int
    day: date
    kind: str | None = None
    back: bool = False
    inward: bool | None = None
    payer: Whose | None = None
    shares: Decimal | None = None
    price: Decimal | None = None
    per_share: Decimal | None = None
    gross: Decimal | None = None
    net: Decimal | None = None
    amount: Decimal | None = None
    settled: Decimal | None = None
    rate: Decimal | None = None
    balance: Decimal | None = None
    cost_a_share: Decimal | None = None
    cost: Decimal | None = None
    fee: Decimal = Decimal(0)
    tax: Decimal = Decimal(0)
    withheld: Decimal = Decimal(0)
    sign: int = 0
    currency: str | None = None
    small: bool = False
    bought: date | None = None
    account: str = ""
    note: str = ""
    reference: str = ""
    taxed_apart: bool = False
    of: Told | None = None

    @property
    def costs(self) -> Decimal:
        """Fees and taxes."""
        return abs(self.fee) + abs(self.tax) + abs(self.withheld)

    def to_whole(self, *, amounts_too: bool) -> None:
        """What its currency says is in hundredths, in whole ones."""
        if not self.small:
            return
        for name in (*OF_A_SHARE, *(AMOUNTS if amounts_too else ())):
            value = getattr(self, name)
            if value is not None:
                setattr(self, name, value * HUNDREDTH)
        self.small = False

    @property
    def moved(self) -> Decimal | None:
        """What it says that came or went in all."""
        if self.net is not None:
            return self.net
        return self.gross if self.amount is None else self.amount


def exact(cell: Cell, style: Style) -> Decimal | None:
    """A cell as a number with the digits that it is shown with; None where it holds none."""
    if isinstance(cell, str):
        return exact_of(cell, style)
    if not isinstance(cell, float):
        return None
    told = Decimal(repr(cell))
    exponent = told.as_tuple().exponent
    noisy = isinstance(exponent, int) and exponent < -MOST_PLACES
    return told.quantize(PLACES, ROUND_HALF_UP).normalize() if noisy else told


class Reading:
    """The rows of one list."""

    def __init__(self, found: Found, form: Form, names: Names, only: Whose | None) -> None:
        """only: whose the whole list is, where that is one payer's."""
        self.found, self._form, self._names, self._only = found, form, names, only
        self._places: dict[str, list[int]] = {}
        for line in found.lines:
            if line.target:
                self._places.setdefault(line.target, []).append(line.place)
        self._whose = payer_of_rows(found, names, only)
        self._own_columns = bool({"symbol", "name", "isin"} & set(found.columns_of))
        self._known = {p.currency for p in names.payers.known}
        self._kinds: dict[tuple[str, str], Called | None] = {}
        self._texts = {t: self._texts_of(t) for t in ("kind", *TEXTS)}
        self._numbers = [
            (target, place, self._numbers_of(place))
            for target in (*NUMBERS, *SUMMED)
            for place in self._places.get(target, ())[: None if target in SUMMED else 1]
        ]
        self._currencies = self._currencies_told()
        self._bought = self._cells("bought")

    def _cells(self, target: str) -> Sequence[Cell]:
        """The first column of a target, a cell a row; none where no heading means it."""
        places = self._places.get(target)
        return self.found.sheet.column(places[0], self.found.rows) if places else ()

    def _texts_of(self, target: str) -> Sequence[str]:
        """The texts of its columns, a row each; none where no heading means it."""
        places = self._places.get(target, ())
        columns = [
            [text_of(c) for c in self.found.sheet.column(p, self.found.rows)] for p in places
        ]
        if len(columns) < 2:
            return columns[0] if columns else ()
        rows = zip(*columns, strict=True)
        return [" · ".join(dict.fromkeys(filter(None, parts))) for parts in rows]

    def _numbers_of(self, place: int) -> Sequence[Decimal | str | None]:
        """Its cells as numbers, each text read once; one that is none stays a text."""
        cells, style = self.found.sheet.column(place, self.found.rows), self.found.style
        read: dict[Cell, Decimal | str | None] = {None: None}
        for n, cell in enumerate(dict.fromkeys(cells)):
            if n % 512 == 0:
                tick()
            if cell is not None and not (type(cell) is str and is_nil(cell)):
                value = exact(cell, style)
                read[cell] = str(cell) if value is None else value
        return [read.get(c) for c in cells]

    def _currencies_told(self) -> Sequence[tuple[str, float] | None]:
        """In which currency each row is, as its own column says, else its amounts; and what an
        amount is to be times."""
        codes = [currency_code(c) for c in self._cells("currency")]
        marked = [
            self.found.sheet.column(place, self.found.rows)
            for target in MONEY
            for place in self._places.get(target, ())
        ]
        told: dict[Cell, tuple[str, float] | None] = {}
        for column in marked:
            for cell in dict.fromkeys(column):
                told[cell] = self._mark_of(cell)
        if not any(told.values()):
            return codes
        codes = codes or [None] * len(self.found.rows)
        for column in marked:
            codes = [code or told[cell] for code, cell in zip(codes, column, strict=True)]
        return codes

    def _mark_of(self, cell: Cell) -> tuple[str, float] | None:
        if type(cell) is not str or (cell[-1].isdigit() and cell[0].isdigit()) or is_small(cell):
            return None
        marks = currencies_in([cell], self._known) - {"$"}
        return (marks.pop(), 1.0) if len(marks) == 1 else None

    def read(
        self, made: Made, as_of: date | None, default: str | None, most: int | None = None
    ) -> Iterator[Told]:
        """Every row that is one, in order; what else stands there is said in `made`. as_of: the
        day of a list that tells none. default: the kind of rows that say none. most: so many rows
        are looked at."""
        found = self.found
        held = found.sheet.rows
        days = [(c, {cell: self._day(cell) for cell in dict.fromkeys(c)}) for c in self._days()]
        for at, n in enumerate(found.rows[:most]):
            if at % 256 == 0:
                tick()
            row = held[n]
            if not row:
                continue
            day = next((d for c, known in days if (d := known[c[at]])), None) or as_of
            if day is None:
                self._pass(made, n, days[0][0][at] if days else None)
                continue
            first = next((c for c in row if type(c) is str and not _DIGIT.match(c)), None)
            if first is not None and is_sum(first):
                made.leave(f"row {n + 1}: “{first[:60]}”")
                continue
            told = self._row(made, n, at, day, default)
            if told is not None:
                yield told

    def _days(self) -> Sequence[Sequence[Cell]]:
        pays = ("pay_day", *DAYS) if self._form is Form.DIVIDENDS else (*DAYS, "pay_day", "ex_day")
        return [c for x in pays if (c := self._cells(x))]

    def _day(self, cell: Cell) -> date | None:
        if cell is None:
            return None
        day = date_of(cell, self.found.order)
        if day is None and self.found.numbered:
            day = numbered_day(cell, self.found.numbered)
        return day

    def _pass(self, made: Made, n: int, cell: Cell) -> None:
        """A row without a day: a sum, a heading or a note; or one whose day cannot be read."""
        row = self.found.sheet.rows[n]
        if isinstance(cell, str) and re.search(r"\d.*\d", cell) and self._has_amounts(row):
            days = (*DAYS, "pay_day", "ex_day")
            column = next(p for t in days for p in self._places.get(t, ()))
            made.refuse(f"{cell_name(n, column)} holds “{cell}”, which is no date")
            return
        texts = [text_of(c)[:40] for c in row if c is not None]
        made.leave(f"row {n + 1}, without a day: “{' · '.join(texts[:5])}”")

    def _has_amounts(self, row: Sequence[Cell]) -> bool:
        places = [p for t in ("amount", "net", "gross", "shares") for p in self._places.get(t, ())]
        return any(len(row) > p and row[p] is not None for p in places)

    def _row(self, made: Made, n: int, at: int, day: date, default: str | None) -> Told | None:
        word, note, reference, account = (
            of[at] if (of := self._texts[t]) else "" for t in ("kind", *TEXTS)
        )
        told = Told(n=n, day=day, note=note, reference=reference, account=account)
        told.payer = self._whose(at)
        words = f"“{(word or note)[:60]}”" if word or note else "it says no kind"
        if not self._kind(told, word, note, default):
            made.leave(f"row {n + 1}: {words}, which is no kind of entry")
            return None
        if told.kind in SKIPPED:
            made.leave(f"row {n + 1}: {words}, {_why_not(told)}")
            return None
        if told.payer is None and not self._own_columns and self._only is None and note:
            whose = self._names.in_note(note)
            if whose is not None and (whose.exchange or told.kind not in OF_CASH):
                told.payer = whose
        for target, place, values in self._numbers:
            value = values[at]
            if value is None:
                continue
            if type(value) is str:
                made.refuse(f"{cell_name(n, place)} holds “{value}”, which is no number")
                return None
            _take(told, target, value)  # type: ignore[arg-type]
        if told.sign and told.amount is not None:
            told.amount = abs(told.amount) * told.sign
        if note:
            self._in_words(told, note)
        code = self._currencies[at] if self._currencies else None
        if code is not None:
            told.currency, told.small = code[0], code[1] != 1.0
        if self._bought:
            told.bought = self._day(self._bought[at])
        return told

    def _kind(self, told: Told, word: str, note: str, default: str | None) -> bool:
        """Sets the kind, by its own column, else by its words. False: it says one that is not
        known."""
        if (word, note) not in self._kinds:
            self._kinds[word, note] = self._called(word, note, default)
        called = self._kinds[word, note]
        if called is None:
            told.kind = None if word else default
            return not word
        kind = called.kind
        if kind.split(":")[0] in SIGNS:
            sign, _, kind = kind.partition(":")
            told.sign = 1 if sign == "credit" else -1
            kind = kind or default or ("deposit" if told.sign > 0 else "withdrawal")
        told.kind, told.back, told.inward = kind or default, called.back, called.inward
        return True

    def _called(self, word: str, note: str, default: str | None) -> Called | None:
        own = self.found.answer(f"kind-{word.casefold()}") if word else ""
        called = Called(own) if own else kind_called(word) if word else None
        if not note or (called is not None and called.kind not in (*SIGNS, "transfer")):
            return called
        other = kind_called(note)
        if other is not None and default and other.kind not in BESIDE:
            other = Called(default, other.back)
        if other is None or (called is not None and other.kind in SIGNS):
            return called
        sign = called.kind if called and called.kind in SIGNS else None
        return other if sign is None else Called(f"{sign}:{other.kind}", other.back)

    def _in_words(self, told: Told, note: str) -> None:
        """Shares and price of a trade that a text tells: "Bought 50 PNL @ 21.40"."""
        if told.shares is not None or told.kind not in ("buy", "sell", "reinvestment", None):
            return
        style = self.found.style
        if (trade := _TRADE.search(note)) is not None:
            told.shares, told.price = exact_of(trade["n"], style), exact_of(trade["p"], style)
            return
        count = next((m for p in (_SHARES, _AFTER, _FIRST) if (m := p.search(note))), None)
        told.shares = exact_of(count["n"], style) if count else None


def _take(told: Told, target: str, value: Decimal) -> None:
    if target in SUMMED:
        setattr(told, target, getattr(told, target) + value)
    elif target in ("money_in", "money_out"):
        if value:  # what is out is out, whether it is written below nil or not
            told.sign = 1 if target == "money_in" and value > 0 else -1
            told.amount = abs(value)
    else:
        setattr(told, target, value)


def _why_not(told: Told) -> str:
    """Why a row of a kind that is no entry is left out."""
    who = f" of {told.payer.symbol}" if told.payer else ""
    return {
        "balance": "a sum or a balance",
        "derivative": "an option or a short sale, which the ledger does not keep",
        "split": f"a split{who}: splits come from the payer’s record",
        "conversion": f"an exchange of shares{who}: enter it under Holdings, Entries",
        "within": "a move inside the account",
    }[told.kind or ""]
