"""Sets of measures that payers are compared on, as the declarations place them."""

from __future__ import annotations

from dataclasses import dataclass

from ..names import NUMBERS

OVERVIEW = "overview"


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureSet:
    id: str
    name: str
    measures: tuple[str, ...]


def _set(id: str) -> MeasureSet:
    inside = [m for m in NUMBERS.values() if id in m.compared]
    inside.sort(key=lambda m: m.compared[id])
    return MeasureSet(id=id, name=id.capitalize(), measures=tuple(m.id for m in inside))


def compare_sets() -> list[MeasureSet]:
    """An overview, and a set for each stage that has some, in the order of the job."""
    stages = dict.fromkeys(m.stage.value for m in NUMBERS.values())
    found = [_set(id) for id in (OVERVIEW, *stages)]
    return [s for s in found if s.measures]
