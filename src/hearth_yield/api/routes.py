"""The routes of the review, and what every place shares: status, names, tasks."""

from __future__ import annotations

from importlib.metadata import version

from fastapi import APIRouter, Response
from pydantic import BaseModel

from hearth_yield.actions import adjust, show_held
from hearth_yield.actions import decide as decisions
from hearth_yield.core.errors import NotFound

from . import schemas as s
from . import views
from .context import Asked, Here, Id, When, question_of
from .sources import sources_of

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


def written(answer: BaseModel) -> Response:
    """A large answer straight to JSON: it was built by the schema and needs no second look."""
    return Response(answer.model_dump_json(), media_type="application/json")


@router.get("/status")
def status(here: Here, when: When) -> s.StatusOut:
    held = show_held.extent(here.database, when.as_of)
    return s.StatusOut(
        today=when.today,
        pinned=when.pinned,
        newest_price=held.newest_price,
        payers=held.payers,
        version=version("hearth-yield"),
    )


@router.get("/names")
def names(here: Here, q: str = "", limit: int = 12) -> list[s.PayerNameOut]:
    found = show_held.find_names(here.database, q, max(1, min(limit, 50)))
    return [s.PayerNameOut.model_validate(n) for n in found]


@router.get(ONE_PAYER + "/review", response_model=s.ReviewOut)
def review(here: Here, exchange: str, symbol: str, when: When, question: Asked) -> Response:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    slumps = [
        s.SlumpOut(name=x.name, begins=x.begins, ends=x.ends)
        for x in show_held.known_slumps(here.database, when.as_of)
    ]
    return written(views.ReviewView(found).whole(slumps))


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
    here: Here, exchange: str, symbol: str, when: When, question: Asked, key: str, path: str = ""
) -> s.WorkingOut:
    found = here.desk.review(exchange, symbol, when.as_of, question, when.revision)
    standing = adjust.standing(here.database, exchange, symbol)
    return views.working_out(found, key, path, {x.id: x for x in sources_of(here)}, standing)


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
        intention=made.intention,
        question=question_of(
            made.window,
            None,
            None,
            None,
            made.growth,
            made.later_growth,
            made.required_return,
            made.mean_yield,
            made.margin_of_safety,
            made.on,
            made.off,
        ),
    )
    return s.DecisionMade(id=id)


@router.delete("/decisions/{id}", status_code=204)
def withdraw(here: Here, id: Id) -> None:
    decisions.withdraw(here.desk, id, True)


@router.post("/decisions/{id}/restore", status_code=204)
def put_back(here: Here, id: Id) -> None:
    decisions.withdraw(here.desk, id, False)


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
