"""Looking back: what limits would have said at every past year end, and what followed."""

from __future__ import annotations

from datetime import date

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions.look_back import held_back, looked_back
from hearth_yield.actions.set_house_rules import check_house_rules, tested_measure
from hearth_yield.core.kinds import Kind

from .answer import wire
from .context import Here, When
from .house_rules import MAX_TEXT, RulesIO, rules_in
from .schemas import JobOut, KindName, Problem, StateName
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


@wire
class LeftOutOut:
    exchange: str
    symbol: str
    name: str
    reason: str


@wire
class LookBackOut:
    """ready: a verdict can be asked for. year_ends: looked at; left_out: payers nothing can be said
    of, and why; job: the task that does, or was stopped."""

    ready: bool
    payers: int
    year_ends: int
    left_out: list[LeftOutOut]
    job: JobOut | None


@wire
class CutRowOut:
    """One cut: the states at the year end before it and at the one 12 months earlier."""

    exchange: str
    symbol: str
    name: str
    cut_on: date
    before: date | None
    state: StateName | None
    earlier: date | None
    earlier_state: StateName | None


@wire
class AlarmRowOut:
    """A year end close to or outside a limit that no cut followed within two years."""

    exchange: str
    symbol: str
    name: str
    day: date
    state: StateName


@wire
class CountOut:
    """So many of so many; share is null of nothing."""

    name: str
    part: int
    whole: int
    share: float | None


@wire
class VerdictOut:
    """cuts: with a year end before them; flagged, flagged_early: close or outside at that year end,
    and 12 months before it; missed: within limits at it. year_ends: judged, with two years since;
    alarms: close or outside; calm: within limits; calm_cut: a cut followed all the same."""

    cuts: int
    flagged: int
    flagged_early: int
    missed: int
    unknown: int
    year_ends: int
    alarms: int
    false_alarms: int
    calm: int
    calm_cut: int
    counts: list[CountOut]
    rows: list[CutRowOut]
    alarm_rows: list[AlarmRowOut]


class CurveIn(BaseModel):
    rules: RulesIO
    measure: str = Field(max_length=MAX_TEXT)
    kind: KindName


@wire
class CurvePointOut:
    """Shares: of cuts that would be missed, of year ends called close or outside for nothing."""

    limit: float
    missed: float
    false_alarms: float


@router.get("/look-back")
def status(here: Here, when: When) -> LookBackOut:
    job = here.looking(when)
    held = held_back(here.cache, when.as_of, when.edition)
    return LookBackOut(
        ready=held is not None,
        payers=len(held.payers) if held else 0,
        year_ends=len(held.universe) if held else 0,
        left_out=each(LeftOutOut, held.left_out) if held else [],
        job=job,
    )


@router.post("/look-back", status_code=202)
def start(here: Here, when: When) -> JobOut:
    """Measures every payer at every past year end, in the background."""
    return here.look_back(when).out()


@router.post("/look-back/verdict")
def verdict(here: Here, when: When, rules: RulesIO) -> VerdictOut:
    asked = rules_in(rules)
    check_house_rules(asked)
    held = looked_back(here.cache, when.as_of, when.edition)
    return fill(VerdictOut, held.judged(asked))


@router.post("/look-back/curve")
def curve(here: Here, when: When, asked: CurveIn) -> list[CurvePointOut]:
    """How cuts missed and false alarms trade against each other as one limit moves."""
    rules, measure = rules_in(asked.rules), tested_measure("measure", asked.measure)
    check_house_rules(rules)
    held = looked_back(here.cache, when.as_of, when.edition)
    points = held.curve(rules, measure, Kind(asked.kind))
    return each(CurvePointOut, points)
