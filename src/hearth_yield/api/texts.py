"""The one door for texts over HTTP: what cannot be kept or shown as it is never gets further."""

from __future__ import annotations

import json
import re

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hearth_yield.texts import all_plain, plain

_ESCAPED = re.compile(rb"\\[bfr]|\\u(?:00[01][0-9a-f]|d[89a-f])", re.IGNORECASE)
"""How JSON writes control characters and halves of a character, and then some."""
_QUERIED = re.compile(rb"%(?:0[0-8bcef]|1[0-9a-f])", re.IGNORECASE)
_RETURN = re.compile(rb"%0d(?:%0a)?", re.IGNORECASE)


class PlainTexts:
    """Makes every text of an address, a query and a JSON body plain (`hearth_yield.texts`)."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        query = _QUERIED.sub(b"", _RETURN.sub(b"%0A", scope["query_string"]))
        scope = {**scope, "path": plain(scope["path"]), "query_string": query}
        if Headers(scope=scope).get("content-type", "").startswith("multipart/"):
            await self.app(scope, receive, send)
            return
        done = False

        async def whole() -> Message:
            nonlocal done
            if done:
                return await receive()
            pieces = []
            while True:
                message = await receive()
                if message["type"] != "http.request":
                    return message
                pieces.append(message.get("body", b""))
                if not message.get("more_body", False):
                    break
            done = True
            return {"type": "http.request", "body": _plain_body(b"".join(pieces))}

        await self.app(scope, whole, send)


def _plain_body(body: bytes) -> bytes:
    """The same JSON with plain texts; anything else as it is, for its route to refuse."""
    if not _ESCAPED.search(body):
        return body
    try:
        return json.dumps(all_plain(json.loads(body)), ensure_ascii=False).encode()
    except (ValueError, RecursionError):
        return body
