"""The calendar: a file, and an address of its own secret for a calendar program on this machine."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Response

from hearth_yield.actions import calendar_file as made

from .answer import wire
from .context import Here, When
from .schemas import Problem

router = APIRouter(prefix="/api/calendar", responses={422: {"model": Problem}})
ICS = "text/calendar; charset=utf-8"


@wire
class SubscriptionOut:
    """path: what a calendar program asks on this machine; null where there is no address."""

    path: str | None


@router.get("/file.ics", response_class=Response)
def file(here: Here, when: When, everyone: bool = False, owned: bool = True) -> Response:
    """Ex-dates, pay dates and next looks, as known today. everyone: of all payers; owned: with what
    each payment brings."""
    raw = made.calendar_file(here.cache, when.today, when.edition, everyone=everyone, owned=owned)
    headers = {"content-disposition": 'attachment; filename="hearth-yield.ics"'}
    return Response(raw, media_type=ICS, headers=headers)


@router.get("/subscription")
def subscription(here: Here) -> SubscriptionOut:
    return _out(made.calendar_secret(here.database))


@router.post("/subscription", status_code=201)
def subscribe(here: Here) -> SubscriptionOut:
    """Another address; the one before answers no more."""
    return _out(made.new_secret(here.database))


@router.delete("/subscription", status_code=204)
def unsubscribe(here: Here) -> None:
    made.no_secret(here.database)


@router.get("/of/{secret}.ics", response_class=Response, responses={404: {"model": Problem}})
def subscribed(here: Here, when: When, secret: Annotated[str, Path(max_length=200)]) -> Response:
    """What a calendar program gets under the secret address."""
    return Response(made.subscribed(here.cache, secret, when.today, when.edition), media_type=ICS)


def _out(secret: str | None) -> SubscriptionOut:
    return SubscriptionOut(path=None if secret is None else f"/api/calendar/of/{secret}.ics")
