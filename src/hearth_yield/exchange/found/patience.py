"""How long the server goes on with a file: its reader's process is bounded by the system, what is
made of its cells by this."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from hearth_yield.core.errors import TooLarge

SECONDS = 8.0
"""Seconds of a processor for what files hold."""
_until: ContextVar[float] = ContextVar("until", default=float("inf"))


@contextmanager
def within() -> Iterator[None]:
    """What is done inside may take so long of this thread's own time, and no longer."""
    token = _until.set(time.thread_time() + SECONDS)
    try:
        yield
    finally:
        _until.reset(token)


def tick() -> None:
    """Called where a file can make work. Raises TooLarge once it has made too much."""
    if time.thread_time() > _until.get():
        raise TooLarge(
            "the file takes too long to understand",
            field="file",
            value=f"over {SECONDS:g} seconds",
            rule="a table with the headings of its columns, or fewer of them at once",
        )
