"""Yield reversion as it is declared: the price at which it would yield what it usually has."""

from __future__ import annotations

from ..figures.figure import Figure, Touch, Unit, Unknown, derive, touch_of
from ..figures.inputs import Case, Inputs
from ..range.quantity import YIELD
from ..range.ruler import price_at
from ..record.payments import READ_BACK, manual_edits_between
from .declare import Ground, ModelSpec

LEAST_WEEKS = 156


def yield_reversion_value(declared_rate: float, mean_yield: float) -> float:
    """The price at which the declared rate would yield what it usually has.

    declared rate ÷ mean yield; both a year, yield as a fraction, above 0 (MethodError).
    Source: docs/method.md, Worth. 1.40 at 3.5 % → 40.00.
    """
    return price_at(YIELD, declared_rate, mean_yield)


def _value(ground: Ground, case: Case, label: str) -> Figure:
    rate = ground.record.declared_rate
    return derive(
        label,
        Unit.PER_SHARE,
        "declared rate ÷ mean yield",
        [rate, case["mean_yield"]],
        lambda d, y: yield_reversion_value(d, y) if d > 0 else Unknown("nothing is being paid"),
        currency=rate.currency,
    )


def _unsuited(ground: Ground, _: Inputs) -> str | None:
    weeks = len(ground.yields.weeks.values)
    if weeks < LEAST_WEEKS:
        return f"{weeks} weeks of yields; {LEAST_WEEKS} are needed"
    last = ground.record.last_cut
    if last is not None and (ground.file.day - last).days <= 365:
        return f"the dividend was reduced on {last.isoformat()}, within 12 months"
    return None


def _touch(ground: Ground) -> Touch | None:
    since = ground.file.day - READ_BACK
    return touch_of([ground.yields.count.touch, manual_edits_between(ground.file, since)])


REVERSION = ModelSpec(
    id="yield_reversion",
    name="Yield reversion",
    question="At what price would it yield what it usually has?",
    answers="others",
    takes=("mean_yield",),
    value=_value,
    unsuited=_unsuited,
    touch=_touch,
)
