"""No cell of a file holds up the product: every pattern in `exchange` takes a long hostile cell, in
each way in which it is used, without going back over it again and again."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import re
import signal
from collections.abc import Iterator
from typing import Any

import pytest

import hearth_yield.exchange as package
from tests.conftest import sample

LONG = 50_000
"""Characters; going over all of them from each of them takes seconds."""
PIECES = (
    *(" ", "(", "[", "[a", "(a", "a", "1", "1,", "1.", "'", "*", "-", "—", "a ", "1 ", "Q1 "),
    *("in ", "in", "(1)", "[1]", "k", "000", "TLL ", "m", "T1:", "T ", "€", "%", ")", "]", "\n"),
    *("a\n", ",", ", ", ":", "January ", "1/", "a/b,", "a/", '"', "shares", "except ", "and "),
    *("years ended ", ".", "é", "_", "\u202f", "A", "'000", "pence", "1)", "#", "=", "<td "),
)
BEGINS = ("", "1", "a", "(", "a/b")[: sample(1, 5)]
ENDS = ("!", "", "x", "1", "(", "\n")[: sample(2, 6)]
WAYS = ("search", "match", "fullmatch", "sub", "findall", "finditer", "split")


def patterns(value: Any) -> Iterator[re.Pattern[Any]]:
    """Those that a name of a module holds."""
    if isinstance(value, re.Pattern):
        yield value
    elif isinstance(value, tuple | list):
        for one in value:
            yield from patterns(one)
    elif isinstance(value, dict):
        yield from patterns(list(value.values()))


def used() -> Iterator[tuple[str, re.Pattern[Any], str]]:
    """Every pattern of the package with each way in which its module uses it; one among others is
    taken for searched."""
    for found in pkgutil.walk_packages(package.__path__, f"{package.__name__}."):
        module = importlib.import_module(found.name)
        source = inspect.getsource(module)
        for name, value in vars(module).items():
            held = list(patterns(value))
            ways = set(re.findall(rf"\b{re.escape(name)}\.({'|'.join(WAYS)})\(", source))
            for pattern in held:
                for way in sorted(ways) or (("search",) if len(held) > 1 else ()):
                    yield f"{found.name}.{name}", pattern, way


def tried(pattern: re.Pattern[Any], way: str) -> str | None:
    """The hostile cell that takes a second of a processor, where a thousandth is plenty."""
    for piece in PIECES:
        for begin in BEGINS:
            for end in ENDS:
                cell: Any = begin + piece * (LONG // len(piece)) + end
                try:
                    within_a_second(pattern, way, cell)
                except TooLong:
                    return f"{begin!r}, then {piece!r} again and again, then {end!r}"
    return None


class TooLong(Exception):
    """A second of the processor is over."""


def late(*_: object) -> None:
    raise TooLong


def within_a_second(pattern: re.Pattern[Any], way: str, cell: Any) -> None:
    """By what the process itself takes, however busy the machine is."""
    before = signal.signal(signal.SIGVTALRM, late)
    signal.setitimer(signal.ITIMER_VIRTUAL, 1.0)
    try:
        cell = cell.encode() if isinstance(pattern.pattern, bytes) else cell
        match way:
            case "sub":
                pattern.sub(cell[:0], cell)
            case "finditer":
                list(pattern.finditer(cell))
            case _:
                getattr(pattern, way)(cell)
    finally:
        signal.setitimer(signal.ITIMER_VIRTUAL, 0)
        signal.signal(signal.SIGVTALRM, before)


FOUND = list(used())


@pytest.mark.parametrize(("name", "pattern", "way"), FOUND, ids=lambda x: str(x)[-40:])
def test_no_pattern_goes_over_a_hostile_cell_again_and_again(
    name: str, pattern: re.Pattern[Any], way: str
) -> None:
    assert tried(pattern, way) is None, name


def test_one_that_does_is_found() -> None:
    assert tried(re.compile(r"\s*x$"), "search") is not None
    assert len(FOUND) > 30
