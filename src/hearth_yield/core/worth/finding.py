"""What Worth found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.measure import Sentence
from ..figures.saying import beside
from ..judging.judge import Test
from .words import no_value, told
from .worth import OUTSIDE, TAKEN_FOR_GRANTED, Worth


def finding(worth: Worth, _: Sequence[Test]) -> Sentence:
    """Values rest on the dividend going on; where it is over its limit, the finding says so."""
    return (*_values(worth), *_against_price(worth))


def _values(worth: Worth) -> Sentence:
    if worth.combined.value is None:
        return no_value(worth)
    counting = worth.counting
    if len(counting) == 1:
        leans = counting[0].id == "past"
        alone = (", which leans on its own price history only",) if leans else ()
        return (f"{counting[0].name} alone: ", worth.combined, *alone)
    return ("Worth ", worth.combined, ": ", *told(counting))


def _against_price(worth: Worth) -> Sentence:
    if worth.combined.value is None:
        return ()
    gap = worth.price_against_buy_below
    granted = tuple(
        f" It {c}." for c in worth.buy_below.cautions if c.startswith((TAKEN_FOR_GRANTED, OUTSIDE))
    )
    if gap.value is None:
        return (f"; {gap.reason}.", *granted)
    return ("; price ", *beside(gap, "buy-below"), ".", *granted)
