"""What the views of Footing show, each asked for when it is on screen."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from typing import Literal

from fastapi import APIRouter, Response

from hearth_yield.actions.compare_peers import compare_peers
from hearth_yield.core.facts.statements import fiscal_year_of
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.finding.peers import Strip
from hearth_yield.core.footing.business import Business
from hearth_yield.core.footing.indexed import IndexedYear
from hearth_yield.core.footing.lines import Line
from hearth_yield.core.footing.views import VIEWS
from hearth_yield.core.names import name_of
from hearth_yield.core.stages import MEASURES

from .answer import wire, written
from .context import Here, Reviewed, When
from .figures import FigureOut, PartOut, Shown, figure_out
from .schemas import Problem
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
FOOTING = "/payers/{exchange}/{symbol:path}/footing"
MarkName = Literal["for", "against"]
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


@wire
class ViewOut:
    """answer: what the view shows, in a line. amiss: something in it asks to be read first."""

    id: str
    name: str
    answer: list[PartOut]
    amiss: bool


@wire
class FootingOut:
    views: list[ViewOut]


@wire
class BalanceYearOut:
    year: int
    end: date
    assets: FigureOut
    liabilities: FigureOut
    equity: FigureOut
    net_debt: FigureOut
    debt_to_ebitda: FigureOut
    interest_cover: FigureOut


@wire
class BalanceSeries:
    years: list[BalanceYearOut]
    currency: str | None


@wire
class CourseOut:
    """figures: one a year. now: the last twelve months, where they are told."""

    id: str
    name: str
    figures: list[FigureOut]
    now: FigureOut | None = None


@wire
class BusinessSeries:
    """years, indexed_years: fiscal, of the figures of margins and of what is indexed. base_year:
    the one that is 100 in what is indexed."""

    years: list[int]
    margins: list[CourseOut]
    base_year: int | None
    indexed_years: list[int]
    indexed: list[CourseOut]


@wire
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


@wire
class LinesSeries:
    lines: list[LineOut]


@wire
class MovedOut:
    id: str
    name: str
    mark: MarkName | None
    before: FigureOut
    now: FigureOut
    amount: FigureOut
    change: FigureOut | None


@wire
class ComparedOut:
    """Two periods of the same length, a year apart; lines: what moved most first."""

    id: str
    now: str
    before: str
    lines: list[MovedOut]


@wire
class NewestSeries:
    compared: list[ComparedOut]


@wire
class PartRowOut:
    """years: its share by fiscal year; one it is not named for is missing."""

    name: str
    years: dict[str, FigureOut]
    newest: FigureOut
    change: FigureOut


@wire
class SplitOut:
    """equal_parts: how many parts of one size would be as concentrated."""

    basis: str
    name: str
    years: list[int]
    parts: list[PartRowOut]
    equal_parts: FigureOut


@wire
class PartsSeries:
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
    found = review.footing.balances
    return BalanceSeries(
        years=each(BalanceYearOut, found, "footing.balances"),
        currency=found[-1].period.statements[-1].currency if found else None,
    )


@router.get(FOOTING + "/business")
def business(review: Reviewed) -> BusinessSeries:
    held, now = review.footing, review.stages[Stage.FOOTING].figures
    years, indexed = held.businesses, held.indexed
    return BusinessSeries(
        years=[fiscal_year_of(b.period.end) for b in years],
        margins=[
            CourseOut(
                id=id,
                name=MEASURES[id].name,
                figures=_row(years, "footing.businesses", id),
                now=figure_out(now[id], name_of(id)) if id in now else None,
            )
            for id in BUSINESS
        ],
        base_year=fiscal_year_of(indexed[0].base.end) if indexed else None,
        indexed_years=[fiscal_year_of(x.period.end) for x in indexed],
        indexed=[
            CourseOut(id=id, name=name, figures=_row(indexed, "footing.indexed", id))
            for id, name in INDEXED.items()
        ],
    )


def _row(years: Sequence[Business | IndexedYear], at: str, id: str) -> list[FigureOut]:
    """One member of every year."""
    return [figure_out(getattr(y, id), f"{at}.{y.key}.{id}") for y in years]


@router.get(FOOTING + "/lines")
def lines(review: Reviewed) -> LinesSeries:
    return LinesSeries(lines=[_line(x, f"footing.lines.{x.key}") for x in review.footing.lines])


def _line(line: Line, at: str) -> LineOut:
    newest = line.years[-1]
    now = figure_out(newest.value, f"{at}.years.{newest.key}.value")
    return fill(LineOut, line, at, newest=now)


@router.get(FOOTING + "/parts")
def parts(review: Reviewed) -> PartsSeries:
    return fill(PartsSeries, review.footing, "footing")


@router.get(FOOTING + "/newest", response_model=NewestSeries)
def newest(review: Reviewed) -> Response:
    return written(fill(NewestSeries, review.footing, "footing"))


@wire
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


@wire
class SlumpsSeries:
    slumps: list[SlumpFeltOut]


@router.get(FOOTING + "/slumps")
def slumps(review: Reviewed) -> SlumpsSeries:
    """What each past slump did to price, revenue and dividend, against the market."""
    return SlumpsSeries(
        slumps=[
            fill(
                SlumpFeltOut,
                s,
                f"footing.slumps.{s.key}",
                name=s.slump.name,
                begins=s.slump.begins,
                ends=s.slump.ends,
                action=s.paid.action,
                rate_change=figure_out(s.paid.change, f"footing.slumps.{s.key}.paid.change"),
            )
            for s in review.footing.slumps
        ]
    )


@wire
class PeersOut:
    """pending: payers whose measures are still to be made for the day."""

    sector: str | None
    strips: list[Strip]
    pending: int


@router.get(FOOTING + "/peers")
def peers(here: Here, exchange: str, symbol: str, when: When) -> PeersOut:
    """The payer's place among its sector on each measure that is compared."""
    found, pending = compare_peers(here.cache, exchange, symbol, when.as_of)
    return PeersOut(sector=found.sector, strips=list(found.strips), pending=pending)
