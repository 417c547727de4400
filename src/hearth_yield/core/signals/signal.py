"""What a signal is, of which kinds there are, and of whom each is asked for."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from ..expecting.expectation import Expectation
from ..figures.figure import Unit
from ..figures.measure import Stage
from ..judging.house_rules import HouseRules
from ..range.entry_steps import EntryStep


class SignalKind(StrEnum):
    BUY_REACHED = "buy_reached"
    STEP_REACHED = "step_reached"
    TRIM_REACHED = "trim_reached"
    DECLARED = "declared"
    RAISED = "raised"
    CUT = "cut"
    SUSPENDED = "suspended"
    RESUMED = "resumed"
    EX_SOON = "ex_soon"
    TEST_CHANGED = "test_changed"
    FINDING_CHANGED = "finding_changed"
    MEAN_CROSSED = "mean_crossed"
    ESTIMATE_CUT = "estimate_cut"
    GUIDANCE_CHANGED = "guidance_changed"
    EXPECTATION = "expectation"
    LOOK_DUE = "look_due"
    DATA_OLD = "data_old"


class Whose(StrEnum):
    """Of whom a kind is asked for: followed are payers with a decision that stands or an entry
    step."""

    NOBODY = "nobody"
    FOLLOWED = "followed"
    ALL = "all"


@dataclass(frozen=True, slots=True, kw_only=True)
class KindSpec:
    """name: among the others; means: when it comes. whose: where the person has not said
    otherwise. of_a_wait: it can only be of payers that are followed."""

    name: str
    means: str
    whose: Whose = Whose.FOLLOWED
    of_a_wait: bool = False


KINDS: dict[SignalKind, KindSpec] = {
    SignalKind.BUY_REACHED: KindSpec(
        name="Buy-below price reached",
        means="It closed at or under the buy-below price of the decision that stands.",
        of_a_wait=True,
    ),
    SignalKind.STEP_REACHED: KindSpec(
        name="Entry step reached",
        means="The yield or multiple of an entry step was reached at a close.",
        of_a_wait=True,
    ),
    SignalKind.TRIM_REACHED: KindSpec(
        name="Trim-above price reached",
        means="It closed at or over the trim-above price of the decision that stands.",
        of_a_wait=True,
    ),
    SignalKind.DECLARED: KindSpec(
        name="Dividend declared",
        means="A regular dividend as high as its predecessor, or a special one, was declared.",
    ),
    SignalKind.RAISED: KindSpec(
        name="Dividend raised", means="A dividend above its predecessor was declared."
    ),
    SignalKind.CUT: KindSpec(
        name="Dividend cut", means="A dividend under its predecessor was declared.", whose=Whose.ALL
    ),
    SignalKind.SUSPENDED: KindSpec(
        name="Dividend suspended or left out",
        means="The payer said that it pays no dividend for now.",
        whose=Whose.ALL,
    ),
    SignalKind.RESUMED: KindSpec(
        name="Dividend resumed", means="The payer said that it pays again."
    ),
    SignalKind.EX_SOON: KindSpec(
        name="Goes ex soon", means="A declared dividend goes ex within the days you set."
    ),
    SignalKind.TEST_CHANGED: KindSpec(
        name="Test changed",
        means="A test moved outside its limit, close to it, or back, when facts came.",
    ),
    SignalKind.FINDING_CHANGED: KindSpec(
        name="Finding changed",
        means="What a stage found as a whole moved outside a limit, close to one, or back.",
    ),
    SignalKind.MEAN_CROSSED: KindSpec(
        name="Yield far from its mean",
        means="A week ended with the yield further from its five-year mean than you set.",
    ),
    SignalKind.ESTIMATE_CUT: KindSpec(
        name="Estimate cut",
        means="An estimate came in further below the one before it than you set.",
    ),
    SignalKind.GUIDANCE_CHANGED: KindSpec(
        name="Guidance changed", means="The payer said something new about a year it had spoken of."
    ),
    SignalKind.EXPECTATION: KindSpec(
        name="Expectation judged",
        means="An expectation of the decision that stands went off track, or its day came.",
        of_a_wait=True,
    ),
    SignalKind.LOOK_DUE: KindSpec(
        name="Next look due", means="The day came on which you meant to look again.", of_a_wait=True
    ),
    SignalKind.DATA_OLD: KindSpec(
        name="Data old",
        means="The newest close or the newest results became too old to be shown as current.",
    ),
}


@dataclass(frozen=True, slots=True)
class Value:
    """A number in a sentence, told in its unit."""

    value: float
    unit: Unit
    currency: str | None = None


Said = str | date | Value


@dataclass(frozen=True, slots=True, kw_only=True)
class Signal:
    """day: from which it could be known. event: names what happened among all of its kind and
    payer; the same event is the same signal. stage: where to look. said: why."""

    kind: SignalKind
    day: date
    event: str
    stage: Stage
    said: tuple[Said, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Wait:
    """A decision as far as it is waited on. made, until: the days it stands from and to (None: it
    still does). Prices are in the shares of the day it was made."""

    made: date
    until: date | None
    buy_below: float | None = None
    trim_above: float | None = None
    next_look: date | None = None
    expectations: Sequence[Expectation] = ()

    def stands_on(self, day: date) -> bool:
        return self.made <= day and (self.until is None or day < self.until)


@dataclass(frozen=True, slots=True, kw_only=True)
class Followed:
    """What a person has on a payer: its decisions, and its entry steps."""

    waits: Sequence[Wait] = ()
    steps: Sequence[EntryStep] = ()

    def on(self, day: date) -> bool:
        stands = any(w.stands_on(day) for w in self.waits)
        return stands or any(s.kept_on <= day for s in self.steps)


UNFOLLOWED = Followed()


def whose(rules: HouseRules, kind: SignalKind) -> Whose:
    """Of whom a kind is asked for."""
    said: Mapping[str, str] = rules.signals
    return Whose(said[kind.value]) if kind.value in said else KINDS[kind].whose
