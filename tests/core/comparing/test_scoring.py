"""Points, places, firmness and what would change the winner. (docs/method.md, Compare)"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.comparing.scoring import Line, firmness, score
from hearth_yield.core.comparing.sets import compare_sets
from hearth_yield.core.figures.figure import Figure, Unit, unknown
from hearth_yield.core.figures.measure import Better
from hearth_yield.core.stages import MEASURES

Values = list[float | None]


def line(values: Values, better: Better = "high", weight: float = 1.0, id: str = "yield") -> Line:
    figures = tuple(
        unknown("x", Unit.YIELD, "not known")
        if v is None
        else Figure(label="x", unit=Unit.YIELD, value=v)
        for v in values
    )
    return Line(measure=MEASURES[id], better=better, weight=weight, figures=figures)


def test_the_best_takes_the_weight_and_ties_share_it() -> None:
    found = score([line([1.0, 2.0, 2.0], weight=3), line([5.0, 4.0, 6.0], "low")], 3)
    assert found.totals == pytest.approx((0.0, 2.5, 1.5))
    assert found.ranks == (3, 1, 2)


def test_a_missing_value_never_wins_and_one_payer_alone_does() -> None:
    lines = [line([None, None, 0.1]), line([None, None, None])]
    found = score(lines, 3)
    assert found.totals == (0.0, 0.0, 1.0)
    assert lines[1].best == ()
    assert found.firmness == (0.0, 0.0, 1.0)


def test_a_breach_never_wins_and_what_is_spared_does() -> None:
    """A payout of a loss lies beyond every payout; no interest to pay is better than any cover."""
    loss = unknown("p", Unit.FRACTION, "loss").but(breach="loss")
    payout = Line(
        measure=MEASURES["payout"],
        better="low",
        weight=1,
        figures=(loss, Figure(label="p", unit=Unit.FRACTION, value=0.9)),
    )
    assert payout.best == (1,)
    none = unknown("c", Unit.MULTIPLE, "no interest").but(spared="no interest to pay")
    cover = Line(
        measure=MEASURES["interest_cover"],
        better="high",
        weight=1,
        figures=(none, Figure(label="c", unit=Unit.MULTIPLE, value=20.0)),
    )
    assert cover.best == (0,)


def test_nobody_is_best_at_what_has_no_better_end_until_it_is_given_a_weight() -> None:
    shown, weighed = (line([30.0, 20.0], weight=w, id="price") for w in (0.0, 2.0))
    assert (shown.best, weighed.best) == ((), (0,))
    assert score([line([1.0, 2.0]), shown], 2) == score([line([1.0, 2.0])], 2)


def test_places_with_ties_leave_a_gap() -> None:
    found = score([line([2.0, 2.0, 1.0]), line([1.0, 1.0, 0.0])], 3)
    assert found.ranks == (1, 1, 3)


def test_firmness_of_two_measures_is_a_half_and_of_three_a_quarter() -> None:
    """Two measures, one each: whoever has the larger weight. Of three, the one with a single
    measure needs more than half of all weight: with weights drawn evenly that is (1/2)² = 1/4."""
    two = firmness(np.array([[1.0, 0.0], [0.0, 1.0]]))
    assert two is not None
    assert two[0] == pytest.approx(0.5, abs=0.02)
    three = firmness(np.array([[1.0, 0.0], [0.0, 1.0], [0.0, 1.0]]))
    assert three is not None
    assert three[0] == pytest.approx(0.25, abs=0.02)


def test_the_weight_that_changes_the_winner() -> None:
    """A leads with 2 to 1; the measure B wins must weigh 2 for a draw."""
    lines = [line([2.0, 1.0]), line([2.0, 1.0]), line([1.0, 2.0])]
    found = score(lines, 2)
    by_line = {s.line: s.weight for s in found.switches}
    assert by_line == pytest.approx({0: 0.0, 1: 0.0, 2: 2.0})
    assert all(s.leaders == (1,) for s in found.switches)


def test_without_a_single_leader_there_is_nothing_to_change() -> None:
    assert score([line([1.0, 1.0])], 2).switches == ()
    assert score([line([None, None])], 2).firmness is None


values = st.lists(
    st.lists(st.one_of(st.none(), st.integers(-3, 3).map(float)), min_size=3, max_size=3),
    min_size=1,
    max_size=6,
)


@given(values, st.lists(st.floats(0, 9), min_size=6, max_size=6), st.floats(0.01, 50))
def test_the_ranking_does_not_depend_on_the_scale_of_the_weights(
    rows: list[Values], weights: list[float], factor: float
) -> None:
    plain = [line(r, weight=w) for r, w in zip(rows, weights, strict=False)]
    scaled = [line(r, weight=w * factor) for r, w in zip(rows, weights, strict=False)]
    one, other = score(plain, 3), score(scaled, 3)
    gaps = {abs(a - b) for a in one.totals for b in one.totals}
    if all(g == 0 or g > 1e-6 for g in gaps):
        assert one.ranks == other.ranks
    assert one.firmness == other.firmness


@given(values)
def test_firmness_sums_to_one_and_is_the_same_every_time(rows: list[Values]) -> None:
    found = score([line(r) for r in rows], 3).firmness
    if found is not None:
        assert sum(found) == pytest.approx(1)
        assert found == score([line(r) for r in rows], 3).firmness


@given(values)
def test_at_the_weight_that_changes_it_the_others_are_level(rows: list[Values]) -> None:
    lines = [line(r) for r in rows]
    found = score(lines, 3)
    for switch in found.switches:
        moved = [line(r) for r in rows]
        moved[switch.line] = line(rows[switch.line], weight=switch.weight)
        totals = score(moved, 3).totals
        (leader,) = found.leaders
        for other in switch.leaders:
            assert totals[other] == pytest.approx(totals[leader])


def test_every_set_names_measures_and_every_measure_has_a_better_end() -> None:
    for held in compare_sets():
        assert set(held.measures) <= set(MEASURES)
    assert MEASURES["payout_worst"].better == "low"
    assert MEASURES["growth_5"].better == "high"
    assert MEASURES["debt_to_ebitda"].better == "low"
    assert MEASURES["earnings_multiple"].better == "low"
    assert MEASURES["price"].better == "neither"
