"""What an import would put in the place of what is held, value by value, the most different
first."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date
from heapq import nlargest
from math import inf
from typing import Any

from hearth_yield.rows import Row
from hearth_yield.store.facts import FACT_TABLES, Plan

SHOWN = 60
NAMES = ("exchange", "symbol", "code")


@dataclass(frozen=True, slots=True, kw_only=True)
class Replaced:
    """One value of a row. whose: EXCHANGE/SYMBOL, or the code of a series; row: its key in words.
    apart: how far the two are from each other, as a part of the larger; infinite where they are no
    numbers."""

    table: str
    whose: str
    row: str
    field: str
    before: str
    after: str
    apart: float


def replaced_by(plan: Plan) -> tuple[list[Replaced], int]:
    """The values that differ most, and how many differ in all."""
    count = 0

    def counted() -> Iterator[Replaced]:
        nonlocal count
        for name, part in plan.items():
            for record, before in part.changed:
                for one in _values(name, record, before):
                    count += 1
                    yield one

    return nlargest(SHOWN, counted(), key=lambda x: x.apart), count


def _values(table: str, record: Row, before: dict[str, Any]) -> Iterator[Replaced]:
    key = FACT_TABLES[table].key
    row = ", ".join(_text(record[k]) for k in key if k in record and k not in NAMES)
    for field, after in record.items():
        then = before.get(field, after)
        if field in key or field in NAMES or then == after:
            continue
        yield Replaced(
            table=table,
            whose="/".join(str(record[n]) for n in NAMES if n in record),
            row=row,
            field=field,
            before=_text(then),
            after=_text(after),
            apart=_apart(then, after),
        )


def _apart(a: Any, b: Any) -> float:
    """0.5 for 50 in the place of 100."""
    if isinstance(a, float | int) and isinstance(b, float | int):
        return abs(a - b) / max(abs(a), abs(b))
    return inf


def _text(value: Any) -> str:
    match value:
        case None:
            return ""
        case float():
            return f"{value:,.10g}" if abs(value) < 1e10 else f"{value:,.0f}"
        case date():
            return value.isoformat()
    return str(value)[:200]
