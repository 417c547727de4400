"""What the views of Footing show, each asked for when it is on screen."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel

from hearth_yield.actions.compare_peers import compare_peers
from hearth_yield.core.facts.statements import fiscal_year_of
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.footing.balance import Balance
from hearth_yield.core.footing.lines import Line
from hearth_yield.core.footing.newest import Compared, Moved
from hearth_yield.core.footing.parts import Split
from hearth_yield.core.footing.views import VIEWS
from hearth_yield.core.names import name_of
from hearth_yield.core.stages import MEASURES

from .context import Here, Reviewed, When
from .figures import FigureOut, PartOut, Shown, figure_out
from .schemas import Problem, UnitName, written

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
FOOTING = "/payers/{exchange}/{symbol:path}/footing"
MarkName = Literal["for", "against"]
BALANCE = ("assets", "liabilities", "equity", "net_debt", "debt_to_ebitda", "interest_cover")
BUSINESS = (
    "gross_margin",
    "operating_margin",
    "net_margin",
    "cash_margin",
    "return_on_assets",
    "return_on_equity",
    "return_on_capital",
)
INDEXED = {
    "revenue": "revenue",
    "net_income": "net income",
    "cash_per_share": "cash per share",
    "shares": "share count",
}
SLUMP = ("price", "market", "against_market", "revenue")
LINE = ("latest", "median", "growth_3", "growth_5", "growth_10", "against")


class ViewOut(BaseModel):
    """answer: what the view shows, in a line. amiss: something in it asks to be read first."""

    id: str
    name: str
    answer: list[PartOut]
    amiss: bool


class FootingOut(BaseModel):
    views: list[ViewOut]


@dataclass(slots=True, kw_only=True)
class BalanceYearOut:
    year: int
    end: date
    assets: FigureOut
    liabilities: FigureOut
    equity: FigureOut
    net_debt: FigureOut
    debt_to_ebitda: FigureOut
    interest_cover: FigureOut


class BalanceSeries(BaseModel):
    years: list[BalanceYearOut]
    currency: str | None


@dataclass(slots=True, kw_only=True)
class CourseOut:
    """figures: one a year. now: the last twelve months, where they are told."""

    id: str
    name: str
    figures: list[FigureOut]
    now: FigureOut | None = None


class BusinessSeries(BaseModel):
    """years, indexed_years: fiscal, of the figures of margins and of what is indexed. base_year:
    the one that is 100 in what is indexed."""

    years: list[int]
    margins: list[CourseOut]
    base_year: int | None
    indexed_years: list[int]
    indexed: list[CourseOut]


@dataclass(slots=True, kw_only=True)
class LineOut:
    """freaks: fiscal years that lie far from the rest."""

    id: str
    name: str
    mark: MarkName | None
    freaks: list[str]
    newest: FigureOut
    latest: FigureOut
    median: FigureOut
    growth_3: FigureOut
    growth_5: FigureOut
    growth_10: FigureOut
    against: FigureOut


class LinesSeries(BaseModel):
    lines: list[LineOut]


@dataclass(slots=True, kw_only=True)
class MovedOut:
    id: str
    name: str
    mark: MarkName | None
    before: FigureOut
    now: FigureOut
    amount: FigureOut
    change: FigureOut | None


class ComparedOut(BaseModel):
    """Two periods of the same length, a year apart; lines: what moved most first."""

    id: str
    now: str
    before: str
    lines: list[MovedOut]


class NewestSeries(BaseModel):
    compared: list[ComparedOut]


@dataclass(slots=True, kw_only=True)
class PartRowOut:
    """shares: by fiscal year; a year it is not named for is missing."""

    name: str
    shares: dict[str, FigureOut]
    newest: FigureOut
    change: FigureOut


class SplitOut(BaseModel):
    """equal_parts: how many parts of one size would be as concentrated."""

    basis: str
    name: str
    years: list[int]
    parts: list[PartRowOut]
    equal_parts: FigureOut


class PartsSeries(BaseModel):
    splits: list[SplitOut]


@router.get(FOOTING)
def footing(review: Reviewed) -> FootingOut:
    shown, held = Shown(review), review.stages[Stage.FOOTING]
    shown.know("footing.compared", review.footing.compared)
    shown.know("footing.splits", review.footing.splits)
    return FootingOut(
        views=[
            ViewOut(
                id=v.id,
                name=v.name,
                answer=shown.sentence(v.answer(held.result, held.tests)),
                amiss=v.amiss(held.result, held.tests),
            )
            for v in VIEWS
        ]
    )


@router.get(FOOTING + "/balance")
def balance(review: Reviewed) -> BalanceSeries:
    shown, found = Shown(review), review.footing.balances
    return BalanceSeries(
        years=[_balance(shown, b) for b in found],
        currency=found[-1].period.statements[-1].currency if found else None,
    )


def _balance(shown: Shown, at: Balance) -> BalanceYearOut:
    end = at.period.end
    figures = shown.members(at, f"footing.balances.{at.key}", BALANCE)
    return BalanceYearOut(year=fiscal_year_of(end), end=end, **figures)


@router.get(FOOTING + "/business")
def business(review: Reviewed) -> BusinessSeries:
    shown, held = Shown(review), review.footing
    figures = review.stages[Stage.FOOTING].figures
    years = [
        (b.period.end, shown.members(b, f"footing.businesses.{b.key}", BUSINESS))
        for b in held.businesses
    ]
    indexed = [
        (x.period.end, shown.members(x, f"footing.indexed.{x.key}", tuple(INDEXED)))
        for x in held.indexed
    ]
    return BusinessSeries(
        years=[fiscal_year_of(end) for end, _ in years],
        margins=[
            CourseOut(
                id=id,
                name=MEASURES[id].name,
                figures=[told[id] for _, told in years],
                now=shown.figure(figures[id], name_of(id)) if id in figures else None,
            )
            for id in BUSINESS
        ],
        base_year=fiscal_year_of(held.indexed[0].base.end) if held.indexed else None,
        indexed_years=[fiscal_year_of(end) for end, _ in indexed],
        indexed=[
            CourseOut(id=id, name=name, figures=[told[id] for _, told in indexed])
            for id, name in INDEXED.items()
        ],
    )


@router.get(FOOTING + "/lines")
def lines(review: Reviewed) -> LinesSeries:
    shown = Shown(review)
    return LinesSeries(lines=[_line(shown, x) for x in review.footing.lines])


def _line(shown: Shown, line: Line) -> LineOut:
    at, newest = f"footing.lines.{line.key}", line.years[-1]
    return LineOut(
        id=line.id,
        name=line.name,
        mark=line.mark.value if line.mark else None,
        freaks=line.freaks,
        newest=figure_out(newest.value, f"{at}.years.{newest.key}.value"),
        **shown.members(line, at, LINE),
    )


@router.get(FOOTING + "/parts")
def parts(review: Reviewed) -> PartsSeries:
    shown = Shown(review)
    return PartsSeries(splits=[_split(shown, s) for s in review.footing.splits])


def _split(shown: Shown, split: Split) -> SplitOut:
    at = f"footing.splits.{split.key}"
    return SplitOut(
        basis=split.basis,
        name=split.name,
        years=list(split.years),
        parts=[
            PartRowOut(
                name=p.name,
                shares={
                    str(y): figure_out(f, f"{at}.parts.{p.key}.years.{y}")
                    for y, f in p.years.items()
                },
                **shown.members(p, f"{at}.parts.{p.key}", ("newest", "change")),
            )
            for p in split.parts
        ],
        **shown.members(split, at, ("equal_parts",)),
    )


@router.get(FOOTING + "/newest", response_model=NewestSeries)
def newest(review: Reviewed) -> Response:
    shown = Shown(review)
    return written(NewestSeries(compared=[_compared(shown, c) for c in review.footing.compared]))


def _compared(shown: Shown, compared: Compared) -> ComparedOut:
    at = f"footing.compared.{compared.key}.lines"
    return ComparedOut(
        id=compared.id,
        now=compared.now,
        before=compared.before,
        lines=[_moved(shown, x, f"{at}.{x.key}") for x in compared.lines],
    )


def _moved(shown: Shown, moved: Moved, at: str) -> MovedOut:
    return MovedOut(
        id=moved.id,
        name=moved.name,
        mark=moved.mark.value if moved.mark else None,
        change=figure_out(moved.change, f"{at}.change") if moved.change else None,
        **shown.members(moved, at, ("before", "now", "amount")),
    )


@dataclass(slots=True, kw_only=True)
class SlumpFeltOut:
    """price, market, revenue: the deepest fall from a peak. action: what the dividend did; null
    before anything was paid."""

    name: str
    begins: date
    ends: date | None
    action: str | None
    rate_change: FigureOut
    price: FigureOut
    market: FigureOut
    against_market: FigureOut
    revenue: FigureOut


class SlumpsSeries(BaseModel):
    slumps: list[SlumpFeltOut]


@router.get(FOOTING + "/slumps")
def slumps(review: Reviewed) -> SlumpsSeries:
    """What each past slump did to price, revenue and dividend, against the market."""
    shown = Shown(review)
    return SlumpsSeries(
        slumps=[
            SlumpFeltOut(
                name=s.slump.name,
                begins=s.slump.begins,
                ends=s.slump.ends,
                action=s.paid.action,
                rate_change=figure_out(s.paid.change, f"footing.slumps.{s.key}.paid.change"),
                **shown.members(s, f"footing.slumps.{s.key}", SLUMP),
            )
            for s in review.footing.slumps
        ]
    )


class DotOut(BaseModel):
    """A payer of the sector on a strip, by value. mine: the one whose place is told."""

    exchange: str
    symbol: str
    name: str
    value: float
    mine: bool


class StripOut(BaseModel):
    """One measure over a sector. ahead: the share of the peers that the payer does better than,
    ties counting half; null while its own is unknown. beyond: those whose figure has no size."""

    id: str
    name: str
    unit: UnitName
    words: str
    dots: list[DotOut]
    median: float | None
    peers: int
    ahead: float | None
    beyond: list[str]


class PeersOut(BaseModel):
    """pending: payers whose measures are still to be made for the day."""

    sector: str | None
    strips: list[StripOut]
    pending: int


@router.get(FOOTING + "/peers")
def peers(here: Here, exchange: str, symbol: str, when: When) -> PeersOut:
    """The payer's place among its sector on each measure that is compared."""
    found, pending = compare_peers(here.cache, exchange, symbol, when.as_of)
    return PeersOut(
        sector=found.sector,
        pending=pending,
        strips=[
            StripOut(
                id=s.id,
                name=s.name,
                unit=MEASURES[s.id].unit.value,
                words=s.words,
                dots=[DotOut.model_validate(d, from_attributes=True) for d in s.dots],
                median=s.median,
                peers=s.peers,
                ahead=s.ahead,
                beyond=list(s.beyond),
            )
            for s in found.strips
        ],
    )
