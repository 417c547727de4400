"""Growth as models take it: held to a house rule, taken to either side, and under the return that
is asked, or a sum has no limit. (docs/method.md, Worth)"""

from __future__ import annotations

from typing import Any

from ..figures.figure import Figure, Unknown, percent
from ..figures.inputs import YOURS, Along, Shift
from ..figures.ties import above
from .trace import Value, lower_of

SLOWER: Shift = (lambda g: g - 0.01, "− 1 point")
ROOM = 0.02
"""By so much growth for ever stays under the required return."""
POINT = 0.01
FASTER: Shift = (lambda g: g + 0.01, "+ 1 point")


def for_ever(of: str, most: float | None = None) -> Along:
    """As far as a growth is taken to go on for ever: at most what the house allows.

    most: less than that, for what grows in total.
    """

    def highest(ground: Any) -> float:
        held: float = ground.rules.highest_growth
        return held if most is None else min(held, most)

    return Along(of=of, most=highest, apart=POINT, rule="house rule")


def held_for_ever(growth: Value, r: Value) -> Value:
    """Growth that goes on for ever, held to two points under the return that is asked: nearer to it
    a sum says nothing but how near it is. Source: docs/method.md, Worth."""
    return lower_of(growth, r - ROOM)


def too_fast(growth: Figure, r: Figure) -> Unknown | None:
    """Why a growth for ever that the person typed is not worked with; None where it is."""
    if YOURS not in growth.notes or growth.value is None or r.value is None:
        return None
    if not above(growth.value, r.value - ROOM):
        return None
    return Unknown(
        f"growth {percent(growth.value, 1)} for ever is not two points under the required return "
        f"{percent(r.value, 1)}; the sum would have next to no limit"
    )
