"""The Sources place: files in and out, facts by hand, and undoing them. held.py shows the facts."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from math import isfinite
from typing import Annotated, Literal

from fastapi import APIRouter, File, Form, Query, Response, UploadFile

from hearth_yield.actions import back_up as backups
from hearth_yield.actions import export_facts as exports
from hearth_yield.actions import import_files as imports
from hearth_yield.actions import show_held
from hearth_yield.actions.export_ofx import export_ofx
from hearth_yield.actions.keep_profile import named
from hearth_yield.actions.read_found import Settled, understand_files
from hearth_yield.core.errors import InvalidInput, NotFound, TooLarge
from hearth_yield.exchange.found.templates import TEMPLATES, template_book, template_csv
from hearth_yield.exchange.package import MAX_UPLOAD
from hearth_yield.progress import Progress
from hearth_yield.texts import all_plain

from . import schemas as s
from .answer import wire
from .as_found import SettledIn, found_out, waiting_out, with_mend
from .context import Context, Here, Id, Moment, When
from .jobs import Job
from .pending import Kept
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})


def sources_of(here: Context) -> list[s.SourceOut]:
    return each(s.SourceOut, show_held.all_sources(here.database))


@router.get("/sources")
def list_sources(here: Here) -> list[s.SourceOut]:
    return sources_of(here)


ExportForm = Literal["zip", "xlsx"]
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def _package(
    here: Context,
    when: Moment,
    payers: Sequence[str],
    form: ExportForm = "zip",
    owned: exports.Owned = "with",
) -> Response:
    keys = exports.read_keys(payers)
    name = f"{keys[0][1].lower()}" if keys and len(keys) == 1 else "hearth-yield"
    name = "entries" if owned == "only" else name
    safe = "".join(c for c in name if c.isascii() and (c.isalnum() or c == "-")) or "payers"
    file = f"{safe}-{when.today.isoformat()}"
    return Response(
        exports.export_facts(here.database, keys, name=file, book=form == "xlsx", owned=owned),
        media_type=XLSX if form == "xlsx" else "application/zip",
        headers={"content-disposition": f'attachment; filename="{file}.{form}"'},
    )


@router.get("/export", response_class=Response)
def export(
    here: Here,
    when: When,
    payer: Annotated[list[str] | None, Query(max_length=100)] = None,
    form: ExportForm = "zip",
    owned: exports.Owned = "with",
) -> Response:
    """A Data Package of the facts held, or a workbook with a sheet for each table. payer:
    EXCHANGE/SYMBOL, once for each; none: all. owned: whether accounts and entries are in it."""
    return _package(here, when, payer or (), form, owned)


@router.get("/export/statement", response_class=Response)
def export_statement(here: Here, when: When) -> Response:
    """All accounts as one statement in OFX 2. The header X-Left-Out says how many entries the
    standard has no word for."""
    written = export_ofx(here.database, when.today)
    return Response(
        written.raw,
        media_type="application/x-ofx",
        headers={
            "content-disposition": f'attachment; filename="entries-{when.today.isoformat()}.ofx"',
            "x-left-out": str(written.left),
        },
    )


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
    """Replaces everything by a backup of this version or an earlier one. The state before is kept
    in the data folder."""
    ((name, raw),) = _read_uploads([file], backups.MAX_BACKUP)
    backups.bounded(name, raw)

    told: list[str] = []

    def task(progress: Progress) -> int:
        done = backups.restore(here.database, raw, at=here.now(), progress=progress)
        told.extend([f"What was here before is kept in {done.kept.name}.", *done.to_tell])
        return 0

    return here.jobs.start(task, told).out()


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


def preview_out(found: imports.Preview, token: str) -> s.PreviewOut:
    return fill(
        s.PreviewOut,
        found,
        token=token,
        found=[],
        tables=[fill(s.CountsOut, counts, table=name) for name, counts in found.tables.items()],
        payers=[
            s.NamedPayerOut(exchange=e, symbol=symbol, name=name)
            for e, symbol, name in found.payers
        ],
        replaced=[
            fill(s.ReplacedOut, r, apart=r.apart if isfinite(r.apart) else None)
            for r in found.replaced
        ],
    )


@router.post("/imports/preview", responses={413: {"model": s.Problem}})
def preview(
    here: Here,
    when: When,
    files: Annotated[list[UploadFile], File()],
    settled: Annotated[str, Form(max_length=200_000)] = "",
    task: Annotated[str, Form(max_length=80, pattern=r"^[\w-]*$")] = "",
) -> s.PreviewOut:
    """Files of the product's own, and tables as people have them. settled: what was answered of
    those, as JSON (`SettledIn`). task: a name under which the reading can be looked at among the
    tasks, and cancelled, while it goes on."""
    dropped, told = _read_uploads(files), _settled(settled)
    with here.jobs.watched(task) as progress:
        understood = understand_files(
            here.database, dropped, told, today=when.today, progress=progress
        )
        if understood.upload is None:
            return waiting_out(understood, imports.file_name_of(dropped))
        found, planned = imports.plan_import(
            here.database, understood.upload, progress, today=when.today
        )
    token = here.pending.keep(understood.upload, planned)
    out = preview_out(found, token)
    mended = [
        with_mend(f, told, understood) for f, told in zip(out.faults, found.faults, strict=True)
    ]
    return replace(out, found=found_out(understood), faults=mended)


def _settled(text: str) -> Settled:
    try:
        held = SettledIn.model_validate(all_plain(json.loads(text or "{}")))
    except (ValueError, RecursionError) as error:
        raise InvalidInput(
            "what was settled cannot be read",
            field="settled",
            value=text[:120],
            rule="answers and payers, as the page sends them",
        ) from error
    payers = [{k: str(v) for k, v in p.model_dump().items()} for p in held.payers]
    return Settled(answers=held.answers, payers=payers, profile=held.profile or None)


@router.post("/imports", status_code=202)
def commit(here: Here, asked: s.CommitIn) -> s.JobOut:
    profile = named(asked.profile) if asked.profile else None

    def start(kept: Kept) -> Job:
        def task(progress: Progress) -> int:
            upload, planned = kept.load()
            return imports.import_files(
                here.database,
                upload,
                at=here.now(),
                accepted=frozenset(asked.accepted),
                progress=progress,
                today=here.moment().today,
                planned=planned,
                profile=profile,
            )

        return here.jobs.start(task)

    return here.pending.commit(asked.token, start).out()


@router.post("/imports/{id}/undo", status_code=204, responses={409: {"model": s.Problem}})
def undo(here: Here, id: Id) -> None:
    imports.undo_import(here.database, id, at=here.now())


@wire
class WarningOut:
    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str


@wire
class ReportOut:
    """rows: facts by table that stand as the source said them; warnings: those accepted."""

    rows: dict[str, int]
    warnings: list[WarningOut]


@router.get("/sources/{id}/report")
def report(here: Here, id: Id) -> ReportOut:
    found = show_held.report_of(here.database, id)
    return ReportOut(rows=dict(found.rows), warnings=each(WarningOut, found.warnings))


@wire
class TemplateOut:
    """rows: its cells, as they are shown."""

    id: str
    name: str
    rows: list[list[str]]
    note: str


@router.get("/templates")
def templates() -> list[TemplateOut]:
    """What a file may look like, by example."""
    return [
        TemplateOut(
            id=t.id,
            name=t.name,
            rows=[["" if c is None else str(c) for c in row] for row in t.rows],
            note=t.note,
        )
        for t in TEMPLATES
    ]


@router.get("/templates/all.xlsx", response_class=Response)
def template_workbook() -> Response:
    """All templates, a sheet each."""
    headers = {"content-disposition": 'attachment; filename="templates.xlsx"'}
    return Response(template_book(), media_type=XLSX, headers=headers)


@router.get("/templates/{id}.csv", response_class=Response)
def template(id: str) -> Response:
    found = next((t for t in TEMPLATES if t.id == id), None)
    if found is None:
        known = ", ".join(t.id for t in TEMPLATES)
        raise NotFound("there is no such template", field="id", value=id, rule=known)
    headers = {"content-disposition": f'attachment; filename="{found.id}.csv"'}
    return Response(template_csv(found), media_type="text/csv", headers=headers)
