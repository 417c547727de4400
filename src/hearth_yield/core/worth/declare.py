"""How a model of worth is declared: once; one loop prices every model there is.

(docs/architecture.md, How to add a model)
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal

from ..cover.cover import Cover
from ..facts.records import PayerFile
from ..figures.figure import Figure, Touch
from ..figures.inputs import Case, Inputs
from ..judging.house_rules import HouseRules
from ..judging.judge import Test
from ..range.ruler import Ruler
from ..record.history import Record


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """What the inputs and models of one payer are read off and judged by. yields: its yield against
    five years of its weeks; shown: the quantity that Range shows, against its own."""

    file: PayerFile
    record: Record
    cover: Cover
    yields: Ruler
    shown: Ruler
    rules: HouseRules
    tests: Sequence[Test]


Answers = Literal["dividends", "cash", "assets", "others"]
"""From what a model values: its dividends, its cash, what it owns, what others pay."""


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

    question: what it asks; answers: from what it values. lead: it counts by itself where it suits;
    else it is a second opinion, which counts once it is switched on. takes: ids of its inputs.
    value: per share, from one case, labelled. years: its yearly working, where it has one.
    unsuited: why it does not suit, or None. touch: whether a person had a hand in what decides
    that.
    """

    id: str
    name: str
    question: str
    answers: Answers
    takes: tuple[str, ...]
    value: Callable[[Ground, Case, str], Figure]
    unsuited: Callable[[Ground, Inputs], str | None]
    touch: Callable[[Ground], Touch | None]
    years: Callable[[Ground, Case], Sequence[ModelYear]] | None = None
    lead: bool = True
