"""What every route needs: the cache, today, the as-of day and the question in the URL."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime
from typing import TYPE_CHECKING, Annotated

from fastapi import Depends, Path, Query, Request
from pydantic import BaseModel, Field, create_model

from hearth_yield.actions.ensure_measures import ensure_measures
from hearth_yield.actions.look_back import look_back
from hearth_yield.actions.make_signals import ensure_signals
from hearth_yield.actions.measure_breadth import measure_breadth
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.strain_all import strain_all, strain_text
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.columns import FIRST_DAY
from hearth_yield.core.question import NAMES, Question, read_question
from hearth_yield.core.review import Review
from hearth_yield.core.strain.inputs import Strain
from hearth_yield.feed.port import Feed
from hearth_yield.progress import Progress
from hearth_yield.store.database import Database, Edition, edition_and_pinned

from .jobs import Job, Jobs
from .pending import Pending
from .schemas import JobOut


@dataclass(frozen=True, slots=True, kw_only=True)
class Moment:
    """today: the day the product stands on, pinned when a demo holds it; as_of: the day asked
    for; edition: of facts and house rules."""

    today: date
    as_of: date
    edition: Edition
    pinned: bool


@dataclass(slots=True)
class Context:
    """One per application. The clock is read here and nowhere below."""

    cache: ReviewCache
    feed: Feed | None = None
    jobs: Jobs = field(default_factory=Jobs)
    pending: Pending = field(default_factory=Pending)
    _keeping: dict[tuple[date, tuple[int, int]], Job] = field(default_factory=dict)
    _tasks: dict[Hashable, Job] = field(default_factory=dict)
    _gate: threading.Lock = field(default_factory=threading.Lock)

    @property
    def database(self) -> Database:
        return self.cache.database

    def moment(self) -> Moment:
        """Where the product stands now, read once for each request."""
        with self.database.read() as connection:
            edition, pinned = edition_and_pinned(connection)
        today = pinned or datetime.now().astimezone().date()
        return Moment(today=today, as_of=today, edition=edition, pinned=pinned is not None)

    def ensure_measures(self, when: Moment, pending: int, *, again: bool = False) -> Job | None:
        """See to it that measures which are missing or stale are being made: one task at a time
        for each day. One that was cancelled or failed is taken up again only when asked to, or
        once the facts have changed."""
        with self._gate:
            key = (when.as_of, when.edition.judged)
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
                job = running[0] if running else self.jobs.start(self._making(when))
                self._keeping[key] = job
            return job

    def make_signals(self, when: Moment) -> Job:
        """The task that sees to it that signals are made."""
        rules = self.cache.house_rules(when.edition)

        def task(progress: Progress) -> int:
            return ensure_signals(self.database, rules, when.today, progress)

        with self._gate:
            job = self._tasks.get("signals")
            if job is None or job.state != "running":
                job = self._tasks["signals"] = self.jobs.start(task)
            return job

    def look_back(self, when: Moment) -> Job:
        """The task that looks back on these facts."""
        return self._once(
            ("look back", when.as_of, when.edition.facts),
            lambda progress: look_back(self.cache, when.as_of, when.edition, progress),
        )

    def breadth(self, when: Moment, *, again: bool) -> JobOut:
        """The task that sees how many payers yield more than they usually do; one that was
        cancelled or failed is begun again only when asked to."""
        key = ("breadth", when.as_of, when.edition.facts)
        stopped = self._standing(key)
        if stopped is not None and stopped.state != "running" and not again:
            return stopped
        return self._once(
            key, lambda progress: measure_breadth(self.cache, when.as_of, when.edition, progress)
        ).out()

    def looking(self, when: Moment) -> JobOut | None:
        return self._standing(("look back", when.as_of, when.edition.facts))

    def strain_all(self, when: Moment, strain: Strain) -> Job:
        """The task that puts every payer under one strain."""
        return self._once(
            ("strain", when.as_of, when.edition.judged, strain_text(strain)),
            lambda progress: strain_all(self.cache, when.as_of, when.edition, strain, progress),
        )

    def straining(self, when: Moment, strain: Strain) -> JobOut | None:
        return self._standing(("strain", when.as_of, when.edition.judged, strain_text(strain)))

    def _once(self, key: Hashable, task: Callable[[Progress], int]) -> Job:
        """The task under a key: one that runs is not begun again. One that is done finds at once
        what it made."""
        with self._gate:
            job = self._tasks.get(key)
            if job is None or job.state != "running":
                job = self.jobs.start(task)
                self._tasks = {k: j for k, j in self._tasks.items() if j.state == "running"}
                self._tasks[key] = job
            return job

    def _standing(self, key: Hashable) -> JobOut | None:
        with self._gate:
            return _told(self._tasks.get(key))

    def keeping(self, when: Moment) -> JobOut | None:
        """How the task stands that makes the measures of a day; starts none."""
        with self._gate:
            return _told(self._keeping.get((when.as_of, when.edition.judged)))

    def _making(self, when: Moment) -> Callable[[Progress], int]:
        rules = self.cache.house_rules(when.edition)

        def task(progress: Progress) -> int:
            ensure_measures(self.database, rules, when.as_of, progress)
            return 0

        return task

    def close(self) -> None:
        """Stop the tasks and let go of the database."""
        self.jobs.close()

    def now(self) -> str:
        return datetime.now(UTC).isoformat(timespec="seconds")


def _told(job: Job | None) -> JobOut | None:
    """How a task stands. None once it is done: what it made, read after this, is there."""
    return None if job is None or job.state == "done" else job.out()


async def context_of(request: Request) -> Context:
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


if TYPE_CHECKING:
    QuestionTexts = BaseModel
else:
    # One model: a dozen parameters of their own take longer to read than an answer to compute.
    QuestionTexts = create_model(
        "QuestionTexts",
        **{n: (str, Field("", description=means)) for n, (_, means) in NAMES.items()},
    )


async def question_asked(asked: Annotated[QuestionTexts, Query()]) -> Question:
    return read_question(asked.model_dump())


QuestionAsked = Annotated[Question, Depends(question_asked)]


def review_asked(
    here: Here,
    exchange: str,
    symbol: str,
    question: QuestionAsked,
    as_of: Annotated[date | None, Query()] = None,
) -> Review:
    """Reads the moment itself: as a dependency of its own it would cost another change of thread,
    which takes as long as what is computed."""
    when = moment_asked(here, as_of)
    return here.cache.review(exchange, symbol, when.as_of, question, when.edition)


def strained_asked(
    here: Here,
    exchange: str,
    symbol: str,
    question: QuestionAsked,
    as_of: Annotated[date | None, Query()] = None,
) -> Review:
    """The same under a strain: the asked one, or all revenue down by a fifth."""
    asked = replace(question, strain=question.strain or Strain())
    return review_asked(here, exchange, symbol, asked, as_of)


Reviewed = Annotated[Review, Depends(review_asked)]
StrainedReview = Annotated[Review, Depends(strained_asked)]
"""One payer on the day and under the question of the address."""
