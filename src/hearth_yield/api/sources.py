"""The Sources place: what is held and how old, files in and out, facts by hand."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Annotated, Any, Literal

from fastapi import APIRouter, File, Response, UploadFile
from pydantic import BaseModel, ConfigDict, Field

from hearth_yield.actions import back_up as backups
from hearth_yield.actions import enter_facts as entries
from hearth_yield.actions import export_facts as exports
from hearth_yield.actions import import_files as imports
from hearth_yield.actions.show_facts import show_facts
from hearth_yield.core.errors import NotFound, TooLarge
from hearth_yield.core.upkeep import PRICE_GAP_DAYS, age_of, missing_periods
from hearth_yield.exchange.columns import FORMATS, Column
from hearth_yield.exchange.package import MAX_UPLOAD
from hearth_yield.store import coverage, sources

from . import schemas as s
from .adjustments import AdjustmentOut, adjustment_out
from .context import Context, Here, Moment, When
from .jobs import Progress

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol}"
MAX_ROWS = 400


def sources_of(here: Context) -> list[s.SourceOut]:
    with here.database.read() as connection:
        return [s.SourceOut(**row) for row in sources.newest_first(connection)]


@router.get("/sources")
def list_sources(here: Here) -> list[s.SourceOut]:
    return sources_of(here)


def _package(here: Context, when: Moment, payers: str) -> Response:
    keys = exports.read_keys(payers)
    name = f"{keys[0][1].lower()}" if keys and len(keys) == 1 else "hearth-yield"
    safe = "".join(c for c in name if c.isascii() and (c.isalnum() or c == "-")) or "payers"
    file = f"{safe}-{when.today.isoformat()}"
    return Response(
        exports.export_facts(here.database, keys, name=file),
        media_type="application/zip",
        headers={"content-disposition": f'attachment; filename="{file}.zip"'},
    )


@router.get("/export", response_class=Response)
def export(here: Here, when: When, payers: str = "") -> Response:
    """A Data Package of the facts held. payers: EXCHANGE/SYMBOL, comma-separated; none: all."""
    return _package(here, when, payers)


@router.post("/export", response_class=Response)
def export_many(here: Here, when: When, asked: s.ExportIn) -> Response:
    """The same for more payers than an address can name."""
    return _package(here, when, asked.payers)


@router.get("/backup", response_class=Response)
def backup(here: Here, when: When) -> Response:
    """Everything there is as one JSON document."""
    return Response(
        backups.back_up(here.database, at=here.now()),
        media_type="application/json",
        headers={"content-disposition": f'attachment; filename="hearth-yield-{when.today}.json"'},
    )


@router.post("/restore", status_code=202)
def restore(here: Here, file: Annotated[UploadFile, File()]) -> s.JobOut:
    """Replaces everything by a backup. The state before is kept in the data folder."""
    ((_, raw),) = _read_uploads([file])

    def task(progress: Progress) -> int:
        backups.restore(here.database, raw, at=here.now(), progress=progress)
        return 0

    return here.jobs.start(task).out()


def _read_uploads(files: list[UploadFile]) -> list[tuple[str, bytes]]:
    """Names and bytes, bounded together. Raises TooLarge."""
    dropped = []
    room = MAX_UPLOAD
    for file in files:
        raw = file.file.read(room + 1)
        room -= len(raw)
        if room < 0:
            raise TooLarge(
                "the upload is too large",
                field=file.filename,
                value=MAX_UPLOAD - room,
                rule=f"at most {MAX_UPLOAD // 2**20} MB",
            )
        dropped.append((file.filename or "unnamed", raw))
    return dropped


def _preview_out(found: imports.Preview, token: str) -> s.PreviewOut:
    return s.PreviewOut(
        token=token,
        file_name=found.file_name,
        tables=[
            s.CountsOut(table=name, added=c.added, changed=c.changed, same=c.same)
            for name, c in found.tables.items()
        ],
        faults=[s.FaultOut.model_validate(f) for f in found.faults],
        refused=found.refused,
        held_already=found.held_already,
    )


@router.post("/imports/preview", responses={413: {"model": s.Problem}})
def preview(here: Here, files: Annotated[list[UploadFile], File()]) -> s.PreviewOut:
    dropped = _read_uploads(files)
    found = imports.preview_import(here.database, dropped)
    return _preview_out(found, here.pending.keep(dropped))


@router.post("/imports", status_code=202)
def commit(here: Here, asked: s.CommitIn) -> s.JobOut:
    files = here.pending.take(asked.token)

    def task(progress: Progress) -> int:
        return imports.import_files(
            here.database,
            files,
            at=here.now(),
            accepted=frozenset(asked.accepted),
            progress=progress,
        )

    return here.jobs.start(task).out()


@router.post("/imports/{id}/undo", status_code=204, responses={409: {"model": s.Problem}})
def undo(here: Here, id: int) -> None:
    imports.undo_import(here.database, id, at=here.now())


class WarningOut(BaseModel):
    model_config = ConfigDict(from_attributes=True)
    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str


class ReportOut(BaseModel):
    """rows: facts by table that stand as the source said them; warnings: those accepted."""

    rows: dict[str, int]
    warnings: list[WarningOut]


@router.get("/sources/{id}/report")
def report(here: Here, id: int) -> ReportOut:
    with here.database.read() as connection:
        found = sources.report(connection, id)
    return ReportOut(rows=dict(found.rows), warnings=[WarningOut(**w) for w in found.warnings])


class HeldOut(BaseModel):
    """One kind of fact of one payer. age: by how often such facts come. gaps: what is missing in
    between, in words. sources: how many it comes from."""

    kind: str
    count: int
    first: date | None
    newest: date | None
    age: Literal["none", "fresh", "ageing", "old"]
    gaps: list[str]
    by_hand: bool
    sources: int


class HoldingOut(BaseModel):
    exchange: str
    symbol: str
    name: str
    delisted_on: date | None
    adjusted: int
    kinds: list[HeldOut]


class HoldingsOut(BaseModel):
    rows: list[HoldingOut]
    found: int


@router.get("/holdings")
def holdings(here: Here, when: When, q: str = "", first: int = 0, count: int = 60) -> HoldingsOut:
    """What is held of each payer, by kind of fact. Only what came later than the day asked for is
    not told apart: this is about the store, not about a past day."""
    with here.database.read() as connection:
        rows = coverage.of_payers(connection, q, max(first, 0), max(0, min(count, MAX_ROWS)))
        found = coverage.count(connection, q)
    return HoldingsOut(rows=[_holding(r, when.today) for r in rows], found=found)


KINDS = (
    "prices", "dividends", "years", "quarters", "estimates", "guidance", "exposures",
    "payer_notes",
)  # fmt: skip


def _holding(row: coverage.Coverage, today: date) -> HoldingOut:
    return HoldingOut(
        exchange=row.exchange, symbol=row.symbol, name=row.name, delisted_on=row.delisted_on,
        adjusted=row.adjusted, kinds=[_held(row, kind, today) for kind in KINDS],
    )  # fmt: skip


def _held(row: coverage.Coverage, kind: str, today: date) -> HeldOut:
    span = row.spans.get(kind)
    newest = span.newest if span else None
    halves = kind == "quarters" and "quarter" not in row.ends
    return HeldOut(
        kind=kind,
        count=span.count if span else 0,
        first=span.first if span else None,
        newest=newest,
        age=age_of("halves" if halves else kind, newest, today, row.delisted_on).value,
        gaps=_gaps(row, kind),
        by_hand=span.by_hand if span else False,
        sources=span.sources if span else 0,
    )


def _gaps(row: coverage.Coverage, kind: str) -> list[str]:
    if kind == "prices":
        wide = row.price_gap > PRICE_GAP_DAYS
        return [f"{row.price_gap} days without a close"] if wide else []
    if kind == "years":
        return [str(d.year) for d in missing_periods(row.ends.get("year", ()), 12)]
    if kind == "quarters":
        return [
            d.isoformat()
            for span, months in (("quarter", 3), ("half", 6))
            for d in missing_periods(row.ends.get(span, ()), months)
        ]
    return []


class ColumnOut(BaseModel):
    """How a cell must be typed. scaled: money in the unit the entry names."""

    name: str
    type: str
    required: bool
    choices: list[str]
    expected: str
    scaled: bool


class FactRowOut(BaseModel):
    """derived: lines that a statement does not publish and that follow from those it does."""

    key: dict[str, str]
    cells: dict[str, Any]
    source: int
    source_name: str
    by_hand: bool
    adjusted: dict[str, AdjustmentOut]
    derived: dict[str, float]


class FactsOut(BaseModel):
    """name, currency: of the payer."""

    name: str
    currency: str
    table: str
    columns: list[ColumnOut]
    rows: list[FactRowOut]
    found: int


def _column(c: Column) -> ColumnOut:
    return ColumnOut(
        name=c.name, type=c.type.value, required=c.required and c.default is None,
        choices=list(c.choices), expected=c.expected, scaled=c.scaled,
    )  # fmt: skip


@router.get("/formats/{table}")
def columns_of(table: str) -> list[ColumnOut]:
    """How the rows of a table are typed."""
    if table not in FORMATS:
        raise NotFound(
            "there is no such table", field="table", value=table, rule=", ".join(FORMATS)
        )
    return [_column(c) for c in FORMATS[table].columns]


@router.get(ONE_PAYER + "/facts/{table}")
def facts(
    here: Here, exchange: str, symbol: str, table: str, first: int = 0, count: int = 100
) -> FactsOut:
    """One table of a payer's facts as held, the newest first; adjustments stand beside."""
    size = max(0, min(count, MAX_ROWS))
    shown = show_facts(here.database, exchange, symbol, table, max(first, 0), size)
    columns = [c for c in FORMATS[table].columns if c.name not in ("exchange", "symbol")]
    return FactsOut(
        name=shown.window.payer_name,
        currency=shown.window.currency,
        table=table,
        columns=[_column(c) for c in columns],
        rows=[
            FactRowOut(
                key=dict(r.key),
                cells=_named(table, r.cells),
                source=r.source_id,
                source_name=r.source_name,
                by_hand=r.source_kind == "manual",
                adjusted={f: adjustment_out(a) for f, a in r.adjusted.items()},
                derived=dict(shown.derived.get(tuple(r.key.values()), {})),
            )
            for r in shown.window.rows
        ],
        found=shown.window.found,
    )


def _named(table: str, cells: Mapping[str, Any]) -> dict[str, Any]:
    """Cells under the names a file gives them."""
    renamed = {"dividend_notices": {"kind": "notice"}}.get(table, {})
    return {renamed.get(k, k): v for k, v in cells.items()}


class EntryIn(BaseModel):
    """Rows as typed: cells by column, as text. unit: what money is counted in. accepted: places of
    the warnings that are accepted."""

    table: str
    rows: Annotated[list[dict[str, str]], Field(min_length=1, max_length=2000)]
    unit: str = "1"
    decimal: str = "."
    accepted: list[int] = []

    def typed(self) -> entries.Typed:
        return entries.Typed(table=self.table, rows=self.rows, unit=self.unit, decimal=self.decimal)


class EnteredOut(BaseModel):
    source: int


@router.post("/entries/preview")
def preview_entry(here: Here, typed: EntryIn) -> s.PreviewOut:
    return _preview_out(entries.preview_entry(here.database, typed.typed()), "")


@router.post("/entries", status_code=201, responses={409: {"model": s.Problem}})
def enter(here: Here, typed: EntryIn) -> EnteredOut:
    id = entries.enter_facts(
        here.database, typed.typed(), at=here.now(), accepted=frozenset(typed.accepted)
    )
    return EnteredOut(source=id)
