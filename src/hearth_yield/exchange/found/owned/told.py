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
BESIDE = ("tax", "reinvestment", "return_of_capital", *SKIPPED)
"""What a row may be though its section is of another kind."""
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
        return next((x for x in (self.net, self.amount, self.gross) if x is not None), None)


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
        self.columns: dict[str, list[int]] = {}
        for line in found.lines:
            if line.target:
                self.columns.setdefault(line.target, []).append(line.place)
        self._whose = payer_of_rows(found, names, only)
        self._own_columns = bool({"symbol", "name", "isin"} & set(found.columns_of))
        self._known = {p.currency for p in names.payers.known}
        self._numbers: dict[str, Decimal | None] = {}
        self._kinds: dict[tuple[str, str], Called | None] = {}

    def cells(self, target: str) -> Sequence[Cell]:
        """The first column of a target, a cell a row; none where no heading means it."""
        places = self.columns.get(target)
        return self.found.sheet.column(places[0], self.found.rows) if places else ()

    def read(
        self, made: Made, as_of: date | None, default: str | None, most: int | None = None
    ) -> Iterator[Told]:
        """Every row that is one, in order; what else stands there is said in `made`. as_of: the
        day of a list that tells none. default: the kind of rows that say none. most: so many rows
        are looked at."""
        found = self.found
        held = found.sheet.rows
        days = [c for c in self._days() if c]
        for at, n in enumerate(found.rows[:most]):
            if at % 256 == 0:
                tick()
            if not held[n]:
                continue
            day = next((d for c in days if (d := self._day(c[at]))), None) or as_of
            if day is None:
                self._pass(made, n, days[0][at] if days else None)
                continue
            told = self._row(made, n, at, day, default)
            if told is not None:
                yield told

    def _days(self) -> Sequence[Sequence[Cell]]:
        pays = ("pay_day", *DAYS) if self._form is Form.DIVIDENDS else (*DAYS, "pay_day", "ex_day")
        return [self.cells(x) for x in pays]

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
            column = next(p for t in (*DAYS, "pay_day", "ex_day") for p in self.columns.get(t, ()))
            made.refuse(f"{cell_name(n, column)} holds “{cell}”, which is no date")
            return
        texts = [text_of(c)[:40] for c in row if c is not None]
        made.leave(f"row {n + 1}, without a day: “{' · '.join(texts[:5])}”")

    def _has_amounts(self, row: Sequence[Cell]) -> bool:
        places = [p for t in ("amount", "net", "gross", "shares") for p in self.columns.get(t, ())]
        return any(len(row) > p and row[p] is not None for p in places)

    def _row(self, made: Made, n: int, at: int, day: date, default: str | None) -> Told | None:
        texts = (c for c in self.found.sheet.rows[n] if isinstance(c, str))
        if (first := next((t for t in texts if not _DIGIT.match(t)), "")) and is_sum(first):
            made.leave(f"row {n + 1}: “{first[:60]}”")
            return None
        told = Told(n=n, day=day)
        note = self._text("note", at)
        told.note, told.reference, told.account = note, *(self._text(t, at) for t in TEXTS[1:])
        self._whom(told, at, note)
        if not self._kind(told, at, note, default):
            made.leave(f"row {n + 1}: {self._called(at, note)}, which is no kind of entry")
            return None
        if told.kind in SKIPPED:
            self._skip(made, told, at, note)
            return None
        for target in NUMBERS:
            for place in self.columns.get(target, ())[:1]:
                if not self._number(made, told, target, n, place):
                    return None
        for target in SUMMED:
            for place in self.columns.get(target, ()):
                if not self._number(made, told, target, n, place):
                    return None
        self._in_or_out(told)
        self._in_words(told, note)
        self._currency(told, n, at)
        bought = self.cells("bought")
        told.bought = self._day(bought[at]) if bought else None
        return told

    def _called(self, at: int, note: str) -> str:
        words = self._text("kind", at) or note
        return f"“{words[:60]}”" if words else "it says no kind"

    def _skip(self, made: Made, told: Told, at: int, note: str) -> None:
        who = f" of {told.payer.symbol}" if told.payer else ""
        why = {
            "balance": "a sum or a balance",
            "derivative": "an option or a short sale, which the ledger does not keep",
            "split": f"a split{who}: splits come from the payer’s record",
            "conversion": f"an exchange of shares{who}: enter it under Holdings, Entries",
            "within": "a move inside the account",
        }[told.kind or ""]
        made.leave(f"row {told.n + 1}: {self._called(at, note)}, {why}")

    def _text(self, target: str, at: int) -> str:
        parts = (
            text_of(self.found.sheet.column(p, self.found.rows)[at])
            for p in self.columns.get(target, ())
        )
        return " · ".join(dict.fromkeys(filter(None, parts)))

    def _whom(self, told: Told, at: int, note: str) -> None:
        told.payer = self._whose(at)
        if told.payer is None and not self._own_columns and self._only is None and note:
            told.payer = self._names.in_note(note)

    def _kind(self, told: Told, at: int, note: str, default: str | None) -> bool:
        """Sets the kind, by its own column, else by its words. False: it says one that is not
        known."""
        word = self._text("kind", at)
        if (word, note) not in self._kinds:
            own = self.found.answer(f"kind-{word.casefold()}") if word else ""
            called = Called(own) if own else kind_called(word) if word else None
            if note and (called is None or called.kind in (*SIGNS, "transfer")):
                other = kind_called(note)
                if other is not None and default and other.kind not in BESIDE:
                    other = Called(default, other.back)
                if other is not None and (called is None or other.kind not in SIGNS):
                    sign = called.kind if called and called.kind in SIGNS else None
                    called = other if sign is None else Called(f"{sign}:{other.kind}", other.back)
            self._kinds[word, note] = called
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

    def _number(self, made: Made, told: Told, target: str, n: int, place: int) -> bool:
        cell = self.found.cell(n, place)
        if cell is None or (type(cell) is str and is_nil(cell)):
            return True
        if type(cell) is str:
            if cell not in self._numbers:
                self._numbers[cell] = exact_of(cell, self.found.style)
            value = self._numbers[cell]
        else:
            value = exact(cell, self.found.style)
        if value is None:
            made.refuse(f"{cell_name(n, place)} holds “{cell}”, which is no number")
            return False
        if target in SUMMED:
            setattr(told, target, getattr(told, target) + value)
        elif target in ("money_in", "money_out"):
            if value:  # what is out is out, whether it is written below nil or not
                told.sign = 1 if target == "money_in" and value > 0 else -1
                told.amount = abs(value)
        else:
            setattr(told, target, value)
        return True

    def _in_or_out(self, told: Told) -> None:
        if told.sign and told.amount is not None:
            told.amount = abs(told.amount) * told.sign

    def _in_words(self, told: Told, note: str) -> None:
        """Shares and price of a trade that a text tells: "Bought 50 PNL @ 21.40"."""
        if told.shares is not None or told.kind not in ("buy", "sell", "reinvestment", None):
            return
        style = self.found.style
        if (trade := _TRADE.search(note)) is not None:
            told.shares, told.price = exact_of(trade["n"], style), exact_of(trade["p"], style)
        elif (count := _SHARES.search(note) or _FIRST.search(note)) is not None:
            told.shares = exact_of(count["n"], style)

    def _currency(self, told: Told, n: int, at: int) -> None:
        column = self.cells("currency")
        code = currency_code(column[at]) if column else None
        if code is not None:
            told.currency, told.small = code[0], code[1] != 1.0
            return
        for target in MONEY:
            for place in self.columns.get(target, ()):
                cell = self.found.cell(n, place)
                if type(cell) is str and not (cell[-1].isdigit() and cell[0].isdigit()):
                    marks = currencies_in([cell], self._known) - {"$"}
                    if len(marks) == 1 and not is_small(cell):
                        told.currency = marks.pop()
                        return
