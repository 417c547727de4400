"""What is said of a change goes by its sign, and by what is shown of it."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.figures.figure import Unit, given
from hearth_yield.core.figures.measure import Sentence, Size
from hearth_yield.core.figures.saying import beside, moved
from hearth_yield.core.footing.views import VIEWS
from hearth_yield.core.question import read_question
from hearth_yield.core.review import Review
from hearth_yield.core.strain.words import in_words
from hearth_yield.core.worth.words import answered

from .build import paid, plain_years, review, steady


def plain(said: Sentence) -> str:
    return "".join(p if isinstance(p, str) else "#" for p in said)


@pytest.mark.parametrize(
    ("value", "words"),
    [
        (0.031, "grew #"),
        (-0.031, "fell #"),
        (0.0004, "did not move"),
        (-0.0004, "did not move"),
        (0.0, "did not move"),
    ],
)
def test_a_change_has_the_verb_of_its_sign(value: float, words: str) -> None:
    said = moved(given("x", Unit.FRACTION, value, ""))
    assert plain(said) == words
    assert all(isinstance(p, str | Size) for p in said)


@pytest.mark.parametrize(
    ("value", "words"), [(0.02, "# over it"), (-0.02, "# under it"), (0.0003, "at it")]
)
def test_a_side_is_the_sign(value: float, words: str) -> None:
    assert plain(beside(given("x", Unit.FRACTION, value, ""), "it")) == words


def view(found: Review, id: str) -> str:
    return plain(next(v for v in VIEWS if v.id == id).answer(found.footing, found.tests))


def test_what_did_not_move_is_not_said_to_have_grown() -> None:
    flat = steady(statements=plain_years(2016, 2025))
    assert view(review(flat), "business").startswith("Revenue did not move; ")


def test_a_dividend_that_fell_is_not_said_to_have_grown() -> None:
    """1.00 a quarter until 2020, 0.60 since."""
    fell = tuple(
        paid(date(y, m, 10), 1.00 if y <= 2020 else 0.60)
        for y in range(2012, 2027)
        for m in (2, 5, 8, 11)
        if (y, m) < (2026, 6)
    )
    found = review(replace(steady(), dividends=fell))
    said = plain(answered(found.worth, found.price, found.record))
    assert "over ten years it fell #" in said


def test_a_test_at_its_limit_gives_at_the_slightest_fall() -> None:
    """59.99 % of free cash flow is paid out, of 60 %."""
    file = steady(statements=plain_years(2016, 2025, cash=100.0, paid=50.0))
    declared = review(file).cover.leading.declared.value
    assert declared is not None
    near = steady(statements=plain_years(2016, 2025, cash=100.0 * declared / 0.59995, paid=50.0))
    strained = review(near, question=read_question({"strain": "fall:0.1"})).strained
    assert strained is not None
    assert "at the slightest fall of all revenue." in plain(in_words(strained)[0])
