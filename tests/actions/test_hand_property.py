"""Whatever a person does to a fact, every figure that it moves says so, wherever it is used. Tried
on facts drawn at random."""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import date, timedelta

import pytest

from hearth_yield.actions.edit_facts import EDITABLE, edit_value, exclude, withdraw
from hearth_yield.actions.enter_facts import Typed, enter_facts
from hearth_yield.actions.import_files import ALL, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.show_facts import show_facts
from hearth_yield.core.errors import HearthError
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.names import named_figures
from hearth_yield.core.question import Question
from hearth_yield.core.watching.reach import Aim
from hearth_yield.store.database import Database
from hearth_yield.store.fact_rows import FactRow
from tests.conftest import SOAK, sample

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
CAST = ("TRS", "LRT", "STNB")
MORE = ("WPP", "GWK", "MRB", "CVHD", "SBRC", "ORVN", "SLTM", "CLFN", "FND")
PAYERS = CAST + MORE if SOAK else CAST
"""A company, a trust and a financial; a dozen in full."""
LAND = {"CVHD": "RKM"}
QUESTION = Question(base_years=(2010,), reach=(Aim.BUY, 20.0))
Figures = dict[str, Figure]


def land(symbol: str) -> str:
    return LAND.get(symbol, "ELV")


def figures(database: Database, symbol: str) -> Figures:
    return named_figures(ReviewCache(database).review(land(symbol), symbol, DAY, QUESTION))


def silent(before: Figures, after: Figures) -> list[str]:
    """Figures that say something else than before and do not say by whose hand. What gives first is
    one of the tests; that another one does is no other figure."""
    return [
        name
        for name, figure in after.items()
        if figure.touch is None
        and name in before
        and not name.startswith("first_to_give")
        and (figure.value, figure.reason) != (before[name].value, before[name].reason)
    ]


def some_row(database: Database, symbol: str, table: str, chance: random.Random) -> FactRow | None:
    """One of the newest hundred rows of a table, the newest the likeliest."""
    rows = show_facts(database, land(symbol), symbol, table, 0, 100).window.rows
    return rows[min(int(chance.expovariate(0.12)), len(rows) - 1)] if rows else None


def same(before: Figures, after: Figures) -> bool:
    return {k: (f.value, f.touch) for k, f in before.items()} == {
        k: (f.value, f.touch) for k, f in after.items()
    }


@pytest.mark.parametrize("symbol", PAYERS)
def test_an_adjusted_figure_leaves_no_moved_figure_unmarked(demo: Database, symbol: str) -> None:
    chance = random.Random(f"adjust {symbol}")
    before = figures(demo, symbol)
    for table, fields in EDITABLE.items():
        for _ in range(sample(1, 6)):
            row = some_row(demo, symbol, table, chance)
            field = chance.choice(fields)
            held = row and row.cells.get(field)
            if row is None or not held:
                continue
            id = edit_value(
                demo,
                land(symbol),
                symbol,
                table=table,
                key=row.key,
                field=field,
                value=abs(held) * chance.choice((0.4, 0.9, 1.3)) or 1.0,
                reason="tried",
                at=NOW,
            )
            assert silent(before, figures(demo, symbol)) == [], (table, row.key, field)
            withdraw(demo, id, at=NOW)
    assert same(before, figures(demo, symbol))


@pytest.mark.parametrize("symbol", PAYERS)
def test_a_fact_excluded_leaves_no_moved_figure_unmarked(demo: Database, symbol: str) -> None:
    chance = random.Random(f"leave out {symbol}")
    before = figures(demo, symbol)
    for table in ("dividends", "prices", "statements", "splits", "dividend_notices"):
        for _ in range(sample(1, 5)):
            row = some_row(demo, symbol, table, chance)
            if row is None:
                continue
            id = exclude(
                demo, land(symbol), symbol, table=table, key=row.key, reason="tried", at=NOW
            )
            assert silent(before, figures(demo, symbol)) == [], (table, row.key)
            withdraw(demo, id, at=NOW)
    assert same(before, figures(demo, symbol))


def dividend(chance: random.Random, symbol: str) -> tuple[str, dict[str, str]]:
    ex = DAY - timedelta(days=chance.randrange(-20, 900))
    declared = min(ex - timedelta(days=20), DAY)
    return "dividends", {
        "ex_date": ex.isoformat(),
        "declared_on": declared.isoformat(),
        "amount": f"{chance.uniform(0.05, 2):.3f}",
        "currency": "THK" if symbol in LAND else "TLL",
    }


def close(chance: random.Random, symbol: str) -> tuple[str, dict[str, str]]:
    day = DAY - timedelta(days=chance.randrange(0, 700))
    return "prices", {"day": day.isoformat(), "close": f"{chance.uniform(5, 90):.2f}"}


def split(chance: random.Random, symbol: str) -> tuple[str, dict[str, str]]:
    day = DAY - timedelta(days=chance.randrange(0, 3000))
    new = str(chance.choice((2, 3, 5)))
    return "splits", {"effective_on": day.isoformat(), "new_shares": new, "old_shares": "1"}


def stop(chance: random.Random, symbol: str) -> tuple[str, dict[str, str]]:
    day = DAY - timedelta(days=chance.randrange(0, 200))
    return "dividend_notices", {"declared_on": day.isoformat(), "notice": "suspended"}


@pytest.mark.parametrize("symbol", PAYERS)
@pytest.mark.parametrize("kind", [dividend, close, split, stop])
def test_a_fact_entered_by_hand_leaves_no_moved_figure_unmarked(
    demo: Database, symbol: str, kind: Callable[[random.Random, str], tuple[str, dict[str, str]]]
) -> None:
    chance = random.Random(f"{kind.__name__} {symbol}")
    before = figures(demo, symbol)
    for _ in range(sample(1, 6)):
        table, cells = kind(chance, symbol)
        row = {"exchange": land(symbol), "symbol": symbol, **cells}
        try:
            source = enter_facts(demo, Typed(table=table, rows=[row]), at=NOW, accepted=ALL)
        except HearthError:
            continue  # the same is held already
        assert silent(before, figures(demo, symbol)) == [], cells
        undo_import(demo, source, at=NOW)
    assert same(before, figures(demo, symbol))
