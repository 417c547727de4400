"""Lots of one payer in one account, and what happens to them. (docs/method.md, Household)

Lots are kept in the order in which they go, those of the same day and origin as one: so it does not
matter in which order a day's entries were typed.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from fractions import Fraction

from msgspec import Struct
from msgspec.structs import replace

from .amounts import SHARE, rounded, shared_out, whole


class Lot(Struct, frozen=True, kw_only=True):
    """Shares bought on a day: what they cost with fees, in the payer's currency and at home, in
    minor units; None where that is not known. dated: that the day is known, and not only the one by
    which they were held. by_dividend: that a dividend bought them."""

    day: date
    shares: int
    cost: int | None
    home: int | None
    dated: bool = True
    by_dividend: bool = False

    def cost_a_share(self, digits: int) -> float | None:
        """In the payer's currency, whose minor unit has so many decimals."""
        if self.cost is None:
            return None
        return float(Fraction(self.cost * SHARE, self.shares * 10**digits))

    @property
    def key(self) -> tuple[date, bool, bool, bool, bool]:
        """What makes two lots one; and the order in which they go."""
        return (self.day, self.dated, self.by_dividend, self.cost is None, self.home is None)


def together(lots: Sequence[Lot]) -> Lot:
    """Lots of one day as one."""
    return replace(
        lots[0],
        shares=sum(lot.shares for lot in lots),
        cost=total(lot.cost for lot in lots),
        home=total(lot.home for lot in lots),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Unresolved:
    """More went than was held: nothing is known of the position from that day on."""

    since: date
    missing: int

    @property
    def reason(self) -> str:
        return "more went than was held"


def plus(a: int | None, b: int | None) -> int | None:
    return None if a is None or b is None else a + b


def minus(a: int | None, b: int | None) -> int | None:
    return None if a is None or b is None else a - b


def total(amounts: Iterable[int | None]) -> int | None:
    """None where one is not known."""
    found = 0
    for amount in amounts:
        if amount is None:
            return None
        found += amount
    return found


def part_of(amount: int | None, shares: int, of: int) -> int | None:
    return None if amount is None else rounded(amount * shares, of)


class Holding:
    """The lots of one payer in one account."""

    __slots__ = ("average", "lots", "unresolved")

    def __init__(self, average: bool) -> None:
        self.average = average
        self.lots: list[Lot] = []
        self.unresolved: Unresolved | None = None

    @property
    def shares(self) -> int:
        return sum(lot.shares for lot in self.lots)

    @property
    def cost(self) -> int | None:
        return total(lot.cost for lot in self.lots)

    @property
    def home(self) -> int | None:
        return total(lot.home for lot in self.lots)

    def add(self, lots: Iterable[Lot]) -> None:
        """Lots of one key become one; nothing is added to what is not known."""
        if self.unresolved:
            return
        by_key = {self._key(lot): lot for lot in self.lots}
        for lot in lots:
            key = self._key(lot)
            held = by_key.get(key)
            by_key[key] = lot if held is None else _joined(held, lot)
        self.lots = [by_key[key] for key in sorted(by_key)]
        self._level()

    def _key(self, lot: Lot) -> tuple[object, ...]:
        """At average cost a cost that is not known is soon that of all."""
        return lot.key[:3] if self.average else lot.key

    def _level(self) -> None:
        """At average cost every share costs the same; the days stay."""
        if not self.average or len(self.lots) < 2:
            return
        sizes = [lot.shares for lot in self.lots]
        costs = levelled(self.cost, sizes)
        homes = levelled(self.home, sizes)
        self.lots = [
            replace(lot, cost=cost, home=home)
            for lot, cost, home in zip(self.lots, costs, homes, strict=True)
        ]

    def take(self, shares: int, chosen: Sequence[tuple[date, int]], on: date) -> list[Lot]:
        """The lots that go: of the chosen days first, then the first in. More than is held leaves
        the holding unresolved, and nothing goes."""
        if shares > self.shares:
            self.lose(Unresolved(since=on, missing=shares - self.shares))
            return []
        cost, home, held = self.cost, self.home, self.shares
        gone: list[Lot] = []
        left = shares
        for day, wanted in sorted(chosen):
            left -= self._take(min(wanted, left), gone, day)
        self._take(left, gone, None)
        if self.average and gone:
            gone = _at(gone, part_of(cost, shares, held), part_of(home, shares, held))
            left_cost = minus(cost, total(lot.cost for lot in gone))
            left_home = minus(home, total(lot.home for lot in gone))
            self.lots = _at(self.lots, left_cost, left_home)
        return gone

    def _take(self, shares: int, gone: list[Lot], day: date | None) -> int:
        """Takes from the first lots, or from those of one day; how much there was."""
        stay: list[Lot] = []
        left = shares
        for lot in self.lots:
            if not left or (day is not None and lot.day != day):
                stay.append(lot)
            elif lot.shares <= left:
                gone.append(lot)
                left -= lot.shares
            else:
                piece = replace(
                    lot,
                    shares=left,
                    cost=part_of(lot.cost, left, lot.shares),
                    home=part_of(lot.home, left, lot.shares),
                )
                gone.append(piece)
                stay.append(_without(lot, piece))
                left = 0
        self.lots = stay
        return shares - left

    def lose(self, why: Unresolved) -> None:
        """From now on nothing is known."""
        self.unresolved, self.lots = why, []

    def split(self, ratio: Fraction) -> None:
        """New shares for old: the cost stays, also that of a lot too small to be a share of it."""
        sizes = shared_out(max(whole(self.shares * ratio), 1), [o.shares for o in self.lots])
        stay: list[Lot] = []
        cost: int | None = 0
        home: int | None = 0
        for lot, size in zip(self.lots, sizes, strict=True):
            cost, home = plus(cost, lot.cost), plus(home, lot.home)
            if size:
                stay.append(replace(lot, shares=size, cost=cost, home=home))
                cost, home = 0, 0
        self.lots = stay

    def give_back(
        self, amount: int, home: int | None, before: date | None
    ) -> list[tuple[Lot, int, int | None]]:
        """Capital that comes back takes cost, a share alike, from the lots bought before a day, at
        each lot's own rate; what is beyond a lot's cost is gain. Each lot as it was, with its part
        of the amount and the home currency's worth of that."""
        takes = [lot for lot in self.lots if before is None or lot.day < before] or self.lots
        sizes = [lot.shares for lot in takes]
        parts = shared_out(amount, sizes)
        homes = levelled(home, sizes)
        given = dict(zip((lot.key for lot in takes), parts, strict=True))
        found = [(lot, part, at) for lot, part, at in zip(takes, parts, homes, strict=True)]
        self.lots = [given_back(lot, given.get(lot.key, 0)) for lot in self.lots]
        self._level()
        return found

    def carve(self, share: Fraction) -> list[tuple[int | None, int | None]]:
        """Takes a part of every lot's cost, and says what that was, in the payer's currency and at
        home."""
        taken = [(_share(lot.cost, share), _share(lot.home, share)) for lot in self.lots]
        self.lots = [
            replace(lot, cost=minus(lot.cost, cost), home=minus(lot.home, home))
            for lot, (cost, home) in zip(self.lots, taken, strict=True)
        ]
        return taken


def _share(amount: int | None, share: Fraction) -> int | None:
    return None if amount is None else whole(amount * share)


def _joined(a: Lot, b: Lot) -> Lot:
    return replace(
        a, shares=a.shares + b.shares, cost=plus(a.cost, b.cost), home=plus(a.home, b.home)
    )


def _without(lot: Lot, piece: Lot) -> Lot:
    return replace(
        lot,
        shares=lot.shares - piece.shares,
        cost=minus(lot.cost, piece.cost),
        home=minus(lot.home, piece.home),
    )


def levelled(amount: int | None, sizes: Sequence[int]) -> Sequence[int | None]:
    """An amount in parts by shares; None for each where it is not known."""
    return [None] * len(sizes) if amount is None else shared_out(amount, sizes)


def _at(lots: Sequence[Lot], cost: int | None, home: int | None) -> list[Lot]:
    """Lots that cost so much together."""
    sizes = [lot.shares for lot in lots]
    costs, homes = levelled(cost, sizes), levelled(home, sizes)
    return [replace(lot, cost=c, home=h) for lot, c, h in zip(lots, costs, homes, strict=True)]


def given_back(lot: Lot, part: int) -> Lot:
    """Less of its cost, not under nil; at home in proportion, which is the lot's own rate."""
    if lot.cost is None or not part:
        return lot
    cost = max(lot.cost - part, 0) if part > 0 else lot.cost - part
    home = None if lot.home is None else (rounded(lot.home * cost, lot.cost) if lot.cost else 0)
    return replace(lot, cost=cost, home=home)
