"""Answers filled from the parts of a review that they tell of. A member of an answer that the part
has too, under the same name, is taken from there; what differs is given."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import is_dataclass
from enum import Enum
from functools import cache, partial
from types import NoneType, UnionType
from typing import TYPE_CHECKING, Any, TypeVar, Union, cast, get_args, get_origin, get_type_hints

from pydantic import BaseModel

from .figures import FigureOut, PartOut, figure_out

if TYPE_CHECKING:
    from .figures import Shown

Out = TypeVar("Out")
_ABSENT = object()
Turn = Callable[[Any, str, "Shown | None"], Any]
"""A member of a part as the answer has it; by what name its figures are asked for."""


def fill(
    out: type[Out], part: object, at: str = "", shown: Shown | None = None, **more: Any
) -> Out:
    """An answer of the members of a part. at: the part's name, from which its figures have theirs.
    shown: where sentences are among them. more: members that are given as they are.

    Figures become `FigureOut`; sentences and parts, and lists and mappings of either, what the
    answer's type says of them, each under the name of its key.
    Raises: TypeError for a member that neither has, and that has no value of its own.
    """
    read = part.get if isinstance(part, Mapping) else partial(getattr, part)
    held = dict(more)
    for name, turn in _turns(cast("Any", out)):
        if name not in more:
            member = read(name, _ABSENT)
            if member is not _ABSENT:
                held[name] = turn(member, f"{at}.{name}", shown)
    return out(**held)


def each(
    out: type[Out], parts: Iterable[object], at: str = "", shown: Shown | None = None
) -> list[Out]:
    """Answers of parts that stand in a row, each under its key."""
    return [fill(out, p, f"{at}.{getattr(p, 'key', '')}", shown) for p in parts]


@cache
def _turns(out: type[Any]) -> tuple[tuple[str, Turn], ...]:
    return tuple((name, _turn(kind)) for name, kind in get_type_hints(out).items())


def _turn(kind: Any) -> Turn:
    of, inner = get_origin(kind), get_args(kind)
    if kind is FigureOut:
        return lambda figure, at, shown: figure_out(figure, at)
    if of in (Union, UnionType):
        known = [x for x in inner if x is not NoneType]
        turn = _turn(known[0]) if len(known) == 1 else _plain
        return lambda held, at, shown: None if held is None else turn(held, at, shown)
    if of is list and inner[0] is PartOut:
        return _sentence
    if of is list:
        return _listed(_turn(inner[0]))
    if of is dict:
        return _mapped(_turn(inner[1]), inner[0])
    if isinstance(kind, type) and (is_dataclass(kind) or issubclass(kind, BaseModel)):
        return lambda held, at, shown: fill(kind, held, at, shown)
    return _plain


def _plain(held: Any, at: str, shown: Shown | None) -> Any:
    return held.value if isinstance(held, Enum) else held


def _sentence(held: Any, at: str, shown: Shown | None) -> list[PartOut]:
    if shown is None:
        raise TypeError(f"{at} is a sentence, and nobody is there to name its figures")
    return shown.sentence(held)


def _listed(turn: Turn) -> Turn:
    if turn is _plain:
        return lambda held, at, shown: [x.value if isinstance(x, Enum) else x for x in held]
    return lambda held, at, shown: [turn(x, f"{at}.{getattr(x, 'key', '')}", shown) for x in held]


def _mapped(turn: Turn, key: Any) -> Turn:
    def turned(held: Any, at: str, shown: Shown | None) -> dict[Any, Any]:
        named = ((x.value if isinstance(x, Enum) else x, y) for x, y in held.items())
        return {
            str(name) if key is str else name: turn(y, f"{at}.{name}", shown) for name, y in named
        }

    return turned
