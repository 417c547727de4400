"""The fall at which a test gives, and how a year's revenue falls on its months."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.figures.figure import Figure, Unit, Unknown
from hearth_yield.core.figures.figure import given as put
from hearth_yield.core.strain.gives import fall_for
from hearth_yield.core.strain.season import month_shares, no_month, share_of_year
from tests.core.build import TODAY, payer, year_statement

part = st.floats(0.01, 1.0)


@given(bears=part, margin=st.floats(0.0, 0.2), flow=part, weight=part)
def test_the_fall_it_gives_at_costs_what_it_can_bear(
    bears: float, margin: float, flow: float, weight: float
) -> None:
    """A fall takes flow-through of what falls; the margin is lost on what is left."""
    assume(flow > margin + 1e-6)
    fall = fall_for(bears, margin, flow, weight)
    if isinstance(fall, Unknown):
        lost = weight * flow + (1 - weight) * margin
        assert lost < bears
    elif fall > 0:
        assert fall * weight * flow + (1 - fall * weight) * margin == pytest.approx(bears)
    else:
        assert margin >= bears


def test_a_margin_that_is_lost_already_gives_at_once() -> None:
    assert fall_for(0.04, 0.05, 0.6, 1.0) == 0.0
    assert fall_for(0.04, 0.0, 0.6, 1.0) == pytest.approx(0.04 / 0.6)
    assert isinstance(fall_for(0.04, 0.0, 0.03, 1.0), Unknown)
    assert isinstance(fall_for(0.04, 0.0, 0.6, 0.0), Unknown)


def statement(end: date, span: Span, revenue: float) -> Statement:
    return replace(year_statement(end.year, revenue=revenue), period_end=end, span=span)


def seasons(
    *by_year: tuple[float, ...], month: int = 12, day: int = 28, span: Span = Span.QUARTER
) -> PayerFile:
    """Fiscal years that end in this month, the last in 2025, each of so many parts."""
    held = []
    for back, parts in enumerate(reversed(by_year)):
        year = 2025 - back
        held.append(statement(date(year, month, day), Span.YEAR, sum(parts)))
        for n, revenue in enumerate(reversed(parts)):
            months = month - n * span.months
            end = date(year, months, day) if months > 0 else date(year - 1, months + 12, day)
            held.append(statement(end, span, revenue))
    return PayerFile(payer=payer(fiscal_year_end_month=month), statements=tuple(held)).cut(TODAY)


def shares(file: PayerFile) -> list[float]:
    found = month_shares(file)
    assert not isinstance(found, Unknown), found
    return [round(f.value or 0.0, 6) for f in found]


def of_year(file: PayerFile, months: int, first: int) -> Figure:
    return share_of_year(
        file,
        put("months", Unit.COUNT, months, "typed"),
        put("first month", Unit.COUNT, first, "typed"),
    )


def test_months_of_one_quarter_count_alike() -> None:
    assert shares(seasons((400.0, 200.0, 300.0, 100.0))) == [
        *[round(0.4 / 3, 6)] * 3,
        *[round(0.2 / 3, 6)] * 3,
        *[round(0.3 / 3, 6)] * 3,
        *[round(0.1 / 3, 6)] * 3,
    ]


def test_years_count_alike_however_much_each_brought() -> None:
    """40 % and 20 % in the first quarter: 30 %, though the second year is ten times the first."""
    file = seasons((400.0, 200.0, 200.0, 200.0), (2000.0, 2666.0, 2667.0, 2667.0))
    assert shares(file)[0] == pytest.approx(0.3 / 3, rel=1e-4)


def test_a_fiscal_year_that_ends_in_june_keeps_its_months() -> None:
    """Its first quarter is July to September."""
    found = shares(seasons((500.0, 100.0, 200.0, 200.0), month=6, day=28))
    assert found[6:9] == [round(0.5 / 3, 6)] * 3
    assert found[9:12] == [round(0.1 / 3, 6)] * 3
    assert found[3:6] == [round(0.2 / 3, 6)] * 3


def test_halves_serve_where_quarters_are_not_reported() -> None:
    found = shares(seasons((700.0, 300.0), span=Span.HALF, day=30))
    assert found == [round(0.7 / 6, 6)] * 6 + [round(0.3 / 6, 6)] * 6


def test_a_year_without_all_of_its_parts_does_not_count() -> None:
    whole = seasons((400.0, 200.0, 300.0, 100.0))
    short = replace(whole, statements=whole.statements[:-1])
    found = month_shares(short)
    assert isinstance(found, Unknown)
    assert "all its quarters" in found.reason
    assert of_year(short, 3, 1).value is None
    assert of_year(short, 3, 0).value == pytest.approx(0.25), "no month named: evenly"


@given(
    st.lists(st.floats(1.0, 900.0), min_size=4, max_size=4).map(tuple),
    st.integers(1, 12),
    st.integers(1, 11),
)
def test_parts_of_a_year_make_the_whole_of_it(
    quarters: tuple[float, ...], first: int, months: int
) -> None:
    file = seasons(quarters)
    rest = (first - 1 + months) % 12 + 1
    one, other = of_year(file, months, first), of_year(file, 12 - months, rest)
    assert one.value is not None
    assert other.value is not None
    assert one.value + other.value == pytest.approx(1.0)
    assert of_year(file, 12, first).value == pytest.approx(1.0)


def test_no_month_is_said_to_be_even() -> None:
    assert no_month().value == 0
    assert "evenly" in no_month().notes[0]
