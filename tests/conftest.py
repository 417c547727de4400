"""What tests above the core share: databases on real files, and an application on one."""

from __future__ import annotations

import io
import os
import shutil
import zipfile
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, settings

from hearth_yield.actions.fill_demo import fill_demo
from hearth_yield.api.app import create_app
from hearth_yield.store.database import Database

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


@pytest.fixture(scope="session")
def demo_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's database, made once; tests take copies."""
    path = tmp_path_factory.mktemp("demo") / "demo.sqlite"
    database = Database(path)
    database.migrate()
    fill_demo(database)
    with database.engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    database.close()
    return path


@pytest.fixture
def demo(demo_file: Path, tmp_path: Path) -> Iterator[Database]:
    path = tmp_path / "demo.sqlite"
    shutil.copy(demo_file, path)
    database = Database(path)
    yield database
    database.close()


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[Database]:
    database = Database(tmp_path / "empty.sqlite")
    database.migrate()
    yield database
    database.close()


def client_of(database: Database) -> TestClient:
    return TestClient(create_app(database), base_url="http://127.0.0.1")


@pytest.fixture
def client(demo: Database) -> Iterator[TestClient]:
    with client_of(demo) as client:
        yield client


@pytest.fixture
def empty_client(empty: Database) -> Iterator[TestClient]:
    with client_of(empty) as client:
        yield client


def get(client: TestClient, address: str, status: int = 200, **query: Any) -> Any:
    """What a GET answers, as JSON; the status must be as told."""
    found = client.get(address, params=query)
    assert found.status_code == status, found.text
    return found.json()
