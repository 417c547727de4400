"""That the reader of sentences finds what is false."""

from typing import Any

import pytest

from tests.sentences import faults, faults_in


def figure(value: float, unit: str = "fraction", *, size: bool = False) -> dict[str, Any]:
    return {"figure": {"value": value, "unit": unit}, "size": size}


def said(*parts: Any) -> list[dict[str, Any]]:
    return [p if isinstance(p, dict) else {"text": p} for p in parts]


@pytest.mark.parametrize(
    ("parts", "wrong"),
    [
        (said("Revenue grew ", figure(0.0001, size=True)), "moved by nothing"),
        (said("price ", figure(-0.0004, size=True), " under"), "moved by nothing"),
        (said("Revenue grew ", figure(-0.03, size=True)), "a sign against its words"),
        (said("price ", figure(0.03, size=True), " under"), "a sign against its words"),
        (said("it grew ", figure(-0.066)), "a minus after its words"),
        (said("for ", figure(1, "count"), " years"), "one of many"),
        (said("of 12 payment"), "many of one"),
        (said("down from 0.14 to 0.14"), "a change between equal numbers"),
        (
            said("from ", figure(0.141, "per_share"), " to ", figure(0.144, "per_share")),
            "a change between equal numbers",
        ),
        (said("worth None"), "no words"),
        (said("cut ; then ", figure(3, "years")), "marks"),
    ],
)
def test_a_false_sentence_is_found(parts: list[dict[str, Any]], wrong: str) -> None:
    assert faults(parts) == [wrong]


@pytest.mark.parametrize(
    "parts",
    [
        said("Revenue fell ", figure(-0.03, size=True), " over ", figure(12, "years"), "."),
        said("over ten years it did not move; 1 year is needed, 5-year mean, 3 years of 10"),
        said("7.6 points above your 60 %; from 1.20 to 1.21 TLL."),
        [
            {"text": "yielded "},
            figure(0.05, "yield"),
            {"text": " on "},
            {"text": None, "day": "2026-06-30"},
        ],
    ],
)
def test_a_true_one_is_let_through(parts: list[dict[str, Any]]) -> None:
    assert faults(parts) == []


def test_sentences_are_found_wherever_they_stand() -> None:
    answer = {"a": [{"b": said("it grew ", figure(-0.1))}], "c": {"d": "in 12 year it fell"}}
    assert [at for at, _, _ in faults_in(answer)] == [".a.b", ".c.d"]
