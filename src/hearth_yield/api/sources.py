"""The Sources place: files in and out, facts by hand, and undoing them. held.py shows the facts."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from fastapi import APIRouter, File, Form, Query, Response, UploadFile
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from hearth_yield.actions import back_up as backups
from hearth_yield.actions import enter_facts as entries
from hearth_yield.actions import export_facts as exports
from hearth_yield.actions import import_files as imports
from hearth_yield.actions import show_held
from hearth_yield.actions.read_found import Settled, understand_files
from hearth_yield.core.errors import InvalidInput, TooLarge
from hearth_yield.exchange.package import MAX_UPLOAD
from hearth_yield.progress import Progress

from . import schemas as s
from .as_found import SettledIn, found_out, waiting_out
from .context import Context, Files, Here, Id, Moment, When
from .jobs import Job

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})


def sources_of(here: Context) -> list[s.SourceOut]:
    return [s.SourceOut(**row) for row in show_held.all_sources(here.database)]


@router.get("/sources")
def list_sources(here: Here) -> list[s.SourceOut]:
    return sources_of(here)


def _package(here: Context, when: Moment, payers: Sequence[str]) -> Response:
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
def export(
    here: Here, when: When, payer: Annotated[list[str] | None, Query(max_length=100)] = None
) -> Response:
    """A Data Package of the facts held. payer: EXCHANGE/SYMBOL, once for each; none: all."""
    return _package(here, when, payer or ())


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
    ((_, raw),) = _read_uploads([file], backups.MAX_BACKUP)

    def task(progress: Progress) -> int:
        backups.restore(here.database, raw, at=here.now(), progress=progress)
        return 0

    return here.jobs.start(task).out()


def _read_uploads(files: list[UploadFile], most: int = MAX_UPLOAD) -> list[tuple[str, bytes]]:
    """Names and bytes, bounded together. Raises TooLarge."""
    dropped = []
    room = most
    for file in files:
        raw = file.file.read(room + 1)
        room -= len(raw)
        if room < 0:
            raise TooLarge(
                "the upload is too large",
                field=file.filename,
                value=most - room,
                rule=f"at most {most // 2**20} MB",
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
def preview(
    here: Here,
    files: Annotated[list[UploadFile], File()],
    settled: Annotated[str, Form(max_length=200_000)] = "",
) -> s.PreviewOut:
    """Files of the product's own, and tables as people have them. settled: what was answered of
    those, as JSON (`SettledIn`)."""
    dropped = _read_uploads(files)
    understood = understand_files(here.database, dropped, _settled(settled))
    name = imports.file_name_of(dropped)
    if understood.found and not understood.files:
        return waiting_out(understood, name)
    called = name if understood.found else None
    found = imports.preview_import(here.database, understood.files, called)
    token = here.pending.keep(understood.files, called)
    return _preview_out(found, token).model_copy(update={"found": found_out(understood)})


def _settled(text: str) -> Settled:
    try:
        held = SettledIn.model_validate_json(text or "{}")
    except ValidationError as error:
        raise InvalidInput(
            "what was settled cannot be read",
            field="settled",
            value=text[:120],
            rule=str(error.errors()[0]["msg"])[:200],
        ) from error
    payers = [{k: str(v) for k, v in p.model_dump().items()} for p in held.payers]
    return Settled(answers=held.answers, payers=payers)


@router.post("/imports", status_code=202)
def commit(here: Here, asked: s.CommitIn) -> s.JobOut:
    def start(files: Files, name: str | None) -> Job:
        def task(progress: Progress) -> int:
            return imports.import_files(
                here.database,
                files,
                at=here.now(),
                accepted=frozenset(asked.accepted),
                progress=progress,
                name=name,
            )

        return here.jobs.start(task)

    return here.pending.commit(asked.token, start).out()


@router.post("/imports/{id}/undo", status_code=204, responses={409: {"model": s.Problem}})
def undo(here: Here, id: Id) -> None:
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
def report(here: Here, id: Id) -> ReportOut:
    found = show_held.report_of(here.database, id)
    return ReportOut(rows=dict(found.rows), warnings=[WarningOut(**w) for w in found.warnings])


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
