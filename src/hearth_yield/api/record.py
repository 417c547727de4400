"""What Record shows besides its figures: the years, and what keeps pace."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from pydantic import BaseModel

from hearth_yield.core.record.history import Year
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
    uneven: bool
    growth: list[GrowthOut]
    next_payment: PaymentOut | None
    last_cut: date | None
    years: list[YearOut]
    paces: list[PaceOut]


def record_series(shown: Shown, stage: RecordStage) -> RecordSeries:
    record, inflation = stage.record, stage.inflation
    coming = record.next_payment
    return RecordSeries(
        uneven=record.uneven,
        growth=[
            GrowthOut(years=n, nominal=f"growth_{n}", real=f"real_growth_{n}")
            for n in record.growth
        ],
        next_payment=payment_out(coming.fact, coming.amount) if coming else None,
        last_cut=record.last_cut,
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
