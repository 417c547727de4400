"""Expectations: dated statements about a measure that can be checked.
(docs/method.md, Decisions)"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum

from ..errors import InvalidInput
from ..figures.figure import Figure, Unit, derive, given, unknown
from ..figures.measure import Measure
from ..figures.ties import above, at_least
from ..judging.judge import Test
from ..kinds import Kind
from ..stages import MEASURES

DAYS = 365.25
REACH = timedelta(days=45)
"""How far a raise may come from the day of the year on which it usually comes."""
LAST_RAISES = 5
MOSTLY = 0.6
DECLARED = "declared_rate"
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
class Often:
    """What is often expected of a payer. name: what one chooses it by; the rest as an expectation
    has it."""

    name: str
    measure: str
    way: Way
    side: Side
    value: float


def often_expected(tests: Sequence[Test], used: Collection[str]) -> list[Often]:
    """By the declarations of the measures, at the person's own limits for the payer.

    tests: those of its review; what is held against no limit of it is left out. used: the measures
    that its kind has.
    """
    limits = {t.id: t.limit for t in tests}
    found = []
    for m in MEASURES.values():
        if m.usual is None or m.id not in used:
            continue
        value = limits.get(m.id) if m.usual.value is None else m.usual.value
        if value is not None:
            side = Side.AT_MOST if m.better == "low" else Side.AT_LEAST
            way = Way(m.usual.way)
            found.append(Often(name=m.usual.name, measure=m.id, way=way, side=side, value=value))
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Judged:
    """value: what it has come to, of growth the growth a year; unknown where that cannot be told.
    wanted: what it would have to be by now to be on track."""

    expectation: Expectation
    track: Track
    value: Figure
    wanted: Figure

    @property
    def reason(self) -> str:
        """Why it cannot be told."""
        return self.value.reason or ""

    def alone(self) -> Judged:
        """With figures that stand alone."""
        return replace(self, value=self.value.alone(), wanted=self.wanted.alone())


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


def answered(measure: str, figure: Figure | None, kind: Kind) -> Figure:
    """What a review says of a measure; unknown where the payer's kind does not use it."""
    spec = MEASURES[measure]
    return figure or unknown(spec.name, spec.unit, f"not used for a {kind.words}")


@dataclass(frozen=True, slots=True)
class Slots:
    """When a payer usually raises: a day of the year, and how many raises fell due between two
    days."""

    newest: date
    raised: Sequence[date]

    def due(self, said_on: date, day: date) -> int:
        """Slots since it was said that are over, or in which a raise has come."""
        return sum(
            1
            for slot in self._since(said_on)
            if slot <= day + REACH
            and (
                slot + REACH <= day
                or any(said_on < r <= day and abs(r - slot) <= REACH for r in self.raised)
            )
        )

    def first(self, said_on: date) -> date:
        """The first slot after it was said that may still bring a raise."""
        return next(slot for slot in self._since(said_on))

    def _since(self, said_on: date) -> Iterator[date]:
        """Slots that are not over when it was said, and had no raise by then."""
        taken = [r for r in self.raised if r <= said_on]
        k = math.floor((said_on - self.newest).days / DAYS) - 1
        for n in range(k, k + MOST_YEARS + 3):
            slot = self.newest + timedelta(days=round(DAYS * n))
            if slot + REACH > said_on and not any(abs(r - slot) <= REACH for r in taken):
                yield slot


def slots_of(raised: Sequence[date]) -> Slots | None:
    """When a payer usually raises, from the days on which raises became known; None where most of
    the last five do not come at one time of the year."""
    last = sorted(raised)[-LAST_RAISES:]
    if len(last) < 2:
        return None
    apart = ((last[-1] - r).days / DAYS for r in last)
    same = sum(abs(x - round(x)) * DAYS <= REACH.days for x in apart)
    years = {round((last[-1] - r).days / DAYS) for r in last}
    usual = same >= MOSTLY * len(last) and len(years) == len(last)
    return Slots(last[-1], last) if usual else None


def judge(
    expected: Expectation,
    said_on: date,
    looks: Sequence[tuple[date, Figure]],
    factor: float,
    raised: Sequence[date] = (),
) -> Judged:
    """Whether it is on track, as known at the looks.

    looks: days and what the measure was then, the last one the newest and not after `until`; those
    before are each a year after it was said. factor: of the splits since it was said, by which an
    amount a share of then is divided. raised: when raises became known, by the newest look; growth
    of what is declared is read at raises.
    """
    day, now = looks[-1]
    over = day >= expected.until
    grows = expected.way is Way.GROWTH
    unit, currency = (Unit.FRACTION, None) if grows else (expected.spec.unit, now.currency)
    wanted = given("what was expected", unit, expected.value, "yours", currency=currency)
    value = now
    if expected.way is not Way.THROUGHOUT and now.known:
        then = _then(expected, said_on, factor, now.currency)
        if grows:
            value = _grown(then, now, *_passed(expected, said_on, day, raised), over)
        else:
            wanted = _path(expected, then, wanted, said_on, day)
    track = Track.UNKNOWN
    if value.value is not None and wanted.value is not None:
        held = expected.fits(value.value, wanted.value)
        if expected.way is Way.THROUGHOUT:
            values = [figure.value for _, figure in looks if figure.value is not None]
            held = all(expected.fits(v, expected.value) for v in values)
        track = _track(held, over)
    return Judged(expectation=expected, track=track, value=value, wanted=wanted)


def _then(expected: Expectation, said_on: date, factor: float, currency: str | None) -> Figure:
    """What the measure was when it was said, in today's shares."""
    spec, value = expected.spec, expected.then
    if value is not None and spec.unit is Unit.PER_SHARE:
        value /= factor
    label = f"{in_a_sentence(spec.name)} on {said_on.isoformat()}"
    if value is None:
        return unknown(label, spec.unit, "it was unknown")
    return given(label, spec.unit, value, "as the decision keeps it", currency=currency)


def _passed(
    expected: Expectation, said_on: date, day: date, raised: Sequence[date]
) -> tuple[float, str]:
    """Years since it was said, and why they are too few; of what is declared, usual raises."""
    years = (day - said_on).days / DAYS
    too_few = "less than a year has passed" if years < 1 else ""
    slots = slots_of(raised) if expected.measure == DECLARED else None
    if slots is None:
        return years, too_few
    due = slots.due(said_on, day)
    if due:
        return due, ""
    month = slots.first(said_on)
    return years, f"it is raised once a year; cannot be told before {month:%B}"


def _grown(then: Figure, now: Figure, years: float, too_few: str, over: bool) -> Figure:
    """2.00 to 2.2472 in two years, or at two raises, is 6 % a year."""
    label = "growth a year since it was said"
    if not then.value or then.value < 0 or (now.value or 0.0) < 0:
        why = "it was unknown, or not above 0, when this was said"
        return unknown(label, Unit.FRACTION, why)
    if too_few and not over:
        return unknown(label, Unit.FRACTION, too_few)
    told = f"{years:.2f} years" if isinstance(years, float) else f"{years} usual raises"
    return derive(
        label,
        Unit.FRACTION,
        f"({now.label} ÷ {then.label}) ^ (1 ÷ {told}) − 1",
        [now, then],
        lambda a, b: (a / b) ** (1 / years) - 1,
    )


def _path(expected: Expectation, then: Figure, wanted: Figure, said_on: date, day: date) -> Figure:
    """What it would have to be by now: on the straight way from then to the day; where it was good
    enough then, it has to stay so."""
    if then.value is None or expected.fits(then.value, expected.value):
        return wanted
    whole, passed = (expected.until - said_on).days, (day - said_on).days
    part = min(1.0, passed / whole) if whole > 0 else 1.0
    return derive(
        "on the straight way by now",
        wanted.unit,
        f"{then.label} + ({wanted.label} − {then.label}) × {passed} of {whole} days",
        [then, wanted],
        lambda a, b: a + (b - a) * part,
        currency=wanted.currency,
    )


def _track(held: bool, over: bool) -> Track:
    if over:
        return Track.MET if held else Track.MISSED
    return Track.ON if held else Track.OFF


def in_a_sentence(name: str) -> str:
    """A name without its capital, unless it is one of letters: FFO."""
    return name if name[1:2].isupper() else name[:1].lower() + name[1:]
