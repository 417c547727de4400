"""What every place shares: status, names, tasks, and the answer where there is nothing."""

from __future__ import annotations

from importlib.metadata import version

from fastapi import APIRouter

from hearth_yield.actions import show_held
from hearth_yield.actions.holding_signals import unseen_in_all
from hearth_yield.core.errors import NotFound

from . import schemas as s
from .context import Here, When
from .wire import each

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})


@router.get("/status")
def status(here: Here, when: When) -> s.StatusOut:
    held = show_held.extent(here.database, when.as_of)
    return s.StatusOut(
        today=when.today,
        pinned=when.pinned,
        newest_price=held.newest_price,
        payers=held.payers,
        feed=here.feed is not None,
        unseen=unseen_in_all(here.cache, when.as_of, when.edition),
        version=version("hearth-yield"),
    )


@router.get("/names")
def names(here: Here, q: str = "", limit: int = 12) -> list[s.PayerNameOut]:
    found = show_held.find_names(here.database, q, max(1, min(limit, 50)))
    return each(s.PayerNameOut, found)


@router.get("/jobs/{id}")
def job(here: Here, id: str) -> s.JobOut:
    return here.jobs.get(id).out()


@router.delete("/jobs/{id}", status_code=204)
def cancel(here: Here, id: str) -> None:
    here.jobs.get(id).cancel.set()


@router.api_route(
    "/{rest:path}", methods=["GET", "POST", "PUT", "PATCH", "DELETE"], include_in_schema=False
)
def nothing_here(rest: str) -> None:
    raise NotFound("no such address", field="path", value=f"/api/{rest}")
