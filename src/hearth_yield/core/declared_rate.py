"""The declared rate: what the payer has said it pays a year, as any one day would have read it.

docs/method.md, Record. Amounts are in today's shares.
"""

from __future__ import annotations

from bisect import insort
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise

import numpy as np

from .facts import (
    Days,
    Dividend,
    DividendKind,
    Floats,
    Notice,
    NoticeKind,
    Payer,
    PayerFile,
    split_factor,
)
from .figure import Figure, Touch, Unit, Unknown, derive, touch_of, unknown
from .hand import BY_HAND

SLOT_DAYS = 45
RHYTHM_DAYS = 345
STOPS = (NoticeKind.OMITTED, NoticeKind.SUSPENDED)


@dataclass(frozen=True, slots=True, kw_only=True)
class Payment:
    """A regular dividend in today's shares."""

    ex_date: date
    known_on: date
    amount: float
    per_year: int | None
    fact: Dividend
    split_touch: Touch | None = None

    def figure(self, currency: str) -> Figure:
        raw = self.fact.amount
        notes: tuple[str, ...] = ()
        if raw != self.amount:
            notes += (f"paid as {raw:g} before later splits",)
        if self.fact.adjusted:
            notes += (self.fact.adjusted.note,)
        elif self.fact.entered:
            notes += (BY_HAND,)
        kind = self.fact.kind.value.replace("_", " ")
        foreign = _unconverted([self], currency)
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Reading:
    """The declared rate as one day would have read it, and what it was read from."""

    rate: float | None
    reason: str | None = None
    rhythm: int | None = None
    uneven: bool = False
    used: tuple[Payment, ...] = ()
    lapses_on: date | None = None
    notice: Notice | None = None


def payments_of(file: PayerFile, kind: DividendKind = DividendKind.REGULAR) -> list[Payment]:
    """The file's dividends of one kind by ex-date, in today's shares; made once for each file."""
    held: list[Payment] | None = file.made.get(kind)
    if held is None:
        held = file.made[kind] = _payments(file, kind)
    return held


def _payments(file: PayerFile, kind: DividendKind) -> list[Payment]:
    return [
        Payment(
            ex_date=d.ex_date,
            known_on=d.known_on,
            amount=d.amount / split_factor(file.splits, d.ex_date),
            per_year=d.payments_per_year,
            fact=d,
            split_touch=file.split_touch(d.ex_date),
        )
        for d in file.dividends
        if d.kind is kind
    ]


def _unconverted(payments: Sequence[Payment], currency: str) -> str | None:
    """Why payments cannot be added up or held against a price; None where nothing stands in the
    way. An amount in another currency is never taken for one in the payer's."""
    other = next((p.fact.currency for p in payments if p.fact.currency != currency), None)
    return other and f"paid in {other}, which is not converted to {currency}"


def hand_in(file: PayerFile, first: date, last: date = date.max) -> Touch | None:
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
        *((x.day, Touch.ADJUSTED) for x in file.left_out
          if x.table == "dividend_notices" or x.kind == DividendKind.REGULAR),
    ]  # fmt: skip
    return [(day, touch) for day, touch in touches if touch is not None]


READ_BACK = timedelta(days=1100)
"""How far a reading of the rate looks back: two years of slots, and until it lapses."""
READ_BY_HAND = "read from payments of which some were entered or adjusted"


def _count_to(payments: Sequence[Payment], last: date) -> int:
    """Payments with ex-dates in the 345 days up to and including `last`."""
    first = last - timedelta(days=RHYTHM_DAYS - 1)
    n = 0
    for p in reversed(payments):
        if p.ex_date < first:
            break
        n += p.ex_date <= last
    return n


def year_before(payments: Sequence[Payment], end: int) -> int | None:
    """Index of the payment nearest to a year before the one at `end`, within 45 days."""
    target = payments[end].ex_date - timedelta(days=365)
    best, best_gap = None, SLOT_DAYS + 1
    for i in range(end - 1, -1, -1):
        gap = abs((payments[i].ex_date - target).days)
        if gap < best_gap:
            best, best_gap = i, gap
        elif payments[i].ex_date < target:
            break
    return best


def read_rhythm(payments: Sequence[Payment], payer: Payer) -> int | Unknown:
    """Payments a year: stated with the dividend, known of the payer, or counted.

    The count is compared with the one ending at the payment nearest to a year earlier, so that
    an ex-date that slides by a few days does not look like a change of rhythm.
    Source: docs/method.md, Record.
    """
    stated = payments[-1].per_year or payer.rhythm
    if stated:
        return stated
    end = len(payments) - 1
    newest = payments[end].ex_date
    before = year_before(payments, end)
    year_ago = newest - timedelta(days=365) if before is None else payments[before].ex_date
    now, then = _count_to(payments, newest), _count_to(payments, year_ago)
    if then == 0 and payments[0].ex_date > newest - timedelta(days=2 * 365):
        return Unknown(
            f"rhythm not settled: {now} payment{'s' if now != 1 else ''} in the {RHYTHM_DAYS} days "
            f"to {newest.isoformat()}, none a year earlier"
        )
    if now != then:
        return Unknown(
            f"rhythm changing: {now} payments in the {RHYTHM_DAYS} days to "
            f"{newest.isoformat()}, {then} a year earlier"
        )
    return now


def is_uneven(payments: Sequence[Payment], rhythm: int, payer: Payer) -> bool:
    """Whether payments differ by slot (interim and final), the same way two years running."""
    if payer.evenness is not None:
        return payer.evenness == "uneven"
    if rhythm < 2 or len(payments) < 2 * rhythm + 1:
        return False
    amounts = [p.amount for p in payments[-(2 * rhythm + 1) :]]
    if min(amounts) <= 0 or all(b >= 0.98 * a for a, b in pairwise(amounts)):
        return False
    steps = [b / a - 1 for a, b in pairwise(amounts)]
    pairs = list(zip(steps[:rhythm], steps[rhythm:], strict=True))
    fell = any(a < -0.02 and b < -0.02 for a, b in pairs)
    rose = any(a > 0.02 and b > 0.02 for a, b in pairs)
    return fell and rose


def read_rate(payments: Sequence[Payment], notices: Sequence[Notice], payer: Payer) -> Reading:
    """The declared rate from what one day knew.

    Level payer: newest regular payment × rhythm. Uneven payer: the newest payment of each slot,
    summed. A notice of omission or suspension sets it to 0; earlier payments never count again.

    Args: payments: known regular ones by ex-date; notices: known ones by date.
    Returns: the rate per share and year, or the reason there is none.
    Source: docs/method.md, Record. 0.50 three times then 0.56, quarterly → 2.24.
    """
    stop = next((n for n in reversed(notices) if n.kind in STOPS), None)
    counted = payments
    if stop is not None:
        counted = [p for p in payments if p.known_on > stop.declared_on]
        if not counted:
            return Reading(rate=0.0, notice=stop)
    if not counted:
        return Reading(rate=None, reason="no regular dividend on record")
    rhythm = read_rhythm(counted, payer)
    if isinstance(rhythm, Unknown):
        return Reading(rate=None, reason=rhythm.reason)
    lapses_on = counted[-1].ex_date + timedelta(days=round(1.5 * 365 / rhythm + 30))
    uneven = is_uneven(counted, rhythm, payer)
    foreign = _unconverted(counted[-rhythm if uneven else -1 :], payer.currency)
    if foreign:
        return Reading(rate=None, reason=foreign, rhythm=rhythm, uneven=uneven)
    if not uneven:
        return Reading(
            rate=counted[-1].amount * rhythm,
            rhythm=rhythm,
            used=(counted[-1],),
            lapses_on=lapses_on,
        )
    used = tuple(counted[-rhythm:])
    if len(used) < rhythm:
        reason = f"only {len(used)} of {rhythm} uneven payments known"
        return Reading(rate=None, reason=reason, rhythm=rhythm, uneven=True)
    return Reading(
        rate=sum(p.amount for p in used),
        rhythm=rhythm,
        uneven=True,
        used=used,
        lapses_on=lapses_on,
    )


def read_on(file: PayerFile, day: date) -> Reading:
    """The reading as of the file's own day, lapse included."""
    reading = read_rate(payments_of(file), file.notices, file.payer)
    if reading.lapses_on is not None and day > reading.lapses_on:
        last = reading.used[-1].ex_date.isoformat()
        reason = f"lapsed: nothing declared since the payment of ex-date {last}"
        return Reading(rate=None, reason=reason, rhythm=reading.rhythm, uneven=reading.uneven)
    return reading


def rate_steps(file: PayerFile) -> tuple[Days, Floats]:
    """The declared rate as a step function of the day it was known.

    Returns: days (datetime64[D], ascending) from which each rate held, and the rates in today's
    shares; NaN marks a gap (unknown or lapsed).
    """
    by_known = sorted(payments_of(file), key=lambda p: p.known_on)
    events = sorted({p.known_on for p in by_known} | {n.declared_on for n in file.notices})
    known: list[Payment] = []
    steps: list[tuple[date, float]] = []
    taken = 0
    pending_lapse: date | None = None
    for day in events:
        if pending_lapse is not None and pending_lapse < day:
            steps.append((pending_lapse + timedelta(days=1), np.nan))
        while taken < len(by_known) and by_known[taken].known_on <= day:
            insort(known, by_known[taken], key=lambda p: p.ex_date)
            taken += 1
        notices = [n for n in file.notices if n.declared_on <= day]
        reading = read_rate(known, notices, file.payer)
        steps.append((day, np.nan if reading.rate is None else reading.rate))
        pending_lapse = reading.lapses_on
    if pending_lapse is not None and pending_lapse < file.day:
        steps.append((pending_lapse + timedelta(days=1), np.nan))
    return (
        np.array([s[0] for s in steps], dtype="datetime64[D]"),
        np.array([s[1] for s in steps], dtype=np.float64),
    )


def declared_rate_figure(file: PayerFile, reading: Reading) -> Figure:
    """The declared rate, with what the person did to the payments it is read from."""
    since = file.day - READ_BACK
    left_out = (
        *file.left_out_within("dividends", since, date.max, DividendKind.REGULAR),
        *file.left_out_within("dividend_notices", since, date.max),
    )
    found = _rate_figure(file, reading).shaped_by(left_out)
    return found.also(hand_in(file, since), READ_BY_HAND)


def _rate_figure(file: PayerFile, reading: Reading) -> Figure:
    label, currency = "declared rate", file.payer.currency
    if reading.notice is not None:
        kind, day = reading.notice.kind.value, reading.notice.declared_on
        return Figure(
            label=label,
            unit=Unit.PER_SHARE,
            value=0.0,
            currency=currency,
            formula=f"nothing: the dividend was {kind}",
            known_on=day,
            source=reading.notice.source,
            notes=(f"{kind} by notice of {day.isoformat()}",),
            touch=Touch.ENTERED if reading.notice.entered else None,
        )
    if reading.rate is None:
        return unknown(label, Unit.PER_SHARE, reading.reason or "", currency=currency)
    f = reading.rhythm
    formula = (
        "newest payment of each slot, summed"
        if reading.uneven
        else f"newest regular payment × {f} payment{'s' if f != 1 else ''} a year"
    )
    return derive(
        label,
        Unit.PER_SHARE,
        formula,
        [p.figure(currency) for p in reading.used],
        lambda *a: sum(a) if reading.uneven else a[0] * f,
        currency=currency,
        period="a year",
        known_on=max(p.known_on for p in reading.used),
    )


def rhythm_figure(file: PayerFile, reading: Reading) -> Figure:
    label = "payments a year"
    by_hand = hand_in(file, file.day - READ_BACK)
    if not reading.rhythm:
        reason = reading.reason or "the dividend is suspended"
        return unknown(label, Unit.COUNT, reason).also(by_hand, READ_BY_HAND)
    if reading.used and reading.used[-1].per_year:
        origin, by_hand = "stated with the newest dividend", None
    elif file.payer.rhythm:
        origin, by_hand = "recorded for the payer", file.payer.touch
    else:
        origin = f"payments in the {RHYTHM_DAYS} days to the newest ex-date, the same a year before"
    return Figure(
        label=label,
        unit=Unit.COUNT,
        value=float(reading.rhythm),
        formula=origin,
        inputs=tuple(p.figure(file.payer.currency) for p in reading.used),
    ).also(by_hand)
