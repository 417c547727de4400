"""`--touched REVISION` runs the tests that what has changed since can reach (`make touched`).

By imports, as they are declared: nothing has to be recorded beforehand, so it is right on a fresh
checkout, also where a server answers in another thread or a command in another process. A test
rests on the modules that its own module and those of its fixtures import, and on theirs; on a file
that is no module (a document, worked figures), where its module names it. Browser tests rest on the
page too.
"""

from __future__ import annotations

import subprocess
from pathlib import Path
from typing import TYPE_CHECKING

import pytest

if TYPE_CHECKING:
    import grimp

ROOT = Path(__file__).parent.parent
PAGE = "web/src/"


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption("--touched", metavar="REVISION", help="only what changes since then can reach")


def changed_since(revision: str) -> list[str]:
    """Files that differ from the revision, and those that git does not know yet."""
    asked = (["diff", "--name-only", revision], ["ls-files", "--others", "--exclude-standard"])
    found: set[str] = set()
    for words in asked:
        done = subprocess.run(["git", *words], cwd=ROOT, capture_output=True, text=True, check=True)
        found |= set(done.stdout.split())
    return sorted(found)


def module_of(path: str) -> str | None:
    """src/hearth_yield/core/names.py → hearth_yield.core.names"""
    if not path.endswith(".py") or not path.startswith(("src/", "tests/")):
        return None
    return path.removeprefix("src/").removesuffix(".py").removesuffix("/__init__").replace("/", ".")


def reached_by(changed: list[str], graph: grimp.ImportGraph) -> set[str]:
    """The modules that changed, and all that import them, however far off."""
    modules = {m for path in changed if (m := module_of(path)) in graph.modules}
    return modules.union(*(graph.find_downstream_modules(m) for m in modules))


def names_a(changed: list[str], module: Path) -> bool:
    """Whether the text of a test names a file that changed and is no module."""
    text = module.read_text()
    return any(Path(p).name in text for p in changed if module_of(p) is None)


def rests_on(item: pytest.Function) -> set[str]:
    """The modules of a test and of every fixture it is given."""
    fixtures = item._fixtureinfo.name2fixturedefs.values()
    return {item.module.__name__, *(d.func.__module__ for found in fixtures for d in found)}


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    revision = config.getoption("--touched")
    if not revision:
        return
    import grimp

    changed = changed_since(revision)
    graph = grimp.build_graph("hearth_yield", "tests", cache_dir=None)
    reached = reached_by(changed, graph)
    page = any(p.startswith(PAGE) for p in changed)
    named: dict[Path, bool] = {}
    kept, left = [], []
    for item in items:
        assert isinstance(item, pytest.Function)
        if item.path not in named:
            named[item.path] = names_a(changed, item.path)
        through_page = page and "page" in item.fixturenames
        touched = through_page or named[item.path] or not reached.isdisjoint(rests_on(item))
        (kept if touched else left).append(item)
    items[:] = kept
    config.hook.pytest_deselected(items=left)
