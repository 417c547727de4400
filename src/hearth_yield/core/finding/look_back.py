"""Looking back: what the limits would have said at every past year end, and what followed.

Only what was known then judges; what followed is read from today. (docs/method.md, Looking back)
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np

from ..facts.payer_file import PayerFile
from ..figures.arrays import Floats
from ..figures.measure import Limit, Measure, Stage
from ..judging.house_rules import HouseRules
from ..judging.judge import State
from ..kinds import Kind
from ..question import Question
from ..record.stage import build_record_stage
from ..review import BUILDERS
from .catalogue import CHOICES
from .effects import NONE, RANK, STATE_RESTS_ON, States, states_under
from .measured import Measured, cell_of
from .search import Candidate, Universe

YEAR = timedelta(days=366)
SAME_SLIDE = timedelta(days=366)
"""A cut within a year of another belongs to the same slide; the first counts."""
ALARMS = (RANK[State.OUTSIDE], RANK[State.CLOSE])
UNTOLD = (None, State.UNKNOWN.value, State.PAYING_NOTHING.value)
UNJUDGED = (NONE, RANK[State.UNKNOWN], RANK[State.PAYING_NOTHING])
CURVE_STEPS = 25


@dataclass(frozen=True, slots=True, kw_only=True)
class PastPayer:
    """One payer at every past year end. cuts: the first day of each slide, as known today. entries:
    its measures as known then; days: the year ends. reason: why it has none, where its facts cannot
    be computed from."""

    exchange: str
    symbol: str
    name: str
    cuts: tuple[date, ...]
    days: tuple[date, ...]
    candidates: tuple[Candidate, ...]
    reason: str | None = None


def past_of(whole: PayerFile, as_of: date) -> PastPayer:
    """Reads the tested measures of one payer at every year end from its first dividend on."""
    payer = whole.payer
    record = build_record_stage(whole.cut(as_of)).record
    first = record.years[0].year if record.years else as_of.year
    days, candidates = [], []
    for year in range(first, as_of.year):
        day = date(year, 12, 31)
        file = whole.cut(day)
        if file.payer.delisted_on is not None:
            break
        days.append(day)
        candidates.append(
            Candidate(
                exchange=payer.exchange,
                symbol=payer.symbol,
                name=payer.name,
                measured=_tested(file),
            )
        )
    return PastPayer(
        exchange=payer.exchange,
        symbol=payer.symbol,
        name=payer.name,
        cuts=_slides(record.cuts),
        days=tuple(days),
        candidates=tuple(candidates),
    )


def _slides(cuts: Sequence[date]) -> tuple[date, ...]:
    found: list[date] = []
    last: date | None = None
    for day in cuts:
        if last is None or day - last > SAME_SLIDE:
            found.append(day)
        last = day
    return tuple(found)


def _tested(file: PayerFile) -> Measured:
    """The measures a state is told by, and no more: a review of each year would take far longer."""
    record = build_record_stage(file)
    results: dict[Stage, object] = {Stage.RECORD: record} | {
        stage: BUILDERS[stage](file, record, Question())
        for stage in {m.stage for m in STATE_RESTS_ON} - {Stage.RECORD}
    }
    cells = {m.id: cell_of(m.read(results[m.stage]), file.payer.kind) for m in STATE_RESTS_ON}
    sector = file.note("sector")
    words = dict.fromkeys(CHOICES) | {
        "kind": file.payer.kind.value,
        "sector": sector.value if sector else None,
    }
    return Measured(
        cells=cells, words=words, word_touches={}, first=None, dividends=(), last_year=None
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class CutRow:
    """One cut: the states at the year end before it and at the one before that; None: none was."""

    exchange: str
    symbol: str
    name: str
    cut_on: date
    before: date | None
    state: str | None
    earlier: date | None
    earlier_state: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AlarmRow:
    """A year end that was close or outside and that no cut followed within two years."""

    exchange: str
    symbol: str
    name: str
    day: date
    state: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Verdict:
    """What limits would have said. cuts: those with a year end before them. flagged, flagged_early:
    close or outside at the year end before the cut, and at the one 12 months earlier. missed:
    within limits at the year end before; unknown: not judged. year_ends: judged, with two years
    since; alarms: of these close or outside; false_alarms: no cut within two years; calm: within
    limits; calm_cut: a cut followed all the same."""

    cuts: int
    flagged: int
    flagged_early: int
    missed: int
    unknown: int
    year_ends: int
    alarms: int
    false_alarms: int
    calm: int
    calm_cut: int
    rows: Sequence[CutRow]
    alarm_rows: Sequence[AlarmRow]

    @property
    def counts(self) -> list[Count]:
        """What followed, line by line."""
        told = (
            ("Cuts flagged at the year end before", self.flagged, self.cuts),
            ("Cuts flagged a year earlier already", self.flagged_early, self.cuts),
            ("Cuts missed: within limits", self.missed, self.cuts),
            ("Cuts not judged: unknown", self.unknown, self.cuts),
            (
                "Year ends close to a limit or outside one, no cut within two years",
                self.false_alarms,
                self.year_ends,
            ),
            ("Year ends within limits, a cut within two years", self.calm_cut, self.calm),
        )
        return [Count(name=name, part=part, whole=whole) for name, part, whole in told]


@dataclass(frozen=True, slots=True, kw_only=True)
class Count:
    """So many of so many, in words; share is None of nothing."""

    name: str
    part: int
    whole: int

    @property
    def share(self) -> float | None:
        return self.part / self.whole if self.whole else None


@dataclass(frozen=True, slots=True, kw_only=True)
class CurvePoint:
    """A limit: the share of cuts it would have missed, and of year ends it would have called close
    or over for nothing."""

    limit: float
    missed: float
    false_alarms: float


@dataclass(frozen=True, kw_only=True)
class LookedBack:
    """Every payer held, measured at every past year end: judged by any rules in an instant."""

    as_of: date
    payers: tuple[PastPayer, ...]
    universe: Universe

    @staticmethod
    def of(payers: Sequence[PastPayer], as_of: date) -> LookedBack:
        candidates = [e for p in payers for e in p.candidates]
        return LookedBack(
            as_of=as_of, payers=tuple(payers), universe=Universe(candidates=candidates)
        )

    @property
    def left_out(self) -> Sequence[PastPayer]:
        """Payers nothing can be said of, each with its reason."""
        return [p for p in self.payers if p.reason is not None]

    def states(self, rules: HouseRules) -> States:
        return states_under(self.universe, rules)

    def judged(self, rules: HouseRules) -> Verdict:
        """What followed each state under the rules."""
        states = self.states(rules)
        rows, alarms = [], []
        counts = {"year_ends": 0, "alarms": 0, "false_alarms": 0, "calm": 0, "calm_cut": 0}
        for payer, first in self._places():
            mine = states[first : first + len(payer.days)]
            rows += [_cut_row(payer, cut, mine) for cut in payer.cuts if payer.days]
            for day, code in zip(payer.days, mine, strict=True):
                if day + 2 * YEAR > self.as_of or code in UNJUDGED:
                    continue
                followed = any(day < cut <= day + 2 * YEAR for cut in payer.cuts)
                counts["year_ends"] += 1
                if code in ALARMS:
                    counts["alarms"] += 1
                    counts["false_alarms"] += not followed
                    if not followed:
                        alarms.append(_alarm_row(payer, day, int(code)))
                else:
                    counts["calm"] += 1
                    counts["calm_cut"] += followed
        rows = [r for r in rows if r.before is not None]
        alarmed = (State.OUTSIDE.value, State.CLOSE.value)
        return Verdict(
            cuts=len(rows),
            flagged=sum(r.state in alarmed for r in rows),
            flagged_early=sum(r.earlier_state in alarmed for r in rows),
            missed=sum(r.state == State.WITHIN.value for r in rows),
            unknown=sum(r.state in UNTOLD for r in rows),
            rows=sorted(rows, key=lambda r: r.cut_on, reverse=True),
            alarm_rows=sorted(alarms, key=lambda r: r.day, reverse=True),
            **counts,
        )

    def curve(self, rules: HouseRules, measure: Measure, kind: Kind) -> list[CurvePoint]:
        """How cuts missed and false alarms trade against each other as one limit moves."""
        plain = rules.of_kind(measure, kind)
        if plain is None:
            return []
        found = []
        for value in _steps(self.universe.values(measure.id), plain.value):
            limit = Limit(value=value, required=True)
            mine = {**rules.limits.get(kind, {}), measure.id: limit}
            verdict = self.judged(replace(rules, limits={**rules.limits, kind: mine}))
            found.append(
                CurvePoint(
                    limit=value,
                    missed=_share(verdict.missed, verdict.cuts - verdict.unknown),
                    false_alarms=_share(verdict.false_alarms, verdict.year_ends),
                )
            )
        return found

    def _places(self) -> Iterator[tuple[PastPayer, int]]:
        at = 0
        for payer in self.payers:
            yield payer, at
            at += len(payer.days)


def _share(part: int, whole: int) -> float:
    return part / whole if whole else 0.0


def _steps(values: Floats, now: float) -> list[float]:
    """Limits from the mildest that matter to the strictest, today's among them."""
    known = values[np.isfinite(values)]
    if not len(known):
        return [now]
    low, high = (float(np.quantile(known, q)) for q in (0.05, 0.95))
    step = (high - low) / (CURVE_STEPS - 1) or 1.0
    found = {round(low + n * step, 4) for n in range(CURVE_STEPS)} | {now}
    return sorted(v for v in found if v > 0 or now <= 0)


def _name(code: int) -> str | None:
    return next((s.value for s, rank in RANK.items() if rank == code), None)


def _alarm_row(payer: PastPayer, day: date, code: int) -> AlarmRow:
    return AlarmRow(
        exchange=payer.exchange,
        symbol=payer.symbol,
        name=payer.name,
        day=day,
        state=_name(code) or "",
    )


def _cut_row(payer: PastPayer, cut: date, states: States) -> CutRow:
    before = [(d, int(s)) for d, s in zip(payer.days, states, strict=True) if d < cut]
    last = before[-1] if before and cut - before[-1][0] <= YEAR else None
    earlier = before[-2] if last is not None and len(before) > 1 else None
    return CutRow(
        exchange=payer.exchange,
        symbol=payer.symbol,
        name=payer.name,
        cut_on=cut,
        before=last[0] if last else None,
        state=_name(last[1]) if last else None,
        earlier=earlier[0] if earlier else None,
        earlier_state=_name(earlier[1]) if earlier else None,
    )
