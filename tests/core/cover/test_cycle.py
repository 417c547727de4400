"""The payout through the cycle, and where the dividend would overtake what pays for it."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.cover.bases import Basis, CoverPeriod
from hearth_yield.core.cover.crossing import crossing, crossing_year
from hearth_yield.core.cover.cycle import counted_years, through_the_cycle
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years
from hearth_yield.core.figures.figure import Figure, Unit
from tests.core.build import TODAY, payer, plain_years

FCF = Basis.FREE_CASH_FLOW


def money(value: float | None, currency: str = "TLL", period: str = "") -> Figure:
    reason = None if value is not None else "not reported"
    return Figure(
        label="x", unit=Unit.MONEY, value=value, reason=reason, currency=currency, period=period
    )


def share(value: float) -> Figure:
    return Figure(label="a share", unit=Unit.PER_SHARE, value=value)


def years(
    has: list[float | None], pays: list[float], *, first: int = 2021, currency: str = "TLL"
) -> list[CoverPeriod]:
    """Fiscal years of ten shares each."""
    file = PayerFile(payer=payer(), statements=plain_years(first, first + len(has) - 1)).cut(TODAY)
    return [
        CoverPeriod(
            period=p,
            driver=money(h, currency, p.label),
            dividends=money(d, currency, p.label),
            payout=share(0.0),
            per_share=Figure(
                label="a share", unit=Unit.PER_SHARE, value=None if h is None else h / 10
            ),
        )
        for p, h, d in zip(fiscal_years(file), has, pays, strict=True)
    ]


def rate(value: float, currency: str = "TLL") -> Figure:
    return Figure(label="declared rate", unit=Unit.PER_SHARE, value=value, currency=currency)


def cycle(of: list[CoverPeriod], declared: Figure | None = None) -> Figure:
    return through_the_cycle(FCF, counted_years(of, None, False), declared)


def test_years_count_together_not_one_by_one() -> None:
    """50 + 50 + 50 of 100 + 25 + 75: 75 %, where the mean of the ratios would be 105.6 %."""
    assert cycle(years([100, 25, 75], [50, 50, 50])).value == pytest.approx(0.75)


def test_a_year_of_loss_counts_against_the_others() -> None:
    assert cycle(years([100, -40, 60], [20, 20, 20])).value == pytest.approx(0.5)


def test_losses_in_all_are_a_breach() -> None:
    figure = cycle(years([-100, -40, 60], [20, 20, 20]))
    assert (figure.value, figure.breach) == (None, "cash burn")


def test_a_cut_re_bases_the_past_and_a_raise_does_not() -> None:
    """Paid 80 a year; at 4.00 on ten shares 40 a year counts, at 9.00 the 80."""
    held = years([100, 100, 100], [80, 80, 80])
    assert cycle(held, rate(4.0)).value == pytest.approx(0.4)
    assert cycle(held, rate(9.0)).value == pytest.approx(0.8)
    assert cycle(held, rate(8.0)).value == pytest.approx(0.8)


def test_nothing_promised_is_no_payout_of_nil() -> None:
    figure = cycle(years([100, 100, 100], [80, 80, 80]), rate(0.0))
    assert figure.value is None
    assert figure.reason == "nothing is being paid"


def test_a_promise_in_another_currency_is_not_counted_as_if_it_were_the_same() -> None:
    figure = cycle(years([100, 100, 100], [80, 80, 80]), rate(4.0, "THK"))
    assert figure.value is None
    assert "THK" in (figure.reason or "")


def test_five_years_count_at_most_and_three_at_least() -> None:
    held = years([1000, 100, 100, 100, 100, 100], [10, 50, 50, 50, 50, 50], first=2020)
    assert cycle(held).value == pytest.approx(0.5)
    assert "only" not in " ".join(cycle(held).notes)
    short = cycle(held[-3:])
    assert short.value == pytest.approx(0.5)
    assert "only 3 years count" in short.notes
    assert "2 of at least 3" in (cycle(held[-2:]).reason or "")


def test_a_year_the_person_leaves_out_is_told_with_its_reason() -> None:
    held = years([100, 1, 100, 100], [50, 50, 50, 50])
    held[1] = replace(held[1], excluded="a fire")
    figure = cycle(held)
    assert figure.value == pytest.approx(0.5)
    assert "fiscal 2022 excluded: a fire" in figure.notes
    held[2] = replace(held[2], excluded="another")
    assert cycle(held).value is None


def test_years_from_before_the_first_dividend_do_not_count() -> None:
    """Nothing was paid before 2023; a year that paid counts though its statement says so late."""
    held = years([100, 100, 100, 100, 100], [0, 0, 50, 50, 50])
    counted = counted_years(held, date(2023, 3, 1), False)
    assert [y.end.year for y in counted.years] == [2023, 2024, 2025]
    early = counted_years(held[:4], date(2023, 3, 1), False)
    assert "2 of at least 3" in (early.missing or "")
    assert "since the dividend began" in (early.missing or "")


def test_years_from_before_a_resumption_do_not_count_though_they_paid() -> None:
    held = years([100, 100, 100, 100, 100], [90, 90, 50, 50, 50])
    resumed = counted_years(held, date(2023, 3, 1), True)
    assert [y.end.year for y in resumed.years] == [2023, 2024, 2025]
    never_stopped = counted_years(held, date(2023, 3, 1), False)
    assert len(never_stopped.years) == 5


def test_a_year_that_is_not_known_is_left_out() -> None:
    held = years([100, None, 100, 100], [50, 50, 50, 50])
    assert [y.end.year for y in counted_years(held, None, False).years] == [2021, 2023, 2024]


def test_lines_that_approach_meet_where_both_go_on_so() -> None:
    """Has 20, 19, 18, 17, 16 a share, pays 6, 7, 8, 9, 10: 6 apart, 2 a year closer: three years
    after fiscal 2025, which is fiscal 2028."""
    row = years([200, 190, 180, 170, 160], [60, 70, 80, 90, 100])
    figure = crossing(FCF, row)
    assert figure.value == pytest.approx(3.0, rel=1e-3)
    assert crossing_year(row, figure) == 2028


def test_one_odd_year_does_not_move_where_they_meet() -> None:
    row = years([200, 190, 20, 170, 160], [60, 70, 80, 90, 100])
    assert crossing(FCF, row).value == pytest.approx(3.0, rel=0.02)


@pytest.mark.parametrize(
    ("has", "pays", "breach", "words"),
    [
        ([100] * 5, [50] * 5, None, "do not meet within fifty years"),
        ([100, 110, 120, 130, 140], [50] * 5, None, "do not meet within fifty years"),
        ([100] * 5, [50, 50.05, 50.1, 50.15, 50.2], None, "do not meet within fifty years"),
        ([100] * 5, [100, 105, 110, 115, 120], "overtaken already", "above it already"),
        ([100, 90, 80, 70], [50] * 4, None, "fewer than 5 fiscal years"),
        ([100, None, 80, 70, 60], [50] * 5, None, "fewer than 5 fiscal years"),
    ],
)
def test_lines_that_do_not_meet_say_why(
    has: list[float | None], pays: list[float], breach: str | None, words: str
) -> None:
    row = years(has, pays)
    figure = crossing(FCF, row)
    assert (figure.value, figure.breach) == (None, breach)
    assert words in (figure.reason or "")
    assert crossing_year(row, figure) is None
