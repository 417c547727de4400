"""Record: what the payer has paid, and what it has declared.

Everything here follows docs/method.md, Record. Amounts are in today's shares.
"""

from __future__ import annotations

import itertools
from bisect import insort
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

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
from .figure import Figure, Unit, Unknown, derive, unknown

SPANS = (1, 3, 5, 10, 20)
TOLERANCE = 0.0005
SLOT_DAYS = 45
RHYTHM_DAYS = 345
TRAILING_GAP = 0.05
STOPS = (NoticeKind.OMITTED, NoticeKind.SUSPENDED)


class Outcome(StrEnum):
    """What happened to a payment, and to a year of them."""

    STARTED = "started"
    RAISED = "raised"
    HELD = "held"
    CUT = "cut"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Payment:
    """A regular dividend in today's shares."""

    ex_date: date
    known_on: date
    amount: float
    per_year: int | None
    fact: Dividend

    def figure(self, currency: str) -> Figure:
        raw = self.fact.amount
        notes = () if raw == self.amount else (f"paid as {raw:g} before later splits",)
        kind = self.fact.kind.value.replace("_", " ")
        return Figure(
            label=f"{kind} dividend, ex {self.ex_date.isoformat()}",
            unit=Unit.PER_SHARE,
            value=self.amount,
            currency=currency,
            known_on=self.known_on,
            source=self.fact.source,
            notes=notes,
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Year:
    """A calendar year of regular payments; pending: the part whose ex-date is still to come."""

    year: int
    total: Figure
    outcome: Outcome
    payments: tuple[Payment, ...]
    complete: bool
    pending: float
    special: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Record:
    declared_rate: Figure
    trailing_rate: Figure
    trailing_gap: Figure
    rhythm: Figure
    uneven: bool
    years: tuple[Year, ...]
    growth: dict[int, Figure]
    raises_in_a_row: Figure
    years_without_reduction: Figure
    latest_raise: Figure
    next_payment: Payment | None
    last_cut: date | None


def payments_of(file: PayerFile, kind: DividendKind = DividendKind.REGULAR) -> list[Payment]:
    """The file's dividends of one kind by ex-date, in today's shares."""
    return [
        Payment(
            ex_date=d.ex_date,
            known_on=d.known_on,
            amount=d.amount / split_factor(file.splits, d.ex_date),
            per_year=d.payments_per_year,
            fact=d,
        )
        for d in file.dividends
        if d.kind is kind
    ]


def _count_to(payments: Sequence[Payment], last: date) -> int:
    """Payments with ex-dates in the 345 days up to and including `last`."""
    first = last - timedelta(days=RHYTHM_DAYS - 1)
    n = 0
    for p in reversed(payments):
        if p.ex_date < first:
            break
        n += p.ex_date <= last
    return n


def _year_before(payments: Sequence[Payment], end: int) -> int | None:
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
    before = _year_before(payments, end)
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
    if min(amounts) <= 0:
        return False
    steps = [b / a - 1 for a, b in itertools.pairwise(amounts)]
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


def slot_years(payments: Sequence[Payment]) -> list[int]:
    """The calendar year each payment belongs to.

    A payment that slid over New Year goes to the year of its slot: one more than the year of the
    payment nearest to a year before it (within 45 days).
    """
    years: list[int] = []
    for i, p in enumerate(payments):
        year = p.ex_date.year
        turn = min(
            abs((p.ex_date - date(year, 1, 1)).days), abs((p.ex_date - date(year + 1, 1, 1)).days)
        )
        if turn <= SLOT_DAYS:
            before = _year_before(payments, i)
            if before is not None:
                year = years[before] + 1
        years.append(year)
    return years


def payment_outcomes(
    payments: Sequence[Payment], notices: Sequence[Notice], rhythm: int | None, uneven: bool
) -> list[Outcome]:
    """Each payment against its predecessor: the previous one, or for an uneven payer the same slot
    of the year before. Amounts are compared as yearly rates where both state their rhythm."""
    stops = [n.declared_on for n in notices if n.kind in STOPS]
    back = rhythm if uneven and rhythm else 1
    outcomes: list[Outcome] = []
    for i, p in enumerate(payments):
        if i == 0 or (uneven and i < back):
            outcomes.append(Outcome.STARTED)
            continue
        newest_before = payments[i - 1].known_on
        if any(newest_before <= s < p.known_on for s in stops):
            outcomes.append(Outcome.RESUMED)
            continue
        previous = payments[i - back]
        now, then = p.amount, previous.amount
        if p.per_year and previous.per_year:
            now, then = now * p.per_year, then * previous.per_year
        if now < then * (1 - TOLERANCE):
            outcomes.append(Outcome.CUT)
        elif now > then * (1 + TOLERANCE):
            outcomes.append(Outcome.RAISED)
        else:
            outcomes.append(Outcome.HELD)
    return outcomes


def year_outcome(outcomes: Sequence[Outcome], stopped: bool) -> Outcome:
    """One word for a year: a notice or an empty year is suspended, any cut makes it cut."""
    if stopped or not outcomes:
        return Outcome.SUSPENDED
    for candidate in (Outcome.CUT, Outcome.STARTED, Outcome.RESUMED, Outcome.RAISED):
        if candidate in outcomes:
            return candidate
    return Outcome.HELD


def yearly(file: PayerFile, payments: Sequence[Payment], outcomes: Sequence[Outcome]) -> list[Year]:
    """Regular dividends by calendar year, from the first year on record to the as-of year."""
    if not payments:
        return []
    currency, today = file.payer.currency, file.day
    by_year: dict[int, list[int]] = {}
    for i, y in enumerate(slot_years(payments)):
        by_year.setdefault(y, []).append(i)
    stop_years = {n.declared_on.year for n in file.notices if n.kind in STOPS}
    specials = payments_of(file, DividendKind.SPECIAL)
    years = []
    for y in range(min(by_year), max(max(by_year), today.year) + 1):
        mine = by_year.get(y, [])
        complete = date(y, 12, 31) <= today
        if not mine and not complete and y not in stop_years:
            continue
        held = tuple(payments[i] for i in mine)
        total = derive(
            f"dividend in {y}",
            Unit.PER_SHARE,
            "sum of the year's regular payments, in today's shares",
            [p.figure(currency) for p in held],
            lambda *a: sum(a),
            currency=currency,
            period=str(y),
        )
        years.append(
            Year(
                year=y,
                total=total,
                outcome=year_outcome([outcomes[i] for i in mine], y in stop_years),
                payments=held,
                complete=complete,
                pending=sum(p.amount for p in held if p.ex_date > today),
                special=sum(p.amount for p in specials if p.ex_date.year == y),
            )
        )
    return years


def streak(years: Sequence[Year], label: str, kept: tuple[Outcome, ...]) -> Figure:
    """Complete years back from the last complete one whose outcome is among `kept`.

    A cut or suspension declared in the running year ends the streak at once.
    """
    if not years:
        return unknown(label, Unit.YEARS, "no regular dividend on record")
    running = [y for y in years if not y.complete]
    broken = any(y.outcome in (Outcome.CUT, Outcome.SUSPENDED) for y in running)
    counted: list[Year] = []
    for year in reversed([y for y in years if y.complete]):
        if broken or year.outcome not in kept:
            break
        counted.append(year)
    notes: tuple[str, ...] = ("a reduction declared this year ends it at once",) if broken else ()
    if counted and counted[-1].year == years[0].year + 1:
        notes += (f"the record begins in {years[0].year}",)
    return Figure(
        label=label,
        unit=Unit.YEARS,
        value=float(len(counted)),
        formula="complete years, counted back from the last, that were "
        + " or ".join(o.value for o in kept),
        inputs=tuple(y.total for y in counted),
        notes=notes,
    )


def growth_over(years: Sequence[Year], n: int) -> Figure:
    """Growth a year over n years: (D_y / D_y−n)^(1/n) − 1, y the last complete year.

    Returns: a fraction a year; unknown when either end is empty or the base year was only part
    paid. Source: docs/method.md, Record.
    """
    label = f"dividend growth over {n} year{'s' if n > 1 else ''}"
    complete = {y.year: y for y in years if y.complete}
    if not complete:
        return unknown(label, Unit.FRACTION, "no complete year of dividends")
    last = max(complete)
    base = complete.get(last - n)
    if base is None:
        reason = f"the record begins in {years[0].year}, after {last - n}"
        return unknown(label, Unit.FRACTION, reason)
    if base.outcome in (Outcome.STARTED, Outcome.RESUMED) and _is_part_year(base, complete):
        reason = f"{base.year} was only part paid ({len(base.payments)} payments)"
        return unknown(label, Unit.FRACTION, reason)

    def compute(now: float, then: float) -> float | Unknown:
        if now <= 0 or then <= 0:
            return Unknown(f"nothing was paid in {last if now <= 0 else base.year}")
        return float((now / then) ** (1 / n) - 1)

    return derive(
        label,
        Unit.FRACTION,
        f"(last complete year ÷ {n} year{'s' if n > 1 else ''} before) ^ (1/{n}) − 1",
        [complete[last].total, base.total],
        compute,
        period=f"{base.year} to {last}",
    )


def _is_part_year(base: Year, complete: dict[int, Year]) -> bool:
    following = complete.get(base.year + 1)
    return following is not None and len(base.payments) < len(following.payments)


def latest_raise(
    payments: Sequence[Payment], outcomes: Sequence[Outcome], back: int, currency: str
) -> Figure:
    """The newest raised payment over its predecessor − 1."""
    label = "latest raise"
    for i in range(len(payments) - 1, -1, -1):
        if outcomes[i] is Outcome.RAISED:
            return derive(
                label,
                Unit.FRACTION,
                "raised payment ÷ its predecessor − 1",
                [payments[i].figure(currency), payments[i - back].figure(currency)],
                lambda new, old: new / old - 1,
                known_on=payments[i].known_on,
            )
    return unknown(label, Unit.FRACTION, "no raise on record")


def declared_rate_figure(file: PayerFile, reading: Reading) -> Figure:
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


def trailing_rate_figure(file: PayerFile, payments: Sequence[Payment]) -> Figure:
    """Regular payments with ex-dates in the 12 months to as_of."""
    day = file.day
    year_ago = day.replace(year=day.year - 1, day=min(day.day, 28 if day.month == 2 else day.day))
    paid = [p for p in payments if year_ago < p.ex_date <= day]
    label = "trailing rate"
    if not payments:
        return unknown(label, Unit.PER_SHARE, "no regular dividend on record")
    return derive(
        label,
        Unit.PER_SHARE,
        "sum of regular payments with ex-dates in the last 12 months",
        [p.figure(file.payer.currency) for p in paid],
        lambda *a: sum(a),
        currency=file.payer.currency,
        period=f"12 months to {day.isoformat()}",
    )


def rhythm_figure(file: PayerFile, reading: Reading) -> Figure:
    label = "payments a year"
    if not reading.rhythm:
        return unknown(label, Unit.COUNT, reading.reason or "the dividend is suspended")
    if reading.used and reading.used[-1].per_year:
        origin = "stated with the newest dividend"
    elif file.payer.rhythm:
        origin = "recorded for the payer"
    else:
        origin = f"payments in the {RHYTHM_DAYS} days to the newest ex-date, the same a year before"
    return Figure(
        label=label,
        unit=Unit.COUNT,
        value=float(reading.rhythm),
        formula=origin,
        inputs=tuple(p.figure(file.payer.currency) for p in reading.used),
    )


def build_record(file: PayerFile) -> Record:
    """The record stage of one payer on the file's day."""
    payments = payments_of(file)
    reading = read_on(file, file.day)
    back = reading.rhythm if reading.uneven and reading.rhythm else 1
    outcomes = payment_outcomes(payments, file.notices, reading.rhythm, reading.uneven)
    years = yearly(file, payments, outcomes)
    declared = declared_rate_figure(file, reading)
    trailing = trailing_rate_figure(file, payments)
    gap = derive(
        "trailing against declared rate",
        Unit.FRACTION,
        "trailing rate ÷ declared rate − 1",
        [trailing, declared],
        lambda t, d: t / d - 1 if d else Unknown("nothing is declared"),
    )
    stops = [n.declared_on for n in file.notices if n.kind in STOPS]
    cuts = [p.known_on for p, o in zip(payments, outcomes, strict=True) if o is Outcome.CUT]
    return Record(
        declared_rate=declared,
        trailing_rate=trailing,
        trailing_gap=gap,
        rhythm=rhythm_figure(file, reading),
        uneven=reading.uneven,
        years=tuple(years),
        growth={n: growth_over(years, n) for n in SPANS},
        raises_in_a_row=streak(years, "years of raises in a row", (Outcome.RAISED,)),
        years_without_reduction=streak(
            years, "years without a reduction", (Outcome.RAISED, Outcome.HELD)
        ),
        latest_raise=latest_raise(payments, outcomes, back, file.payer.currency),
        next_payment=next((p for p in payments if p.ex_date > file.day), None),
        last_cut=max([*stops, *cuts], default=None),
    )
