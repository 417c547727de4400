"""A part of a question: what the address calls it, what it means, how it is read and written."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from typing import Any, TypeVar

from .errors import InvalidInput
from .strain.inputs import ALL, Strain
from .watching.reach import Aim, check_reach

T = TypeVar("T")
LONGEST_REASON = 200


class Of(StrEnum):
    """What a part changes, and nothing before it."""

    REVIEW = "review"
    RULER = "ruler"
    WORTH = "worth"
    STRAIN = "strain"
    SPAN = "span"
    AIM = "aim"
    OUTLAY = "outlay"
    REACH = "reach"


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """names: what the address calls its texts, each with what it means; read: the value of those
    that are given; write: the texts of a value that is not the default, in the order of the
    names."""

    of: Of
    names: Mapping[str, str]
    read: Callable[[Mapping[str, str]], Any]
    write: Callable[[Any], tuple[str, ...]]

    def texts(self, value: Any) -> dict[str, str]:
        """The texts of a value by name; empty ones are left out."""
        return {n: t for n, t in zip(self.names, self.write(value), strict=True) if t}


def asked(
    default: T, read: Callable[[str, str], T], write: Callable[[Any], str], *, of: Of, **means: str
) -> T:
    """A field of the question that the address writes in one text. read: of the name and its text;
    means: its name, and what it means. Given as a default, as dataclasses have it."""

    def read_one(texts: Mapping[str, str]) -> T:
        ((name, text),) = texts.items()
        return read(name, text)

    part = Part(of=of, names=means, read=read_one, write=lambda value: (write(value),))
    return _field(default, part)


def asked_in_parts(
    default: T,
    read: Callable[[Mapping[str, str]], T],
    write: Callable[[Any], tuple[str, ...]],
    *,
    of: Of,
    **means: str,
) -> T:
    """A field of the question that the address writes in several texts."""
    return _field(default, Part(of=of, names=means, read=read, write=write))


def _field(default: T, part: Part) -> T:
    made: T = field(default_factory=lambda: default, metadata={"part": part})
    return made


def one_of(known: Collection[str]) -> Callable[[str, str], str]:
    def read(name: str, text: str) -> str:
        if text not in known:
            raise InvalidInput(
                f"no such {name}", field=name, value=text, rule=f"one of {', '.join(known)}"
            )
        return text

    return read


def number(name: str, text: str, field: str = "") -> float:
    """field: what is named where it is none, if not the name."""
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        called = name.replace("_", " ")
        raise InvalidInput(
            f"{called} must be a number",
            field=field or name,
            value=text,
            rule="a number such as 0.05",
        )
    return value


def years(most: int) -> Callable[[str, str], tuple[int, ...]]:
    def read(name: str, text: str) -> tuple[int, ...]:
        parts = _ids(text)
        if len(parts) > most or not all(p.isascii() and p.isdigit() and len(p) <= 4 for p in parts):
            raise InvalidInput(
                f"{name.replace('_', ' ')} must be years",
                field=name,
                value=text,
                rule=f"at most {most} years, such as 1997,2016",
            )
        return tuple(int(p) for p in parts)

    return read


def write_years(found: tuple[int, ...]) -> str:
    return ",".join(map(str, found))


def window_of(known: Collection[str]) -> Callable[[str, str], str]:
    """So many years, or two days."""

    def read(name: str, text: str) -> str:
        return write_days(days(name, text)) if ".." in text else one_of(known)(name, text)

    return read


def days(name: str, text: str) -> tuple[date, date]:
    try:
        first, last = (date.fromisoformat(part) for part in text.split(".."))
    except ValueError:
        first = last = date.max
    if first >= last:
        raise InvalidInput(
            f"a {name} must be two days, the earlier first",
            field=name,
            value=text,
            rule="such as 2019-02-04..2020-03-31",
        )
    return first, last


def write_days(found: tuple[date, date]) -> str:
    return "..".join(d.isoformat() for d in found)


def values(name: str, text: str) -> Mapping[str, float]:
    """Numbers by id: "growth:0.05,required_return:0.09"."""
    found: dict[str, float] = {}
    for pair in _ids(text):
        id, separator, value = pair.partition(":")
        found[id] = number(id, value if separator else "", field=id or name)
    return found


def write_values(found: Mapping[str, float]) -> str:
    return ",".join(f"{id}:{value!r}" for id, value in sorted(found.items()))


def switches(texts: Mapping[str, str]) -> Mapping[str, bool]:
    """Of "on" and "off", each "two_stage,fading"."""
    return dict.fromkeys(_ids(texts.get("on", "")), True) | dict.fromkeys(
        _ids(texts.get("off", "")), False
    )


def write_switches(found: Mapping[str, bool]) -> tuple[str, str]:
    on, off = (",".join(sorted(id for id in found if found[id] is to)) for to in (True, False))
    return on, off


def reasons(name: str, text: str) -> Mapping[str, str]:
    """By id, as a JSON object of texts."""
    try:
        held = json.loads(text)
    except (ValueError, RecursionError):
        held = None
    if not isinstance(held, dict) or not all(
        isinstance(x, str) and len(x) <= LONGEST_REASON for x in held.values()
    ):
        raise InvalidInput(
            f"{name} must be texts by model",
            field=name,
            value=text[:200],
            rule=f'such as {{"two_stage":"too hopeful"}}, each up to {LONGEST_REASON} characters',
        )
    return {id: x.strip() for id, x in held.items() if x.strip()}


def write_reasons(found: Mapping[str, str]) -> str:
    return json.dumps(dict(sorted(found.items())), ensure_ascii=False)


def strain_of(texts: Mapping[str, str]) -> Strain:
    """Of "strain", its inputs, and "strain_part"."""
    part, inputs = texts.get("strain_part", ALL), texts.get("strain", "")
    return Strain(part=None if part == ALL else part, inputs=values("strain", inputs))


def write_strain(strain: Strain) -> tuple[str, str]:
    """One that is all defaults says that it is one of all revenue."""
    return write_values(strain.inputs), strain.part or ALL


def reach(name: str, text: str) -> tuple[Aim, float]:
    """A price waited for, and what for: "buy_below:30.0"."""
    aim, _, price = text.partition(":")
    target = number(name, price)
    check_reach(target)
    return Aim(one_of([a.value for a in Aim])(name, aim)), target


def write_reach(found: tuple[Aim, float]) -> str:
    aim, target = found
    return f"{aim.value}:{target!r}"


def _ids(text: str) -> list[str]:
    return [id for id in text.split(",") if id]
