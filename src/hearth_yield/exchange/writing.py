"""Data Packages out: the tables that can be brought in, so that what goes out comes in again."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from typing import Any

from hearth_yield.core.facts.columns import Column, Type

from .book import write_book
from .cells import Cell, spelt
from .columns import IN_FILES, Format

FORMULA_STARTS = ("=", "+", "-", "@", "'", "\t", "\r")
"""A spreadsheet would run a text cell that begins with one of these as a formula."""
FIRST_DAY = (1980, 1, 1, 0, 0, 0)
Records = Mapping[str, Sequence[Mapping[str, Any]]]


def disarm(text: str) -> str:
    """A text that no spreadsheet runs; `cells.rearm` gives it back."""
    return f"'{text}" if text.startswith(FORMULA_STARTS) else text


def write_package(records: Records, name: str) -> bytes:
    """A zip with a datapackage.json and a CSV for each table that holds rows.

    records: rows by store table, with natural keys. The same records give the same bytes.
    """
    out = io.BytesIO()
    tables = {f: rows for f in IN_FILES if (rows := of_format(f, records))}
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        used = {f: _used(IN_FILES[f], rows) for f, rows in tables.items()}
        resources = [_resource(IN_FILES[f], columns) for f, columns in used.items()]
        descriptor = {"name": name, "resources": resources}
        _add(archive, "datapackage.json", json.dumps(descriptor, indent=1) + "\n")
        for format_name, rows in tables.items():
            _add(archive, f"{format_name}.csv", _csv(used[format_name], rows))
    return out.getvalue()


def write_facts_book(records: Records) -> bytes:
    """The same tables as a workbook, a sheet each. Raises TooLarge."""
    sheets: dict[str, list[list[object]]] = {}
    for name, format in IN_FILES.items():
        rows = of_format(name, records)
        if rows:
            columns = [c.name for c in _used(format, rows)]
            sheets[name] = [list(columns), *([r.get(c) for c in columns] for r in rows)]
    return write_book(sheets or {"empty": []})


def _add(archive: zipfile.ZipFile, name: str, text: str) -> None:
    entry = zipfile.ZipInfo(name, FIRST_DAY)
    entry.compress_type = zipfile.ZIP_DEFLATED
    archive.writestr(entry, text.encode())


def of_format(format_name: str, records: Records) -> list[dict[str, Any]]:
    """Rows of a file's table from the store's; amounts leave in single units."""
    if not IN_FILES[format_name].of:
        return [dict(row) for row in records.get(format_name, ())]
    *owner, table = IN_FILES[format_name].of
    said = {c.name: c.files_only for c in table.columns if c.files_only is not None}
    other = table.file_names
    rows = [
        {other.get(name, name): value for name, value in row.items()} | said
        for row in records.get(table.name, ())
    ]
    for of in owner:
        held = {tuple(r[k] for k in of.key): r for r in records.get(of.name, ())}
        rows = [{**held[tuple(r[k] for k in of.key)], **r} for r in rows]
    return rows


def _used(format: Format, rows: Sequence[Mapping[str, Any]]) -> list[Column]:
    """Columns that are required, or hold something in some row."""
    return [c for c in format.columns if c.required or any(r.get(c.name) is not None for r in rows)]


def _csv(columns: Sequence[Column], rows: Sequence[Mapping[str, Any]]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow([c.name for c in columns])
    writer.writerows([[_written(r.get(c.name)) for c in columns] for r in rows])
    return out.getvalue()


def _written(cell: Cell) -> str:
    """A text is no formula; a number reads back to the same."""
    return disarm(cell) if isinstance(cell, str) else spelt(cell)


def _resource(format: Format, columns: Sequence[Column]) -> dict[str, Any]:
    return {
        "name": format.name,
        "path": f"{format.name}.csv",
        "encoding": "utf-8",
        "schema": {
            "fields": [{"name": c.name, "type": _field_type(c)} for c in columns],
            **({"primaryKey": list(format.key)} if format.key else {}),
        },
    }


def _field_type(column: Column) -> str:
    return {
        Type.DATE: "date",
        Type.NUMBER: "number",
        Type.EXACT: "number",
        Type.INTEGER: "integer",
    }.get(column.type, "string")
