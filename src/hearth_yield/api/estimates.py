"""What is expected of the year ahead, with what to think of it."""

from __future__ import annotations

from typing import Any, Literal

from fastapi import APIRouter, Response

from hearth_yield.core.estimates.outlook import BANDS, REVISED_OVER, Guess, Outlook, Turned

from .answer import wire, written
from .context import Reviewed
from .figures import FigureOut, figure_out
from .schemas import Problem
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
TurnedName = Literal["beat", "met", "missed"]


@wire
class RevisionOut:
    months: int
    figure: FigureOut


@wire
class TimesOut:
    """How often past years beat, met or missed what was expected so many months ahead; band: how
    far off still counts as met."""

    months: int
    band: float
    beat: int
    met: int
    missed: int


@wire
class GuessOut:
    """A past year: what was expected of it 12 and 24 months before its end, and what it brought.
    off: actual ÷ estimate − 1."""

    year: int
    actual: FigureOut
    expected_12: FigureOut
    expected_24: FigureOut
    off_12: FigureOut
    off_24: FigureOut
    turned_12: TurnedName | None
    turned_24: TurnedName | None


@wire
class OutlookOut:
    """One measure in the year ahead. so_far: what its published interim periods brought; part,
    rest: of what is expected, and what the rest of the year must bring. past: year by year, the
    newest first."""

    measure: str
    name: str
    analysts: int | None
    mean: FigureOut
    low: FigureOut
    high: FigureOut
    guided_low: FigureOut
    guided_high: FigureOut
    guided_middle: FigureOut
    so_far: FigureOut
    part_of_estimate: FigureOut
    rest_of_estimate: FigureOut
    part_of_guidance: FigureOut
    rest_of_guidance: FigureOut
    revised: list[RevisionOut]
    times: list[TimesOut]
    past: list[GuessOut]


@wire
class EstimatesOut:
    """year: the fiscal year ahead, the first that was not reported yet."""

    year: int
    outlooks: list[OutlookOut]


@router.get("/payers/{exchange}/{symbol:path}/cover/estimates", response_model=EstimatesOut)
def estimates(found: Reviewed) -> Response:
    year, outlooks = found.cover.outlook_year, found.cover.outlooks
    return written(EstimatesOut(year=year, outlooks=[_outlook(o) for o in outlooks]))


def _outlook(outlook: Outlook) -> OutlookOut:
    at = f"cover.outlooks.{outlook.key}"
    return fill(
        OutlookOut,
        outlook,
        at,
        revised=[
            RevisionOut(months=n, figure=figure_out(outlook.revised[n], f"{at}.revised.{n}"))
            for n in REVISED_OVER
        ],
        times=[_times(outlook, n) for n in BANDS],
        past=[_guess(g, f"{at}.track.{g.key}") for g in outlook.track],
    )


def _times(outlook: Outlook, months: int) -> TimesOut:
    times = outlook.times(months)
    return TimesOut(
        months=months,
        band=BANDS[months],
        beat=times[Turned.BEAT],
        met=times[Turned.MET],
        missed=times[Turned.MISSED],
    )


def _guess(guess: Guess, at: str) -> GuessOut:
    told: dict[str, Any] = {}
    for months in BANDS:
        turned = guess.turned(months)
        told |= {
            f"expected_{months}": figure_out(guess.expected[months], f"{at}.expected.{months}"),
            f"off_{months}": figure_out(guess.off[months], f"{at}.off.{months}"),
            f"turned_{months}": turned.value if turned else None,
        }
    return fill(GuessOut, guess, at, **told)
