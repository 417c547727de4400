"""Replace a figure with a reason, leave a fact out, set a fiscal year aside, and the way back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from hearth_yield.core.cover.bases import BASES, Basis
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.tables import TABLES
from hearth_yield.exchange.columns import FORMATS
from hearth_yield.store import edits
from hearth_yield.store.database import Database
from hearth_yield.store.edits import EXCLUDED, EXCLUDED_ON
from hearth_yield.store.edits import Edit as Edit
from hearth_yield.store.fact_rows import OF_A_PAYER
from hearth_yield.store.facts import FACT_TABLES
from hearth_yield.store.types import IsoDate

EDITABLE = {name: table.editable for name, table in TABLES.items() if table.editable}
"""What a figure's working can replace. Other facts are entered anew under Sources."""
MAX_REASON = 500


def _made(
    exchange: str,
    symbol: str,
    table: str,
    row: Mapping[str, str],
    field: str,
    reason: str,
    at: str,
    *,
    original: float | None = None,
    value: float = 1.0,
) -> Edit:
    """An edit as it is made; one that excludes has no value of its own. Raises InvalidInput without
    a reason."""
    return Edit(
        id=None,
        exchange=exchange,
        symbol=symbol,
        table_name=table,
        row_key=dict(row),
        field=field,
        original=original,
        value=value,
        reason=_reason(reason),
        made_at=at,
        withdrawn_at=None,
    )


def edit_value(
    database: Database,
    exchange: str,
    symbol: str,
    *,
    table: str,
    key: Mapping[str, str],
    field: str,
    value: float,
    reason: str,
    at: str,
) -> int:
    """Let a value stand in the place of a held fact, which itself stays as it is.

    key: of the row within its payer, dates as ISO text.
    Raises: NotFound for a fact that is not held; InvalidInput for a field that cannot be edited,
    a value out of bounds or a missing reason.
    """
    if field not in EDITABLE.get(table, ()):
        raise InvalidInput(
            f"“{field}” of {table} cannot be edited",
            field="field",
            value=field,
            rule=", ".join(EDITABLE),
        )
    _check_value(table, field, value)
    with database.write() as connection:
        row = _row(table, key)
        held = edits.held_value(connection, exchange, symbol, table, row, field)
        made = _made(exchange, symbol, table, row, field, reason, at, original=held, value=value)
        return edits.add(connection, made)


def exclude(
    database: Database,
    exchange: str,
    symbol: str,
    *,
    table: str,
    key: Mapping[str, str],
    reason: str,
    at: str,
) -> int:
    """Let a held fact count on no day; it stays held, and can be counted again.

    Raises: NotFound for a fact that is not held; InvalidInput for a table of no payer.
    """
    if table not in OF_A_PAYER:
        raise InvalidInput(
            f"nothing can be excluded from “{table}”",
            field="table",
            value=table,
            rule=", ".join(OF_A_PAYER),
        )
    with database.write() as connection:
        row = _row(table, key)
        edits.held_value(connection, exchange, symbol, table, row)
        return edits.add(connection, _made(exchange, symbol, table, row, EXCLUDED, reason, at))


def exclude_year(
    database: Database,
    exchange: str,
    symbol: str,
    *,
    period_end: date,
    basis: str,
    reason: str,
    at: str,
) -> int:
    """Leave a fiscal year out of "latest" and "through the cycle" on one basis.

    Raises: NotFound for a year that is not held; InvalidInput for a basis the kind does not use.
    """
    with database.write() as connection:
        kind = edits.kind_of(connection, exchange, symbol)
        if basis not in BASES[kind]:
            raise InvalidInput(
                f"{kind.value.replace('_', ' ')}s are not judged by {basis}",
                field="basis",
                value=basis,
                rule=", ".join(BASES[kind]),
            )
        year = {"period_end": period_end.isoformat(), "span": "year"}
        edits.held_value(connection, exchange, symbol, "statements", year)
        field = EXCLUDED_ON + Basis(basis).value
        made = _made(exchange, symbol, "statements", year, field, reason, at)
        return edits.add(connection, made)


def all_edits(database: Database) -> Sequence[Edit]:
    """The newest first, those taken back among them."""
    with database.read() as connection:
        return edits.all_of(connection)


def standing(database: Database, exchange: str, symbol: str) -> Sequence[Edit]:
    """The edits of one payer that count."""
    with database.read() as connection:
        return edits.standing(connection, exchange, symbol)


def withdraw(database: Database, id: int, *, at: str) -> None:
    """The original counts again."""
    with database.write() as connection:
        edits.withdraw(connection, id, at)


def restore(database: Database, id: int, *, at: str) -> None:
    """An edit that was taken back counts again, in the place of any later one."""
    with database.write() as connection:
        edits.restore(connection, id, at)


def _reason(text: str) -> str:
    reason = text.strip()
    if not 0 < len(reason) <= MAX_REASON:
        raise InvalidInput(
            "an edit needs its reason",
            field="reason",
            value=text[:60],
            rule=f"1 to {MAX_REASON} characters",
        )
    return reason


def _check_value(table: str, field: str, value: float) -> None:
    """The bounds of the column, as for a file."""
    refused = FORMATS[table].by_name[field].refuses(value)
    if refused is not None:
        raise InvalidInput(
            f"{field.replace('_', ' ')} cannot be {value:g}",
            field="value",
            value=value,
            rule=refused,
        )


def _row(table: str, key: Mapping[str, str]) -> dict[str, str]:
    """The key of a row, in the table's own order. Raises InvalidInput."""
    names = FACT_TABLES[table].key[1:]
    if set(key) != set(names):
        raise InvalidInput(
            "the key does not fit the table",
            field="key",
            value=", ".join(key),
            rule=", ".join(names),
        )
    dated = FACT_TABLES[table].table.c
    try:
        return {
            n: _canonical(key[n]) if isinstance(dated[n].type, IsoDate) else key[n] for n in names
        }
    except ValueError:
        raise InvalidInput(
            "a date in the key cannot be read",
            field="key",
            value=", ".join(key.values()),
            rule="YYYY-MM-DD",
        ) from None


def _canonical(day: str) -> str:
    """A date as keys are kept: 20251231 and 2025-12-31 are one key."""
    return date.fromisoformat(day).isoformat()
