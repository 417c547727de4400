"""How a measure is declared: once, beside what computes it.

Tests, limits, columns, conditions, key figures, what is kept of it and what a decision freezes all
follow from the declaration. (docs/architecture.md, How to add a measure)
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any, Literal

from ..kinds import Kind
from .figure import Figure, Unit, Unknown


class Stage(StrEnum):
    """The steps of the job; `payer` is what belongs to the payer itself."""

    PAYER = "payer"
    RECORD = "record"
    COVER = "cover"
    FOOTING = "footing"
    RANGE = "range"
    WORTH = "worth"
    DECISION = "decision"


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
    return dict.fromkeys(Kind, limit)


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A number of every review.

    read: its figure, off the stage's result; None where the payer's kind does not use it. words:
    how a condition on it reads, {} standing for "at least 10 %"; turned: how it reads for
    values under 0, where that is otherwise; under: what its minus means. breach: how a breach
    without size compares with every number; what is spared compares the other way. group: the
    basis it is taken on, or the view of its stage it stands in, where there are several. key,
    head: that it stands among the key figures of its stage, and in the head of the review.
    columns: its place in the sets of columns it belongs to. drawn: that a mark stands beside
    it. foot: its median stands at the foot of the table. frozen: a decision keeps it.
    """

    id: str
    name: str
    stage: Stage
    unit: Unit
    read: Callable[[Any], Figure | None]
    words: str
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
    **more: Any,
) -> Measure:
    """A declaration whose words are read from one text: "yield [above|below] its mean by {}";
    without {} it stands at the end, without words the name does."""
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
        turned=_SIDES.sub(r"\2", said) if sides else None,
        under=sides[2] if sides else None,
        signed=signed or sides is not None,
        **more,
    )
