"""The return path: its inputs, what it returns, and the way there year by year."""

from __future__ import annotations

from typing import Literal

from fastapi import APIRouter, Response

from hearth_yield.core.estimates.newest import ESTIMATE_OF
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.path.inputs import INPUTS as PATH_INPUTS
from hearth_yield.core.worth.path.inputs import PATH_GROWTH, expected_years
from hearth_yield.core.worth.path.measures import NO_DRIVERS, measures_for
from hearth_yield.core.worth.path.path import ReturnPath
from hearth_yield.core.worth.path.words import in_words

from .answer import wire, written
from .context import Reviewed
from .figures import FieldOut, FigureOut, NamedFigureOut, PartOut, Shown, field_out, figure_out
from .schemas import Problem
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"
ByName = Literal["trend", "estimates", "guidance", "drivers"]
TOLD = {
    "price_for_required": ("Price for the return you ask", None),
    "price_for_market": ("Price for the market’s return", None),
    "yield_on_cost": ("Yield on cost in the last year", 2),
    "payout_at_end": ("Payout in the last year", None),
}
"""Its key figures, with what they are called, and digits where their unit's are not meant."""


@wire
class PathMeasureOut:
    id: str
    name: str


@wire
class PathByOut:
    """What may make the measure grow; why_not: why it cannot here."""

    id: ByName
    name: str
    why_not: str | None


@wire
class PathPartOut:
    id: str
    name: str
    figure: FigureOut


@wire
class PathYearOut:
    year: int
    measure: float
    dividend: float
    price: float
    payout: float | None
    yield_on_cost: float


@wire
class PathSeries:
    """measure: id of what it goes by, measure_name what that is per share; by: what makes it grow.
    grows: that can be chosen. of_measure, of_growth: inputs that mean nothing once another measure,
    or way to grow, is chosen. estimated: what of estimates speaks of the measure.
    yearly, sold_at: by case of the exit. limit: on the payout, where the person has one."""

    measure: str
    measure_name: str
    measures: list[PathMeasureOut]
    of_measure: list[str]
    of_growth: list[str]
    grows: bool
    estimated: str | None
    by: str
    bys: list[PathByOut]
    inputs: list[FieldOut]
    price: FigureOut
    yearly: dict[str, FigureOut]
    sold_at: dict[str, FigureOut]
    key_figures: list[NamedFigureOut]
    parts: list[PathPartOut]
    years: list[PathYearOut]
    limit: float | None
    said: list[list[PartOut]]


@router.get(ONE_PAYER + "/worth/path", response_model=PathSeries)
def path(found: Reviewed) -> Response:
    shown, held = Shown(found), found.worth.path
    shown.know("worth.path", held)
    return written(
        fill(
            PathSeries,
            held,
            "worth.path",
            measure=held.quantity.id,
            measure_name=held.quantity.base_name,
            measures=[
                PathMeasureOut(id=q.id, name=q.short) for q in measures_for(found.payer.kind)
            ],
            of_measure=[i.id for i in PATH_INPUTS if i.of_measure],
            of_growth=[PATH_GROWTH],
            grows=held.quantity is not YIELD,
            estimated=ESTIMATE_OF.get(held.quantity.id),
            bys=_bys(held),
            inputs=[
                field_out(INPUTS[id], held.inputs[id], f"worth.path.inputs.{id}")
                for id in held.takes
            ],
            price=shown.figure(found.price),
            key_figures=[
                NamedFigureOut(
                    name=name,
                    figure=figure_out(getattr(held, id), f"worth.path.{id}"),
                    digits=digits,
                )
                for id, (name, digits) in TOLD.items()
            ],
            limit=held.payout_limit,
            said=[shown.sentence(s) for s in in_words(held)],
        )
    )


def _not_by(held: ReturnPath, by: str) -> str | None:
    """Why nothing is expected of the measure."""
    return next((x.reason for x in expected_years(held.ground, held.inputs, by) if x.reason), None)


def _bys(held: ReturnPath) -> list[PathByOut]:
    quantity = held.quantity
    no_drivers = (
        f"{quantity.short} is not driven by a margin of revenue"
        if quantity.id in NO_DRIVERS
        else held.margin.reason
    )
    return [
        PathByOut(id="trend", name="its trend", why_not=None),
        PathByOut(id="estimates", name="estimates", why_not=_not_by(held, "estimates")),
        PathByOut(id="guidance", name="guidance", why_not=_not_by(held, "guidance")),
        PathByOut(id="drivers", name="revenue, margin and shares", why_not=no_drivers),
    ]
