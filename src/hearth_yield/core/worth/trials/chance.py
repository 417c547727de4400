"""A value when its inputs fall as chance has it: drawn together, many times, from a seed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...figures.arrays import Flags, Floats
from ...figures.figure import Unknown
from ...figures.inputs import Input
from ..inputs import INPUTS
from ..trace import PLAIN, Value
from .revalue import Valuer, middle

DRAWS = 100_000
SEED = 20_240_229
LEAST_GAP = 0.01
"""A required return nearer than this to the growth that lasts is drawn again."""
ROUNDS = 50
BINS = 40
OPPOSED = 0.5
"""How often an exit yield falls as far as growth rises; otherwise it falls as it will."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Simulated:
    """low, median, high: the 10th, 50th and 90th percentile. above: chance that the value exceeds
    the price; None without a price. redrawn: share of all draws that were without limit and made
    again. edges, counts: of a histogram between the 0.5th and the 99.5th percentile."""

    low: float
    median: float
    high: float
    mean: float
    above: float | None
    redrawn: float
    draws: int
    edges: tuple[float, ...]
    counts: tuple[int, ...]


def simulate(valuer: Valuer, draws: int = DRAWS, seed: int = SEED) -> Simulated | Unknown:
    """The mean of the models over draws of growth, required return and exit.

    Each input is drawn from a triangle through its low, middle and high; those that move together
    (all growth, all returns, all exits) share one quantile, and the exit yield's has a rank
    correlation of −0.5 with growth's. Source: docs/method.md, Worth.
    """
    if not valuer.specs:
        return Unknown("no model is on")
    kept = middle(valuer.inputs)
    before = valuer.at(kept)
    if isinstance(before, Unknown):
        return before
    held, redrawn = draw(valuer, draws, seed)
    if held is None:
        return Unknown("the required return lies so near to growth that most draws have no limit")
    values = worth_of_draws(valuer, held)
    low, median, high, first, last = np.quantile(values, (0.1, 0.5, 0.9, 0.005, 0.995))
    price = valuer.ground.file.price.value
    counts, edges = np.histogram(values, BINS, (first, last if last > first else first + 1e-9))
    return Simulated(
        low=float(low),
        median=float(median),
        high=float(high),
        mean=float(values.mean()),
        above=None if price is None else float(np.count_nonzero(values > price) / draws),
        redrawn=redrawn,
        draws=draws,
        edges=tuple(edges.tolist()),
        counts=tuple(counts.tolist()),
    )


def draw(valuer: Valuer, draws: int, seed: int) -> tuple[dict[str, Value] | None, float]:
    """What each drawn input falls to, by id, and the share that was drawn again; None where draws
    without limit do not end."""
    rng = np.random.default_rng(seed)
    moved = [id for id in valuer.inputs if INPUTS[id].draws and _moves(valuer.inputs[id])]
    held = _drawn(valuer, moved, rng, draws)
    again = 0
    for _ in range(ROUNDS):
        bad = np.flatnonzero(_near(valuer, held, draws))
        if bad.size == 0:
            return held, again / (draws + again)
        again += bad.size
        for id, fresh in _drawn(valuer, moved, rng, bad.size).items():
            held[id][bad] = fresh
    return None, 1.0


def worth_of_draws(valuer: Valuer, held: dict[str, Value]) -> Floats:
    """The mean of the models, draw by draw."""
    case = middle(valuer.inputs)
    total: Value = 0.0
    for spec, weight in zip(valuer.specs, valuer.weights, strict=True):
        ids = {id(case[name]): name for name in held}
        read = spec.reads(valuer.ground, case)
        values = [held[ids[id(x)]] if id(x) in ids else x.value for x in read]
        total = total + weight * spec.worth(PLAIN, *values)
    size = next((x.size for x in held.values()), 1)
    return np.broadcast_to(np.asarray(total / sum(valuer.weights), dtype=float), (size,))


def _moves(held: Input) -> bool:
    ends = (held.low.value, held.figure.value, held.high.value)
    return None not in ends and len(set(ends)) > 1


def _drawn(valuer: Valuer, moved: list[str], rng: np.random.Generator, n: int) -> dict[str, Floats]:
    growth, returns, free, joined = rng.random((4, n))
    exits = np.where(joined < OPPOSED, 1 - growth, free)
    quantiles = {
        "growth": growth,
        "return": returns,
        "exit_yield": exits,
        "exit_multiple": 1 - exits,
    }
    return {
        id: triangular(valuer.inputs[id], quantiles[INPUTS[id].draws or "growth"]) for id in moved
    }


def triangular(held: Input, u: Floats) -> Floats:
    """The quantiles u of the triangle through an input's low, middle and high.

    Below F(c) = (c − a) ÷ (b − a): a + √(u (b − a)(c − a)); above: b − √((1 − u)(b − a)(b − c)).
    """
    ends = sorted((held.low.value or 0.0, held.high.value or 0.0))
    a, b = ends
    c = min(max(held.figure.value or 0.0, a), b)
    at = (c - a) / (b - a)
    below, above = (b - a) * (c - a), (b - a) * (b - c)
    rising = u < at
    found = np.sqrt(np.where(rising, u * below, (1 - u) * above))
    return np.where(rising, a + found, b - found)


def _near(valuer: Valuer, held: dict[str, Floats], n: int) -> Flags:
    """Draws in which a sum that goes on for ever has next to no limit."""
    bad = np.zeros(n, dtype=bool)
    for spec in valuer.specs:
        if spec.lasting:
            growth, wanted = (
                held[i] if i in held else np.float64(valuer.inputs[i].figure.value or 0.0)
                for i in spec.lasting
            )
            bad |= wanted - growth < LEAST_GAP
    return bad
