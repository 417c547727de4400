"""What a signal is, how a kind of them is declared, and what makes it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from ..expecting.expectation import Expectation
from ..facts.payer_file import PayerFile
from ..figures.figure import Unit
from ..figures.measure import Stage
from ..judging.house_rules import HouseRules
from ..range.entry_steps import EntryStep
from ..review import Review


class Whose(StrEnum):
    """Of whom a kind is asked for: followed are payers with a decision that stands or an entry
    step, held those that are owned."""

    NOBODY = "nobody"
    FOLLOWED = "followed"
    HELD = "held"
    ALL = "all"


@dataclass(frozen=True, slots=True, kw_only=True)
class SignalKind:
    """name: among the others; means: when it comes. whose: where the person has not said
    otherwise. of_a_wait: it can only be of payers that are followed. asks: it asks for something to
    be done, and stands before what is good to know."""

    id: str
    name: str
    means: str
    whose: Whose = Whose.FOLLOWED
    of_a_wait: bool = False
    asks: bool = False

    @property
    def of(self) -> tuple[Whose, ...]:
        """Of whom it may be asked for."""
        if self.whose is Whose.HELD:
            return (Whose.NOBODY, Whose.HELD)
        followed = (Whose.NOBODY, Whose.FOLLOWED)
        return followed if self.of_a_wait else (*followed, Whose.ALL)


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


@dataclass(frozen=True, slots=True, kw_only=True)
class SignalGround:
    """What signals are made of: the facts of one payer cut to the last day, and what was known then
    of the days before it. reviewed: its review on a day under the house's question."""

    file: PayerFile
    rules: HouseRules
    since: date
    until: date
    followed: Followed
    reviewed: Callable[[date], Review]


@dataclass(frozen=True, slots=True, kw_only=True)
class SignalMaker:
    """kinds: those it makes, in the order they are told. It may make some of days before the first,
    which do not count."""

    kinds: tuple[SignalKind, ...]
    make: Callable[[SignalGround], Iterator[Signal]]
