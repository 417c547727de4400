"""A payer's place among its sector, from the measures that are held of a day."""

from __future__ import annotations

from datetime import date

from hearth_yield.core.finding.peers import Peers, peers_of

from .ensure_measures import universe
from .review_cache import ReviewCache


def compare_peers(cache: ReviewCache, exchange: str, symbol: str, as_of: date) -> tuple[Peers, int]:
    """The strips, and how many payers' measures are still to be made for the day."""
    here = universe(cache, as_of)
    return peers_of(here, exchange, symbol), int(here.pending.sum())
