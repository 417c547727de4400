"""Income by month and payer, and in today's money, worked by hand."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.records import Series, SeriesPoint
from hearth_yield.core.household.income.paid import by_index, by_month, by_year, restated

A, B = ("ELV", "AAA"), ("ELV", "BBB")
CAME = [
    (A, date(2024, 12, 31), 10.0),
    (A, date(2025, 1, 1), 20.0),
    (B, date(2025, 1, 31), 5.5),
    (A, date(2025, 3, 15), 1.25),
    (B, date(2025, 3, 15), 30.0),
]
MONTHS = ["2025-01", "2025-02", "2025-03"]


def test_who_pays_most_stands_first_and_months_are_those_asked_for() -> None:
    rows = by_month(CAME, MONTHS)
    assert [(r.payer, r.months, r.total) for r in rows] == [
        (B, (5.5, 0.0, 30.0), 35.5),
        (A, (20.0, 0.0, 1.25), 21.25),
    ]


def test_years_from_the_first_to_the_last_though_one_brought_nothing() -> None:
    assert by_year(CAME) == {2024: 10.0, 2025: 56.75}
    assert by_year([(A, date(2022, 5, 1), 1.0), *CAME])[2023] == 0.0
    assert by_year([]) == {}


def index(*points: tuple[str, float]) -> Series:
    return Series(
        code="CPI",
        name="Sundrey price index",
        currency="TLL",
        points=tuple(
            SeriesPoint(day=date.fromisoformat(d), published_on=date.fromisoformat(d), value=v)
            for d, v in points
        ),
    )


def test_money_of_a_month_in_today_s_is_by_the_index() -> None:
    """At 125 now, 100 of a month at 100 is 125; of a month of the newest index it is as it is;
    of one before the index begins it is not known."""
    restate = by_index(index(("2024-01-31", 100.0), ("2025-01-31", 120.0), ("2026-05-31", 125.0)))
    assert restate(date(2024, 6, 1)) == pytest.approx(1.25)
    assert restate(date(2025, 1, 31)) == pytest.approx(125 / 120)
    assert restate(date(2026, 6, 30)) == 1.0
    assert restate(date(2023, 12, 31)) is None
    assert by_index(None)(date(2025, 1, 1)) is None
    early = [(A, date(2023, 1, 1), 7.0), (A, date(2024, 2, 1), 100.0)]
    assert restated(early, restate) == [(A, date(2024, 2, 1), pytest.approx(125.0))]


@given(
    st.lists(
        st.tuples(
            st.sampled_from([A, B]),
            st.dates(date(2020, 1, 1), date(2026, 12, 31)),
            st.floats(0, 1e6),
        )
    )
)
def test_months_sum_to_the_year(came: list[tuple[tuple[str, str], date, float]]) -> None:
    for year, total in by_year(came).items():
        months = [f"{year}-{n:02d}" for n in range(1, 13)]
        assert sum(r.total for r in by_month(came, months)) == pytest.approx(total, abs=1e-6)
