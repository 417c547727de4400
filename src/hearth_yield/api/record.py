"""What Record shows besides its figures: the years, and what keeps pace."""

from __future__ import annotations

from datetime import date
from typing import Literal

from hearth_yield.core.record.history import Record, Year
from hearth_yield.core.record.inflation import Pace
from hearth_yield.core.record.measures import AHEAD, GROWTHS, REAL_GROWTHS, REAL_WHOLE, WHOLE
from hearth_yield.core.record.stage import RecordStage

from .answer import wire
from .figures import FigureOut, PaymentOut, figure_out, payment_out
from .wire import fill


@wire
class GrowthOut:
    """A span, and the measures that say how the dividend grew over it; ahead: with the year
    ahead."""

    name: str
    nominal: str
    real: str
    ahead: str | None


@wire
class YearOut:
    """A calendar year. pending: declared, not paid yet; expected: of the running year, by
    analysts."""

    year: int
    outcome: str
    complete: bool
    total: FigureOut
    real: FigureOut | None
    part: str | None
    pending: FigureOut | None
    special: FigureOut | None
    expected: FigureOut | None
    payments: list[PaymentOut]


@wire
class PaceStepOut:
    """What the dividend would have had to be in a year."""

    year: int
    needed: FigureOut


@wire
class SlumpPaidOut:
    """What the dividend did in a slump. action: the worst that was declared in it; null before
    anything was paid."""

    name: str
    begins: date
    ends: date | None
    action: str | None
    before: FigureOut
    after: FigureOut
    change: FigureOut


@wire
class PaceOut:
    base_year: int
    needed: FigureOut
    ahead: FigureOut
    path: list[PaceStepOut]


@wire
class RecordSeries:
    growth: list[GrowthOut]
    years: list[YearOut]
    paces: list[PaceOut]
    slumps: list[SlumpPaidOut]


@wire
class PaidOut:
    """outcome: against its predecessor; null of payments that are not regular. to_come: declared,
    and not ex yet."""

    ex_date: date
    declared_on: date | None
    pay_date: date | None
    kind: Literal["regular", "special", "return_of_capital"]
    amount: FigureOut
    outcome: str | None
    to_come: bool


@wire
class PaymentsSeries:
    """Every payment, the newest first."""

    payments: list[PaidOut]


def payments_series(record: Record) -> PaymentsSeries:
    return PaymentsSeries(
        payments=[
            fill(
                PaidOut,
                p,
                f"record.paid.{p.key}",
                ex_date=p.payment.ex_date,
                declared_on=p.payment.fact.declared_on,
                pay_date=p.payment.fact.pay_date,
                kind=p.payment.fact.kind.value,
            )
            for p in record.paid
        ]
    )


def record_series(stage: RecordStage) -> RecordSeries:
    return RecordSeries(
        growth=[
            *(
                GrowthOut(
                    name=f"{n} year{'s' if n > 1 else ''}",
                    nominal=nominal.id,
                    real=REAL_GROWTHS[n].id,
                    ahead=AHEAD[n].id if n in AHEAD else None,
                )
                for n, nominal in GROWTHS.items()
            ),
            GrowthOut(name="whole record", nominal=WHOLE.id, real=REAL_WHOLE.id, ahead=None),
        ],
        slumps=[
            fill(
                SlumpPaidOut,
                s,
                f"record.slumps.{s.key}",
                name=s.slump.name,
                begins=s.slump.begins,
                ends=s.slump.ends,
            )
            for s in stage.slumps
        ],
        years=[_year(y, stage) for y in stage.record.years],
        paces=[_pace(p, f"record.paces.{p.key}") for p in stage.inflation.paces],
    )


def _pace(pace: Pace, at: str) -> PaceOut:
    path = [
        PaceStepOut(year=y, needed=figure_out(f, f"{at}.path.{y}")) for y, f in pace.path.items()
    ]
    return fill(PaceOut, pace, at, path=path)


def _year(year: Year, stage: RecordStage) -> YearOut:
    real = stage.inflation.real_years.get(year.year)
    expected = stage.expected if year.year == stage.running else None
    return fill(
        YearOut,
        year,
        f"record.years.{year.key}",
        real=figure_out(real, f"record.real_years.{year.key}") if real else None,
        expected=figure_out(expected, "record.expected") if expected else None,
        payments=[payment_out(p.fact, p.amount) for p in year.payments],
    )
