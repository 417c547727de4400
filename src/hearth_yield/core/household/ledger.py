"""The ledger walked day by day: lots, sales and what cannot be. (docs/method.md, Household)

A day goes: splits, conversions, openings, transfers in, buys and reinvestments, returned capital,
sales, transfers out. A payer's buys of a day in an account are one lot, its sells one sale, so
that no order of typing or of files matters.
"""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from fractions import Fraction
from typing import Protocol

from msgspec.structs import replace

from .amounts import shared_out, whole, worth
from .entries import Account, CostMethod, Entry, EntryKind, PayerKey
from .lots import Holding, Lot, given_back, levelled, minus, part_of, plus, total

Place = tuple[int, PayerKey]
"""An account, and a payer in it."""
PAID_WITHIN = timedelta(days=120)
"""An ex-date longer ago is not that of a payment."""


class Rates(Protocol):
    def convert(self, amount: int, source: str, target: str, on: date) -> int | None:
        """An amount in the minor unit of another currency, at the rate of the day or the last
        before it; None where no rate is on record."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """What the ledger needs of the payers: the currency each is counted in, its splits as days and
    new shares for an old one, the ex-dates of what it paid."""

    currencies: Mapping[PayerKey, str]
    splits: Mapping[PayerKey, Sequence[tuple[date, Fraction]]] = field(default_factory=dict)
    ex_dates: Mapping[PayerKey, Sequence[date]] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class SoldLot:
    """A lot, or part of one, that brought something: what it brought, in the payer's currency and
    at home; the lot has what that had cost."""

    lot: Lot
    proceeds: int | None
    at_home: int | None

    @property
    def gain(self) -> int | None:
        return minus(self.proceeds, self.lot.cost)

    @property
    def gain_at_home(self) -> int | None:
        return minus(self.at_home, self.lot.home)

    @property
    def by_price(self) -> int | None:
        """Of the gain at home what the price brought; the rest is currency."""
        return gain_by_price(self.gain, self.lot)


@dataclass(frozen=True, slots=True, kw_only=True)
class Sale:
    """What a day's sales, returned capital or a conversion for cash brought, lot by lot."""

    day: date
    account: int
    payer: PayerKey
    kind: EntryKind
    lots: tuple[SoldLot, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class CashOfConversion:
    """What a conversion brought (+) or cost (−), by the shares held."""

    day: date
    account: int
    currency: str
    amount: int


@dataclass(slots=True)
class Book:
    """How the ledger stands after a day. held: by account and payer, also what is gone again.
    steps: the shares at the close of each day on which they changed, None where that is not
    known."""

    held: dict[Place, Holding] = field(default_factory=dict)
    sales: list[Sale] = field(default_factory=list)
    converted: list[CashOfConversion] = field(default_factory=list)
    steps: dict[Place, list[tuple[date, int | None]]] = field(default_factory=dict)


def gain_by_price(gain: int | None, lot: Lot) -> int | None:
    """A gain in the payer's currency at the rate at which the lot was bought."""
    if gain is None or lot.home is None or not lot.cost:
        return None
    return whole(Fraction(gain * lot.home, lot.cost))


def walk(
    accounts: Iterable[Account],
    entries: Iterable[Entry],
    known: Known,
    rates: Rates,
    home: str,
    until: date,
) -> Book:
    """The book after a day, from the entries dated by then. home: the currency of the household."""
    by_day: dict[date, list[Entry]] = defaultdict(list)
    for entry in entries:
        if entry.day <= until and entry.payer is not None:
            by_day[entry.day].append(entry)
    splits: dict[date, list[tuple[PayerKey, Fraction]]] = defaultdict(list)
    for payer, steps in known.splits.items():
        for day, ratio in steps:
            if day <= until:
                splits[day].append((payer, ratio))
    walker = _Walker({a.id: a for a in accounts}, known, rates, home)
    for day in sorted(by_day.keys() | splits.keys()):
        walker.go_through(day, splits.get(day, ()), by_day.get(day, ()))
    return walker.book


_OfDay = Mapping[EntryKind, Mapping[PayerKey, Sequence[Entry]]]
NOTHING: Mapping[PayerKey, Sequence[Entry]] = {}


class _Walker:
    def __init__(
        self, accounts: Mapping[int, Account], known: Known, rates: Rates, home: str
    ) -> None:
        self.accounts, self.known, self.rates, self.home = accounts, known, rates, home
        self.book = Book()
        self.today = date.min
        self.moved: set[Place] = set()
        self.arriving: dict[Place, list[Lot]] = {}

    def go_through(
        self, day: date, splits: Sequence[tuple[PayerKey, Fraction]], entries: Sequence[Entry]
    ) -> None:
        self.today, self.moved = day, set()
        for payer, ratio in splits:
            self._split(payer, ratio)
        by_account = _by_account(entries)
        for account, made in by_account.items():
            for payer, conversions in made.get(EntryKind.CONVERSION, NOTHING).items():
                for entry in sorted(conversions, key=_by_terms):
                    self._convert((account, payer), entry)
            for payer, openings in made.get(EntryKind.OPENING, NOTHING).items():
                self._open((account, payer), openings)
        for account in _senders_first(by_account):
            self._arrive(account)
            self._trade(account, by_account[account])
        for account in sorted({place[0] for place in self.arriving}):
            self._arrive(account)
        for place in self.moved:
            held = self.holding(place)
            shares = None if held.unresolved else held.shares
            self.book.steps.setdefault(place, []).append((day, shares))

    def holding(self, place: Place) -> Holding:
        held = self.book.held.get(place)
        if held is None:
            average = self.accounts[place[0]].method is CostMethod.AVERAGE
            held = self.book.held[place] = Holding(average)
        self.moved.add(place)
        return held

    def _split(self, payer: PayerKey, ratio: Fraction) -> None:
        for place, held in self.book.held.items():
            if place[1] == payer and held.lots:
                held.split(ratio)
                self.moved.add(place)

    def _trade(self, account: int, made: _OfDay) -> None:
        for payer, entries in made.get(EntryKind.TRANSFER, NOTHING).items():
            self._receive((account, payer), [e for e in entries if e.arrives])
        for kind, do in (
            (EntryKind.BUY, self._buy),
            (EntryKind.REINVESTMENT, self._reinvest),
            (EntryKind.RETURN_OF_CAPITAL, self._give_back),
            (EntryKind.DIVIDEND, self._give_back),
            (EntryKind.SELL, self._sell),
            (EntryKind.TRANSFER, self._send),
        ):
            for payer, entries in made.get(kind, NOTHING).items():
                do((account, payer), entries)

    def _open(self, place: Place, entries: Sequence[Entry]) -> None:
        """Shares that are there: they begin anew what was not resolved."""
        self.holding(place).unresolved = None
        self._receive(place, entries)

    def _receive(self, place: Place, entries: Sequence[Entry]) -> None:
        if entries:
            self.holding(place).add(self._opened(place, e) for e in entries)

    def _opened(self, place: Place, entry: Entry) -> Lot:
        day = entry.bought or entry.day
        cost, home = self._both(place, entry, entry.cost, day)
        return Lot(
            day=day, shares=entry.shares or 0, cost=cost, home=home, dated=entry.bought is not None
        )

    def _buy(self, place: Place, entries: Sequence[Entry]) -> None:
        self._add(place, entries, [e.paid for e in entries], by_dividend=False)

    def _reinvest(self, place: Place, entries: Sequence[Entry]) -> None:
        self._add(place, entries, [e.spent_on_shares for e in entries], by_dividend=True)
        self._give_back(place, entries)

    def _add(
        self, place: Place, entries: Sequence[Entry], paid: Sequence[int], *, by_dividend: bool
    ) -> None:
        held = self.holding(place)
        for entry, amount in zip(entries, paid, strict=True):
            cost, home = self._both(place, entry, amount, entry.day)
            lot = Lot(
                day=entry.day,
                shares=entry.shares or 0,
                cost=cost,
                home=home,
                by_dividend=by_dividend,
            )
            held.add([lot])

    def _both(
        self, place: Place, entry: Entry, amount: int | None, day: date
    ) -> tuple[int | None, int | None]:
        """An amount of an entry in the payer's currency, and at home: at the rate at which it was
        settled, else at that of the day."""
        if amount is None:
            return None, None
        currency = self.known.currencies[place[1]]
        cost = self._at(amount, entry.currency, currency, day)
        if entry.settled is None or not entry.moved:
            return cost, self._at(amount, entry.currency, self.home, day)
        settled = part_of(entry.settled, amount, entry.moved) or 0
        own = self.accounts[entry.account].currency
        if currency == own:
            cost = settled
        return cost, self._at(settled, own, self.home, day)

    def _at(self, amount: int, source: str, target: str, day: date) -> int | None:
        return amount if source == target else self.rates.convert(amount, source, target, day)

    def _sell(self, place: Place, entries: Sequence[Entry]) -> None:
        held = self.holding(place)
        if held.unresolved:
            return
        chosen = [c for e in entries for c in e.chosen]
        gone = held.take(sum(e.shares or 0 for e in entries), chosen, self.today)
        proceeds: int | None = 0
        home: int | None = 0
        for entry in entries:
            own, at_home = self._both(place, entry, entry.proceeds, entry.day)
            proceeds, home = plus(proceeds, own), plus(home, at_home)
        self._note(place, EntryKind.SELL, gone, proceeds, home)

    def _note(
        self,
        place: Place,
        kind: EntryKind,
        gone: Sequence[Lot],
        proceeds: int | None,
        home: int | None,
    ) -> None:
        """What lots brought, by their shares."""
        sizes = [lot.shares for lot in gone]
        parts = levelled(proceeds, sizes)
        at_home = levelled(home, sizes)
        lots = [
            SoldLot(lot=lot, proceeds=part, at_home=at)
            for lot, part, at in zip(gone, parts, at_home, strict=True)
        ]
        self._keep(place, kind, lots)

    def _give_back(self, place: Place, entries: Sequence[Entry]) -> None:
        held = self.holding(place)
        both = [self._both(place, e, e.capital_back, e.day) for e in entries if e.capital_back]
        amount, home = total(own for own, _ in both), total(at_home for _, at_home in both)
        if not amount or not held.lots:
            return
        lots = held.give_back(amount, home, self._ex_date(place[1]))
        self._keep(place, EntryKind.RETURN_OF_CAPITAL, [_returned(*lot) for lot in lots])

    def _keep(self, place: Place, kind: EntryKind, lots: Sequence[SoldLot]) -> None:
        account, payer = place
        if lots:
            self.book.sales.append(
                Sale(day=self.today, account=account, payer=payer, kind=kind, lots=tuple(lots))
            )

    def _ex_date(self, payer: PayerKey) -> date | None:
        """Of a payment that came today."""
        days = self.known.ex_dates.get(payer, ())
        at = bisect_right(days, self.today)
        if not at or self.today - days[at - 1] > PAID_WITHIN:
            return None
        return days[at - 1]

    def _send(self, place: Place, entries: Sequence[Entry]) -> None:
        """To each account, or outside, as one."""
        by_target: dict[int | None, list[Entry]] = defaultdict(list)
        for entry in entries:
            if not entry.arrives:
                by_target[entry.to].append(entry)
        for target in sorted(by_target, key=lambda to: -1 if to is None else to):
            sent = by_target[target]
            held = self.holding(place)
            if held.unresolved is None:
                shares = sum(abs(e.shares or 0) for e in sent)
                gone = held.take(shares, [c for e in sent for c in e.chosen], self.today)
                self._pass_on(place, target, gone)
            if held.unresolved is not None and target is not None:
                self.holding((target, place[1])).lose(held.unresolved)

    def _pass_on(self, place: Place, target: int | None, gone: Sequence[Lot]) -> None:
        """To outside they leave at cost."""
        if target is None:
            lots = [SoldLot(lot=o, proceeds=o.cost, at_home=o.home) for o in gone]
            self._keep(place, EntryKind.TRANSFER, lots)
        else:
            self.arriving.setdefault((target, place[1]), []).extend(gone)

    def _arrive(self, account: int) -> None:
        for place in [p for p in self.arriving if p[0] == account]:
            lots = self.arriving.pop(place)
            self.holding(place).add(lots)

    def _convert(self, place: Place, entry: Entry) -> None:
        held = self.holding(place)
        account, payer = place
        target = None if entry.into is None else self.holding((account, entry.into))
        if held.unresolved:
            if target is not None:
                target.lose(held.unresolved)
            return
        if not held.lots:
            return
        currency = self.known.currencies[payer]
        cash = worth(held.shares, entry.cash, currency)
        if cash:
            self.book.converted.append(
                CashOfConversion(day=self.today, account=account, currency=currency, amount=cash)
            )
        moves = Fraction(entry.moves) if target is not None else Fraction(1)
        before = held.lots
        carved = held.carve(moves)
        if moves == 1:
            held.lots = []
        gone = [replace(o, cost=c, home=h) for o, (c, h) in zip(before, carved, strict=True)]
        home = self._at(cash, currency, self.home, self.today)
        if target is None:
            self._note(place, EntryKind.CONVERSION, gone, cash, home)
            return
        self._go_over(place, entry, gone, cash, home)

    def _go_over(
        self, place: Place, entry: Entry, gone: Sequence[Lot], cash: int, home: int | None
    ) -> None:
        """Lots with new shares in place of old: cash takes cost, and beyond it is gain."""
        into = entry.into or place[1]
        sizes = [lot.shares for lot in gone]
        ratio = Fraction(entry.new) / Fraction(entry.old)
        news = shared_out(whole(sum(sizes) * ratio), sizes)
        was, now = (self.known.currencies[p] for p in (place[1], into))
        lots, sold = [], []
        for lot, size, part, at in zip(
            gone, news, shared_out(cash, sizes), levelled(home, sizes), strict=True
        ):
            if not size:
                sold.append(SoldLot(lot=lot, proceeds=part, at_home=at))
                continue
            kept = given_back(lot, part)
            if part > 0:
                sold.append(_returned(lot, part, at))
            cost = kept.cost
            if cost is not None and was != now:
                cost = self._at(cost, was, now, self.today)
            lots.append(replace(kept, shares=size, cost=cost))
        self.holding((place[0], into)).add(lots)
        self._keep(place, EntryKind.CONVERSION, sold)


def _returned(lot: Lot, part: int, at_home: int | None) -> SoldLot:
    """Capital that came back on a lot, with the cost that it took."""
    after = given_back(lot, part)
    taken = replace(lot, cost=minus(lot.cost, after.cost), home=minus(lot.home, after.home))
    return SoldLot(lot=taken, proceeds=part, at_home=at_home)


def _by_account(entries: Iterable[Entry]) -> dict[int, _OfDay]:
    found: dict[int, dict[EntryKind, dict[PayerKey, list[Entry]]]] = defaultdict(
        lambda: defaultdict(lambda: defaultdict(list))
    )
    for entry in entries:
        if entry.payer is not None:
            found[entry.account][entry.kind][entry.payer].append(entry)
            if entry.to is not None:
                found[entry.to]  # whoever receives has a day too
    return {account: found[account] for account in sorted(found)}


def _by_terms(entry: Entry) -> tuple[object, ...]:
    """An order of a day's conversions that does not hang on who was typed first."""
    return (entry.into or ("", ""), entry.new, entry.old, entry.cash, entry.moves)


def _senders_first(by_account: Mapping[int, _OfDay]) -> list[int]:
    """Accounts in an order in which whoever sends shares comes before who receives them; of a
    circle the first by number begins."""
    waits: dict[int, set[int]] = {account: set() for account in by_account}
    for account, made in by_account.items():
        for entries in made.get(EntryKind.TRANSFER, NOTHING).values():
            for entry in entries:
                if entry.to is not None:
                    waits[entry.to].add(account)
    order: list[int] = []
    while waits:
        free = [a for a, senders in waits.items() if not senders - {a}] or [min(waits)]
        for account in free:
            order.append(account)
            del waits[account]
        for senders in waits.values():
            senders.difference_update(free)
    return order
