"""How a measure is declared: once, beside what computes it.

Tests, limits, columns, conditions, key figures, what is kept of it and what a decision freezes all
follow from the declaration. (docs/architecture.md, How it changes)
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any, Literal

from ..kinds import JUDGED, Kind
from .figure import Figure, Unit, Unknown


class Stage(StrEnum):
    """The steps of the job; `payer` is what belongs to the payer itself, `household` what a person
    has of it."""

    PAYER = "payer"
    RECORD = "record"
    COVER = "cover"
    FOOTING = "footing"
    RANGE = "range"
    WORTH = "worth"
    DECISION = "decision"
    HOUSEHOLD = "household"


@dataclass(frozen=True, slots=True, kw_only=True)
class Size:
    """A figure told by its size alone, where the words around it say which way it points."""

    figure: Figure


Part = str | date | Figure | Size
Sentence = tuple[Part, ...]
"""Words, dates and figures in reading order."""


class Direction(StrEnum):
    """cap: at most the limit; floor: at least, with a cushion; pass: at least, without size."""

    CAP = "cap"
    FLOOR = "floor"
    PASS = "pass"  # noqa: S105 - a pass-or-fail floor, not a password


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """A house rule for one test. required: it decides the state; else it only advises."""

    value: float
    required: bool


def required(value: float) -> Limit:
    return Limit(value=value, required=True)


def advisory(value: float) -> Limit:
    return Limit(value=value, required=False)


def every_kind(limit: Limit) -> dict[Kind, Limit]:
    return dict.fromkeys(JUDGED, limit)


@dataclass(frozen=True, slots=True, kw_only=True)
class TestSpec:
    """That a measure is held against a limit.

    limits: the house's own, of the kinds the test is made for. strict: a measure at the limit does
    not pass. size: how far the thing underneath can worsen, where it is not the cap's or the
    floor's own, with its formula. means: what the limit asks, in a sentence. short: its name
    where there is little room; falls: what its cushion says can fall; both read off the stage's
    result.
    """

    __test__ = False

    direction: Direction
    limits: Mapping[Kind, Limit]
    strict: bool = False
    size: tuple[str, Callable[[float, float], float | Unknown]] | None = None
    means: str = ""
    short: Callable[[Any], str]
    falls: Callable[[Any], str] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Key:
    """That a measure stands among its stage's key figures, or in the head of the review, under a
    name of its own there.

    note: what is said beside it, read off the stage's result. even_unknown: it is shown in the head
    with the reason why it is unknown.
    """

    name: str
    even_unknown: bool = False
    note: Callable[[Any], Sentence] = lambda _: ()


Better = Literal["high", "low"]
End = Better | Literal["neither"]
"""Which end of a measure speaks for a payer."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AmongPeers:
    """That a payer's place among its sector is told by a measure. place: in the order they are
    told; words: how its being the better one is said, such as "a lower payout"."""

    place: int
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Usual:
    """What is often expected of a measure in a decision: that its better end holds. name: what one
    chooses it by; way: as an expectation has it; value: in its unit or, of growth, a fraction a
    year; None: the person's own limit for the payer, and nothing where it has none."""

    name: str
    way: Literal["level", "throughout", "growth"]
    value: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A number of every review.

    read: its figure, off the stage's result; None where the payer's kind does not use it. words:
    how a condition on it reads, {} standing for "at least 10 %"; turned: how it reads for
    values under 0, where that is otherwise; under: what its minus means. better: the end of it that
    speaks for a payer; of a test it follows from its direction. breach: how a breach
    without size compares with every number; what is spared compares the other way. group: the
    basis it is taken on, or the view of its stage it stands in, where there are several. key,
    head: that it stands among the key figures of its stage, and in the head of the review.
    columns, compared: its place in the sets of columns and of compared measures it belongs to.
    peers: that its place among the sector is told. usual: what is often expected of it.
    drawn: that a mark stands beside it. foot: its median stands at the foot of the table. frozen: a
    decision keeps it.
    """

    id: str
    name: str
    stage: Stage
    unit: Unit
    read: Callable[[Any], Figure | None]
    words: str
    better: End
    turned: str | None = None
    under: str | None = None
    breach: Literal["above", "below"] | None = None
    signed: bool = False
    digits: int | None = None
    group: str | None = None
    test: TestSpec | None = None
    key: Key | None = None
    head: Key | None = None
    columns: Mapping[str, int] = field(default_factory=dict)
    compared: Mapping[str, int] = field(default_factory=dict)
    peers: AmongPeers | None = None
    usual: Usual | None = None
    drawn: Literal["deviation"] | None = None
    foot: bool = False
    frozen: bool = False


_SIDES = re.compile(r"\[(\w+)\|(\w+)\]")
"""In the words of a measure: of [above|below] the first is read for values from 0."""


def measure(
    stage: Stage,
    id: str,
    name: str,
    unit: Unit,
    read: Callable[[Any], Figure | None],
    words: str = "",
    *,
    signed: bool = False,
    test: TestSpec | None = None,
    better: End | None = None,
    **more: Any,
) -> Measure:
    """A declaration whose words are read from one text: "yield [above|below] its mean by {}";
    without {} it stands at the end, without words the name does.

    Raises TypeError where it neither has a test nor says which end of it is better.
    """
    if test is not None:
        better = better or ("low" if test.direction is Direction.CAP else "high")
    if better is None:
        raise TypeError(f"{id}: say which end of it is better, or that neither is")
    said = words or name[0].lower() + name[1:]
    said = said if "{}" in said else f"{said} {{}}"
    sides = _SIDES.search(said)
    return Measure(
        id=id,
        name=name,
        stage=stage,
        unit=unit,
        read=read,
        words=_SIDES.sub(r"\1", said),
        better=better,
        test=test,
        turned=_SIDES.sub(r"\2", said) if sides else None,
        under=sides[2] if sides else None,
        signed=signed or sides is not None,
        **more,
    )
