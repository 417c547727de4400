"""Prices and yields that were waited for, and yields far from their own mean."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

import numpy as np
import numpy.typing as npt

from ..facts.payer_file import PayerFile
from ..facts.records import split_factor
from ..figures.arrays import Floats
from ..figures.figure import Unit
from ..figures.measure import Stage
from ..figures.ties import RELATIVE
from ..finding.breadth import LEAST, WEEKS
from ..range.entry_steps import EntryStep
from ..range.multiples import QUANTITIES
from ..range.quantity import YIELD
from ..range.weekly import values_on, weekly_values
from .signal import Signal, SignalGround, SignalKind, SignalMaker, Value, Wait

BUY_REACHED = SignalKind(
    id="buy_reached",
    name="Buy-below price reached",
    means="It closed at or under the buy-below price of the decision that stands.",
    of_a_wait=True,
    asks=True,
)
STEP_REACHED = SignalKind(
    id="step_reached",
    name="Entry step reached",
    means="The yield or multiple of an entry step was reached at a close.",
    of_a_wait=True,
    asks=True,
)
TRIM_REACHED = SignalKind(
    id="trim_reached",
    name="Trim-above price reached",
    means="It closed at or over the trim-above price of the decision that stands.",
    of_a_wait=True,
    asks=True,
)
MEAN_CROSSED = SignalKind(
    id="mean_crossed",
    name="Yield far from its mean",
    means="A week ended with the yield further from its five-year mean than you set.",
)


def _reached(ground: SignalGround) -> Iterator[Signal]:
    """Each close at which a price or value waited for was reached, once until it has been left by
    more than the house's distance."""
    file, followed, rules = ground.file, ground.followed, ground.rules
    for wait in followed.waits:
        for kind, price in ((BUY_REACHED, wait.buy_below), (TRIM_REACHED, wait.trim_above)):
            if price is not None:
                yield from _price(file, wait, kind, price, rules.signal_apart)
    for step in followed.steps:
        yield from _step(file, step, rules.signal_apart)


def _price(
    file: PayerFile, wait: Wait, kind: SignalKind, price: float, apart: float
) -> Iterator[Signal]:
    target = price / split_factor(file.splits, wait.made)
    closes = file.adjusted_closes
    over = closes / target - 1
    past = over if kind is BUY_REACHED else -over
    side = "at or under your buy-below price of "
    if kind is TRIM_REACHED:
        side = "at or over your trim-above price of "
    for at in _crossings(past, _days_from(file, wait.made, wait.until), apart):
        day: date = file.prices.days[at].astype(date)
        then = split_factor(file.splits, day)
        yield Signal(
            kind=kind,
            day=day,
            event=f"{price:g}/{wait.made.isoformat()}/{day.isoformat()}",
            stage=Stage.RANGE,
            said=(
                "closed at ",
                _money(file, float(closes[at]) * then),
                f", {side}",
                _money(file, target * then),
            ),
        )


def _step(file: PayerFile, step: EntryStep, apart: float) -> Iterator[Signal]:
    quantity = QUANTITIES[step.quantity]
    days, closes = file.prices.days, file.adjusted_closes
    values = values_on(file, quantity, days, closes).values
    over = values / step.target - 1
    past = -over if quantity.cheap_when_high else over
    for at in _crossings(past, _days_from(file, step.kept_on, None), apart):
        day: date = days[at].astype(date)
        then = split_factor(file.splits, day)
        yield Signal(
            kind=STEP_REACHED,
            day=day,
            event=f"{step.quantity}/{step.target:g}/{day.isoformat()}",
            stage=Stage.RANGE,
            said=(
                "closed at ",
                _money(file, float(closes[at]) * then),
                f", {quantity.name} ",
                Value(float(values[at]), quantity.unit),
                "; your entry step is at ",
                Value(step.target, quantity.unit),
            ),
        )


def _days_from(file: PayerFile, first: date, until: date | None) -> npt.NDArray[np.bool_]:
    days = file.prices.days
    inside = days >= np.datetime64(first)
    return inside if until is None else inside & (days < np.datetime64(until))


def _crossings(past: Floats, inside: npt.NDArray[np.bool_], apart: float) -> list[int]:
    """Places where `past` comes to 0 or under, each time anew after it was above `apart`. An
    unknown one changes nothing."""
    found, armed = [], True
    for at in np.flatnonzero(inside & ~np.isnan(past)):
        if past[at] <= RELATIVE:
            if armed:
                found.append(int(at))
            armed = False
        elif past[at] > apart:
            armed = True
    return found


def _far_from_mean(ground: SignalGround) -> Iterator[Signal]:
    """Each week that ended with the yield further from the mean of the 260 weeks before than the
    house asks, once on each side until it has come back to the mean; known from the Monday on."""
    rules, weekly = ground.rules, weekly_values(ground.file, YIELD)
    values, known = weekly.values, ~np.isnan(weekly.values)
    sums = np.concatenate(([0.0], np.cumsum(np.where(known, values, 0.0))))
    counts = np.concatenate(([0], np.cumsum(known)))
    side = 0
    for at in range(len(values)):
        first = max(0, at - WEEKS)
        n = int(counts[at] - counts[first])
        if not known[at] or n < LEAST:
            continue
        mean = float(sums[at] - sums[first]) / n
        away = float(values[at]) / mean - 1
        if side * away <= 0:
            side = 0
        if side == 0 and abs(away) > rules.signal_mean:
            side = 1 if away > 0 else -1
            day: date = weekly.days[at].astype(date)
            yield Signal(
                kind=MEAN_CROSSED,
                day=day + timedelta(days=7 - day.weekday()),
                event=f"{side:+d}/{day.isoformat()}",
                stage=Stage.RANGE,
                said=(
                    "yielded ",
                    Value(float(values[at]), Unit.YIELD),
                    " on ",
                    day,
                    ", ",
                    Value(abs(away), Unit.FRACTION),
                    f" {'above' if side > 0 else 'below'} its five-year mean of ",
                    Value(mean, Unit.YIELD),
                ),
            )


def _money(file: PayerFile, value: float) -> Value:
    return Value(value, Unit.PER_SHARE, file.payer.currency)


REACHED = SignalMaker(kinds=(BUY_REACHED, STEP_REACHED, TRIM_REACHED), make=_reached)
FAR_FROM_MEAN = SignalMaker(kinds=(MEAN_CROSSED,), make=_far_from_mean)
