"""What Worth found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.measure import Sentence, Size
from ..judging.judge import Test
from .reversion import REVERSION
from .worth import OUTSIDE, TAKEN_FOR_GRANTED, Worth


def finding(worth: Worth, _: Sequence[Test]) -> Sentence:
    """Values rest on the dividend going on; where it is over its limit, the finding says so."""
    return (*_values(worth), *_against_price(worth))


def _values(worth: Worth) -> Sentence:
    on = worth.on
    if worth.combined.value is None:
        growth = worth.input("growth")
        if growth.value is None:
            return (f"Worth unknown: {growth.reason}. Type how fast its dividend may grow.",)
        return ("Worth unknown: no model suits this payer as it stands.",)
    if len(on) == 1:
        leans = on[0].id == REVERSION.id
        alone = (", which leans on the payer's own price history only",) if leans else ()
        return (f"{on[0].name} alone: ", worth.combined, *alone)
    ordered = sorted(on, key=lambda m: m.middle.value or 0.0)
    return (
        "Models from ",
        ordered[0].middle,
        " to ",
        ordered[-1].middle,
        "; combined value ",
        worth.combined,
    )


def _against_price(worth: Worth) -> Sentence:
    if worth.combined.value is None:
        return ()
    gap = worth.price_against_buy_below
    granted = tuple(
        f" It {c}." for c in worth.buy_below.cautions if c.startswith((TAKEN_FOR_GRANTED, OUTSIDE))
    )
    if gap.value is None:
        return (f"; {gap.reason}.", *granted)
    side = "over" if gap.value > 0 else "under"
    return ("; price ", Size(figure=gap), f" {side} buy-below.", *granted)
