"""One question, one reader: what is written reads back, and what cannot be read says why."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.question import PARTS, Question, read_question, write_question
from hearth_yield.core.question_parts import Of
from hearth_yield.core.range.multiples import QUANTITIES
from hearth_yield.core.range.ruler import TYPICAL, WINDOWS
from hearth_yield.core.strain.inputs import Strain
from hearth_yield.core.watching.reach import Aim
from hearth_yield.core.worth.declare import Choices
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS
from hearth_yield.core.worth.path.measures import PATH_BY, PATH_QUANTITIES

numbers = st.floats(-0.5, 0.5, allow_nan=False)
ids = st.dictionaries(st.sampled_from(list(INPUTS)), numbers, min_size=1)
texts = st.text(st.characters(codec="utf-8"), max_size=30).map(str.strip).filter(bool)
two_days = st.lists(st.dates(), min_size=2, max_size=2, unique=True).map(sorted).map(tuple)
VALUES = {
    "window": st.sampled_from(list(WINDOWS))
    | two_days.map(lambda d: f"{d[0].isoformat()}..{d[1].isoformat()}"),
    "base_years": st.lists(st.integers(1990, 2026), max_size=2).map(tuple),
    "quantity": st.sampled_from(list(QUANTITIES)),
    "typical": st.sampled_from(["", *TYPICAL]),
    "inputs": ids,
    "switched": st.dictionaries(st.sampled_from(list(MODELS)), st.booleans()),
    "weights": st.dictionaries(st.sampled_from(list(MODELS)), st.floats(0, 9)),
    "reasons": st.dictionaries(st.sampled_from(list(MODELS)), texts),
    "path_measure": st.sampled_from(["", *PATH_QUANTITIES]),
    "path_by": st.sampled_from(["", *PATH_BY]),
    "strain": st.none()
    | st.builds(Strain, part=st.none() | st.just("tenant/A, B: C"), inputs=ids | st.just({})),
    "span": st.none() | two_days,
    "aim": st.none() | st.floats(0.001, 0.5),
    "aim_price": st.none() | st.floats(0.01, 1e6),
    "outlay": st.none() | st.floats(0.01, 1e12),
    "outlay_at": st.none() | st.floats(0.01, 1e6),
    "reach": st.none() | st.tuples(st.sampled_from(list(Aim)), st.floats(0.01, 1e6)),
}
questions = st.builds(Question, **VALUES)


def test_each_part_is_tried() -> None:
    assert VALUES.keys() == PARTS.keys()


@given(question=questions)
def test_a_question_reads_back_to_the_last_bit(question: Question) -> None:
    assert read_question(write_question(question)) == question


def test_what_a_stage_depends_on_is_told_by_the_parts_alone() -> None:
    question = Question(window="10", inputs={"growth": 0.04}, aim=0.05, base_years=(2001,))
    assert question.plain == Question(window="10", base_years=(2001,))
    assert question.only(Of.AIM) == Question(aim=0.05)
    assert question.choices == Choices(inputs={"growth": 0.04})
    assert replace(question, aim=0.06).place == question.place
    assert replace(question, window="5").place != question.place


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
