"""What one payer pays, as known on a day: its payments, its rate over time, and the payments that
are expected of it. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median_low

from ...facts.payer_file import PayerFile
from ...facts.records import DividendKind
from ...record.declared_rate import declared_rate_figure, rate_steps, read_on
from ...record.payments import Payment, payments_of

YEAR = timedelta(days=365)
USUAL_LAG = timedelta(days=30)
"""From the ex-date to the pay date, where a payer never told one."""


@dataclass(frozen=True, slots=True, kw_only=True)
class OnRecord:
    """A dividend on record. comes: its pay date, else by the payer's usual lag, and then told is
    False. each: for a share of its ex-date; today: for one of today's."""

    ex_date: date
    comes: date
    told: bool
    each: float
    today: float
    currency: str
    kind: DividendKind


@dataclass(frozen=True, slots=True, kw_only=True)
class Slot:
    """A payment that nothing declares yet. each: for a share of today's."""

    ex_date: date
    comes: date
    each: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Paying:
    """rates: from which day on which rate was known, in today's shares; None: unknown. slots: of
    the next twelve months."""

    currency: str
    country: str | None
    payments: tuple[OnRecord, ...]
    rates: tuple[tuple[date, float | None], ...]
    slots: tuple[Slot, ...]


def paying_of(file: PayerFile) -> Paying:
    """file: cut to the day; dividends, notices and splits of it are enough."""
    own, day = file.payer, file.day
    lags = [(d.pay_date - d.ex_date).days for d in file.dividends if d.pay_date and not d.assumed]
    lag = timedelta(days=median_low(lags)) if lags else USUAL_LAG
    found = [
        _on_record(p, lag, kind)
        for kind in DividendKind
        for p in payments_of(file, kind)
        if not p.fact.assumed
    ]
    reading = read_on(file, day)
    rate = declared_rate_figure(file, reading)
    return Paying(
        currency=own.currency,
        country=own.country,
        payments=tuple(sorted(found, key=lambda p: (p.comes, p.ex_date))),
        rates=_rates(file, rate.value),
        slots=()
        if not rate.value or not reading.rhythm
        else _slots(found, rate.value, reading.rhythm, reading.uneven, day),
    )


def _on_record(p: Payment, lag: timedelta, kind: DividendKind) -> OnRecord:
    return OnRecord(
        ex_date=p.ex_date,
        comes=p.fact.pay_date or p.ex_date + lag,
        told=p.fact.pay_date is not None,
        each=p.fact.amount,
        today=p.amount,
        currency=p.fact.currency,
        kind=kind,
    )


def _rates(file: PayerFile, now: float | None) -> tuple[tuple[date, float | None], ...]:
    days, rates = rate_steps(file)
    steps = [
        (day, None if rate != rate else rate)
        for day, rate in zip(days.tolist(), rates.tolist(), strict=True)
    ]
    ended = file.payer.delisted_on
    if ended is not None and now is None:
        steps = [s for s in steps if s[0] < ended] + [(ended, None)]
    return tuple(steps)


def _slots(
    found: Sequence[OnRecord], rate: float, rhythm: int, uneven: bool, day: date
) -> tuple[Slot, ...]:
    """The payments of the past year a year on, or, where they are not as many as the rhythm says,
    at even steps from the newest; without those that a declared one fills."""
    regular = [p for p in found if p.kind is DividendKind.REGULAR]
    regular.sort(key=lambda p: p.comes)
    past = [p for p in regular if day - YEAR < p.comes <= day]
    ahead = [p for p in regular if p.comes > day]
    if len(past) == rhythm:
        made = [
            Slot(
                ex_date=p.ex_date + YEAR,
                comes=p.comes + YEAR,
                each=p.today if uneven else rate / rhythm,
            )
            for p in past
        ]
    else:
        step, newest = YEAR / rhythm, regular[-1]
        made = [
            Slot(
                ex_date=newest.ex_date + n * step, comes=newest.comes + n * step, each=rate / rhythm
            )
            for n in range(1, 2 * rhythm + 1)
            if day < newest.comes + n * step <= day + YEAR
        ]
        ahead = []
    near = YEAR / (2 * rhythm)
    for declared in ahead:
        filled = min(made, key=lambda s: abs(s.comes - declared.comes), default=None)
        if filled is not None and abs(filled.comes - declared.comes) <= near:
            made.remove(filled)
    return tuple(made)
