"""Adjusting a figure and setting a year aside: marked wherever used, reversible, never lost."""

from datetime import date

import pytest

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.edit_facts import edit_value, exclude_year, withdraw
from hearth_yield.actions.edit_facts import restore as restore_edit
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.core.cover.cover import Basis
from hearth_yield.core.errors import InvalidInput, NotFound
from hearth_yield.core.figures.figure import Figure, Touch
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.names import named_figures
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.conftest import example

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"


def review(database: Database, symbol: str, day: date = DAY) -> Review:
    return ReviewCache(database).review("ELV", symbol, day, Question())


def year_key(database: Database, symbol: str, year: int) -> dict[str, str]:
    with database.read() as connection:
        held = payer_files.load(connection, "ELV", symbol).statements
    found = next(s for s in held if s.span == "year" and s.period_end.year == year)
    return {
        "period_end": found.period_end.isoformat(),
        "span": "year",
        "published_on": found.published_on.isoformat(),
    }


def adjust_ocf(database: Database, value: float = 1e6, reason: str = "one-off refund") -> int:
    return edit_value(
        database,
        "ELV",
        "TRS",
        table="statements",
        key=year_key(database, "TRS", 2025),
        field="operating_cash_flow",
        value=value,
        reason=reason,
        at=NOW,
    )


def touched(found: Review) -> dict[str, Figure]:
    return {k: f for k, f in named_figures(found).items() if f.touch is Touch.EDITED}


def test_an_adjusted_figure_counts_and_is_marked_wherever_it_is_used(twenty: Database) -> None:
    before = review(twenty, "TRS")
    assert touched(before) == {}
    adjust_ocf(twenty)
    after = review(twenty, "TRS")
    marked = touched(after)
    lead = "cover.bases.free_cash_flow"
    assert {"cover.payout_paid", f"{lead}.through_cycle", "tests.payout_paid.cushion"} <= set(
        marked
    )
    assert "record.declared_rate" not in marked
    assert "cover.bases.earnings.latest.payout" not in marked
    fact = after.cover.leading.latest.driver.inputs[0]  # type: ignore[union-attr]
    assert fact.value == 1e6
    assert "one-off refund" in fact.notes[-1]
    assert fact.fact is not None
    assert fact.fact.raw == before.cover.leading.latest.driver.inputs[0].value  # type: ignore[union-attr]


def test_taking_it_back_leaves_everything_as_it_was(twenty: Database) -> None:
    before = named_figures(review(twenty, "TRS"))
    id = adjust_ocf(twenty)
    assert named_figures(review(twenty, "TRS")) != before
    withdraw(twenty, id, at=NOW)
    after = named_figures(review(twenty, "TRS"))
    assert {k: f.value for k, f in after.items()} == {k: f.value for k, f in before.items()}
    restore_edit(twenty, id, at=NOW)
    assert touched(review(twenty, "TRS"))


def test_a_second_adjustment_stands_in_the_place_of_the_first(twenty: Database) -> None:
    adjust_ocf(twenty, 1e6)
    second = adjust_ocf(twenty, 2e6)
    fact = review(twenty, "TRS").cover.leading.latest.driver.inputs[0]  # type: ignore[union-attr]
    assert fact.value == 2e6
    withdraw(twenty, second, at=NOW)
    assert touched(review(twenty, "TRS")) == {}


def test_it_applies_on_past_days_too_once_the_fact_was_known(twenty: Database) -> None:
    adjust_ocf(twenty)
    assert touched(review(twenty, "TRS", date(2026, 5, 1)))
    assert touched(review(twenty, "TRS", date(2025, 12, 31))) == {}


def test_the_kept_measures_of_that_payer_are_made_anew_and_marked(twenty: Database) -> None:
    adjust_ocf(twenty)
    assert ensure_measures(twenty, HouseRules(), DAY) == 1
    entry = next(e for e in universe(ReviewCache(twenty), DAY).candidates if e.symbol == "TRS")
    assert entry.measured is not None
    assert entry.measured.cells["payout_paid"].touch is Touch.EDITED
    assert entry.measured.cells["yield"].touch is None


def test_a_dividend_and_a_price_are_adjusted_as_they_were_paid(twenty: Database) -> None:
    def change(table: str, key: dict[str, str], field: str, value: float) -> None:
        edit_value(
            twenty,
            "ELV",
            "TRS",
            table=table,
            key=key,
            field=field,
            value=value,
            reason="misprint",
            at=NOW,
        )

    change("prices", {"day": "2026-06-30"}, "close", 50.0)
    with twenty.read() as connection:
        newest = payer_files.load(connection, "ELV", "TRS").dividends[-1]
    key = {"ex_date": newest.ex_date.isoformat(), "kind": "regular"}
    change("dividends", key, "amount", 0.6)
    after = review(twenty, "TRS")
    assert (after.price.value, after.price.touch) == (50.0, Touch.EDITED)
    assert after.record.declared_rate.value == pytest.approx(2.4)
    assert after.range.now.value == pytest.approx(2.4 / 50)
    assert after.worth.buy_below.touch is Touch.EDITED


def test_a_freak_year_excluded_leaves_latest_and_cycle(twenty: Database) -> None:
    def earnings() -> tuple[float, float]:
        found = review(twenty, "DNTE").cover.of(Basis.EARNINGS)
        assert found is not None
        return found.worst_of_ten.breach, found.through_cycle.value  # type: ignore[return-value]

    before = review(twenty, "FND").cover.of(Basis.EARNINGS)
    id = exclude_year(
        twenty,
        "ELV",
        "FND",
        period_end=date(2021, 12, 31),
        basis="earnings",
        reason="warehouses sold",
        at=NOW,
    )
    after = review(twenty, "FND").cover.of(Basis.EARNINGS)
    assert before is not None
    assert after is not None
    # Five years with one at 2.6 times the plan: without it the same dividends weigh more.
    assert after.through_cycle.value > 1.2 * before.through_cycle.value  # type: ignore[operator]
    assert after.through_cycle.touch is Touch.EDITED
    assert "warehouses sold" in " ".join(after.through_cycle.notes)
    assert [y.excluded for y in after.years if y.excluded] == ["warehouses sold"]
    assert after.years[-1].payout.value == before.years[-1].payout.value
    withdraw(twenty, id, at=NOW)
    again = review(twenty, "FND").cover.of(Basis.EARNINGS)
    assert again == before
    assert earnings()[0] == "loss"


def test_latest_skips_a_year_excluded_and_says_so(twenty: Database) -> None:
    for year in (2025, 2024):
        exclude_year(
            twenty,
            "ELV",
            "TRS",
            period_end=date(year, 12, 31),
            basis="free_cash_flow",
            reason="odd",
            at=NOW,
        )
    lead = review(twenty, "TRS").cover.leading
    assert lead.latest is not None
    assert lead.latest.label == "fiscal 2023"
    assert "fiscal 2025 excluded: odd" in lead.latest.payout.notes
    for year in (2023, 2022):
        exclude_year(
            twenty,
            "ELV",
            "TRS",
            period_end=date(year, 12, 31),
            basis="free_cash_flow",
            reason="odd",
            at=NOW,
        )
    assert review(twenty, "TRS").cover.leading.through_cycle.reason == (
        "1 of at least 3 fiscal years in a row known"
    )


@pytest.mark.parametrize(
    ("more", "error", "field"),
    [
        ({"field": "occupation"}, InvalidInput, "field"),
        ({"table": "payers", "field": "name"}, InvalidInput, "field"),
        ({"reason": "  "}, InvalidInput, "reason"),
        ({"value": float("nan")}, InvalidInput, "value"),
        ({"field": "diluted_shares", "value": -1.0}, InvalidInput, "value"),
        ({"key": {"period_end": "2025-12-31"}}, InvalidInput, "key"),
        ({"key": {"period_end": "x", "span": "year", "published_on": "y"}}, InvalidInput, "key"),
        (
            {"key": {"period_end": "1990-12-31", "span": "year", "published_on": "1991-01-01"}},
            NotFound,
            "key",
        ),
    ],
)
def test_what_cannot_be_adjusted_is_refused_by_field(
    twenty: Database, more: dict[str, object], error: type[InvalidInput], field: str
) -> None:
    plain = {
        "table": "statements",
        "key": year_key(twenty, "TRS", 2025),
        "field": "revenue",
        "value": 1.0,
        "reason": "why",
        "at": NOW,
    }
    with pytest.raises(error) as caught:
        edit_value(twenty, "ELV", "TRS", **(plain | more))  # type: ignore[arg-type]
    assert caught.value.field == field
    assert touched(review(twenty, "TRS")) == {}


def test_a_basis_the_kind_does_not_use_or_a_year_not_held_is_refused(twenty: Database) -> None:
    def aside(symbol: str, year: int, basis: str) -> None:
        exclude_year(
            twenty, "ELV", symbol, period_end=date(year, 12, 31), basis=basis, reason="x", at=NOW
        )

    with pytest.raises(InvalidInput):
        aside("LRT", 2025, "earnings")
    with pytest.raises(NotFound):
        aside("TRS", 1950, "earnings")
    with pytest.raises(NotFound):
        aside("NOBODY", 2025, "earnings")


def test_adjustments_outlive_an_undone_import_and_go_with_the_backup(
    twenty: Database, empty: Database
) -> None:
    source = import_files(twenty, example("pennant-lamps"), at=NOW)
    key = year_key(twenty, "PNL", 2025)
    edit_value(
        twenty,
        "ELV",
        "PNL",
        table="statements",
        key=key,
        field="revenue",
        value=5e8,
        reason="mine",
        at=NOW,
    )
    undo_import(twenty, source, at=NOW)
    import_files(twenty, example("pennant-lamps"), at=NOW)
    restore(empty, back_up(twenty, at=NOW), at=NOW)
    with empty.read() as connection:
        held = payer_files.load(connection, "ELV", "PNL").statements
    assert any(s.lines["revenue"] == 5e8 and "revenue" in s.edited for s in held)
