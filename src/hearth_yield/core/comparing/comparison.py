"""A few payers on one day, measure by measure, in one currency where amounts are compared."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType

from ..figures.figure import Figure, Unit, derive, unknown
from ..figures.measure import Better, Stage
from ..household.measures import HOUSEHOLD, NOT_HELD, Part
from ..names import NUMBERS, name_of
from ..range.price import Priced
from ..range.stage import RangeStage
from ..review import Review
from .scoring import Line, Scores, score

AMOUNTS = (Unit.MONEY, Unit.PER_SHARE)
NOTHING_OWNED: Mapping[tuple[str, str], Part] = MappingProxyType({})
Rate = Callable[[str, str], Figure]
"""What one unit of the first currency costs in the second."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """One measure to compare on."""

    id: str
    better: Better
    weight: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Point:
    """One mark on a shared axis. key: the name of its figure in the review of the payer; None for
    one that the comparison makes. main: the one that the payer is read by."""

    name: str
    figure: Figure
    key: str | None = None
    main: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Axis:
    """Figures of one kind of all payers, to be drawn on one scale."""

    id: str
    name: str
    unit: Unit
    rows: tuple[tuple[Point, ...], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """currency: in which amounts are compared; converted: those they were converted from."""

    reviews: tuple[Review, ...]
    lines: tuple[Line, ...]
    scores: Scores
    currency: str
    converted: tuple[str, ...]
    axes: tuple[Axis, ...] = field(default=())


def compare(
    reviews: Sequence[Review],
    asked: Sequence[Asked],
    rate: Rate,
    owned: Mapping[tuple[str, str], Part] = NOTHING_OWNED,
) -> Comparison:
    """reviews: of one day. rate: asked only where an amount is in another currency than that of
    the first payer. owned: what the household has of them."""
    currency = reviews[0].payer.currency
    lines = tuple(
        Line(
            measure=NUMBERS[a.id],
            better=a.better,
            weight=a.weight,
            figures=tuple(_figure(r, f, currency, rate) for r, f in zip(reviews, own, strict=True)),
            own=own,
        )
        for a in asked
        for own in (tuple(_own(r, a.id, owned) for r in reviews),)
    )
    others = {r.payer.currency for r in reviews} - {currency}
    compared = any(x.measure.unit in AMOUNTS for x in lines)
    return Comparison(
        reviews=tuple(reviews),
        lines=lines,
        scores=score(lines, len(reviews)),
        currency=currency,
        converted=tuple(sorted(others)) if compared else (),
        axes=_axes(reviews),
    )


def _own(review: Review, id: str, owned: Mapping[tuple[str, str], Part]) -> Figure | None:
    spec = HOUSEHOLD.get(id)
    if spec is None:
        return review.figure(id)
    part = owned.get((review.payer.exchange, review.payer.symbol))
    return unknown(spec.name, spec.unit, NOT_HELD) if part is None else spec.read(part)


def _figure(review: Review, figure: Figure | None, currency: str, rate: Rate) -> Figure | None:
    other = review.payer.currency
    if figure is None or figure.unit not in AMOUNTS or other == currency:
        return figure
    if figure.value is None:
        return figure
    return derive(
        f"{figure.label}, in {currency}",
        figure.unit,
        f"{figure.label} × {currency} for one {other}",
        [figure, rate(other, currency)],
        lambda amount, price: amount * price,
        currency=currency,
    )


def _axes(reviews: Sequence[Review]) -> tuple[Axis, ...]:
    """What the payers are read by beside their measures, each on one scale."""
    found = [
        _axis(reviews, id, name, points)
        for id, name, points in (
            (
                "yield",
                "Yield over five years",
                (
                    ("lowest", "lowest_yield"),
                    ("mean", "mean_yield"),
                    ("highest", "highest_yield"),
                    ("now", "yield"),
                ),
            ),
            (
                "growth",
                "Dividend growth a year",
                (
                    ("1 year", "growth_1"),
                    ("10 years", "growth_10"),
                    ("20 years", "growth_20"),
                    ("5 years", "growth_5"),
                ),
            ),
            (
                "payout",
                "Payout, leading basis",
                (
                    ("worst of ten", "payout_worst"),
                    ("cycle", "payout_cycle"),
                    ("forward", "payout_forward"),
                    ("now", "payout"),
                ),
            ),
        )
    ]
    worth = Axis(
        id="worth",
        name="Price against what it is worth",
        unit=Unit.FRACTION,
        rows=tuple(_against_models(r) for r in reviews),
    )
    returned = Axis(
        id="return",
        name="Total return a year",
        unit=Unit.FRACTION,
        rows=tuple(_returns(r) for r in reviews),
    )
    return (*found, worth, returned)


def _axis(reviews: Sequence[Review], id: str, name: str, points: Sequence[tuple[str, str]]) -> Axis:
    """The last point is the main one."""
    last = points[-1][1]

    def row(review: Review) -> tuple[Point, ...]:
        held = ((said, m, review.figure(m)) for said, m in points)
        return tuple(
            Point(name=s, figure=f, key=name_of(m), main=m == last)
            for s, m, f in held
            if f is not None
        )

    return Axis(id=id, name=name, unit=NUMBERS[last].unit, rows=tuple(row(r) for r in reviews))


def _against_models(review: Review) -> tuple[Point, ...]:
    """The price against each model that is on, and against all of them together."""
    found = [
        Point(
            name=model.name,
            figure=derive(
                f"price vs {model.name}",
                Unit.FRACTION,
                "price ÷ value − 1",
                [review.price, model.middle],
                lambda price, value: price / value - 1 if value > 0 else 0.0,
            ),
        )
        for model in review.worth.on
        if model.middle.value is not None and model.middle.value > 0
    ]
    together = review.worth.price_against_combined
    key = name_of("price_against_combined")
    return (*found, Point(name="together", figure=together, key=key, main=True))


def _returns(review: Review) -> tuple[Point, ...]:
    """A year over 1, 5 and 10 years, and over all there is."""
    stage: RangeStage = review.stages[Stage.RANGE].result
    priced: Priced = stage.price
    names = {"1": "1 year", "5": "5 years", "10": "10 years", "all": "all"}
    return tuple(
        Point(
            name=names[g.id],
            figure=getattr(g, member),
            key=f"range.price.spans.{g.key}.{member}",
            main=g.id == "5",
        )
        for g in priced.spans
        if g.id in names
        for member in ["total" if g.id == "1" else "total_a_year"]
    )


def no_rate(other: str, currency: str, why: str) -> Figure:
    """An exchange rate that is not known."""
    return unknown(f"{currency} for one {other}", Unit.INDEX, why)
