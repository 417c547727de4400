"""The newest twelve months as every past day knew them, in plain numbers: what a history of
multiples is read off. (docs/method.md, Range)

What `trailing_period` says of one day, said of all days at once. No figure is made on the way:
hundreds of days are read while a person waits.
"""

from __future__ import annotations

from bisect import insort
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from ..figures.arrays import Days, Floats
from .age import BOUNDS
from .payer_file import PayerFile
from .periods import INTERIM, newest_twelve
from .records import split_factor
from .statements import PER_SHARE_LINES, SECTION_TOTAL, SHARE_LINES, Span, Statement

MOST = 4
"""Statements that make twelve months."""


@dataclass(frozen=True, kw_only=True)
class Steps:
    """days: from which each twelve months were the newest known. Every line is nan where a
    statement does not report it, where the payer's currency is another, and once it is old."""

    days: Days
    statements: Sequence[Statement]
    factors: Floats
    places: npt.NDArray[np.int64]
    counts: Floats
    currency: str
    _made: dict[str, Floats] = field(default_factory=dict, init=False, repr=False, compare=False)

    def line(self, name: str) -> Floats:
        """A flow over the twelve months; of a share count the mean, in today's shares."""
        mean = name in SHARE_LINES
        return self._read(name, name, lambda row: self._sum(row) / (self.counts if mean else 1))

    def at_end(self, name: str) -> Floats:
        """A line of the balance sheet, at the end of the twelve months."""
        return self._read(f"{name} at end", name, lambda row: row[self.places[:, 0]])

    def _read(self, key: str, name: str, made: Callable[[Floats], Floats]) -> Floats:
        if key not in self._made:
            self._made[key] = made(self._row(name))
        return self._made[key]

    def _sum(self, row: Floats) -> Floats:
        found: Floats = row[self.places].sum(axis=1)
        return found

    def _row(self, name: str) -> Floats:
        """The line of every statement, a nil for the place of none, and nan for the gap."""
        total = SECTION_TOTAL.get(name)
        row = np.full(len(self.statements) + 2, np.nan)
        for n, s in enumerate(self.statements):
            value = s.lines.get(name)
            if value is None and total is not None and total in s.lines:
                value = 0.0
            if value is not None and s.currency == self.currency:
                row[n] = value
        row[NIL] = 0.0
        if name in SHARE_LINES:
            row[: len(self.factors)] *= self.factors
        if name in PER_SHARE_LINES:
            row[: len(self.factors)] /= self.factors
        return row


NIL, GAP = -2, -1
"""Where a row holds the place of no statement, and of a day with no twelve months."""


def steps_of(file: PayerFile) -> Steps:
    """Made once for each file."""
    held: Steps | None = file.made.get("steps")
    if held is None:
        held = file.made["steps"] = _steps(file)
    return held


def _steps(file: PayerFile) -> Steps:
    used: dict[int, int] = {}
    statements: list[Statement] = []
    days, places = [], []
    for day, twelve in _history(file):
        row = []
        for s in reversed(twelve):
            if id(s) not in used:
                used[id(s)] = len(statements)
                statements.append(s)
            row.append(used[id(s)])
        days.append(day)
        places.append([*row, *[NIL] * (MOST - len(row))] if row else [GAP] * MOST)
    at = np.array(places, dtype=np.int64).reshape(-1, MOST)
    return Steps(
        days=np.array(days, dtype="datetime64[D]"),
        statements=statements,
        factors=np.array([split_factor(file.splits, s.published_on) for s in statements]),
        places=at,
        counts=(at != NIL).sum(axis=1).astype(np.float64),
        currency=file.payer.currency,
    )


def _history(file: PayerFile) -> Iterator[tuple[date, Sequence[Statement]]]:
    """The days on which the newest twelve months changed, with what they were from then on; none
    from the day on which they were old."""
    held: dict[Span, dict[date, Statement]] = {span: {} for span in Span}
    ends: dict[Span, list[date]] = {span: [] for span in Span}
    last: dict[Span, list[Statement]] = {span: [] for span in Span}
    ordered = sorted(file.versions, key=lambda s: s.published_on)
    now: Sequence[Statement] = ()
    for n, s in enumerate(ordered):
        if s.period_end not in held[s.span]:
            insort(ends[s.span], s.period_end)
        held[s.span][s.period_end] = s
        recent = ends[s.span][-INTERIM.get(s.span, 1) :]
        last[s.span] = [held[s.span][end] for end in recent]
        following = ordered[n + 1].published_on if n + 1 < len(ordered) else None
        if following == s.published_on:
            continue
        newest = newest_twelve(last)
        if list(map(id, newest)) != list(map(id, now)):
            now = newest
            yield s.published_on, now
        old = _old_on(now)
        if old is not None and (following is None or old < following) and old <= file.day:
            now = ()
            yield old, now


def _old_on(twelve: Sequence[Statement]) -> date | None:
    """The first day on which nothing current can be said of them."""
    if not twelve:
        return None
    kind = {1: "years", 2: "halves", 4: "quarters"}[len(twelve)]
    return twelve[-1].period_end + timedelta(days=BOUNDS[kind][1] + 1)
