from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import pytest

from hearth_yield.actions.decide import decide, past_decisions, withdraw
from hearth_yield.actions.import_files import import_files
from hearth_yield.actions.review_cache import ReviewCache
from hearth_yield.actions.since_decided import since_decided
from hearth_yield.core.errors import Conflict, InvalidInput
from hearth_yield.core.question import Question, read_question
from hearth_yield.store.database import Database
from hearth_yield.store.decisions import Decision

TODAY = date(2026, 6, 30)


def decided(cache: ReviewCache, **more: object) -> int:
    base: dict[str, object] = {
        "today": TODAY,
        "as_of": TODAY,
        "recorded_at": "2026-06-30T10:00:00+00:00",
        "verdict": "wait",
        "words": "Fine payer, dear price.",
        "buy_below": Decimal("55.25"),
        "question": Question(),
    }
    return decide(cache, "ELV", "TRS", **(base | more))  # type: ignore[arg-type]


def test_a_decision_freezes_the_figures_it_rests_on(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    decided(cache, question=Question(inputs={"growth": 0.04}))
    past = past_decisions(cache, "ELV", "TRS", TODAY)[0]
    review = cache.review("ELV", "TRS", TODAY, Question())
    assert past.made.frozen["payer.price"]["value"] == review.price.value
    assert past.made.frozen["worth.growth_used"]["value"] == 0.04
    assert past.made.buy_below == Decimal("55.25")
    assert review.state is not None
    assert past.made.state == review.state.value


def test_what_has_changed_since_is_named(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    decided(cache)
    assert not [c for c in past_decisions(cache, "ELV", "TRS", TODAY)[0].changes if c.moved]
    text = b"exchange,symbol,day,close\nELV,TRS,2026-06-30,80.00\n"
    import_files(twenty, [("prices.csv", text)], at="2026-06-30T11:00:00+00:00")
    moved = {c.key for c in past_decisions(cache, "ELV", "TRS", TODAY)[0].changes if c.moved}
    assert {"payer.price", "range.yield"} <= moved
    assert "record.declared_rate" not in moved


def test_the_same_question_is_asked_again(twenty: Database) -> None:
    """A decision on inputs, a window and models of the person's own has not changed by itself."""
    cache = ReviewCache(twenty)
    question = Question(
        window="10",
        base_years=(2010,),
        inputs={"growth": 0.02, "required_return": 0.095},
        switched={"fading": False, "constant_growth": True},
    )
    decided(cache, question=question)
    past = past_decisions(cache, "ELV", "TRS", TODAY)[0]
    assert read_question(past.made.question) == question
    assert len(past.changes) > 20
    assert [c.key for c in past.changes if c.moved] == []


def test_a_later_split_is_no_change(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    decided(cache)
    with twenty.write() as connection:
        connection.exec_driver_sql("UPDATE product_state SET pinned_today = '2026-07-20'")
    text = b"exchange,symbol,effective_on,new_shares,old_shares\nELV,TRS,2026-07-10,2,1\n"
    import_files(twenty, [("splits.csv", text)], at="2026-07-20T11:00:00+00:00")
    past = past_decisions(cache, "ELV", "TRS", date(2026, 7, 20))[0]
    moved = {c.key for c in past.changes if c.moved}
    assert "payer.price" not in moved
    assert "record.declared_rate" not in moved
    assert past.buy_below == 55.25 / 2
    assert past.made.buy_below == Decimal("55.25")


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("verdict", "yes"),
        ("words", "  "),
        ("buy_below", Decimal("0")),
        ("buy_below", Decimal("-1")),
    ],
)
def test_refusals_name_the_field(twenty: Database, field: str, value: object) -> None:
    with pytest.raises(InvalidInput) as caught:
        decided(ReviewCache(twenty), **{field: value})
    assert caught.value.field == field
    assert caught.value.rule


def test_nobody_decides_on_a_past_day(twenty: Database) -> None:
    with pytest.raises(Conflict, match="standing on 2019-05-03"):
        decided(ReviewCache(twenty), as_of=date(2019, 5, 3))


def test_a_past_view_does_not_know_later_decisions(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    decided(cache)
    assert past_decisions(cache, "ELV", "TRS", date(2026, 6, 29)) == []


def test_a_decision_can_be_taken_back_and_restored(twenty: Database) -> None:
    cache = ReviewCache(twenty)
    id = decided(cache)
    withdraw(cache, id, True)
    assert past_decisions(cache, "ELV", "TRS", TODAY) == []
    withdraw(cache, id, False)
    assert len(past_decisions(cache, "ELV", "TRS", TODAY)) == 1


def test_what_the_price_offered_then_is_held_on_to_the_day(twenty: Database) -> None:
    """8 % a year over two years of 365.25 days: 1.08² − 1."""
    made = Decision(
        symbol="TRS",
        exchange="ELV",
        as_of=date(2024, 6, 30),
        recorded_at="",
        verdict="buy",
        words="",
        buy_below=None,
        currency="TLL",
        state=None,
        first_to_give=None,
        question={},
        frozen={"worth.implied_return": {"value": 0.08}},
    )
    cache = ReviewCache(twenty)
    file = cache.cut_file(cache.edition(), "ELV", "TRS", date(2026, 6, 30))
    found = since_decided(file, made)
    assert found is not None
    assert found.offered == pytest.approx(1.08 ** (730 / 365.25) - 1)
    unoffered = since_decided(file, replace(made, frozen={}))
    assert unoffered is not None
    assert unoffered.offered is None
    decided(cache)
    (past,) = past_decisions(cache, "ELV", "TRS", TODAY)
    review = cache.review("ELV", "TRS", TODAY, Question())
    assert past.since is None
    later = cache.cut_file(cache.edition(), "ELV", "TRS", TODAY + timedelta(days=30))
    since = since_decided(later, past.made)
    assert since is not None
    assert since.offered_a_year == review.worth.implied_return.value
