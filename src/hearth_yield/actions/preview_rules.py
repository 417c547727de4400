"""What changed house rules would do to the payers held, before they are saved."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

import numpy as np

from hearth_yield.core.finding.effects import NONE, states_under
from hearth_yield.core.finding.search import Universe
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import WORST_FIRST

from .ensure_measures import universe
from .review_cache import ReviewCache
from .set_house_rules import check_house_rules

MAX_MOVED = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class MovedPayer:
    exchange: str
    symbol: str
    name: str
    before: str
    after: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Effect:
    """moved: payers whose state would change, at most MAX_MOVED of `changed`. before, after: how
    many payers stand in each state. pending: payers whose measures are still to be made."""

    moved: Sequence[MovedPayer]
    changed: int
    payers: int
    pending: int
    before: Mapping[str, int]
    after: Mapping[str, int]


def preview_rules(
    cache: ReviewCache, as_of: date, standing: HouseRules, rules: HouseRules
) -> Effect:
    """Raises InvalidInput for rules that cannot be."""
    check_house_rules(rules)
    here = universe(cache, as_of)
    before, after = states_under(here, standing), states_under(here, rules)
    known = np.array([e.measured is not None for e in here.candidates], dtype=bool)
    changed = np.flatnonzero((before != after) & known)
    names = [*(s.value for s in WORST_FIRST), "none"]
    return Effect(
        moved=[_moved(here, int(n), names[before[n]], names[after[n]]) for n in changed][
            :MAX_MOVED
        ],
        changed=len(changed),
        payers=int(here.listed.sum()),
        pending=int(here.pending.sum()),
        before=_tally(before[known], names),
        after=_tally(after[known], names),
    )


def _moved(here: Universe, n: int, before: str, after: str) -> MovedPayer:
    entry = here.candidates[n]
    return MovedPayer(
        exchange=entry.exchange, symbol=entry.symbol, name=entry.name, before=before, after=after
    )


def _tally(states: np.ndarray, names: Sequence[str]) -> dict[str, int]:
    counts = Counter(int(s) for s in states if s != NONE)
    return {name: counts.get(n, 0) for n, name in enumerate(names[:-1])}
