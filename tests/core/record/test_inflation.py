from datetime import date

import pytest

from hearth_yield.core.record.history import build_record
from hearth_yield.core.record.inflation import PriceIndex, build_inflation

from ..build import price_index, steady


def test_real_growth_of_a_raiser_at_five_percent_under_two_percent_inflation() -> None:
    file = steady().cut(date(2026, 6, 30))
    found = build_inflation(file, build_record(file))
    assert found.real_growth[10].value == pytest.approx(1.05 / 1.02 - 1)
    assert found.years_ahead.value == 10


def test_keeping_pace_from_two_years_at_once() -> None:
    file = steady().cut(date(2026, 6, 30))
    found = build_inflation(file, build_record(file), base_years=(2002, 2019))
    assert [p.base_year for p in found.paces] == [2002, 2019]
    first = found.paces[0]
    assert first.needed.value == pytest.approx(
        0.4 * 1.02 ** (2026 + 4 / 12 - 2002 - 5.5 / 12), rel=1e-4
    )
    assert (first.ahead.value or 0) > 0


def test_without_an_index_real_terms_are_unknown_with_the_reason() -> None:
    file = steady(price_index=None).cut(date(2026, 6, 30))
    found = build_inflation(file, build_record(file))
    assert found.real_growth[10].value is None
    assert "no price index" in (found.real_growth[10].reason or "")


def test_an_unpublished_month_is_not_used() -> None:
    index = price_index(2020, date(2026, 6, 1))
    for day, month in ((date(2026, 6, 19), "2026-04"), (date(2026, 6, 20), "2026-05")):
        assert PriceIndex(index.until(day)).now(day).period == f"month of {month}"


def test_a_year_needs_ten_months_and_says_when_it_has_fewer_than_twelve() -> None:
    index = price_index(2020, date(2026, 6, 1))
    assert not PriceIndex(index.until(date(2025, 10, 30))).of_year(2025).known
    early = PriceIndex(index.until(date(2026, 1, 5))).of_year(2025)
    assert early.notes == ("mean of 11 months known",)
