"""Replace a figure with a reason, leave a fact out, set a fiscal year aside, and the way back."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from sqlalchemy import Connection, and_, select

from hearth_yield.core.cover import BASES, Basis
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.facts import Kind
from hearth_yield.core.statements import STATEMENT_LINES
from hearth_yield.exchange.columns import FORMATS
from hearth_yield.store import adjustments
from hearth_yield.store import tables as t
from hearth_yield.store.adjustments import LEFT_OUT, SET_ASIDE, Adjustment
from hearth_yield.store.database import Database
from hearth_yield.store.fact_rows import OF_A_PAYER
from hearth_yield.store.facts import FACT_TABLES
from hearth_yield.store.types import IsoDate

ADJUSTABLE: dict[str, tuple[str, ...]] = {
    "statements": STATEMENT_LINES,
    "dividends": ("amount",),
    "prices": ("close",),
}
"""What a figure's working can replace. Other facts are entered anew under Sources."""
MAX_REASON = 500


def adjust(
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
    Raises: NotFound for a fact that is not held; InvalidInput for a field that cannot be adjusted,
    a value out of bounds or a missing reason.
    """
    if field not in ADJUSTABLE.get(table, ()):
        raise InvalidInput(
            f"“{field}” of {table} cannot be adjusted", field="field", value=field,
            rule=", ".join(ADJUSTABLE),
        )  # fmt: skip
    _check_value(table, field, value)
    with database.write() as connection:
        row = _row(table, key)
        return adjustments.add(
            connection,
            Adjustment(
                id=None, exchange=exchange, symbol=symbol, table_name=table, row_key=row,
                field=field, original=_held(connection, exchange, symbol, table, row, field),
                value=value, reason=_reason(reason), made_at=at, withdrawn_at=None,
            ),
        )  # fmt: skip


def leave_out(
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
            f"nothing can be left out of “{table}”", field="table", value=table,
            rule=", ".join(OF_A_PAYER),
        )  # fmt: skip
    with database.write() as connection:
        row = _row(table, key)
        _held(connection, exchange, symbol, table, row, next(iter(row)))
        return adjustments.add(
            connection,
            Adjustment(
                id=None, exchange=exchange, symbol=symbol, table_name=table, row_key=row,
                field=LEFT_OUT, original=None, value=1.0, reason=_reason(reason), made_at=at,
                withdrawn_at=None,
            ),
        )  # fmt: skip


def set_aside(
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
        kind = connection.scalar(
            select(t.payer.c.kind).where(t.payer.c.exchange == exchange, t.payer.c.symbol == symbol)
        )
        if kind is None:
            raise NotFound("no such payer is held", field="symbol", value=symbol)
        if basis not in BASES[Kind(kind)]:
            raise InvalidInput(
                f"{kind.replace('_', ' ')}s are not judged by {basis}", field="basis",
                value=basis, rule=", ".join(BASES[Kind(kind)]),
            )  # fmt: skip
        s = t.statement
        held = connection.scalar(
            select(s.c.id)
            .join(t.payer, t.payer.c.id == s.c.payer_id)
            .where(
                t.payer.c.exchange == exchange, t.payer.c.symbol == symbol, s.c.span == "year",
                s.c.period_end == period_end,
            )
        )  # fmt: skip
        if held is None:
            raise NotFound(
                "no fiscal year with this end is held", field="period_end",
                value=period_end.isoformat(),
            )  # fmt: skip
        return adjustments.add(
            connection,
            Adjustment(
                id=None, exchange=exchange, symbol=symbol, table_name="statements",
                row_key={"period_end": period_end.isoformat(), "span": "year"},
                field=SET_ASIDE + Basis(basis).value, original=None, value=1.0,
                reason=_reason(reason), made_at=at, withdrawn_at=None,
            ),
        )  # fmt: skip


def withdraw(database: Database, id: int, *, at: str) -> None:
    """The original counts again."""
    with database.write() as connection:
        adjustments.withdraw(connection, id, at)


def restore(database: Database, id: int, *, at: str) -> None:
    """An adjustment that was taken back counts again, in the place of any later one."""
    with database.write() as connection:
        adjustments.restore(connection, id, at)


def _reason(text: str) -> str:
    reason = text.strip()
    if not 0 < len(reason) <= MAX_REASON:
        raise InvalidInput(
            "an adjustment needs its reason", field="reason", value=text[:60],
            rule=f"1 to {MAX_REASON} characters",
        )  # fmt: skip
    return reason


def _check_value(table: str, field: str, value: float) -> None:
    """The bounds of the column, as for a file."""
    refused = FORMATS[table].by_name[field].refuses(value)
    if refused is not None:
        raise InvalidInput(
            f"{field.replace('_', ' ')} cannot be {value:g}", field="value", value=value,
            rule=refused,
        )  # fmt: skip


def _row(table: str, key: Mapping[str, str]) -> dict[str, str]:
    """The key of a row, in the table's own order. Raises InvalidInput."""
    names = FACT_TABLES[table].key[1:]
    if set(key) != set(names):
        raise InvalidInput(
            "the key does not fit the table", field="key", value=", ".join(key),
            rule=", ".join(names),
        )  # fmt: skip
    dated = FACT_TABLES[table].table.c
    try:
        return {
            n: _canonical(key[n]) if isinstance(dated[n].type, IsoDate) else key[n] for n in names
        }
    except ValueError:
        raise InvalidInput(
            "a date in the key cannot be read", field="key", value=", ".join(key.values()),
            rule="YYYY-MM-DD",
        ) from None  # fmt: skip


def _canonical(day: str) -> str:
    """A date as keys are kept: 20251231 and 2025-12-31 are one key."""
    return date.fromisoformat(day).isoformat()


def _held(
    connection: Connection,
    exchange: str,
    symbol: str,
    table: str,
    key: Mapping[str, str],
    field: str,
) -> float | None:
    held = FACT_TABLES[table].table
    values = {
        n: date.fromisoformat(v) if isinstance(held.c[n].type, IsoDate) else v
        for n, v in key.items()
    }
    row = connection.execute(
        select(held.c[field])
        .join(t.payer, t.payer.c.id == held.c.payer_id)
        .where(
            t.payer.c.exchange == exchange,
            t.payer.c.symbol == symbol,
            and_(*(held.c[n] == v for n, v in values.items())),
        )
    ).one_or_none()
    if row is None:
        raise NotFound("no such fact is held", field="key", value=", ".join(key.values()))
    value: float | None = row[0] if field in ADJUSTABLE.get(table, ()) else None
    return value
