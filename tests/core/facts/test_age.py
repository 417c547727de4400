"""How old facts are, and what is missing between them."""

from datetime import date

import pytest

from hearth_yield.core.facts.age import Age, age_of, missing_periods

DAY = date(2026, 6, 30)


@pytest.mark.parametrize(
    ("kind", "newest", "age"),
    [
        ("prices", date(2026, 6, 23), Age.FRESH),
        ("prices", date(2026, 6, 22), Age.AGEING),
        ("prices", date(2026, 5, 30), Age.OLD),
        ("years", date(2025, 12, 31), Age.FRESH),
        ("years", date(2024, 12, 31), Age.AGEING),
        ("quarters", date(2025, 12, 31), Age.AGEING),
        ("halves", date(2025, 12, 31), Age.FRESH),
        ("prices", None, Age.NONE),
    ],
)
def test_each_kind_ages_in_its_own_time(kind: str, newest: date | None, age: Age) -> None:
    assert age_of(kind, newest, DAY) is age


def test_nothing_is_expected_of_a_payer_that_is_gone() -> None:
    assert age_of("prices", date(2022, 9, 14), DAY, date(2022, 9, 16)) is Age.FRESH


def test_missing_quarters_are_named() -> None:
    held = [date(2024, 12, 31), date(2024, 3, 31), date(2025, 6, 30)]
    assert missing_periods(held, 3) == [date(2024, 6, 30), date(2024, 9, 30), date(2025, 3, 31)]
    assert missing_periods([date(2020, 2, 29), date(2023, 2, 28)], 12) == [
        date(2021, 2, 28),
        date(2022, 2, 28),
    ]
    assert missing_periods([], 3) == []
    assert missing_periods([date(2024, 3, 31)], 3) == []
