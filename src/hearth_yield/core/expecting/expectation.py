"""Expectations: dated statements about a measure that can be checked.
(docs/method.md, Decisions)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from typing import Protocol

from ..errors import InvalidInput
from ..figures.figure import Unit
from ..figures.measure import Measure
from ..figures.ties import above, at_least
from ..stages import MEASURES

DAYS = 365.25
MOST_YEARS = 30
GROWING = (Unit.PER_SHARE, Unit.MONEY, Unit.COUNT)
"""What can be expected to grow by so much a year."""


class Way(StrEnum):
    """level: on the day; throughout: at every look until then; growth: so much a year since."""

    LEVEL = "level"
    THROUGHOUT = "throughout"
    GROWTH = "growth"


class Side(StrEnum):
    AT_LEAST = "at_least"
    AT_MOST = "at_most"


class Track(StrEnum):
    ON = "on"
    OFF = "off"
    MET = "met"
    MISSED = "missed"
    UNKNOWN = "unknown"


@dataclass(frozen=True, slots=True, kw_only=True)
class Expectation:
    """measure: by id. value: in the measure's unit, of growth a fraction a year. then: what the
    measure was when it was said, in the shares of that day; None where it was unknown."""

    measure: str
    way: Way
    side: Side
    value: float
    until: date
    then: float | None

    @property
    def spec(self) -> Measure:
        return MEASURES[self.measure]

    def fits(self, value: float, wanted: float) -> bool:
        return at_least(value, wanted) if self.side is Side.AT_LEAST else not above(value, wanted)


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """value: what it has come to, of growth the growth a year; wanted: what it would have to be by
    now to be on track."""

    expectation: Expectation
    track: Track
    value: float | None
    wanted: float | None
    reason: str


def check_expectation(expected: Expectation, today: date) -> None:
    """Raises InvalidInput for a measure that is not known, a day that is past, or a growth of what
    does not grow."""
    if expected.measure not in MEASURES:
        raise InvalidInput(
            f"there is no measure “{expected.measure}”",
            field="expectations",
            value=expected.measure,
            rule="a measure of the review",
        )
    if not today < expected.until or expected.until.year > today.year + MOST_YEARS:
        raise InvalidInput(
            "an expectation is for a day to come",
            field="expectations",
            value=expected.until.isoformat(),
            rule=f"after {today.isoformat()}, within thirty years",
        )
    if expected.way is Way.GROWTH and expected.spec.unit not in GROWING:
        raise InvalidInput(
            f"{expected.spec.name} is no amount that grows",
            field="expectations",
            value=expected.measure,
            rule="an amount, an amount a share, or a count",
        )


def days_looked_at(expected: Expectation, said_on: date, day: date) -> list[date]:
    """On which days the measure is looked at to judge it on a day: that day or the one it is for,
    and of one that has to hold throughout, each year after it was said."""
    last = min(day, expected.until)
    if expected.way is not Way.THROUGHOUT:
        return [last]
    passed = (said_on + timedelta(days=round(DAYS * n)) for n in range(1, MOST_YEARS + 1))
    return [*(d for d in passed if d < last), last]


class Answer(Protocol):
    """What a measure was: a value, or the reason there is none."""

    @property
    def value(self) -> float | None: ...
    @property
    def reason(self) -> str | None: ...


def judge(
    expected: Expectation, said_on: date, looks: Sequence[tuple[date, Answer]], factor: float
) -> Judged:
    """Whether it is on track, as known at the looks.

    looks: days and what the measure was then, the last one the newest and not after `until`; those
    before are each a year after it was said. factor: of the splits since it was said, by which an
    amount a share of then is divided.
    """
    day, answer = looks[-1]
    over = day >= expected.until
    now = answer.value
    if now is None:
        return _judged(expected, Track.UNKNOWN, None, None, answer.reason or "unknown")
    then = expected.then
    if then is not None and expected.spec.unit is Unit.PER_SHARE:
        then = then / factor
    match expected.way:
        case Way.GROWTH:
            return _growth(expected, then, now, (day - said_on).days / DAYS, over)
        case Way.LEVEL:
            wanted = _path(expected, then, said_on, day)
            return _judged(expected, _track(expected.fits(now, wanted), over), now, wanted, "")
    values = [a.value for _, a in looks if a.value is not None]
    held = all(expected.fits(v, expected.value) for v in values)
    return _judged(expected, _track(held, over), now, expected.value, "")


def _growth(
    expected: Expectation, then: float | None, now: float, years: float, over: bool
) -> Judged:
    if then is None or then <= 0 or now < 0:
        why = "it was unknown, or not above 0, when this was said"
        return _judged(expected, Track.UNKNOWN, None, expected.value, why)
    if years < 1 and not over:
        why = "less than a year has passed"
        return _judged(expected, Track.UNKNOWN, None, expected.value, why)
    value = (now / then) ** (1 / years) - 1
    held = expected.fits(value, expected.value)
    return _judged(expected, _track(held, over), value, expected.value, "")


def _path(expected: Expectation, then: float | None, said_on: date, day: date) -> float:
    """What it would have to be by now: on the straight way from then to the day; where it was good
    enough then, it has to stay so."""
    if then is None or expected.fits(then, expected.value):
        return expected.value
    whole = (expected.until - said_on).days
    part = min(1.0, (day - said_on).days / whole) if whole > 0 else 1.0
    return then + (expected.value - then) * part


def _track(held: bool, over: bool) -> Track:
    if over:
        return Track.MET if held else Track.MISSED
    return Track.ON if held else Track.OFF


def _judged(
    expected: Expectation, track: Track, value: float | None, wanted: float | None, reason: str
) -> Judged:
    return Judged(expectation=expected, track=track, value=value, wanted=wanted, reason=reason)
