"""The routes, by place: payers, review, sources."""

from __future__ import annotations

from importlib.metadata import version
from typing import Annotated

from fastapi import APIRouter, File, Response, UploadFile

from hearth_yield.actions import back_up as backups
from hearth_yield.actions import decide as decisions
from hearth_yield.actions import export_facts as exports
from hearth_yield.actions import import_files as imports
from hearth_yield.core.errors import NotFound, TooLarge
from hearth_yield.exchange.package import MAX_UPLOAD
from hearth_yield.store import payer_files, sources

from . import schemas as s
from . import views
from .context import Asked, Context, Here, Moment, When, question_of
from .jobs import Progress

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol}"


@router.get("/status")
def status(here: Here, when: When) -> s.StatusOut:
    with here.database.read() as connection:
        return s.StatusOut(
            today=when.today,
            pinned=when.pinned,
            newest_price=payer_files.newest_price_day(connection, when.as_of),
            payers=len(payer_files.keys(connection)),
            version=version("hearth-yield"),
        )


@router.get("/names")
def names(here: Here, q: str = "", limit: int = 12) -> list[s.PayerNameOut]:
    with here.database.read() as connection:
        found = payer_files.find_names(connection, q, max(1, min(limit, 50)))
    return [s.PayerNameOut.model_validate(n) for n in found]


@router.get(ONE_PAYER + "/review")
def review(here: Here, exchange: str, symbol: str, when: When, question: Asked) -> s.ReviewOut:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    with here.database.read() as connection:
        slumps = [
            s.SlumpOut(name=x.name, begins=x.begins, ends=x.ends)
            for x in payer_files.load_slumps(connection)
            if x.begins <= when.as_of
        ]
    return views.ReviewView(found).whole(slumps)


@router.get(ONE_PAYER + "/worth")
def worth(here: Here, exchange: str, symbol: str, when: When, question: Asked) -> s.WorthOut:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    return views.ReviewView(found, only="worth").worth()


@router.get(ONE_PAYER + "/aim")
def aim(here: Here, exchange: str, symbol: str, when: When, question: Asked) -> s.AimOut | None:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    return views.ReviewView(found, only="aim").aim()


@router.get(ONE_PAYER + "/working")
def working(
    here: Here,
    exchange: str,
    symbol: str,
    when: When,
    question: Asked,
    key: str,
    path: str = "",
) -> s.WorkingOut:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    return views.working_out(found, key, path, {x.id: x for x in _sources(here)})


@router.get(ONE_PAYER + "/decisions")
def past_decisions(here: Here, exchange: str, symbol: str, when: When) -> list[s.DecisionOut]:
    found = decisions.past_decisions(here.desk, exchange, symbol, when.as_of)
    return [views.decision_out(d) for d in found]


@router.post(ONE_PAYER + "/decisions", status_code=201, responses={409: {"model": s.Problem}})
def decide(here: Here, exchange: str, symbol: str, made: s.DecisionIn) -> s.DecisionMade:
    id = decisions.decide(
        here.desk,
        exchange,
        symbol,
        today=here.moment().today,
        as_of=made.as_of,
        recorded_at=here.now(),
        verdict=made.verdict,
        words=made.words,
        buy_below=made.buy_below,
        question=question_of(
            made.window,
            None,
            None,
            None,
            made.growth,
            made.required_return,
            made.mean_yield,
            made.margin_of_safety,
            made.on,
            made.off,
        ),
    )
    return s.DecisionMade(id=id)


@router.delete("/decisions/{id}", status_code=204)
def withdraw(here: Here, id: int) -> None:
    decisions.withdraw(here.desk, id, True)


@router.post("/decisions/{id}/restore", status_code=204)
def put_back(here: Here, id: int) -> None:
    decisions.withdraw(here.desk, id, False)


def _sources(here: Context) -> list[s.SourceOut]:
    with here.database.read() as connection:
        return [s.SourceOut(**row) for row in sources.newest_first(connection)]


@router.get("/sources")
def list_sources(here: Here) -> list[s.SourceOut]:
    return _sources(here)


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


@router.post("/imports/preview", responses={413: {"model": s.Problem}})
def preview(here: Here, files: Annotated[list[UploadFile], File()]) -> s.PreviewOut:
    dropped = _read_uploads(files)
    found = imports.preview_import(here.database, dropped)
    return s.PreviewOut(
        token=here.pending.keep(dropped),
        file_name=found.file_name,
        tables=[
            s.CountsOut(table=name, added=c.added, changed=c.changed, same=c.same)
            for name, c in found.tables.items()
        ],
        faults=[s.FaultOut.model_validate(f) for f in found.faults],
        refused=found.refused,
        held_already=found.held_already,
        payers=[
            s.PayerNameOut(symbol=symbol, exchange=exchange, name=symbol, kind="")
            for exchange, symbol in found.payers
        ],
    )


@router.post("/imports", status_code=202)
def commit(here: Here, asked: s.CommitIn) -> s.JobOut:
    files = here.pending.take(asked.token)
    job = here.jobs.start(
        lambda progress: imports.import_files(
            here.database, files, at=here.now(), progress=progress
        )
    )
    return job.out()


@router.get("/jobs/{id}")
def job(here: Here, id: str) -> s.JobOut:
    return here.jobs.get(id).out()


@router.delete("/jobs/{id}", status_code=204)
def cancel(here: Here, id: str) -> None:
    here.jobs.get(id).cancel.set()


@router.post("/imports/{id}/undo", status_code=204, responses={409: {"model": s.Problem}})
def undo(here: Here, id: int) -> None:
    imports.undo_import(here.database, id, at=here.now())


@router.api_route(
    "/{rest:path}", methods=["GET", "POST", "PUT", "PATCH", "DELETE"], include_in_schema=False
)
def nothing_here(rest: str) -> None:
    raise NotFound("no such address", field="path", value=f"/api/{rest}")
