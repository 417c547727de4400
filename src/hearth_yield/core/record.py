"""Record: what the payer has paid, and what it has declared.

Everything here follows docs/method.md, Record. Amounts are in today's shares.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from .declared_rate import (
    READ_BACK,
    SLOT_DAYS,
    STOPS,
    Payment,
    declared_rate_figure,
    hand_in,
    payments_of,
    read_on,
    rhythm_figure,
    year_before,
)
from .facts import DividendKind, Notice, PayerFile
from .figure import Figure, Unit, Unknown, derive, unknown

SPANS = (1, 3, 5, 10, 20)
TOLERANCE = 0.0005


class Outcome(StrEnum):
    """What happened to a payment, and to a year of them."""

    STARTED = "started"
    RAISED = "raised"
    HELD = "held"
    CUT = "cut"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


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
            before = year_before(payments, i)
            if before is not None:
                year = years[before] + 1
        years.append(year)
    return years


def payment_outcomes(
    payments: Sequence[Payment], notices: Sequence[Notice], rhythm: int | None, uneven: bool
) -> list[Outcome]:
    """Each payment against its predecessor: the previous one, or for an uneven payer the same slot
    of the year before. Amounts are compared as yearly rates where both state their rhythm; one in
    another currency than its predecessor starts anew."""
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
        if p.fact.currency != previous.fact.currency:
            outcomes.append(Outcome.STARTED)
            continue
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
        ).shaped_by(
            file.left_out_within("dividends", date(y, 1, 1), date(y, 12, 31), DividendKind.REGULAR)
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


def streak(file: PayerFile, years: Sequence[Year], label: str, kept: tuple[Outcome, ...]) -> Figure:
    """Complete years back from the last complete one whose outcome is among `kept`. It rests on the
    year that ended it as well, and on that one's predecessor.

    A cut or suspension declared in the running year ends the streak at once.
    """
    if not years:
        none = unknown(label, Unit.YEARS, "no regular dividend on record")
        return none.also(hand_in(file, date.min))
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
    reached = (counted[-1].year if counted else max(y.year for y in years)) - 2
    return Figure(
        label=label,
        unit=Unit.YEARS,
        value=float(len(counted)),
        formula="complete years, counted back from the last, that were "
        + " or ".join(o.value for o in kept),
        inputs=tuple(y.total for y in counted),
        notes=notes,
    ).also(hand_in(file, date(reached, 1, 1)))


def growth_over(file: PayerFile, years: Sequence[Year], n: int) -> Figure:
    """Growth a year over n years: (D_y / D_y−n)^(1/n) − 1, y the last complete year.

    Returns: a fraction a year; unknown when either end is empty or the base year was only part
    paid. Source: docs/method.md, Record.
    """
    label = f"dividend growth over {n} year{'s' if n > 1 else ''}"
    complete = {y.year: y for y in years if y.complete}

    def none(reason: str) -> Figure:
        return unknown(label, Unit.FRACTION, reason).also(hand_in(file, date.min))

    if not complete:
        return none("no complete year of dividends")
    last = max(complete)
    base = complete.get(last - n)
    if base is None:
        return none(f"the record begins in {years[0].year}, after {last - n}")
    if base.outcome in (Outcome.STARTED, Outcome.RESUMED) and _is_part_year(base, complete):
        return none(f"{base.year} was only part paid ({len(base.payments)} payments)")

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
    file: PayerFile, payments: Sequence[Payment], outcomes: Sequence[Outcome], back: int
) -> Figure:
    """The newest raised payment over its predecessor − 1; that none came later rests on those."""
    label, currency = "latest raise", file.payer.currency
    for i in range(len(payments) - 1, -1, -1):
        if outcomes[i] is Outcome.RAISED:
            return derive(
                label,
                Unit.FRACTION,
                "raised payment ÷ its predecessor − 1",
                [payments[i].figure(currency), payments[i - back].figure(currency)],
                lambda new, old: new / old - 1,
                known_on=payments[i].known_on,
            ).also(hand_in(file, payments[i].ex_date - READ_BACK))
    return unknown(label, Unit.FRACTION, "no raise on record").also(hand_in(file, date.min))


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
    ).shaped_by(
        file.left_out_within("dividends", year_ago + timedelta(days=1), day, DividendKind.REGULAR)
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
        growth={n: growth_over(file, years, n) for n in SPANS},
        raises_in_a_row=streak(file, years, "years of raises in a row", (Outcome.RAISED,)),
        years_without_reduction=streak(
            file, years, "years without a reduction", (Outcome.RAISED, Outcome.HELD)
        ),
        latest_raise=latest_raise(file, payments, outcomes, back),
        next_payment=next((p for p in payments if p.ex_date > file.day), None),
        last_cut=max([*stops, *cuts], default=None),
    )
