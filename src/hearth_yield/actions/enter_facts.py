"""Facts a person types or pastes: through the same checks as a file, kept under a source of their
own, and undone like one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.tables import UNITS
from hearth_yield.exchange.columns import IN_FILES
from hearth_yield.exchange.found.typed import as_typed
from hearth_yield.exchange.package import PackageRead, read_typed
from hearth_yield.store.database import Database
from hearth_yield.store.stored import StoredFacts

from .import_files import Accepted, NewSource, Preview, keep, plan_of, preview_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Typed:
    """rows: cells by column, as text. unit: what money is counted in (statements). decimal: the
    decimal sign."""

    table: str
    rows: Sequence[Mapping[str, str]]
    unit: str = "1"
    decimal: str = "."

    @property
    def name(self) -> str:
        """What the source is called: the table, and the payer where all rows are of one."""
        payers = {row.get("symbol", "") for row in self.rows} - {""}
        of = f" of {payers.pop()}" if len(payers) == 1 else ""
        return f"typed: {self.table.replace('_', ' ')}{of}"


def _read(typed: Typed, held: StoredFacts) -> PackageRead:
    """Days may be typed as people write them, and days of publication left out."""
    for field, value, known in (
        ("table", typed.table, tuple(IN_FILES)),
        ("unit", typed.unit, tuple(UNITS)),
        ("decimal", typed.decimal, (".", ",")),
    ):
        if value not in known:
            raise InvalidInput(
                f"“{value}” is no {field}", field=field, value=value, rule=", ".join(known)
            )
    rows = as_typed(typed.table, typed.rows, held.year_ends, held.today)
    return read_typed(typed.table, rows, unit=typed.unit, decimal=typed.decimal, held=held)


def preview_typed(database: Database, typed: Typed, *, today: date | None = None) -> Preview:
    """What keeping it would do, and everything wrong with it; nothing is written."""
    with database.read() as connection:
        reading = _read(typed, StoredFacts(connection, today))
        planned = plan_of(connection, reading, today)
        return preview_of(connection, reading, planned, typed.name)


def enter_facts(
    database: Database, typed: Typed, *, at: str, accepted: Accepted, today: date | None = None
) -> int:
    """Write it in one transaction, or nothing. Returns the id of the new source.

    Raises: InvalidInput; RejectedImport and Conflict as `import_files` does.
    """
    source = NewSource(kind="manual", file_name=typed.name, sha256=None, at=at, today=today)
    return keep(database, lambda held: _read(typed, held), source, accepted)
