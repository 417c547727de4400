"""The real page in a real browser: headless Chromium against a server on a copy of the demo."""

from __future__ import annotations

import socket
import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
import uvicorn
from playwright.sync_api import Page, expect

from hearth_yield.api.app import STATIC, create_app
from hearth_yield.feed.http_feed import HttpFeed
from hearth_yield.feed.port import Feed
from hearth_yield.store.database import Database
from tests.databases import copy_of
from tests.feed.market import market_beside
from tests.patience import SECONDS, until

FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
SHELL = "/usr/bin/chromium-headless-shell"
"""The same browser without the windows it never opens: its tests take two thirds of the time."""
LAUNCH = {"executable_path": SHELL, "args": FLAGS}
CONTEXT = {
    "viewport": {"width": 1280, "height": 800},
    "locale": "en-GB",
    "reduced_motion": "reduce",
    "color_scheme": "light",
}
AXE = Path(__file__).parent.parent.parent / "web" / "node_modules" / "axe-core" / "axe.min.js"


PATIENCE = 1000 * SECONDS
expect.set_options(timeout=PATIENCE)


@contextmanager
def serving(database: Path, feed: Feed | None = None) -> Iterator[str]:
    """A server of its own on a free port of this machine. feed: what it asks for news."""
    if not (STATIC / "index.html").exists():
        pytest.fail("the page is not built: run `make test`, which builds it first")
    opened = Database(database)
    opened.migrate()
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = uvicorn.Server(
        uvicorn.Config(
            create_app(opened, feed=feed), host="127.0.0.1", port=port, log_level="error"
        )
    )
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    until(lambda: server.started)
    yield f"http://127.0.0.1:{port}"
    server.should_exit = True
    thread.join(SECONDS)
    opened.close()


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return LAUNCH


@pytest.fixture
def browser_context_args(base_url: str) -> dict[str, Any]:
    return CONTEXT | {"base_url": base_url}


@contextmanager
def copy_served(kept: Path, folder: Path, feed: Feed | None = None) -> Iterator[str]:
    """A server on a copy of a kept database, in a folder of its own."""
    path = folder / "data" / "demo.sqlite"
    copy_of(kept, path).close()
    with serving(path, feed) as url:
        yield url


@pytest.fixture(scope="module")
def base_url(demo_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    with copy_served(demo_file, tmp_path_factory.mktemp("served")) as url:
        yield url


@pytest.fixture
def own_server(twenty_file: Path, tmp_path: Path) -> Iterator[str]:
    """For tests that change facts: a server of its own, with twenty payers."""
    with copy_served(twenty_file, tmp_path) as url:
        yield url


@pytest.fixture
def whole_server(demo_file: Path, tmp_path: Path) -> Iterator[str]:
    """The same with all of the demo."""
    with copy_served(demo_file, tmp_path) as url:
        yield url


@pytest.fixture
def moving_server(twenty_file: Path, tmp_path: Path) -> Iterator[str]:
    """The same as the first, with the market beside it, so that its day can be moved on."""
    with market_beside() as market, copy_served(twenty_file, tmp_path, HttpFeed(market.url)) as url:
        yield url


@pytest.fixture(autouse=True)
def no_noise(page: Page) -> Iterator[None]:
    """No test may leave an error in the page's console. A request that is refused, or that fails,
    is told to the person, and the browser logs it too."""
    page.set_default_timeout(PATIENCE)
    heard: list[str] = []
    page.on("pageerror", lambda e: heard.append(str(e)))
    page.on("console", lambda m: heard.append(m.text) if m.type == "error" else None)
    yield
    assert [h for h in heard if "status of 4" not in h and "ERR_FAILED" not in h] == []


WCAG = ("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa")
IN_ANOTHER_THEME = ("color-contrast",)
"""What a page that was looked at whole can still get wrong in its other colours."""
ON_A_PHONE = ("target-size", "scrollable-region-focusable")
"""The same of a narrow one."""


def serious(page: Page, only: Sequence[str] = WCAG, within: str = "document") -> list[str]:
    """What axe finds serious or critical on the page as it stands, WCAG 2.2 AA. From its top: what
    has scrolled under the head of the page would count as too small for the part that shows."""
    page.evaluate(AXE.read_text())
    page.evaluate("window.before = window.scrollY; window.scrollTo(0, 0)")
    found = page.evaluate(
        "([only, within]) => axe.run(within === 'document' ? document : within,"
        " {runOnly: only, resultTypes: ['violations']})",
        [list(only), within],
    )
    page.evaluate("window.scrollTo(0, window.before)")
    return [
        f"{v['id']}: {v['nodes'][0]['html'][:160]} {v['nodes'][0]['failureSummary'][:200]}"
        for v in found["violations"]
        if v["impact"] in ("serious", "critical")
    ]
