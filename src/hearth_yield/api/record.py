"""What Record shows besides its figures: the years, and what keeps pace."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from pydantic import BaseModel

from hearth_yield.core.record.history import Record, Year
from hearth_yield.core.record.measures import GROWTHS, REAL_GROWTHS
from hearth_yield.core.record.stage import RecordStage

from .figures import FigureOut, PaymentOut, Shown, figure_out, payment_out


@dataclass(slots=True, kw_only=True)
class GrowthOut:
    """A span, and the measures that say how the dividend grew over it."""

    years: int
    nominal: str
    real: str


@dataclass(slots=True, kw_only=True)
class YearOut:
    year: int
    outcome: str
    complete: bool
    total: FigureOut
    real: FigureOut | None
    part: str | None
    pending: FigureOut | None
    special: FigureOut | None
    payments: list[PaymentOut]


@dataclass(slots=True, kw_only=True)
class PaceOut:
    base_year: int
    needed: FigureOut
    ahead: FigureOut


class RecordSeries(BaseModel):
    growth: list[GrowthOut]
    years: list[YearOut]
    paces: list[PaceOut]


@dataclass(slots=True, kw_only=True)
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


class PaymentsSeries(BaseModel):
    """Every payment, the newest first."""

    payments: list[PaidOut]


def payments_series(record: Record) -> PaymentsSeries:
    return PaymentsSeries(
        payments=[
            PaidOut(
                ex_date=p.payment.ex_date,
                declared_on=p.payment.fact.declared_on,
                pay_date=p.payment.fact.pay_date,
                kind=p.payment.fact.kind.value,
                amount=figure_out(p.amount, f"record.paid.{p.key}.amount"),
                outcome=p.outcome.value if p.outcome else None,
                to_come=p.to_come,
            )
            for p in record.paid
        ]
    )


def record_series(shown: Shown, stage: RecordStage) -> RecordSeries:
    record, inflation = stage.record, stage.inflation
    return RecordSeries(
        growth=[
            GrowthOut(years=n, nominal=nominal.id, real=REAL_GROWTHS[n].id)
            for n, nominal in GROWTHS.items()
        ],
        years=[_year(y, stage) for y in record.years],
        paces=[
            PaceOut(
                base_year=p.base_year,
                **shown.members(p, f"record.paces.{p.key}", ("needed", "ahead")),
            )
            for p in inflation.paces
        ],
    )


def _year(year: Year, stage: RecordStage) -> YearOut:
    at, real = f"record.years.{year.key}", stage.inflation.real_years.get(year.year)
    return YearOut(
        year=year.year,
        outcome=year.outcome.value,
        complete=year.complete,
        total=figure_out(year.total, f"{at}.total"),
        real=figure_out(real, f"record.real_years.{year.key}") if real else None,
        part=year.part,
        pending=figure_out(year.pending, f"{at}.pending") if year.pending else None,
        special=figure_out(year.special, f"{at}.special") if year.special else None,
        payments=[payment_out(p.fact, p.amount) for p in year.payments],
    )
