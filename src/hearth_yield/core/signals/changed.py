"""What changed in what is found of a payer: tests, stages, expectations; and data that grew old.

It is looked at on days when facts other than prices came, and at the ends of months.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from ..expecting.expectation import (
    Expectation,
    Side,
    Track,
    Way,
    answered,
    days_looked_at,
    in_a_sentence,
    judge,
)
from ..facts.age import BOUNDS
from ..facts.payer_file import PayerFile
from ..facts.records import split_factor
from ..facts.statements import Span
from ..figures.figure import Unit
from ..figures.measure import Direction, Stage
from ..judging.judge import State, Test
from ..record.payments import Outcome
from ..review import Review
from ..stages import STAGES
from .signal import Said, Signal, SignalGround, SignalKind, SignalMaker, Value, Wait

TEST_CHANGED = SignalKind(
    id="test_changed",
    name="Test changed",
    means="A test moved outside its limit, close to it, or back, when facts came.",
)
FINDING_CHANGED = SignalKind(
    id="finding_changed",
    name="Finding changed",
    means="What a stage found as a whole moved outside a limit, close to one, or back.",
)
EXPECTATION = SignalKind(
    id="expectation",
    name="Expectation judged",
    means="An expectation of the decision that stands went off track, or its day came.",
    of_a_wait=True,
    asks=True,
)
LOOK_DUE = SignalKind(
    id="look_due",
    name="Next look due",
    means="The day came on which you meant to look again.",
    of_a_wait=True,
    asks=True,
)
DATA_OLD = SignalKind(
    id="data_old",
    name="Data old",
    means="The newest close or the newest results became too old to be shown as current.",
)

Reviewed = Callable[[date], Review]
STANDS = {State.WITHIN: "within", State.CLOSE: "close to", State.OUTSIDE: "outside"}


def turned(then: State, now: State, limit: str, limits: str) -> str:
    """What became of a test ("its limit") or a stage ("a limit", of several "limits"), in words."""
    if now is State.UNKNOWN:
        return "cannot be told any more"
    if then is State.UNKNOWN:
        return f"known now, {STANDS[now]} {limits if now is State.WITHIN else limit}"
    if then is State.OUTSIDE:
        return f"within {limits} again" + (", but close" if now is State.CLOSE else "")
    if now is State.WITHIN:
        return f"no longer close to {limit}"
    return f"{STANDS[now]} {limit} now"


def looks(file: PayerFile, since: date, until: date) -> list[date]:
    """Days on which what is found is looked at, oldest first, and before them the last one up to
    `since`."""
    came = {d.known_on for d in file.dividends}
    came |= {n.declared_on for n in file.notices}
    came |= {s.published_on for s in file.versions}
    came |= {x.published_on for x in file.estimates}
    came |= {x.published_on for x in file.guidance}
    month = date(since.year - (since.month <= 2), (since.month - 3) % 12 + 1, 1)
    while month <= until:
        month = (month + timedelta(days=32)).replace(day=1)
        came.add(month - timedelta(days=1))
    days = sorted(d for d in came if d <= until)
    return days[max(0, bisect_right(days, since) - 1) :]


def _changed(ground: SignalGround) -> Iterator[Signal]:
    """Tests and stages in another state than at the look before."""
    before: Review | None = None
    days = looks(ground.file, ground.since, ground.until)
    for day in days if len(days) > 1 else ():
        now = ground.reviewed(day)
        if before is not None and now.payer.delisted_on is None:
            yield from _tests(before, now, day)
            yield from _stages(before, now, day)
        before = now


def _tests(before: Review, now: Review, day: date) -> Iterator[Signal]:
    then = {t.id: t.state for t in before.tests}
    for test in now.tests:
        if test.id in then and then[test.id] is not test.state:
            yield Signal(
                kind=TEST_CHANGED,
                day=day,
                event=f"{test.id}/{day.isoformat()}",
                stage=test.stage,
                said=_test_said(test, then[test.id], now.payer.currency),
            )


def _test_said(test: Test, then: State, currency: str) -> tuple[Said, ...]:
    figure = test.measure
    words = f"{test.measure.label}: {turned(then, test.state, 'its limit', 'its limit')}"
    if figure.value is None:
        why = figure.breach or figure.reason
        return (f"{words}; {why}",) if why else (words,)
    at = (f"{words}, at ", Value(figure.value, figure.unit, currency))
    if test.beyond:
        return (*at, f", {test.beyond}")
    bound = "at most " if test.direction is Direction.CAP else "at least "
    return (*at, f"; {bound}", Value(test.limit, figure.unit, currency))


def _stages(before: Review, now: Review, day: date) -> Iterator[Signal]:
    for stage, held in now.stages.items():
        then = before.stages[stage].state
        if held.state is None or then is None or held.state is then:
            continue
        yield Signal(
            kind=FINDING_CHANGED,
            day=day,
            event=f"{stage.value}/{day.isoformat()}",
            stage=stage,
            said=(f"{STAGES[stage].name}: {turned(then, held.state, 'a limit', 'limits')}",),
        )


@dataclass(frozen=True, slots=True)
class _Judging:
    """One expectation of a decision, judged as known on a day."""

    expected: Expectation
    wait: Wait
    file: PayerFile
    reviewed: Reviewed

    def on(self, day: date) -> tuple[Track, float | None, float | None]:
        days = days_looked_at(self.expected, self.wait.made, day)
        last = days[-1]
        kind, measure = self.file.payer.kind, self.expected.measure
        found = [(d, answered(measure, self.reviewed(d).figure(measure), kind)) for d in days]
        splits = [s for s in self.file.splits if s.effective_on <= last]
        factor = split_factor(splits, self.wait.made)
        compared = self.reviewed(last).record.compared
        raised = [p.known_on for p, outcome in compared if outcome is Outcome.RAISED]
        judged = judge(self.expected, self.wait.made, found, factor, raised)
        return judged.track, judged.value.value, judged.wanted.value


TRACKS = {Track.OFF: "is off track", Track.MISSED: "did not come true", Track.MET: "came true"}


def _expectations(ground: SignalGround) -> Iterator[Signal]:
    """Each expectation that went off track, or whose day came, since the look before."""
    file, since, until = ground.file, ground.since, ground.until
    for wait in ground.followed.waits:
        last = until if wait.until is None else min(until, wait.until - timedelta(days=1))
        for n, expected in enumerate(wait.expectations):
            judging = _Judging(expected, wait, file, ground.reviewed)
            yield from _judged(judging, n, _days(file, expected, wait, since, last))


def _days(
    file: PayerFile, expected: Expectation, wait: Wait, since: date, last: date
) -> list[date]:
    """Looks while a decision stands, and the day that an expectation is for."""
    days = looks(file, since, min(last, expected.until)) if since < last else []
    days = [d for d in days if d > wait.made]
    if wait.made < expected.until <= last and expected.until not in days:
        days = sorted({*days, expected.until})
    return days


def _judged(judging: _Judging, n: int, days: Sequence[date]) -> Iterator[Signal]:
    before: Track | None = None
    for day in days:
        track, value, wanted = judging.on(day)
        if track is not before and track in TRACKS:
            yield Signal(
                kind=EXPECTATION,
                day=day,
                event=f"{judging.wait.made.isoformat()}/{n}/{day.isoformat()}",
                stage=Stage.DECISION,
                said=_expected_said(judging.expected, track, value, wanted),
            )
        before = track


def _expected_said(
    expected: Expectation, track: Track, value: float | None, wanted: float | None
) -> tuple[Said, ...]:
    unit = Unit.FRACTION if expected.way is Way.GROWTH else expected.spec.unit
    side = "at least " if expected.side is Side.AT_LEAST else "at most "
    verb = "to grow " if expected.way is Way.GROWTH else ""
    a_year = " a year" if expected.way is Way.GROWTH else ""
    said: tuple[Said, ...] = (
        f"expected {in_a_sentence(expected.spec.name)} {verb}{side}",
        Value(expected.value, unit),
        f"{a_year} to ",
        expected.until,
        f": {TRACKS[track]}",
    )
    if value is None:
        return said
    said = (*said, ", at ", Value(value, unit), a_year)
    if wanted is not None and wanted != expected.value:
        said = (*said, " against ", Value(wanted, unit), " by now")
    return said


def _looks_due(ground: SignalGround) -> Iterator[Signal]:
    """The day of each next look, while its decision stands."""
    for wait in ground.followed.waits:
        day = wait.next_look
        if day is not None and wait.stands_on(day):
            yield Signal(
                kind=LOOK_DUE,
                day=day,
                event=wait.made.isoformat(),
                stage=Stage.DECISION,
                said=("you meant to look again; your decision is of ", wait.made),
            )


def _grown_old(ground: SignalGround) -> Iterator[Signal]:
    """Each day on which the newest close, or the newest results, became too old."""
    file, until = ground.file, ground.until
    if file.payer.delisted_on is not None:
        return
    closes: list[date] = file.prices.days.tolist()
    yield from _old("prices", "the newest close is of ", [(d, d) for d in closes], until)
    years = sorted((s.published_on, s.period_end) for s in file.versions if s.span is Span.YEAR)
    yield from _old("years", "the newest results are of the year to ", years, until)


def _old(kind: str, words: str, came: Sequence[tuple[date, date]], until: date) -> Iterator[Signal]:
    """came: the day a fact was known, and the day it is of."""
    newest: date | None = None
    limit = timedelta(days=BOUNDS[kind][1] + 1)
    for known, of in [*came, (until + timedelta(days=1), until)]:
        if newest is not None and newest + limit < known:
            yield Signal(
                kind=DATA_OLD,
                day=newest + limit,
                event=f"{kind}/{newest.isoformat()}",
                stage=Stage.PAYER,
                said=(words, newest),
            )
        newest = of if newest is None else max(newest, of)


STATES = SignalMaker(kinds=(TEST_CHANGED, FINDING_CHANGED), make=_changed)
EXPECTATIONS = SignalMaker(kinds=(EXPECTATION,), make=_expectations)
LOOKS_DUE = SignalMaker(kinds=(LOOK_DUE,), make=_looks_due)
GROWN_OLD = SignalMaker(kinds=(DATA_OLD,), make=_grown_old)
