"""The built stages in the order of the job, and every measure there is.

What the rooms declare is collected here; all else follows from it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from .cover.cover import cover_under
from .cover.finding import finding as cover_finding
from .cover.measures import MEASURES as COVER
from .facts.payer_file import PayerFile
from .facts.periods import Period
from .figures.figure import Figure, Unit, touch_of, unknown
from .figures.measure import Key, Measure, Sentence, Stage, measure
from .footing.finding import finding as footing_finding
from .footing.measures import MEASURES as FOOTING
from .footing.stage import footing_under
from .judging.judge import Test
from .range.finding import finding as range_finding
from .range.measures import MEASURES as RANGE
from .record.finding import finding as record_finding
from .record.measures import MEASURES as RECORD
from .record.stage import RecordStage
from .worth.finding import finding as worth_finding
from .worth.measures import MEASURES as WORTH


@dataclass(frozen=True, slots=True, kw_only=True)
class StageSpec:
    """A step of the job. find: what it found, off its result and its tests. parts: what in its
    result holds figures besides its measures. under: its result on other newest twelve months, for
    a stage that a strain reaches."""

    id: Stage
    name: str
    question: str
    find: Callable[[Any, Sequence[Test]], Sentence]
    parts: Callable[[Any], Mapping[str, object]]
    under: Callable[[Any, Callable[[Period], Period]], Any] | None = None


def record_parts(stage: RecordStage) -> Mapping[str, object]:
    return {
        "years": stage.record.years,
        "real_years": stage.inflation.real_years,
        "paces": stage.inflation.paces,
        "paid": stage.record.paid,
        "coming": stage.coming,
        "expected": stage.expected,
        "slumps": stage.slumps,
    }


STAGES: Mapping[Stage, StageSpec] = {
    spec.id: spec
    for spec in (
        StageSpec(
            id=Stage.RECORD,
            name="Record",
            find=record_finding,
            parts=record_parts,
            question="What has it paid, and does that beat inflation?",
        ),
        StageSpec(
            id=Stage.COVER,
            name="Cover",
            find=cover_finding,
            parts=lambda cover: {
                "bases": cover.bases,
                "uses": cover.uses,
                "outlooks": cover.outlooks,
                "bridges": cover.bridges,
            },
            under=cover_under,
            question="Who pays for the dividend, and how far can that fall?",
        ),
        StageSpec(
            id=Stage.FOOTING,
            name="Footing",
            find=footing_finding,
            parts=lambda footing: {
                "balances": footing.balances,
                "businesses": footing.businesses,
                "indexed": footing.indexed,
                "lines": footing.lines,
                "compared": footing.compared,
                "splits": footing.splits,
                "slumps": footing.slumps,
            },
            under=footing_under,
            question="Would it carry the dividend through a bad year?",
        ),
        StageSpec(
            id=Stage.RANGE,
            name="Range",
            find=range_finding,
            parts=lambda stage: {
                "quarters": stage.shown.quarters,
                "shown": stage.shown.figures,
                "price": stage.price,
                "distance": stage.distance,
            },
            question="Is it paying more than it usually does for the price?",
        ),
        StageSpec(
            id=Stage.WORTH,
            name="Worth",
            find=worth_finding,
            parts=lambda worth: {
                "inputs": worth.inputs,
                "answers": worth.answers,
                "combined_low": worth.combined_low,
                "combined_high": worth.combined_high,
                "leaving_out": worth.leaving_out,
                "models": worth.models,
                "others": worth.others,
                "trials": worth.trials,
                "path": worth.path,
                "weighted": worth.weighted,
                "second_buy_below": worth.second_buy_below,
                "market_return": worth.market_return,
                "justified": worth.justified,
            },
            question="What is it worth, and what does the price take for granted?",
        ),
    )
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """What belongs to the payer itself: its price, its tests and what gives first of them."""

    file: PayerFile
    tests: Sequence[Test]
    first_to_give: Test | None


def _cushion(standing: Standing) -> Figure:
    """Of the first to give; that it gives first rests on every required test."""
    first = standing.first_to_give
    touch = touch_of([t.cushion.touch for t in standing.tests if t.required])
    if first is None:
        return unknown("smallest cushion", Unit.FRACTION, "no test has an answer").with_touch(touch)
    return first.cushion.with_touch(touch)


PAYER = (
    measure(
        Stage.PAYER,
        "price",
        "Price",
        Unit.PER_SHARE,
        lambda s: s.file.price,
        better="neither",
        head=Key(name="Price", even_unknown=True),
        columns={"range": 10, "worth": 10},
        frozen=True,
    ),
    measure(
        Stage.PAYER,
        "cushion",
        "Cushion of the first to give",
        Unit.FRACTION,
        _cushion,
        "smallest cushion",
        better="high",
        breach="below",
    ),
)
MEASURES: dict[str, Measure] = {
    m.id: m for m in (*PAYER, *RECORD, *COVER, *FOOTING, *RANGE, *WORTH)
}
"""By id, in the order of the job."""


def measures_of(stage: Stage) -> list[Measure]:
    return [m for m in MEASURES.values() if m.stage is stage]


def figures_of(stage: Stage, result: object) -> dict[str, Figure]:
    """A stage's measures by id; those that the payer's kind does not use are left out."""
    read = ((m.id, m.read(result)) for m in measures_of(stage))
    return {id: figure for id, figure in read if figure is not None}
