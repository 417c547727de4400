"""What a person drops: CSV files, or a zip with a `datapackage.json` (Frictionless standard)."""

from __future__ import annotations

import io
import json
import zipfile
import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import PurePosixPath
from typing import Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from hearth_yield.core.errors import TooLarge
from hearth_yield.rows import Row

from . import checks
from .checks import Held
from .columns import FORMATS, Format, recognise
from .table import Dialect, Fault, Table, read_cells, read_table

MAX_UPLOAD = 64 * 1024 * 1024
MAX_EXPANDED = 512 * 1024 * 1024
MAX_RATIO = 200
MAX_MEMBERS = 100
_TORN = (
    zipfile.BadZipFile, zlib.error, RuntimeError, NotImplementedError, EOFError, OSError,
    ValueError,
)  # fmt: skip
"""What reading a damaged, encrypted or exotic zip can raise."""


class _Loose(BaseModel):
    model_config = ConfigDict(extra="ignore", populate_by_name=True)


class FieldDescriptor(_Loose):
    name: str
    decimal_char: str | None = Field(default=None, alias="decimalChar")
    group_char: str | None = Field(default=None, alias="groupChar")


class SchemaDescriptor(_Loose):
    fields: list[FieldDescriptor] = []
    missing_values: list[str] = Field(default=[""], alias="missingValues")


class DialectDescriptor(_Loose):
    delimiter: str | None = None


class ResourceDescriptor(_Loose):
    """unit is ours (the standard allows further properties): 1, thousand or million."""

    name: str
    path: str
    encoding: str = "utf-8"
    unit: str | None = None
    dialect: DialectDescriptor = DialectDescriptor()
    schema_: SchemaDescriptor = Field(default=SchemaDescriptor(), alias="schema")

    def to_dialect(self) -> Dialect:
        """Decimal and group characters named on any field hold for the table."""
        fields = self.schema_.fields
        return Dialect(
            delimiter=self.dialect.delimiter,
            decimal=next((f.decimal_char for f in fields if f.decimal_char), "."),
            group=next((f.group_char for f in fields if f.group_char), None),
            missing=frozenset({"", *self.schema_.missing_values}),
            unit=self.unit,
            encoding=self.encoding,
        )


class PackageDescriptor(_Loose):
    name: str = ""
    resources: list[ResourceDescriptor] = Field(min_length=1)


@dataclass(slots=True)
class Reading:
    """records: by store table, ready to be written; faults: all found, warnings among them."""

    tables: list[Table] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)

    @property
    def refused(self) -> bool:
        return any(not f.warning for f in self.faults)

    @property
    def records(self) -> dict[str, Sequence[Row]]:
        found: dict[str, Sequence[Row]] = {}
        for table in self.tables:
            for name, rows in _to_store(table).items():
                found[name] = [*found[name], *rows] if name in found else rows
        return found


def read_files(files: Sequence[tuple[str, bytes]], held: Held) -> Reading:
    """Read dropped files whole and run every check.

    files: (name, bytes) of CSVs and zips. held: what is stored already.
    Raises: TooLarge for an upload, a zip or a table beyond its bounds.
    """
    reading = Reading()
    size = sum(len(raw) for _, raw in files)
    if size > MAX_UPLOAD:
        raise TooLarge(
            "the upload is too large", field="file", value=size,
            rule=f"at most {MAX_UPLOAD // 2**20} MB",
        )  # fmt: skip
    for name, raw in files:
        if raw[:2] == b"PK":
            _read_zip(reading, name, raw)
        else:
            _read_one(reading, PurePosixPath(name).name, raw, None)
    _check(reading, held)
    if not reading.tables and not reading.faults:
        reading.faults.append(_fault(files[0][0] if files else "", "at least one CSV table"))
    return reading


def read_typed(
    table: str, rows: Sequence[Mapping[str, str]], *, unit: str | None, decimal: str, held: Held
) -> Reading:
    """Rows as a person typed or pasted them, through the same reader and the same checks.

    rows: cells by column name, as text; a row's number, from 1, is its line.
    """
    reading = Reading()
    dialect = Dialect(
        decimal=decimal, missing=frozenset({"", "-", "–", "—", "n/a"}), unit=unit
    )  # fmt: skip
    reading.tables.append(read_cells(FORMATS[table], rows, dialect))
    _check(reading, held)
    return reading


def _check(reading: Reading, held: Held) -> None:
    checks.check(reading.tables, held)
    for table in reading.tables:
        reading.faults.extend(table.faults)


def _fault(file: str, expected: str, value: str | None = None) -> Fault:
    return Fault(file=file, line=None, column=None, value=value, expected=expected)


def _read_one(reading: Reading, file: str, raw: bytes, resource: ResourceDescriptor | None) -> None:
    def pick(header: frozenset[str]) -> Format | None:
        if resource is not None and resource.name in FORMATS:
            return FORMATS[resource.name]
        return recognise(PurePosixPath(file).stem, header)

    found = read_table(raw, file, pick, resource.to_dialect() if resource else Dialect())
    if isinstance(found, Fault):
        reading.faults.append(found)
    else:
        reading.tables.append(found)


def _read_zip(reading: Reading, name: str, raw: bytes) -> None:
    try:
        archive = zipfile.ZipFile(io.BytesIO(raw))
        members = _safe_members(reading, name, archive, len(raw))
        contents = {m.filename: archive.read(m) for m in members}
    except _TORN as error:
        reading.faults.append(_fault(name, f"a whole, unencrypted zip ({error})"))
        return
    descriptor = _descriptor(reading, name, contents)
    if descriptor is None:
        return
    for resource in descriptor.resources:
        content = contents.get(resource.path.removeprefix("./"))
        if content is None:
            reading.faults.append(
                _fault(
                    name, "a file of this path in the zip, as datapackage.json says", resource.path
                )
            )
        else:
            _read_one(reading, resource.path, content, resource)


def _safe_members(
    reading: Reading, name: str, archive: zipfile.ZipFile, packed: int
) -> list[zipfile.ZipInfo]:
    """Members that stay inside the archive's folder; sizes are checked before anything expands."""
    members = [m for m in archive.infolist() if not m.is_dir()]
    expanded = sum(m.file_size for m in members)
    if len(members) > MAX_MEMBERS:
        raise TooLarge(
            "too many files in the zip", field=name, value=len(members),
            rule=f"at most {MAX_MEMBERS}",
        )  # fmt: skip
    if expanded > MAX_EXPANDED or expanded > MAX_RATIO * packed:
        raise TooLarge(
            "the zip expands too far", field=name, value=expanded,
            rule=f"at most {MAX_EXPANDED // 2**20} MB and {MAX_RATIO} times its size",
        )  # fmt: skip
    safe = []
    for member in members:
        path = PurePosixPath(member.filename.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or ":" in member.filename:
            reading.faults.append(
                _fault(name, "paths inside the zip's own folder", member.filename)
            )
        else:
            safe.append(member)
    return safe


def _descriptor(
    reading: Reading, name: str, contents: Mapping[str, bytes]
) -> PackageDescriptor | None:
    raw = contents.get("datapackage.json")
    if raw is None:
        reading.faults.append(_fault(name, "a datapackage.json at the top of the zip"))
        return None
    try:
        return PackageDescriptor.model_validate(json.loads(raw))
    except ValidationError as error:
        for e in error.errors():
            where = ".".join(str(p) for p in e["loc"])
            reading.faults.append(_fault("datapackage.json", f"{where}: {e['msg']}"))
    except (ValueError, UnicodeDecodeError, RecursionError) as error:
        reading.faults.append(_fault("datapackage.json", f"valid JSON ({error})"))
    return None


def _to_store(table: Table) -> dict[str, Sequence[Row]]:
    """A file's table as the store's tables: a series and its points stand in one file."""
    rows = table.records
    match table.format.name:
        case "payers":
            return {"payers": [{**r, "description": r.get("description") or ""} for r in rows]}
        case "series":
            facts = ("code", "kind", "name", "currency", "of_currency")
            series = {r["code"]: {k: r.get(k) for k in facts} for r in rows}
            points = [{k: r[k] for k in ("code", "day", "published_on", "value")} for r in rows]
            return {"series": list(series.values()), "series_points": points}
        case "dividend_notices":
            return {"dividend_notices": [_renamed(r, "notice", "kind") for r in rows]}
        case "slumps":
            return {"slumps": [_renamed(r, "slump", "name") for r in rows]}
        case name:
            return {name: rows}


def _renamed(record: Mapping[str, Any], old: str, new: str) -> dict[str, Any]:
    return {new if k == old else k: v for k, v in record.items()}
