"""What becomes of a value when its inputs move, and what the price takes for granted."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, Query, Response

from hearth_yield.actions.export_worth import XLSX, export_worth
from hearth_yield.core.figures.figure import Unknown
from hearth_yield.core.range.multiples import QUANTITIES
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.trials.chance import Simulated
from hearth_yield.core.worth.trials.grid import Grid
from hearth_yield.core.worth.trials.implied import Implied

from .answer import wire, written
from .context import Reviewed
from .figures import FigureOut, Shown, figure_out
from .schemas import Problem, UnitName
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


@wire
class MoveOut:
    """An input at its low and high, and the combined value at each."""

    id: str
    name: str
    low_input: FigureOut
    high_input: FigureOut
    low: FigureOut
    high: FigureOut


@wire
class ImpliedOut:
    """Of a model: what the price takes for granted, and what is taken instead. name: of what is
    implied."""

    id: str
    model: str
    takes_name: str
    takes: FigureOut | None
    takes_against: FigureOut | None
    offers: FigureOut | None
    offers_against: FigureOut | None


@wire
class ExpectedOut:
    """By what analysts expect a measure to grow a year."""

    name: str
    growth: FigureOut


@wire
class TrialsSeries:
    """moves: of every input, what moves the combined value most first. grown: by what dividends
    grew over ten years; expected: by what analysts expect, to hold an implied growth against."""

    moves: list[MoveOut]
    implied: list[ImpliedOut]
    combined: FigureOut
    grown: FigureOut
    expected: list[ExpectedOut]


@wire
class MovableOut:
    id: str
    name: str


@wire
class GridSeries:
    """values: a row for each value down, None where there is no answer and `limitless` says why.
    movable: what could stand across or down."""

    across: MovableOut
    down: MovableOut
    across_unit: UnitName
    down_unit: UnitName
    across_values: list[float]
    down_values: list[float]
    values: list[list[float | None]]
    limitless: str | None
    price: float | None
    movable: list[MovableOut]


@wire
class ChanceSeries:
    """The combined value as chance has it; all None with a reason where it cannot be drawn.

    low, median, high: the 10th, 50th and 90th percentile. above: the chance that it exceeds the
    price.
    """

    low: float | None = None
    median: float | None = None
    high: float | None = None
    mean: float | None = None
    above: float | None = None
    draws: int = 0
    edges: list[float]
    counts: list[int]
    price: float | None
    reason: str | None = None


@router.get(ONE_PAYER + "/worth/trials", response_model=TrialsSeries)
def trials(found: Reviewed) -> Response:
    """One input at a time, and what the price takes for granted model by model."""
    shown, tried = Shown(found), found.worth.trials
    return written(
        TrialsSeries(
            moves=each(MoveOut, tried.moves, "worth.trials.moves"),
            implied=[_implied(x) for x in tried.implied],
            combined=shown.figure(found.worth.combined),
            grown=shown.figure(found.record.growth[10]),
            expected=[
                ExpectedOut(
                    name="dividends" if id == YIELD.id else QUANTITIES[id].short,
                    growth=figure_out(x, f"worth.trials.expected.{id}"),
                )
                for id, x in tried.expected.items()
                if x.known
            ],
        )
    )


def _implied(held: Implied) -> ImpliedOut:
    at = f"worth.trials.implied.{held.key}"
    against: dict[str, Any] = {
        f"{n}_against": figure_out(x.figure, f"{at}.{n}_against.figure") if x else None
        for n, x in (("takes", held.takes_against), ("offers", held.offers_against))
    }
    return fill(
        ImpliedOut,
        held,
        at,
        model=held.name,
        takes_name=INPUTS[held.takes_against.id].name if held.takes_against else "",
        **against,
    )


@router.get(ONE_PAYER + "/worth/workbook", response_class=Response)
def workbook(found: Reviewed) -> Response:
    """Inputs, models, cases and what they come to, as XLSX with live formulas."""
    name, content = export_worth(found)
    return Response(
        content, media_type=XLSX, headers={"content-disposition": f'attachment; filename="{name}"'}
    )


@router.get(ONE_PAYER + "/worth/grid")
def grid(
    found: Reviewed, across: Annotated[str, Query()] = "", down: Annotated[str, Query()] = ""
) -> GridSeries | None:
    """The combined value over two inputs; the two that move it most where none are named."""
    tried = found.worth.trials
    drawn = tried.grid(across or None, down or None)
    return _grid(drawn, tried.movable(), found.price.value) if drawn else None


def _grid(grid: Grid, movable: list[str], price: float | None) -> GridSeries:
    return fill(
        GridSeries,
        grid,
        across=MovableOut(id=grid.across.id, name=grid.across.label),
        down=MovableOut(id=grid.down.id, name=grid.down.label),
        across_unit=grid.across.unit.value,
        down_unit=grid.down.unit.value,
        values=[list(row) for row in grid.values],
        price=price,
        movable=[MovableOut(id=id, name=INPUTS[id].label) for id in movable],
    )


@router.get(ONE_PAYER + "/worth/chance", response_model=ChanceSeries)
def chance(found: Reviewed) -> Response:
    """The combined value over many draws of its inputs."""
    return written(_chance(found.worth.trials.simulated(), found.price.value))


def _chance(found: Simulated | Unknown, price: float | None) -> ChanceSeries:
    if isinstance(found, Unknown):
        return ChanceSeries(edges=[], counts=[], price=price, reason=found.reason)
    return fill(ChanceSeries, found, price=price)
