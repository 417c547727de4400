"""What the rooms of second opinions share: how their inputs are declared, and what they read."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import date

from ...cover.bases import Basis
from ...cover.cover import BasisCover
from ...facts.periods import Period, fiscal_years, trailing_age, trailing_period, years_excluded
from ...facts.robust import TREND_YEARS, trend
from ...figures.figure import Figure, Touch, Unit, Unknown, derive, percent, touch_of, unknown
from ...figures.inputs import NO_DEFAULT, Default, Inputs, InputSpec, Shift
from ...range.multiples import QUANTITIES, statements_left
from ...range.quantity import Quantity
from ...record.payments import manual_edits_between
from ..declare import Ground
from ..growth import FASTER, SLOWER, for_ever
from ..own_past import past_over
from ..trace import Value, lower_of, not_under_nil

FASTEST, SLOWEST = 0.08, -0.05
"""Bounds of a growth that is read off a trend."""
TENTH_LESS: Shift = (lambda m: m * 0.9, "− 10 %")
TENTH_MORE: Shift = (lambda m: m * 1.1, "+ 10 %")
POINT_MORE: Shift = (lambda r: r + 0.005, "+ ½ point")
POINT_LESS: Shift = (lambda r: r - 0.005, "− ½ point")
Read = Callable[[Ground, Inputs], Default]


def growth_spec(
    id: str, label: str, default: Read, worked: Callable[..., Value] | None = None
) -> InputSpec:
    """worked: as InputSpec has it."""
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
        worked=worked,
    )


def total_growth_spec(id: str, label: str, default: Read) -> InputSpec:
    """Of a total, as a model grows it: its trend, held by what that is for each share."""
    return growth_spec(id, label, default, _in_total)


def lasting_spec(id: str, label: str, of: str, most: float | None = None) -> InputSpec:
    """A growth that goes on for ever after another."""
    spec = growth_spec(id, label, lambda *_: NO_DEFAULT)
    return replace(spec, along=for_ever(of, most))


def multiple_spec(id: str, label: str, quantity: str) -> InputSpec:
    """quantity: the one whose usual value is the default."""
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.MULTIPLE,
        default=lambda ground, _: five_years(ground, QUANTITIES[quantity]),
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


def five_years(ground: Ground, quantity: Quantity) -> Default:
    """The usual value over five years."""
    return Default(past_over(ground, quantity).usual, f"5-year {quantity.typical}")


def basis_of(ground: Ground, wanted: Basis) -> BasisCover | None:
    return next((b for b in ground.cover.bases if b.basis is wanted), None)


def newest_shares(ground: Ground) -> Figure:
    """Diluted shares of the newest statement; unknown where it is old."""
    period = trailing_period(ground.file)
    if period is None:
        return unknown("diluted shares", Unit.SHARES, "no statement is held")
    shares = period.at_end("diluted_shares").with_exclusions(statements_left(ground.file, period))
    return trailing_age(ground.file, period).of(shares)


def share_change(ground: Ground) -> Figure:
    """By how much the share count changed a year over five fiscal years."""
    years = fiscal_years(ground.file)
    held = [y.line("diluted_shares") for y in years][-6:]
    left, label = years_excluded(ground.file, years), "change of the share count"
    if len(held) < 2:
        none = unknown(label, Unit.FRACTION, "fewer than two share counts")
        return none.with_exclusions(left)
    n = len(held) - 1
    figure = derive(
        label,
        Unit.FRACTION,
        f"(last ÷ first) ^ (1/{n}) − 1",
        [held[-1], held[0]],
        lambda last, first: (last / first) ** (1 / n) - 1 if first > 0 else Unknown("no shares"),
    )
    return figure.with_exclusions(left)


def dilution_of(ground: Ground) -> Figure:
    """The same as dilution: buying shares back is none."""
    change = share_change(ground)
    formula = "change of the share count, not under 0"
    return derive("dilution a year", Unit.FRACTION, formula, [change], not_under_nil)


def growth_in_total(name: str, trend: Figure, dilution: Figure) -> Figure:
    """The trend of a total, held so that its growth per share lies within bounds.

    Source: docs/method.md, Worth: what is not per share does not grow by what buybacks made.
    """

    return derive(
        name,
        Unit.FRACTION,
        f"its trend over five years; a share, (1 + it) ÷ (1 + dilution) − 1, between "
        f"{percent(SLOWEST)} and {percent(FASTEST)}",
        [trend, dilution],
        lambda total, b: float(_in_total(total, b)),
    )


def _in_total(total: Value, dilution: Value) -> Value:
    b = not_under_nil(dilution)
    return (1 + _apiece(total, b)) * (1 + b) - 1


def _apiece(total: Value, b: Value) -> Value:
    not_slower = -lower_of(-((1 + total) / (1 + b) - 1), -SLOWEST)
    return lower_of(not_slower, FASTEST)


def growth_per_unit(name: str, trend: Figure, dilution: Figure) -> Figure:
    """The same for each unit."""
    return derive(
        name,
        Unit.FRACTION,
        f"(1 + trend of the total) ÷ (1 + dilution) − 1, between {percent(SLOWEST)} and "
        f"{percent(FASTEST)}",
        [trend, dilution],
        lambda total, b: float(_apiece(total, b)),
    )


def one_currency(totals: Sequence[Figure]) -> str | None:
    """Why amounts cannot be added up or held against each other; None where they can."""
    others = {t.currency for t in totals if t.known}
    return "the years are in different currencies" if len(others) > 1 else None


def _trend_in_all(label: str, ends: Sequence[date], totals: Sequence[Figure]) -> Figure:
    """The five-year trend of a total."""
    why = one_currency(totals)
    return unknown(label, Unit.FRACTION, why) if why else trend(label, ends, totals)


def basis_total_trend(basis: BasisCover) -> Figure:
    """The five-year trend of what a basis brings in all."""
    row = basis.row[-TREND_YEARS:]
    label = f"{basis.years[-1].driver.label if basis.years else 'it'} in all, trend"
    found = _trend_in_all(label, [y.end for y in row], [y.driver for y in row])
    return found.with_exclusions(basis.gone)


def revenue_trend(ground: Ground) -> Figure:
    """The five-year trend of revenue."""
    years = fiscal_years(ground.file)[-TREND_YEARS:]
    sold = [y.line("revenue") for y in years]
    found = _trend_in_all("revenue, trend", [y.end for y in years], sold)
    return found.with_exclusions(years_excluded(ground.file, years))


def total_growth(wanted: Basis, name: str) -> Read:
    """Of a basis in all, as a model grows it."""

    def read(ground: Ground, chosen: Inputs) -> Default:
        basis, origin = basis_of(ground, wanted), "trend of five years, in all"
        if basis is None:
            why = f"{name} is not read of this kind of payer"
            return Default(unknown(name, Unit.FRACTION, why), origin)
        counted = _counted(chosen["dilution"].figure)
        return Default(growth_in_total(name, basis_total_trend(basis), counted), origin)

    return read


def _counted(dilution: Figure) -> Figure:
    """Dilution as models count it."""
    if dilution.value is None or dilution.value >= 0:
        return dilution
    return derive(
        "dilution that counts", Unit.FRACTION, "dilution, not under 0", [dilution], not_under_nil
    )


def revenue_growth(ground: Ground, chosen: Inputs) -> Default:
    """The trend of revenue, as a model grows it."""
    counted = _counted(chosen["dilution"].figure)
    figure = growth_in_total("growth of revenue", revenue_trend(ground), counted)
    return Default(figure, "trend of five years")


def payout_of(wanted: Basis, name: str) -> Read:
    """The payout of a basis at the declared rate."""

    def read(ground: Ground, _: Inputs) -> Default:
        basis = basis_of(ground, wanted)
        if basis is None:
            why = f"{name} is not read of this kind of payer"
            return Default(unknown(name, Unit.FRACTION, why), "declared rate")
        return Default(basis.declared, "at the declared rate")

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
