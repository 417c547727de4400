"""A value when its inputs fall as chance has it: drawn together, many times, from a seed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...figures.arrays import Floats
from ...figures.figure import Unknown
from ...figures.inputs import Input
from ..inputs import INPUTS
from ..trace import PLAIN, Value
from .revalue import Valuer, middle

DRAWS = 100_000
SEED = 20_240_229
BINS = 40
BLOCK = 20_000
OPPOSED = 0.5
"""How often an exit yield falls as far as growth rises; otherwise it falls as it will."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Simulated:
    """low, median, high: the 10th, 50th and 90th percentile. above: chance that the value exceeds
    the price; None without a price. edges, counts: of a histogram between the 0.5th and the 99.5th
    percentile."""

    low: float
    median: float
    high: float
    mean: float
    above: float | None
    draws: int
    edges: tuple[float, ...]
    counts: tuple[int, ...]


def simulate(valuer: Valuer, draws: int = DRAWS, seed: int = SEED) -> Simulated | Unknown:
    """The mean of the models over draws of growth, required return and exit.

    Each input is drawn from a triangle through its low, middle and high; those that move together
    (all growth, all returns, all exits) share one quantile, and the exit yield's has a rank
    correlation of −0.5 with growth's. Source: docs/method.md, Worth.
    """
    if valuer.none is not None:
        return Unknown(valuer.none)
    kept = middle(valuer.inputs)
    before = valuer.at(kept)
    if isinstance(before, Unknown):
        return before
    values = np.sort(worth_of_draws(valuer, draw(valuer, draws, seed)))
    low, median, high, first, last = (_quantile(values, q) for q in (0.1, 0.5, 0.9, 0.005, 0.995))
    price = valuer.ground.file.price.value
    edges = np.linspace(first, last if last > first else first + 1e-9, BINS + 1)
    counts = np.diff(np.searchsorted(values, edges))
    return Simulated(
        low=low,
        median=median,
        high=high,
        mean=float(values.mean()),
        above=None if price is None else _share_above(values, price),
        draws=draws,
        edges=tuple(edges.tolist()),
        counts=tuple(counts.tolist()),
    )


def _quantile(ordered: Floats, q: float) -> float:
    """Between the two values that q lies between, by its part."""
    at = q * (len(ordered) - 1)
    low = int(at)
    high = min(low + 1, len(ordered) - 1)
    return float(ordered[low] + (at - low) * (ordered[high] - ordered[low]))


def _share_above(ordered: Floats, price: float) -> float:
    return 1 - int(np.searchsorted(ordered, price, side="right")) / len(ordered)


def draw(valuer: Valuer, draws: int, seed: int) -> dict[str, Value]:
    """What each drawn input falls to, by id."""
    rng = np.random.default_rng(seed)
    taken = {id for spec in valuer.specs for id in spec.takes}
    kinds = (id for id in valuer.inputs if id in taken and INPUTS[id].draws)
    moved = [id for id in kinds if _moves(valuer.inputs[id])]
    return _drawn(valuer, moved, rng, draws)


def worth_of_draws(valuer: Valuer, held: dict[str, Value]) -> Floats:
    """The mean of the models, draw by draw; a block at a time, which stays in the fast memory."""
    size = next((x.size for x in held.values()), 1)
    blocks = [
        _block(valuer, {id: x[at : at + BLOCK] for id, x in held.items()}, min(BLOCK, size - at))
        for at in range(0, size, BLOCK)
    ]
    return np.concatenate(blocks)


def _block(valuer: Valuer, held: dict[str, Value], size: int) -> Floats:
    case = middle(valuer.inputs)
    ids = {id(case[name]): x for name, x in held.items()}
    total: Value = 0.0
    for spec, weight in zip(valuer.specs, valuer.weights, strict=True):
        read = spec.reads(valuer.ground, case)
        total = total + weight * spec.worth(PLAIN, *(ids.get(id(x), x.value) for x in read))
    mean = np.asarray(total / sum(valuer.weights), dtype=float)
    return np.broadcast_to(mean, (size,))


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
    shaped: dict[tuple[str, float], Floats] = {}
    found = {}
    for id in moved:
        kind, (a, at, b) = INPUTS[id].draws or "growth", corners(valuer.inputs[id])
        if (kind, at) not in shaped:
            shaped[kind, at] = triangular(quantiles[kind], at)
        found[id] = a + (b - a) * shaped[kind, at]
    return found


def corners(held: Input) -> tuple[float, float, float]:
    """The lower end of an input's triangle, where between the ends its peak lies, and the upper."""
    a, b = sorted((held.low.value or 0.0, held.high.value or 0.0))
    c = min(max(held.figure.value or 0.0, a), b)
    return a, round((c - a) / (b - a), 12), b


def triangular(u: Floats, at: float) -> Floats:
    """The quantiles u of the triangle over 0 … 1 with its peak at `at`.

    Below F(at) = at: √(u · at); above: 1 − √((1 − u)(1 − at)).
    """
    rising = u < at
    found = np.sqrt(np.where(rising, u * at, (1 - u) * (1 - at)))
    return np.where(rising, found, 1 - found)
