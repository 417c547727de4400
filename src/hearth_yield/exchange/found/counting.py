"""Settling what a table counts in: currencies, units, hundredths, and receipts."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from hearth_yield.core.facts.statements import PER_SHARE_LINES, SHARE_LINES, UNSCALED_LINES

from . import receipts, strangers
from .asking import SHOWN_BY, Asking, words_of
from .headings import meant_as, measure_of
from .numbers import bare, is_large
from .table import Found
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

OF_RUPEES = ("lakh", "crore")
OF_RUPEES_TOO = {"INR", "PKR", "LKR", "NPR", "MUR"}
"""Currencies that are called rupees."""
UNITS = tuple((unit, name) for unit, name in NAMES.items() if unit not in OF_RUPEES)
A_SHARE = PER_SHARE_LINES | {"dividends_per_share"}
"""Lines of a statement that are amounts a share."""
NOT_IN_UNITS = SHARE_LINES | UNSCALED_LINES | {"dividends_per_share", "period_end", "published_on"}
"""Lines of a statement that no unit of its amounts is for."""
AMOUNTS = {"amount", "close"}
LOOKED_AT = 4
"""So many periods tell what share counts are in."""
_RUPEES = re.compile(r"₹|\bRs\b|\bINR\b|\brupees?\b", re.IGNORECASE)


class Counting(Asking):
    """Settles what the amounts of a table are."""

    def _own_column(self) -> None:
        """Where amounts stand in several currencies, a column each, that of the payer's own."""
        found, who = self.found, self.payers.of(self.found.payer)
        known = {p.currency for p in self.payers.known}
        if who is None or found.across:
            return
        for target in AMOUNTS & {x.target for x in found.lines}:
            alike = [x for x in found.lines if meant_as(found.kind, x.heading, target)]
            if any(self.told.own(found.id, f"line.{x.place}") for x in alike):
                continue  # the person has chosen
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

    def _currency(self) -> None:
        found = self.found
        if found.kind == "prices":
            self._other_currency()
        if found.kind in ("prices", "estimates"):
            return
        column = found.kind in ("payers", "dividends") and found.place_of("currency") is not None
        rowwise = bool({"symbol", "name", "isin"} & set(found.columns_of))
        if column or (rowwise and found.kind != "statements"):
            return
        known = self.payers.of(found.payer)
        told = self._one or self._in_a_column() or self._told_currencies(self.around)
        held = self._common_currency() if rowwise else None
        if known is not None:
            reports = self.payers.reports_in(known.key) if found.kind == "statements" else None
            held = reports or known.currency
        if held is None:  # "$" and rupees are of several countries
            told = self._one or self._in_a_column() or self._codes(self.around) - {"$"}
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
        told = self._of_dollars(self._codes(around))
        rupees = _RUPEES.search(around) is not None
        return told | ({"INR"} if rupees and not told & OF_RUPEES_TOO else set())

    def _codes(self, around: str) -> set[str]:
        known = {p.currency for p in self.payers.known}
        cells = self.found.sheet.distinct(self.found.rows)[:SHOWN_BY]
        return currencies_of(around, known) | currencies_in((c for c in cells if bare(c)), known)

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
            around = " \n".join((words_of(self._rows_above), *heads))
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

    def _hundredths(self) -> None:
        lines = [x for x in self.found.lines if x.target in A_SHARE]
        if lines:
            above = hundredths(words_of(self._rows_above))
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
