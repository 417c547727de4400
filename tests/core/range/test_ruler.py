from datetime import date

import numpy as np
import pytest

from hearth_yield.core.errors import MethodError
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import PriceHistory
from hearth_yield.core.range.aim import aim_at
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.range.ruler import price_at, ruler_of
from hearth_yield.core.range.sample import longest_run_above
from hearth_yield.core.range.weekly import weekly_values
from hearth_yield.core.record.history import build_record

from ..build import dividends, payer, steady, weekly_prices
from ..test_worked_cases import CASES, near

DAY = date(2026, 6, 30)


def flat_at(mean: float, rate: float, price: float) -> PayerFile:
    """Six years at one yield, then a newest close at `price`."""
    history = weekly_prices(date(2020, 7, 3), date(2026, 6, 19), close=rate / mean)
    rows = list(zip(history.days.astype(date), history.closes, strict=True))
    paid = dividends([rate / 4] * 30, 4, date(2026, 6, 10))
    prices = PriceHistory.of([*rows, (date(2026, 6, 26), price)], source=3)
    return PayerFile(payer=payer(), dividends=paid, prices=prices).cut(DAY)


def test_the_worked_range() -> None:
    case = CASES["range"]
    file = flat_at(case["mean"], case["rate"], case["price"])
    span = ruler_of(file, build_record(file), "5")
    assert span.count.value == 260
    assert span.mean.value == near(case["mean"])
    assert span.now.value == near(case["yield"])
    assert span.deviation.value == pytest.approx(case["deviation"], abs=1e-4)
    assert span.fair_price.value == near(40.0)
    assert span.premium.value == near(case["premium"])


def test_todays_week_is_not_in_the_sample() -> None:
    file = flat_at(0.035, 1.4, 1.0)
    span = ruler_of(file, build_record(file), "5")
    assert span.highest.value == near(0.035)
    assert span.percentile.value == 1.0
    assert span.share_higher.value == 0.0


def test_under_a_year_of_weeks_is_unknown() -> None:
    file = steady(prices=weekly_prices(date(2025, 9, 1), date(2026, 6, 26))).cut(DAY)
    span = ruler_of(file, build_record(file), "5")
    assert span.mean.value is None
    assert "52 are needed" in (span.mean.reason or "")
    assert span.deviation.value is None
    assert span.percentile.value is None


def test_a_price_is_divided_into_the_rate_known_that_day() -> None:
    file = steady().cut(DAY)
    weekly = weekly_values(file, YIELD)
    at = int(np.searchsorted(weekly.days, np.datetime64("2025-01-17")))
    assert weekly.values[at] == pytest.approx(0.4 * 1.05**22 / 40)
    assert weekly.values[at + 1] == pytest.approx(0.4 * 1.05**23 / 40)


def test_the_aim_says_price_weeks_and_closes() -> None:
    file = flat_at(0.035, 1.4, 46.0)
    record = build_record(file)
    aim = aim_at(file, ruler_of(file, record, "5"), 0.035)
    assert aim.target_price.value == near(40.0)
    assert aim.against_price.value == pytest.approx(40 / 46 - 1)
    assert aim.weeks_offered.value == 260
    assert aim.last_offered == date(2026, 6, 19)
    assert aim.closes_52.value == 51
    higher = aim_at(file, ruler_of(file, record, "5"), 0.04)
    assert higher.weeks_offered.value == 0
    assert higher.last_offered is None


def test_no_prices_and_no_dividends_still_answer() -> None:
    bare = PayerFile(payer=payer()).cut(DAY)
    span = ruler_of(bare, build_record(bare), "all")
    assert span.now.value is None
    assert span.fair_price.value is None
    assert span.quarters == ()


def test_longest_run() -> None:
    assert longest_run_above(np.array([1.0, 3, 3, 1, 3, 3, 3, 1]), 2.0) == (3, 6)
    assert longest_run_above(np.array([1.0, 1.0]), 2.0) == (0, -1)


def test_refused_arguments_name_their_rule() -> None:
    with pytest.raises(MethodError, match="above 0"):
        price_at(YIELD, 1.0, 0.0)
    file = steady().cut(DAY)
    with pytest.raises(MethodError, match="no such window"):
        ruler_of(file, build_record(file), "7")
