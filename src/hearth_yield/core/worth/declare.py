"""How a model of worth is declared: once; one loop prices every model there is.

(docs/architecture.md, How it changes)
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from ..cover.cover import Cover
from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Touch, Unit, Unknown, derive
from ..figures.inputs import Case, Inputs
from ..judging.house_rules import HouseRules
from ..judging.judge import Test
from ..kinds import Kind
from ..range.ruler import Ruler
from ..record.history import Record
from .growth import too_fast
from .trace import PLAIN, RecordedTrace, Value


@dataclass(frozen=True, slots=True, kw_only=True)
class Choices:
    """What a person chose. inputs: by id, in the place of the defaults; switched: models turned on
    or off; weights: of models within their question, 1 where none is given, and of questions in the
    combined value, where they are not the method's; reasons: why a model
    was set aside. path_measure, path_by: the measure that the return path goes by, and what makes
    it grow; as the kind of payer has it where they are empty."""

    inputs: Mapping[str, float] = field(default_factory=dict)
    switched: Mapping[str, bool] = field(default_factory=dict)
    weights: Mapping[str, float] = field(default_factory=dict)
    reasons: Mapping[str, str] = field(default_factory=dict)
    path_measure: str = ""
    path_by: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Ground:
    """What the inputs and models of one payer are read off and judged by. shown: the quantity that
    Range shows, against its own."""

    file: PayerFile
    record: Record
    cover: Cover
    shown: Ruler
    rules: HouseRules
    tests: Sequence[Test]
    choices: Choices


Answers = Literal["dividends", "past", "cash", "others"]
"""Which question a model answers: what its dividends are worth, what its own past says, what its
cash is worth; or one beside these three."""
QUESTIONS: dict[Answers, str] = {
    "dividends": "Its dividends",
    "past": "Its own past",
    "cash": "Its cash",
    "others": "Other opinions",
}
"""In the order they are shown; the last has no weight until it is given one."""
EVERY_KIND = frozenset(Kind)


@dataclass(frozen=True, slots=True, kw_only=True)
class ModelSpec:
    """A model of worth.

    question: what it asks; answers: which of the questions of worth. leads: the kinds of payer for
    which it counts by itself where it suits; else it is a second opinion, which counts once it is
    switched on. takes: ids of its inputs.
    reads: the figures it values, facts and inputs of one case. worth: per share, of a trace and
    the values of what it reads; arithmetic only, elementwise. refuses: why these values have no
    worth, or None. formula: the same in words. lasting: ids of the growth that goes on for ever
    and of the return it must stay below. amount: what its years count, where it has some.
    unsuited: why it does not suit, or None. touch: whether a person had a hand in what decides
    that.
    """

    id: str
    name: str
    question: str
    answers: Answers
    takes: tuple[str, ...]
    reads: Callable[[Ground, Case], Sequence[Figure]]
    worth: Callable[..., Value]
    formula: str
    unsuited: Callable[[Ground, Inputs], str | None]
    touch: Callable[[Ground], Touch | None]
    refuses: Callable[..., Unknown | None] = lambda *_: None
    lasting: tuple[str, str] | None = None
    amount: str = ""
    leads: Collection[Kind] = ()

    def lead(self, ground: Ground) -> bool:
        return ground.file.payer.kind in self.leads

    def value(self, ground: Ground, case: Case, label: str) -> Figure:
        """Its answer in one case."""
        read = self.reads(ground, case)

        def compute(*values: float) -> float | Unknown:
            return self.refused(values, case) or self.worth(PLAIN, *values)

        return derive(
            label, Unit.PER_SHARE, self.formula, read, compute, currency=ground.file.payer.currency
        )

    def refused(self, values: Sequence[Any], case: Case) -> Unknown | None:
        """Why values that are known have no worth."""
        why = self.refuses(*values)
        if why is None and self.lasting is not None:
            why = too_fast(*(case[id] for id in self.lasting))
        return why

    def traced(self, ground: Ground, case: Case) -> RecordedTrace:
        """Its years and parts in one case; empty where it has no answer, or none of them."""
        trace = RecordedTrace()
        values = [x.value for x in self.reads(ground, case)]
        if self.amount and None not in values and self.refused(values, case) is None:
            self.worth(trace, *values)
        return trace
