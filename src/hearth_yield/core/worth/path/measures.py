"""What a return path goes by: a measure per share at an exit multiple, or the dividend at an exit
yield; and what makes the measure grow."""

from __future__ import annotations

from ...kinds import Kind
from ...range.multiples import EV_TO_EBITDA, MULTIPLES, SUITS
from ...range.quantity import YIELD, Quantity
from ..declare import Ground

PATH_QUANTITIES: dict[str, Quantity] = {
    q.id: q for q in (YIELD, *MULTIPLES) if q is not EV_TO_EBITDA
}
PATH_BY = ("trend", "estimates", "guidance", "drivers")
"""Its own trend, what analysts expect, what the payer guides to, or revenue, margin and shares."""
EXPECTED = ("estimates", "guidance")
NO_DRIVERS = ("yield", "sales", "book")
"""Measures that no margin of revenue leads to."""


def exit_of(quantity: Quantity) -> str | None:
    """The input that says what a path sells at of this quantity; None where debt has a part."""
    if quantity.id not in PATH_QUANTITIES:
        return None
    return "path_yield" if quantity is YIELD else "path_multiple"


def path_quantity(ground: Ground) -> Quantity:
    """The one chosen, or the first that suits the kind; a partnership's distributable cash."""
    return PATH_QUANTITIES[
        ground.choices.path_measure or measures_for(ground.file.payer.kind)[0].id
    ]


def path_by(ground: Ground) -> str:
    return ground.choices.path_by or PATH_BY[0]


def measures_for(kind: Kind) -> list[Quantity]:
    """What a path of a payer of a kind may go by."""
    return [q for q in (*SUITS[kind], YIELD) if q.id in PATH_QUANTITIES]
