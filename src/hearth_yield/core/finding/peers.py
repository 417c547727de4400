"""A payer's place among those of its sector. (docs/method.md, Footing, Peers)"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..figures.arrays import Floats
from ..figures.ties import ties
from ..stages import MEASURES
from .search import Candidate, Mask, Universe

Better = Literal["less", "more"]
COMPARED: Mapping[str, tuple[Better, str]] = {
    "payout": ("less", "a lower payout"),
    "payout_cycle": ("less", "a lower payout through the cycle"),
    "debt_to_ebitda": ("less", "less debt to EBITDA"),
    "interest_cover": ("more", "more interest cover"),
    "debt_to_assets": ("less", "less debt to assets"),
    "capital_ratio": ("more", "more capital"),
    "operating_margin": ("more", "a higher operating margin"),
    "cash_margin": ("more", "a higher cash margin"),
    "return_on_capital": ("more", "a higher return on capital"),
    "return_on_equity": ("more", "a higher return on equity"),
    "revenue_growth": ("more", "faster revenue"),
    "share_growth": ("less", "fewer new shares"),
    "growth_5": ("more", "a faster dividend"),
    "yield": ("more", "a higher yield"),
}
"""What is compared, which way speaks for a payer, and how its being so is said."""


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
    better: Better
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
BEST: Mapping[Better, float] = {"more": np.inf, "less": -np.inf}
"""Where what is spared stands: no interest to pay is better than any cover of it."""


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
    strips = [_strip(universe, id, here, inside) for id in COMPARED if id in MEASURES]
    return Peers(sector=names[codes[here]], strips=[s for s in strips if s.peers >= LEAST])


def _strip(universe: Universe, id: str, here: int, inside: Mask) -> Strip:
    values = universe.values(id)
    better, words = COMPARED[id]
    sized: list[int] = np.flatnonzero(inside & np.isfinite(values)).tolist()
    placed = np.isfinite(values) | (values == BEST[better])
    others = [n for n in np.flatnonzero(inside & placed).tolist() if n != here]
    order = sorted(sized, key=lambda n: (values[n], universe.candidates[n].name))
    beyond: list[int] = np.flatnonzero(inside & np.isinf(values)).tolist()
    return Strip(
        id=id,
        name=MEASURES[id].name,
        better=better,
        words=words,
        dots=[_dot(universe.candidates[n], float(values[n]), n == here) for n in order],
        median=float(np.median(values[sized])) if sized else None,
        peers=len(others),
        ahead=place_among(float(values[here]), values[others], better) if placed[here] else None,
        beyond=[universe.candidates[n].name for n in beyond],
    )


def place_among(mine: float, others: Floats, better: Better) -> float | None:
    """The share of others that a value is better than, ties counting half (a mid-rank).

    Source: docs/method.md, Footing, Peers. 2 among 1, 2, 3, 4, where less is better: (2 + ½) ÷ 4
    → 0.625.
    """
    if np.isnan(mine) or not len(others):
        return None
    same = ties(others, mine)
    worse = (others > mine) if better == "less" else (others < mine)
    return float(((worse & ~same).sum() + 0.5 * same.sum()) / len(others))


def _dot(entry: Candidate, value: float, mine: bool) -> Dot:
    return Dot(
        exchange=entry.exchange, symbol=entry.symbol, name=entry.name, value=value, mine=mine
    )
