"""How a long task tells how far it has come, and is stopped."""

from __future__ import annotations

from collections.abc import Callable

Progress = Callable[[str, int, int], None]
"""Called with what is being done, how many of it are done, and of how many; raises Cancelled."""


def unwatched(step: str, done: int, total: int) -> None:
    """Nobody looks."""
