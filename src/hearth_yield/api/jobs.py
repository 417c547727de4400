"""Long tasks: one thread each, with progress that can be watched and cancelled."""

from __future__ import annotations

import secrets
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Literal

from sqlalchemy.exc import DatabaseError

from hearth_yield.core.errors import Cancelled, Conflict, HearthError, NotFound
from hearth_yield.progress import Progress

from .problems import database_problem, fault, problem_of
from .schemas import JobOut, Problem

MAX_KEPT = 50
CLOSING_SECONDS = 3
"""Seconds that all tasks together are waited for: what they write is whole or not there."""


@dataclass(slots=True)
class Job:
    id: str
    state: Literal["running", "done", "failed", "cancelled"] = "running"
    step: str = "reading"
    done: int = 0
    total: int = 0
    source: int | None = None
    problem: Problem | None = None
    told: Sequence[str] = ()
    once: str = ""
    cancel: threading.Event = field(default_factory=threading.Event)
    thread: threading.Thread | None = None

    def report(self, step: str, done: int, total: int) -> None:
        """Called by the task; raises Cancelled when the person has asked for it."""
        if self.cancel.is_set():
            raise Cancelled("cancelled; nothing was kept")
        self.step, self.done, self.total = step, done, total

    def out(self) -> JobOut:
        return JobOut(
            id=self.id,
            state=self.state,
            step=self.step,
            done=self.done,
            total=self.total,
            source=self.source,
            problem=self.problem,
            told=list(self.told),
        )


class Jobs:
    """Every job, by id. Started and asked for from several threads."""

    def __init__(self) -> None:
        self._jobs: dict[str, Job] = {}
        self._lock = threading.Lock()

    def start(
        self, task: Callable[[Progress], int], told: Sequence[str] = (), *, once: str = ""
    ) -> Job:
        """told: what the task adds to it is what the person has to know when it is done. once: a
        name under which one runs at a time; asked again meanwhile it is that one."""
        job = Job(id=secrets.token_urlsafe(12), told=told, once=once)
        with self._lock:
            for other in self._jobs.values():
                if once and other.once == once and other.state == "running":
                    return other
            self._jobs[job.id] = job
            ended = [j.id for j in self._jobs.values() if j.state != "running"]
            for old in ended[:-MAX_KEPT]:
                del self._jobs[old]
        job.thread = threading.Thread(target=_run, args=(job, task), daemon=True)
        job.thread.start()
        return job

    @contextmanager
    def watched(self, id: str) -> Iterator[Progress]:
        """What a request does itself, under a name that its caller made up, to look at and to stop
        meanwhile; without a name nobody does."""
        job = Job(id=id)
        with self._lock:
            if id in self._jobs:
                raise Conflict("this task is known already", field="task", value=id)
            if id:
                self._jobs[id] = job
        try:
            yield job.report
        finally:
            with self._lock:
                self._jobs.pop(id, None)

    def close(self) -> None:
        """Cancel what runs and wait for it to end."""
        with self._lock:
            jobs = list(self._jobs.values())
        for job in jobs:
            job.cancel.set()
        until = time.monotonic() + CLOSING_SECONDS
        for job in jobs:
            if job.thread is not None:
                job.thread.join(max(0.0, until - time.monotonic()))

    def get(self, id: str) -> Job:
        with self._lock:
            job = self._jobs.get(id)
        if job is None:
            raise NotFound(
                "this task is not known; was the program restarted?", field="job", value=id
            )
        return job


def _run(job: Job, task: Callable[[Progress], int]) -> None:
    try:
        job.source = task(job.report)
        job.state = "done"
    except Cancelled:
        job.state = "cancelled"
    except HearthError as error:
        job.problem, job.state = problem_of(error), "failed"
    except DatabaseError as error:
        job.problem, job.state = database_problem(error), "failed"
    except Exception as error:
        job.problem, job.state = fault(error, f"the task “{job.step}”"), "failed"
