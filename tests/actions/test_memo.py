"""The memo of a decision: what it holds, and that nothing that comes later changes it."""

from __future__ import annotations

import re
from datetime import date
from decimal import Decimal

import pytest

from hearth_yield.actions.decide import Memo, decide, withdraw
from hearth_yield.actions.disagree import disagree
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.keep_entry_step import keep_entry_step
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.set_house_rules import set_house_rules
from hearth_yield.actions.write_memo import write_memo
from hearth_yield.core.errors import NotFound
from hearth_yield.core.expecting.expectation import Expectation, Side, Way
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import read_question
from hearth_yield.core.range.entry_steps import EntryStep
from hearth_yield.exchange.memo.words import show
from hearth_yield.store.database import Database

TODAY = date(2026, 6, 30)
AT = "2026-06-30T10:00:00+00:00"
EXPECTED = Expectation(
    measure="declared_rate",
    way=Way.GROWTH,
    side=Side.AT_LEAST,
    value=0.05,
    until=date(2029, 12, 31),
    then=None,
)


def decided(database: Database, words: str = "Sound, but dear.") -> int:
    cache = ReviewCache(database)
    return decide(
        cache,
        "ELV",
        "TRS",
        today=TODAY,
        as_of=TODAY,
        recorded_at=AT,
        verdict="wait",
        words=words,
        buy_below=Decimal("49.50"),
        question=read_question({"inputs": "growth:0.05"}),
        memo=Memo(
            pros="Raised 29 years running.",
            risks="Palm wax.",
            trim_above=Decimal("70"),
            next_look=date(2026, 11, 15),
            expectations=[EXPECTED],
        ),
    )


def plain(page: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page.replace("\u00a0", " ")))


def test_it_holds_what_the_decision_rested_on(twenty: Database) -> None:
    """Rate 1.98 at 49.50 is 4.00 %; growth is the person's own 5 %."""
    cache = ReviewCache(twenty)
    step = EntryStep(quantity="yield", target=0.04, amount=Decimal(3000), kept_on=TODAY)
    keep_entry_step(cache, "ELV", "TRS", TODAY, cache.edition(), step)
    disagree(twenty, "ELV", "TRS", stage="cover", words="The new works will pay.", at=AT)
    name, page = write_memo(twenty, decided(twenty))
    assert name == "trs-2026-06-30"
    text = plain(page)
    for said in (
        "Tallow &amp; Reed Soapworks: wait",
        "Buy below 49.50 TLL",
        "Yield there 4.00 %",
        "Trim above 70.00 TLL",
        "Next look 15 November 2026",
        "Raised 29 years running",
        "You disagreed: The new works will pay.",
        "grows at least 5.0 % a year to 31 December 2029",
        "Dividend growth 5.0 % (yours)",
        "Yield 4.00 % 49.50 TLL 3,000 TLL 100.0 %",
        "Sources: the Sundrey Isles",
    ):
        assert said in text, said
    assert page.count("<svg") > 10
    assert not re.search(r"(src|href)=|url\(|<script|@import", page)


def test_later_facts_rules_and_disagreements_change_nothing(twenty: Database) -> None:
    made = decided(twenty)
    before = write_memo(twenty, made)
    files = [
        (
            "prices.csv",
            b"exchange,symbol,day,close\nELV,TRS,2026-06-30,12.5\nELV,TRS,2026-06-29,12.5\n",
        )
    ]
    import_files(twenty, files, at=AT)
    set_house_rules(twenty, HouseRules(margin_of_safety=0.5, close_under=0.9), at=AT)
    disagree(twenty, "ELV", "TRS", stage="worth", words="No.", at=AT)
    assert write_memo(twenty, made) == before


def test_words_of_a_hostile_hand_stay_words(twenty: Database) -> None:
    _, page = write_memo(twenty, decided(twenty, "<script>alert(1)</script> & more"))
    assert "<script" not in page
    assert "&lt;script&gt;alert(1)&lt;/script&gt; &amp; more" in page


def test_a_decision_taken_back_has_no_memo(twenty: Database) -> None:
    made = decided(twenty)
    withdraw(ReviewCache(twenty), made, True)
    with pytest.raises(NotFound):
        write_memo(twenty, made)


@pytest.mark.parametrize(
    ("value", "unit", "text"),
    [
        (0.0425, "yield", "4.25 %"),
        (-0.031, "fraction", "−3.1 %"),
        (57.1, "per_share", "57.10 TLL"),
        (1234567890.0, "money", "1,234.6 m TLL"),
        (1.0, "years", "1 year"),
        (-0.0001, "fraction", "0.0 %"),
    ],
)
def test_values_in_words(value: float, unit: str, text: str) -> None:
    assert show(value, unit, "TLL").replace("\u00a0", " ") == text
