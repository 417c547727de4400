"""What stored words are called now: a state of before reads as it is named today."""

from __future__ import annotations

from typing import Any

from hearth_yield.core.judging.judge import OLD_STATES

BEFORE_OUTSIDE = "0020"
"""The schema of the last release that called a crossed limit "over"; its backups are still read."""


def tables_renamed(tables: Any) -> Any:
    """The tables of a backup of that schema, by the names of today."""
    if not isinstance(tables, dict):
        return tables
    return {name: _table_renamed(content) for name, content in tables.items()}


def _table_renamed(content: Any) -> Any:
    if not isinstance(content, dict):
        return content
    columns, rows = content.get("columns"), content.get("rows")
    if not isinstance(columns, list) or not isinstance(rows, list):
        return content
    return content | {"rows": [_row_renamed(columns, row) for row in rows]}


def _row_renamed(columns: list[Any], row: Any) -> Any:
    if not isinstance(row, list) or len(row) != len(columns):
        return row
    named = [({c: x} if c == "state" else {"": x}) for c, x in zip(columns, row, strict=True)]
    return [next(iter(states_renamed(cell).values())) for cell in named]


def states_renamed(held: Any) -> Any:
    """Whatever was kept as JSON, with every state by its name of today: as a member, and among the
    words of a condition on states."""
    match held:
        case dict():
            found = {name: states_renamed(value) for name, value in held.items()}
            for name, value in found.items():
                if name.endswith("state") and isinstance(value, str):
                    found[name] = OLD_STATES.get(value, value)
            words = found.get("words")
            if found.get("id") == "state" and isinstance(words, list):
                found["words"] = [OLD_STATES.get(w, w) if isinstance(w, str) else w for w in words]
            return found
        case list():
            return [states_renamed(x) for x in held]
    return held
