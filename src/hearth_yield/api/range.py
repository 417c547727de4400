"""What Range shows besides its figures: the weeks, the ruler's heights, quarter ends, the aim."""

from __future__ import annotations

from datetime import date
from typing import Literal

from hearth_yield.core.range.aim import Aim
from hearth_yield.core.range.finding import sentence_of
from hearth_yield.core.range.multiples import suiting
from hearth_yield.core.range.ruler import Ruler
from hearth_yield.core.review import Review
from hearth_yield.core.worth.path.measures import exit_of

from .answer import wire
from .figures import FigureOut, NamedFigureOut, PartOut, Shown
from .schemas import UnitName
from .wire import each, fill

UsualName = Literal["mean", "median"]


@wire
class QuarterEndOut:
    day: date
    value: FigureOut
    against_typical: FigureOut


@wire
class WeeksOut:
    """Parallel lists, oldest first."""

    days: list[date]
    values: list[float]


@wire
class PriceMarkOut:
    """A height on the ruler, read as a value and as a price."""

    value: float
    price: float


@wire
class QuantityOut:
    id: str
    name: str
    short: str


@wire
class RangeSeries:
    """name, unit: of the quantity; quantities: those that suit the kind. usual: what stands for its
    usual value. finding: where today stands, in a sentence. figures: what the ruler says, by name;
    key_figures: the chief ones. band: its quartiles. exit_input: the input of the return path that
    an aim at it sets; null where debt has a part.
    justified: the multiple that growth and the required return would justify; null of a yield.
    implied_growth: what today's price takes for granted."""

    quantity: str
    name: str
    unit: UnitName
    quantities: list[QuantityOut]
    cheap_when_high: bool
    window: str
    usual: UsualName
    finding: list[PartOut]
    figures: dict[str, FigureOut]
    key_figures: list[NamedFigureOut]
    band: list[FigureOut]
    exit_input: str | None
    justified: FigureOut | None
    implied_growth: FigureOut
    quarters: list[QuarterEndOut]
    weeks: WeeksOut
    price_scale: list[PriceMarkOut]


@wire
class AimOut:
    target: FigureOut
    target_price: FigureOut
    against_price: FigureOut
    weeks_offered: FigureOut
    weeks_in_sample: int
    last_offered: date | None
    closes_52: FigureOut


def range_series(shown: Shown, review: Review) -> RangeSeries:
    ruler, worth = review.range, review.worth
    shown.know("range.shown", ruler.figures)
    justified = worth.justified
    return RangeSeries(
        quantity=ruler.quantity.id,
        name=ruler.quantity.name,
        unit=ruler.quantity.unit.value,
        cheap_when_high=ruler.quantity.cheap_when_high,
        window=ruler.window,
        usual=_usual(ruler),
        quantities=each(QuantityOut, suiting(review.payer.kind)),
        finding=shown.sentence(sentence_of(ruler)),
        justified=shown.figure(justified, "worth.justified") if justified else None,
        implied_growth=shown.figure(worth.implied_growth, "worth.implied_growth"),
        figures={
            name: shown.figure(figure, f"range.shown.{name}")
            for name, figure in ruler.figures.items()
        },
        key_figures=[
            NamedFigureOut(
                name=called,
                figure=shown.figure(ruler.figures[name], f"range.shown.{name}"),
                note=ruler.figures[name].known_on if name in DATED else None,
            )
            for name, called in _called(ruler).items()
        ],
        band=[
            shown.figure(ruler.figures[name], f"range.shown.{name}")
            for name in ("lower_quartile", "upper_quartile")
        ],
        exit_input=exit_of(ruler.quantity),
        quarters=each(QuarterEndOut, ruler.quarters, "range.quarters"),
        weeks=WeeksOut(
            days=ruler.weeks.days.astype(date).tolist(), values=ruler.weeks.values.round(6).tolist()
        ),
        price_scale=[PriceMarkOut(value=v, price=p) for v, p in ruler.price_scale],
    )


DATED = ("highest", "lowest", "longest_above")
"""Of which the day says when that was."""


def _called(ruler: Ruler) -> dict[str, str]:
    """The chief figures of a ruler by their names, and what they are called."""
    other = "median" if ruler.usual == "mean" else "mean"
    return {
        "fair_price": f"Price at the {ruler.usual}",
        other: other.capitalize(),
        "highest": "Highest",
        "lowest": "Lowest",
        "percentile": "Percentile of today",
        "longest_above": "Longest above the mean",
    }


def _usual(ruler: Ruler) -> UsualName:
    return "median" if ruler.usual == "median" else "mean"


def aim_out(aim: Aim | None, ruler: Ruler) -> AimOut | None:
    if aim is None:
        return None

    return fill(AimOut, aim, "aim", weeks_in_sample=len(ruler.weeks.days))
