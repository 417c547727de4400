"""What Footing found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.measure import Part, Sentence
from ..figures.ties import at_least
from ..judging.judge import State, Test
from .balance import NO_NET_DEBT
from .measures import DEBT_TO_EBITDA
from .stage import Footing

CREEP_CALLED_OUT = 0.005
"""Points a year by which costs outgrew revenue, from which on it is said."""


def finding(footing: Footing, tests: Sequence[Test]) -> Sentence:
    if not footing.kind.is_judged and footing.balance is None:
        return ("Not judged: what stands behind a fund, bond or other is not held here.",)
    if footing.balance is None:
        return ("No statement is held, so that nothing can be said of its footing.",)
    return (*balance_words(tests), ".", *_business(footing))


def balance_words(tests: Sequence[Test]) -> Sentence:
    """The required test that gives first, and the one after it."""
    needed = [t for t in tests if t.required]
    if not needed:
        return ("No required test is made of its balance sheet",)
    first, *others = needed
    if first.state is State.UNKNOWN and all(t.state is State.UNKNOWN for t in others):
        return (f"Unknown: {first.measure.reason}",)
    parts: list[Part] = [*_said(first, capital=True)]
    for other in others[:1]:
        parts += ["; ", *_said(other)]
    return tuple(parts)


def _said(test: Test, *, capital: bool = False) -> Sentence:
    name = test.short[:1].upper() + test.short[1:] if capital else test.short
    if test.measure.spared:
        return (f"{name}: {test.measure.spared}",)
    if test.measure.breach:
        return (f"{name}: {test.measure.breach}",)
    if test.state is State.UNKNOWN:
        return (f"{name} unknown",)
    if test.id == DEBT_TO_EBITDA.id and (test.measure.value or 0.0) <= 0:
        return (NO_NET_DEBT.capitalize() if capital else NO_NET_DEBT,)
    room = test.cushion
    if not at_least(1 + (room.value or 0.0), 1.0):
        return (f"{name} ", test.measure, f", {test.beyond}")
    return (f"{name} ", test.measure, f"; {test.falls} can fall ", room)


def _business(footing: Footing) -> Sentence:
    """Squeeze and cost creep, named when they hold."""
    course = footing.course
    if course.squeezed:
        return (" Squeezed: over five years ", *course.squeeze, ".")
    if creeps(footing):
        cost, revenue = course.cost_growth, course.revenue_growth
        return (" Costs outgrew revenue: ", cost, " a year against ", revenue, ".")
    return ()


def creeps(footing: Footing) -> bool:
    """Whether costs outgrew revenue by enough to be said."""
    cost, revenue = footing.course.cost_growth.value, footing.course.revenue_growth.value
    return cost is not None and revenue is not None and cost - revenue >= CREEP_CALLED_OUT
