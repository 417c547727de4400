"""Which way the cash of each row goes, and whether its amounts are before or after costs: what a
list as a whole says of it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from datetime import date, timedelta
from decimal import Decimal
from itertools import pairwise
from typing import Literal

from hearth_yield.core.household.entries import PayerKey

from .told import Told

OUT = frozenset(("buy", "fee", "tax", "withdrawal"))
IN = frozenset(("sell", "dividend", "deposit", "return_of_capital"))
BRINGING = frozenset(("buy", "opening", "reinvestment", "transfer", "sell"))
WAYS = OUT | IN
TELLING = WAYS - {"tax"}
"""Kinds that say how a list is written: a tax may be one that is given back."""
CENT = Decimal("0.02")
NEAR = Decimal("0.0005")
"""Of an amount, that far from it is as good as the same: prices are rounded."""
Written = Literal["signed", "turned", "plain"]


def near(a: Decimal, b: Decimal) -> bool:
    """Whether two amounts are the same but for rounding."""
    return abs(a - b) <= CENT + NEAR * max(abs(a), abs(b))


def written(rows: Sequence[Told]) -> Written:
    """Whether what goes out is written below nil, what comes in, or nothing is."""
    counts: Counter[tuple[bool, bool]] = Counter()
    for row in rows:
        moved = row.moved
        if moved and not row.sign and not row.back and row.kind in TELLING:
            counts[row.kind in OUT, moved < 0] += 1
    out, coming = (
        (counts[True, True], counts[True, False]),
        (counts[False, True], counts[False, False]),
    )
    if out[0] > out[1] and coming[0] <= coming[1]:
        return "signed"
    if coming[0] > coming[1] and out[0] <= out[1]:
        return "turned"
    return "plain"


def direct(rows: Sequence[Told]) -> str:
    """Sets the direction of each row's cash, and takes a row that goes against its kind for one
    that takes another back. Returns what is to be said of a running balance; empty where there is
    none or it fits."""
    how = written(rows)
    said = _by_balance(rows) if how == "plain" else ""
    usual = _usual(rows)
    for row in rows:
        moved = row.moved
        if not row.sign and moved:
            below = (moved < 0) != (how == "turned")
            if how != "plain":
                row.sign = -1 if below else 1
            elif row.kind not in WAYS or row.kind in ("deposit", "withdrawal"):
                row.sign = -1 if moved < 0 else 0
            elif (moved < 0) != usual.get(row.kind, False):
                row.back = True
        _mend(row, how)
    return said


def _usual(rows: Sequence[Told]) -> dict[str, bool]:
    """Of each kind, whether most of its rows are written below nil."""
    counts: Counter[str] = Counter()
    for row in rows:
        if row.moved and not row.back and row.kind:
            counts[row.kind] += 1 if row.moved < 0 else -1
    return {kind: n > 0 for kind, n in counts.items()}


def _mend(row: Told, how: Written) -> None:
    """What a direction says of a kind. A dividend that goes out takes one back."""
    if row.kind in ("deposit", "withdrawal") and row.sign:
        row.kind = "deposit" if row.sign > 0 else "withdrawal"
        row.back = False
    elif row.kind in OUT and row.kind != "tax":
        row.back = row.back or row.sign > 0
    elif row.kind in IN:
        row.back = row.back or row.sign < 0
    elif row.kind == "transfer" and row.shares is None and row.moved is not None:
        coming = row.inward if row.inward is not None else (row.sign or 1) > 0
        row.kind = "deposit" if coming else "withdrawal"
    if row.kind == "buy" and row.shares is not None and row.shares < 0 and how == "plain":
        row.back = row.back or not row.sign


def _by_balance(rows: Sequence[Told]) -> str:
    """The direction of amounts without a sign, by the balance that runs beside them: downwards, or
    upwards where the newest row stands first."""
    held = [(r, r.balance, abs(r.moved)) for r in rows if r.balance is not None and r.moved]
    if len(held) < 2:
        return ""
    best: list[tuple[Told, int]] = []
    for step in (1, -1):
        fits = [
            (row, 1 if after > before else -1)
            for (_, before, _), (row, after, amount) in pairwise(held[::step])
            if near(abs(after - before), amount)
        ]
        best = max(best, fits, key=len)
    for row, sign in best:
        row.sign = row.sign or sign
    return "" if len(best) >= len(held) - 1 else "its running balance does not fit every row"


def price_part(rows: Sequence[Told]) -> Decimal:
    """What prices are to be times: a hundredth where shares at them come to a hundred times the
    amounts."""
    votes: Counter[bool] = Counter()
    for row in rows:
        total = next((x for x in (row.gross, row.amount, row.net) if x), None)
        if row.kind in ("buy", "sell") and row.shares and row.price and total:
            base = abs(row.shares * row.price)
            ratio = base / abs(total)
            if Decimal("0.5") < ratio < 2 or 80 < ratio < 125:
                votes[ratio > 50] += 1
    return Decimal("0.01") if votes[True] > votes[False] else Decimal(1)


def is_before_costs(rows: Sequence[Told], part: Decimal) -> bool | None:
    """Whether the amounts of trades are before fees and taxes; None where no row says. part: what
    prices are to be times."""
    votes: Counter[bool] = Counter()
    for row in rows:
        costs = row.costs
        if row.kind not in ("buy", "sell") or not costs or row.amount is None:
            continue
        if row.shares is None or row.price is None:
            continue
        base = abs(row.shares * row.price) * part
        after = base + costs if row.kind == "buy" else base - costs
        before = abs(abs(row.amount) - base)
        votes[before < abs(abs(row.amount) - after)] += 1
    return votes[True] > votes[False] if votes else None


PAID_WITHIN = (timedelta(days=-40), timedelta(days=10))
"""A payment of the record may be so long before or after the day on which it is told to come."""


def is_before_tax_by_record(
    rows: Sequence[Told], paid: Callable[[PayerKey], Sequence[tuple[date, float]]]
) -> bool | None:
    """The same by the payers' record: what each payment was a share, for the shares that the rows
    before it brought; None where they say nothing. paid: the payments of a payer, by their days."""
    held: dict[tuple[str, PayerKey], Decimal] = {}
    votes: Counter[bool] = Counter()
    for row in sorted(rows, key=lambda r: (r.day, r.n)):
        if row.payer is None:
            continue
        place = (row.account, row.payer.key)
        tax, total = abs(row.tax) + abs(row.withheld), row.amount
        if row.kind == "dividend" and tax and total and held.get(place):
            near_by = [e for d, e in paid(row.payer.key) if _is_within(d - row.day)]
            for each in near_by:
                base = held[place] * Decimal(repr(each))
                if near(abs(total), base) or near(abs(total), base - tax):
                    votes[near(abs(total), base)] += 1
        elif row.shares and row.kind in BRINGING:
            going = row.kind == "sell" or (row.kind == "transfer" and row.inward is False)
            held[place] = held.get(place, Decimal(0)) + abs(row.shares) * (-1 if going else 1)
    return votes[True] > votes[False] if votes else None


def _is_within(apart: timedelta) -> bool:
    first, last = PAID_WITHIN
    return first <= apart <= last


def is_before_tax(rows: Sequence[Told]) -> bool | None:
    """The same of dividends, where shares and what each paid stand beside them."""
    votes: Counter[bool] = Counter()
    for row in rows:
        each = row.per_share if row.per_share is not None else row.price
        tax = abs(row.tax) + abs(row.withheld)
        if row.kind != "dividend" or not tax or row.amount is None or not each or not row.shares:
            continue
        base = abs(row.shares * each)
        before = abs(abs(row.amount) - base)
        votes[before < abs(abs(row.amount) - (base - tax))] += 1
    return votes[True] > votes[False] if votes else None
