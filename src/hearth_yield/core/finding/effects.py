"""What house rules would say of every payer, read off measures that are held already."""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np
import numpy.typing as npt

from ..figures.arrays import Floats
from ..figures.figure import Unknown
from ..figures.measure import Direction, Limit, Measure, TestSpec
from ..figures.ties import all_at_least, ties
from ..judging.house_rules import HouseRules
from ..judging.judge import WORST_FIRST, State
from ..kinds import Kind
from ..stages import MEASURES
from .search import Mask, Universe

States = npt.NDArray[np.int8]
RANK = {state: place for place, state in enumerate(WORST_FIRST)}
NONE = np.int8(len(WORST_FIRST))
"""No required test, or none that is known to be made."""
RATE = "declared_rate"
STATE_RESTS_ON = tuple(m for m in MEASURES.values() if m.test is not None or m.id == RATE)
"""The measures that the state of a payer is told by."""


def states_under(universe: Universe, rules: HouseRules) -> States:
    """The state of every payer under the rules, as its place in WORST_FIRST; NONE where there is
    none. Elementwise over the universe: thousands of payers are judged while a limit is typed."""
    found = np.full(len(universe), NONE, dtype=np.int8)
    kinds, sectors = _masks(universe, "kind"), _masks(universe, "sector")
    for measure in MEASURES.values():
        if measure.test is None:
            continue
        for kind, mask in kinds.items():
            limit = rules.of_kind(measure, Kind(kind))
            if limit is not None:
                _hold(universe, rules, measure, limit, mask, found, sectors)
    nothing = (universe.values(RATE) == 0) & (found != NONE)
    found[nothing] = RANK[State.PAYING_NOTHING]
    return np.where(universe.listed, found, NONE).astype(np.int8)


def _hold(
    universe: Universe,
    rules: HouseRules,
    measure: Measure,
    limit: Limit,
    mask: Mask,
    found: States,
    sectors: Mapping[str, Mask],
) -> None:
    """One kind's limit on one measure, and the exemptions from it: a payer's before a sector's."""
    left = mask.copy()
    for own in sorted(rules.exemptions, key=lambda x: x.scope != "payer"):
        if own.measure != measure.id:
            continue
        if own.scope == "sector":
            inside = sectors.get(own.name, np.zeros(len(universe), dtype=bool))
        else:
            named = (f"{e.exchange}/{e.symbol}" == own.name for e in universe.candidates)
            inside = np.fromiter(named, dtype=bool, count=len(universe))
        _mark(universe.values(measure.id), measure.test, own.limit, left & inside, rules, found)
        left = left & ~inside
    _mark(universe.values(measure.id), measure.test, limit, left, rules, found)


def _mark(
    values: Floats,
    test: TestSpec | None,
    limit: Limit,
    mask: Mask,
    rules: HouseRules,
    found: States,
) -> None:
    """Takes over the worse of what stands and what this test says."""
    if test is None or not limit.required or not mask.any():
        return
    mine = _states(values[mask], test, limit.value, rules.close_under)
    found[mask] = np.minimum(found[mask], mine)


def _states(values: Floats, test: TestSpec, limit: float, close_under: float) -> States:
    """As judge.state_of, elementwise: beyond all numbers is crossed, or spared."""
    with np.errstate(divide="ignore", invalid="ignore"):
        if test.size is not None:
            cushion = np.array([_sized(test.size[1], v, limit) for v in values], dtype=np.float64)
        elif test.direction is Direction.CAP:
            cushion = 1 - np.maximum(values, 0.0) / limit
        elif test.direction is Direction.FLOOR:
            cushion = np.where(values > 0, 1 - limit / values, -np.inf)
        else:
            passed = all_at_least(values, limit)
            if test.strict:
                passed &= ~ties(values, limit)
            cushion = np.where(passed, np.inf, -np.inf)
        states = np.where(
            all_at_least(1 + cushion, 1.0),
            np.where(all_at_least(cushion, close_under), RANK[State.WITHIN], RANK[State.CLOSE]),
            RANK[State.OUTSIDE],
        )
    return np.where(np.isnan(values), RANK[State.UNKNOWN], states).astype(np.int8)


def _sized(size: Callable[[float, float], float | Unknown], value: float, limit: float) -> float:
    if not np.isfinite(value):
        return 1.0 if value == -np.inf else -np.inf
    found = size(value, limit)
    return -np.inf if isinstance(found, Unknown) else found


def _masks(universe: Universe, choice: str) -> dict[str, Mask]:
    codes, names = universe.words(choice)
    return {name: codes == place for place, name in enumerate(names)}
