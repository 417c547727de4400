"""Files that another office program wrote: the same facts whatever the format, and what goes out as
a workbook comes in again."""

from datetime import date
from pathlib import Path

import pytest

from hearth_yield.actions.export_facts import export_facts
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.read_found import Settled, understand_files
from hearth_yield.core.errors import Conflict
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Payers
from hearth_yield.exchange.found.reading import Around, read_found
from hearth_yield.store import facts
from hearth_yield.store.database import Database
from tests.conftest import example
from tests.exchange.found.files import FILES, PAYERS, AsFound
from tests.recalculated import converted

NOW = "2026-06-30T10:00:00+00:00"
TODAY = date(2026, 6, 30)
BOOKS = [f for f in FILES if f.book and not f.choices]


def rows_of(file: AsFound, name: str, raw: bytes) -> list[tuple[str, dict[str, object]]]:
    around = Around(payers=Payers(PAYERS), accounts=Accounts(today=TODAY))
    (found,) = read_found([(name, raw)], around, {f"0.{k}": v for k, v in file.choices.items()})
    assert found.unreadable is None, (name, found.unreadable)
    made = (found.made or {}).values()
    return [(n, dict(r)) for m in made for n, t in m.tables.items() for r in t.rows]


@pytest.mark.parametrize("form", ["ods", "xls"])
def test_a_workbook_says_the_same_in_every_format(form: str, tmp_path: Path) -> None:
    names = {f"b{n}": f for n, f in enumerate(BOOKS)}
    written = converted({n: f.raw for n, f in names.items()}, form, tmp_path)
    assert len(written) >= 8
    for n, file in names.items():
        stem = file.name.rsplit(".", 1)[0]
        plain = rows_of(file, file.name, file.raw)
        assert plain
        assert rows_of(file, f"{stem}.{form}", written[n]) == plain, file.name


def held(database: Database) -> dict[str, list[dict[str, object]]]:
    with database.read() as connection:
        return facts.records_of(connection)


def near(value: object) -> object:
    return pytest.approx(value, rel=2e-15) if isinstance(value, float) else value


def bring(database: Database, name: str, raw: bytes) -> None:
    understood = understand_files(database, [(name, raw)], Settled(), today=TODAY)
    assert understood.upload is not None
    import_files(database, understood.upload, at=NOW)


def test_a_workbook_of_facts_and_its_ods_come_in_as_they_went_out(
    empty: Database, tmp_path: Path
) -> None:
    import_files(empty, example("pennant-lamps"), at=NOW)
    book = export_facts(empty, None, name="all", book=True)
    ods = converted({"all": book}, "ods", tmp_path)["all"]
    for name, raw in (("all.xlsx", book), ("all.ods", ods)):
        other = Database(tmp_path / f"{name}.sqlite")
        other.migrate()
        bring(other, name, raw)
        came, went = held(other), held(empty)
        assert came.keys() == went.keys()
        for table in went:
            for mine, theirs in zip(came[table], went[table], strict=True):
                # A spreadsheet keeps fifteen digits; the last ones are rounded.
                assert mine.keys() == theirs.keys()
                assert all(mine[c] == near(theirs[c]) for c in mine), (table, mine, theirs)
        with pytest.raises(Conflict, match="held already"):
            bring(empty, name, raw)
        other.close()
