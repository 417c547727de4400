"""A day that cannot be told before it is over is asked, in every table and at every door."""

from datetime import date, timedelta

import pytest

from hearth_yield.actions.enter_facts import Typed, enter_facts, preview_typed
from hearth_yield.actions.import_files import import_files, preview_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.errors import RejectedImport
from hearth_yield.core.question import Question
from hearth_yield.store.database import Database

TODAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
TOMORROW = "2026-07-01"
OWNER = {"exchange": "ELV", "symbol": "TRS"}
ROWS = {
    "prices": ("day", {"close": "60"}),
    "statements": (
        "published_on",
        {"period_end": "2025-12-31", "span": "year", "currency": "TLL", "diluted_eps": "3"},
    ),
    "dividends": ("declared_on", {"ex_date": "2026-08-14", "amount": "0.50", "currency": "TLL"}),
    "dividend_notices": ("declared_on", {"notice": "suspended"}),
    "splits": (
        "announced_on",
        {"effective_on": "2026-09-01", "new_shares": "2", "old_shares": "1"},
    ),
    "estimates": ("published_on", {"fiscal_year": "2026", "measure": "eps", "mean": "3"}),
    "payer_notes": ("published_on", {"field": "sector", "value": "Household goods"}),
}


def of(table: str, day: date) -> Typed:
    column, cells = ROWS[table]
    return Typed(table=table, rows=[OWNER | cells | {column: day.isoformat()}])


@pytest.mark.parametrize("table", ROWS)
def test_a_day_to_come_is_asked_and_today_is_not(demo: Database, table: str) -> None:
    (asked,) = preview_typed(demo, of(table, TODAY + timedelta(1)), today=TODAY).faults
    assert (asked.column, str(asked.value), asked.warning) == (ROWS[table][0], TOMORROW, True)
    assert "today (2026-06-30)" in asked.expected
    assert not preview_typed(demo, of(table, TODAY), today=TODAY).faults


def test_days_of_what_is_planned_are_not_asked(demo: Database) -> None:
    """An ex-date, a pay date and a split that are announced lie ahead as a rule."""
    planned = Typed(
        table="dividends",
        rows=[
            OWNER
            | {"ex_date": "2026-09-10", "pay_date": "2026-10-01", "amount": "0.50"}
            | {"currency": "TLL", "declared_on": "2026-06-29"}
        ],
    )
    assert not preview_typed(demo, planned, today=TODAY).faults


def test_what_was_asked_is_kept_only_when_accepted_and_counts_from_its_day(demo: Database) -> None:
    price = of("prices", TODAY + timedelta(1))
    with pytest.raises(RejectedImport):
        enter_facts(demo, price, at=NOW, accepted=(), today=TODAY)
    enter_facts(demo, price, at=NOW, accepted=(0,), today=TODAY)
    seen = {
        day: ReviewCache(demo).review("ELV", "TRS", day, Question()).price.value
        for day in (TODAY, TODAY + timedelta(1))
    }
    assert seen[TODAY] != 60.0
    assert seen[TODAY + timedelta(1)] == 60.0


DAYS = ("2026-06-30", "2026-07-01", "2031-01-02")
FILE = "exchange,symbol,day,close\n" + "".join(f"ELV,TRS,{day},60\n" for day in DAYS)


def test_a_file_is_asked_too_line_by_line(demo: Database) -> None:
    files = [("prices.csv", FILE.encode())]
    faults = preview_import(demo, files, today=TODAY).faults
    assert [(f.line, f.column, f.warning) for f in faults] == [(3, "day", True), (4, "day", True)]
    with pytest.raises(RejectedImport):
        import_files(demo, files, at=NOW, accepted=(0,), today=TODAY)
    assert import_files(demo, files, at=NOW, accepted=(0, 1), today=TODAY)


def test_a_quarter_that_is_typed_counts_at_once(demo: Database) -> None:
    """Whoever types it knows it: the day that a rule assumes for it is no day to come."""
    row = OWNER | {
        "period_end": "2026-06-30",
        "span": "quarter",
        "currency": "TLL",
        "revenue": "221",
    }
    entry = Typed(table="statements", rows=[row], unit="million")
    assert not preview_typed(demo, entry, today=TODAY).faults
    enter_facts(demo, entry, at=NOW, accepted=(), today=TODAY)
    review = ReviewCache(demo).review("ELV", "TRS", TODAY, Question())
    assert "2026-06-30" in str(review.footing.compared)
