"""Rows that tell one thing together: a dividend and its tax, a dividend and what it bought, two
sides of an exchange or a transfer, an entry and what takes it back."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence
from decimal import Decimal

from ..made import Made
from .told import Told

Account = Callable[[Told], str]
"""The account that a row is of."""
LEFT_OVER = Decimal("0.05")
"""A reinvestment may be dearer than its dividend by so much, as shares are rounded."""


def without_reversed(rows: Sequence[Told], made: Made) -> list[Told]:
    """Without rows that take one back, and those that are taken back."""
    if not any(r.back for r in rows):
        return list(rows)
    gone: set[int] = set()
    by_what: dict[tuple[object, ...], list[Told]] = defaultdict(list)
    for row in rows:
        if not row.back:
            by_what[_what(row)].append(row)
    for row in (r for r in rows if r.back and not r.taxed_apart):
        there = [r for r in by_what[_what(row)] if r.n not in gone]
        nearest = min(there, key=lambda r: (abs((r.day - row.day).days), r.n), default=None)
        if nearest is None and row.kind == "tax":
            continue  # a refund
        gone.add(row.n)
        if nearest is not None:
            gone.add(nearest.n)
            made.leave(f"row {nearest.n + 1}, which row {row.n + 1} takes back")
        else:
            made.leave(
                f"row {row.n + 1}: it takes back what is not in this file; delete that under "
                "Holdings, Entries"
            )
    return [r for r in rows if r.n not in gone]


def with_tax(rows: Sequence[Told]) -> list[Told]:
    """Lines of tax are part of the dividend of their payer and day."""
    paid: dict[tuple[object, ...], list[Told]] = defaultdict(list)
    for row in rows:
        if row.kind in ("dividend", "reinvestment") and row.payer:
            paid[_of_day(row)].append(row)
    kept = []
    for row in rows:
        if row.kind == "tax" and row.payer and (there := paid.get(_of_day(row))):
            amount = abs(row.moved or Decimal(0))
            whom = next((d for d in there if amount < abs(d.moved or Decimal(0))), None)
            if whom is not None:
                back = row.back or row.sign > 0
                whom.withheld = abs(whom.withheld) + (-amount if back else amount)
                whom.taxed_apart = True
                continue
        kept.append(row)
    return kept


def with_reinvested(rows: Sequence[Told], net: Callable[[Told], Decimal]) -> list[Told]:
    """A dividend and the shares that were bought for it on its day are one reinvestment; a line
    of a reinvestment without shares is the dividend."""
    paid: dict[tuple[object, ...], list[Told]] = defaultdict(list)
    for row in rows:
        if row.kind == "reinvestment" and not row.shares:
            row.kind = "dividend"
        if row.kind == "dividend" and row.payer:
            paid[_of_day(row)].append(row)
    gone: set[int] = set()
    for row in rows:
        if row.kind != "reinvestment":
            continue
        spent = abs(row.moved) if row.moved is not None else None
        there = [d for d in paid.get(_of_day(row), ()) if d.n not in gone]
        whole = [d for d in there if spent is None or net(d) + LEFT_OVER >= spent]
        best = min(whole, key=lambda d: abs(net(d) - (spent or net(d))), default=None)
        if best is not None:
            gone.add(best.n)
            row.of = best
    return [r for r in rows if r.n not in gone]


def with_exchanged(rows: Sequence[Told], account: Account, made: Made) -> list[Told]:
    """Two lines of a day, one currency out and another in, are one exchange."""
    open_ones: dict[tuple[object, ...], list[Told]] = defaultdict(list)
    kept: list[Told] = []
    for row in rows:
        if row.kind != "exchange":
            kept.append(row)
            continue
        key = (account(row), row.day)
        pair = next(
            (r for r in open_ones[key] if r.sign != row.sign and r.currency != row.currency), None
        )
        if pair is None:
            open_ones[key].append(row)
            continue
        open_ones[key].remove(pair)
        given, got = (pair, row) if pair.sign < 0 else (row, pair)
        given.of = got
        kept.append(given)
    for left in (r for some in open_ones.values() for r in some):
        made.leave(
            f"row {left.n + 1}: one side of an exchange of currencies; the other is not there"
        )
    return sorted(kept, key=lambda r: r.n)


def with_moved(rows: Sequence[Told], account: Account) -> list[Told]:
    """Shares that leave one account and come to another on one day are one transfer."""
    come: dict[tuple[object, ...], list[Told]] = defaultdict(list)
    for row in rows:
        if row.kind == "transfer" and row.payer and row.shares and comes(row):
            come[row.day, row.payer.key, abs(row.shares)].append(row)
    gone: set[int] = set()
    for row in rows:
        if row.kind != "transfer" or not row.payer or not row.shares or comes(row):
            continue
        there = come[row.day, row.payer.key, abs(row.shares)]
        other = next((r for r in there if account(r) != account(row)), None)
        if other is not None:
            there.remove(other)
            gone.add(other.n)
            row.of = other
    return [r for r in rows if r.n not in gone]


def comes(row: Told) -> bool:
    return row.inward if row.inward is not None else (row.shares or 0) > 0


def _what(row: Told) -> tuple[object, ...]:
    moved = row.moved
    return (
        row.account,
        row.kind,
        row.payer.key if row.payer else None,
        abs(row.shares) if row.shares is not None else None,
        abs(moved) if moved is not None else None,
        row.currency,
    )


def _of_day(row: Told) -> tuple[object, ...]:
    return (row.account, row.day, row.payer.key if row.payer else None)
