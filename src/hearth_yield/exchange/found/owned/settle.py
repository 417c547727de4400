"""Settling what a list of what a person owns does not say: whose account it is of, its currency,
and what some of its rows are."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date
from itertools import cycle
from pathlib import PurePosixPath

from hearth_yield.core.household.entries import EntryKind
from hearth_yield.core.household.kinds import KINDS, MOST_NAME

from ..asking import Asking
from ..dates import date_of
from ..made import Made
from ..numbers import bare
from ..sheets import Cell
from ..table import Found, text_of
from ..units import currencies_of, currency_code
from .accounts import Accounts, account_above
from .forms import Form, form_with, pays
from .signs import is_before_tax, is_before_tax_by_record
from .told import Reading
from .whose import Names, Whose, payers_among
from .words import kind_called

MOST_WORDS = 12
"""So many words that are no known kind are asked about; rows with others are left out."""
SAMPLE = 2000
MOST_ACCOUNTS = 20
LEAVE = "leave"
_DAY = re.compile(
    r"\d{4}-\d{2}-\d{2}|(?<!\d)\d{8}(?!\d)|\d{1,2}[./]\d{1,2}[./]\d{4}"
    r"|\d{1,2}\.?\s+[^\W\d_]{3,12}\.?,?\s+\d{4}|[^\W\d_]{3,12}\.?\s+\d{1,2},?\s+\d{4}"
)


def form_of_found(found: Found) -> Form:
    """What the rows of a list are, by what its headings are taken for."""
    targets = {x.target for x in found.lines if x.target} | set(found.columns_of)
    return form_with(targets, pays=pays(found.sheet.texts(found.head))) or Form.MIXED


def only_of(found: Found) -> Whose | None:
    """Whose a whole list is, where it is one payer's."""
    known = found_names(found).payers.of(found.payer)
    if known is None:
        return None
    return Whose(exchange=known.exchange, symbol=known.symbol, currency=known.currency)


def account_of(found: Found, label: str) -> str:
    """The account that a row is of. label: what it says itself."""
    told = found.answer(_account_id(label)) or found.answer("account")
    if told or label:
        return told
    return next((s.answer or "" for s in found.settings if s.name.startswith("account-")), "")


def currency_of(found: Found, name: str) -> str:
    """The currency of a new account."""
    return found.answer(f"account_currency-{name.casefold()}") or found.answer("account_currency")


def _currency_id(name: str, count: int) -> str:
    return "account_currency" if count == 1 else f"account_currency-{name.casefold()}"


def _account_id(label: str) -> str:
    return f"account-{' '.join(label.casefold().split())[:80]}" if label else "account"


class Owning(Asking):
    """Asks in the order in which things rest on each other."""

    accounts: Accounts

    def _owned(self) -> None:
        found = self.found
        form = form_of_found(found)
        targets = {x.target for x in found.lines if x.target}
        found.names = Names(self.payers)
        if (not found.columns_of and "note" not in targets and form is not Form.MIXED) or (
            not found.columns_of and "note" not in targets and "shares" in targets
        ):
            self._payer()
        self._section(form)
        self._called()
        if form is Form.POSITIONS:
            self._as_of()
        else:
            self._kinds(form)
        names = self._account()
        self._currencies(form, names)
        if form is not Form.POSITIONS:
            self._before_tax(form)
            self._from_the_record(form, names)

    def _payer(self) -> None:
        raise NotImplementedError

    # whose

    def _called(self) -> None:
        """Symbols of payers that the list calls something else altogether are asked about."""
        found, names = self.found, found_names(self.found)
        payers_among(found, names)
        if not names.doubtful:
            return
        told = "; ".join(
            f"{symbol} is “{name[:40]}” there and {known.name} here"
            for symbol, (name, known) in [*names.doubtful.items()][:5]
        )
        answer = self._settle(
            "called",
            f"{told}. Are they the same?",
            [("same", "The same"), ("others", "Others: keep them under their names")],
            whole=False,
        )
        found.names = Names(self.payers, another=answer == "others")

    def _account(self) -> list[str]:
        """Asks whose account it is of, or each of those that its rows name. Returns them."""
        found = self.found
        place = found.place_of("account")
        column = found.sheet.column(place, found.rows) if place is not None else ()
        labels = dict.fromkeys(t for c in dict.fromkeys(column) if (t := text_of(c).strip()))
        if not labels or len(labels) > MOST_ACCOUNTS:
            above = account_above(found.sheet, found.head)
            return [self._which_account(above, above)]
        return [self._which_account(label, label) for label in labels]

    def _which_account(self, label: str, called: str) -> str:
        known = self.accounts.known
        there = self.accounts.of(called) if called else None
        guess = called or PurePosixPath(found_stem(self.found)).stem
        asks = "Which of your accounts is it?" if not label else f"Which account is “{label[:40]}”?"
        answer = self._settle(
            _account_id(label),
            asks,
            [(a.name, a.name) for a in known],
            says=there.name if there else None,
            guess=guess[:MOST_NAME],
            free=True,
        )
        return answer or ""

    # what its rows are

    def _section(self, form: Form) -> None:
        """The kind that the heading of a section says; of a list of one sort, the file's name."""
        found = self.found
        if found.place_of("kind") is not None:
            return
        stem = found_stem(found).replace("_", " ").replace("-", " ")
        alone = found.sheet.file.startswith(found.sheet.name)
        called = found.sheet.name if not alone else stem if form is not Form.MIXED else ""
        for title in (*_titles(reversed(self._rows_above)), called):
            kind = kind_called(title) if len(title.split()) <= 6 else None
            if kind is not None and kind.kind in KINDS:
                self._settle("section", "What are its rows?", _kinds(), says=kind.kind, whole=False)
                return

    def _kinds(self, form: Form) -> None:
        """Words that are no known kind, rows without one, and trades of which none says whether
        it was a purchase or a sale."""
        found = self.found
        place = found.place_of("kind")
        if place is not None:
            self._words(found.sheet.column(place, found.rows))
            return
        if found.answer("section"):
            return
        notes = found.place_of("note")
        texts = found.sheet.column(notes, found.rows) if notes is not None else ()
        told = any(kind_called(text_of(c)) for c in dict.fromkeys(texts))
        if form is Form.TRADES and not told and not self._has_signs():
            options = [("buy", "Purchases"), ("sell", "Sales")]
            self._settle("sides", "Are they purchases or sales?", options, whole=False)
        elif form is Form.MIXED and notes is not None:
            each = dict.fromkeys(map(text_of, texts))
            said = [t for t in each if t and kind_called(t) is None]
            if said:
                some = "; ".join(f"“{t[:40]}”" for t in said[:3])
                self._settle(
                    "others",
                    f"{some}{' and others' if len(said) > 3 else ''}: what kind of rows are they?",
                    [
                        ("cash", "Money put in or taken out, by its sign"),
                        (LEAVE, "Nothing of mine: leave them out"),
                    ],
                    whole=False,
                )

    def _words(self, column: Sequence[Cell]) -> None:
        times = Counter(text_of(c).strip() for c in column)
        new = [w for w in times if w and kind_called(w) is None and not bare(w)]
        heads = {x.heading for x in self.found.lines}
        for word in [w for w in new if w not in heads][:MOST_WORDS]:
            self._settle(
                f"kind-{word.casefold()}",
                f"What is “{word[:40]}” ({times[word]} {'row' if times[word] == 1 else 'rows'})?",
                [*_kinds(), ("within", "Nothing of mine: leave it out")],
            )

    def _has_signs(self) -> bool:
        found = self.found
        for target in ("shares", "amount", "net", "gross"):
            place = found.place_of(target)
            cells = (
                dict.fromkeys(found.sheet.column(place, found.rows)) if place is not None else ()
            )
            if any(_is_below_nil(c) for c in cells):
                return True
        return False

    def _as_of(self) -> None:
        """The day of positions, and whether their price is what was paid."""
        found, today = self.found, self.accounts.today
        targets = {x.target for x in found.lines}
        if not targets & {"day", "settle_day"}:
            stem = found_stem(found).replace("_", " ")
            texts = (*_titles(reversed(self._rows_above)), found.sheet.name, stem)
            rows = "\n".join(" ".join(r) for r in self._rows_above)
            days = [d for t in (*texts, rows) if (d := self._day_in(t)) and d <= today]
            says = days[0].isoformat() if days else None
            options = dict.fromkeys((*(d.isoformat() for d in days), today.isoformat()))
            named = [(d, d) for d in options]
            self._settle(
                "as_of", "On which day were they held?", named, says=says, default=named[-1][0]
            )
        if "bought" in targets and targets & {"cost", "cost_a_share"}:
            self._settle(
                "lots",
                "What are its rows?",
                [("bought", "purchases, each on its day"), ("held", "what was held on one day")],
                says="held" if "worth" in targets else "bought",
                whole=False,
            )
        if "price" in targets and not targets & {"cost", "cost_a_share"}:
            worth = "today" if "worth" in targets else None
            self._settle(
                "price_is",
                "What is the price beside its shares?",
                [("paid", "what was paid for them"), ("today", "what they are worth")],
                says=worth,
                whole=False,
            )

    def _day_in(self, text: str) -> date | None:
        for told in _DAY.findall(text[:400]):
            day = date_of(told, self.found.order)
            if day is not None:
                return day
        return None

    # what its amounts are

    def _currencies(self, form: Form, names: Sequence[str]) -> None:
        found = self.found
        known = {p.currency for p in self.payers.known} | {a.currency for a in self.accounts.known}
        codes = self._codes_in_rows()
        around = currencies_of(self.around, known) - {"$"}
        new = [n for n in names if n and self.accounts.of(n) is None]
        for name in new:
            of_payers = {w.currency for w in self._payers_among() if w.currency}
            own = Counter({c: n for (at, c), n in codes.items() if account_of(found, at) == name})
            most = {c for c, n in own.items() if 2 * n > own.total()}
            likely = [most, of_payers, {self.accounts.home or ""}]
            if len(around) == 1 or found.settled_in:
                likely = [{found.settled_in} if found.settled_in else around]
            says = next((min(some) for some in likely if len(some) == 1), None)
            asks = (
                "Which currency is the account in?"
                if len(new) == 1
                else f"Which currency is “{name}” in?"
            )
            above = currency_of(self.before, name) if self.before else ""
            id = _currency_id(name, len(new))
            self._settle(id, asks, says=says, default=above or None)
        if codes:
            return
        if len(around) == 1:
            self._settle("currency", "In which currency are its amounts?", says=around.pop())
            return
        theirs = {a.currency for n in names if (a := self.accounts.of(n)) is not None}
        theirs |= {c for n in new if (c := currency_of(found, n))}
        payers = {w.currency for w in self._payers_among() if w.currency}
        if len(theirs) != 1 or payers <= theirs:
            return
        (mine,) = theirs
        if not found.columns_of and found.payer is None and form is Form.MIXED:
            self._settle("currency", "In which currency are its amounts?", says=mine)
            return
        options = [("payer", f"each payer’s own ({', '.join(sorted(payers))})"), (mine, mine)]
        self._settle("currency", "In which currency are its amounts?", options, whole=False)

    def _codes_in_rows(self) -> Counter[tuple[str, str]]:
        """How many rows of each account are told in each currency."""
        found = self.found
        places = found.place_of("account"), found.place_of("currency")
        if places[1] is None:
            return Counter()
        codes = found.sheet.column(places[1], found.rows)
        labels = found.sheet.column(places[0], found.rows) if places[0] is not None else [""]
        pairs = Counter(zip(cycle(labels) if len(labels) == 1 else labels, codes, strict=False))
        told: Counter[tuple[str, str]] = Counter()
        for (label, cell), times in pairs.items():
            if (code := currency_code(cell)) is not None:
                told[text_of(label), code[0]] += times
        return told

    def _payers_among(self) -> list[Whose]:
        found = self.found
        if found.payer:
            known = self.payers.of(found.payer)
            return [Whose(exchange="", symbol="", currency=known.currency)] if known else []
        return payers_among(found, found_names(found))

    def _before_tax(self, form: Form) -> None:
        """Whether amounts beside a column of tax are before it."""
        targets = {x.target for x in self.found.lines}
        taxed = targets & {"tax", "withheld"} and bool(targets & {"amount", "money_in"})
        if not taxed or targets & {"gross", "net"} or not self._pays(form):
            return
        rows = Reading(self.found, form, Names(self.payers), None)
        sample = list(rows.read(Made(), None, "dividend", most=SAMPLE))
        if not any(r.kind == "dividend" and r.costs for r in sample):
            return
        before = is_before_tax(sample)
        if before is None:
            before = is_before_tax_by_record(sample, self.accounts.paid)
        self._settle(
            "amounts",
            "Are its dividends before the tax beside them, or after?",
            [("before", "before tax"), ("after", "after tax")],
            says=None if before is None else "before" if before else "after",
            whole=False,
        )

    def _pays(self, form: Form) -> bool:
        """Whether dividends are among its rows."""
        found = self.found
        if form is Form.DIVIDENDS or found.answer("section") == "dividend":
            return True
        for target in ("kind", "note"):
            place = found.place_of(target)
            cells = (
                dict.fromkeys(found.sheet.column(place, found.rows)) if place is not None else ()
            )
            called = (kind_called(text_of(c)) for c in cells)
            if any(c is not None and c.kind in ("dividend", "reinvestment") for c in called):
                return True
        return False

    def _from_the_record(self, form: Form, names: Sequence[str]) -> None:
        """Dividends of an account that takes them from the payers' record."""
        there = [a for n in names if (a := self.accounts.of(n)) and a.enters_from is None]
        if there and self._pays(form):
            self._settle(
                "dividends",
                f"{there[0].name} counts the dividends of the record",
                [
                    ("entered", "those of the file count from its first one on"),
                    (LEAVE, "the record’s go on counting"),
                ],
                default="entered",
            )


def found_names(found: Found) -> Names:
    """The names that were told of one list. They are there once it is being settled."""
    if found.names is None:
        raise RuntimeError("its names are not looked for yet")
    return found.names


def found_stem(found: Found) -> str:
    """The name of its file, without what it ends with."""
    return found.sheet.file.rsplit(".", 1)[0]


def _titles(rows: Iterable[Sequence[str]]) -> list[str]:
    """Rows of one text, which may be the heading of a section, the nearest first."""
    return [r[0].strip(" :") for r in rows if len(r) == 1]


def _kinds() -> list[tuple[str, str]]:
    left = (EntryKind.CONVERSION, EntryKind.EXCHANGE, EntryKind.STATED)
    return [(k.kind.value, k.name) for k in KINDS.values() if k.kind not in left]


def _is_below_nil(cell: Cell) -> bool:
    if isinstance(cell, float):
        return cell < 0
    return isinstance(cell, str) and (b := bare(cell)) is not None and b.negative
