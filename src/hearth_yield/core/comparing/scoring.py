"""Points and ranking of a few payers, and how firmly they hold. (docs/method.md, Compare)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..figures.arrays import Floats
from ..figures.figure import Figure
from ..figures.measure import Better, Measure

DRAWS = 10_000
SEED = 20_260_630
CLOSE = 1e-12


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One measure of the payers compared. better: which end of it wins; weight: what the best gets
    as points, 0 or more. figures: as they are compared, in one currency; own: as each payer has
    them."""

    measure: Measure
    better: Better
    weight: float
    figures: tuple[Figure | None, ...]
    own: tuple[Figure | None, ...] = ()

    @property
    def values(self) -> Floats:
        """NaN where a figure is missing; a breach without size and what is spared lie beyond every
        number, each on its side."""
        return np.array([_value(f, self.measure) for f in self.figures], dtype=np.float64)

    @property
    def best(self) -> tuple[int, ...]:
        """The places of the best; ties share it. A missing value never wins, nor does a breach; and
        of a measure without a better end nobody is the best until it is given a weight."""
        if self.measure.better == "neither" and self.weight == 0:
            return ()
        values = self.values
        known = ~np.isnan(values) & ~self._breached
        if not known.any():
            return ()
        held = values[known]
        top = held.max() if self.better == "high" else held.min()
        return tuple(int(i) for i in np.flatnonzero(known & (values == top)))

    @property
    def _breached(self) -> np.ndarray:
        return np.array([f is not None and f.breach is not None for f in self.figures])

    @property
    def shares(self) -> Floats:
        """What part of the weight each payer gets."""
        found = np.zeros(len(self.figures))
        best = self.best
        if best:
            found[list(best)] = 1 / len(best)
        return found


def _value(figure: Figure | None, measure: Measure) -> float:
    if figure is None:
        return np.nan
    if figure.value is not None:
        return figure.value
    above = measure.breach == "above"
    if figure.breach is not None:
        return np.inf if above else -np.inf
    if figure.spared is not None:
        return -np.inf if above else np.inf
    return np.nan


@dataclass(frozen=True, slots=True, kw_only=True)
class Switch:
    """The weight of one measure at which another payer comes first, the other weights as they are.
    leaders: who then shares the first place."""

    line: int
    weight: float
    leaders: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Scores:
    """totals: points by payer; ranks from 1, ties share theirs; firmness: the share of random
    weightings in which each comes first, None without a measure that anyone wins. switches: by
    measure, the nearest first."""

    totals: tuple[float, ...]
    ranks: tuple[int, ...]
    firmness: tuple[float, ...] | None
    switches: tuple[Switch, ...]

    @property
    def leaders(self) -> tuple[int, ...]:
        return tuple(i for i, rank in enumerate(self.ranks) if rank == 1)


def score(lines: Sequence[Line], payers: int) -> Scores:
    """The best of each measure gets its weight as points; ties share it."""
    shares = np.array([x.shares for x in lines]).reshape(len(lines), payers)
    weights = np.array([x.weight for x in lines], dtype=np.float64)
    totals = weights @ shares if len(lines) else np.zeros(payers)
    ranks = [1 + int((totals > t + CLOSE).sum()) for t in totals]
    return Scores(
        totals=tuple(float(t) for t in totals),
        ranks=tuple(ranks),
        firmness=firmness(shares),
        switches=_switches(shares, weights, totals),
    )


def firmness(shares: Floats, draws: int = DRAWS, seed: int = SEED) -> tuple[float, ...] | None:
    """The share of random weightings in which each payer comes first; ties share the first place.

    Weights are drawn evenly over all that sum to one (Dirichlet with ones), seeded.

    shares: by measure and payer, what part of the weight each payer gets.
    """
    counted = shares[shares.sum(axis=1) > 0]
    if len(counted) == 0:
        return None
    weights = np.random.default_rng(seed).dirichlet(np.ones(len(counted)), draws)
    totals = weights @ counted
    first = totals >= totals.max(axis=1, keepdims=True) - CLOSE
    return tuple(float(x) for x in (first / first.sum(axis=1, keepdims=True)).mean(axis=0))


def _switches(shares: Floats, weights: Floats, totals: Floats) -> tuple[Switch, ...]:
    """For each measure the nearest weight at which someone draws level with who leads alone."""
    leaders = np.flatnonzero(totals >= totals.max() - CLOSE) if len(totals) else np.array([])
    if len(leaders) != 1 or totals.max() <= 0:
        return ()
    ahead = int(leaders[0])
    found = []
    for n, row in enumerate(shares):
        slopes, gaps = row - row[ahead], totals[ahead] - totals
        with np.errstate(divide="ignore", invalid="ignore"):
            steps = np.where(slopes != 0, gaps / slopes, np.nan)
        steps[ahead] = np.nan
        steps[weights[n] + steps < -CLOSE] = np.nan
        if np.isnan(steps).all():
            continue
        step = float(np.nanmin(np.abs(steps)))
        level = np.flatnonzero(np.abs(np.abs(steps) - step) <= CLOSE)
        weight = max(0.0, float(weights[n] + steps[level[0]]))
        found.append(Switch(line=n, weight=weight, leaders=tuple(int(i) for i in level)))
    return tuple(sorted(found, key=lambda s: abs(s.weight - weights[s.line])))
