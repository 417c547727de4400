"""How far a value travels: the functions of ours that it passes through, and the forms it takes.

A marked value is followed while something runs: a function of ours is a hop when what it gives back
holds the mark, when it puts the mark into something it was given, or when it stands on the stack,
with the mark in hand, where the mark reaches the database. To hold it is to be it, to have it as a
member, or to have a member that does, lists and dicts not counted: what only hands on a whole file
or a whole review holds all there is. A shape is a declared type of ours that has the mark itself as
a member.
"""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, fields, is_dataclass
from decimal import Decimal
from pathlib import Path
from types import CodeType, FrameType
from typing import Any

import msgspec
import numpy as np
from pydantic import BaseModel

import hearth_yield

OURS = str(Path(hearth_yield.__file__).parent)
DEEP = 2
"""So many declared types within one another are looked into."""
NESTED = 4
"""So many lists and dicts within one another."""
MOST_TEXT = 100_000


@dataclass(slots=True)
class Trail:
    """hops: functions by file and name, in the order they are first passed; shapes: types."""

    hops: dict[str, None] = field(default_factory=dict)
    shapes: dict[str, None] = field(default_factory=dict)


class Follower:
    """Follows a number, in any form, through what runs within."""

    def __init__(self, mark: float) -> None:
        self._mark = mark
        self._text = repr(mark)
        self._raw = self._text.encode()
        self.trail = Trail()
        self._had: dict[int, bool] = {}

    def __enter__(self) -> Trail:
        sys.setprofile(self._look)
        return self.trail

    def __exit__(self, *_: object) -> None:
        sys.setprofile(None)

    def _look(self, frame: FrameType, event: str, arg: Any) -> None:
        code = frame.f_code
        if event in ("c_call", "c_return", "c_exception"):
            return
        if not code.co_filename.startswith(OURS):
            if event == "call" and code.co_name in ("exec_driver_sql", "execute"):
                self._stored(frame)
            return
        sys.setprofile(None)
        try:
            if event == "call":
                self._had[id(frame)] = any(self._held(x) for x in _arguments(frame))
            else:
                self._left(frame, arg)
        finally:
            sys.setprofile(self._look)

    def _left(self, frame: FrameType, given: Any) -> None:
        had = self._had.pop(id(frame), False)
        if code_is_inner(frame.f_code):
            return
        if self._held(given):
            self._hop(frame.f_code)
            self._shape(given)
            return
        if not had:
            for argument in _arguments(frame):
                if self._held(argument):
                    self._hop(frame.f_code)
                    self._shape(argument)
                    return

    def _stored(self, frame: FrameType) -> None:
        sys.setprofile(None)
        try:
            if any(self._held(x) for x in _arguments(frame)):
                at: FrameType | None = frame.f_back
                while at is not None:
                    if at.f_code.co_filename.startswith(OURS) and not code_is_inner(at.f_code):
                        held = [x for x in _arguments(at) if self._held(x)]
                        for x in held:
                            self._hop(at.f_code)
                            self._shape(x)
                    at = at.f_back
        finally:
            sys.setprofile(self._look)

    def _hop(self, code: CodeType) -> None:
        file = code.co_filename[len(OURS) + 1 :]
        self.trail.hops[f"{file}:{code.co_qualname}"] = None

    def _shape(self, value: Any) -> None:
        for kind in _nearest(value, self._held_here):
            self.trail.shapes[kind] = None

    def _held_here(self, value: Any) -> bool:
        match value:
            case bool():
                return False
            case float():
                return value == self._mark
            case Decimal():
                return value == Decimal(self._text)
            case str():
                return len(value) < MOST_TEXT and self._text in value
            case bytes() | bytearray():
                return self._raw in value
            case np.ndarray():
                return value.dtype.kind == "f" and bool((value == self._mark).any())
        return False

    def _held(self, value: Any) -> bool:
        return _holds(value, self._held_here)


def code_is_inner(code: CodeType) -> bool:
    """A comprehension, which is no function of its own."""
    return code.co_name in ("<listcomp>", "<dictcomp>", "<setcomp>", "<genexpr>", "<module>")


def _arguments(frame: FrameType) -> list[Any]:
    code = frame.f_code
    many = (
        code.co_argcount
        + code.co_kwonlyargcount
        + bool(code.co_flags & 4)
        + bool(code.co_flags & 8)
    )
    here = frame.f_locals
    return [here[n] for n in code.co_varnames[:many] if n in here]


def _parts(value: Any) -> Iterator[Any]:
    match value:
        case dict():
            yield from list(value.values())
        case list() | tuple() | set() | frozenset():
            yield from list(value)
        case BaseModel():
            yield from list(value.__dict__.values())
        case msgspec.Struct():
            yield from (getattr(value, n, None) for n in value.__struct_fields__)
        case _ if is_dataclass(value) and not isinstance(value, type):
            yield from (getattr(value, f.name, None) for f in fields(value))
        case _ if _is_declared(value):
            yield from list(getattr(value, "__dict__", {}).values())


def _holds(value: Any, here: Callable[[Any], bool], deep: int = 0, nested: int = 0) -> bool:
    if here(value):
        return True
    if isinstance(value, PLAIN) or deep > DEEP or nested > NESTED:
        return False
    declared = _is_declared(value)
    deep, nested = (deep + 1, 0) if declared else (deep, nested + 1)
    return deep <= DEEP and any(_holds(x, here, deep, nested) for x in _parts(value))


def _nearest(value: Any, here: Callable[[Any], bool], deep: int = 0, nested: int = 0) -> set[str]:
    """The declared types that have it as a member, at most within lists and dicts."""
    if isinstance(value, PLAIN) or deep > DEEP or nested > NESTED:
        return set()
    declared = _is_declared(value)
    found = {type(value).__name__} if declared and _has(value, here) else set()
    deep, nested = (deep + 1, 0) if declared else (deep, nested + 1)
    for part in _parts(value):
        found |= _nearest(part, here, deep, nested)
    return found


def _has(value: Any, here: Callable[[Any], bool]) -> bool:
    return any(_bare(x, here, 0) for x in _parts(value))


PLAIN = (str, bytes, int, float, np.ndarray)


def _bare(value: Any, here: Callable[[Any], bool], deep: int) -> bool:
    """Whether it is the mark, or lists and dicts of it."""
    if here(value):
        return True
    if deep > 3 or _is_declared(value) or not isinstance(value, list | tuple | dict):
        return False
    return any(_bare(x, here, deep + 1) for x in _parts(value))


def _is_declared(value: Any) -> bool:
    return type(value).__module__.startswith("hearth_yield") and not isinstance(value, type)
