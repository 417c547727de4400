"""What others pay for a payer's peers, and what it would be worth at the same."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter, Query

from hearth_yield.actions.compare_peers import multiples_of_peers
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.finding.peer_multiples import LEAST, PeerMultiple
from hearth_yield.core.range.measures import multiple_id
from hearth_yield.core.review import Review
from hearth_yield.core.worth.opinions.multiples import peers_id
from hearth_yield.core.worth.own_past import past_over

from .answer import wire
from .context import Here, Reviewed
from .figures import FigureOut, figure_out
from .schemas import Problem
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


@wire
class PeerOut:
    """multiples: by id, null without a meaningful figure. kept: the person left it in."""

    exchange: str
    symbol: str
    name: str
    kept: bool
    multiples: dict[str, float | None]


@wire
class PeerMultipleOut:
    """input: the input of Worth that takes it; model: the model it counts in. own: the payer's
    multiple today. median, mean: null with too few peers; at_median, at_mean: the price at them.
    dropped: peers without a meaningful figure, by name."""

    id: str
    name: str
    short: str
    input: str
    own: FigureOut | None
    count: int
    median: float | None
    mean: float | None
    at_median: float | None
    at_mean: float | None
    dropped: list[str]


@wire
class PeersWorthOut:
    """least: how many peers a multiple needs. pending: payers still to be measured for the day."""

    sector: str | None
    least: int
    peers: list[PeerOut]
    multiples: list[PeerMultipleOut]
    pending: int


@router.get(ONE_PAYER + "/worth/peers")
def peers(
    here: Here, found: Reviewed, out: Annotated[str, Query(max_length=4000)] = ""
) -> PeersWorthOut:
    """The payers of its sector and kind. out: EXCHANGE/SYMBOL of those switched out."""
    held, pending = multiples_of_peers(here.cache, found, _keys(out))
    return PeersWorthOut(
        sector=held.sector,
        least=LEAST,
        pending=pending,
        peers=each(PeerOut, held.peers),
        multiples=[_multiple(found, m) for m in held.multiples],
    )


def _keys(text: str) -> Sequence[str]:
    return [key for key in text.split(",") if key]


def _multiple(review: Review, held: PeerMultiple) -> PeerMultipleOut:
    quantity = held.quantity
    past = past_over(review.worth.trials.ground, quantity)
    base, beside = past.base.value, next((x.value for x in past.beside), 0.0)

    def price(multiple: float | None) -> float | None:
        if multiple is None or base is None or beside is None or base <= 0:
            return None
        return float(quantity.price(base, multiple, beside))

    own = review.stages[Stage.RANGE].figures.get(multiple_id(quantity))
    return fill(
        PeerMultipleOut,
        held,
        id=quantity.id,
        name=quantity.name,
        short=quantity.short,
        input=peers_id(quantity),
        own=figure_out(own, f"range.{multiple_id(quantity)}") if own else None,
        at_median=price(held.median),
        at_mean=price(held.mean),
    )
