"""Settling what a table does not say in so many words: whose it is, how it writes numbers and days,
and what its rows are."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import pairwise

from hearth_yield.core.facts.statements import Span
from hearth_yield.core.kinds import Kind

from . import strangers
from .asking import SHOWN_BY, words_of
from .counting import A_SHARE, Counting
from .dates import (
    Order,
    Period,
    date_of,
    later_by_a_year,
    numbered_day,
    order_of,
    period_of,
    spans_by_their_distance,
)
from .headings import plain
from .numbers import Style, bare, number_of, style_of
from .owned.accounts import Accounts
from .owned.forms import form_of
from .owned.settle import Owning
from .payers import Payers
from .settings import Answers
from .table import Found
from .tables import periods_of, says_index, with_span
from .units import currencies_of
from .whose import is_another, name_guess, title_of

SPANS = (("year", "years"), ("half", "half-years"), ("quarter", "quarters"))
PUBLISHED_AFTER = {"year": 60, "quarter": 45}
"""Days after a period's end on which it is taken to be published where nothing says when; of a
half-year as of a year."""
RESTATED = re.compile(r"restated|angepasst|retraité|rideterminat|reexpresad|aangepast|\badj", re.I)
DAYS = {"day", "ex_date", "pay_date", "pay_day", "settle_day"}
NUMBERED = {"serial": "days as a spreadsheet counts them", "unix": "seconds since 1970"}
SERIES = (
    ("price_index", "a price index (not its rate)"),
    ("risk_free_yield", "the yield of government bonds"),
    ("aaa_yield", "the yield of AAA bonds"),
    ("market_index", "an index of share prices"),
    ("market_total_return", "an index of shares with their dividends"),
)
LEAST_YEAR = 300
"""Days between what two years paid, at least."""


def _is_day(text: str, order: Order) -> bool:
    """Whether what might be a number is a day: 31.12.2025."""
    return text.count(".") == 2 and date_of(text, order) is not None


class Settling(Counting, Owning):
    """Settles one table, thing by thing, in the order in which they rest on each other."""

    def __init__(
        self,
        found: Found,
        payers: Payers,
        accounts: Accounts,
        told: Answers,
        before: Found | None = None,
    ) -> None:
        super().__init__(found, payers, told, before)
        self.accounts = accounts

    def all(self) -> None:
        found = self.found
        if found.kind == "entries":
            self._decimal()
            self._dates()
            self._owned()
            return
        self._payer()
        self._own_column()
        self._decimal()
        self._dates()
        if self.found.lie == "across" or self.found.place_of("period_end") is not None:
            self._periods()
        self._currency()
        match self.found.kind:
            case "statements":
                self._units()
                self._published()
                if any(x.target in A_SHARE for x in self.found.lines):
                    self._hundredths()
                    self._receipts()
            case "prices":
                self._adjusted()
                self._hundredths()
                self._receipts()
            case "dividends" | "yearly_dividends":
                self._which_day()
                self._declared()
                self._hundredths()
                self._receipts()
            case "estimates":
                self._measure()
                self._hundredths()
                if self._of_money():
                    self._units()
            case "payers":
                self._of_payers()
            case "series":
                says = "price_index" if says_index(f"{self.around} {found.sheet.file}") else None
                self._settle("series_kind", "What does it tell?", SERIES, says=says)
        self._strangers()

    def _payer(self) -> None:
        found = self.found
        rowwise = bool({"symbol", "name", "isin"} & set(found.columns_of))
        if found.kind in ("series", "payers") or found.lie == "wide" or rowwise:
            return
        stem = found.sheet.file.rsplit(".", 1)[0]
        texts = (found.sheet.name, *self.above.split("\n"), stem)
        who = next((p for t in texts if (p := self.payers.named(t))), None)
        kept = self.told.kept.get(f"payer.{plain(found.sheet.name)}")
        says = self.told.told.get("payer") or (who.key if who else kept)
        head = found.sheet.rows[found.head]
        own = head[0] if found.across and isinstance(head[0], str) else ""
        lines = [*words_of(self._rows_above).split("\n"), own]
        title = title_of(lines)
        another = self.before is not None and is_another(found, self.before, title)
        if another:
            named = next((p for t in lines if (p := self.payers.named(t))), None)
            says = named.key if named else None
        above = next((s for s in self._above if s.name == "payer"), None)
        if above is not None and not another and not says and not self.told.own(found.id, "payer"):
            found.settings.append(above)
            found.payer, self._same = above.answer, True
        else:
            guess = name_guess(found, lines, stem)
            found.payer = self._settle("payer", "Whose is it?", says=says, whole=False, guess=guess)
        known = self.payers.of(found.payer)
        found.payer_name = known.name if known else None
        found.year_ends = known.year_ends if known else 12

    def _decimal(self) -> None:
        found = self.found
        cells = found.sheet.distinct(found.rows)
        found.style = style_of(t for t in cells if not _is_day(t, found.order))
        if not found.style.asked:
            if any(bare(c) and not c.isdigit() for c in cells[:SHOWN_BY]):
                signs = [(".", "a point"), (",", "a comma")]
                says = found.style.decimal
                told = self._settle("decimal", "Decimals after", signs, says=says, whole=False)
                found.style = Style(told or says)
            return
        sample = next((c for c in cells if bare(c) and style_of([c]).asked), "")
        told = self._settle(
            "decimal",
            f"“{sample}” can be read two ways. What is it?",
            [(".", _spelt(sample, Style("."))), (",", _spelt(sample, Style(",")))],
        )
        found.style = Style(told) if told else found.style

    def _dates(self) -> None:
        found = self.found
        self._numbered_days()
        if not found.order.asked:
            return
        cells = found.sheet.distinct(range(len(found.sheet.rows)))
        sample = next((c for c in cells if order_of([c]).asked), "")
        options = [
            (name, day.isoformat())
            for name, first in (("day", True), ("month", False))
            if (day := date_of(sample, Order(day_first=first)))
        ]
        told = self._settle("dates", f"“{sample}” can be read two ways. Which day is it?", options)
        if told:
            found.order = Order(day_first=told == "day")

    def _numbered_days(self) -> None:
        """Days that are written as the number that a program counts them by."""
        found = self.found
        places = [x.place for x in found.lines if x.target in DAYS]
        if found.lie != "down" or not places:
            return
        first = found.rows[:SHOWN_BY]
        cells = [c for n in first if (c := found.cell(n, places[0])) is not None]
        for kind, name in NUMBERED.items():
            days = [numbered_day(c, kind) for c in cells]
            if days and all(days):
                self._settle(
                    "numbered",
                    f"Its days are numbers such as {found.text_at(found.rows[0], places[0])}. Are "
                    f"they {name}?",
                    [(kind, f"yes: the first is {days[0]}")],
                )
                found.numbered = kind
                return

    def _periods(self) -> None:
        found = self.found
        if found.lie == "across":
            found.periods = periods_of(found.sheet, found.head, found.order, found.year_ends)
        else:
            found.periods = _periods_down(found)
        found.periods = _restated(found.periods)
        if found.year_ends <= 5 and any(p.named for _, _, p in found.periods):
            self._fiscal_years()
        dated = [p.end for _, _, p in found.periods if p.dated]
        if dated:
            lower = self.around.casefold()
            three = "quarter" in lower or "three months" in lower or "quartal" in lower
            says = Span.QUARTER if three else spans_by_their_distance(dated)
            span = self._settle(
                "span", "What do its columns cover?", SPANS, says=says.value if says else None
            )
            if span:
                found.periods = with_span(found.periods, Span(span))

    def _fiscal_years(self) -> None:
        """A year that ends early in the calendar may bear the name of either year."""
        found = self.found
        _, text, period = next(x for x in found.periods if x[2].named)
        later = later_by_a_year(period)
        told = self._settle(
            "fiscal",
            f"When does {text} end?",
            [("later", later.end.isoformat()), ("same", period.end.isoformat())],
        )
        if told == "later":
            found.periods = [
                (at, t, later_by_a_year(p) if p.named else p) for at, t, p in found.periods
            ]

    def _published(self) -> None:
        if self.found.place_of("published_on") is not None:
            return
        spans = {p.span.value for _, _, p in self.found.periods if not p.estimated}
        for span in ("year", "quarter"):
            here = span in spans or (span == "year" and "half" in spans)
            if here:
                self._settle(
                    f"after_{span}",
                    f"Days from a {span}’s end to its report (assumed)",
                    default=str(PUBLISHED_AFTER[span]),
                )

    def _adjusted(self) -> None:
        found = self.found
        if found.lie == "down" and found.place_of("close") is None:
            self._settle(
                "adjusted",
                "It has adjusted closes only, not those that were traded. Yields of the past would "
                "be too high. Read them as closes?",
                [("yes", "Read them as closes")],
            )

    def _strangers(self) -> None:
        """Payers that are not held are asked where none is; else they are left out, and said."""
        found = self.found
        told = strangers.told_of(found, self.payers)
        new = [t for t, held in told.items() if not held]
        if not new:
            return
        answer = self._settle(
            "strangers",
            f"Not held yet: {strangers.spelt(told)}. What becomes of them?",
            [("new", "Add them"), ("leave", "Leave out what is theirs")],
            default="leave" if len(new) < len(told) else None,
        )
        if answer != "new":
            return
        if not all(exchange for _, exchange, _ in new):
            self._settle("exchange", "On which exchange are they?")
        self._settle("country", "In which country are they?")
        self._kind_of_payers()
        if all(s.name != "currency" for s in found.settings):
            codes = self._in_a_column() or currencies_of(self.around, ()) - {"$"}
            says = codes.pop() if len(codes) == 1 else None
            self._settle("currency", "In which currency are they counted?", says=says)
        if found.questions:
            return
        taken = {p.key for p in self.payers.known}
        for each in new:
            who = strangers.new_of(each, found.answer("exchange"), found.answer("currency"), taken)
            taken.add(who.key)
            for text in filter(None, (each[0], each[2])):
                found.new[text] = who

    def _which_day(self) -> None:
        """Of a list of dividends that tells one date, without which."""
        targets = {x.target for x in self.found.lines}
        if "day" in targets and not targets & {"ex_date", "pay_date"}:
            self._settle(
                "day",
                "Which date stands beside its dividends?",
                [("ex_date", "the ex-date"), ("pay_date", "the day of payment")],
            )
        column = self.found.place_of("year")
        if column is not None and self._are_shorter(column):
            self._settle(
                "months",
                "Some of its rows name a month or a day, less than a year after the row before. "
                "What do they hold?",
                [("paid", "what was paid then"), ("leave", "nothing that counts: leave them out")],
                whole=False,
            )

    def _declared(self) -> None:
        """Of a list of dividends with their tax: what a payer declared, or what somebody got."""
        texts = self.found.sheet.texts(self.found.head)
        if self.found.kind != "dividends" or form_of(texts) is None:
            return
        self._settle(
            "declared",
            "It has a column of tax. What are its amounts?",
            [("declared", "a share, as declared"), ("received", "what I received")],
            whole=False,
        )

    def _are_shorter(self, column: int) -> bool:
        """Whether rows of what years paid tell days that are less than a year apart."""
        found = self.found
        cells = (found.cell(n, column) for n in found.rows)
        periods = [
            p for c in cells if c is not None and (p := period_of(c, found.order, found.year_ends))
        ]
        ends = sorted((p.end, p.dated) for p in periods)
        return any((b - a).days < LEAST_YEAR and (x or y) for (a, x), (b, y) in pairwise(ends))

    def _measure(self) -> None:
        if self.found.place_of("measure") is None:
            options = [
                ("eps", "EPS"),
                ("dps", "DPS"),
                ("ffo", "FFO a unit"),
                ("affo", "AFFO a unit"),
                ("revenue", "revenue"),
                ("fcf", "free cash flow"),
            ]
            texts = (self.found.sheet.name, *self.above.split("\n"))
            says = next(
                (v for v, n in options for t in texts if n.casefold() in t.casefold()), None
            )
            self._settle("measure", "What is estimated?", options, says=says)

    def _kind_of_payers(self) -> None:
        kinds = [(kind.value, kind.plural) for kind in Kind]
        self._settle("payer_kind", "What are they?", kinds)

    def _of_payers(self) -> None:
        for name, asks in (
            ("exchange", "On which exchange are they?"),
            ("country", "In which country are they?"),
        ):
            if self.found.place_of(name) is None:
                self._settle(name, asks)
        if self.found.place_of("kind") is None:
            self._kind_of_payers()
        twins = self.found.twins(self.payers)
        if twins:
            told = ", ".join(
                f"{self.found.text(n, 'name')} ({p.name}, {p.key})" for n, p in twins[:5]
            )
            more = f" and {len(twins) - 5} more" if len(twins) > 5 else ""
            self._settle(
                "twins",
                f"Likely held already, under another exchange or symbol: {told}{more}. Are they "
                "the same?",
                [("same", "The same: leave them as they are"), ("new", "Others: add them too")],
                whole=False,
            )


def _restated(periods: Sequence[tuple[int, str, Period]]) -> list[tuple[int, str, Period]]:
    """Of a period that is told twice, once restated, that one."""
    anew = {(p.end, p.span) for _, text, p in periods if RESTATED.search(text)}
    return [x for x in periods if RESTATED.search(x[1]) or (x[2].end, x[2].span) not in anew]


def _periods_down(found: Found) -> list[tuple[int, str, Period]]:
    """The row of each period of a list."""
    column = found.place_of("period_end")
    periods: list[tuple[int, str, Period]] = []
    for n in found.rows if column is not None else ():
        cell = found.cell(n, column or 0)
        period = None if cell is None else period_of(cell, found.order, found.year_ends)
        if period is not None:
            periods.append((n, str(cell), period))
    return periods


def _spelt(sample: str, style: Style) -> str:
    value = number_of(sample, style)
    return "no number" if value is None else f"{value:,.3f}".rstrip("0").rstrip(".")
