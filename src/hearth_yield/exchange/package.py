"""What a person drops: CSV files, or a zip with a `datapackage.json` (Frictionless standard)."""

from __future__ import annotations

import io
import json
import zipfile
import zlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import PurePosixPath
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import TooLarge
from hearth_yield.core.facts.tables import TABLES, FactTable
from hearth_yield.progress import Progress
from hearth_yield.rows import Row

from . import checks
from .cells import Cell, Dialect
from .checks import Stored
from .columns import IN_FILES, Format, recognise
from .faults import Fault, Faults, within_bounds
from .ledger_rows import LedgerRead, read_ledger
from .table import MadeTable, Table, read_cells, read_made, read_table

MAX_UPLOAD = 64 * 1024 * 1024
MAX_EXPANDED = 128 * 1024 * 1024
MAX_RATIO = 200
MAX_MEMBERS = 100
MAX_LISTED = 20_000
"""Entries of its list, those of zips within it too, that a zip is opened with."""
MAX_DESCRIPTOR = 2 * 1024 * 1024
MAX_FIELDS = 1000
MAX_TOTAL_ROWS = 1_000_000
PIECE = 1024 * 1024
METHODS = {zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED}
"""How a member may be packed: the others cannot be expanded piece by piece."""
_TORN = (
    zipfile.BadZipFile,
    zlib.error,
    RuntimeError,
    NotImplementedError,
    EOFError,
    OSError,
    ValueError,
)
"""What reading a damaged, encrypted or exotic zip can raise."""


class _Loose(BaseModel):
    model_config = ConfigDict(extra="ignore", populate_by_name=True)


Sign = Annotated[str, Field(pattern=r"^[.,' \u00a0\u202f]$")]


class FieldDescriptor(_Loose):
    name: str
    decimal_char: Annotated[str, Field(pattern=r"^[.,]$")] | None = Field(
        default=None, alias="decimalChar"
    )
    group_char: Sign | Literal[""] | None = Field(default=None, alias="groupChar")


class SchemaDescriptor(_Loose):
    fields: Annotated[list[FieldDescriptor], Field(max_length=MAX_FIELDS)] = []
    missing_values: Annotated[list[str], Field(max_length=100)] = Field(
        default=[""], alias="missingValues"
    )


class DialectDescriptor(_Loose):
    delimiter: Annotated[str, Field(pattern=r"^[,;|\t:]$")] | None = None


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
    resources: list[ResourceDescriptor] = Field(min_length=1, max_length=MAX_MEMBERS)


@dataclass(slots=True)
class PackageRead:
    """tables: read and checked; their records are ready to be written by store table, and what is
    of the ledger. faults: the first hundred of each cause, warnings among them."""

    tables: list[Table] = field(default_factory=list)
    loose: list[Faults] = field(default_factory=list)
    """Faults of what could not be read as a table."""
    faults: list[Fault] = field(default_factory=list)
    ledger: LedgerRead = field(default_factory=LedgerRead)

    def fault(self, file: str, expected: str, value: str | None = None, cause: str = "") -> None:
        """One with no line: of a whole file, or of a package."""
        held = next((f for f in self.loose if f.file == file), None)
        if held is None:
            held = Faults(file)
            self.loose.append(held)
        held.add(None, None, value, expected, cause=cause)

    @property
    def refused(self) -> bool:
        return any(not f.warning for f in self.faults)

    @property
    def records(self) -> dict[str, Sequence[Row]]:
        """The rows of each fact table."""
        found: dict[str, Sequence[Row]] = {}
        for table in self.tables:
            for of in table.format.of:
                rows, before = _rows_of(of, table), found.get(of.name)
                found[of.name] = rows if before is None else [*before, *rows]
        return found


def read_files(
    files: Sequence[tuple[str, bytes]],
    held: Stored,
    progress: Progress | None = None,
    made: Sequence[MadeTable] = (),
) -> PackageRead:
    """Read dropped files whole and run every check.

    files: (name, bytes) of CSVs and zips. held: what is stored already. progress: called with
    step, tables read and tables in all; raising from it stops. made: tables that were made of
    files of other sorts.
    Raises: TooLarge for an upload, a zip or a table beyond its bounds.
    """
    reading = PackageRead()
    size = sum(len(raw) for _, raw in files)
    if size > MAX_UPLOAD:
        raise TooLarge(
            "the upload is too large",
            field="file",
            value=size,
            rule=f"at most {MAX_UPLOAD // 2**20} MB",
        )
    parts: list[_Part] = []
    for name, raw in files:
        if raw[:2] == b"PK":
            parts += _read_zip(reading, name, raw)
        else:
            parts.append(_Part(PurePosixPath(name).name, raw, None))
    whole: list[_Part | MadeTable] = [*parts, *made]
    tables = len(whole)
    for done, part in enumerate(whole):
        if progress:
            progress("reading", done, tables)
        with at_rest():
            _read_one(reading, part)
    if progress:
        progress("checking", tables, tables)
    if not reading.tables and not reading.loose:
        reading.fault(files[0][0] if files else "", "at least one CSV table")
    with at_rest():
        _check(reading, held)
    by_file = {m.file: m for m in made if m.origins}
    reading.faults = [_placed(f, by_file.get(f.file)) for f in reading.faults]
    return reading


def _placed(fault: Fault, made: MadeTable | None) -> Fault:
    """A fault by the place that a person knows: the cell of their own file."""
    if made is None or fault.line is None or not 2 <= fault.line < len(made.rows) + 2:
        return fault
    place, spell = made.origin_of(fault.line - 2)
    return replace(fault, file=spell(place, fault.column), line=None)


def read_typed(
    table: str, rows: Sequence[Mapping[str, Cell]], *, unit: str | None, decimal: str, held: Stored
) -> PackageRead:
    """Rows as a person typed or pasted them, through the same reader and the same checks.

    rows: cells by column name, as text; a row's number, from 1, is its line.
    """
    reading = PackageRead()
    dialect = Dialect(decimal=decimal, missing=frozenset({"", "-", "–", "—", "n/a"}), unit=unit)
    reading.tables.append(read_cells(IN_FILES[table], rows, dialect))
    _check(reading, held)
    return reading


def _check(reading: PackageRead, held: Stored) -> None:
    checks.check(reading.tables, held)
    reading.ledger = read_ledger(
        reading.tables, held.accounts, checks.payers_with(reading.tables, held), held.today
    )
    files = (*(t.faults for t in reading.tables), *reading.loose)
    reading.faults = within_bounds(f.listed() for f in files)


@dataclass(frozen=True, slots=True)
class _Part:
    """One CSV to read, and what a descriptor says of it."""

    file: str
    raw: bytes
    resource: ResourceDescriptor | None


def _read_one(reading: PackageRead, part: _Part | MadeTable) -> None:
    found = _table_of(part)
    if isinstance(found, Fault):
        reading.fault(found.file, found.expected, found.value)
        return
    reading.tables.append(found)
    rows = sum(len(t.records) for t in reading.tables)
    if rows > MAX_TOTAL_ROWS:
        raise TooLarge(
            "too many rows in all",
            field=found.file,
            value=rows,
            rule=f"at most {MAX_TOTAL_ROWS:,} rows",
        )


def _table_of(part: _Part | MadeTable) -> Table | Fault:
    if isinstance(part, MadeTable):
        return read_made(part, IN_FILES[part.name], Dialect())
    file, resource = part.file, part.resource

    def pick(header: frozenset[str]) -> Format | None:
        if resource is not None and resource.name in IN_FILES:
            return IN_FILES[resource.name]
        return recognise(PurePosixPath(file).stem, header)

    return read_table(part.raw, file, pick, resource.to_dialect() if resource else Dialect())


def _read_zip(reading: PackageRead, name: str, raw: bytes) -> list[_Part]:
    """The tables that the zip's descriptor names, each once."""
    try:
        contents = _expanded(reading, name, opened(name, raw), len(raw))
    except _TORN as error:
        reading.fault(name, f"a whole, unencrypted zip ({error})")
        return []
    descriptor = _descriptor(reading, name, contents)
    found: dict[str, _Part] = {}
    for resource in descriptor.resources if descriptor else ():
        path = resource.path.removeprefix("./")
        content = contents.get(path)
        if content is None:
            expected = "a file of this path in the zip, as datapackage.json says"
            reading.fault(name, expected, resource.path)
        elif path in found:
            reading.fault(name, "each file once in datapackage.json", resource.path)
        else:
            found[path] = _Part(resource.path, content, resource)
    return list(found.values())


def opened(name: str, raw: bytes) -> zipfile.ZipFile:
    """A zip, whose list of contents is not read where it is longer than that of any package.
    Raises TooLarge, and what a damaged one raises."""
    listed = raw.count(b"PK\x01\x02")
    if listed > MAX_LISTED:
        raise TooLarge(
            "the zip has too many files", field=name, value=listed, rule=f"at most {MAX_MEMBERS}"
        )
    return zipfile.ZipFile(io.BytesIO(raw))


def _expanded(
    reading: PackageRead, name: str, archive: zipfile.ZipFile, packed: int
) -> dict[str, bytes]:
    """Members that stay inside the archive's folder, by path. What a header says of its size is not
    believed: bytes are counted as they are expanded."""
    members = [m for m in archive.infolist() if not m.is_dir()]
    if len(members) > MAX_MEMBERS:
        raise TooLarge(
            "too many files in the zip",
            field=name,
            value=len(members),
            rule=f"at most {MAX_MEMBERS}",
        )
    room = min(MAX_EXPANDED, MAX_RATIO * packed)
    found: dict[str, bytes] = {}
    for member in members:
        path = PurePosixPath(member.filename.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or ":" in member.filename:
            reading.fault(name, "paths inside the zip's own folder", member.filename)
        elif member.compress_type not in METHODS:
            reading.fault(name, "files stored or deflated, as usual in a zip", member.filename)
        elif member.filename in found:
            reading.fault(name, "each file once in the zip", member.filename)
        else:
            content = _member(archive, member, room, name)
            room -= len(content)
            found[member.filename] = content
    return found


def _member(archive: zipfile.ZipFile, member: zipfile.ZipInfo, room: int, name: str) -> bytes:
    """One member, piece by piece. Raises TooLarge as soon as it is more than there is room for."""
    pieces, size = [], 0
    with archive.open(member) as packed:
        while piece := packed.read(PIECE):
            pieces.append(piece)
            size += len(piece)
            if size > room:
                raise TooLarge(
                    "the zip expands too far",
                    field=name,
                    value=size,
                    rule=f"at most {MAX_EXPANDED // 2**20} MB and {MAX_RATIO} times its size",
                )
    return b"".join(pieces)


def _descriptor(
    reading: PackageRead, name: str, contents: Mapping[str, bytes]
) -> PackageDescriptor | None:
    raw = contents.get("datapackage.json")
    if raw is None:
        reading.fault(name, "a datapackage.json at the top of the zip")
        return None
    if len(raw) > MAX_DESCRIPTOR:
        reading.fault("datapackage.json", f"at most {MAX_DESCRIPTOR // 2**20} MB of description")
        return None
    try:
        return PackageDescriptor.model_validate(json.loads(raw))
    except ValidationError as error:
        for e in error.errors(include_url=False, include_input=False):
            where = ".".join(str(p) for p in e["loc"])[:120]
            reading.fault("datapackage.json", f"{where}: {e['msg']}", cause=e["msg"])
    except (ValueError, RecursionError) as error:
        reading.fault("datapackage.json", f"valid JSON ({error})")
    return None


def _rows_of(of: FactTable, table: Table) -> Sequence[Row]:
    """A file's rows as a fact table keeps them: each what is its own, an owner once."""
    rows, several = table.records, len(table.format.of) > 1
    asks = [c for c in of.stored if c.in_files or c.empty is not None]
    if not several and not asks:
        return rows
    owner = TABLES[of.owner].key if of.owner else ()
    names = {n: n for n in owner} | {c.in_files or c.name: c.name for c in of.stored}
    empty = {c.name: c.empty for c in asks if c.empty is not None}
    kept = [{name: r.get(told) for told, name in names.items()} for r in rows]
    for row in kept if empty else ():
        row |= {name: value for name, value in empty.items() if row[name] is None}
    if several and of.owner is None:
        return list({tuple(r[k] for k in of.key): r for r in kept}.values())
    return kept
