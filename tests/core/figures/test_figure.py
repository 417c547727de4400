"""Figures carry their working: one path gives the value and what it came from."""

import pytest

from hearth_yield.core.figures.figure import Figure, Unit, Unknown, derive, given, percent, unknown


def fact(label: str, value: float | None, **more: object) -> Figure:
    reason = None if value is not None else "not reported"
    return Figure(label=label, unit=Unit.MONEY, value=value, reason=reason, source=7, **more)  # type: ignore[arg-type]


def ratio(a: Figure, b: Figure) -> Figure:
    def compute(x: float, y: float) -> float | Unknown:
        return x / y if y > 0 else Unknown("nothing to divide by", breach="loss")

    return derive("ratio", Unit.FRACTION, "a ÷ b", [a, b], compute, period="fiscal 2025")


def test_a_derived_figure_keeps_its_inputs_and_formula() -> None:
    a, b = fact("a", 3.0), fact("b", 4.0)
    found = ratio(a, b)
    assert found.value == 0.75
    assert found.inputs == (a, b)
    assert (found.formula, found.period) == ("a ÷ b", "fiscal 2025")
    assert found.known


def test_the_first_missing_input_gives_the_reason() -> None:
    found = ratio(fact("a", 3.0), fact("b", None))
    assert found.value is None
    assert found.reason == "b unknown: not reported"
    assert len(found.inputs) == 2


def test_a_reason_is_named_once_however_deep_it_lies() -> None:
    deep = fact("root", None)
    for step in range(4):
        deep = derive(f"step {step}", Unit.MONEY, "same", [deep], lambda x: x)
    assert deep.reason == "root unknown: not reported"


def test_compute_may_answer_unknown_with_a_breach() -> None:
    found = ratio(fact("a", 3.0), fact("b", -1.0))
    assert (found.value, found.reason, found.breach) == (None, "nothing to divide by", "loss")


def test_compute_is_not_called_without_all_inputs() -> None:
    def never(*_: float) -> float:
        raise AssertionError

    assert not derive("x", Unit.COUNT, "f", [fact("a", None)], never).known


def test_a_sum_of_nothing_is_computed_from_nothing() -> None:
    assert derive("sum", Unit.MONEY, "sum", [], lambda *v: sum(v)).value == 0.0


def test_given_says_by_whom() -> None:
    assert given("r", Unit.FRACTION, 0.08, "house rule").notes == ("house rule",)
    assert given("r", Unit.FRACTION, None, "type your own").reason == "type your own"


def test_unknown_takes_words_or_an_unknown() -> None:
    assert unknown("x", Unit.COUNT, "why").reason == "why"
    assert unknown("x", Unit.COUNT, Unknown("why", breach="loss")).breach == "loss"


def test_figures_cannot_be_changed() -> None:
    with pytest.raises(AttributeError):
        fact("a", 1.0).value = 2.0  # type: ignore[misc]


@pytest.mark.parametrize(
    ("fraction", "digits", "text"), [(0.55, 0, "55 %"), (0.0395, 2, "3.95 %"), (-0.05, 0, "-5 %")]
)
def test_percent_in_words(fraction: float, digits: int, text: str) -> None:
    assert percent(fraction, digits) == text
