"""The inputs of the return path, as they are declared."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ...estimates.newest import (
    ESTIMATE_OF,
    IN_TOTAL,
    estimates_of,
    figure_of,
    marked,
    newest_estimate,
    year_ahead,
)
from ...estimates.outlook import Outlook
from ...facts.periods import fiscal_years, years_excluded
from ...facts.robust import trend
from ...figures.figure import Figure, Unit, Unknown, derive, given, percent, unknown
from ...figures.inputs import Default, Inputs, InputSpec
from ...kinds import Kind
from ...range.multiples import PER_SHARE
from ...range.quantity import YIELD
from ..declare import Ground
from ..expected import FURTHEST
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
    newest_shares,
    revenue_trend,
    share_change,
)
from .measures import EXPECTED, NO_DRIVERS, path_by, path_quantity

YEARS = 5
MOST_YEARS = 30
TREND_YEARS = 5


def _years(_: Ground, __: Inputs) -> Default:
    return Default(given("years", Unit.YEARS, float(YEARS), "house default"), "house default")


def _start(ground: Ground, _: Inputs) -> Default:
    quantity = path_quantity(ground)
    origin = "declared rate" if quantity is YIELD else "twelve months"
    return Default(quantity.base(ground.file, ground.record), origin)


def _growth(ground: Ground, chosen: Inputs) -> Default:
    """Of the measure a year: its trend; where something is expected of the years to come, after
    those."""
    if path_quantity(ground) is YIELD:
        return Default(chosen["path_dividends"].figure, "growth of the dividend")
    trend = _trend_growth(ground)
    by = path_by(ground)
    if by in EXPECTED:
        n = len(expected_years(ground, chosen, by))
        what = "estimates" if by == "estimates" else "guidance"
        return Default(
            trend, f"trend of five years, after {n} year{'' if n == 1 else 's'} of {what}"
        )
    return Default(trend, "trend of five years")


def expected_years(ground: Ground, chosen: Inputs, by: str) -> list[Figure]:
    """What is expected of the measure per share, fiscal year by fiscal year: the estimates that
    follow one another, three at most, or the middle of what the payer guides to. The first is
    unknown where nothing is expected."""
    quantity, label = path_quantity(ground), f"expected {path_quantity(ground).short}"
    name = ESTIMATE_OF.get(quantity.id)
    if name is None:
        return [unknown(label, Unit.PER_SHARE, f"{quantity.short} is not estimated")]
    held = [_guided(ground, name)] if by == "guidance" else _estimated(ground, name)
    return [_per_share(ground, chosen, name, x, n) for n, x in enumerate(held, start=1)]


def _estimated(ground: Ground, name: str) -> list[Figure]:
    first = year_ahead(ground.file)
    newest = newest_estimate(ground.file, name, first)
    found = [newest]
    for n in range(1, FURTHEST if newest.known else 1):
        later = estimates_of(ground.file, name, first + n)
        if not later:
            break
        label = f"estimate of fiscal {first + n}"
        figure = figure_of(ground.file, later[-1], later[-1].mean, label)
        found.append(marked(ground.file, figure))
    return found


def _guided(ground: Ground, name: str) -> Figure:
    year = year_ahead(ground.file)
    mean = newest_estimate(ground.file, name, year)
    return Outlook(file=ground.file, measure=name, year=year, mean=mean).guided_middle


def _per_share(ground: Ground, chosen: Inputs, name: str, expected: Figure, n: int) -> Figure:
    """What is expected in total, for each of the shares that there will be."""
    if name not in IN_TOTAL:
        return expected
    return derive(
        f"{expected.label}, per share",
        Unit.PER_SHARE,
        f"total ÷ (diluted shares × (1 + change of the share count)^{n})",
        [expected, newest_shares(ground), chosen["path_shares"].figure],
        lambda total, shares, b: (
            total / (shares * (1 + b) ** n) if shares > 0 else Unknown("no diluted shares")
        ),
        currency=ground.file.payer.currency,
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


PATH_GROWTH = "path_growth"
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
        of_measure=True,
        label="Per share now",
        name="the measure per share",
        unit=Unit.PER_SHARE,
        default=_start,
        bounds=(-1e6, 1e6),
        step=0.01,
    ),
    _fraction("path_shares", "Change of the share count a year", _share_change, -0.2, 0.5),
    _fraction("path_dividends", "Growth of the dividend", _dividends, -0.5, 0.5),
    replace(_fraction(PATH_GROWTH, "Growth of the measure", _growth, -0.5, 0.5), of_measure=True),
    _fraction("path_revenue", "Growth of revenue", _revenue_growth, -0.5, 0.5),
    replace(
        _fraction("path_margin", "Margin in the last year", _margin, -1.0, 2.0), of_measure=True
    ),
    InputSpec(
        id="path_multiple",
        of_measure=True,
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
        of_measure=True,
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
