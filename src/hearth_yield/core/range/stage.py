"""Range: is it paying more than it usually does for the price?"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..facts.payer_file import PayerFile
from ..figures.figure import Figure
from ..record.history import Record
from .aim import Aim, aim_at, target_at_price
from .distance import Distance
from .multiples import SUITS
from .price import Priced
from .quantity import YIELD, Quantity
from .ruler import Ruler, ruler_of, value_now
from .weekly import weekly_values

WORTH_WINDOW = "5"
"""The window that Worth returns to, whichever is shown."""


@dataclass(frozen=True, slots=True, kw_only=True)
class RangeStage:
    """yields: the yield in the window asked for, which the measures read; shown: the quantity asked
    for, in that window; multiples: those that suit the payer, as
    they are today, by quantity; price: what the price did, and distance: how far it stood from what
    is usual, each built when it is asked for."""

    yields: Ruler
    shown: Ruler
    multiples: Mapping[str, Figure]
    price: Priced
    distance: Distance


def build_range(
    file: PayerFile,
    record: Record,
    quantity: Quantity = YIELD,
    window: str = WORTH_WINDOW,
    typical: str = "",
) -> RangeStage:
    weekly = weekly_values(file, YIELD)
    shown = yields = ruler_of(file, record, window, YIELD, weekly)
    if quantity is not YIELD or typical not in ("", YIELD.typical):
        own = weekly if quantity is YIELD else None
        shown = ruler_of(file, record, window, quantity, own, typical)
    multiples = {q.id: value_now(file, record, q) for q in SUITS[file.payer.kind]}
    return RangeStage(
        yields=yields,
        shown=shown,
        multiples=multiples,
        price=Priced(file=file, quantity=quantity),
        distance=Distance(file=file, record=record, ruler=shown),
    )


def aim_of(
    file: PayerFile, ruler: Ruler, target: float | None, target_price: float | None
) -> Aim | None:
    """The aim asked for, as a value or as a price; without one, today's own value."""
    touch, typed = None, True
    if target_price is not None:
        target, touch = target_at_price(ruler, target_price), ruler.base.touch
    elif target is None:
        target, touch, typed = ruler.now.value, ruler.now.touch, False
    return None if target is None else aim_at(file, ruler, target, touch, typed=typed)
