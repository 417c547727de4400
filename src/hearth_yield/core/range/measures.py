"""What Range measures: the yield against its own weeks."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from ..figures.figure import Figure, Unit
from ..figures.measure import AmongPeers, Key, Measure, Sentence, Size, Stage, measure
from ..figures.saying import is_told
from .multiples import MULTIPLES
from .quantity import Quantity
from .stage import RangeStage

_range = partial(measure, Stage.RANGE)
_FRACTION, _YIELD, _PER_SHARE = Unit.FRACTION, Unit.YIELD, Unit.PER_SHARE


def _of(name: str) -> Callable[[RangeStage], Figure]:
    def read(stage: RangeStage) -> Figure:
        figure: Figure = getattr(stage.yields, name)
        return figure

    return read


def _when(name: str, before: str = "") -> Callable[[RangeStage], Sentence]:
    """The day of the week that a figure was found in."""

    def note(stage: RangeStage) -> Sentence:
        known_on = _of(name)(stage).known_on
        return (*((before,) if before else ()), known_on) if known_on else ()

    return note


def multiple_id(quantity: Quantity) -> str:
    """Of the measure that a multiple is today."""
    return f"{quantity.id}_multiple"


def _multiple(quantity: Quantity) -> Measure:
    return _range(
        multiple_id(quantity),
        f"{quantity.name[:1].upper()}{quantity.name[1:]}",
        Unit.MULTIPLE,
        lambda stage: stage.multiples.get(quantity.id),
        better="low",
        digits=1,
    )


def _premium(stage: RangeStage) -> Sentence:
    premium = stage.yields.premium
    if premium.value is None:
        return ()
    if not is_told(premium):
        return ("today’s price",)
    return ("price ", Size(figure=premium), " over" if premium.value > 0 else " under")


MEASURES: tuple[Measure, ...] = (
    _range(
        "yield",
        "Yield",
        _YIELD,
        _of("now"),
        head=Key(name="Yield"),
        foot=True,
        columns={"overview": 20, "range": 20},
        digits=2,
        frozen=True,
        better="high",
        compared={"overview": 10, "range": 10},
        peers=AmongPeers(place=140, words="a higher yield"),
    ),
    _range(
        "mean_yield",
        "5-year mean yield",
        _YIELD,
        _of("mean"),
        columns={"range": 30},
        digits=2,
        frozen=True,
        better="neither",
    ),
    _range(
        "fair_price",
        "Price at the mean yield",
        _PER_SHARE,
        _of("fair_price"),
        key=Key(name="Price at the mean yield", note=_premium),
        columns={"range": 70},
        better="neither",
    ),
    _range(
        "median_yield",
        "5-year median yield",
        _YIELD,
        _of("median"),
        digits=2,
        key=Key(name="Median"),
        better="neither",
    ),
    _range(
        "lower_quartile",
        "5-year lower quartile of the yield",
        _YIELD,
        _of("lower_quartile"),
        digits=2,
        better="neither",
    ),
    _range(
        "upper_quartile",
        "5-year upper quartile of the yield",
        _YIELD,
        _of("upper_quartile"),
        digits=2,
        better="neither",
    ),
    _range(
        "highest_yield",
        "5-year highest yield",
        _YIELD,
        _of("highest"),
        digits=2,
        key=Key(name="Highest", note=_when("highest")),
        better="neither",
    ),
    _range(
        "lowest_yield",
        "5-year lowest yield",
        _YIELD,
        _of("lowest"),
        digits=2,
        key=Key(name="Lowest", note=_when("lowest")),
        better="neither",
    ),
    _range(
        "deviation",
        "Yield vs its 5-year mean",
        _FRACTION,
        _of("deviation"),
        "yield [above|below] its 5-year mean by {}",
        drawn="deviation",
        foot=True,
        columns={"overview": 30, "range": 40},
        frozen=True,
        better="high",
        compared={"overview": 80, "range": 20},
    ),
    _range(
        "longest_above",
        "Longest stretch above the mean",
        Unit.WEEKS,
        _of("longest_above"),
        key=Key(name="Longest above the mean", note=_when("longest_above", "to ")),
        better="low",
    ),
    _range(
        "percentile",
        "Yield percentile",
        _FRACTION,
        _of("percentile"),
        "percentile of the yield in its 5 years",
        digits=0,
        key=Key(name="Percentile of today"),
        columns={"range": 50},
        better="high",
        compared={"range": 30},
    ),
    _range(
        "share_of_weeks",
        "Weeks with a higher yield",
        _FRACTION,
        _of("share_higher"),
        "share of weeks with a higher yield",
        columns={"range": 60},
        better="low",
        compared={"range": 40},
    ),
    _range("weeks", "Weeks in the sample", Unit.WEEKS, _of("count"), better="neither"),
    _range(
        "low_52",
        "Lowest close of 52 weeks",
        _PER_SHARE,
        _of("low_52"),
        key=Key(name="52-week low"),
        better="neither",
    ),
    _range(
        "high_52",
        "Highest close of 52 weeks",
        _PER_SHARE,
        _of("high_52"),
        key=Key(name="52-week high"),
        better="neither",
    ),
    _range(
        "premium",
        "Price vs price at the mean yield",
        _FRACTION,
        _of("premium"),
        "price [above|below] that of its mean yield by {}",
        columns={"range": 80},
        better="low",
    ),
    *map(_multiple, MULTIPLES),
)
