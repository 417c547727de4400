"""How an input is declared: once. What a person types is checked, the rest is the house's default.

(docs/architecture.md, How it changes)
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Literal

from ..errors import InvalidInput
from .figure import Figure, Unit, derive, given, unknown
from .parts import HoldsFigures

YOURS = "yours"
MOVED = "moved"
"""Of an input that is tried out: what rests on it follows, as if it were typed."""


@dataclass(frozen=True, slots=True)
class Default:
    """An input as the house has it, and where it comes from in a few words."""

    figure: Figure
    origin: str


def left_open(name: str, unit: Unit, words: str) -> Default:
    """An input that is meant to have no value until the person types it: its reason and its origin
    are one, and say what stands in its place."""
    return Default(unknown(name, unit, words), words)


@dataclass(frozen=True, slots=True, kw_only=True)
class Input(HoldsFigures):
    """An input as it counts, and at its low and high: low is the side on which worth is lower.
    origin: where it comes from in a few words; "yours" where the person typed it. rests_on: ids of
    the inputs that its default was read from. offers: what might be typed for it."""

    id: str
    figure: Figure
    low: Figure
    high: Figure
    origin: str
    rests_on: frozenset[str] = frozenset()
    offers: tuple[Default, ...] = ()

    @property
    def key(self) -> str:
        return self.id

    @property
    def typed(self) -> bool:
        return self.origin in (YOURS, MOVED)


Inputs = Mapping[str, Input]
Case = Mapping[str, Figure]
"""Inputs by id, of one case: low, middle or high."""
Shift = tuple[Callable[[float], float], str]
"""What is done to an input, and how that is said: (lambda g: g − 0.01, "− 1 point")."""


NO_DEFAULT = Default(unknown("input", Unit.COUNT, "it has no default"), "")
Draws = Literal["growth", "return", "exit_yield", "exit_multiple"]
"""What moves together when a value is simulated."""


@dataclass(frozen=True, slots=True, kw_only=True)
class InputSpec:
    """Something a model or a strain takes in.

    label: of its field; name: what it is called in a sentence. bounds: what it must lie between;
    None: the person cannot type it. default: from the ground and the inputs declared before it.
    low, high: how far it is taken to either side; None: it is taken as it is. spread: the same in
    a few words. suffix: what its number counts, where that is not said by its unit. draws: with
    what it moves when chance has its way; None: it stands still. sided: its low and high may be
    typed too. follows: the input whose typed low and high are its own. along: the input it goes
    along with where it is not typed. rest_of: those of which it is what is left of one. worked:
    its default from the figures it was read from, in numbers and in cells of a workbook alike,
    where some of these are inputs themselves. offers:
    what might be typed for it, as the facts have it. advice: what should be known of a value, in a
    sentence. shown: when its field is: always, with the low and high cases, or where something that
    takes it is looked at. asked_as: what one chooses it as. of_measure: it is of what a path goes
    by, and means nothing for another.
    """

    id: str
    label: str
    name: str
    unit: Unit
    default: Callable[[Any, Inputs], Default] = lambda *_: NO_DEFAULT
    bounds: tuple[float, float] | None = None
    step: float = 0.001
    digits: int = 2
    low: Shift | None = None
    high: Shift | None = None
    spread: str = ""
    suffix: str = ""
    draws: Draws | None = None
    sided: bool = False
    follows: str | None = None
    along: Along | None = None
    rest_of: tuple[str, ...] = ()
    worked: Callable[..., Any] | None = None
    offers: Callable[[Any, Inputs], Sequence[Default]] | None = None
    advice: Callable[[float], str | None] | None = None
    shown: Literal["always", "cases", "taken"] = "taken"
    asked_as: Literal["number", "month"] = "number"
    of_measure: bool = False


@dataclass(frozen=True, slots=True)
class Along:
    """How an input follows another where it is not typed: min(other, most); low min(other's low,
    middle − apart); high min(other's high, middle + apart, most).

    most: as the ground has it; rule: whose it is. as_typed: what the person typed for the other
    stands for this one too, whatever the most is.
    """

    of: str
    most: Callable[[Any], float]
    apart: float
    rule: str
    as_typed: bool = False

    def followed(
        self, spec: InputSpec, ground: object, other: Input
    ) -> tuple[Default, tuple[Figure, Figure]]:
        if self.as_typed and other.typed:
            return Default(other.figure, other.origin), (other.low, other.high)
        most = self.most(ground)
        limit = given("the highest for ever", spec.unit, most, self.rule)
        middle = _least(spec.name, other.figure, limit)
        less, more = (_shifted(middle, (by, note)) for by, note in self._shifts())
        ends = (
            _least(f"{spec.name} (low)", other.low, less),
            _least(f"{spec.name} (high)", other.high, more, limit),
        )
        return Default(middle, f"{other.figure.label}, at most {told(most, spec.unit)}"), ends

    def _shifts(self) -> tuple[Shift, Shift]:
        point = f"{self.apart * 100:g} point"
        return (lambda x: x - self.apart, f"− {point}"), (lambda x: x + self.apart, f"+ {point}")


def _least(label: str, *figures: Figure) -> Figure:
    formula = "the lowest of " + ", ".join(f.label for f in figures)
    return derive(label, figures[0].unit, formula, figures, min)


SIDES = ("low", "high")


def check_inputs(specs: Mapping[str, InputSpec], typed: Mapping[str, float]) -> None:
    """Refuse what cannot be worked with, naming field, value and rule. "growth" is typed for the
    middle case, "growth.low" and "growth.high" for the others."""
    for id, value in typed.items():
        own, _, side = id.partition(".")
        spec = specs.get(own)
        if spec and side and not (spec.sided and side in SIDES):
            spec = None
        if spec is None or spec.bounds is None:
            raise InvalidInput(
                "no such input",
                field="inputs",
                value=id,
                rule=f"one of {', '.join(s.id for s in specs.values() if s.bounds)}",
            )
        low, high = spec.bounds
        if not low <= value <= high:
            between = f"between {told(low, spec.unit)} and {told(high, spec.unit)}"
            raise InvalidInput(
                f"{spec.name} must lie {between}",
                field=id,
                value=value,
                rule=f"{spec.name} {between}",
            )


def told(value: float, unit: Unit) -> str:
    """A bound as it is typed: 0.001 → "0.1 %"."""
    return f"{value * 100:g} %" if unit in (Unit.FRACTION, Unit.YIELD) else f"{value:g}"


def choose(
    specs: Mapping[str, InputSpec],
    ground: object,
    typed: Mapping[str, float],
    only: Collection[str] | None = None,
    held: Mapping[str, Input] | None = None,
    moved: Mapping[str, Figure] = MappingProxyType({}),
) -> dict[str, Input]:
    """The person's inputs, and the house's defaults for the rest, each with its origin.

    only: ids of those that are wanted; held: what is chosen already, which defaults may read;
    moved: of those in `typed` the ones that are only tried out, with what they take the place of.
    """
    check_inputs(specs, {id: x for id, x in typed.items() if id not in moved})
    chosen = _Heard(held or {})
    for spec in specs.values():
        if spec.id in chosen or (only is not None and spec.id not in only):
            continue
        chosen.heard.clear()
        if spec.id in typed:
            whose = MOVED if spec.id in moved else YOURS
            touch = moved[spec.id].touch if spec.id in moved else None
            own = given(spec.name, spec.unit, typed[spec.id], whose, touch=touch)
            found = Default(own, whose)
            ends = _ends(spec, found.figure)
        elif spec.along is not None:
            found, ends = spec.along.followed(spec, ground, chosen[spec.along.of])
        else:
            found = spec.default(ground, chosen)
            ends = _ends(spec, found.figure)
        chosen[spec.id] = Input(
            id=spec.id,
            figure=found.figure,
            low=_typed_side(spec, "low", typed) or ends[0],
            high=_typed_side(spec, "high", typed) or ends[1],
            origin=found.origin,
            rests_on=frozenset(chosen.heard),
            offers=tuple(spec.offers(ground, chosen)) if spec.offers else (),
        )
    return dict(chosen)


class _Heard(dict[str, Input]):
    """Inputs that are chosen already; notes which of them are read."""

    def __init__(self, held: Mapping[str, Input]) -> None:
        super().__init__(held)
        self.heard: set[str] = set()

    def __getitem__(self, id: str) -> Input:
        self.heard.add(id)
        return super().__getitem__(id)


def rechosen(
    specs: Mapping[str, InputSpec],
    ground: object,
    held: Mapping[str, Input],
    typed: Mapping[str, float],
    instead: Mapping[str, float],
) -> dict[str, Input]:
    """Inputs as they would be had the person typed others: those that rest on them follow.

    typed: what was typed before; instead: what is typed now besides.
    """
    moved = set(instead)
    for id, x in held.items():
        if x.rests_on & moved and id not in typed:
            moved.add(id)
    kept = {id: x for id, x in held.items() if id not in moved}
    both = {**{id: x for id, x in typed.items() if id.partition(".")[0] in kept}, **instead}
    tried = {id: held[id].figure for id in instead}
    return choose(specs, ground, both, held.keys(), kept, tried)


def _typed_side(spec: InputSpec, side: str, typed: Mapping[str, float]) -> Figure | None:
    """What the person typed for a case."""
    own = typed.get(f"{spec.id}.{side}", typed.get(f"{spec.follows}.{side}"))
    return None if own is None else given(f"{spec.name} ({side})", spec.unit, own, YOURS)


def _shifted(figure: Figure, shift: Shift | None) -> Figure:
    if shift is None:
        return figure
    by, note = shift
    formula = f"{figure.label} {note}"
    return derive(f"{figure.label} ({note})", figure.unit, formula, [figure], by)


def _ends(spec: InputSpec, middle: Figure) -> tuple[Figure, Figure]:
    """An input taken to its low and to its high."""
    return _shifted(middle, spec.low), _shifted(middle, spec.high)
