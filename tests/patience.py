"""How long tests wait: for what is meant, never for a time, and long enough for a busy machine.

The one place for time-outs. They end what would hang; nothing is said about how fast a thing is.
"""

from __future__ import annotations

import os
import time
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, TypeVar

if TYPE_CHECKING:
    from fastapi.testclient import TestClient

SECONDS = float(os.environ.get("HEARTH_PATIENCE", "180"))
"""For one thing to come about. HEARTH_PATIENCE shortens it while a test is being written."""
OFFICE_SECONDS = 300.0
"""For the office program to start, and again for each ten workbooks."""
GLANCE = 0.02

T = TypeVar("T")


def until(look: Callable[[], T], *, is_so: Callable[[T], Any] = bool) -> T:
    """What `look` finds once it is so."""
    end = time.monotonic() + SECONDS
    while not is_so(found := look()):
        assert time.monotonic() < end, f"did not come about; at the last look: {found!r}"
        time.sleep(GLANCE)
    return found


def ended(client: TestClient, id: str) -> Any:
    """A task of the API once it no longer runs, as its address tells it."""
    return until(
        lambda: client.get(f"/api/jobs/{id}").json(), is_so=lambda job: job["state"] != "running"
    )
