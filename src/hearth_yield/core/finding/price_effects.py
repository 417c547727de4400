"""What other house rules would make of what payers are worth: the prices to buy below, and the
returns that today's prices offer."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from statistics import median

from ..figures.ties import at_least, same
from ..review import Review


@dataclass(frozen=True, slots=True, kw_only=True)
class Priced:
    """One payer's worth under some rules; None where a figure is unknown."""

    exchange: str
    symbol: str
    name: str
    price: float | None
    buy_below: float | None
    offered: float | None
    offered_after_tax: float | None
    market_return: float | None

    @property
    def in_reach(self) -> bool | None:
        """Whether the price is at or under buy-below."""
        if self.price is None or self.buy_below is None:
            return None
        return at_least(self.buy_below, self.price)

    @property
    def beats_market(self) -> bool | None:
        """Whether the price offers the market's return or more."""
        if self.offered is None or self.market_return is None:
            return None
        return at_least(self.offered, self.market_return)


def priced(review: Review) -> Priced:
    worth, payer = review.worth, review.payer
    return Priced(
        exchange=payer.exchange,
        symbol=payer.symbol,
        name=payer.name,
        price=review.price.value,
        buy_below=worth.buy_below.value,
        offered=worth.implied_return.value,
        offered_after_tax=worth.implied_return_after_tax.value,
        market_return=worth.market_return.value,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Crossing:
    """A payer whose price comes within its buy-below price, or falls out of it."""

    exchange: str
    symbol: str
    name: str
    price: float
    before: float
    after: float
    in_reach: bool


@dataclass(frozen=True, slots=True)
class NowThen:
    """Under the rules that stand, and under the others; None: unknown."""

    now: float | None
    then: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PriceEffect:
    """moved: payers whose buy-below price moves, of those where it is `known`; by: how far, at the
    middle one of them, as a fraction. in_reach, beats_market: how many payers are at or under
    buy-below, and offer the assumed market return or more. after_tax: the return offered after tax
    at the middle payer."""

    known: int
    moved: int
    by: float | None
    in_reach: NowThen
    beats_market: NowThen
    after_tax: NowThen
    crossings: Sequence[Crossing]


def price_effect(before: Sequence[Priced], after: Sequence[Priced]) -> PriceEffect:
    """before, after: the same payers in the same order."""
    pairs = [
        (b.buy_below, a.buy_below)
        for b, a in zip(before, after, strict=True)
        if b.buy_below is not None and a.buy_below is not None
    ]
    moves = [new / old - 1 for old, new in pairs if old > 0 and not same(new, old)]
    return PriceEffect(
        known=len(pairs),
        moved=len(moves),
        by=median(moves) if moves else None,
        in_reach=_both(before, after, lambda p: p.in_reach),
        beats_market=_both(before, after, lambda p: p.beats_market),
        after_tax=NowThen(_middle(before), _middle(after)),
        crossings=[
            Crossing(
                exchange=a.exchange,
                symbol=a.symbol,
                name=a.name,
                price=a.price,
                before=b.buy_below,
                after=a.buy_below,
                in_reach=bool(a.in_reach),
            )
            for b, a in zip(before, after, strict=True)
            if a.price is not None
            and b.buy_below is not None
            and a.buy_below is not None
            and a.in_reach != b.in_reach
        ],
    )


def _both(
    before: Sequence[Priced], after: Sequence[Priced], asked: Callable[[Priced], bool | None]
) -> NowThen:
    return NowThen(sum(asked(p) is True for p in before), sum(asked(p) is True for p in after))


def _middle(held: Sequence[Priced]) -> float | None:
    known = [p.offered_after_tax for p in held if p.offered_after_tax is not None]
    return median(known) if known else None
