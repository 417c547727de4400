"""The API at the other end of a pipe: what components of the page are tested on, with no server.

Reads a line of JSON for each request, answers with one. {"scene": "demo"} begins anew: on the demo,
on twenty payers of it, or on an empty product. Who only reads shares what was computed for others;
whoever writes is given a copy to write into.
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

from hearth_yield.api.context import Context
from hearth_yield.store.database import Database
from tests.client import app_on
from tests.databases import copy_of, kept_demo, kept_twenty, new_database

SCENES: dict[str, Callable[[Path], Database]] = {
    "demo": lambda path: copy_of(kept_demo(), path),
    "twenty": lambda path: copy_of(kept_twenty(), path),
    "empty": new_database,
}


class Stage:
    """One application, standing now on what all share, now on what one has to itself."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._made = 0
        self._shared: dict[str, Context] = {"demo": self._new("demo")}
        self.app = app_on(self._shared["demo"].database)
        self._scene = "demo"
        self._own: Context | None = None

    def _new(self, scene: str) -> Context:
        self._made += 1
        database = SCENES[scene](self._folder / str(self._made) / "hearth.sqlite")
        context: Context = app_on(database).state.context
        return context

    def begin(self, scene: str) -> None:
        if self._own is not None:
            self._own.close()
            self._own.database.close()
            self._own = None
        self._scene = scene
        if scene not in self._shared:
            self._shared[scene] = self._new(scene)
        self.app.state.context = self._shared[scene]

    def answer(self, client: TestClient, asked: dict[str, Any]) -> dict[str, Any]:
        if asked["method"] != "GET" and self._own is None:
            self._own = self._new(self._scene)
        body = base64.b64decode(asked["body"])
        got = client.request(asked["method"], asked["path"], content=body, headers=asked["headers"])
        told = ("content-type", "content-disposition")
        headers = {name: got.headers[name] for name in told if name in got.headers}
        return {"status": got.status_code, "headers": headers, "body": got.text}


def main() -> None:
    with TemporaryDirectory() as folder:
        stage = Stage(Path(folder))
        with TestClient(stage.app, base_url="http://127.0.0.1") as client:
            for line in sys.stdin:
                asked = json.loads(line)
                answer: dict[str, Any] = {}
                if "scene" in asked:
                    stage.begin(asked["scene"])
                else:
                    answer = stage.answer(client, asked)
                sys.stdout.write(json.dumps({"id": asked["id"], **answer}) + "\n")
                sys.stdout.flush()


if __name__ == "__main__":
    main()
