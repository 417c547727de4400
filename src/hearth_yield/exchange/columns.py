"""The tables of a file, as the fact tables declare them. docs/data-formats.md shows each by
example."""

from __future__ import annotations

from dataclasses import dataclass, replace

from hearth_yield.core.facts.columns import Column
from hearth_yield.core.facts.tables import TABLES, FactTable

from .ledger_columns import ACCOUNT_COLUMNS, ENTRY_COLUMNS


@dataclass(frozen=True, slots=True, kw_only=True)
class Format:
    """One table of a file. key: columns no two rows may share. of: the fact tables that its rows
    are kept in; of the ledger: none."""

    name: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]
    of: tuple[FactTable, ...]

    @property
    def required(self) -> frozenset[str]:
        return frozenset(c.name for c in self.columns if c.required and c.default is None)

    @property
    def by_name(self) -> dict[str, Column]:
        return {c.name: c for c in self.columns}


def _in_files(column: Column) -> Column:
    return replace(column, name=column.in_files) if column.in_files else column


def _format(table: FactTable) -> Format:
    """Of a table with what it belongs to: a payer by its name alone, a series with all it is."""
    owner = TABLES[table.owner] if table.owner else None
    whole = owner is not None and table.owner != "payers"
    own = {c.name: _in_files(c) for c in table.columns}
    first: tuple[Column, ...] = ()
    if owner is not None:
        first = owner.columns if whole else tuple(c for c in owner.columns if c.name in owner.key)
    return Format(
        name=owner.name if owner and whole else table.name,
        columns=(*first, *own.values()),
        key=((*owner.key,) if owner else ()) + tuple(own[k].name for k in table.key),
        of=(owner, table) if owner and whole else (table,),
    )


FORMATS: dict[str, Format] = {
    found.name: found
    for found in map(_format, TABLES.values())
    if found.name != "series" or len(found.of) > 1
}
LEDGER: dict[str, Format] = {
    f.name: f
    for f in (
        Format(name="accounts", columns=ACCOUNT_COLUMNS, key=("name",), of=()),
        Format(name="entries", columns=ENTRY_COLUMNS, key=(), of=()),
    )
}
"""What a person owns: no facts, and kept apart from them."""
IN_FILES = {**FORMATS, **LEDGER}


def recognise(file_stem: str, header: frozenset[str]) -> Format | None:
    """Which table a file holds: by its name, else by the columns only one table has. The ledger's
    are none but those whose every column is ours: others keep tables much like them."""
    named = IN_FILES.get(file_stem.lower().replace("-", "_").replace(" ", "_"))
    if named is not None:
        return named
    fits = [f for f in IN_FILES.values() if f.required <= header]
    fits = [f for f in fits if header <= set(f.by_name)] or [f for f in fits if f.of]
    return max(fits, key=lambda f: len(f.required), default=None)
