"""What is computed is kept under the parts of the edition it rests on, and under no other."""

from collections.abc import Callable
from datetime import date

import pytest

from hearth_yield.actions.ensure_measures import universe
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.set_house_rules import set_house_rules
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.store.database import Database

TODAY = date(2026, 6, 30)


def change_ledger(database: Database) -> None:
    with database.write(facts=False, ledger=True):
        pass


def change_facts(database: Database) -> None:
    with database.write():
        pass


def change_rules(database: Database) -> None:
    rules = HouseRules(close_under=0.2)
    set_house_rules(database, rules, note="", at="2026-06-30T10:00:00+00:00")


@pytest.mark.parametrize(
    ("change", "stands"), [(change_ledger, True), (change_facts, False), (change_rules, False)]
)
def test_a_review_and_the_search_rest_on_facts_and_rules_alone(
    twenty: Database, change: Callable[[Database], None], stands: bool
) -> None:
    cache = ReviewCache(twenty)
    before = cache.review("ELV", "TRS", TODAY, Question())
    searched = universe(cache, TODAY)
    change(twenty)
    assert (cache.review("ELV", "TRS", TODAY, Question()) is before) == stands
    assert (universe(cache, TODAY) is searched) == stands


def test_each_part_of_the_edition_grows_by_itself(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    first = cache.edition()
    change_ledger(twenty)
    second = cache.edition()
    assert (second.judged, second.ledger) == (first.judged, first.ledger + 1)
    change_facts(twenty)
    third = cache.edition()
    assert (third.facts, third.ledger) == (second.facts + 1, second.ledger)
