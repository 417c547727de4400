"""Payers side by side: each figure is the review's own, and amounts are in one currency."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hearth_yield.core.comparing.comparison import Asked, Point, compare, no_rate
from hearth_yield.core.figures.figure import Figure, Unit, given
from hearth_yield.core.review import Review
from tests.core.build import payer, plain_years, review, steady

OURS = review(steady(payer=payer(symbol="OUR")))
PLAIN = steady()
FOREIGN = review(
    steady(
        payer=payer(symbol="FRN", currency="THK", exchange="RKM"),
        dividends=tuple(replace(d, currency="THK") for d in PLAIN.dividends),
        statements=tuple(replace(s, currency="THK") for s in PLAIN.statements),
    )
)
FRESH = review(steady(payer=payer(symbol="NEW"), dividends=(), statements=plain_years(2024, 2025)))


def asked(*ids: str) -> list[Asked]:
    return [Asked(id=i, better="high", weight=1.0) for i in ids]


def refused(other: str, currency: str) -> Figure:
    raise AssertionError(f"no rate of {other} in {currency} was needed")


def half(other: str, currency: str) -> Figure:
    assert (other, currency) == ("THK", "TLL")
    return given("TLL for one THK", Unit.INDEX, 0.5, "the newest rate")


def test_a_figure_that_is_compared_is_the_one_its_review_shows() -> None:
    found = compare([OURS, FRESH], asked("yield", "payout", "declared_rate"), refused)
    for line in found.lines:
        for figure, one in zip(line.figures, found.reviews, strict=True):
            assert figure == one.figure(line.measure.id)
    assert found.currency == "TLL"
    assert found.converted == ()


def test_amounts_are_in_the_currency_of_the_first_and_say_so() -> None:
    found = compare([OURS, FOREIGN], asked("declared_rate"), half)
    (line,) = found.lines
    ours, theirs = line.figures
    assert ours is not None
    assert theirs is not None
    assert ours.value is not None
    assert theirs.value == pytest.approx(ours.value / 2)
    assert (theirs.currency, "in TLL" in theirs.label) == ("TLL", True)
    own = line.own[1]
    assert own is not None
    assert own.value == pytest.approx(ours.value)
    assert found.converted == ("THK",)


def test_ratios_need_no_rate_and_nothing_is_said_to_be_converted() -> None:
    found = compare([OURS, FOREIGN], asked("yield", "payout"), refused)
    assert found.converted == ()
    assert [f.value for f in found.lines[0].figures if f] == [
        pytest.approx(OURS.figure("yield").value),  # type: ignore[union-attr]
        pytest.approx(FOREIGN.figure("yield").value),  # type: ignore[union-attr]
    ]


def test_without_a_rate_an_amount_is_unknown_with_the_reason() -> None:
    def none(other: str, currency: str) -> Figure:
        return no_rate(other, currency, "no rate is held")

    found = compare([OURS, FOREIGN], asked("declared_rate"), none)
    figure = found.lines[0].figures[1]
    assert figure is not None
    assert figure.value is None
    assert figure.reason == "TLL for one THK unknown: no rate is held"


def test_an_amount_that_is_unknown_is_not_converted() -> None:
    silent = review(steady(payer=payer(symbol="SIL", currency="THK"), dividends=(), statements=()))
    found = compare([OURS, silent], asked("declared_rate"), refused)
    figure = found.lines[0].figures[1]
    assert figure is None or figure.value is None


def axis_of(id: str, *reviews: Review) -> tuple[tuple[Point, ...], ...]:
    found = compare(list(reviews), asked("yield"), half)
    (axis,) = [a for a in found.axes if a.id == id]
    assert len(axis.rows) == len(reviews)
    return axis.rows


@pytest.mark.parametrize("id", ["yield", "growth", "payout", "worth", "return"])
def test_a_row_of_an_axis_has_one_main_mark_at_most(id: str) -> None:
    for row in axis_of(id, OURS, FOREIGN, FRESH):
        assert sum(point.main for point in row) <= 1


def test_the_price_is_told_against_each_model_that_counts_and_against_all() -> None:
    (row,) = axis_of("worth", OURS)
    price = OURS.price.value
    assert price is not None
    for model, point in zip(OURS.worth.on, row, strict=False):
        assert model.middle.value is not None
        assert point.figure.value == pytest.approx(price / model.middle.value - 1)
    assert row[-1].main
    assert row[-1].figure == OURS.worth.price_against_combined


def test_yields_lie_between_their_lowest_and_their_highest() -> None:
    (row,) = axis_of("yield", OURS)
    lowest, mean, highest, now = (p.figure.value or 0.0 for p in row)
    assert 0 < lowest <= mean <= highest
    assert lowest <= now <= highest


def test_returns_of_more_than_a_year_are_a_year() -> None:
    """Close 40 throughout, a dividend that grows 5 % a year: five years bring their mean yield."""
    (row,) = axis_of("return", OURS)
    by = {p.name: p for p in row}
    assert set(by) <= {"1 year", "5 years", "10 years", "all"}
    assert by["5 years"].main
    five, ten = by["5 years"].figure.value, by["10 years"].figure.value
    assert five is not None
    assert ten is not None
    assert 0.02 < ten < five < 0.05
