"""Sixty ordinary files, made up one after the other without a look at the reader, each with what
becomes of it: read, asked, or refused in words that help (tests/data/ordinary_files.json). None is
misread: what each of those that are read gives was looked at by eye."""

import json
from pathlib import Path
from typing import Any

import pytest

from .files import AsFound
from .test_found import read, rows_of

FILES: list[dict[str, Any]] = json.loads(
    (Path(__file__).parents[2] / "data" / "ordinary_files.json").read_text("utf-8")
)
SAID = {
    "prices": ("symbol", "day", "close"),
    "dividends": ("symbol", "ex_date", "amount", "kind"),
    "estimates": ("fiscal_year", "measure", "mean"),
}
UNSAID = {"exchange", "published_on", "assumed", "symbol", "span", "currency", "unit"}


@pytest.mark.parametrize("file", FILES, ids=lambda f: f["name"])
def test_an_ordinary_file_is_read_asked_or_refused(file: dict[str, Any]) -> None:
    found = read(AsFound(name=file["name"], text=file["text"], facts={}))
    asked = sorted({q.name for t in found.tables for q in t.questions})
    rows = [(name, row) for name, some in rows_of(found).items() for row in some]
    if found.unreadable:
        assert file["verdict"] == f"refused: {found.unreadable.split(',')[0]}"
    elif asked:
        assert file["verdict"] == f"asked: {', '.join(asked)}"
    else:
        table, cells = rows[-1]
        shown = [
            v
            for k, v in cells.items()
            if v and (k in SAID[table] if table in SAID else k not in UNSAID)
        ]
        assert (file["verdict"], file["rows"]) == ("read", len(rows))
        assert file["last"] == " ".join((table, *shown))


def test_every_sheet_that_is_left_out_or_cut_is_said() -> None:
    """Of the sixty, whatever is read in part says what is not."""
    for file in FILES:
        found = read(AsFound(name=file["name"], text=file["text"], facts={}))
        for table in found.tables:
            lost = [x.heading for x in table.lines if x.target is None]
            made = (found.made or {}).get(table.id)
            named = {*table.columns_of.values(), table.year_at}
            told = " ".join((*made.left_out, *made.notes)) if made else ""
            for line in table.lines if made else ():
                if line.heading in lost and line.place not in named:
                    assert line.heading in told, (file["name"], line.heading)
