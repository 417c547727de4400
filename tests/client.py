"""One application for many databases: a fresh one takes half a second to its first answer."""

from __future__ import annotations

from typing import Any

from fastapi import FastAPI
from fastapi.testclient import TestClient
from httpx import Response

from hearth_yield.api.app import create_app, stand_on
from hearth_yield.feed.port import Feed
from hearth_yield.store.database import Database

_apps: list[FastAPI] = []


def app_on(database: Database, feed: Feed | None = None) -> FastAPI:
    """The process's application, standing on this database from now on."""
    if not _apps:
        _apps.append(create_app(database))
    return stand_on(_apps[0], database, feed)


class Client(TestClient):
    """Asks the process's application, as long as that stands on the database it was made for."""

    def __init__(self, app: FastAPI) -> None:
        super().__init__(app, base_url="http://127.0.0.1")
        self._application, self._context = app, app.state.context

    def request(self, *given: Any, **named: Any) -> Response:
        assert self._application.state.context is self._context, "it stands on another database"
        return super().request(*given, **named)
