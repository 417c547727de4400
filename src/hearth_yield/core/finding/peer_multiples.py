"""What others pay for a payer's peers: each multiple over its sector. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

from ..kinds import Kind
from ..range.measures import multiple_id
from ..range.multiples import SUITS
from ..range.quantity import Quantity
from .search import Candidate, Mask, Universe

LEAST = 3
"""Fewer peers with a meaningful figure say nothing."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Peer:
    """One peer, and whether the person left it in. multiples: by quantity, None without a
    meaningful one."""

    exchange: str
    symbol: str
    name: str
    kept: bool
    multiples: dict[str, float | None]

    @property
    def key(self) -> str:
        return f"{self.exchange}/{self.symbol}"


@dataclass(frozen=True, slots=True, kw_only=True)
class PeerMultiple:
    """One multiple over the peers that were left in. median, mean: None with fewer than three;
    dropped: names of those without a meaningful figure."""

    quantity: Quantity
    count: int
    median: float | None
    mean: float | None
    dropped: Sequence[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class PeerMultiples:
    """sector: None where none is on record."""

    sector: str | None
    peers: Sequence[Peer]
    multiples: Sequence[PeerMultiple]


def peer_multiples(
    universe: Universe, exchange: str, symbol: str, kind: Kind, out: Collection[str]
) -> PeerMultiples:
    """The listed payers of a payer's sector and kind, as measured on a day.

    out: EXCHANGE/SYMBOL of peers that the person switched out.
    """
    here = next(
        (
            n
            for n, e in enumerate(universe.candidates)
            if (e.exchange, e.symbol) == (exchange, symbol)
        ),
        None,
    )
    codes, names = universe.words("sector")
    if here is None or codes[here] < 0:
        return PeerMultiples(sector=None, peers=(), multiples=())
    inside: Mask = (codes == codes[here]) & universe.listed
    inside[here] = False
    places = [n for n in np.flatnonzero(inside).tolist() if _kind(universe.candidates[n]) == kind]
    held = {q.id: universe.values(multiple_id(q)) for q in SUITS[kind]}
    peers = [
        Peer(
            exchange=e.exchange,
            symbol=e.symbol,
            name=e.name,
            kept=f"{e.exchange}/{e.symbol}" not in out,
            multiples={
                id: float(v[n]) if np.isfinite(v[n]) and v[n] > 0 else None
                for id, v in held.items()
            },
        )
        for n in places
        for e in (universe.candidates[n],)
    ]
    return PeerMultiples(
        sector=names[codes[here]],
        peers=peers,
        multiples=[_over(q, [p for p in peers if p.kept]) for q in SUITS[kind]],
    )


def _kind(entry: Candidate) -> str | None:
    return entry.measured.words["kind"] if entry.measured else None


def _over(quantity: Quantity, peers: Sequence[Peer]) -> PeerMultiple:
    values = [v for p in peers if (v := p.multiples[quantity.id]) is not None]
    enough = len(values) >= LEAST
    return PeerMultiple(
        quantity=quantity,
        count=len(values),
        median=float(np.median(values)) if enough else None,
        mean=float(np.mean(values)) if enough else None,
        dropped=[p.name for p in peers if p.multiples[quantity.id] is None],
    )
