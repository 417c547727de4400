"""Yield reversion as it is declared: the price at which it would yield what it usually has.

1.40 at 3.5 % → 40.00. (docs/method.md, Worth)
"""

from __future__ import annotations

from ..figures.figure import Touch, Unknown, touch_of
from ..range.quantity import YIELD
from ..record.payments import READ_BACK, manual_edits_between
from .declare import EVERY_KIND, Ground, ModelSpec
from .own_past import WEEKS_BACK, past_of, too_few_weeks


def _touch(ground: Ground) -> Touch | None:
    since = ground.file.day - WEEKS_BACK - READ_BACK
    count = past_of(ground, YIELD).count
    return touch_of([count.touch, manual_edits_between(ground.file, since)])


REVERSION = ModelSpec(
    id="yield_reversion",
    name="Yield reversion",
    question="At what price would it yield what it usually has?",
    answers="past",
    leads=EVERY_KIND,
    takes=("mean_yield",),
    reads=lambda ground, case: [ground.record.declared_rate, case["mean_yield"]],
    worth=lambda _, rate, mean: rate / mean,
    refuses=lambda rate, _: None if rate > 0 else Unknown(YIELD.nothing),
    formula="declared rate ÷ mean yield",
    unsuited=lambda ground, _: too_few_weeks(ground, YIELD),
    touch=_touch,
)
