"""The API at the other end of a pipe: what components of the page are tested on, with no server.

Reads a line of JSON for each request, answers with one. {"scene": "demo"} begins anew: on a copy of
the demo, or on an empty product.
"""

from __future__ import annotations

import base64
import json
import sys
from collections.abc import Callable
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.databases import client_of, copy_of, kept_demo, new_database

SCENES: dict[str, Callable[[Path], Database]] = {
    "demo": lambda path: copy_of(kept_demo(), path),
    "empty": new_database,
}


class Stage:
    """One database at a time; one that was only read serves the next test of its scene."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._begun = 0
        self._scene = ""
        self._touched = False
        self._database: Database | None = None
        self._client: TestClient | None = None

    def begin(self, scene: str) -> None:
        if scene == self._scene and not self._touched:
            return
        self.end()
        self._begun += 1
        path = self._folder / str(self._begun) / "hearth.sqlite"
        self._scene, self._touched = scene, False
        self._database = SCENES[scene](path)
        self._client = client_of(self._database)
        self._client.__enter__()

    def end(self) -> None:
        if self._client is not None and self._database is not None:
            self._client.__exit__()
            self._database.close()

    def answer(self, asked: dict[str, Any]) -> dict[str, Any]:
        assert self._client is not None
        self._touched = self._touched or asked["method"] != "GET"
        body = base64.b64decode(asked["body"])
        got = self._client.request(
            asked["method"], asked["path"], content=body, headers=asked["headers"]
        )
        return {
            "status": got.status_code,
            "kind": got.headers.get("content-type", ""),
            "body": got.text,
        }


def main() -> None:
    with TemporaryDirectory() as folder:
        stage = Stage(Path(folder))
        for line in sys.stdin:
            asked = json.loads(line)
            if "scene" in asked:
                stage.begin(asked["scene"])
                answer: dict[str, Any] = {}
            else:
                answer = stage.answer(asked)
            sys.stdout.write(json.dumps({"id": asked["id"], **answer}) + "\n")
            sys.stdout.flush()
        stage.end()


if __name__ == "__main__":
    main()
