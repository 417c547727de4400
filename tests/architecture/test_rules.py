"""What is declared has what a thing of its kind must have, and is written down."""

from __future__ import annotations

import ast
import json
import math
import re
from collections.abc import Iterable, Iterator
from functools import cache
from pathlib import Path

import pytest

from hearth_yield.core.comparing.sets import compare_sets
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.judging.house_rules import SETTINGS
from hearth_yield.core.names import NUMBERS
from hearth_yield.core.signals.make import KINDS
from hearth_yield.core.stages import MEASURES
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS
from hearth_yield.exchange.columns import FORMATS

ROOT = Path(__file__).parent.parent.parent
PACKAGE = ROOT / "src" / "hearth_yield"
METHOD = (ROOT / "docs" / "method.md").read_text()
ENDS = json.loads((ROOT / "tests" / "data" / "better_ends.json").read_text())
STAGES = {Stage.PAYER: "The payer itself"}
"""The heads of the method's index that are not the name of a stage."""


def listed(head: str) -> list[str]:
    """The names that the index at the end of the method lists under a head."""
    found = re.search(rf"^### {re.escape(head)}\n\n((?:.+\n)+)", METHOD, re.MULTILINE)
    assert found, f"docs/method.md, What there is, has no “{head}”"
    text = found[1].replace("\n", " ").strip().rstrip(".")
    return [name.strip() for name in text.split(" · ")]


@pytest.mark.parametrize("id", list(NUMBERS))
def test_every_measure_has_the_better_end_that_was_decided_for_it(id: str) -> None:
    """Of a new measure somebody must say which end is better; the file says it, not the code."""
    (decided,) = [end for end, ids in ENDS.items() if id in ids]
    assert NUMBERS[id].better == decided


def test_no_end_is_decided_for_a_measure_that_is_gone() -> None:
    assert sorted(id for ids in ENDS.values() for id in ids) == sorted(NUMBERS)


@pytest.mark.parametrize("stage", [s for s in Stage if s is not Stage.DECISION])
def test_every_measure_stands_in_the_method(stage: Stage) -> None:
    names = [m.name for m in NUMBERS.values() if m.stage is stage]
    assert listed(STAGES.get(stage, stage.value.capitalize())) == names


def test_every_model_stands_in_the_method() -> None:
    assert listed("Models") == [m.name for m in MODELS.values()]


def test_every_input_of_worth_stands_in_the_method() -> None:
    assert listed("Inputs of models") == [i.label for i in INPUTS.values()]


def test_every_setting_of_the_house_rules_stands_in_the_method() -> None:
    assert listed("House rules") == [s.name for s in SETTINGS.values()]


def test_every_kind_of_signal_stands_in_the_method() -> None:
    assert listed("Kinds of signals") == [id.replace("_", " ") for id in KINDS]


def read_in(files: Iterable[Path]) -> Iterator[str]:
    """The attributes and texts that code names."""
    for path in files:
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Attribute):
                yield node.attr
            elif isinstance(node, ast.Constant) and isinstance(node.value, str):
                yield node.value


WRITES = (
    "core/facts/tables.py",
    "exchange/",
    "demo/",
    "market/",
    "store/migrations/",
    "store/tables.py",
)
"""What puts a column into a file or a table; none of it makes anything of the value."""


@cache
def read() -> frozenset[str]:
    """What anything else names."""
    files = PACKAGE.rglob("*.py")
    return frozenset(
        read_in(p for p in files if not p.relative_to(PACKAGE).as_posix().startswith(WRITES))
    )


@pytest.mark.parametrize(
    ("table", "column"), [(f.name, c.name) for f in FORMATS.values() for c in f.columns]
)
def test_every_imported_column_is_read_by_something(table: str, column: str) -> None:
    assert column in read()


@pytest.mark.parametrize("id", list(MEASURES))
def test_every_measure_says_itself(id: str) -> None:
    """A name that begins as a sentence does, and words into which a value fits once."""
    m = MEASURES[id]
    assert m.name[0].isupper() or not m.name[0].isalpha() or m.name[0].isdigit()
    assert m.words.count("{}") == 1
    assert (m.turned is None) == (m.under is None)
    assert m.turned is None or m.turned.count("{}") == 1


@pytest.mark.parametrize("id", [m.id for m in MEASURES.values() if m.test])
def test_every_test_says_what_it_asks_and_has_limits_that_can_be(id: str) -> None:
    test = MEASURES[id].test
    assert test is not None
    assert test.limits, "a test is made for some kind of payer"
    assert test.means.endswith(".") or test.means == ""
    for limit in test.limits.values():
        assert math.isfinite(limit.value)


@pytest.mark.parametrize("id", list(MODELS))
def test_every_model_takes_inputs_that_are_declared(id: str) -> None:
    model = MODELS[id]
    assert set(model.takes) <= set(INPUTS)
    assert model.question.endswith("?")
    assert model.formula


def test_every_input_is_taken_by_some_model_or_read_by_worth_itself() -> None:
    taken = {id for m in MODELS.values() for id in m.takes}
    assert set(INPUTS) - taken <= read()


@pytest.mark.parametrize("chosen", compare_sets(), ids=lambda s: s.id)
def test_every_set_of_compared_measures_names_measures(chosen: object) -> None:
    names = chosen.measures  # type: ignore[attr-defined]
    assert set(names) <= set(MEASURES)
    assert len(set(names)) == len(names)


@pytest.mark.parametrize("setting", SETTINGS.values(), ids=lambda s: s.id)
def test_every_setting_lies_within_its_own_bounds(setting: object) -> None:
    from hearth_yield.core.judging.house_rules import HouseRules

    value = getattr(HouseRules(), setting.id)  # type: ignore[attr-defined]
    assert setting.low <= value <= setting.high  # type: ignore[attr-defined]
