"""Settling what a table does not say in so many words: whose it is, how it writes numbers and days,
and what it counts in."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from hearth_yield.core.facts.statements import PER_SHARE_LINES, SHARE_LINES, UNSCALED_LINES, Span

from . import receipts, strangers
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
from .headings import meant_as, measure_of, plain
from .household import owned
from .numbers import Style, bare, is_large, number_of, style_of
from .payers import Payers
from .settings import Answers, Setting
from .table import Found
from .tables import is_figure, periods_of, says_index, with_span
from .units import (
    DOLLARS,
    FACTOR,
    HUNDREDTH,
    NAMES,
    currencies_in,
    currencies_of,
    currency_code,
    hundredths,
    shares_apart,
    unit_of,
)
from .whose import first_above, is_another, name_guess, title_of

OF_RUPEES = ("lakh", "crore")
OF_RUPEES_TOO = {"INR", "PKR", "LKR", "NPR", "MUR"}
"""Currencies that are called rupees."""
UNITS = tuple((unit, name) for unit, name in NAMES.items() if unit not in OF_RUPEES)
A_SHARE = PER_SHARE_LINES | {"dividends_per_share"}
"""Lines of a statement that are amounts a share."""
NOT_IN_UNITS = SHARE_LINES | UNSCALED_LINES | {"dividends_per_share", "period_end", "published_on"}
"""Lines of a statement that no unit of its amounts is for."""
SPANS = (("year", "years"), ("half", "half-years"), ("quarter", "quarters"))
PUBLISHED_AFTER = {"year": 60, "quarter": 45}
"""Days after a period's end on which it is taken to be published where nothing says when; of a
half-year as of a year."""
LONGEST, MOST_AROUND = 300, 40
"""Characters of a text, and texts of a row, that are read for what they say around a table."""
SHOWN_BY = 5000
"""So many texts say whether how numbers are written is worth telling."""
RESTATED = re.compile(r"restated|angepasst|retraité|rideterminat|reexpresad|aangepast|\badj", re.I)
AMOUNTS = {"amount", "close"}
DAYS = {"day", "ex_date", "pay_date"}
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
LOOKED_AT = 4
"""So many periods tell what share counts are in."""
_RUPEES = re.compile(r"₹|\bRs\b|\bINR\b|\brupees?\b", re.IGNORECASE)


def _is_day(text: str, order: Order) -> bool:
    """Whether what might be a number is a day: 31.12.2025."""
    return text.count(".") == 2 and date_of(text, order) is not None


def _words(rows: Sequence[Sequence[str]]) -> str:
    """The texts of some rows that are no figures, a line each."""
    return " \n".join(c[:LONGEST] for r in rows for c in r[:MOST_AROUND] if not bare(c))


class Settling:
    """Settles one table, thing by thing, in the order in which they rest on each other."""

    def __init__(
        self, found: Found, payers: Payers, told: Answers, before: Found | None = None
    ) -> None:
        """before: the table above it in the same sheet, which is of the same payer where nothing
        else is said."""
        self.found, self.payers, self.told, self.before = found, payers, told, before
        self._same = False
        self._one: set[str] = set()
        texts = found.sheet.texts
        self._rows_above = [texts(n) for n in range(first_above(found, before), found.head)]
        self.above = _words([*self._rows_above, texts(found.head)])
        name = found.sheet.name
        called = "" if found.sheet.file.startswith(name) else name
        beneath = range(found.head + 1, min(found.head + 3, len(found.sheet.rows)))
        self.around = " \n".join((self.above, _words([texts(n) for n in beneath]), called))
        words = [texts(n) for n in beneath if not any(map(is_figure, found.sheet.rows[n]))]
        self.title = " \n".join((self.above, _words(words), called))

    def all(self) -> None:
        found = self.found
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

    def _settle(
        self,
        name: str,
        asks: str,
        options: Sequence[tuple[str, str]] = (),
        *,
        says: str | None = None,
        default: str | None = None,
        whole: bool = True,
        guess: str = "",
    ) -> str | None:
        """says: what the sheet itself does; default: what it is taken for where nobody does.
        whole: it is asked once for the file."""
        own = self.told.own(self.found.id, name)
        values = {v for v, _ in options}
        kept = self.told.any(name) if whole else self.told.kept.get(name)
        said = [v for v in (own, says, kept, default) if v and (not values or v in values)]
        answer = said[0] if said else None
        id = name if whole and answer is None else f"{self.found.id}.{name}"
        self.found.settings.append(
            Setting(
                id=id,
                name=name,
                asks=asks,
                options=options,
                answer=answer,
                asked=own is not None or says is None,
                guess=guess,
            )
        )
        return answer

    def _payer(self) -> None:
        found = self.found
        rowwise = "symbol" in found.columns_of or "name" in found.columns_of
        if found.kind in ("series", "payers") or found.lie == "wide" or rowwise:
            return
        stem = found.sheet.file.rsplit(".", 1)[0]
        texts = (found.sheet.name, *self.above.split("\n"), stem)
        who = next((p for t in texts if (p := self.payers.named(t))), None)
        kept = self.told.kept.get(f"payer.{plain(found.sheet.name)}")
        says = self.told.told.get("payer") or (who.key if who else kept)
        head = found.sheet.rows[found.head]
        own = head[0] if found.across and isinstance(head[0], str) else ""
        lines = [*_words(self._rows_above).split("\n"), own]
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

    def _as_above(self, name: str) -> str | None:
        """What is settled of the table above, where both are of one payer."""
        return (self.before.answer(name) or None) if self._same and self.before else None

    def _own_column(self) -> None:
        """Where amounts stand in several currencies, a column each, that of the payer's own."""
        found, who = self.found, self.payers.of(self.found.payer)
        known = {p.currency for p in self.payers.known}
        if who is None or found.across:
            return
        for target in AMOUNTS & {x.target for x in found.lines}:
            alike = [x for x in found.lines if meant_as(found.kind, x.heading, target)]
            told = [currencies_of(x.heading, known) - {"$"} for x in alike]
            own = next((x for x, t in zip(alike, told, strict=True) if t == {who.currency}), None)
            if own is None or not all(told):
                continue
            others = {x.place for x in alike} - {own.place}
            for n, x in enumerate(found.lines):
                if x.place == own.place or x.place in others:
                    mine = target if x.place == own.place else None
                    found.lines[n] = replace(x, target=mine)
            self._one = {who.currency}

    @property
    def _above(self) -> Sequence[Setting]:
        return self.before.settings if self.before else ()

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

    def _currency(self) -> None:
        found = self.found
        if found.kind == "prices":
            self._other_currency()
        if found.kind in ("prices", "estimates"):
            return
        column = found.kind in ("payers", "dividends") and found.place_of("currency") is not None
        rowwise = "symbol" in found.columns_of or "name" in found.columns_of
        if column or (rowwise and found.kind != "statements"):
            return
        known = self.payers.of(found.payer)
        told = self._one or self._in_a_column() or self._told_currencies(self.around)
        held = self._common_currency() if rowwise else None
        if known is not None:
            reports = self.payers.reports_in(known.key) if found.kind == "statements" else None
            held = reports or known.currency
        if held is None or told <= {held}:
            says = told.pop() if len(told) == 1 else held
            asks, above = "In which currency, as three letters?", self._as_above("currency")
            self._settle("currency", asks, says=says, default=above)
            return
        codes = ", ".join(sorted(told))
        self._settle(
            "currency",
            f"It says {codes}, and {known.name if known else 'what it names'} is held in {held}. "
            "In which currency is it?",
            [*((code, code) for code in sorted(told - {held})), (held, f"{held}, as it is held")],
            whole=False,
        )

    def _common_currency(self) -> str | None:
        """In which currency all payers of a list are that are held, where it is one."""
        told = strangers.told_of(self.found, self.payers)
        whose = (self.payers.told(*t) for t, held in told.items() if held)
        codes = {p.currency for p in whose if p}
        return codes.pop() if len(codes) == 1 else None

    def _told_currencies(self, around: str) -> set[str]:
        """The currencies that the words around a table and its amounts name."""
        known = {p.currency for p in self.payers.known}
        cells = self.found.sheet.distinct(self.found.rows)[:SHOWN_BY]
        told = currencies_of(around, known)
        told |= currencies_in((c for c in cells if bare(c)), known)
        told = self._of_dollars(told)
        rupees = _RUPEES.search(around) is not None
        return told | ({"INR"} if rupees and not told & OF_RUPEES_TOO else set())

    def _of_dollars(self, told: set[str]) -> set[str]:
        """ "$" is the payer's own where that is a dollar, and else the first of them."""
        who = self.payers.of(self.found.payer)
        own = who is not None and (
            who.currency in DOLLARS or self.payers.reports_in(who.key) in DOLLARS
        )
        if "$" in told and (own or told & DOLLARS):
            return told - {"$"}
        return {"USD" if code == "$" else code for code in told}

    def _in_a_column(self) -> set[str]:
        """The currencies that a column or line of a table names."""
        found = self.found
        place = found.place_of("currency")
        if place is None:
            return set()
        cells = (
            found.sheet.rows[place] if found.across else [found.cell(n, place) for n in found.rows]
        )
        return {code[0] for c in cells if (code := currency_code(c))}

    def _other_currency(self) -> None:
        """Closes in another currency than the payer is counted in are asked, never mixed."""
        found = self.found
        column = found.place_of("currency")
        if column is not None:
            pairs = {(self._whose(n), found.cell(n, column)) for n in found.rows}
            told = {(who, is_[0]) for who, c in pairs if (is_ := currency_code(c))}
        else:
            close = found.place_of("close")
            heads = [x.heading for x in found.lines if x.place == close]
            around = " \n".join((_words(self._rows_above), *heads))
            named = (self.payers.named(x.heading) for x in found.lines if found.lie == "wide")
            owners = {found.payer, *(p.key for p in named if p)}
            named_here = self._one or self._told_currencies(around)
            told = {(who, code) for who in owners for code in named_here}
        others: dict[str, set[str]] = {}
        for key, code in told:
            who = self.payers.of(key)
            if who is not None and code != who.currency:
                others.setdefault(f"{who.name} is counted in {who.currency}", set()).add(code)
        if others:
            codes = ", ".join(sorted(set().union(*others.values())))
            whose = " and ".join(sorted(others)[:3])
            self._settle(
                "other_currency",
                f"Its closes are in {codes}, and {whose}. Are they in that all the same?",
                [("yes", "Read them so")],
                whole=False,
            )

    def _whose(self, n: int) -> str | None:
        """Whose a row of a list is."""
        found = self.found
        if found.payer:
            return found.payer
        named = (self.payers.named(found.text_at(n, at)) for at in found.columns_of.values())
        return next((p.key for p in named if p), None)

    def _units(self) -> None:
        found = self.found
        money = [x for x in found.lines if x.target and x.target not in NOT_IN_UNITS]
        labels = Counter(x.unit for x in money if x.unit)
        most = max(labels, key=lambda u: labels[u], default=None)
        for_all = 2 * labels[most] >= len(money) if most and len(labels) == 1 else False
        each = sum(labels.values()) == len(money)
        says = unit_of(self.title) or (most if for_all or each else None)
        cells = [c for c in found.sheet.distinct(found.rows) if c[-1].isalpha()]
        if not says and sum(map(is_large, cells)) > LOOKED_AT:
            says = "1"  # each says for itself what it is in
        units = self._units_there(says)
        above = self._as_above("unit")
        asks = "What are its amounts counted in?"
        unit = self._settle("unit", asks, units, says=says, default=above)
        held = [x for x in found.lines if x.target in SHARE_LINES]
        if held:
            own = next((x.unit for x in held if x.unit), None)
            apart = "1" if shares_apart(self.title) else None
            self._settle(
                "shares",
                "What are its share counts in?",
                self._units_there(own),
                says=own or apart,
                default=_shares_by_earnings(found, unit) or unit or "1",
                whole=False,
            )

    def _units_there(self, says: str | None) -> Sequence[tuple[str, str]]:
        """Lakhs and crores where they are said, or rupees are."""
        rupees = _RUPEES.search(self.around) is not None
        return tuple(NAMES.items()) if says in OF_RUPEES or rupees else UNITS

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

    def _hundredths(self) -> None:
        lines = [x for x in self.found.lines if x.target in A_SHARE]
        if lines:
            above = hundredths(_words(self._rows_above))
            small = above or all(x.unit == HUNDREDTH for x in lines)
        else:
            small = hundredths(" \n".join((self.above, *(x.heading for x in self.found.lines))))
        self._settle(
            "per_share",
            "What are its amounts a share counted in?",
            [("1", "whole currency"), ("0.01", "hundredths (pence, cents)")],
            says="0.01" if small else None,
            default="1",
            whole=False,
        )

    def _receipts(self) -> None:
        """How many shares each receipt stands for, and what that means for the amounts."""
        found = self.found
        place = found.place_of(receipts.COLUMN)
        above = receipts.said_above(self.around)
        if place is None and above is None:
            return
        places = [at for at, _, _ in found.periods] if found.periods else found.rows
        for at in places:
            row, column = (place, at) if found.across else (at, place)
            cell = None if row is None or column is None else found.cell(row, column)
            each = receipts.shares_of(cell, found.style) or above
            if each is not None:
                found.receipts[at] = each
        if any(each != 1 for each in found.receipts.values()):
            self._settle(
                "receipts",
                f"A receipt stands for {receipts.spelt(found.receipts.values())}. What are its "
                "amounts for?",
                receipts.OPTIONS,
                whole=False,
            )

    def _of_money(self) -> bool:
        """Whether some of the estimates are amounts of the whole payer."""
        found = self.found
        told = {found.text(n, "measure").casefold() for n in found.rows}
        measures = {found.answer("measure"), *map(measure_of, told)}
        return not measures.isdisjoint(("revenue", "fcf"))

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
        for each in new:
            who = strangers.new_of(each, found.answer("exchange"), found.answer("currency"))
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
        if self.found.kind != "dividends" or not owned(texts):
            return
        told = self._settle(
            "declared",
            "It has a column of tax. What are its amounts?",
            [("declared", "a share, as declared"), ("received", "what I received: leave it out")],
        )
        self.found.skipped |= told == "received"

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
        kinds = [
            ("company", "companies"),
            ("property_trust", "property trusts"),
            ("partnership", "partnerships"),
            ("financial", "financials"),
        ]
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


def _shares_by_earnings(found: Found, unit: str | None) -> str | None:
    """What share counts are in, where net income ÷ EPS says so of one unit only."""
    places = [found.place_of(n) for n in ("net_income", "diluted_eps", "diluted_shares")]
    if unit is None or None in places:
        return None
    fits = set()
    for at, _, _ in found.periods[:LOOKED_AT]:
        cells = [found.cell(p, at) if found.across else found.cell(at, p) for p in places]  # type: ignore[arg-type]
        income, eps, shares = (found.value(c) for c in cells)
        if income and eps and shares:
            per = income * FACTOR[unit] / (eps * shares)
            fits.add(next((n for n, f in FACTOR.items() if 1 / 3 < abs(per) / f < 3), None))
    return fits.pop() if len(fits) == 1 else None


def _spelt(sample: str, style: Style) -> str:
    value = number_of(sample, style)
    return "no number" if value is None else f"{value:,.3f}".rstrip("0").rstrip(".")
