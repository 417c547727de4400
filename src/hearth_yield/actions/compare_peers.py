"""A payer's place among its sector, from the measures that are held of a day."""

from __future__ import annotations

from collections.abc import Collection
from datetime import date

from hearth_yield.core.finding.peer_multiples import PeerMultiples, peer_multiples
from hearth_yield.core.finding.peers import Peers, peers_of
from hearth_yield.core.review import Review

from .ensure_measures import universe
from .review_cache import ReviewCache


def multiples_of_peers(
    cache: ReviewCache, review: Review, out: Collection[str]
) -> tuple[PeerMultiples, int]:
    """What others pay for a payer's peers, and how many payers' measures are still to be made."""
    here, payer = universe(cache, review.as_of), review.payer
    found = peer_multiples(here, payer.exchange, payer.symbol, payer.kind, out)
    return found, int(here.pending.sum())


def compare_peers(cache: ReviewCache, exchange: str, symbol: str, as_of: date) -> tuple[Peers, int]:
    """The strips, and how many payers' measures are still to be made for the day."""
    here = universe(cache, as_of)
    return peers_of(here, exchange, symbol), int(here.pending.sum())
