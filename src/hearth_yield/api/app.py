"""The application: guard, routes, and the built front end."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from functools import partial
from pathlib import Path

from fastapi import Depends, FastAPI
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles

from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.feed.port import Feed
from hearth_yield.store.database import Database

from . import (
    accounts,
    breadth,
    calendar,
    cases,
    catalogue,
    compare,
    decisions,
    edits,
    entry_kinds,
    entry_steps,
    estimates,
    footing,
    hearth,
    holdings,
    home,
    house_rules,
    import_profiles,
    income,
    journal,
    ledger,
    look_back,
    path,
    payers,
    peers,
    price,
    problems,
    review,
    saved,
    signals,
    sources,
    stored,
    strain,
    trials,
    typed,
    watch,
    year,
)
from . import feed as feeding
from .context import Context
from .describe import described
from .guard import Guard
from .parameters import no_unknown_parameter
from .texts import PlainTexts

STATIC = Path(__file__).parent / "static"
MAX_PATH = 200
"""No file of the page has a longer name; a deep link may."""


def create_app(database: Database, static: Path = STATIC, feed: Feed | None = None) -> FastAPI:
    """The application, standing on a database that has been migrated. feed: where facts are
    published, if anywhere."""

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        yield
        app.state.context.close()

    app = FastAPI(
        title="Hearth Yield",
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/schema",
        lifespan=lifespan,
        separate_input_output_schemas=False,
    )
    app.openapi = partial(described, app)  # type: ignore[method-assign]
    problems.install(app)
    app.add_middleware(problems.Faults)
    app.add_middleware(PlainTexts)
    app.add_middleware(Guard)
    # In the order they are tried: …/facts/{table} before what else might end so, as a symbol may
    # hold a slash; then what an input moves.
    for room in (
        hearth,
        stored,
        review,
        strain,
        footing,
        estimates,
        price,
        trials,
        typed,
        watch,
        path,
        cases,
        peers,
        entry_steps,
        import_profiles,
        feeding,
        journal,
        calendar,
        signals,
        breadth,
        catalogue,
        compare,
        payers,
        saved,
        sources,
        edits,
        decisions,
        house_rules,
        look_back,
        holdings,
        income,
        year,
        accounts,
        entry_kinds,
        ledger,
        home,
    ):
        app.include_router(room.router, dependencies=[Depends(no_unknown_parameter)])
    if (static / "index.html").exists():
        _serve_pages(app, static)
    return stand_on(app, database, feed)


def stand_on(app: FastAPI, database: Database, feed: Feed | None = None) -> FastAPI:
    """Has an application answer from this database, with nothing kept of one before."""
    app.state.context = Context(cache=ReviewCache(database), feed=feed)
    return app


def _serve_pages(app: FastAPI, static: Path) -> None:
    """Files that exist, else the page itself, so that deep links open."""
    app.mount("/assets", StaticFiles(directory=static / "assets"))

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        if path and "\0" not in path and len(path) < MAX_PATH:
            wanted = (static / path).resolve()
            if wanted.is_relative_to(static.resolve()) and wanted.is_file():
                return FileResponse(wanted)
        return FileResponse(static / "index.html", headers={"cache-control": "no-cache"})
