"""Figures by the path that leads to them: each once, in the order they stand, and found again."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import pytest

from hearth_yield.core.errors import HearthError
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.figures.parts import HoldsFigures, collect, member_at, members_of


def figure(value: float) -> Figure:
    return Figure(label=f"figure {value:g}", unit=Unit.COUNT, value=value)


@dataclass(frozen=True, kw_only=True)
class Year(HoldsFigures):
    key: str
    total: Figure

    @cached_property
    def doubled(self) -> Figure:
        assert self.total.value is not None
        return figure(2 * self.total.value)

    @property
    def quiet(self) -> Figure:
        raise AssertionError("a plain property is no member")


@dataclass(frozen=True, kw_only=True)
class Whole(HoldsFigures):
    name: str
    newest: Figure
    none: Figure | None = None
    years: tuple[Year, ...] = ()
    bases: dict[str, Figure] = field(default_factory=dict)
    days: tuple[str, ...] = ("a", "b")


YEARS = (Year(key="2024", total=figure(1)), Year(key="2025", total=figure(2)))
WHOLE = Whole(name="x", newest=figure(7), years=YEARS, bases={"cash": figure(9)})


def found(node: object, path: str = "w") -> dict[str, Figure]:
    named: dict[str, Figure] = {}
    collect(node, path, named)
    return named


def test_every_figure_is_named_by_where_it_stands() -> None:
    assert {k: f.value for k, f in found(WHOLE).items()} == {
        "w.newest": 7,
        "w.years.2024.total": 1,
        "w.years.2024.doubled": 2,
        "w.years.2025.total": 2,
        "w.years.2025.doubled": 4,
        "w.bases.cash": 9,
    }


def test_two_figures_under_one_name_are_an_error_and_not_one_of_them() -> None:
    twice = Whole(name="x", newest=figure(7), years=(YEARS[0], YEARS[0]))
    with pytest.raises(HearthError, match=r"called w\.years\.2024\.total"):
        found(twice)


def test_a_member_is_a_field_or_what_is_built_once() -> None:
    assert members_of(YEARS[0]) == ("key", "total", "doubled")


def test_a_path_leads_back_to_its_figure() -> None:
    for path, figure_there in found(WHOLE).items():
        node: object = WHOLE
        for step in path.split(".")[1:]:
            node = member_at(node, step)
        assert node is figure_there or node == figure_there


@pytest.mark.parametrize("step", ["nothing", "__class__", "quiet", "days.0"])
def test_what_is_no_member_leads_nowhere(step: str) -> None:
    assert member_at(YEARS[0], step) is None
    assert member_at(YEARS, step) is None
    assert member_at({"cash": 1}, step) is None
    assert member_at(7, step) is None
