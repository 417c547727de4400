"""What payers are searched, sorted, grouped and shown by, besides measures: words and marks.

Measures are declared in their stages (stages.py); sets of columns follow from all declarations.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ..figures.measure import Measure, Stage
from ..names import NUMBERS
from ..stages import STAGES


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A word of every review: its kind, its state and the like. drawn: as a mark of its own.
    column: it can be one; else a mark shows it, and it is there to search by."""

    id: str
    name: str
    stage: Stage = Stage.PAYER
    columns: Mapping[str, int] = field(default_factory=dict)
    drawn: Literal["state"] | None = None
    column: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """A column that is drawn from what every row carries. sort: what it is ordered by."""

    id: str
    name: str
    columns: Mapping[str, int]
    sort: str | None


HELD = "held"
CHOICES: dict[str, Choice] = {
    c.id: c
    for c in (
        Choice(id="state", name="State", drawn="state"),
        Choice(id="kind", name="Kind", columns={"overview": 10}),
        Choice(id="sector", name="Sector"),
        Choice(id="industry", name="Industry"),
        Choice(id="country", name="Country"),
        Choice(id="currency", name="Currency"),
        Choice(id="exchange", name="Exchange"),
        Choice(id="credit_rating", name="Credit rating"),
        Choice(id="first_to_give", name="First to give", column=False),
        Choice(id="last_year", name="Dividend, last complete year", stage=Stage.RECORD),
        Choice(id="this_year", name="Dividend, this year", stage=Stage.RECORD),
        Choice(id=HELD, name="Held", stage=Stage.HOUSEHOLD),
    )
}
MARKS: dict[str, Mark] = {
    m.id: m
    for m in (
        Mark(
            id="dividends",
            name="Dividend, 12 years",
            columns={"overview": 40, "record": 20},
            sort=None,
        ),
        Mark(id="first", name="First to give", columns={"overview": 70, "cover": 80}, sort="state"),
    )
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ColumnSet:
    id: str
    name: str
    columns: tuple[str, ...]


def column_sets() -> list[ColumnSet]:
    """An overview, a set for each built stage and one of what is held, as the declarations place
    their columns."""
    names = {
        "overview": "Overview",
        **{s.value: spec.name for s, spec in STAGES.items()},
        Stage.HOUSEHOLD.value: "Holdings",
    }
    declared: list[Measure | Choice | Mark] = [
        *NUMBERS.values(),
        *CHOICES.values(),
        *MARKS.values(),
    ]
    return [
        ColumnSet(
            id=id,
            name=name,
            columns=tuple(
                c.id
                for c in sorted(
                    (c for c in declared if id in c.columns), key=lambda c: c.columns[id]
                )
            ),
        )
        for id, name in names.items()
    ]
