"""The table of payers: found by any word, in any order, on any day."""

from datetime import date

import pytest

from hearth_yield.actions.desk import Desk, Kept
from hearth_yield.actions.list_payers import SORTS, list_payers
from hearth_yield.core.errors import InvalidInput
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)


def symbols(
    database: Database, words: str = "", sort: str = "name", descending: bool = False,
    day: date = DAY,
) -> list[str]:  # fmt: skip
    rows = list_payers(Desk(database), day, words, sort, descending).rows
    return [r.payer.symbol for r in rows]


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("tallow", ["TRS"]),
        ("TRS", ["TRS"]),
        ("trust property", ["LRT"]),
        ("materials", ["FND", "GWK"]),
        ("partnership", ["WPP"]),
        ("saint orrin", ["PLG"]),
        ("nothing like it", []),
    ],
)
def test_every_word_must_be_there(demo: Database, words: str, found: list[str]) -> None:
    assert sorted(symbols(demo, words)) == found


@pytest.mark.parametrize("sort", sorted(SORTS))
def test_turning_the_order_turns_the_known_and_leaves_the_unknown_last(
    demo: Database, sort: str
) -> None:
    up, down = symbols(demo, sort=sort), symbols(demo, sort=sort, descending=True)
    assert sorted(up) == sorted(down)
    reviews = {r.payer.symbol: r for r in list_payers(Desk(demo), DAY, "", sort, False).rows}
    unknown = [s for s in up if SORTS[sort](reviews[s])[0]]
    assert up[len(up) - len(unknown) :] == unknown
    assert set(down[len(down) - len(unknown) :]) == set(unknown)


def test_a_newcomer_is_listed_from_its_first_day(demo: Database) -> None:
    assert "NWO" not in symbols(demo, day=date(2025, 3, 13))
    assert "NWO" in symbols(demo, day=date(2025, 3, 14))


def test_an_unknown_column_is_refused(demo: Database) -> None:
    with pytest.raises(InvalidInput) as caught:
        symbols(demo, sort="colour")
    assert "buy_below" in (caught.value.rule or "")


@pytest.mark.parametrize("words", ["%", "_", "100%", "\\", "'; DROP TABLE payer; --"])
def test_names_are_searched_as_they_are_typed(demo: Database, words: str) -> None:
    with demo.read() as connection:
        payer_files.find_names(connection, words, 5)
        assert len(payer_files.keys(connection)) == 12


def test_what_is_kept_is_the_most_recent() -> None:
    kept, made = Kept(2), []

    def make(name: str) -> str:
        return kept.get(name, lambda: made.append(name) or name)  # type: ignore[func-returns-value]

    for name in ("a", "b", "a", "c", "a", "b"):
        assert make(name) == name
    assert made == ["a", "b", "c", "b"]
