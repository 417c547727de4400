"""The inputs of the return path, as they are declared."""

from __future__ import annotations

from collections.abc import Callable

from ...estimates.newest import (
    ESTIMATE_OF,
    IN_TOTAL,
    estimates_of,
    figure_of,
    marked,
    newest_estimate,
    year_ahead,
)
from ...estimates.outlook import ACTUALS, Outlook
from ...facts.periods import fiscal_years, years_excluded
from ...facts.robust import trend
from ...figures.figure import Figure, Unit, Unknown, derive, given, percent, unknown
from ...figures.inputs import Default, Inputs, InputSpec
from ...kinds import Kind
from ...range.multiples import PER_SHARE
from ...range.quantity import YIELD, Quantity
from ..declare import Ground
from ..opinions.common import (
    FASTEST,
    SLOWEST,
    TENTH_LESS,
    TENTH_MORE,
    basis_total_trend,
    dilution_of,
    five_years,
    growth_per_unit,
    lines_of_twelve,
    revenue_trend,
    share_change,
)
from .measures import NO_DRIVERS, path_by, path_quantity

YEARS = 5
MOST_YEARS = 30
TREND_YEARS = 5
FURTHEST = 3
"""How many years ahead an estimate is read, the furthest first."""


def _years(_: Ground, __: Inputs) -> Default:
    return Default(given("years", Unit.YEARS, float(YEARS), "house default"), "house default")


def _start(ground: Ground, _: Inputs) -> Default:
    quantity = path_quantity(ground)
    origin = "declared rate" if quantity is YIELD else "twelve months"
    return Default(quantity.base(ground.file, ground.record), origin)


def _growth(ground: Ground, chosen: Inputs) -> Default:
    """By what was chosen: analysts, the payer itself, or the trend of five years."""
    if path_quantity(ground) is YIELD:
        return Default(chosen["path_dividends"].figure, "growth of the dividend")
    if path_by(ground) == "estimates":
        growth = estimated_growth(ground, path_quantity(ground))
        return Default(_per_share(ground, chosen, growth), f"estimates, {growth.period or 'none'}")
    if path_by(ground) == "guidance":
        growth = guided_growth(ground)
        return Default(_per_share(ground, chosen, growth), f"guidance, {growth.period or 'none'}")
    return Default(_trend_growth(ground), "trend of five years")


def _per_share(ground: Ground, chosen: Inputs, growth: Figure) -> Figure:
    """What is estimated in total grows by less for each share while their count grows."""
    if ESTIMATE_OF.get(path_quantity(ground).id) not in IN_TOTAL:
        return growth
    return derive(
        f"{growth.label}, per share",
        Unit.FRACTION,
        "(1 + growth in total) ÷ (1 + change of the share count) − 1",
        [growth, chosen["path_shares"].figure],
        lambda g, b: (1 + g) / (1 + b) - 1,
    )


def _trend_growth(ground: Ground) -> Figure:
    """Of what trusts and partnerships bring in all, for each unit, as Worth grows it; else of the
    measure per share."""
    quantity = path_quantity(ground)
    basis = next((b for b in ground.cover.bases if b.basis.value == quantity.id), None)
    if basis is not None and ground.file.payer.kind in (Kind.PROPERTY_TRUST, Kind.PARTNERSHIP):
        name = f"growth of {quantity.short}"
        return growth_per_unit(name, basis_total_trend(basis), dilution_of(ground))
    years = fiscal_years(ground.file)[-TREND_YEARS:]
    measure = PER_SHARE[quantity.id]
    held = [measure.of(y) for y in years]
    found = trend(f"{quantity.base_name}, trend", [y.end for y in years], held)
    return derive(
        f"growth of {quantity.short}",
        Unit.FRACTION,
        f"its trend over five years, between {percent(SLOWEST)} and {percent(FASTEST)}",
        [found.with_exclusions(years_excluded(ground.file, years))],
        lambda g: min(max(g, SLOWEST), FASTEST),
    )


def estimated_growth(ground: Ground, quantity: Quantity) -> Figure:
    """A year, from the newest fiscal year to the furthest that is estimated; ahead by three at
    most."""
    name, label = ESTIMATE_OF.get(quantity.id), f"estimated growth of {quantity.short}"
    if name is None:
        why = f"{quantity.short} is not estimated"
        return unknown(label, Unit.FRACTION, why)
    first = year_ahead(ground.file)
    held = [
        (n, found[-1])
        for n in range(FURTHEST)
        if (found := estimates_of(ground.file, name, first + n))
    ]
    if not held:
        return newest_estimate(ground.file, name, first).but(
            label=label, unit=Unit.FRACTION, value=None, currency=None
        )
    ahead, newest = held[-1]
    expected = marked(
        ground.file,
        figure_of(ground.file, newest, newest.mean, f"estimate of fiscal {first + ahead}"),
    )
    return _from_last_year(ground, label, name, expected, ahead + 1)


def guided_growth(ground: Ground) -> Figure:
    """From the newest fiscal year to the middle of what the payer guides to."""
    quantity = path_quantity(ground)
    name, label = ESTIMATE_OF.get(quantity.id), f"guided growth of {quantity.short}"
    if name is None:
        return unknown(label, Unit.FRACTION, f"{quantity.short} is not guided to")
    year = year_ahead(ground.file)
    outlook = Outlook(
        file=ground.file, measure=name, year=year, mean=newest_estimate(ground.file, name, year)
    )
    return _from_last_year(ground, label, name, outlook.guided_middle, 1)


def _from_last_year(ground: Ground, label: str, name: str, expected: Figure, years: int) -> Figure:
    held = fiscal_years(ground.file)
    if not held:
        return marked(ground.file, unknown(label, Unit.FRACTION, "no fiscal year is held"))
    last = ACTUALS[name](held[-1])
    return derive(
        label,
        Unit.FRACTION,
        f"({expected.label} ÷ what {held[-1].label} brought) ^ (1/{years}) − 1",
        [expected, last.with_exclusions(years_excluded(ground.file, held))],
        lambda then, now: (
            (then / now) ** (1 / years) - 1
            if now > 0 and then > 0
            else Unknown("one of both is not positive")
        ),
        period=f"{held[-1].label} to {expected.period}",
    )


def _dividends(ground: Ground, chosen: Inputs) -> Default:
    return Default(chosen["growth"].figure, chosen["growth"].origin)


def _exit(ground: Ground, _: Inputs) -> Default:
    quantity = path_quantity(ground)
    usual = five_years(ground, quantity)
    return Default(usual.figure.but(label=f"exit {quantity.name}"), usual.origin)


def _revenue_growth(ground: Ground, _: Inputs) -> Default:
    growth = derive(
        "growth of revenue",
        Unit.FRACTION,
        f"its trend over five years, between {percent(SLOWEST)} and {percent(FASTEST)}",
        [revenue_trend(ground)],
        lambda g: min(max(g, SLOWEST), FASTEST),
    )
    return Default(growth, "trend of five years")


def margin_today(ground: Ground) -> Figure:
    """What of revenue the measure is."""
    quantity = path_quantity(ground)
    label = f"{quantity.short} of revenue"
    if quantity.id in NO_DRIVERS:
        why = f"{quantity.short} is not driven by a margin of revenue"
        return unknown(label, Unit.FRACTION, why)
    sold, shares = lines_of_twelve(ground, "revenue", "diluted_shares")
    return derive(
        label,
        Unit.FRACTION,
        f"{quantity.base_name} × diluted shares ÷ revenue",
        [quantity.base(ground.file, ground.record), shares, sold],
        lambda x, n, s: x * n / s if s > 0 else Unknown("there was no revenue"),
    )


def _margin(ground: Ground, _: Inputs) -> Default:
    return Default(margin_today(ground), "as it is")


def _share_change(ground: Ground, _: Inputs) -> Default:
    return Default(share_change(ground), "five years of share counts")


def _fraction(
    id: str, label: str, default: Callable[[Ground, Inputs], Default], low: float, high: float
) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label[:1].lower() + label[1:],
        unit=Unit.FRACTION,
        default=default,
        bounds=(low, high),
    )


INPUTS = (
    InputSpec(
        id="path_years",
        label="Sold after",
        name="years",
        unit=Unit.YEARS,
        default=_years,
        bounds=(1, MOST_YEARS),
        step=1,
        digits=0,
        suffix="years",
    ),
    InputSpec(
        id="path_start",
        label="Per share now",
        name="the measure per share",
        unit=Unit.PER_SHARE,
        default=_start,
        bounds=(-1e6, 1e6),
        step=0.01,
    ),
    _fraction("path_shares", "Change of the share count a year", _share_change, -0.2, 0.5),
    _fraction("path_dividends", "Growth of the dividend", _dividends, -0.5, 0.5),
    _fraction("path_growth", "Growth of the measure", _growth, -0.5, 0.5),
    _fraction("path_revenue", "Growth of revenue", _revenue_growth, -0.5, 0.5),
    _fraction("path_margin", "Margin in the last year", _margin, -1.0, 2.0),
    InputSpec(
        id="path_multiple",
        label="Exit multiple",
        name="exit multiple",
        unit=Unit.MULTIPLE,
        default=_exit,
        bounds=(0.1, 500.0),
        step=0.5,
        low=TENTH_LESS,
        high=TENTH_MORE,
        sided=True,
    ),
    InputSpec(
        id="path_yield",
        label="Exit yield",
        name="exit yield",
        unit=Unit.YIELD,
        default=_exit,
        bounds=(0.0001, 1.0),
        step=0.0005,
        low=TENTH_MORE,
        high=TENTH_LESS,
        sided=True,
    ),
)
