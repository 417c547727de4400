"""What the price did: by hand, against other people's solvers, and over the demo's own index."""

import math
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given as over
from hypothesis import strategies as st
from scipy.optimize import brentq

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import PriceHistory, Series, SeriesPoint
from hearth_yield.core.figures.solve import root, yearly_return
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.range.multiples import PRICE_TO_EARNINGS
from hearth_yield.core.range.performance import Grown
from hearth_yield.core.range.price import Priced, average_line
from hearth_yield.core.range.quantity import YIELD

from ..build import TODAY, paid, payer, plain_years, review, steady

CLOSES = [
    (date(2020, 12, 31), 40.0),
    (date(2021, 6, 30), 50.0),
    (date(2022, 6, 30), 45.0),
    (date(2023, 12, 29), 60.0),
    (date(2026, 6, 26), 66.0),
]


def index(code: str, points: list[tuple[date, float]]) -> Series:
    held = tuple(SeriesPoint(day=d, published_on=d, value=v) for d, v in points)
    return Series(code=code, name=code, currency="TLL", points=held)


def file() -> PayerFile:
    return PayerFile(
        payer=payer(),
        dividends=(paid(date(2021, 6, 30), 2.0), paid(date(2022, 6, 30), 1.8)),
        statements=plain_years(2015, 2025),
        prices=PriceHistory.of(CLOSES, source=3),
        market_index=index("M", [(date(2020, 12, 31), 100.0), (date(2023, 12, 29), 120.0)]),
        market_total=index("MT", [(date(2020, 12, 31), 100.0), (date(2023, 12, 29), 135.0)]),
    ).cut(TODAY)


def grown(first: date, last: date, held: PayerFile | None = None) -> Grown:
    return Priced(file=held or file(), quantity=YIELD).over("span", first, last)


def test_a_span_by_hand() -> None:
    """40 → 60; 2.00 put back at 50 and 1.80 at 45: 1.5 × 1.04 × 1.04 = 1.6224."""
    found = grown(date(2020, 12, 31), date(2023, 12, 31))
    assert (found.begins, found.ends) == (date(2020, 12, 31), date(2023, 12, 29))
    assert found.price.value == pytest.approx(0.5)
    assert found.received.value == pytest.approx(3.8)
    assert found.total.value == pytest.approx(0.6224)
    years = 1093 / 365.25
    assert found.total_a_year.value == pytest.approx(1.6224 ** (1 / years) - 1)
    assert found.market_price.value == pytest.approx(0.2)
    assert found.market_total.value == pytest.approx(0.35)
    assert found.against_market.value == pytest.approx(0.2724)
    assert found.worth_put_back.value == pytest.approx(16_224)
    assert found.worth_now.value == pytest.approx(15_000)
    assert found.received_of_it.value == pytest.approx(950)
    assert found.market_worth.value == pytest.approx(13_500)


def test_a_return_a_year_is_what_another_solver_finds() -> None:
    found = grown(date(2020, 12, 31), date(2023, 12, 31)).yearly.value
    flows = [(181, 2.0), (546, 1.8), (1093, 60.0)]
    expected = brentq(lambda r: sum(x / (1 + r) ** (d / 365.25) for d, x in flows) - 40, -0.5, 1.0)
    assert found == pytest.approx(expected, abs=1e-10)


@over(st.floats(-0.4, 0.9), st.integers(1, 30), st.floats(0.0, 8.0))
def test_a_known_rate_is_found_again(rate: float, years: int, paid_out: float) -> None:
    got = [(float(t), paid_out) for t in range(1, years + 1)] + [(float(years), 50.0)]
    price = sum(x / (1 + rate) ** t for t, x in got)
    assert yearly_return(price, got) == pytest.approx(rate, abs=1e-8)


def test_where_nothing_crosses_there_is_no_root() -> None:
    assert root(lambda x: x * x + 1, -1, 1) is None
    assert root(lambda x: x - 0.25, 0.25, 1) == 0.25
    assert root(math.cos, 0, 3) == pytest.approx(math.pi / 2, abs=1e-12)


@over(st.floats(0.5, 3.0), st.floats(0.5, 3.0), st.floats(0.0, 3.0))
def test_the_parts_of_a_return_sum_to_it(grew: float, rose: float, dividend: float) -> None:
    statements = tuple(
        replace(
            s, lines={**s.lines, "net_income": 100.0 if s.period_end.year < 2021 else 100 * grew}
        )
        for s in plain_years(2015, 2025)
    )
    closes = [(date(2020, 12, 31), 40.0), (date(2023, 12, 29), 40.0 * rose)]
    held = PayerFile(
        payer=payer(),
        dividends=(paid(date(2021, 6, 30), dividend),) if dividend > 0.001 else (),
        statements=statements,
        prices=PriceHistory.of(closes, source=3),
    ).cut(TODAY)
    span = Priced(file=held, quantity=PRICE_TO_EARNINGS).over("span", *(d for d, _ in closes))
    parts = (span.from_growth.value, span.from_re_rating.value, span.from_income.value)
    assert span.yearly.value == pytest.approx(sum(p or 0.0 for p in parts))
    n = 1093 / 365.25
    grown_by = math.log(grew) / n
    scale = (span.from_growth.value or 0.0) / grown_by if abs(grown_by) > 1e-6 else 1.0
    assert 0.4 < scale < 2.6


def test_without_dividends_the_return_is_growth_and_re_rating_alone() -> None:
    """Earnings double and the multiple stands: all of it is growth."""
    statements = tuple(
        replace(s, lines={**s.lines, "net_income": 100.0 if s.period_end.year < 2021 else 200.0})
        for s in plain_years(2015, 2025)
    )
    closes = [(date(2020, 12, 31), 40.0), (date(2023, 12, 29), 80.0)]
    held = PayerFile(
        payer=payer(), statements=statements, prices=PriceHistory.of(closes, source=3)
    ).cut(TODAY)
    span = Priced(file=held, quantity=PRICE_TO_EARNINGS).over("span", *(d for d, _ in closes))
    assert span.from_growth.value == pytest.approx(2 ** (365.25 / 1093) - 1)
    assert span.from_re_rating.value == pytest.approx(0, abs=1e-12)
    assert span.from_income.value == pytest.approx(0, abs=1e-9)


def test_a_span_before_the_first_price_says_when_prices_begin() -> None:
    found = grown(date(2010, 1, 1), date(2023, 12, 31))
    assert found.total.reason == "close unknown: prices begin on 2020-12-31"
    assert found.worth_now.value is None
    short = grown(date(2021, 6, 30), date(2021, 7, 5))
    assert short.price.reason == "close unknown: the span holds fewer than two closes"


def test_the_spans_of_a_day_and_the_peak() -> None:
    found = review(steady())
    price = found.stages["range"].result.price  # type: ignore[index]
    assert [s.id for s in price.spans] == ["this_year", "1", "5", "10", "all"]
    assert price.spans[1].price.value == pytest.approx(0.0)
    assert price.spans[1].total.value > 0.02
    assert price.from_peak.value == pytest.approx(0.0)
    assert price.averages["20"].reason == "closes are not held day by day"


def test_averages_are_of_closes_held_day_by_day() -> None:
    first = date(2025, 1, 1)
    days = np.array([first + timedelta(days=n) for n in range(60)], dtype="datetime64[D]")
    closes = np.arange(1.0, 61.0)
    line = average_line(days, closes, 20)
    assert line[:19] == [None] * 19
    assert line[19] == pytest.approx(10.5)
    assert line[59] == pytest.approx(50.5)
    weekly = days[0] + np.arange(60) * np.timedelta64(7, "D")
    assert set(average_line(weekly, closes, 20)) == {None}


def test_a_span_is_asked_and_written_back() -> None:
    asked = read_question({"span": "2019-02-04..2020-03-31"})
    assert asked.span == (date(2019, 2, 4), date(2020, 3, 31))
    assert read_question(write_question(asked)) == asked
    found = review(steady(), question=Question(span=asked.span)).span
    assert found is not None
    assert found.begins == date(2019, 2, 1)
