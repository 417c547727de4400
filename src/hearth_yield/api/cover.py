"""What Cover shows besides its figures: every basis over the years."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date

from pydantic import BaseModel

from hearth_yield.core.cover.bases import CoverPeriod
from hearth_yield.core.cover.cover import BasisCover, Cover
from hearth_yield.core.facts.statements import fiscal_year_of, words

from .figures import FigureOut, Shown

FIGURES = (
    "driver",
    "dividends",
    "payout",
    "left",
    "left_after_buybacks",
    "per_share",
    "dividend_per_share",
)


@dataclass(slots=True, kw_only=True)
class CoverPeriodOut:
    """year: the fiscal year's name."""

    label: str
    year: int
    end: date
    freak: bool
    set_aside: str | None
    driver: FigureOut
    dividends: FigureOut
    payout: FigureOut
    left: FigureOut
    left_after_buybacks: FigureOut
    per_share: FigureOut
    dividend_per_share: FigureOut


class BasisOut(BaseModel):
    """basis: the group of its measures. swings: too many years stand out for any to be marked."""

    basis: str
    name: str
    years: list[CoverPeriodOut]
    trailing: CoverPeriodOut | None
    swings: bool


class CoverSeries(BaseModel):
    """bases: the leading one first."""

    bases: list[BasisOut]


def cover_series(shown: Shown, cover: Cover) -> CoverSeries:
    return CoverSeries(bases=[_basis(shown, b) for b in cover.bases])


def _basis(shown: Shown, basis: BasisCover) -> BasisOut:
    at = f"cover.bases.{basis.key}"
    return BasisOut(
        basis=basis.basis.value,
        name=words(basis.basis.value),
        years=[_period(shown, y, f"{at}.years.{y.key}") for y in basis.years],
        trailing=_period(shown, basis.trailing, f"{at}.trailing") if basis.trailing else None,
        swings=basis.swings,
    )


def _period(shown: Shown, period: CoverPeriod, at: str) -> CoverPeriodOut:
    return CoverPeriodOut(
        label=period.label,
        year=fiscal_year_of(period.end),
        end=period.end,
        freak=period.freak,
        set_aside=period.set_aside,
        **shown.members(period, at, FIGURES),
    )
