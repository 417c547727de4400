"""A strained year: every test made again, where each gives, and what falls before it does.
(docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from ..cover.measures import PAYOUT
from ..errors import InvalidInput
from ..facts.periods import Period
from ..facts.records import PayerFile
from ..figures.figure import Figure, Unit, Unknown, derive, given, unknown
from ..figures.inputs import Input, check_inputs, choose
from ..figures.measure import Limit, Measure, Stage
from ..figures.parts import HoldsFigures
from ..footing.parts import Split
from ..judging.house_rules import HouseRules, Whom
from ..judging.judge import State, Test, judge, run_test, worst_state
from ..stages import STAGES, measures_of
from .gives import STEP, bearing, fall_for, fall_that_costs, moves
from .inputs import ALL, INPUTS, WHOLE, Strain, StrainGround
from .season import share_of_year
from .shock import Shock

COVERED = "covered"
LOST = "operating profit lost, as a share of revenue"


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainedTest(HoldsFigures):
    """A test before and after. measure, cushion: after. bears: the operating profit, as a share of
    revenue, that can be lost before it gives; gives_at: the fall of the chosen part that costs so
    much."""

    before: Test
    after: Test
    measure: Figure
    cushion: Figure
    bears: Figure
    gives_at: Figure

    @property
    def key(self) -> str:
        return self.before.id

    @property
    def moved(self) -> bool:
        return self.measure.value != self.before.measure.value or (
            self.measure.breach != self.before.measure.breach
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class PartAtRisk(HoldsFigures):
    """All revenue, or a segment, region or tenant. gives_at: its fall at which the first required
    test gives; uncovered_at: at which the dividend is not covered any more."""

    id: str
    name: str
    basis: str | None
    place: str
    share: Figure
    gives_at: Figure
    uncovered_at: Figure

    @property
    def key(self) -> str:
        return self.place


@dataclass(frozen=True, kw_only=True)
class Strained(HoldsFigures):
    """tests: those that the newest twelve months move, in the order of the review. first: the
    required one that gives first. covered: the leading payout against all there is."""

    strain: Strain
    inputs: Mapping[str, Input]
    shock: Shock
    share: Figure
    months_share: Figure
    tests: tuple[StrainedTest, ...]
    covered: StrainedTest | None
    state_before: State | None
    state: State | None
    splits: tuple[Split, ...]

    @cached_property
    def first(self) -> StrainedTest | None:
        """Of the required tests that hold today, the one that bears least."""
        held = [t for t in self.tests if t.before.required and t.bears.known]
        return min(held, key=lambda t: t.bears.value or 0.0, default=None)

    @property
    def over_already(self) -> list[Test]:
        """Required tests that are over before anything falls."""
        return [t.before for t in self.tests if t.before.required and t.before.state is State.OVER]

    @property
    def chosen(self) -> PartAtRisk:
        """The part that falls."""
        return next(p for p in self.parts if p.id == (self.strain.part or ALL))

    @cached_property
    def parts(self) -> tuple[PartAtRisk, ...]:
        whole = given("share of revenue", Unit.FRACTION, 1.0, "all of it")
        found = [self._part(ALL, "All revenue", None, ALL, whole)]
        for split in self.splits:
            found += [
                self._part(
                    f"{split.basis}/{p.name}",
                    p.name,
                    split.basis,
                    f"{split.basis}-{p.key}",
                    p.newest,
                )
                for p in split.parts
                if p.newest.known
            ]
        return tuple(found)

    def _part(self, id: str, name: str, basis: str | None, place: str, share: Figure) -> PartAtRisk:
        nothing = unknown("fall", Unit.FRACTION, "no required test that holds moves with revenue")
        return PartAtRisk(
            id=id,
            name=name,
            basis=basis,
            place=place,
            share=share,
            gives_at=self._fall(self.first, share) if self.first else nothing,
            uncovered_at=self._fall(self.covered, share) if self.covered else nothing,
        )

    def _fall(self, test: StrainedTest, share: Figure) -> Figure:
        return fall_that_costs(test.bears, self.inputs, share, self.months_share)

    def line(self, test: StrainedTest | None, margins: Sequence[float]) -> list[float | None]:
        """The fall of the chosen part at which a test gives, for each fall of the margin; None
        where it holds whatever falls."""
        if test is None or test.bears.value is None:
            return [None] * len(margins)
        bears, flow = test.bears.value, self.inputs["flow_through"].figure.value or 0.0
        weight = (self.share.value or 0.0) * (self.months_share.value or 0.0)
        found = [fall_for(bears, m, flow, weight) for m in margins]
        return [None if isinstance(f, Unknown) else f for f in found]


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainBase:
    """What a strain works on: a payer's judged stages. tests: all of the review."""

    file: PayerFile
    period: Period | None
    results: Mapping[Stage, object]
    splits: tuple[Split, ...]
    tests: Sequence[Test]
    whom: Whom
    rules: HouseRules


def strain_review(base: StrainBase, strain: Strain) -> Strained | None:
    """A review's tests under a strain; None without a statement. Raises InvalidInput for inputs out
    of bounds and for a part that is not on record."""
    check_strain(strain)
    if base.period is None:
        return None
    ground = StrainGround(file=base.file, period=base.period)
    inputs = choose(INPUTS, ground, strain.inputs)
    share = share_of(base.splits, strain.part)
    months_share = share_of_year(base.file, inputs["months"].figure, inputs["first_month"].figure)
    shock = shock_of(inputs, share, months_share)
    after, nudged = _remade(base, shock), _remade(base, _costing(shock, STEP))
    calm = _remade(base, _costing(shock, 0.0))

    def strained(before: Test, id: str) -> StrainedTest:
        bears = bearing(before, calm[id], nudged[id])
        return StrainedTest(
            before=before,
            after=after[id],
            measure=after[id].measure,
            cushion=after[id].cushion,
            bears=bears,
            gives_at=fall_that_costs(bears, inputs, share, months_share),
        )

    before = {t.id: t for t in base.tests}
    tests = tuple(
        strained(t, t.id) for t in base.tests if t.id in after and moves(calm[t.id], nudged[t.id])
    )
    covered = before.get(PAYOUT.id)
    stand = [after.get(t.id, t) for t in base.tests]
    return Strained(
        strain=strain,
        inputs=inputs,
        shock=shock,
        share=share,
        months_share=months_share,
        tests=tests,
        covered=strained(_all_of_it(covered, base), COVERED) if covered else None,
        state_before=worst_state(base.tests),
        state=worst_state(stand),
        splits=base.splits,
    )


def check_strain(strain: Strain) -> None:
    """Raises InvalidInput for inputs out of bounds, naming field, value and rule."""
    check_inputs(INPUTS, strain.inputs)
    for id in WHOLE & strain.inputs.keys():
        value = strain.inputs[id]
        if value != int(value):
            raise InvalidInput(
                f"{INPUTS[id].name} must be a whole number",
                field=id,
                value=value,
                rule="a whole number",
            )


def share_of(splits: Sequence[Split], part: str | None) -> Figure:
    """The part's share of revenue in the newest year told. Raises InvalidInput for a part that is
    not on record."""
    if part is None or part == ALL:
        return given("share of revenue", Unit.FRACTION, 1.0, "all of it")
    for split in splits:
        for held in split.parts:
            if f"{split.basis}/{held.name}" == part and held.newest.known:
                return held.newest
    raise InvalidInput(
        "no such part of revenue is on record by this day",
        field="strain_part",
        value=part,
        rule="all, or a segment, region or tenant of the payer, such as tenant/Name",
    )


def shock_of(inputs: Mapping[str, Input], share: Figure, months_share: Figure) -> Shock:
    """The year's fall of revenue and the operating profit it costs.

    fall of the year's revenue = share × fall × share of the year; profit lost, as a share of
    revenue = fall × flow-through + (1 − fall) × margin points. Source: docs/method.md, Strain.
    22 % × 60 % × 3 months → 3.3 % of the year's revenue.
    """
    fall = derive(
        "fall of the year’s revenue",
        Unit.FRACTION,
        "share of revenue × fall × share of the year",
        [share, inputs["fall"].figure, months_share],
        lambda part, by, span: part * by * span,
    )
    lost = derive(
        LOST,
        Unit.FRACTION,
        "fall of revenue × flow-through + what is left of revenue × margin points",
        [fall, inputs["flow_through"].figure, inputs["margin"].figure],
        lambda by, flow, margin: by * flow + (1 - by) * margin,
    )
    return Shock(
        revenue_fall=fall,
        profit_lost=lost,
        points=inputs["interest"].figure,
        tax_rate=inputs["tax_rate"].figure,
    )


def _costing(shock: Shock, profit_lost: float) -> Shock:
    """The same rise of interest, with so much operating profit lost."""
    told = given(
        "operating profit lost, as a share of revenue", Unit.FRACTION, profit_lost, "tried"
    )
    none = given("fall of the year’s revenue", Unit.FRACTION, 0.0, "not needed")
    return Shock(revenue_fall=none, profit_lost=told, points=shock.points, tax_rate=shock.tax_rate)


def _remade(base: StrainBase, shock: Shock) -> dict[str, Test]:
    """The tests of the stages that a worse year reaches, by id; and the leading payout held against
    all there is."""
    found: dict[str, Test] = {}
    for stage, result in base.results.items():
        under = STAGES[stage].under
        if under is None:
            continue
        worse = under(result, shock.on)
        specs = [m for m in measures_of(stage) if m.test is not None]
        figures = {m.id: f for m in specs if (f := m.read(worse)) is not None}
        found |= {t.id: t for t in judge(worse, figures, specs, base.whom, base.rules)}
        if PAYOUT.id in figures:
            found[COVERED] = _covered(PAYOUT, figures[PAYOUT.id], worse, base.rules)
    return found


def _covered(spec: Measure, figure: Figure, result: object, rules: HouseRules) -> Test:
    return run_test(spec, figure, Limit(value=1.0, required=True), result, rules.close_under)


def _all_of_it(test: Test, base: StrainBase) -> Test:
    return _covered(PAYOUT, test.measure, base.results[PAYOUT.stage], base.rules)
