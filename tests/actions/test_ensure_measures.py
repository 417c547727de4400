"""Measures kept ready: made once, anew only where something changed, and never passed off as
fresh when they are not."""

from datetime import date

import pytest

from hearth_yield.actions import ensure_measures as keeping
from hearth_yield.actions.ensure_measures import ensure_measures, universe
from hearth_yield.actions.find_payers import Search, find_payers, found_keys
from hearth_yield.actions.import_files import import_files, undo_import
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.set_house_rules import set_house_rules
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)
NOW = "2026-06-30T10:00:00+00:00"
RULES = HouseRules()
PRICE = b"exchange,symbol,day,close\nELV,TRS,2026-06-30,70.00\n"


def stale(database: Database, day: date = DAY) -> set[str]:
    here = universe(ReviewCache(database), day)
    return {e.symbol for e, p in zip(here.candidates, here.pending, strict=True) if p}


def test_nothing_is_made_twice(twenty: Database) -> None:
    assert stale(twenty) == set()
    assert ensure_measures(twenty, RULES, DAY) == 0


def test_a_new_price_makes_its_payer_stale_and_no_other(twenty: Database) -> None:
    source = import_files(twenty, [("prices.csv", PRICE)], at=NOW)
    assert stale(twenty) == {"TRS"}
    assert ensure_measures(twenty, RULES, DAY) == 1
    assert stale(twenty) == set()
    undo_import(twenty, source, at=NOW)
    assert stale(twenty) == {"TRS"}


def test_a_price_index_makes_all_stale(twenty: Database) -> None:
    header = b"code,name,currency,day,published_on,value\n"
    point = b"SUNDREY-PRICES,Sundrey Isles price index,TLL,2026-06-01,2026-06-29,300\n"
    import_files(twenty, [("series.csv", header + point)], at=NOW)
    assert len(stale(twenty)) == len(universe(ReviewCache(twenty), DAY))


def test_other_rules_make_all_stale(twenty: Database) -> None:
    """What was made with other rules is never shown for what they say now."""
    cache = ReviewCache(twenty)
    before = universe(cache, DAY).candidates[0].measured
    rules = HouseRules(margin_of_safety=0.3)
    set_house_rules(twenty, rules, at=NOW)
    here = universe(cache, DAY)
    assert here.pending.all()
    assert all(e.measured is None for e in here.candidates)
    assert ensure_measures(twenty, rules, DAY) == len(here)
    after = universe(cache, DAY).candidates[0].measured
    assert before is not None
    assert after is not None
    assert after.cells["margin_of_safety_used"].value == 0.3
    assert after.cells["buy_below"].value == pytest.approx(
        (before.cells["buy_below"].value or 0) * 0.7 / 0.8
    )


def test_what_is_kept_is_what_the_review_says(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    for e in universe(cache, DAY).candidates[:6]:
        review = cache.review(e.exchange, e.symbol, DAY, Question())
        assert e.measured is not None
        assert e.measured.cells["yield"].value == review.range.now.value
        assert e.measured.words["state"] == (review.state and review.state.value)


def test_a_past_day_is_made_for_that_day(twenty: Database) -> None:
    past = date(2020, 6, 30)
    before = universe(ReviewCache(twenty), past)
    assert before.pending.all()
    assert "NWO" not in {e.symbol for e in before.candidates}
    assert ensure_measures(twenty, RULES, past) == len(before)
    found = {e.symbol: e.measured for e in universe(ReviewCache(twenty), past).candidates}
    review = ReviewCache(twenty).review("ELV", "CRF", past, Question())
    assert found["CRF"].words["last_year"] == "suspended"  # type: ignore[union-attr]
    assert found["CRF"].cells["yield"].value == review.range.now.value  # type: ignore[union-attr]
    assert stale(twenty) == set()


def test_few_days_are_kept_at_once(twenty: Database) -> None:
    days = [date(2026, 6, d) for d in (1, 2, 3, 4, 5)]
    for day in days:
        ensure_measures(twenty, RULES, day)
    kept = [d for d in (*days, DAY) if not stale(twenty, d)]
    assert len(kept) == 4
    assert DAY in kept
    assert days[-1] in kept


def test_stopped_between_batches_what_was_made_stays(
    twenty: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(keeping, "BATCH", 2)
    past = date(2019, 6, 28)

    def stop(step: str, done: int, total: int) -> None:
        if done >= 4:
            raise RuntimeError

    with pytest.raises(RuntimeError):
        ensure_measures(twenty, RULES, past, stop)
    here = universe(ReviewCache(twenty), past)
    assert len(here) - here.pending.sum() == 4
    assert ensure_measures(twenty, RULES, past) == len(here) - 4


def test_a_search_counts_sums_up_and_keeps_its_order(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    search = Search(words="property", sort="yield", descending=True)
    found = find_payers(cache, DAY, search, ["yield"], 0, 500)
    yields = [e.measured.cells["yield"].value for e in found.rows if e.measured]
    assert found.found == len(yields) > 0
    assert all(e.measured and e.measured.words["kind"] for e in found.rows)
    assert found_keys(cache, DAY, search) == [(e.exchange, e.symbol) for e in found.rows]
    middle = find_payers(cache, DAY, search, [], 1, 1).rows
    assert [e.symbol for e in middle] == [e.symbol for e in found.rows][1:2]


def test_a_newcomer_is_listed_from_its_first_day(twenty: Database) -> None:
    def listed(day: date) -> set[str]:
        return {e.symbol for e in universe(ReviewCache(twenty), day).candidates}

    assert "NWO" not in listed(date(2025, 3, 13))
    assert "NWO" in listed(date(2025, 3, 14))
