"""Facts as held: of one payer, with the lines that follow from its statements; of a series."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

from hearth_yield.core.facts.derived import LINES
from hearth_yield.core.facts.periods import Period
from hearth_yield.core.facts.records import Dividend, without_sums
from hearth_yield.core.facts.statements import Statement
from hearth_yield.store import fact_rows, payer_files
from hearth_yield.store.database import Database
from hearth_yield.store.fact_rows import Window


@dataclass(frozen=True, slots=True, kw_only=True)
class Shown:
    """derived: by row key, the lines that are not published and follow from those that are. aside:
    by row key, why a fact does not count."""

    window: Window
    derived: Mapping[tuple[str, ...], Mapping[str, float]] = field(default_factory=dict)
    aside: Mapping[tuple[str, ...], str] = field(default_factory=dict)


def show_facts(
    database: Database,
    exchange: str,
    symbol: str,
    table: str,
    first: int,
    count: int,
    span: str = "",
) -> Shown:
    """A window of one table, the newest first. span: of statements, the only one to show.

    Raises: NotFound, InvalidInput.
    """
    with database.read() as connection:
        window = fact_rows.rows_of(connection, exchange, symbol, table, first, count, span)
        derived, aside = {}, {}
        if table == "dividends":
            aside = _gave_way(payer_files.load_dividends(connection, exchange, symbol))
        if table == "statements":
            shown = {tuple(r.key.values()) for r in window.rows}
            held = payer_files.load_statements(connection, exchange, symbol)
            derived = {_key(s): derived_lines(s) for s in held if _key(s) in shown}
    return Shown(window=window, derived=derived, aside=aside)


def show_points(database: Database, code: str, first: int, count: int) -> Shown:
    """A window of one series' points, the newest first. Raises NotFound."""
    with database.read() as connection:
        return Shown(window=fact_rows.points_of(connection, code, first, count))


def show_volumes(
    database: Database, exchange: str, symbol: str, days: Sequence[date]
) -> Sequence[float | None]:
    """Shares traded on each of some days, as traded; empty where that is told of none of them.
    Raises NotFound."""
    with database.read() as connection:
        held = payer_files.load_volumes(connection, exchange, symbol)
    found = [held.get(day) for day in days]
    return found if any(volume is not None for volume in found) else []


def show_slumps(database: Database) -> Shown:
    with database.read() as connection:
        return Shown(window=fact_rows.slumps(connection))


def _gave_way(held: Sequence[Dividend]) -> dict[tuple[str, ...], str]:
    """What a year paid in all, or its payments, whichever does not count beside the other."""
    count = {id(d) for d in without_sums(held)}
    return {
        (d.ex_date.isoformat(), d.kind.value): "its payments count in its place"
        if d.assumed
        else "what its year paid in all counts in its place"
        for d in held
        if id(d) not in count
    }


def _key(s: Statement) -> tuple[str, ...]:
    return (s.period_end.isoformat(), s.span.value, s.published_on.isoformat())


def derived_lines(statement: Statement) -> dict[str, float]:
    """Derived lines of one statement that it does not publish itself."""
    period = Period(label=statement.period, end=statement.period_end, statements=(statement,))
    figures = {n: f(period) for n, f in LINES.items() if n not in statement.lines}
    return {n: f.value for n, f in figures.items() if f.value is not None}
