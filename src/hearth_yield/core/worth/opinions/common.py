"""What the rooms of second opinions share: how their inputs are declared, and what they read."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date

from ...cover.bases import Basis
from ...cover.cover import BasisCover
from ...facts.periods import Period, trailing_period
from ...figures.figure import Figure, Touch, Unit, Unknown, derive, percent, touch_of, unknown
from ...figures.inputs import Default, Inputs, InputSpec, Shift
from ...range.multiples import QUANTITIES, statements_left
from ...range.quantity import Quantity
from ...range.ruler import Ruler, ruler_of
from ...record.payments import manual_edits_between
from ..declare import Ground
from ..growth import FASTER, SLOWER, at_most

FASTEST, SLOWEST = 0.08, -0.05
"""Bounds of a growth that is read off a trend."""
TENTH_LESS: Shift = (lambda m: m * 0.9, "− 10 %")
TENTH_MORE: Shift = (lambda m: m * 1.1, "+ 10 %")
POINT_MORE: Shift = (lambda r: r + 0.005, "+ ½ point")
POINT_LESS: Shift = (lambda r: r - 0.005, "− ½ point")
Read = Callable[[Ground, Inputs], Default]


def growth_spec(id: str, label: str, default: Read) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.FRACTION,
        default=default,
        bounds=(-0.5, 0.5),
        low=SLOWER,
        high=FASTER,
        draws="growth",
    )


def multiple_spec(id: str, label: str, quantity: str) -> InputSpec:
    """quantity: the one whose usual value is the default."""
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.MULTIPLE,
        default=lambda ground, _: _usual(own_ruler(ground, QUANTITIES[quantity])),
        bounds=(0.1, 500.0),
        step=0.5,
        low=TENTH_LESS,
        high=TENTH_MORE,
        draws="exit_multiple",
    )


def amount_spec(id: str, label: str, default: Read) -> InputSpec:
    """Money per share."""
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.PER_SHARE,
        default=default,
        bounds=(-1e6, 1e6),
        step=0.01,
    )


def part_spec(id: str, label: str, default: Read, bounds: tuple[float, float]) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.FRACTION,
        default=default,
        bounds=bounds,
        step=0.01,
    )


def own_ruler(ground: Ground, quantity: Quantity) -> Ruler:
    """A multiple against five years of its weeks; made once for each file."""
    key = f"ruler {quantity.id}"
    if key not in ground.file.made:
        ground.file.made[key] = ruler_of(ground.file, ground.record, "5", quantity)
    found: Ruler = ground.file.made[key]
    return found


def _usual(ruler: Ruler) -> Default:
    return Default(ruler.typical, f"5-year {ruler.usual}")


def basis_of(ground: Ground, wanted: Basis) -> BasisCover | None:
    return next((b for b in ground.cover.bases if b.basis is wanted), None)


def trend(wanted: Basis, name: str) -> Read:
    """The trend of a basis per share over five years, within bounds."""

    def read(ground: Ground, _: Inputs) -> Default:
        basis, origin = basis_of(ground, wanted), "trend of five years"
        if basis is None:
            why = f"{name} is not read of this kind of payer"
            return Default(unknown(name, Unit.FRACTION, why), origin)
        figure = derive(
            name,
            Unit.FRACTION,
            f"its trend over five years, between {percent(SLOWEST)} and {percent(FASTEST)}",
            [basis.per_share_trend],
            lambda g: min(max(g, SLOWEST), FASTEST),
        )
        return Default(figure, origin)

    return read


def payout_of(wanted: Basis, name: str) -> Read:
    """The payout of a basis at the declared rate."""

    def read(ground: Ground, _: Inputs) -> Default:
        basis = basis_of(ground, wanted)
        if basis is None:
            why = f"{name} is not read of this kind of payer"
            return Default(unknown(name, Unit.FRACTION, why), "declared rate")
        return Default(basis.declared, "at the declared rate")

    return read


def lasting(of: str) -> Read:
    """As far as a growth is taken to go on for ever."""

    def read(ground: Ground, chosen: Inputs) -> Default:
        most = ground.rules.highest_growth
        figure = at_most("growth for ever", chosen[of].figure, most)
        return Default(figure, f"growth, at most {percent(most)}")

    return read


def of_twelve(
    ground: Ground,
    label: str,
    unit: Unit,
    formula: str,
    inputs: Callable[[Period], Sequence[Figure]],
    compute: Callable[..., float | Unknown],
) -> Figure:
    """What follows from the newest twelve months; unknown where there are none."""
    period = trailing_period(ground.file)
    left = statements_left(ground.file, period)
    if period is None:
        return unknown(label, unit, "no statement is held").with_exclusions(left)
    currency = period.statements[-1].currency if unit is Unit.PER_SHARE else None
    found = derive(label, unit, formula, inputs(period), compute, currency=currency)
    return found.with_exclusions(left)


def lines_of_twelve(ground: Ground, *names: str) -> list[Figure]:
    """Lines of the newest twelve months; unknown where there are none."""
    period = trailing_period(ground.file)
    left = statements_left(ground.file, period)
    if period is None:
        none = [unknown(n.replace("_", " "), Unit.MONEY, "no statement is held") for n in names]
        return [x.with_exclusions(left) for x in none]
    return [period.line(n).with_exclusions(left) for n in names]


def touched(ground: Ground) -> Touch | None:
    """Whether a person had a hand in what decides whether a model suits."""
    statements = [
        Touch.EDITED if s.edited else Touch.ENTERED for s in ground.file.versions if s.by_hand
    ]
    left = Touch.EDITED if ground.file.exclusions else None
    return touch_of([*statements, left, manual_edits_between(ground.file, date.min)])
