"""A payer's place among those of its sector. (docs/method.md, Footing, Peers)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..figures.arrays import Floats
from ..figures.figure import Unit
from ..figures.measure import AmongPeers, End, Measure
from ..figures.ties import ties
from ..stages import MEASURES
from .search import Candidate, Mask, Universe


@dataclass(frozen=True, slots=True, kw_only=True)
class Dot:
    """A payer on a strip. mine: the one whose place is told."""

    exchange: str
    symbol: str
    name: str
    value: float
    mine: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Strip:
    """One measure over a sector. dots: by value; peers: others that have a place; ahead: the share
    of them that the payer does better than, ties counting half; None while it has none itself.
    beyond: those whose figure has no size, by name. words: the sentence's middle."""

    id: str
    name: str
    unit: Unit
    words: str
    dots: Sequence[Dot]
    median: float | None
    peers: int
    ahead: float | None
    beyond: Sequence[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Peers:
    """sector: None where none is on record; strips: those on which two peers or more have a
    value."""

    sector: str | None
    strips: Sequence[Strip]


LEAST = 2


def peers_of(universe: Universe, exchange: str, symbol: str) -> Peers:
    """A payer against the listed payers of its sector and kind of figures, as measured on a day."""
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
        return Peers(sector=None, strips=())
    inside: Mask = (codes == codes[here]) & universe.listed
    inside[here] = True
    told = [(m, m.peers) for m in MEASURES.values() if m.peers]
    told.sort(key=lambda x: x[1].place)
    strips = [_strip(universe, m, among, here, inside) for m, among in told]
    return Peers(sector=names[codes[here]], strips=[s for s in strips if s.peers >= LEAST])


def _strip(
    universe: Universe, measure: Measure, among: AmongPeers, here: int, inside: Mask
) -> Strip:
    values = universe.values(measure.id)
    sized: list[int] = np.flatnonzero(inside & np.isfinite(values)).tolist()
    # What is spared is better than any size: no interest to pay than any cover of it.
    best = -np.inf if measure.better == "low" else np.inf
    placed = np.isfinite(values) | (values == best)
    others = [n for n in np.flatnonzero(inside & placed).tolist() if n != here]
    order = sorted(sized, key=lambda n: (values[n], universe.candidates[n].name))
    beyond: list[int] = np.flatnonzero(inside & np.isinf(values)).tolist()
    return Strip(
        id=measure.id,
        name=measure.name,
        unit=measure.unit,
        words=among.words,
        dots=[_dot(universe.candidates[n], float(values[n]), n == here) for n in order],
        median=float(np.median(values[sized])) if sized else None,
        peers=len(others),
        ahead=place_among(float(values[here]), values[others], measure.better)
        if placed[here]
        else None,
        beyond=[universe.candidates[n].name for n in beyond],
    )


def place_among(mine: float, others: Floats, better: End) -> float | None:
    """The share of others that a value is better than, ties counting half (a mid-rank).

    Source: docs/method.md, Footing, Peers. 2 among 1, 2, 3, 4, where low is better: (2 + ½) ÷ 4
    → 0.625.
    """
    if np.isnan(mine) or not len(others):
        return None
    same = ties(others, mine)
    worse = (others > mine) if better == "low" else (others < mine)
    return float(((worse & ~same).sum() + 0.5 * same.sum()) / len(others))


def _dot(entry: Candidate, value: float, mine: bool) -> Dot:
    return Dot(
        exchange=entry.exchange, symbol=entry.symbol, name=entry.name, value=value, mine=mine
    )
