"""What Cover shows besides its figures: every basis over the years."""

from __future__ import annotations

from datetime import date
from typing import Literal

from hearth_yield.core.cover.bridge import BRIDGES
from hearth_yield.core.cover.cover import Cover
from hearth_yield.core.cover.measures import MATRIX, id_on

from .answer import wire
from .figures import FigureOut
from .wire import fill


@wire
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


@wire
class BasisOut:
    """basis: the group of its measures. swings: too many years stand out for any to be marked."""

    basis: str
    name: str
    years: list[CoverPeriodOut]
    trailing: CoverPeriodOut | None
    crossing: FigureOut
    crossing_year: int | None
    swings: bool


@wire
class MatrixRowOut:
    """One basis: the measures of it that stand under the columns."""

    basis: str
    name: str
    measures: list[str]


@wire
class MatrixOut:
    """Every payout: bases down, what it is taken on across."""

    columns: list[str]
    rows: list[MatrixRowOut]


@wire
class CoverSeries:
    """bases: the leading one first."""

    bases: list[BasisOut]
    matrix: MatrixOut


@wire
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


@wire
class UsesSeries:
    uses: list[UsesOut]


@wire
class StepOut:
    """A line of the bridge. what: it starts it, is a step of it (sign: added or taken off), what
    makes it exact, or a total."""

    id: str
    name: str
    what: Literal["start", "step", "rest", "total"]
    sign: int


@wire
class BridgeOut:
    """One period's figures by step, in total and per share. capital_ratio: of financials."""

    id: str
    label: str
    total: dict[str, FigureOut]
    per_share: dict[str, FigureOut]
    capital_ratio: FigureOut | None


@wire
class BridgeSeries:
    steps: list[StepOut]
    bridges: list[BridgeOut]


def bridge_series(cover: Cover) -> BridgeSeries:
    kind = cover.ground.file.payer.kind
    return fill(BridgeSeries, cover, "cover", steps=[fill(StepOut, s) for s in BRIDGES[kind]])


def uses_series(cover: Cover) -> UsesSeries:
    return fill(UsesSeries, cover, "cover")


def cover_series(cover: Cover) -> CoverSeries:
    return fill(
        CoverSeries,
        cover,
        "cover",
        matrix=MatrixOut(
            columns=[name for name, _ in MATRIX],
            rows=[
                MatrixRowOut(
                    basis=b.basis.value,
                    name=b.name,
                    measures=[id_on(b.basis, end) for _, end in MATRIX],
                )
                for b in cover.bases
            ],
        ),
    )
