"""Rules of the house that no linter knows."""

import re
import subprocess
from pathlib import Path

import pytest

from hearth_yield.exchange.columns import IN_FILES

ROOT = Path(__file__).parent.parent.parent


def tracked(*suffixes: str) -> list[Path]:
    names = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    ).stdout.split()
    return [p for n in names if n.endswith(suffixes) and (p := ROOT / n).exists()]


def test_lock_files_name_no_registry() -> None:
    hosts = re.compile(r"https?://[^\s\"]*(registry|pypi|pythonhosted|npmjs)", re.IGNORECASE)
    for path in tracked(".lock", "package-lock.json", ".npmrc", ".toml", "Makefile"):
        assert not hosts.search(path.read_text()), path
    lock = (ROOT / "web" / "package-lock.json").read_text()
    assert '"resolved"' not in lock


def test_no_path_of_a_machine_is_written_down() -> None:
    paths = re.compile(r"(?<![\w.])/(work|root|home)/\w")
    for path in tracked(".py", ".ts", ".tsx", ".md", ".toml", ".json", "Makefile"):
        assert not paths.search(path.read_text()), path


def test_the_core_reads_no_clock() -> None:
    clock = re.compile(r"\b(date\.today|datetime\.now|time\.time)\(")
    for path in (ROOT / "src" / "hearth_yield" / "core").rglob("*.py"):
        assert not clock.search(path.read_text()), path


def test_places_and_stages_do_not_import_each_other() -> None:
    web = ROOT / "web" / "src"
    for path in (web / "stages").glob("*.tsx"):
        assert not re.search(r'from "(@/places|@/stages|\./\w+Stage)', path.read_text()), path
    for folder in (web / "places").iterdir():
        for path in folder.glob("*.tsx"):
            for other in re.findall(r'"@/places/(\w+)', path.read_text()):
                assert other == folder.name, path


def test_every_setting_is_documented() -> None:
    from hearth_yield.settings import Settings

    readme = (ROOT / "README.md").read_text()
    for name in Settings.model_fields:
        assert f"HEARTH_{name.upper()}" in readme


FORMATS_TOLD = (ROOT / "docs" / "data-formats.md").read_text()


def section(name: str) -> str:
    """What docs/data-formats.md says of a table."""
    return FORMATS_TOLD.split(f"### `{name}`", 1)[1].split("\n## ")[0].split("\n### ")[0]


@pytest.mark.parametrize("name", list(IN_FILES))
def test_every_table_is_documented_as_it_is_declared(name: str) -> None:
    """Its columns in their order, the required ones in bold; of a statement's many lines the first
    stands for all. An example has a cell for each."""
    told = section(name)
    head, rule, example = [x for x in told.splitlines() if x.startswith("|")][:3]
    format = IN_FILES[name]
    declared = [f"**{c.name}**" if c.name in format.required else c.name for c in format.columns]
    cells = [c.strip() for c in head.strip("|").split("|")]
    if cells[-1] == "…":
        held = [c for c in declared if c != "assumed"]
        declared = [*held[: len(cells) - 1], "…"]
    assert cells == declared
    assert len(example.strip().strip("|").split("|")) == rule.count("---") == len(cells)
    for column in format.columns:
        assert re.search(rf"\b{column.name}\b", told), column.name
        for choice in column.choices if column.name != "unit" else ():
            assert f"`{choice}`" in told or choice in told, (column.name, choice)
