"""Yield reversion as it is declared: the price at which it would yield what it usually has.

1.40 at 3.5 % → 40.00. (docs/method.md, Worth)
"""

from __future__ import annotations

from ..figures.figure import Touch, Unknown, touch_of
from ..figures.inputs import Inputs
from ..range.quantity import YIELD
from ..record.payments import READ_BACK, manual_edits_between
from .declare import Ground, ModelSpec

LEAST_WEEKS = 156


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
    reads=lambda ground, case: [ground.record.declared_rate, case["mean_yield"]],
    worth=lambda _, rate, mean: rate / mean,
    refuses=lambda rate, _: None if rate > 0 else Unknown(YIELD.nothing),
    formula="declared rate ÷ mean yield",
    unsuited=_unsuited,
    touch=_touch,
)
