"""A figure: a value, or the reason it is unknown, together with its working.

The working is not computed a second time for show. Every figure holds the figures it was
computed from, down to facts that carry the day they became known and their source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from typing import Any

from msgspec import Struct
from msgspec.structs import force_setattr, replace


class Unit(StrEnum):
    """What the number counts. Fractions and yields are 0.05 in code and 5 % on screen."""

    FRACTION = "fraction"
    YIELD = "yield"
    MULTIPLE = "multiple"
    MONEY = "money"
    PER_SHARE = "per_share"
    SHARES = "shares"
    YEARS = "years"
    WEEKS = "weeks"
    COUNT = "count"
    INDEX = "index"


@dataclass(frozen=True, slots=True)
class Unknown:
    """Why there is no value. `breach` says that the measure is crossed though it has no size,
    `spared` that nothing can cross it."""

    reason: str
    breach: str | None = None
    spared: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SampleRow:
    """One line of a figure that is made of many facts of one kind (a sample of weeks).

    since: the day from which the values other than the day's own were known.
    """

    day: date
    values: tuple[float, ...]
    source: int | None
    since: date | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Sample:
    """Many facts behind one figure: column names with their units, and the rows."""

    columns: tuple[tuple[str, Unit], ...]
    rows: Callable[[], Sequence[SampleRow]]


class Touch(StrEnum):
    """That a person had a hand in a figure: a fact entered by hand, or one edited."""

    ENTERED = "entered"
    EDITED = "edited"


def touch_of(touches: Iterable[Touch | None]) -> Touch | None:
    """Of several the strongest: edited before entered before neither."""
    strongest = None
    for touch in touches:
        if touch is Touch.EDITED:
            return touch
        strongest = touch or strongest
    return strongest


class FactAt(Struct, frozen=True, kw_only=True):
    """Where a fact is held, so that it can be edited. raw: its value as held, in the shares of
    its own day; None where the row says nothing."""

    table: str
    key: tuple[tuple[str, date | str], ...]
    field: str
    raw: float | None

    def row_key(self) -> dict[str, str]:
        """The key as edits are kept by: dates as ISO text."""
        return {n: v.isoformat() if isinstance(v, date) else str(v) for n, v in self.key}


class Figure(Struct, frozen=True, kw_only=True):
    """A value or the reason there is none, with what it was computed from.

    value: in `unit`; None when unknown, and then `reason` says why.
    breach: set when there is no value because a denominator is not positive though something
        is owed to it ("cash burn", "loss"): the test on it is crossed, without size.
    spared: set when there is no value because nothing is owed ("no interest to pay"): the test on
        it is passed.
    known_on, source: set on facts; a derived figure has inputs instead.
    touch: set on facts a person entered or edited, and on every figure that rests on one.
    cautions: what should be known before relying on it, in words ("the newest close is of 3 June
        2026"); handed on to every figure that rests on it.
    was: what it was when its inputs were current, where it is unknown because one is old.

    A struct: a review makes well over a thousand, and a frozen dataclass takes ten times as long.
    """

    label: str
    unit: Unit
    value: float | None = None
    reason: str | None = None
    breach: str | None = None
    spared: str | None = None
    formula: str | None = None
    inputs: tuple[Figure, ...] = ()
    currency: str | None = None
    period: str | None = None
    known_on: date | None = None
    source: int | None = None
    notes: tuple[str, ...] = ()
    sample: Sample | None = None
    touch: Touch | None = None
    fact: FactAt | None = None
    cautions: tuple[str, ...] = ()
    was: float | None = None

    def __post_init__(self) -> None:
        """Takes over the touch and the cautions of the inputs; hundreds of figures a review, hence
        no generators."""
        touched, cautious = self.touch is not None, False
        for i in self.inputs:
            if i.cautions:
                cautious = True
            if not touched and i.touch is not None:
                touched = True
                force_setattr(self, "touch", touch_of([x.touch for x in self.inputs]))
        if cautious:
            every = (*self.cautions, *(c for i in self.inputs for c in i.cautions))
            force_setattr(self, "cautions", tuple(dict.fromkeys(every)))

    @property
    def known(self) -> bool:
        return self.value is not None

    def but(self, **changes: Any) -> Figure:
        """The same figure, with these members changed."""
        return replace(self, **changes)

    def alone(self) -> Figure:
        """The same figure without its working, for where very many are kept."""
        return self.but(inputs=(), sample=None)

    def with_touch(self, touch: Touch | None, note: str = "") -> Figure:
        """The same figure, which a person also had a hand in by what it was chosen or read from."""
        if touch is None or self.touch is Touch.EDITED:
            return self
        notes = (*self.notes, note) if note else self.notes
        return self.but(notes=notes, touch=touch_of([self.touch, touch]))

    def with_exclusions(self, choices: Sequence[str]) -> Figure:
        """The same figure, which also rests on what the person chose to leave out, in words."""
        if not choices:
            return self
        return self.but(notes=(*self.notes, *choices), touch=Touch.EDITED)


def unknown(label: str, unit: Unit, why: Unknown | str, **meta: Any) -> Figure:
    """A figure without a value; `why` may carry a breach."""
    why = Unknown(why) if isinstance(why, str) else why
    return Figure(
        label=label, unit=unit, reason=why.reason, breach=why.breach, spared=why.spared, **meta
    )


def derive(
    label: str,
    unit: Unit,
    formula: str,
    inputs: Sequence[Figure],
    compute: Callable[..., float | Unknown],
    **meta: Any,
) -> Figure:
    """Compute from the inputs' values; the first unknown input makes the result unknown.

    compute: takes the inputs' values in order; returns a number or `Unknown`.
    """
    parts = tuple(inputs)
    values = [i.value for i in parts]
    why: Unknown | str
    if None in values:
        why = _because(parts[values.index(None)])
        then = [i.was if i.value is None else i.value for i in parts]
        if None not in then:
            was = compute(*then)
            meta["was"] = None if isinstance(was, Unknown) else float(was)
    else:
        result = compute(*values)
        if not isinstance(result, Unknown):
            return Figure(
                label=label, unit=unit, value=float(result), formula=formula, inputs=parts, **meta
            )
        why = result
    return unknown(label, unit, why, formula=formula, inputs=parts, **meta)


def _because(missing: Figure) -> str:
    """The reason of the figure that is missing at the root, named once."""
    reason = missing.reason or ""
    return reason if " unknown: " in reason else f"{missing.label} unknown: {reason}"


def percent(fraction: float, digits: int = 0) -> str:
    """A fraction in a sentence of the core's: 0.55 → "55 %"."""
    return f"{fraction * 100:.{digits}f} %"


def given(label: str, unit: Unit, value: float | None, origin: str, **meta: Any) -> Figure:
    """An input chosen by the person or by a house rule; `origin` says by which."""
    if value is None:
        return unknown(label, unit, origin, **meta)
    return Figure(label=label, unit=unit, value=value, notes=(origin,), **meta)
