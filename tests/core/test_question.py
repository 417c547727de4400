"""One question, one reader: what is written reads back, and what cannot be read says why."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.range.ruler import WINDOWS
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS

numbers = st.floats(-0.5, 0.5, allow_nan=False)
questions = st.builds(
    Question,
    window=st.sampled_from(list(WINDOWS)),
    base_years=st.lists(st.integers(1990, 2026), max_size=2).map(tuple),
    aim=st.none() | st.floats(0.001, 0.5),
    aim_price=st.none() | st.floats(0.01, 1e6),
    inputs=st.dictionaries(st.sampled_from(list(INPUTS)), numbers),
    switched=st.dictionaries(st.sampled_from(list(MODELS)), st.booleans()),
)


@given(question=questions)
def test_a_question_reads_back_to_the_last_bit(question: Question) -> None:
    assert read_question(write_question(question)) == question


def test_what_is_by_default_is_not_written() -> None:
    assert write_question(Question()) == {}
    assert read_question({"window": "", "inputs": ""}) == Question()


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"window": "7"}, "window"),
        ({"quantity": "luck"}, "quantity"),
        ({"base_years": "soon"}, "base_years"),
        ({"aim": "nan"}, "aim"),
        ({"inputs": "growth"}, "growth"),
        ({"inputs": "growth:much"}, "growth"),
        ({"weather": "fine"}, "weather"),
        ({"reasons": "[" * 1500}, "reasons"),
        ({"reasons": '{"two_stage":1e400}'}, "reasons"),
    ],
)
def test_what_cannot_be_read_names_its_field(asked: dict[str, str], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        read_question(asked)
    assert caught.value.field == field
    assert caught.value.rule
