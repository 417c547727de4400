"""Every refusal as problem+json: one table from error class to status and title."""

from __future__ import annotations

import json
from collections.abc import Mapping
from html import escape
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, JSONResponse, Response
from sqlalchemy.exc import DatabaseError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hearth_yield.core.errors import (
    Cancelled,
    Conflict,
    HearthError,
    InvalidInput,
    MethodError,
    Miscomputed,
    NotFound,
    RejectedImport,
    TooLarge,
    Uncomputable,
    Unreachable,
    Unsure,
)
from hearth_yield.faults_log import NAME, note
from hearth_yield.store.database import trouble_of
from hearth_yield.texts import visible

from .schemas import FaultOut, Problem
from .wire import each

OURS = "A fault of Hearth Yield"
STATUSES: dict[type[HearthError], tuple[int, str]] = {
    MethodError: (422, "The method has no answer for this value"),
    InvalidInput: (422, "A value was not accepted"),
    NotFound: (404, "Not found"),
    Conflict: (409, "Not possible as things stand"),
    Unsure: (409, "Is it meant so?"),
    Uncomputable: (409, "This payer cannot be computed"),
    Miscomputed: (500, OURS),
    TooLarge: (413, "Too large"),
    Unreachable: (502, "Another service did not answer"),
    RejectedImport: (422, "The import was refused"),
    Cancelled: (409, "Cancelled"),
    HearthError: (500, OURS),
}


def problem_of(error: HearthError) -> Problem:
    """The first class of the error's ancestry that the table names decides. A fault of ours is
    noted."""
    status, title = next(STATUSES[c] for c in type(error).__mro__ if c in STATUSES)
    if status == 500:
        note("what was asked", error)
    faults = error.faults if isinstance(error, RejectedImport) else None
    return Problem(
        type=f"about:{type(error).__name__}",
        title=title,
        status=status,
        detail=error.message,
        field=error.field,
        value=_plain(error.value),
        rule=error.rule,
        faults=None if faults is None else each(FaultOut, faults),
    )


def database_problem(error: DatabaseError) -> Problem:
    """What went wrong with the file itself: another writer, a full disk, damage."""
    status, detail = trouble_of(error)
    return Problem(
        type="about:database", title="The database could not be used", status=status, detail=detail
    )


def fault(error: Exception, where: str) -> Problem:
    """Anything else that went wrong: our fault, noted in the log."""
    note(where, error)
    return Problem(
        type="about:fault",
        title=OURS,
        status=500,
        detail=(
            f"the program failed ({type(error).__name__}), through no fault of your data; nothing "
            f"was changed, and what happened is noted in {NAME} in the data folder"
        ),
    )


def _plain(value: object) -> object:
    """A refused value as it can be sent back: short, and without halves of characters."""
    if isinstance(value, str):
        return visible(value[:200])
    try:
        text = json.dumps(value, allow_nan=False)
    except (TypeError, ValueError, RecursionError):
        return visible(str(value)[:200])
    return value if len(text) <= 200 and text.isascii() else visible(text[:200])


def respond(
    problem: Problem, headers: Mapping[str, str] | None = None, *, page: bool = False
) -> Response:
    """page: for whoever opened the address in a browser (a memo to print), to be read."""
    if page:
        return HTMLResponse(_page(problem), status_code=problem.status, headers=headers)
    return JSONResponse(
        problem.model_dump(exclude_none=True),
        status_code=problem.status,
        headers=headers,
        media_type="application/problem+json",
    )


def _page(problem: Problem) -> str:
    detail = problem.detail[:1].upper() + problem.detail[1:]
    told = problem.rule is None or problem.rule.lower() in detail.lower()
    rule = "" if told else f" (expected: {problem.rule})"
    return PAGE.format(title=escape(problem.title), detail=escape(f"{detail}{rule}"))


PAGE = """<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>{title}: Hearth Yield</title>
<style>
:root {{ color-scheme: light dark; --ink: #2a2521; --paper: #f7f2e9; --link: #2f4a6d; }}
@media (prefers-color-scheme: dark) {{
  :root {{ --ink: #efe7da; --paper: #1f1b18; --link: #a9c1e2; }}
}}
body {{ margin: 12vh auto 0; max-width: 36rem; padding: 0 1.5rem; color: var(--ink);
  background: var(--paper); font: 1rem/1.5 "Source Sans 3", "Liberation Sans", sans-serif; }}
h1 {{ font: 600 1.5rem/1.2 "Newsreader", "Liberation Serif", serif; }}
a {{ color: var(--link); }}
</style>
</head>
<body>
<h1>{title}</h1>
<p>{detail}</p>
<p>Nothing was changed. <a href="/">Back to Hearth Yield</a></p>
</body>
</html>
"""


def _opened(request: Request) -> bool:
    """By a browser as a page, not by a script or a program."""
    return request.method == "GET" and "text/html" in request.headers.get("accept", "")


class Faults:
    """Answers what nothing else does: any exception is a fault of ours."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        begun = False

        async def told(message: Message) -> None:
            nonlocal begun
            begun = True
            await send(message)

        try:
            await self.app(scope, receive, told)
        except Exception as error:
            if scope["type"] != "http" or isinstance(error, ClientDisconnect):
                raise
            route = getattr(scope.get("route"), "path", "no route")
            problem = fault(error, f"{scope['method']} {route}")
            if not begun:
                page = _opened(Request(scope))
                await respond(problem, page=page)(scope, receive, send)


def install(app: FastAPI) -> None:
    """Answer every error of ours, of validation and of HTTP itself in one shape."""

    @app.exception_handler(HearthError)
    async def _ours(request: Request, error: HearthError) -> Response:
        return respond(problem_of(error), page=_opened(request))

    @app.exception_handler(RequestValidationError)
    async def _invalid(request: Request, error: RequestValidationError) -> Response:
        first: dict[str, Any] = dict(error.errors()[0])
        place = [str(p) for p in first["loc"] if p not in ("query", "path", "body")]
        said = f"{' '.join(place) or 'the request'}: {first['msg'].lower()}"
        return respond(
            Problem(
                type="about:InvalidInput",
                title=STATUSES[InvalidInput][1],
                status=422,
                detail=visible(said[:500]),
                field=visible(".".join(place)[:200]) or None,
                value=_plain(first.get("input")),
                rule=first["msg"],
            ),
            page=_opened(request),
        )

    @app.exception_handler(HTTPException)
    async def _http(request: Request, error: HTTPException) -> Response:
        return respond(
            Problem(
                type="about:http",
                title=str(error.detail),
                status=error.status_code,
                detail=str(error.detail),
            ),
            error.headers,
            page=_opened(request),
        )

    @app.exception_handler(UnicodeError)
    async def _halves(request: Request, error: UnicodeError) -> Response:
        wrong = InvalidInput("a text holds half of a character", rule="whole characters")
        return respond(problem_of(wrong), page=_opened(request))

    @app.exception_handler(DatabaseError)
    async def _database(request: Request, error: DatabaseError) -> Response:
        return respond(database_problem(error), page=_opened(request))
