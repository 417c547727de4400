"""Growth that counts the year ahead, and the next payment, declared or projected.
(docs/method.md, Record)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from ..estimates.newest import newest_estimate
from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from .history import Record, Year
from .payments import READ_BACK, manual_edits_between

AHEAD_SPANS = (3, 5)
PROJECTED = "projected from the payments of a year before"


def growth_with_year_ahead(file: PayerFile, record: Record, n: int) -> Figure:
    """(expected ÷ base)^(1/n) − 1, n years to the year after the last complete one.

    expected: the declared rate where a payment of that year is declared already, else the estimate
    of its dividends per share. Source: docs/method.md, Record. 1.00 → 1.20 over 3 → 6.2659 %.
    """
    label = f"dividend growth over {n} years, the year ahead included"
    complete = {y.year: y for y in record.years if y.complete}

    def none(reason: str) -> Figure:
        by_hand = manual_edits_between(file, date.min)
        return unknown(label, Unit.FRACTION, reason).with_touch(by_hand)

    if not complete:
        return none("no complete year of dividends")
    year = max(complete) + 1
    base = complete.get(year - n)
    if base is None:
        return none(f"the record begins in {record.years[0].year}, after {year - n}")
    if not base.full:
        return none(base.why_not_full)
    expected = _expected(file, record, year)
    return derive(
        label,
        Unit.FRACTION,
        f"({expected.label} ÷ dividend in {base.year}) ^ (1/{n}) − 1",
        [expected, base.total],
        lambda now, then: (now / then) ** (1 / n) - 1 if then > 0 else Unknown("nothing was paid"),
        period=f"{base.year} to {year}",
        notes=("includes an estimate",) if expected is not record.declared_rate else (),
    ).with_touch(manual_edits_between(file, file.day - READ_BACK))


def _expected(file: PayerFile, record: Record, year: int) -> Figure:
    running = next((y for y in record.years if y.year == year), None)
    if running is not None and running.payments and record.declared_rate.known:
        return record.declared_rate
    return newest_estimate(file, "dps", year)


@dataclass(frozen=True, slots=True, kw_only=True)
class Coming(HoldsFigures):
    """The next payment. projected: nothing of it is declared; its days and amount are those of the
    payment a year before it, at today's rate."""

    ex_date: date
    pay_date: date | None
    declared_on: date | None
    amount: Figure
    projected: bool


def next_payment(file: PayerFile, record: Record) -> Coming | None:
    """The declared one where there is one, else the next by the rhythm; None while nothing is
    being paid or its rhythm is not known."""
    declared = record.next_payment
    if declared is not None:
        return Coming(
            ex_date=declared.ex_date,
            pay_date=declared.fact.pay_date,
            declared_on=declared.fact.declared_on,
            amount=declared.figure(record.currency),
            projected=False,
        )
    rhythm, rate = record.rhythm.value, record.declared_rate
    if not rate.value or not rhythm or not record.compared:
        return None
    payments = [p for p, _ in record.compared]
    times = round(rhythm)
    settled = record.at_rhythm >= times
    before = payments[-times] if settled else payments[-1]
    ex_date = before.ex_date + timedelta(days=365 if settled else 365 // times)
    pay = before.fact.pay_date
    pay_date = None if pay is None else ex_date + (pay - before.ex_date)
    while ex_date <= file.day:
        ex_date += timedelta(days=1)
    amount = derive(
        "next payment, projected",
        Unit.PER_SHARE,
        "the newest payment of its slot" if record.uneven else "declared rate ÷ payments a year",
        [before.figure(record.currency)] if record.uneven else [rate, record.rhythm],
        (lambda a: a) if record.uneven else (lambda r, f: r / f),
        currency=record.currency,
        notes=(PROJECTED,),
    ).with_touch(manual_edits_between(file, file.day - READ_BACK))
    return Coming(
        ex_date=_working_day(ex_date),
        pay_date=None if pay_date is None else _working_day(max(pay_date, ex_date)),
        declared_on=None,
        amount=amount,
        projected=True,
    )


def _working_day(day: date) -> date:
    """The day, or the Monday after a weekend."""
    return day + timedelta(days=(7 - day.weekday()) % 7 if day.weekday() >= 5 else 0)


def who_broke(years: Sequence[Year], streak: Figure) -> Year | None:
    """The complete year that a streak ended at, or the running one that broke it."""
    complete = [y for y in years if y.complete]
    if streak.value is None or not complete:
        return None
    wanted = complete[-1].year - round(streak.value)
    if streak.value == 0 and streak.notes:
        return next((y for y in years if not y.complete), None)
    return next((y for y in complete if y.year == wanted), None)
