"""Set the person's house rules: a new version of them, which counts from now on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.figures.measure import Direction, Limit, Measure
from hearth_yield.core.judging.house_rules import RETURN_BOUNDS, SETTINGS, HouseRules
from hearth_yield.core.signals.make import KINDS
from hearth_yield.core.signals.signal import Whose
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import house_rules
from hearth_yield.store.database import Database

from .overtaken import unless_overtaken

MAX_NOTE = 500
MAX_EXEMPTIONS = 500
MOST = 1000.0
"""No limit is above it: 100,000 %, or so many years."""


def set_house_rules(
    database: Database, rules: HouseRules, *, at: str, note: str = "", begun: int | None = None
) -> int:
    """begun: the version that these rules were changed from. Returns the new version. Raises
    InvalidInput naming the rule that cannot be, Conflict where another version came meanwhile."""
    check_house_rules(rules)
    if len(note) > MAX_NOTE:
        raise InvalidInput(
            "the note is too long",
            field="note",
            value=len(note),
            rule=f"at most {MAX_NOTE} letters",
        )
    with database.write(facts=False) as connection:
        standing = str(house_rules.version(connection))
        unless_overtaken("version", standing, None if begun is None else str(begun))
        return house_rules.add(connection, rules, at, note.strip())


def versions(database: Database) -> Sequence[house_rules.Version]:
    """Every version there was, the newest first."""
    with database.read() as connection:
        return house_rules.versions(connection)


def check_names(settings: Mapping[str, float]) -> None:
    """Raises InvalidInput for a setting there is not."""
    for name in settings:
        if name not in SETTINGS:
            raise InvalidInput(
                "there is no such setting",
                field="settings",
                value=name,
                rule=f"one of {', '.join(SETTINGS)}",
            )


def restore_house_rules(database: Database, version: int, *, at: str) -> int:
    """An earlier version counts again, as a new one; version 0: the house's own. Returns its
    number. Raises NotFound."""
    with database.write(facts=False) as connection:
        known = {v.number for v in house_rules.versions(connection)} | {0}
        if version not in known:
            raise NotFound(
                "there is no such version of the house rules", field="version", value=version
            )
        said = f"version {version} again" if version else "the house's own again"
        return house_rules.add(connection, house_rules.of_version(connection, version), at, said)


def check_house_rules(rules: HouseRules) -> None:
    for name, setting in SETTINGS.items():
        value = getattr(rules, name)
        _within(setting.name, name, value, setting.low, setting.high)
        if setting.whole and value != round(value):
            raise InvalidInput(
                f"{setting.name.lower()} is a whole number",
                field=name,
                value=value,
                rule="a whole number",
            )
    for kind, wanted in rules.required_returns.items():
        _within(f"required return of {kind.plural}", "required_returns", wanted, *RETURN_BOUNDS)
    _at_most("too many countries that withhold tax", "withheld", len(rules.withheld))
    for country, rate in rules.withheld.items():
        _within(f"what is withheld by {country[:40]}", "withheld", rate, 0.0, 1.0)
        credited = rules.withheld_credited * rate
        if rate + max(0.0, rules.dividend_tax - credited) > 1:
            raise InvalidInput(
                "more is taken of a dividend than there is of it",
                field="withheld",
                value=f"{country[:40]} {rate:g} and {rules.dividend_tax:g} at home",
                rule="together at most 1, or what is withheld credited at home",
            )
    for mine in rules.limits.values():
        for id, limit in mine.items():
            _check_limit("limits", id, limit)
    _at_most(
        "too many payers with a choice of their own", "built_up_payers", len(rules.built_up_payers)
    )
    _at_most("too many exceptions", "exemptions", len(rules.exemptions))
    for asked, of in rules.signals.items():
        if asked not in KINDS or of not in KINDS[asked].of:
            raise InvalidInput(
                "there is no such kind of signal, or of whom it could be asked",
                field="signals",
                value=f"{asked}: {of}",
                rule=f"one of {', '.join(KINDS)}; one of {', '.join(Whose)}",
            )
    for own in rules.exemptions:
        if own.scope not in ("sector", "payer") or not own.name.strip():
            raise InvalidInput(
                "an exception is of a sector or a payer",
                field="exemptions",
                value=own.name,
                rule="a sector, or EXCHANGE/SYMBOL",
            )
        _check_limit("exemptions", own.measure, own.limit)


def _at_most(said: str, field: str, count: int) -> None:
    if count > MAX_EXEMPTIONS:
        raise InvalidInput(said, field=field, value=count, rule=f"at most {MAX_EXEMPTIONS}")


def tested_measure(field: str, id: str) -> Measure:
    """Raises InvalidInput where there is no test of that name."""
    if id not in MEASURES or MEASURES[id].test is None:
        tested = [m.id for m in MEASURES.values() if m.test]
        raise InvalidInput(
            "there is no such test", field=field, value=id, rule=f"one of {', '.join(tested)}"
        )
    return MEASURES[id]


def _check_limit(field: str, id: str, limit: Limit) -> None:
    test = tested_measure(field, id).test
    low = -MOST if test is not None and test.direction is Direction.PASS else 0.0
    if low == 0.0 and limit.value == 0.0:
        low = 1e-6
    _within(f"the limit on {MEASURES[id].name}", field, limit.value, low, MOST)


def _within(called: str, field: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        what = called[0].lower() + called[1:]
        raise InvalidInput(
            f"{what} must lie between {low:g} and {high:g}",
            field=field,
            value=value,
            rule=f"{low:g} ≤ {what} ≤ {high:g}",
        )
