"""What the models of worth take in: the person's inputs, and where the house's defaults come from.

docs/method.md, Worth.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from ..cover import Cover
from ..errors import InvalidInput
from ..facts import Kind, PayerFile
from ..figure import Figure, Unit, Unknown, derive, given, percent
from ..payments import hand_in
from ..ranges import YieldRange
from ..record import Record, Year
from ..rules import HouseRules, State, Test

GROWTH_FLOOR = -0.05
LEAST_YEARS = 3
BOUNDS = {
    "growth": (-0.5, 0.5),
    "later_growth": (-0.5, 0.5),
    "required_return": (0.001, 0.5),
    "mean_yield": (0.0001, 1.0),
    "margin_of_safety": (0.0, 0.95),
}
"""What each input must lie between."""


@dataclass(frozen=True, slots=True, kw_only=True)
class WorthInputs:
    """What the person typed; None leaves the default. switched: models turned on or off."""

    growth: float | None = None
    later_growth: float | None = None
    required_return: float | None = None
    mean_yield: float | None = None
    margin_of_safety: float | None = None
    switched: dict[str, bool] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Chosen:
    """The inputs as they count. lasting_growth: growth as far as it is taken to go on for ever.
    origins: where each that the person can type comes from, in a few words."""

    growth: Figure
    lasting_growth: Figure
    later_growth: Figure
    required_return: Figure
    mean_yield: Figure
    margin_of_safety: Figure
    origins: Mapping[str, str]


def check_inputs(inputs: WorthInputs, models: Sequence[str]) -> None:
    """Refuse inputs no model can work with, naming field, value and rule."""
    for name, (low, high) in BOUNDS.items():
        value, called = getattr(inputs, name), name.replace("_", " ")
        if value is not None and not low <= value <= high:
            between = f"between {percent_of(low)} and {percent_of(high)}"
            raise InvalidInput(
                f"{called} must lie {between}", field=name, value=value, rule=f"{called} {between}"
            )
    for name in inputs.switched:
        if name not in models:
            raise InvalidInput(
                "no such model",
                field="models",
                value=name,
                rule=f"one of {', '.join(sorted(models))}",
            )


def percent_of(fraction: float) -> str:
    """A bound as it is typed: 0.001 → "0.1 %"."""
    return f"{fraction * 100:g} %"


def choose(
    file: PayerFile,
    record: Record,
    cover: Cover,
    span: YieldRange,
    rules: HouseRules,
    tests: Sequence[Test],
    inputs: WorthInputs,
) -> Chosen:
    """The person's inputs, and the house's defaults for the rest, each with its origin."""
    kind = file.payer.kind
    growth = default_growth(file, record, cover, tests)
    lasting = _at_most("growth for ever", growth.figure, rules.highest_growth)
    if inputs.growth is not None:
        growth = Default(given("growth", Unit.FRACTION, inputs.growth, YOURS), YOURS)
        lasting = growth.figure
    later = Default(
        _at_most("later growth", growth.figure, rules.highest_growth),
        f"growth, at most {percent(rules.highest_growth)}",
    )
    house = f"house rule for {KINDS[kind]}"
    required = _ruled("required return", rules.required_returns[kind], house)
    margin = _ruled("margin of safety", rules.margin_of_safety, "house rule")
    mean = Default(
        span.mean.but(notes=(*span.mean.notes, "house default: the 5-year mean")), "5-year mean"
    )
    found = {
        "growth": growth,
        "later_growth": _or_typed(later, inputs.later_growth),
        "required_return": _or_typed(required, inputs.required_return),
        "mean_yield": _or_typed(mean, inputs.mean_yield),
        "margin_of_safety": _or_typed(margin, inputs.margin_of_safety),
    }
    return Chosen(
        lasting_growth=lasting,
        **{name: d.figure for name, d in found.items()},
        origins={name: d.origin for name, d in found.items()},
    )


YOURS = "yours"


@dataclass(frozen=True, slots=True)
class Default:
    """An input, and where it comes from in a few words."""

    figure: Figure
    origin: str


def _ruled(label: str, rule: float, origin: str) -> Default:
    return Default(given(label, Unit.FRACTION, rule, origin), origin)


def _or_typed(default: Default, typed: float | None) -> Default:
    if typed is None:
        return default
    label = default.figure.label if default.origin != "5-year mean" else "mean yield"
    return Default(given(label, default.figure.unit, typed, YOURS), YOURS)


KINDS = {
    Kind.COMPANY: "companies",
    Kind.PROPERTY_TRUST: "property trusts",
    Kind.PARTNERSHIP: "partnerships",
    Kind.FINANCIAL: "financials",
}


def _at_most(label: str, growth: Figure, most: float) -> Figure:
    """Growth, held to a house rule."""
    rule = given("house rule", Unit.FRACTION, most, f"at most {percent(most)}")
    return derive(
        label, Unit.FRACTION, "the lower of growth and the house rule", [growth, rule], min
    )


def years_since_reduction(record: Record) -> list[Year]:
    """Full years whose every payment was declared since the last cut or suspension."""
    since = record.last_cut
    return [
        y
        for y in record.years
        if y.full and (since is None or all(p.known_on >= since for p in y.payments))
    ]


def default_growth(file: PayerFile, record: Record, cover: Cover, tests: Sequence[Test]) -> Default:
    """The lower of 5- and 10-year dividend growth of full years since the last cut or suspension;
    where neither span is there, growth over all of them; of fewer than three, 0 %.

    Where cash per share has shrunk over five years and the payout is over its limit, no more than
    that trend, and no less than −5 %. Source: docs/method.md, Worth.
    """
    years = years_since_reduction(record)
    label = "growth"
    if len(years) < LEAST_YEARS:
        since = f" since the reduction of {record.last_cut.isoformat()}" if record.last_cut else ""
        few = f"{len(years)} full year{'s' if len(years) != 1 else ''} of dividends{since}"
        origin = f"house default: 0 %, with {few}"
        caution = f"growth is taken as 0 %, with {few}" if record.years else None
        zero = given(label, Unit.FRACTION, 0.0, origin, cautions=(caution,) if caution else ())
        return Default(zero.also(hand_in(file, _first_day(record))), few)
    spans = _spans(years)
    shrinking = cover.leading.per_share_trend
    over = next((t for t in tests if t.id == "leading_payout"), None)
    inputs = list(spans)
    notes: tuple[str, ...] = (f"house default: {_which(spans)}",)
    if (
        over is not None
        and over.state is State.UNCOVERED
        and shrinking.value is not None
        and shrinking.value < min(s.value or 0.0 for s in spans)
    ):
        inputs.append(shrinking)
        notes += ("held to the trend of cash per share, as the payout is over your limit",)
    figure = derive(
        label,
        Unit.FRACTION,
        "the lowest of these, not under −5 % where cash per share sets it",
        inputs,
        lambda *g: (
            min(*g[: len(spans)], max(GROWTH_FLOOR, g[-1])) if len(g) > len(spans) else min(g)
        ),
        notes=notes,
    ).also(hand_in(file, _first_day(record)))
    held = len(inputs) > len(spans)
    return Default(figure, "trend of cash per share" if held else _which(spans))


def _first_day(record: Record) -> date:
    return record.years[0].payments[0].ex_date if record.years else date.min


def _which(spans: Sequence[Figure]) -> str:
    return spans[0].label if len(spans) == 1 else "lower of 5- and 10-year growth"


def _spans(years: Sequence[Year]) -> list[Figure]:
    """Growth over 5 and 10 years to the newest of these; over all of them where neither is."""
    held, last = {y.year: y for y in years}, years[-1].year
    wanted = [n for n in (5, 10) if last - n in held] or [last - years[0].year]
    return [_growth(held[last - n], held[last], n) for n in wanted]


def _growth(base: Year, last: Year, n: int) -> Figure:
    return derive(
        f"dividend growth over {n} years",
        Unit.FRACTION,
        f"({last.year} ÷ {base.year}) ^ (1/{n}) − 1",
        [last.total, base.total],
        lambda now, then: (now / then) ** (1 / n) - 1 if then > 0 else Unknown("nothing was paid"),
        period=f"{base.year} to {last.year}",
    )
