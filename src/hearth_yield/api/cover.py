"""What Cover shows besides its figures: every basis over the years."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from pydantic import BaseModel

from hearth_yield.core.cover.bases import CoverPeriod
from hearth_yield.core.cover.bridge import BRIDGES, Bridge
from hearth_yield.core.cover.cover import BasisCover, Cover
from hearth_yield.core.cover.measures import MATRIX, id_on
from hearth_yield.core.cover.uses import PARTS
from hearth_yield.core.facts.statements import fiscal_year_of, words

from .figures import FigureOut, Shown, figure_out

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
    excluded: str | None
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
    crossing: FigureOut
    crossing_year: int | None
    swings: bool


class MatrixRowOut(BaseModel):
    """One basis: the measures of it that stand under the columns."""

    basis: str
    name: str
    measures: list[str]


class MatrixOut(BaseModel):
    """Every payout: bases down, what it is taken on across."""

    columns: list[str]
    rows: list[MatrixRowOut]


class CoverSeries(BaseModel):
    """bases: the leading one first."""

    bases: list[BasisOut]
    matrix: MatrixOut


@dataclass(slots=True, kw_only=True)
class UsesOut:
    """Where operating cash flow went; the parts sum to it, exactly. together: of several years.
    shares: of operating cash flow, by part."""

    id: str
    label: str
    together: bool
    operating_cash_flow: FigureOut
    capital_expenditure: FigureOut
    maintenance: FigureOut
    dividends: FigureOut
    net_buybacks: FigureOut
    debt_repaid: FigureOut
    kept: FigureOut
    other: FigureOut
    shares: dict[str, FigureOut]


class UsesSeries(BaseModel):
    uses: list[UsesOut]


class StepOut(BaseModel):
    """A line of the bridge. what: it starts it, is a step of it (sign: added or taken off), what
    makes it exact, or a total."""

    id: str
    name: str
    what: Literal["start", "step", "rest", "total"]
    sign: int


@dataclass(slots=True, kw_only=True)
class BridgeOut:
    """One period's figures by step, in total and per share. capital_ratio: of financials."""

    id: str
    label: str
    total: dict[str, FigureOut]
    per_share: dict[str, FigureOut]
    capital_ratio: FigureOut | None


class BridgeSeries(BaseModel):
    steps: list[StepOut]
    bridges: list[BridgeOut]


def bridge_series(cover: Cover) -> BridgeSeries:
    kind = cover.ground.file.payer.kind
    return BridgeSeries(
        steps=[StepOut(id=s.id, name=s.name, what=s.what, sign=s.sign) for s in BRIDGES[kind]],
        bridges=[_bridge(b, f"cover.bridges.{b.key}") for b in cover.bridges],
    )


def _bridge(bridge: Bridge, at: str) -> BridgeOut:
    return BridgeOut(
        id=bridge.id,
        label=bridge.period.label,
        total={n: figure_out(f, f"{at}.total.{n}") for n, f in bridge.total.items()},
        per_share={n: figure_out(f, f"{at}.per_share.{n}") for n, f in bridge.per_share.items()},
        capital_ratio=figure_out(bridge.capital_ratio, f"{at}.capital_ratio")
        if bridge.capital_ratio
        else None,
    )


USES = ("operating_cash_flow", "maintenance", "other", *PARTS)


def uses_series(shown: Shown, cover: Cover) -> UsesSeries:
    return UsesSeries(
        uses=[
            UsesOut(
                id=u.id,
                label=u.label,
                together=u.id == "together",
                shares={
                    n: figure_out(f, f"cover.uses.{u.key}.shares.{n}") for n, f in u.shares.items()
                },
                **shown.members(u, f"cover.uses.{u.key}", USES),
            )
            for u in cover.uses
        ]
    )


def cover_series(shown: Shown, cover: Cover) -> CoverSeries:
    return CoverSeries(
        bases=[_basis(shown, b) for b in cover.bases],
        matrix=MatrixOut(
            columns=[name for name, _ in MATRIX],
            rows=[
                MatrixRowOut(
                    basis=b.basis.value,
                    name=words(b.basis.value),
                    measures=[id_on(b.basis, end) for _, end in MATRIX],
                )
                for b in cover.bases
            ],
        ),
    )


def _basis(shown: Shown, basis: BasisCover) -> BasisOut:
    at = f"cover.bases.{basis.key}"
    return BasisOut(
        basis=basis.basis.value,
        name=words(basis.basis.value),
        years=[_period(shown, y, f"{at}.years.{y.key}") for y in basis.years],
        trailing=_period(shown, basis.trailing, f"{at}.trailing") if basis.trailing else None,
        crossing=figure_out(basis.crossing, f"{at}.crossing"),
        crossing_year=basis.crossing_year,
        swings=basis.swings,
    )


def _period(shown: Shown, period: CoverPeriod, at: str) -> CoverPeriodOut:
    return CoverPeriodOut(
        label=period.label,
        year=fiscal_year_of(period.end),
        end=period.end,
        freak=period.freak,
        excluded=period.excluded,
        **shown.members(period, at, FIGURES),
    )
