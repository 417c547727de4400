"""How an input and a model of worth are declared: once; one loop prices every model there is.

(docs/architecture.md, How to add a model)
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..cover.cover import Cover
from ..facts.records import PayerFile
from ..figures.figure import Figure, Touch, Unit
from ..figures.parts import HoldsFigures
from ..judging.house_rules import HouseRules
from ..judging.judge import Test
from ..range.ruler import Ruler
from ..record.history import Record

YOURS = "yours"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """What the inputs and models of one payer are read off and judged by. yields: its yield against
    five years of its weeks."""

    file: PayerFile
    record: Record
    cover: Cover
    yields: Ruler
    rules: HouseRules
    tests: Sequence[Test]


@dataclass(frozen=True, slots=True)
class Default:
    """An input as the house has it, and where it comes from in a few words."""

    figure: Figure
    origin: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Input(HoldsFigures):
    """An input as it counts, and at its low and high: low is the side on which worth is lower.
    origin: where it comes from in a few words; "yours" where the person typed it."""

    id: str
    figure: Figure
    low: Figure
    high: Figure
    origin: str

    @property
    def key(self) -> str:
        return self.id

    @property
    def typed(self) -> bool:
        return self.origin == YOURS


Inputs = Mapping[str, Input]
Case = Mapping[str, Figure]
"""Inputs by id, of one case: low, middle or high."""
Shift = tuple[Callable[[float], float], str]
"""What is done to an input, and how that is said: (lambda g: g − 0.01, "− 1 point")."""


@dataclass(frozen=True, slots=True, kw_only=True)
class InputSpec:
    """Something a model takes in.

    label: of its field; name: what it is called in a sentence. bounds: what it must lie between;
    None: the person cannot type it. default: from the ground and the inputs declared before it.
    low, high: how far it is taken to either side; None: it is taken as it is. spread: the same in
    a few words.
    """

    id: str
    label: str
    name: str
    unit: Unit
    default: Callable[[Ground, Inputs], Default]
    bounds: tuple[float, float] | None = None
    step: float = 0.001
    digits: int = 2
    low: Shift | None = None
    high: Shift | None = None
    spread: str = ""


@dataclass(frozen=True, slots=True)
class ModelYear:
    """One year of a model's working, in money per share; growth as a fraction."""

    year: int
    growth: float
    dividend: float
    present_value: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ModelSpec:
    """A model of worth.

    question: what it answers. takes: ids of its inputs. value: per share, from one case, labelled.
    years: its yearly working, where it has one. unsuited: why it does not suit, or None. touch:
    whether a person had a hand in what decides that.
    """

    id: str
    name: str
    question: str
    takes: tuple[str, ...]
    value: Callable[[Ground, Case, str], Figure]
    unsuited: Callable[[Ground, Inputs], str | None]
    touch: Callable[[Ground], Touch | None]
    years: Callable[[Ground, Case], Sequence[ModelYear]] | None = None
