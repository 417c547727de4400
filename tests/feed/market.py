"""A simulated market on a port of its own, in a thread."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import httpx
import uvicorn

from hearth_yield.market.service import create_market
from tests.patience import SECONDS, until


class Beside:
    """A market that runs. url: its address."""

    def __init__(self, url: str) -> None:
        self.url = url

    def misbehave(self, **faults: float) -> None:
        httpx.put(f"{self.url}/faults", json=faults).raise_for_status()

    def correct(self, known_on: str, table: str, row: dict[str, Any]) -> None:
        body = {"known_on": known_on, "table": table, "row": row}
        httpx.post(f"{self.url}/corrections", json=body).raise_for_status()


@contextmanager
def market_beside() -> Iterator[Beside]:
    config = uvicorn.Config(create_market(), host="127.0.0.1", port=0, log_level="critical")
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    until(lambda: server.started)
    port = server.servers[0].sockets[0].getsockname()[1]
    try:
        yield Beside(f"http://127.0.0.1:{port}")
    finally:
        server.should_exit = True
        thread.join(SECONDS)
