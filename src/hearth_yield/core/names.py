"""Every figure of a review has a name.

A measure is `stage.id` (`cover.payout`); a part of a stage is named by its members and keys
(`record.years.2019.total`, `cover.bases.earnings.years.2021-12-31.payout`), what a test says by its
measure (`tests.payout.cushion`), the aim by its members (`aim.target_price`), and so a strain
(`strain.tests.payout.cushion`).
"""

from __future__ import annotations

from collections import ChainMap
from collections.abc import Mapping

from .figures.figure import Figure
from .figures.measure import Measure, Stage
from .figures.parts import collect, member_at
from .household.measures import HOUSEHOLD
from .review import Review
from .stages import MEASURES, STAGES

NUMBERS: Mapping[str, Measure] = ChainMap({**HOUSEHOLD}, MEASURES)
"""All measures by id: those of every review, and those of the household."""


def name_of(id: str) -> str:
    """The name of a measure's figure; one of the household is named as its position's figure."""
    if id in HOUSEHOLD:
        return f"held.{id.removeprefix('held_')}"
    return f"{MEASURES[id].stage.value}.{id}"


def named_measures(review: Review) -> dict[str, Figure]:
    """The measures of a review by name, and what its tests say of them."""
    found = {f"{Stage.PAYER.value}.{id}": f for id, f in review.payer_figures.items()}
    for stage, held in review.stages.items():
        found |= {f"{stage.value}.{id}": f for id, f in held.figures.items()}
    return found | {f"tests.{t.id}.cushion": t.cushion for t in review.tests}


def named_figures(review: Review) -> dict[str, Figure]:
    """Every figure of a review by name. Raises HearthError where two would share one."""
    found = named_measures(review)
    for stage, held in review.stages.items():
        for name, part in STAGES[stage].parts(held.result).items():
            collect(part, f"{stage.value}.{name}", found)
    for name, part in _apart(review).items():
        collect(part, name, found)
    return found


def _apart(review: Review) -> dict[str, object]:
    """What was asked beside the stages."""
    held = {
        "aim": review.aim,
        "strain": review.strained,
        "span": review.span,
        "outlay": review.outlay,
        "reach": review.reach,
    }
    return {name: part for name, part in held.items() if part is not None}


def figure_at(review: Review, name: str) -> Figure | None:
    """The figure that `named_figures` gives this name; None where the review has none of it."""
    head, _, rest = name.partition(".")
    if head == "tests":
        test, _, member = rest.rpartition(".")
        held = next((t for t in review.tests if t.id == test), None)
        return None if held is None or member != "cushion" else held.cushion
    if head == Stage.PAYER:
        return review.payer_figures.get(rest)
    node: object = _apart(review).get(head)
    if node is None:
        stage = next((s for s in review.stages.values() if s.stage == head), None)
        if stage is None:
            return None
        if rest in stage.figures:
            return stage.figures[rest]
        node = STAGES[stage.stage].parts(stage.result)
    for step in rest.split("."):
        node = member_at(node, step)
    return node if isinstance(node, Figure) else None
