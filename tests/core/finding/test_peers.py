"""A payer's place among its sector: mid-ranks, the unknown, and breaches."""

from array import array

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.finding.measured import Cells, Measured
from hearth_yield.core.finding.peer_multiples import peer_multiples
from hearth_yield.core.finding.peers import peers_of, place_among
from hearth_yield.core.finding.search import Candidate, Universe
from hearth_yield.core.kinds import Kind
from hearth_yield.core.stages import MEASURES


def test_a_mid_rank_counts_ties_half() -> None:
    """(2 + ½) of 4, where less is better: docs/method.md."""
    assert place_among(2.0, np.array([1.0, 2.0, 3.0, 4.0]), "low") == 0.625
    assert place_among(2.0, np.array([1.0, 2.0, 3.0, 4.0]), "high") == 0.375
    assert place_among(float("nan"), np.array([1.0]), "low") is None
    assert place_among(1.0, np.array([]), "low") is None


values = st.lists(st.floats(-10, 10), min_size=1, max_size=20)


@given(mine=st.floats(-10, 10), others=values)
def test_less_and_more_are_mirrors(mine: float, others: list[float]) -> None:
    held = np.array(others)
    less, more = place_among(mine, held, "low"), place_among(mine, held, "high")
    assert less is not None
    assert more is not None
    assert less + more == pytest.approx(1.0)


def entry(symbol: str, sector: str | None, **cells: float | None) -> Candidate:
    places = {id: n for n, id in enumerate(MEASURES)}
    numbers = array("d", [float("nan")] * len(places))
    why: dict[str, tuple[str | None, str | None, str | None]] = dict.fromkeys(
        places, ("not told", None, None)
    )
    for id, value in cells.items():
        if value is None:
            why[id] = ("cash burn", "cash burn", None)
        else:
            numbers[places[id]] = value
    measured = Measured(
        cells=Cells(places, numbers, why, {}, {}),
        words={"sector": sector},
        word_touches={},
        first=None,
        dividends=(),
        last_year=None,
    )
    return Candidate(exchange="ELV", symbol=symbol, name=f"Payer {symbol}", measured=measured)


UNIVERSE = Universe(
    candidates=(
        entry("A", "Ropes", payout=0.5),
        entry("B", "Ropes", payout=0.7),
        entry("C", "Ropes", payout=0.4),
        entry("D", "Ropes", payout=None),
        entry("E", "Boats", payout=0.1),
        entry("F", None, payout=0.2),
    )
)


def test_only_the_sector_counts_and_a_breach_is_named() -> None:
    found = peers_of(UNIVERSE, "ELV", "A")
    (strip,) = found.strips
    assert (found.sector, strip.id, strip.peers, strip.ahead) == ("Ropes", "payout", 2, 0.5)
    assert [d.symbol for d in strip.dots] == ["C", "A", "B"]
    assert [d.symbol for d in strip.dots if d.mine] == ["A"]
    assert (strip.median, list(strip.beyond)) == (0.5, ["Payer D"])


def test_a_payer_whose_own_is_unknown_has_no_place() -> None:
    (strip,) = peers_of(UNIVERSE, "ELV", "D").strips
    assert (strip.ahead, strip.peers) == (None, 3)


def test_who_has_no_interest_to_pay_ranks_best_and_a_breach_has_no_place() -> None:
    free = entry("N", "Ropes")
    assert free.measured is not None
    free.measured.cells._why["interest_cover"] = ("no interest", None, "no interest to pay")
    broke = entry("L", "Ropes", interest_cover=None)
    universe = Universe(
        candidates=(
            entry("A", "Ropes", interest_cover=4.0),
            entry("B", "Ropes", interest_cover=9.0),
            free,
            broke,
        )
    )
    found = {who: peers_of(universe, "ELV", who).strips for who in "ABNL"}
    ahead = {who: strips[0].ahead for who, strips in found.items()}
    assert ahead == {"A": 0.0, "B": 0.5, "N": 1.0, "L": None}
    assert found["A"][0].peers == 2
    assert set(found["A"][0].beyond) == {"Payer L", "Payer N"}


def test_without_a_sector_or_with_too_few_there_is_nothing_to_show() -> None:
    assert peers_of(UNIVERSE, "ELV", "F").sector is None
    assert peers_of(UNIVERSE, "ELV", "E").strips == []
    assert peers_of(UNIVERSE, "ELV", "nobody").sector is None


def test_a_place_is_told_only_of_what_has_a_better_end() -> None:
    told = [m for m in MEASURES.values() if m.peers]
    assert all(m.better != "neither" for m in told)
    places = [m.peers.place for m in told if m.peers]
    assert len(set(places)) == len(places) == 14


def priced(symbol: str, multiple: float | None, kind: str = "company") -> Candidate:
    found = entry(symbol, "Ropes", earnings_multiple=multiple)
    assert found.measured is not None
    found.measured.words["kind"] = kind  # type: ignore[index]
    return found


def test_the_median_of_those_left_in_and_the_dropped_by_name() -> None:
    here = Universe(
        candidates=(
            priced("ME", 11.0),
            priced("A", 10.0),
            priced("B", 14.0),
            priced("C", 18.0),
            priced("D", 30.0),
            priced("E", None),
            priced("T", 99.0, "property_trust"),
        )
    )
    found = peer_multiples(here, "ELV", "ME", Kind.COMPANY, [])
    earned = found.multiples[0]
    assert (found.sector, earned.quantity.id, earned.count) == ("Ropes", "earnings", 4)
    assert (earned.median, earned.mean) == (16.0, 18.0)
    assert earned.dropped == ["Payer E"]
    assert "T" not in {p.symbol for p in found.peers}
    fewer = peer_multiples(here, "ELV", "ME", Kind.COMPANY, ["ELV/D"])
    assert fewer.multiples[0].median == 14.0
    few = peer_multiples(here, "ELV", "ME", Kind.COMPANY, ["ELV/D", "ELV/C"])
    assert (few.multiples[0].count, few.multiples[0].median) == (2, None)
    assert [p.kept for p in few.peers if p.symbol in ("C", "D")] == [False, False]


def test_without_a_sector_there_are_no_peers() -> None:
    found = peer_multiples(UNIVERSE, "ELV", "F", Kind.COMPANY, [])
    assert (found.sector, found.peers, found.multiples) == (None, (), ())
