"""What a feed has published is brought in; in a demo, the day moves on with it."""

from __future__ import annotations

from contextlib import suppress
from datetime import date

from fastapi import APIRouter
from pydantic import BaseModel

from hearth_yield.actions.make_signals import ensure_signals
from hearth_yield.actions.pull_feed import pull_feed
from hearth_yield.core.errors import Cancelled, Conflict, InvalidInput
from hearth_yield.progress import Progress

from .context import Here, When
from .schemas import JobOut, Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}, 409: {"model": Problem}})


class FeedIn(BaseModel):
    """until: a day; none is today. Only a demo's day can be one to come."""

    until: date | None = None


@router.post("/feed", status_code=202)
def bring_in(here: Here, when: When, asked: FeedIn) -> JobOut:
    """The task that asks the feed, keeps what it brings and makes the signals of it; its source is
    0 where nothing was new. One that runs already is not started again."""
    feed = here.feed
    if feed is None:
        raise Conflict(
            "no feed is set up", field="feed", rule="HEARTH_FEED holds the address of one"
        )
    until = asked.until or when.today
    if until > when.today and not when.pinned:
        raise InvalidInput(
            f"{until.isoformat()} is still to come",
            field="until",
            value=until.isoformat(),
            rule=f"today ({when.today.isoformat()}) or earlier",
        )

    def task(progress: Progress) -> int:
        source = pull_feed(here.database, feed, until=until, at=here.now(), progress=progress)
        rules = here.cache.house_rules(here.cache.edition())
        # The rows are in: what is cut short from here on is made when the Hearth asks for it.
        with suppress(Cancelled):
            ensure_signals(here.database, rules, until, progress)
        return source

    return here.jobs.start(task, once="feed").out()
