"""Regular payments in today's shares, and how many of them fall into a year.

docs/method.md, Record.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise

from msgspec import Struct

from ..facts.edits import BY_HAND
from ..facts.payer_file import PayerFile
from ..facts.records import (
    Dividend,
    DividendKind,
    Notice,
    NoticeKind,
    Payer,
    pending_factor,
    split_factor,
)
from ..figures.figure import Figure, Touch, Unit, touch_of

SLOT_DAYS = 45
"""The furthest that a payment may slide from its slot; half the interval between payments where
that is less."""
RHYTHM_DAYS = 345
STOPS = (NoticeKind.OMITTED, NoticeKind.SUSPENDED)


class Payment(Struct, frozen=True, kw_only=True):
    """A dividend in today's shares. ordinal: of its ex-date."""

    ex_date: date
    ordinal: int
    known_on: date
    amount: float
    per_year: int | None
    fact: Dividend
    split_touch: Touch | None = None

    def figure(self, currency: str) -> Figure:
        raw = self.fact.amount
        notes: tuple[str, ...] = ()
        if raw != self.amount:
            notes += (f"{raw:g} in the shares of its ex-date",)
        if self.fact.edited:
            notes += (self.fact.edited.note,)
        elif self.fact.entered:
            notes += (BY_HAND,)
        if self.fact.assumed:
            notes += ("the day is assumed: what a year paid, as one payment at its end",)
        kind = self.fact.kind.value.replace("_", " ")
        foreign = in_another_currency([self], currency)
        return Figure(
            label=f"{kind} dividend, ex {self.ex_date.isoformat()}",
            unit=Unit.PER_SHARE,
            value=None if foreign else self.amount,
            reason=foreign,
            currency=currency,
            known_on=self.known_on,
            source=self.fact.source,
            notes=notes,
            touch=touch_of([self.fact.touch, self.split_touch]),
            fact=self.fact.at,
        )


def payments_of(file: PayerFile, kind: DividendKind = DividendKind.REGULAR) -> list[Payment]:
    """The file's dividends of one kind by ex-date, in today's shares; made once for each file."""
    held: list[Payment] | None = file.made.get(kind)
    if held is None:
        held = file.made[kind] = _payments(file, kind)
    return held


def _payments(file: PayerFile, kind: DividendKind) -> list[Payment]:
    """An amount is in the shares of its ex-date: those of before an effective split are divided by
    it, and those that go ex after one still to come are multiplied by it."""
    return [
        Payment(
            ex_date=d.ex_date,
            ordinal=d.ex_date.toordinal(),
            known_on=d.known_on,
            amount=d.amount
            * pending_factor(file.pending_splits, d.ex_date)
            / split_factor(file.splits, d.ex_date),
            per_year=d.payments_per_year,
            fact=d,
            split_touch=file.split_touch(d.ex_date),
        )
        for d in file.dividends
        if d.kind is kind
    ]


def in_another_currency(payments: Sequence[Payment], currency: str) -> str | None:
    """Why payments cannot be added up or held against a price; None where nothing stands in the
    way. An amount in another currency is never taken for one in the payer's."""
    other = next((p.fact.currency for p in payments if p.fact.currency != currency), None)
    return other and f"paid in {other}, which is not converted to {currency}"


def manual_edits_between(file: PayerFile, first: date, last: date = date.max) -> Touch | None:
    """Whether a person had a hand in the payments and notices between two days, both included: a
    rhythm, a streak or a cut is read from all of them, also from those that are not there."""
    if "hand" not in file.made:
        file.made["hand"] = _touched_days(file)
    found: list[tuple[date, Touch]] = file.made["hand"]
    return touch_of([touch for day, touch in found if first <= day <= last]) if found else None


def _touched_days(file: PayerFile) -> list[tuple[date, Touch]]:
    touches = [
        *((p.ex_date, touch_of([p.fact.touch, p.split_touch])) for p in payments_of(file)),
        *((n.declared_on, Touch.ENTERED if n.entered else None) for n in file.notices),
        *(
            (x.day, Touch.EDITED)
            for x in file.exclusions
            if x.table == "dividend_notices" or x.kind == DividendKind.REGULAR
        ),
    ]
    return [(day, touch) for day, touch in touches if touch is not None]


READ_BACK = timedelta(days=1100)
"""How far a reading of the rate looks back: two years of slots, and until it lapses."""
READ_BY_HAND = "read from payments of which some were entered or edited"


def ordinals_of(payments: Sequence[Payment]) -> list[int]:
    """Ex-dates as numbers of days, which counting goes by."""
    return [p.ordinal for p in payments]


def _count_to(days: Sequence[int], last: int) -> int:
    """Payments with ex-dates in the 345 days up to and including `last`."""
    return bisect_right(days, last) - bisect_left(days, last - RHYTHM_DAYS + 1)


def reach_of(rhythm: int) -> float:
    """How far a payment may slide from its slot, in days."""
    return min(SLOT_DAYS, 365 / rhythm / 2)


def year_before(days: Sequence[int], i: int) -> int | None:
    """Index of the payment nearest to a year before the one at i, within the reach of a slide: 45
    days, or half the interval to the payment before where that is less."""
    if i == 0:
        return None
    target = days[i] - 365
    reach = min(SLOT_DAYS, (days[i] - days[i - 1]) / 2)
    after = bisect_left(days, target, hi=i)
    best = after if after < i else after - 1
    if 0 < after < i and target - days[after - 1] <= days[after] - target:
        best = after - 1
    return best if abs(days[best] - target) <= reach else None


def counts_at(days: Sequence[int], i: int) -> tuple[int, int]:
    """Payments in the 345 days to the one at i, and in those to the one a year before it."""
    before = year_before(days, i)
    year_ago = days[i] - 365 if before is None else days[before]
    return _count_to(days, days[i]), _count_to(days, year_ago)


def is_uneven(payments: Sequence[Payment], rhythm: int, payer: Payer) -> bool:
    """Whether payments differ by slot (interim and final), the same way two years running."""
    if payer.evenness is not None:
        return payer.evenness == "uneven"
    if rhythm < 2 or len(payments) < 2 * rhythm + 1:
        return False
    amounts = [p.amount for p in payments[-(2 * rhythm + 1) :]]
    if min(amounts) <= 0 or not _falls(amounts):
        return False
    steps = [b / a - 1 for a, b in pairwise(amounts)]
    pairs = list(zip(steps[:rhythm], steps[rhythm:], strict=True))
    fell = any(a < -0.02 and b < -0.02 for a, b in pairs)
    rose = any(a > 0.02 and b > 0.02 for a, b in pairs)
    return fell and rose


def _falls(amounts: Sequence[float]) -> bool:
    """Whether one is more than 2 % below the one before. Asked for each day a rate became known,
    hence no generator."""
    before = amounts[0]
    for amount in amounts:
        if amount < 0.98 * before:
            return True
        before = amount
    return False


class Outcome(StrEnum):
    """What happened to a payment, and to a year of them."""

    STARTED = "started"
    RAISED = "raised"
    HELD = "held"
    CUT = "cut"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


TOLERANCE = 0.0005


def outcome_of(now: float, then: float) -> Outcome:
    """Raised or cut when above or below by more than 0.05 %, else held."""
    if now < then * (1 - TOLERANCE):
        return Outcome.CUT
    return Outcome.RAISED if now > then * (1 + TOLERANCE) else Outcome.HELD


def between_stops(payments: Sequence[Payment], notices: Sequence[Notice]) -> list[tuple[int, int]]:
    """Ranges of payments, each up to a notice of omission or suspension."""
    stops = [n.declared_on for n in notices if n.kind in STOPS]
    cuts = [
        i
        for i in range(1, len(payments))
        if any(payments[i - 1].known_on <= s < payments[i].known_on for s in stops)
    ]
    edges = [0, *cuts, len(payments)]
    return [(a, b) for a, b in pairwise(edges) if b > a]
