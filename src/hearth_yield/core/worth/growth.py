"""Growth as models take it: held to a house rule, taken to either side, and under the return that
is asked, or a sum has no limit. (docs/method.md, Worth)"""

from __future__ import annotations

from ..figures.figure import Figure, Unit, Unknown, derive, given, percent
from ..figures.inputs import Shift
from ..figures.ties import above

SLOWER: Shift = (lambda g: g - 0.01, "− 1 point")
FASTER: Shift = (lambda g: g + 0.01, "+ 1 point")


def at_most(label: str, growth: Figure, most: float) -> Figure:
    """Growth, held to a house rule."""
    rule = given("house rule", Unit.FRACTION, most, f"at most {percent(most)}")
    return derive(
        label, Unit.FRACTION, "the lower of growth and the house rule", [growth, rule], min
    )


def limitless(growth: float, r: float) -> Unknown | None:
    """Why a sum that grows for ever has no limit; None where it has one."""
    if above(r, growth):
        return None
    return Unknown(
        f"growth {percent(growth, 1)} is not below the required return {percent(r, 1)}; "
        "the sum has no limit"
    )
