"""The person's house rules: every version of them, the newest counting."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, fields
from typing import Any

from sqlalchemy import Connection, func, insert, select

from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.judging.house_rules import Exemption, HouseRules
from hearth_yield.core.kinds import Kind

from .tables import house_rules


def version(connection: Connection) -> int:
    """Of the rules that count; 0 while the house's own stand untouched."""
    return int(connection.scalar(select(func.coalesce(func.max(house_rules.c.version), 0))) or 0)


def of_version(connection: Connection, wanted: int) -> HouseRules:
    """The house's own where there is no such version."""
    query = select(house_rules.c.body).where(house_rules.c.version == wanted)
    body = connection.scalar(query)
    return HouseRules() if body is None else from_body(body)


@dataclass(frozen=True, slots=True, kw_only=True)
class Version:
    """One version of the rules: when it was made, and the person's note on it."""

    number: int
    made_at: str
    note: str


def versions(connection: Connection) -> Sequence[Version]:
    """Every version, the newest first."""
    query = select(house_rules.c.version, house_rules.c.made_at, house_rules.c.note)
    return [
        Version(number=r.version, made_at=r.made_at, note=r.note)
        for r in connection.execute(query.order_by(house_rules.c.version.desc()))
    ]


def add(connection: Connection, rules: HouseRules, at: str, note: str = "") -> int:
    """A new version, which counts from now on. Returns its number."""
    values = {"made_at": at, "body": to_body(rules), "note": note}
    result = connection.execute(insert(house_rules).values(**values))
    return int(result.lastrowid)


def to_body(rules: HouseRules) -> dict[str, Any]:
    """What differs from the house's own, as JSON; later changes of those then reach the person."""
    plain = HouseRules()
    found: dict[str, Any] = {}
    for name in (f.name for f in fields(HouseRules)):
        value = getattr(rules, name)
        if value == getattr(plain, name):
            continue
        if name == "limits":
            value = {
                kind.value: {
                    id: {"value": limit.value, "required": limit.required}
                    for id, limit in mine.items()
                }
                for kind, mine in value.items()
            }
        elif name == "exemptions":
            value = [asdict(x) for x in value]
        elif name == "built_up":
            value = [kind.value for kind in value]
        elif name == "required_returns":
            value = {kind.value: wanted for kind, wanted in value.items()}
        found[name] = value
    return found


def from_body(body: Mapping[str, Any]) -> HouseRules:
    """Reads `to_body` back. Raises LookupError, TypeError or ValueError for what it never wrote."""
    known = {f.name for f in fields(HouseRules)}
    if not set(body) <= known:
        raise ValueError(f"unknown house rules: {', '.join(sorted(set(body) - known))}")
    held = dict(body)
    if "limits" in held:
        held["limits"] = {
            Kind(kind): {id: Limit(**limit) for id, limit in mine.items()}
            for kind, mine in held["limits"].items()
        }
    if "exemptions" in held:
        held["exemptions"] = tuple(
            Exemption(**{**x, "limit": Limit(**x["limit"])}) for x in held["exemptions"]
        )
    if "built_up" in held:
        held["built_up"] = tuple(Kind(k) for k in held["built_up"])
    if "built_up_payers" in held:
        held["built_up_payers"] = {str(k): bool(v) for k, v in held["built_up_payers"].items()}
    if "withheld" in held:
        held["withheld"] = {str(k): float(v) for k, v in held["withheld"].items()}
    if "required_returns" in held:
        held["required_returns"] = {Kind(k): float(v) for k, v in held["required_returns"].items()}
    return HouseRules(**held)
