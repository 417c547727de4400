"""What all tests share: how much of a campaign is taken, the examples, an answer as JSON."""

from __future__ import annotations

import gc
import io
import os
import zipfile
from pathlib import Path
from typing import TYPE_CHECKING, Any

from hypothesis import HealthCheck, settings

if TYPE_CHECKING:
    from fastapi.testclient import TestClient

pytest_plugins = ["tests.databases", "tests.touched"]

# A busy machine is no failure: what is generated must hold, however long it takes.
settings.register_profile("house", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("house")

SOAK = os.environ.get("HEARTH_SOAK") == "1"
"""Campaigns in full (`make soak`), where every run takes a fair sample."""


def sample(fair: int, full: int) -> int:
    """How many cases a campaign takes."""
    return full if SOAK else fair


EXAMPLES = Path(__file__).parent.parent / "examples"


def example(name: str) -> list[tuple[str, bytes]]:
    return [(f"{name}.zip", (EXAMPLES / f"{name}.zip").read_bytes())]


def zipped(files: dict[str, bytes]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, raw in files.items():
            archive.writestr(name, raw)
    return out.getvalue()


def get(client: TestClient, address: str, status: int = 200, **query: Any) -> Any:
    """What a GET answers, as JSON; the status must be as told."""
    found = client.get(address, params=query)
    assert found.status_code == status, found.text
    return found.json()


def pytest_collection_finish() -> None:
    """What is imported stays: the collector need not walk over it again and again."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(20_000, 50, 50)
