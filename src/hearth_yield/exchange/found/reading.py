"""Files as people have them, made into files of the product's own."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from .convert import Converted, as_csv, convert
from .sheets import Unreadable, sheets_of
from .understand import Found, Known, understand

ORDER = ("payers", "statements", "dividends", "prices", "series")


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundFile:
    """A file and what is in it. unreadable: why it gives nothing. made: of each table that has
    nothing left to ask, by its id."""

    name: str
    tables: Sequence[Found] = ()
    made: Mapping[str, Converted] | None = None
    unreadable: str | None = None


def read_found(
    files: Sequence[tuple[str, bytes]], payers: Sequence[Known], answers: Mapping[str, str]
) -> list[FoundFile]:
    """What is understood of each file. Ids of tables are told apart by the file's place."""
    found = []
    for n, (name, raw) in enumerate(files):
        try:
            sheets = sheets_of(name, raw)
        except Unreadable as why:
            found.append(FoundFile(name=name, unreadable=str(why)))
            continue
        own = {k.removeprefix(f"{n}."): v for k, v in answers.items() if k.startswith(f"{n}.")}
        tables = understand(sheets, payers, own)
        wanted = [t for t in tables if own.get(f"{t.id}.skip") != "yes"]
        made = {t.id: convert(t, payers, own) for t in wanted if t.ready}
        if not tables:
            names = ", ".join(s.name for s in sheets[:5])
            why_not = f"no table of statements, dividends, prices or an index is in it ({names})"
            found.append(FoundFile(name=name, unreadable=why_not))
        else:
            found.append(FoundFile(name=name, tables=tables, made=made))
    return found


def as_files(
    found: Sequence[FoundFile], new_payers: Sequence[Mapping[str, str]] = ()
) -> list[tuple[str, bytes]]:
    """One file of the product's own for each kind of table."""
    rows: dict[str, list[dict[str, str]]] = {name: [] for name in ORDER}
    rows["payers"] = [dict(p) for p in new_payers]
    for file in found:
        for made in (file.made or {}).values():
            rows[made.table] += made.rows
    return [(f"{name}.csv", as_csv(held)) for name, held in rows.items() if held]
