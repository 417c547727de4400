"""How far a price is from a price one waits for, and how often it was there.
(docs/method.md, Watch)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

import numpy as np

from ..errors import InvalidInput
from ..facts.payer_file import PayerFile
from ..figures.figure import Figure, Unit, derive, given, unknown
from ..figures.parts import HoldsFigures
from ..figures.ties import all_at_least, all_at_most, at_least

YEAR, DAY = timedelta(days=365), timedelta(days=1)
MOST = 1e9


class Aim(StrEnum):
    """What is waited for: to buy below, a step to buy in by, to trim above."""

    BUY = "buy_below"
    STEP = "step"
    TRIM = "trim_above"

    @property
    def asks(self) -> str:
        """The words before its price."""
        return "entry step at" if self is Aim.STEP else self.value.replace("_", " ")

    @property
    def words(self) -> str:
        return self.value.replace("_", "-") + " price" if self is not Aim.STEP else "entry step"


@dataclass(frozen=True, slots=True, kw_only=True)
class Reach(HoldsFigures):
    """target: a price in today's shares. distance: how far the price has still to go, as a part of
    the target: 0 and under, it is there. met: the share of the past year's closes that were there;
    last_met: the newest of them. yield_there: the declared rate at the target."""

    aim: Aim
    target: Figure
    distance: Figure
    met: Figure
    yield_there: Figure
    last_met: date | None

    @property
    def reached(self) -> bool:
        value = self.distance.value
        return value is not None and at_least(0.0, value)

    def alone(self) -> Reach:
        """With figures that stand alone."""
        return Reach(
            aim=self.aim,
            target=self.target.alone(),
            distance=self.distance.alone(),
            met=self.met.alone(),
            yield_there=self.yield_there.alone(),
            last_met=self.last_met,
        )


def check_reach(target: float) -> None:
    """Raises InvalidInput."""
    if not 0 < target <= MOST:
        raise InvalidInput(
            "a price waited for must be above 0", field="reach", value=target, rule="0 < it ≤ 1e9"
        )


def reach_of(file: PayerFile, rate: Figure, aim: Aim, target: float) -> Reach:
    """rate: what is declared a year. target: above 0, in today's shares. 66 against 60: 10 %."""
    trims = aim is Aim.TRIM
    price, currency = file.price, file.payer.currency
    wanted = given(aim.words, Unit.PER_SHARE, target, "waited for", currency=currency)
    met, last = _met(file, wanted, above=trims)
    return Reach(
        aim=aim,
        target=wanted,
        distance=derive(
            f"distance to the {aim.words}",
            Unit.FRACTION,
            f"1 − price ÷ {aim.words}" if trims else f"price ÷ {aim.words} − 1",
            [price, wanted],
            lambda p, t: 1 - p / t if trims else p / t - 1,
        ),
        met=met,
        yield_there=derive(
            f"yield at the {aim.words}",
            Unit.YIELD,
            f"{rate.label} ÷ {aim.words}",
            [rate, wanted],
            lambda paid, t: paid / t,
        ),
        last_met=last,
    )


def _met(file: PayerFile, wanted: Figure, *, above: bool) -> tuple[Figure, date | None]:
    """Of the closes of the past year, in today's shares, those at the target or beyond it; and the
    newest of them."""
    side = "above" if above else "below"
    label = f"share of the past year’s closes at or {side} the {wanted.label}"
    first = file.day - YEAR + DAY
    recent = file.prices.days >= np.datetime64(first)
    days, closes = file.prices.days[recent], file.adjusted_closes[recent]
    touch, left = (
        file.closes_touch(first, file.day),
        file.exclusions_within("prices", first, file.day),
    )
    if not len(days):
        none = unknown(label, Unit.FRACTION, "no closes of the past 365 days are held")
        return none.with_exclusions(left), None
    there = (all_at_least if above else all_at_most)(closes, wanted.value or 0.0)
    count = Figure(
        label=f"closes at or {side} it",
        unit=Unit.COUNT,
        value=float(there.sum()),
        formula=f"closes of the past 365 days, in today's shares, at or {side} the {wanted.label}",
        inputs=(wanted,),
    )
    held = Figure(
        label="closes held",
        unit=Unit.COUNT,
        value=float(len(days)),
        formula="closes of the past 365 days",
        period=f"{days[0]} to {days[-1]}",
    )
    share = derive(
        label, Unit.FRACTION, f"{count.label} ÷ closes held", [count, held], lambda n, of: n / of
    )
    last = days[there][-1].astype(date) if there.any() else None
    return share.with_touch(touch).with_exclusions(left), last
