"""Where a test gives: what it can bear to lose, and the fall that costs so much.
(docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Mapping

from ..facts.periods import Period
from ..figures.figure import Figure, Unit, Unknown, derive, given, unknown
from ..figures.inputs import Input
from ..judging.judge import State, Test
from .shock import risk_weighted_assets

STEP = 1e-5
"""Of revenue: the loss by which it is read how fast a test's room goes. Room falls in a straight
line, so that any step gives the same answer; a small one stays on the near side of a breach."""
HOLDS = "it holds even if all of it falls away"
NOT_MOVED = "it does not move with the year’s revenue"


def fall_for(bears: float, margin: float, flow: float, weight: float) -> float | Unknown:
    """The fall of a part that weighs so much of the year's revenue; Unknown where all of it may
    fall away."""
    if bears <= margin:
        return 0.0
    if flow <= margin or weight <= 0:
        return Unknown(HOLDS, spared=HOLDS)
    needed = (bears - margin) / ((flow - margin) * weight)
    return needed if needed <= 1 else Unknown(HOLDS, spared=HOLDS)


def fall_that_costs(
    bears: Figure, inputs: Mapping[str, Input], share: Figure, months_share: Figure
) -> Figure:
    """The fall of a part of revenue that costs as much operating profit as a test can bear.

    (bears − margin points) ÷ ((flow-through − margin points) × share × share of the year)

    bears, as a share of the year's revenue. Source: docs/method.md, Strain. Bears 4 % of revenue at
    a flow-through of 60 %, all revenue, a whole year → 6.6667 %.
    """
    return derive(
        "fall at which it gives",
        Unit.FRACTION,
        "(profit it can bear to lose − margin points) ÷ ((flow-through − margin points) × share of "
        "revenue × share of the year)",
        [bears, inputs["margin"].figure, inputs["flow_through"].figure, share, months_share],
        lambda most, margin, flow, part, span: fall_for(most, margin, flow, part * span),
    )


def losses_that_cost(capital: Test, period: Period, tax_rate: Figure) -> Figure:
    """The credit losses, of a lender's assets, after which its capital stands at the minimum.

    (capital ratio − minimum) × risk-weighted assets ÷ ((1 − tax rate) × total assets)

    Source: docs/method.md, Strain. 12.5 % against 12 %, 6,400 weighted of 10,000, tax 25 % →
    0.4267 %.
    """

    def compute(
        ratio: float, least: float, weighted: float, rate: float, assets: float
    ) -> float | Unknown:
        if assets <= 0:
            return Unknown("total assets were not positive")
        return (ratio - least) * weighted / ((1 - rate) * assets)

    return derive(
        "credit losses at which capital reaches your minimum",
        Unit.FRACTION,
        "(capital ratio − minimum) × risk-weighted assets ÷ ((1 − tax rate) × total assets)",
        [
            capital.measure,
            given("minimum", Unit.FRACTION, capital.limit, "house rule"),
            risk_weighted_assets(period),
            tax_rate,
            period.at_end("total_assets"),
        ],
        compute,
    )


def moves(calm: Test, nudged: Test) -> bool:
    a, b = calm.measure, nudged.measure
    return (a.value, a.breach) != (b.value, b.breach)


def bearing(before: Test, calm: Test, nudged: Test) -> Figure:
    """The operating profit, as a share of revenue, at whose loss a test stands at its limit."""
    label = f"operating profit it can bear to lose: {before.measure.label}"
    if before.state is State.OUTSIDE:
        return unknown(label, Unit.FRACTION, "it is outside its limit already")
    if not moves(calm, nudged):
        return unknown(label, Unit.FRACTION, NOT_MOVED)
    sized = calm.cushion.value is not None
    ends = [calm.cushion, nudged.cushion] if sized else [calm.measure, nudged.measure]
    if calm.state is State.OUTSIDE:
        return derive(
            label,
            Unit.FRACTION,
            "interest or credit losses alone bring it outside",
            ends[:1],
            lambda _: 0.0,
        )
    if nudged.cushion.breach and sized:
        ends = ends[:1]

    def compute(first: float, second: float | None = None) -> float | Unknown:
        if second is None:
            return 0.0
        room, less = (
            (_room(first), _room(second))
            if sized
            else (first - before.limit, second - before.limit)
        )
        return STEP * room / (room - less) if room > less else Unknown(NOT_MOVED)

    room = "cushion ÷ (1 − cushion)" if sized else "measure − limit"
    return derive(
        label,
        Unit.FRACTION,
        f"room ÷ how much of it a lost share of revenue takes, room being {room}, which falls in a "
        "straight line",
        ends,
        compute,
    )


def _room(cushion: float) -> float:
    """How far the measure's base lies above what the limit asks, as a share of that: linear in what
    is lost, where the cushion is not."""
    return cushion / (1 - cushion) if cushion < 1 else float("inf")
