"""Searches over a universe of measures made by hand: conditions, order, groups."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figures.ties import same
from hearth_yield.core.finding.catalogue import CHOICES
from hearth_yield.core.finding.measured import Cell, Measured
from hearth_yield.core.finding.search import (
    Candidate,
    Condition,
    Group,
    Universe,
    conditions,
    groups,
    matches,
    ordered,
    summarise,
    with_words,
)
from hearth_yield.core.stages import MEASURES

UNKNOWN = Cell(value=None, reason="not held")
BURN = Cell(value=None, reason="crossed", breach="cash burn")


def entry(
    name: str, words: dict[str, str] | None = None, **cells: float | Cell | None
) -> Candidate:
    given = {k: v if isinstance(v, Cell) else Cell(value=v) for k, v in cells.items()}
    measured = Measured(
        word_touches={},
        cells={m: given.get(m, UNKNOWN) for m in MEASURES},
        words=dict.fromkeys(CHOICES) | (words or {}),
        first=None,
        dividends=(),
        last_year=None,
    )
    return Candidate(exchange="X", symbol=name[:3].upper(), name=name, measured=measured)


UNIVERSE = Universe(
    candidates=[
        entry("Alder", {"kind": "company", "state": "within"}, **{"yield": 0.03, "raises": 12.0}),
        entry("Birch", {"kind": "property_trust", "state": "close"}, **{"yield": 0.05}),
        entry("Cedar", {"kind": "company", "state": "outside"}, payout=BURN, **{"yield": 0.07}),
        entry("Dwarf pine", {"kind": "company", "state": "close"}, payout=0.4, raises=3.0),
        Candidate(exchange="X", symbol="ELM", name="Elm", measured=None),
    ]
)


def names(part: Condition | Group) -> list[str]:
    return [UNIVERSE.candidates[i].name[0] for i in np.flatnonzero(matches(UNIVERSE, part))]


def least(id: str, value: float) -> Condition:
    return Condition(id=id, op="at_least", value=value)


def most(id: str, value: float) -> Condition:
    return Condition(id=id, op="at_most", value=value)


def test_a_limit_includes_itself_and_unknown_meets_neither_side() -> None:
    assert names(least("yield", 0.05)) == ["B", "C"]
    assert names(most("yield", 0.05)) == ["A", "B"]


def test_a_breach_is_beyond_every_payout() -> None:
    assert names(least("payout", 5.0)) == ["C"]
    assert names(most("payout", 5.0)) == ["D"]
    assert names(Condition(id="payout", op="known")) == ["C", "D"]


def test_unknown_can_be_asked_for() -> None:
    assert names(Condition(id="raises", op="unknown")) == ["B", "C", "E"]
    assert names(Condition(id="kind", op="unknown")) == ["E"]


def test_words_are_any_of_those_named() -> None:
    assert names(Condition(id="state", op="is", words=("close", "within"))) == ["A", "B", "D"]
    assert names(Condition(id="state", op="is_not", words=("close",))) == ["A", "C"]


def test_groups_nest() -> None:
    inner = Group(join="any", parts=(least("raises", 10), least("yield", 0.06)))
    company = Condition(id="kind", op="is", words=("company",))
    assert names(Group(join="all", parts=(company, inner))) == ["A", "C"]
    assert names(Group(join="any", parts=())) == ["A", "B", "C", "D", "E"]
    assert [c.id for c in conditions(Group(join="all", parts=(company, inner)))] == [
        "kind",
        "raises",
        "yield",
    ]


def test_words_typed_are_sought_in_names_and_kinds() -> None:
    def found(typed: str) -> list[int]:
        return np.flatnonzero(with_words(UNIVERSE, typed)).tolist()

    assert found("property BIR") == [1]
    assert found("  ") == [0, 1, 2, 3, 4]


@pytest.mark.parametrize(
    "condition",
    [
        Condition(id="colour", op="is", words=("red",)),
        Condition(id="yield", op="is", words=("high",)),
        Condition(id="yield", op="at_least"),
        Condition(id="kind", op="at_least", value=1.0),
    ],
)
def test_what_does_not_fit_is_refused(condition: Condition) -> None:
    with pytest.raises(InvalidInput) as caught:
        names(condition)
    assert caught.value.field == "where"
    assert caught.value.rule


def test_order_leaves_the_unknown_last_whichever_way() -> None:
    everyone = np.ones(5, dtype=bool)
    assert ordered(UNIVERSE, everyone, "yield", False).tolist() == [0, 1, 2, 3, 4]
    assert ordered(UNIVERSE, everyone, "yield", True).tolist() == [2, 1, 0, 3, 4]
    assert ordered(UNIVERSE, everyone, "state", False).tolist() == [2, 1, 3, 0, 4]
    assert ordered(UNIVERSE, everyone, "name", True).tolist() == [4, 3, 2, 1, 0]
    with pytest.raises(InvalidInput):
        ordered(UNIVERSE, everyone, "colour", False)


def test_quartiles_are_those_of_a_spreadsheet() -> None:
    # QUARTILE.INC of 3, 5, 7, 8, 12 is 5, 7 and 8; of 3, 5, 7, 8 it is 4.5, 6 and 7.25.
    five = summarise(np.array([12, 3, 7, 5, 8, np.nan, np.inf]))
    assert (five.n, five.lower, five.median, five.upper) == (5, 5.0, 7.0, 8.0)
    four = summarise(np.array([3.0, 5.0, 7.0, 8.0]))
    assert (four.lower, four.median, four.upper) == (4.5, 6.0, 7.25)
    assert summarise(np.array([np.nan])).median is None


def test_groups_hold_every_payer_once_the_wordless_last() -> None:
    found = groups(UNIVERSE, np.ones(5, dtype=bool), "kind", ["yield"])
    assert [(g.word, g.payers) for g in found] == [("company", 3), ("property_trust", 1), (None, 1)]
    assert found[0].summaries["yield"].median == pytest.approx(0.05)
    assert found[2].summaries["yield"].n == 0


numbers = st.one_of(st.none(), st.floats(-10, 10))


@given(st.lists(numbers, max_size=12), st.floats(-10, 10))
def test_every_payer_is_above_below_at_or_unknown(values: list[float | None], at: float) -> None:
    here = Universe(candidates=[entry(f"p{i}", premium=v) for i, v in enumerate(values)])
    above, below = matches(here, least("premium", at)), matches(here, most("premium", at))
    unknown = matches(here, Condition(id="premium", op="unknown"))
    assert (above | below | unknown).all()
    assert not (unknown & (above | below)).any()
    both = np.array([v is not None and same(v, at) for v in values], dtype=bool)
    assert ((above & below) == both).all()


@given(st.lists(numbers, max_size=12), st.booleans())
def test_an_order_keeps_every_payer(values: list[float | None], descending: bool) -> None:
    here = Universe(candidates=[entry(f"p{i}", premium=v) for i, v in enumerate(values)])
    order = ordered(here, np.ones(len(values), dtype=bool), "premium", descending).tolist()
    assert sorted(order) == list(range(len(values)))
    known = [v for i in order if (v := values[i]) is not None]
    assert known == sorted(known, reverse=descending)
    assert all(values[i] is None for i in order[len(known) :])
