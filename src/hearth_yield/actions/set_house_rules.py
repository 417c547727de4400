"""Set the person's house rules: a new version of them, which counts from now on."""

from __future__ import annotations

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import house_rules
from hearth_yield.store.database import Database

BOUNDS: dict[str, tuple[float, float]] = {
    "margin_of_safety": (0.0, 0.95),
    "close_under": (0.0, 1.0),
    "highest_growth": (0.0, 0.1),
    "early_years": (1, 30),
    "fade_years": (1, 40),
}
"""What each rule must lie between."""


def set_house_rules(database: Database, rules: HouseRules, *, at: str) -> int:
    """Returns the new version. Raises InvalidInput naming the rule that cannot be."""
    check_house_rules(rules)
    with database.write(facts=False) as connection:
        return house_rules.add(connection, rules, at)


def check_house_rules(rules: HouseRules) -> None:
    for name, (low, high) in BOUNDS.items():
        _within(name, getattr(rules, name), low, high)
    for kind, wanted in rules.required_returns.items():
        _within(f"required return of {kind.plural}", wanted, 0.001, 0.5)
    for mine in rules.limits.values():
        for id in mine:
            if id not in MEASURES or MEASURES[id].test is None:
                tested = [m.id for m in MEASURES.values() if m.test]
                raise InvalidInput(
                    "there is no such test",
                    field="limits",
                    value=id,
                    rule=f"one of {', '.join(tested)}",
                )


def _within(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        called = name.replace("_", " ")
        raise InvalidInput(
            f"{called} must lie between {low:g} and {high:g}",
            field=name,
            value=value,
            rule=f"{low:g} ≤ {called} ≤ {high:g}",
        )
