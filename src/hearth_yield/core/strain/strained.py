"""A strained year: every test made again, where each gives, and what falls before it does.
(docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

from ..cover.measures import PAYOUT
from ..errors import InvalidInput
from ..facts.payer_file import PayerFile
from ..facts.periods import Period
from ..figures.figure import Figure, Unit, Unknown, derive, given, unknown
from ..figures.inputs import Input, check_inputs
from ..figures.measure import Limit, Stage
from ..figures.parts import HoldsFigures
from ..footing.parts import Split
from ..judging.house_rules import HouseRules, Whom
from ..judging.judge import State, Test, judge, payer_state, run_test
from ..stages import STAGES, measures_of
from .gives import STEP, bearing, fall_for, fall_that_costs, losses_that_cost, moves
from .inputs import ALL, INPUTS, WHOLE, Strain, StrainGround, inputs_of
from .revenue import RevenuePart, part_asked, parts_of_revenue
from .season import share_of_year
from .shock import Shock

CAPITAL = "capital_ratio"
COVERED = "covered"
FALL = "fall of the year’s revenue"
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
    def gave(self) -> bool:
        """Under what is asked it is outside its limit."""
        return self.after.state is State.OUTSIDE


@dataclass(frozen=True, slots=True, kw_only=True)
class PartAtRisk(HoldsFigures):
    """All revenue, or a segment, region or tenant. gives_at: its fall at which the first required
    test gives; uncovered_at: at which the dividend is not covered any more."""

    part: RevenuePart
    share: Figure
    gives_at: Figure
    uncovered_at: Figure

    @property
    def key(self) -> str:
        return self.part.place


@dataclass(frozen=True, kw_only=True)
class Strained(HoldsFigures):
    """tests: those that the newest twelve months move, in the order of the review. first: the
    required one that gives first. covered: the leading payout against all there is. capital_at:
    the credit losses, of assets, at which a lender's capital reaches the person's minimum."""

    strain: Strain
    inputs: Mapping[str, Input]
    shock: Shock
    share: Figure
    months_share: Figure
    tests: tuple[StrainedTest, ...]
    covered: StrainedTest | None
    state_before: State | None
    state: State | None
    revenue: tuple[RevenuePart, ...]
    capital_at: Figure | None = None

    @cached_property
    def first(self) -> StrainedTest | None:
        """Of the required tests that hold today, the one that bears least."""
        held = [t for t in self.tests if t.before.required and t.bears.known]
        return min(held, key=lambda t: t.bears.value or 0.0, default=None)

    @property
    def outside_already(self) -> list[Test]:
        """Required tests that are outside before anything falls."""
        return [
            t.before for t in self.tests if t.before.required and t.before.state is State.OUTSIDE
        ]

    @property
    def chosen(self) -> PartAtRisk:
        """The part that falls."""
        return next(p for p in self.parts if p.part.id == (self.strain.part or ALL))

    @cached_property
    def parts(self) -> tuple[PartAtRisk, ...]:
        nothing = unknown("fall", Unit.FRACTION, "no required test that holds moves with revenue")
        return tuple(
            PartAtRisk(
                part=part,
                share=part.share,
                gives_at=self._fall(self.first, part.share) if self.first else nothing,
                uncovered_at=self._fall(self.covered, part.share) if self.covered else nothing,
            )
            for part in self.revenue
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
    """What a strain works on: a payer's judged stages. tests: all of the review. rate: what
    is paid a year at present. made: what other strains of the same review need again."""

    file: PayerFile
    period: Period | None
    results: Mapping[Stage, object]
    splits: tuple[Split, ...]
    tests: Sequence[Test]
    rate: Figure
    whom: Whom
    rules: HouseRules
    made: dict[Any, tuple[Mapping[str, Test], Mapping[str, Test]]] = field(default_factory=dict)


def strain_review(base: StrainBase, strain: Strain) -> Strained | None:
    """A review's tests under a strain; None without a statement. Raises InvalidInput for inputs out
    of bounds and for a part that is not on record."""
    check_strain(strain)
    if base.period is None:
        return None
    ground = StrainGround(file=base.file, period=base.period)
    inputs = inputs_of(ground, strain.inputs)
    revenue = parts_of_revenue(base.splits)
    share = part_asked(revenue, strain.part).share
    months_share = share_of_year(base.file, inputs["months"].figure, inputs["first_month"].figure)
    shock = shock_of(inputs, share, months_share)
    calm, nudged = _read_from(base, shock)
    stood = _standing(base)
    moved = {
        id
        for id, test in nudged.items()
        if moves(calm[id], test) or (id in stood and moves(stood[id], calm[id]))
    }
    after = _remade(base, shock, moved)

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

    covered = stood.get(COVERED) if COVERED in after else None
    stand = [after.get(t.id, t) for t in base.tests]
    return Strained(
        strain=strain,
        inputs=inputs,
        shock=shock,
        share=share,
        months_share=months_share,
        tests=tuple(strained(t, t.id) for t in base.tests if t.id in after),
        covered=strained(covered, COVERED) if covered else None,
        state_before=payer_state(base.tests, base.rate),
        state=payer_state(stand, base.rate),
        revenue=revenue,
        capital_at=_capital_at(base, shock),
    )


def _capital_at(base: StrainBase, shock: Shock) -> Figure | None:
    """Of a lender that stands within its minimum of capital."""
    held = next((t for t in base.tests if t.id == CAPITAL), None)
    if base.period is None or shock.credit_losses is None or held is None:
        return None
    if held.state is State.OUTSIDE:
        return None
    return losses_that_cost(held, base.period, shock.tax_rate)


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


def shock_of(inputs: Mapping[str, Input], share: Figure, months_share: Figure) -> Shock:
    """The year's fall of revenue and the operating profit it costs.

    fall of the year's revenue = share × fall × share of the year; profit lost, as a share of
    revenue = fall × flow-through + (1 − fall) × margin points. Source: docs/method.md, Strain.
    22 % × 60 % × 3 months → 3.3 % of the year's revenue.
    """
    fall = derive(
        FALL,
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
        credit_losses=inputs["credit_losses"].figure if "credit_losses" in inputs else None,
    )


def _read_from(base: StrainBase, shock: Shock) -> tuple[Mapping[str, Test], Mapping[str, Test]]:
    """The tests with nothing lost and with a little lost, by which it is read what each can bear;
    made once for each rise of interest, tax rate and credit loss, as a moved fall changes none."""
    apart = [f for f in (shock.points, shock.tax_rate, shock.credit_losses) if f is not None]
    key = tuple((f.value, f.notes) for f in apart)
    lends = shock.credit_losses is not None and shock.credit_losses.value
    if key not in base.made:
        still = shock.points.value == 0 and not lends
        calm = _standing(base) if still else _remade(base, _costing(shock, 0.0))
        base.made[key] = (calm, _remade(base, _costing(shock, STEP)))
    return base.made[key]


def _costing(shock: Shock, profit_lost: float) -> Shock:
    """The same rise of interest and credit losses, with so much operating profit lost."""
    told = given(LOST, Unit.FRACTION, profit_lost, "tried")
    none = given(FALL, Unit.FRACTION, 0.0, "not needed")
    return replace(shock, revenue_fall=none, profit_lost=told)


def _standing(base: StrainBase) -> dict[str, Test]:
    """The tests as they stand, as `_remade` gives them."""
    found = {t.id: t for t in base.tests}
    if PAYOUT.id in found:
        result = base.results[PAYOUT.stage]
        found[COVERED] = _covered(found[PAYOUT.id].measure, result, base.rules)
    return found


def _remade(base: StrainBase, shock: Shock, only: Collection[str] | None = None) -> dict[str, Test]:
    """The tests of the stages that a worse year reaches, by id; and the leading payout held against
    all there is. only: those that are needed."""
    found: dict[str, Test] = {}
    for stage, result in base.results.items():
        under = STAGES[stage].under
        if under is None:
            continue
        worse = under(result, shock.on)
        specs = [m for m in measures_of(stage) if m.test and (only is None or m.id in only)]
        figures = {m.id: f for m in specs if (f := m.read(worse)) is not None}
        found |= {t.id: t for t in judge(worse, figures, specs, base.whom, base.rules)}
        if PAYOUT.id in figures:
            found[COVERED] = _covered(figures[PAYOUT.id], worse, base.rules)
    return found


def _covered(payout: Figure, result: object, rules: HouseRules) -> Test:
    return run_test(PAYOUT, payout, Limit(value=1.0, required=True), result, rules.close_under)
