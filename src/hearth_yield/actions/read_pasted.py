"""Cells pasted into a grid, read by their own headings as facts of one table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.cells import Cell, spelt
from hearth_yield.exchange.columns import FORMATS
from hearth_yield.exchange.exact import product, quotient
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.reading import Around, FoundFile, read_found
from hearth_yield.exchange.found.units import FACTOR
from hearth_yield.store.database import Database

from .read_found import known_payers

MAX_PASTED = 2 * 2**20


@dataclass(frozen=True, slots=True, kw_only=True)
class Pasted:
    """rows: cells by column, as they are typed; none where the cells have no headings of their
    own. asks: what would have to be settled for them to be read."""

    rows: Sequence[Mapping[str, str]] = ()
    notes: Sequence[str] = ()
    left_out: Sequence[str] = ()
    asks: Sequence[str] = ()


def read_pasted(
    database: Database, *, table: str, payer: str, text: str, html: str, unit: str, today: date
) -> Pasted:
    """payer: whose they are, by EXCHANGE/SYMBOL; unit: what money is counted in where the cells do
    not say. Raises TooLarge."""
    size = len(text) + len(html)
    if size > MAX_PASTED:
        raise TooLarge(
            "too much is pasted at once",
            field="text",
            value=size,
            rule=f"at most {MAX_PASTED // 2**20} MB; a file takes more",
        )
    if table not in FORMATS:
        return Pasted()
    known = known_payers(database, only=payer)
    around = Around(payers=known, accounts=Accounts(today=today))
    told = {"payer": payer, "unit": unit} if payer else {"unit": unit}
    for name, raw in (("pasted.html", html), ("pasted.txt", text)):
        if raw.strip():
            (found,) = read_found([(name, raw.encode())], around, told)
            if any(not t.unknown for t in found.tables):
                return _of_table(found, table, unit)
    return Pasted()


def _of_table(found: FoundFile, table: str, unit: str) -> Pasted:
    made = [m for t in found.tables if (m := (found.made or {}).get(t.id))]
    rows = [
        _in_unit(r, table, unit)
        for m in made
        for r in (m.tables[table].rows if table in m.tables else ())
    ]
    others = sorted({name for m in made for name in m.counts if name != table})
    left = [x for m in made for x in (*m.left_out, *m.wrong)]
    left += [f"{name.replace('_', ' ')}, which are no {table.replace('_', ' ')}" for name in others]
    asks = [q.asks for t in found.tables for q in t.questions]
    return Pasted(rows=rows, notes=[n for m in made for n in m.notes], left_out=left, asks=asks)


def _in_unit(cells: Mapping[str, Cell], table: str, unit: str) -> Mapping[str, str]:
    """A row as it is typed: without its owner, in the unit of the grid; what is assumed is left to
    the rule that assumes it."""
    row = {k: v for k, v in cells.items() if k not in ("exchange", "symbol", "unit", "assumed")}
    match cells.get("assumed"):
        case "published_on":
            del row["published_on"]
        case "ex_date":
            row["ex_date"] = spelt(cells["ex_date"])[:4]
    held = cells.get("unit")
    if table == "statements" and isinstance(held, str) and held != unit:
        columns = FORMATS[table].by_name
        for name, value in row.items():
            if columns[name].scaled and isinstance(value, float):
                row[name] = quotient(product(value, FACTOR[held]), FACTOR[unit])
    return {name: spelt(value) for name, value in row.items() if value is not None}
