"""The declared rate: what the payer has said it pays a year, as any one day would have read it.

docs/method.md, Record. Amounts are in today's shares.
"""

from __future__ import annotations

from bisect import insort
from collections.abc import Sequence
from datetime import date, timedelta

import numpy as np
from msgspec import Struct

from ..facts.age import in_words
from ..facts.records import DividendKind, Notice, Payer, PayerFile
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Touch, Unit, Unknown, derive, unknown
from .payments import (
    READ_BACK,
    READ_BY_HAND,
    RHYTHM_DAYS,
    STOPS,
    Payment,
    in_another_currency,
    is_uneven,
    is_unsettled_pair,
    manual_edits_between,
    payments_of,
    read_rhythm,
)


class Reading(Struct, frozen=True, kw_only=True):
    """The declared rate as one day would have read it, and what it was read from.

    uneven: it is the sum of the newest payment of each slot. unsettled: whether the payer is uneven
    cannot be told yet, and it is read as if it were.
    """

    rate: float | None
    reason: str | None = None
    rhythm: int | None = None
    uneven: bool = False
    unsettled: bool = False
    used: tuple[Payment, ...] = ()
    lapses_on: date | None = None
    notice: Notice | None = None


def read_rate(
    payments: Sequence[Payment],
    notices: Sequence[Notice],
    payer: Payer,
    days: Sequence[int] | None = None,
) -> Reading:
    """The declared rate from what one day knew.

    Level payer: newest regular payment × rhythm. Uneven payer, and two payments a year whose
    pattern is not settled: the newest payment of each slot, summed. A notice of omission or
    suspension sets it to 0; earlier payments never count again.

    Args: payments: known regular ones by ex-date; notices: known ones by date; days: the payments'
        `ordinals_of`, where the caller has them.
    Returns: the rate per share and year, or the reason there is none.
    Source: docs/method.md, Record. 0.50 three times then 0.56, quarterly → 2.24.
    """
    stop = next((n for n in reversed(notices) if n.kind in STOPS), None)
    counted = payments
    if stop is not None:
        counted, days = [p for p in payments if p.known_on > stop.declared_on], None
        if not counted:
            return Reading(rate=0.0, notice=stop)
    if not counted:
        return Reading(rate=None, reason="no regular dividend on record")
    rhythm = read_rhythm(counted, payer, days)
    if isinstance(rhythm, Unknown):
        return Reading(rate=None, reason=rhythm.reason)
    lapses_on = counted[-1].ex_date + timedelta(days=round(1.5 * 365 / rhythm + 30))
    unsettled = is_unsettled_pair(counted, rhythm, payer)
    uneven = unsettled or is_uneven(counted, rhythm, payer)
    used = tuple(counted[-rhythm if uneven else -1 :])
    rate, reason = None, in_another_currency(used, payer.currency)
    if reason is None and uneven and len(used) < rhythm:
        which = "payments known; which is interim and which final is not settled"
        which = which if unsettled else "uneven payments known"
        reason = f"only {len(used)} of {rhythm} {which}"
    elif reason is None:
        rate = sum(p.amount for p in used) if uneven else used[0].amount * rhythm
    known = rate is not None
    return Reading(
        rate=rate,
        reason=reason,
        rhythm=rhythm,
        uneven=uneven,
        unsettled=unsettled,
        used=used if known else (),
        lapses_on=lapses_on if known else None,
    )


def read_on(file: PayerFile, day: date) -> Reading:
    """The reading as of the file's own day, lapse and delisting included."""
    ended = file.payer.delisted_on
    if ended is not None:
        return Reading(rate=None, reason=f"delisted on {in_words(ended)}")
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
    days: list[int] = []
    steps: list[tuple[date, float]] = []
    taken = 0
    pending_lapse: date | None = None
    for day in events:
        if pending_lapse is not None and pending_lapse < day:
            steps.append((pending_lapse + timedelta(days=1), np.nan))
        while taken < len(by_known) and by_known[taken].known_on <= day:
            insort(known, by_known[taken], key=lambda p: p.ordinal)
            insort(days, by_known[taken].ordinal)
            taken += 1
        notices = [n for n in file.notices if n.declared_on <= day]
        reading = read_rate(known, notices, file.payer, days)
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
    exclusions = (
        *file.exclusions_within("dividends", since, date.max, DividendKind.REGULAR),
        *file.exclusions_within("dividend_notices", since, date.max),
    )
    found = _rate_figure(file, reading).with_exclusions(exclusions)
    return found.with_touch(manual_edits_between(file, since), READ_BY_HAND)


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
        notes=("pattern not settled",) if reading.unsettled else (),
    )


def rhythm_figure(file: PayerFile, reading: Reading) -> Figure:
    label = "payments a year"
    by_hand = manual_edits_between(file, file.day - READ_BACK)
    if not reading.rhythm:
        reason = reading.reason or "the dividend is suspended"
        return unknown(label, Unit.COUNT, reason).with_touch(by_hand, READ_BY_HAND)
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
    ).with_touch(by_hand)
