"""What every route needs: the desk, today, the as-of day and the question in the URL."""

from __future__ import annotations

import secrets
import threading
from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime
from typing import Annotated

from fastapi import Depends, Path, Query, Request

from hearth_yield.actions.desk import Desk
from hearth_yield.actions.keep_measures import keep_measures
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.review import Question
from hearth_yield.core.worth.inputs import WorthInputs
from hearth_yield.exchange.columns import FIRST_DAY
from hearth_yield.progress import Progress
from hearth_yield.store.database import Database, revision_and_pinned

from .jobs import Job, Jobs
from .schemas import WindowName

MAX_PENDING = 3
Files = Sequence[tuple[str, bytes]]


class Pending:
    """Uploads that were previewed: the newest three, each with the task that commits it. The token
    stays good until the import is in, so that a failed or lost commit can be sent again."""

    def __init__(self) -> None:
        self._held: OrderedDict[str, Files] = OrderedDict()
        self._jobs: dict[str, Job] = {}
        self._lock = threading.Lock()

    def keep(self, files: Files) -> str:
        token = secrets.token_urlsafe(16)
        with self._lock:
            self._held[token] = files
            while len(self._held) > MAX_PENDING:
                gone, _ = self._held.popitem(last=False)
                self._jobs.pop(gone, None)
        return token

    def commit(self, token: str, start: Callable[[Files], Job]) -> Job:
        """The task that commits an upload: one that runs or is done is not started again."""
        with self._lock:
            job = self._jobs.get(token)
            if job is not None and job.state in ("running", "done"):
                return job
            if token not in self._held:
                raise NotFound(
                    "this preview is no longer kept; drop the file again",
                    field="token",
                    value=token,
                    rule="one of the three newest previews",
                )
            job = self._jobs[token] = start(self._held[token])
            return job


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """today: the day the product stands on, pinned when a demo holds it; as_of: the day asked
    for; revision: of the facts."""

    today: date
    as_of: date
    revision: int
    pinned: bool


@dataclass(slots=True)
class Context:
    """One per application. The clock is read here and nowhere below."""

    desk: Desk
    jobs: Jobs = field(default_factory=Jobs)
    pending: Pending = field(default_factory=Pending)
    _keeping: dict[tuple[date, int], Job] = field(default_factory=dict)
    _gate: threading.Lock = field(default_factory=threading.Lock)

    @property
    def database(self) -> Database:
        return self.desk.database

    def moment(self) -> Moment:
        """Where the product stands now, read once for each request."""
        with self.database.read() as connection:
            revision, pinned = revision_and_pinned(connection)
        today = pinned or datetime.now().astimezone().date()
        return Moment(today=today, as_of=today, revision=revision, pinned=pinned is not None)

    def keep_ready(self, when: Moment, pending: int, *, again: bool = False) -> Job | None:
        """See to it that measures which are missing or stale are being made: one task at a time
        for each day. One that was cancelled or failed is taken up again only when asked to, or
        once the facts have changed."""
        with self._gate:
            key = (when.as_of, when.revision)
            job = self._keeping.get(key)
            if not pending:
                return None
            if job is None or job.state == "done" or (again and job.state != "running"):
                running = [
                    j
                    for (d, _), j in self._keeping.items()
                    if d == when.as_of and j.state == "running"
                ]
                self._keeping = {k: j for k, j in self._keeping.items() if j.state == "running"}
                job = running[0] if running else self.jobs.start(self._keeping_task(when.as_of))
                self._keeping[key] = job
            return job

    def keeping(self, when: Moment) -> Job | None:
        """The task that makes the measures of a day, if one was started; starts none."""
        with self._gate:
            return self._keeping.get((when.as_of, when.revision))

    def _keeping_task(self, as_of: date) -> Callable[[Progress], int]:
        def task(progress: Progress) -> int:
            keep_measures(self.database, self.desk.rules, as_of, progress)
            return 0

        return task

    def close(self) -> None:
        """Stop the tasks and let go of the database."""
        self.jobs.close()

    def now(self) -> str:
        return datetime.now(UTC).isoformat(timespec="seconds")


def context_of(request: Request) -> Context:
    context: Context = request.app.state.context
    return context


Here = Annotated[Context, Depends(context_of)]


def moment_asked(here: Here, as_of: Annotated[date | None, Query()] = None) -> Moment:
    """The asked day, today when none is asked. Raises InvalidInput for a day to come."""
    now = here.moment()
    if as_of is not None and as_of < FIRST_DAY:
        raise InvalidInput(
            f"{as_of.isoformat()} is before any fact can be",
            field="as_of",
            value=as_of.isoformat(),
            rule=f"{FIRST_DAY.isoformat()} or later",
        )
    if as_of is not None and as_of > now.today:
        raise InvalidInput(
            f"{as_of.isoformat()} is still to come",
            field="as_of",
            value=as_of.isoformat(),
            rule=f"today ({now.today.isoformat()}) or earlier",
        )
    return now if as_of is None else replace(now, as_of=as_of)


When = Annotated[Moment, Depends(moment_asked)]
Id = Annotated[int, Path(ge=1, le=2**63 - 1)]
"""The number of a row."""
First = Annotated[int, Query(ge=0, le=10**9)]
"""Where a window of many rows begins."""


def _ids(names: str) -> list[str]:
    return [n for n in names.split(",") if n]


def question_of(
    window: WindowName,
    base_year: int | None,
    aim: float | None,
    aim_price: float | None,
    growth: float | None,
    later_growth: float | None,
    required_return: float | None,
    mean_yield: float | None,
    margin_of_safety: float | None,
    on: str,
    off: str,
) -> Question:
    """The question a view asks. on, off: model ids, comma-separated."""
    return Question(
        window=window,
        base_year=base_year,
        aim=aim,
        aim_price=aim_price,
        inputs=WorthInputs(
            growth=growth,
            later_growth=later_growth,
            required_return=required_return,
            mean_yield=mean_yield,
            margin_of_safety=margin_of_safety,
            switched=dict.fromkeys(_ids(on), True) | dict.fromkeys(_ids(off), False),
        ),
    )


def asked(
    window: WindowName = "5",
    base_year: int | None = None,
    aim: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    aim_price: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    growth: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    later_growth: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    required_return: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    mean_yield: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    margin_of_safety: Annotated[float | None, Query(allow_inf_nan=False)] = None,
    on: str = "",
    off: str = "",
) -> Question:
    return question_of(
        window,
        base_year,
        aim,
        aim_price,
        growth,
        later_growth,
        required_return,
        mean_yield,
        margin_of_safety,
        on,
        off,
    )


Asked = Annotated[Question, Depends(asked)]
