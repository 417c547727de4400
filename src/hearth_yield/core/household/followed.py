"""What was bought and sold after a decision. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction

from ..figures.figure import Figure, Sample, SampleRow, Unit, derive, unknown
from ..figures.parts import HoldsFigures
from .amounts import SHARE, minor_digits
from .entries import Entry, EntryKind


@dataclass(frozen=True, slots=True, kw_only=True)
class Traded(HoldsFigures):
    """Trades one way. shares: in today's shares; price: for one of them, with the fees; a tax on a
    sale is not taken off. first, last: their days."""

    shares: Figure
    price: Figure
    first: date
    last: date


@dataclass(frozen=True, slots=True, kw_only=True)
class Followed(HoldsFigures):
    """until: the day of the next decision on the payer. against_buy_below: what was paid against
    the price that the decision would buy below."""

    until: date | None
    bought: Traded | None
    sold: Traded | None
    against_buy_below: Figure | None


def followed(
    trades: Iterable[Entry],
    splits: Sequence[tuple[date, Fraction]],
    currency: str,
    *,
    since: date,
    before: date | None,
    buy_below: Decimal | None,
) -> Followed:
    """What was traded of a payer from the day of a decision until the day before the next.

    trades: of the payer, known by the day viewed. splits: (first day in new shares, new for an
    old one). currency: the payer's. buy_below: in the shares of the day of the decision.
    100 at 20.00 and 50 at 24.00, fee 5 each, then 2 for 1: 300 at 10.70.
    """
    mine = [e for e in trades if since <= e.day and (before is None or e.day < before)]
    buys = [e for e in mine if e.kind is EntryKind.BUY]
    sales = [e for e in mine if e.kind is EntryKind.SELL]
    bought = _traded("bought", buys, lambda e: e.paid, splits, currency)
    sold = _traded("sold", sales, lambda e: e.proceeds, splits, currency)
    against = None
    if bought is not None and buy_below is not None:
        below = Figure(
            label="buy-below price",
            unit=Unit.PER_SHARE,
            value=float(Fraction(buy_below) / _since(splits, since)),
            formula="as decided, in today's shares",
            currency=currency,
        )
        against = derive(
            "price paid vs buy-below",
            Unit.FRACTION,
            "average price paid ÷ buy-below price − 1",
            [bought.price, below],
            lambda paid, limit: paid / limit - 1,
        )
    return Followed(until=before, bought=bought, sold=sold, against_buy_below=against)


def _since(splits: Sequence[tuple[date, Fraction]], day: date) -> Fraction:
    """How many of today's shares one of a day has become."""
    found = Fraction(1)
    for first, ratio in splits:
        if first > day:
            found *= ratio
    return found


def _traded(
    way: str,
    entries: Sequence[Entry],
    amount: Callable[[Entry], int],
    splits: Sequence[tuple[date, Fraction]],
    currency: str,
) -> Traded | None:
    if not entries:
        return None
    counts = [(e.shares or 0) * _since(splits, e.day) for e in entries]
    sums = [amount(e) for e in entries]
    rows = [
        SampleRow(
            day=e.day, values=(float(n / SHARE), s / 10 ** minor_digits(e.currency)), source=None
        )
        for e, n, s in zip(entries, counts, sums, strict=True)
    ]
    sample = Sample(columns=(("shares", Unit.COUNT), ("amount", Unit.INDEX)), rows=lambda: rows)
    shares = Figure(
        label=f"shares {way}",
        unit=Unit.COUNT,
        value=float(sum(counts, Fraction(0)) / SHARE),
        formula="shares of all trades, in today's shares",
        sample=sample,
    )
    label = f"average price {way} at"
    others = sorted({e.currency for e in entries} - {currency})
    if others:
        price = unknown(
            label, Unit.PER_SHARE, f"a trade was entered in {others[0]}", currency=currency
        )
    else:
        paid = Fraction(sum(sums), 10 ** minor_digits(currency))
        price = Figure(
            label=label,
            unit=Unit.PER_SHARE,
            value=float(paid * SHARE / sum(counts, Fraction(0))),
            formula="amounts with fees ÷ shares, in today's shares",
            currency=currency,
            sample=sample,
        )
    days = [e.day for e in entries]
    return Traded(shares=shares, price=price, first=min(days), last=max(days))
