"""Two things timed turn by turn, so that the machine's moods hit both."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

ROUNDS = 60


def medians_ms(
    ours: Callable[[], object], theirs: Callable[[], object], rounds: int = ROUNDS
) -> tuple[float, float]:
    """Medians of both in milliseconds, taken turn by turn, so that the machine's moods hit both."""
    times: tuple[list[float], list[float]] = ([], [])
    for turn in range(rounds + 3):
        for act, found in zip((ours, theirs), times, strict=True):
            start = time.perf_counter()
            act()
            if turn >= 3:
                found.append(time.perf_counter() - start)
    return statistics.median(times[0]) * 1000, statistics.median(times[1]) * 1000
