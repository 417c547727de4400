"""What Range shows besides its figures: the weeks, the ruler's heights, quarter ends, the aim."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

from pydantic import BaseModel

from hearth_yield.core.range.aim import Aim
from hearth_yield.core.range.ruler import Ruler

from .figures import FigureOut, Shown, figure_out
from .schemas import UnitName

WindowName = Literal["3", "5", "10", "all"]


@dataclass(slots=True, kw_only=True)
class QuarterEndOut:
    day: date
    value: FigureOut
    against_mean: FigureOut


class WeeksOut(BaseModel):
    """Parallel lists, oldest first."""

    days: list[date]
    values: list[float]


@dataclass(slots=True, kw_only=True)
class PriceMarkOut:
    """A height on the ruler, read as a value and as a price."""

    value: float
    price: float


class RangeSeries(BaseModel):
    """name, unit: of the quantity. now to upper_quartile: what the ruler marks."""

    quantity: str
    name: str
    unit: UnitName
    cheap_when_high: bool
    window: WindowName
    now: FigureOut
    mean: FigureOut
    lower_quartile: FigureOut
    upper_quartile: FigureOut
    quarters: list[QuarterEndOut]
    weeks: WeeksOut
    price_scale: list[PriceMarkOut]


class AimOut(BaseModel):
    target: FigureOut
    target_price: FigureOut
    against_price: FigureOut
    weeks_offered: FigureOut
    weeks_in_sample: int
    last_offered: date | None
    closes_52: FigureOut


def range_series(shown: Shown, ruler: Ruler) -> RangeSeries:
    return RangeSeries(
        quantity=ruler.quantity.id,
        name=ruler.quantity.name,
        unit=ruler.quantity.unit.value,
        cheap_when_high=ruler.quantity.cheap_when_high,
        window=_window(ruler),
        now=shown.figure(ruler.now),
        mean=shown.figure(ruler.mean),
        lower_quartile=shown.figure(ruler.lower_quartile),
        upper_quartile=shown.figure(ruler.upper_quartile),
        quarters=[
            QuarterEndOut(
                day=q.day, **shown.members(q, f"range.quarters.{q.key}", ("value", "against_mean"))
            )
            for q in ruler.quarters
        ],
        weeks=WeeksOut(
            days=ruler.weeks.days.astype(date).tolist(), values=ruler.weeks.values.round(6).tolist()
        ),
        price_scale=[PriceMarkOut(value=v, price=p) for v, p in ruler.price_scale],
    )


def _window(ruler: Ruler) -> WindowName:
    windows: dict[str, WindowName] = {"3": "3", "5": "5", "10": "10", "all": "all"}
    return windows[ruler.window]


def aim_out(aim: Aim | None, ruler: Ruler) -> AimOut | None:
    if aim is None:
        return None

    def out(name: str) -> FigureOut:
        return figure_out(getattr(aim, name), f"aim.{name}")

    return AimOut(
        target=out("target"),
        target_price=out("target_price"),
        against_price=out("against_price"),
        weeks_offered=out("weeks_offered"),
        weeks_in_sample=len(ruler.weeks.days),
        last_offered=aim.last_offered,
        closes_52=out("closes_52"),
    )
