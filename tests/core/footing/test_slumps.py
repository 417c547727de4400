"""Past slumps: falls from a peak, against the market."""

from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.records import PriceHistory, Series, SeriesPoint, Slump
from hearth_yield.core.footing.slumps import deepest_fall, slumps_felt
from tests.core.build import TODAY, steady, year_statement

BEGINS = date(2019, 1, 4)
WEEKS = [BEGINS + timedelta(days=7 * n) for n in range(8)]
SLUMP = Slump(name="the slump", begins=BEGINS, ends=WEEKS[-1])


def fall(values: list[float]) -> float | None:
    days = np.array(WEEKS[: len(values)], dtype="datetime64[D]")
    return deepest_fall("x", days, np.array(values), BEGINS, WEEKS[-1]).value


def test_the_deepest_fall_is_from_the_highest_before_it() -> None:
    assert fall([100, 120, 90, 96]) == pytest.approx(-0.25)
    assert fall([100, 110, 120, 130]) == 0.0
    assert fall([100, 50, 200, 150]) == pytest.approx(-0.5)
    assert fall([100, 90, 80]) is None, "fewer than four points"


@given(st.lists(st.floats(1, 1000), min_size=4, max_size=8), st.floats(0.01, 100))
def test_scaling_changes_no_fall(values: list[float], by: float) -> None:
    one, other = fall(values), fall([v * by for v in values])
    assert one is not None
    assert one == pytest.approx(other, abs=1e-9)
    assert -1 < one <= 0


def test_a_slump_is_felt_in_price_revenue_and_against_the_market() -> None:
    closes = [40.0, 42.0, 30.0, 33.6, 35.0, 36.0, 37.0, 38.0]
    market = [100.0, 90.0, 80.0, 85.0, 90.0, 91.0, 92.0, 93.0]
    revenue = {2017: 900.0, 2018: 1000.0, 2019: 850.0, 2020: 900.0, 2024: 400.0}
    index = Series(
        code="MKT",
        name="Market",
        currency="TLL",
        points=tuple(
            SeriesPoint(day=d, published_on=d, value=v) for d, v in zip(WEEKS, market, strict=True)
        ),
    )
    file = steady(
        prices=PriceHistory.of(list(zip(WEEKS, closes, strict=True))),
        statements=tuple(year_statement(y, revenue=v) for y, v in revenue.items()),
        market_index=index,
        slumps=(SLUMP,),
    )
    (felt,) = slumps_felt(file.cut(TODAY))
    assert felt.price.value == pytest.approx(30 / 42 - 1)
    assert felt.market.value == pytest.approx(-0.2)
    assert felt.against_market.value == pytest.approx(30 / 42 - 1 + 0.2)
    assert felt.revenue.value == pytest.approx(-0.15), "2024 is long after it"


def test_a_slump_to_come_is_not_known_and_a_running_one_has_no_end() -> None:
    later = replace(SLUMP, begins=TODAY + timedelta(days=1), ends=None)
    assert slumps_felt(steady(slumps=(later,)).cut(TODAY)) == ()
    running = Slump(name="the slump", begins=TODAY - timedelta(days=90), ends=date(2027, 1, 1))
    (felt,) = slumps_felt(steady(slumps=(running,)).cut(TODAY))
    assert felt.slump.ends is None


def test_without_a_market_index_its_fall_is_unknown() -> None:
    (felt,) = slumps_felt(steady(slumps=(SLUMP,)).cut(TODAY))
    assert "no market index" in (felt.market.reason or "")
    assert felt.against_market.value is None
