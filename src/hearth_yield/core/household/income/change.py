"""What changed the declared income between two days, event by event. (docs/method.md, Household)

Each change counts at what stood that day: shares at the rate and the currency of the day, rates at
the shares held, and what a currency moved between them by itself. The parts sum to the whole.
"""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from fractions import Fraction

from ..amounts import SHARE
from ..entries import Entry, EntryKind, PayerKey
from ..ledger import Book, Known, Place
from .paying import Paying


class Why(StrEnum):
    """reinvested, bought, sold, moved: other shares; the others: other rates, and the currency."""

    REINVESTED = "reinvested"
    BOUGHT = "bought"
    SOLD = "sold"
    MOVED = "moved"
    RAISED = "raised"
    CUT = "cut"
    BEGUN = "begun"
    ENDED = "ended"
    CURRENCY = "currency"


BY_SHARES = (Why.REINVESTED, Why.BOUGHT, Why.SOLD, Why.MOVED)
KINDS = {
    EntryKind.BUY: Why.BOUGHT,
    EntryKind.REINVESTMENT: Why.REINVESTED,
    EntryKind.SELL: Why.SOLD,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """By how much the income a year changed, at home. before, after: shares, in today's, or rates,
    or what one unit of the currency cost at home."""

    day: date
    place: Place
    why: Why
    by: float
    before: float | None
    after: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Changed:
    """linked: the income linked over changes of shares (after ÷ before of rates and currency), less
    one; None where nothing was held before. without: payers whose currency has no rate."""

    first: float
    last: float
    changes: tuple[Change, ...]
    linked: float | None
    without: tuple[PayerKey, ...]


Keeps = Callable[[Place], float]
AtHome = Callable[[str, date], float | None]
"""What one unit of a currency costs at home on a day."""


def changed(
    book: Book,
    entries: Iterable[Entry],
    paying: Mapping[PayerKey, Paying],
    known: Known,
    at_home: AtHome,
    keeps: Keeps,
    since: date,
    until: date,
) -> Changed:
    """From the close of one day to that of another. keeps: what tax leaves of a dividend in a
    place."""
    lines = [
        _Line(place, steps, paying[place[1]], known, keeps(place))
        for place, steps in book.steps.items()
        if place[1] in paying
    ]
    without = {
        line.place[1]
        for line in lines
        if at_home(line.currency, since) is None or at_home(line.currency, until) is None
    }
    lines = [line for line in lines if line.place[1] not in without]
    why = _reasons(entries, since, until)
    days = sorted({d for line in lines for d in line.days if since < d <= until} | {until})
    for line in lines:
        line.begin(since, at_home(line.currency, since) or 0.0)
    first = total = sum(line.income for line in lines)
    linked: float | None = None
    found: list[Change] = []
    currencies = {line.currency for line in lines}
    for day in days:
        prices = {c: at_home(c, day) for c in currencies}
        for line in lines:
            price = prices[line.currency]
            if day not in line.days and price in (None, line.price):
                continue
            for change in line.to(day, price, why):
                found.append(change)
                if change.why not in BY_SHARES and total > 0:
                    linked = (1.0 if linked is None else linked) * (1 + change.by / total)
                total += change.by
    if linked is None and first > 0:
        linked = 1.0
    return Changed(
        first=first,
        last=sum(line.income for line in lines),
        changes=tuple(found),
        linked=None if linked is None else linked - 1.0,
        without=tuple(sorted(without)),
    )


def _reasons(
    entries: Iterable[Entry], since: date, until: date
) -> Mapping[tuple[Place, date], Sequence[Entry]]:
    """The trades of each place and day."""
    found: dict[tuple[Place, date], list[Entry]] = defaultdict(list)
    for entry in entries:
        if entry.payer is not None and entry.kind in KINDS and since < entry.day <= until:
            found[(entry.account, entry.payer), entry.day].append(entry)
    return found


class _Line:
    """One place through time: shares in today's, the declared rate, and what one unit of its
    currency costs at home."""

    def __init__(
        self,
        place: Place,
        steps: Sequence[tuple[date, int | None]],
        of: Paying,
        known: Known,
        keeps: float,
    ) -> None:
        self.place, self.currency, self._keeps = place, of.currency, keeps
        self._splits = known.splits.get(place[1], ())
        self._shares = [(d, None if n is None else self._today(n, d)) for d, n in steps]
        self._rates = of.rates
        self.days = {d for d, _ in steps} | {d for d, _ in of.rates}
        self.shares, self.rate, self.price = 0.0, 0.0, 0.0

    def _today(self, shares: int, day: date) -> float:
        """In today's shares."""
        found = Fraction(shares, SHARE)
        for first, ratio in self._splits:
            if first > day:
                found *= ratio
        return float(found)

    @property
    def income(self) -> float:
        return self.shares * self.rate * self.price * self._keeps

    def begin(self, day: date, price: float) -> None:
        self.shares, self.rate, self.price = self._held(day), self._rate(day), price

    def _held(self, day: date) -> float:
        at = bisect_right(self._shares, day, key=lambda s: s[0])
        return (self._shares[at - 1][1] or 0.0) if at else 0.0

    def _rate(self, day: date) -> float:
        at = bisect_right(self._rates, day, key=lambda s: s[0])
        return (self._rates[at - 1][1] or 0.0) if at else 0.0

    def to(
        self, day: date, price: float | None, why: Mapping[tuple[Place, date], Sequence[Entry]]
    ) -> list[Change]:
        """What changed since the day before this one: the currency first, then shares, then the
        rate."""
        found: list[Change] = []

        def say(reason: Why, by: float, before: float, after: float) -> None:
            if by:
                found.append(
                    Change(
                        day=day,
                        place=self.place,
                        why=reason,
                        by=by * self._keeps,
                        before=before,
                        after=after,
                    )
                )

        if price is not None and price != self.price:
            by = self.shares * self.rate * (price - self.price)
            say(Why.CURRENCY, by, self.price, price)
            self.price = price
        held = self._held(day)
        if held != self.shares:
            self._traded(held, why.get((self.place, day), ()), day, say)
            self.shares = held
        rate = self._rate(day)
        if rate != self.rate:
            by = self.shares * (rate - self.rate) * self.price
            say(_turn(self.rate, rate), by, self.rate, rate)
            self.rate = rate
        return found

    def _traded(
        self,
        held: float,
        trades: Sequence[Entry],
        day: date,
        say: Callable[[Why, float, float, float], None],
    ) -> None:
        """A change of shares by what it came of; what no trade explains was moved."""
        worth, shares = self.rate * self.price, self.shares
        for kind, reason in KINDS.items():
            by = sum(self._today(e.shares or 0, day) for e in trades if e.kind is kind)
            by = -by if kind is EntryKind.SELL else by
            say(reason, by * worth, shares, shares + by)
            shares += by
        rest = held - shares
        if abs(rest) > 1e-9:
            say(Why.MOVED, rest * worth, shares, held)


def _turn(before: float, after: float) -> Why:
    if before == 0.0:
        return Why.BEGUN
    if after == 0.0:
        return Why.ENDED
    return Why.RAISED if after > before else Why.CUT
