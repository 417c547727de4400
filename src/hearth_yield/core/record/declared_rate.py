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
from ..facts.payer_file import PayerFile
from ..facts.periods import fiscal_years, year_age
from ..facts.records import DividendKind, Notice, Payer
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Touch, Unit, derive, unknown
from .payments import (
    READ_BACK,
    READ_BY_HAND,
    RHYTHM_DAYS,
    STOPS,
    Payment,
    in_another_currency,
    manual_edits_between,
    payments_of,
)
from .rhythm import Follower, Rhythm, apart, follow, followed_in, pattern_of, times

NONE_ON_RECORD = "no regular dividend on record"


class Reading(Struct, frozen=True, kw_only=True):
    """The declared rate as one day would have read it, and what it was read from.

    uneven: it is the sum of the newest payment of each slot. unsettled: whether the payer is uneven
    cannot be told yet, and it is read as if it were. holds_to: the last day on which it reads so if
    nothing more is declared; lapses_on: the last day on which it holds at all. counted: two
    years agree on its rhythm. doubts: what might have to be read otherwise.
    """

    rate: float | None
    reason: str | None = None
    rhythm: int | None = None
    uneven: bool = False
    unsettled: bool = False
    used: tuple[Payment, ...] = ()
    holds_to: date | None = None
    lapses_on: date | None = None
    notice: Notice | None = None
    counted: bool = False
    doubts: tuple[str, ...] = ()


def read_rate(
    payments: Sequence[Payment], notices: Sequence[Notice], payer: Payer, day: date
) -> Reading:
    """The declared rate as a day reads it.

    Level payer: newest regular payment × rhythm. Uneven payer, and two payments a year whose
    pattern is not settled: the newest payment of each slot, summed. A notice of omission or
    suspension sets it to 0; earlier payments never count again.

    Args: payments: known regular ones by ex-date; notices: known ones by date.
    Returns: the rate per share and year, or the reason there is none.
    Source: docs/method.md, Record. 0.50 three times then 0.56, quarterly → 2.24.
    """
    return _read_last(follow(payments, notices, payer), notices, payer, day)


def _read_last(
    held: Sequence[tuple[int, Follower]], notices: Sequence[Notice], payer: Payer, day: date
) -> Reading:
    stop = _newest_stop(notices)
    if not held or (stop and held[-1][1].payments[-1].known_on <= stop.declared_on):
        return _nothing(stop)
    return _read(held[-1][1], payer, day)


def _newest_stop(notices: Sequence[Notice]) -> Notice | None:
    return next((n for n in reversed(notices) if n.kind in STOPS), None)


def _nothing(stop: Notice | None) -> Reading:
    if stop is not None:
        return Reading(rate=0.0, notice=stop)
    return Reading(rate=None, reason=NONE_ON_RECORD)


def _read(held: Follower, payer: Payer, day: date) -> Reading:
    """The rate from the payments since the last stop."""
    newest, read = held.payments[-1], held.read(day)
    recorded = None if newest.per_year else payer.rhythm
    rhythm = recorded or read.value
    if rhythm is None:
        return Reading(rate=None, reason=read.reason, holds_to=read.holds_to)
    first = 0 if recorded else -1
    pattern = pattern_of(held.newest(2 * rhythm + 1, first), rhythm, payer, held.before)
    uneven = (recorded is not None or not held.asked) and apart(pattern, rhythm)
    unsettled = uneven and pattern is None
    used = tuple(held.newest(rhythm if uneven else 1, first))
    rate, reason = None, in_another_currency(used, payer.currency)
    if reason is None and uneven and len(used) < rhythm:
        which = "payments known; which is interim and which final is not settled"
        which = which if unsettled else "uneven payments known"
        reason = f"only {len(used)} of {rhythm} {which}"
    elif reason is None:
        rate = sum(p.amount for p in used) if uneven else used[0].amount * rhythm
    known = rate is not None
    lapses_on = newest.ex_date + timedelta(days=round(1.5 * 365 / rhythm + 30))
    return Reading(
        rate=rate,
        reason=reason,
        rhythm=rhythm,
        uneven=uneven,
        unsettled=unsettled,
        used=used if known else (),
        holds_to=None if recorded else read.holds_to,
        lapses_on=lapses_on if known else None,
        counted=read.counted,
        doubts=_doubts(held, read, rhythm) if known and (read.unless or held.odd) else (),
    )


def _doubts(held: Follower, read: Rhythm, rhythm: int) -> tuple[str, ...]:
    """What the person should know of a reading: a cut that is none if more is paid from now on, and
    a payment that was one of a kind."""
    found = []
    if read.unless and rhythm == read.value:
        found.append(f"a cut, unless it pays {times(read.unless)} a year from now on")
    for i in sorted(held.odd):
        p = held.payments[i]
        if held.payments[-1].ex_date - p.ex_date <= READ_BACK:
            found.append(
                f"the payment of {p.ex_date.isoformat()} was one of a kind and no raise; if part "
                "of it was a special, enter it as one"
            )
    return tuple(found)


def read_on(file: PayerFile, day: date) -> Reading:
    """The reading as of the file's own day, lapse and delisting included."""
    ended = file.payer.delisted_on
    if ended is not None:
        return Reading(rate=None, reason=f"delisted on {in_words(ended)}")
    reading = _read_last(followed_in(file), file.notices, file.payer, day)
    if reading.lapses_on is not None and day > reading.lapses_on:
        last = reading.used[-1].ex_date.isoformat()
        reason = f"lapsed: nothing declared since the payment of ex-date {last}"
        return Reading(rate=None, reason=reason, rhythm=reading.rhythm, uneven=reading.uneven)
    return reading


_ONE = timedelta(days=1)


def _changes_after(reading: Reading) -> date | None:
    """The last day on which a reading holds if nothing more is declared."""
    ends = [d for d in (reading.holds_to, reading.lapses_on) if d is not None]
    return min(ends, default=None)


class _Known:
    """What is known of a payer, day after day: payments are followed as they come, and all over
    again where one comes before another that is known already."""

    def __init__(self, notices: Sequence[Notice], payer: Payer) -> None:
        self.all_notices, self.payer = notices, payer
        self.payments: list[Payment] = []
        self.stop: Notice | None = None
        self.held: Follower | None = None
        self.before: bool | None = None

    def learn(self, day: date, new: Sequence[Payment]) -> None:
        """What became known on a day: payments first, then a stop."""
        for p in sorted(new, key=lambda p: p.ordinal):
            if self.payments and p.ordinal < self.payments[-1].ordinal:
                insort(self.payments, p, key=lambda x: x.ordinal)
                self._again(day)
                continue
            self.payments.append(p)
            self.held = self.held or Follower(self.payer, self.before)
            self.held.push(p)
        stop = _newest_stop([n for n in self.all_notices if n.declared_on <= day])
        if stop is not self.stop:
            self.stop = stop
            self._again(day)

    def _again(self, day: date) -> None:
        notices = [n for n in self.all_notices if n.declared_on <= day]
        followed = follow(self.payments, notices, self.payer)
        self.held = followed[-1][1] if followed else None
        last = self.held.payments[-1] if self.held else None
        if self.held and last and self.stop and last.known_on <= self.stop.declared_on:
            self.before, self.held = self.held.pattern, None

    def read(self, day: date) -> Reading:
        return _nothing(self.stop) if self.held is None else _read(self.held, self.payer, day)


def rate_steps(file: PayerFile) -> tuple[Days, Floats]:
    """The declared rate as a step function of the day it was known.

    Returns: days (datetime64[D], ascending) from which each rate held, and the rates in today's
    shares; NaN marks a gap (unknown or lapsed).
    """
    by_known = sorted(payments_of(file), key=lambda p: p.known_on)
    events = sorted({p.known_on for p in by_known} | {n.declared_on for n in file.notices})
    known = _Known(file.notices, file.payer)
    steps: list[tuple[date, float]] = []
    taken = 0
    for day, following in zip(events, [*events[1:], file.day + _ONE], strict=False):
        new = taken
        while new < len(by_known) and by_known[new].known_on <= day:
            new += 1
        known.learn(day, by_known[taken:new])
        taken = new
        reading = known.read(day)
        steps.append((day, np.nan if reading.rate is None else reading.rate))
        while (until := _changes_after(reading)) is not None and until + _ONE < following:
            if until == reading.lapses_on:
                steps.append((until + _ONE, np.nan))
                break
            reading = known.read(until + _ONE)
            steps.append((until + _ONE, np.nan if reading.rate is None else reading.rate))
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


def _none_paid(file: PayerFile) -> Figure | None:
    """The nil of dividends paid in the newest fiscal year, where that is what its statement says;
    a table of dividends that is not there says nothing."""
    years = fiscal_years(file)
    if not years:
        return None
    paid = year_age(file, years).of(years[-1].line("dividends_paid"))
    return paid if paid.value == 0 else None


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
        if reading.reason == NONE_ON_RECORD and (paid := _none_paid(file)) is not None:
            formula = "nothing: no dividend is on record, and none was paid in the newest year"
            return derive(label, Unit.PER_SHARE, formula, [paid], lambda _: 0.0, currency=currency)
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
        notes=(*(("pattern not settled",) if reading.unsettled else ()), *reading.doubts),
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
    elif reading.counted:
        origin = f"payments in the {RHYTHM_DAYS} days to the newest ex-date, the same a year before"
    else:
        origin = "by the days between the newest payments, until two years agree"
    return Figure(
        label=label,
        unit=Unit.COUNT,
        value=float(reading.rhythm),
        formula=origin,
        inputs=tuple(p.figure(file.payer.currency) for p in reading.used),
    ).with_touch(by_hand)
