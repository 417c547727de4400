"""What the dividend is taken to grow by where nobody says: the worked figures of docs/method.md,
and what must hold of any history."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.facts.statements import Statement
from hearth_yield.core.figures.inputs import Input
from hearth_yield.core.question import Question
from tests.core.build import TODAY, notice, paid, payer, review, weekly_prices, year_statement


def yearly(first: int, *amounts: float, then: float | None = None) -> tuple[Dividend, ...]:
    """Four equal payments a year, the amounts being of whole years; then: of the running one."""
    held = [
        paid(date(first + n, m, 10), amount / 4)
        for n, amount in enumerate(amounts)
        for m in (2, 5, 8, 11)
    ]
    running = amounts[-1] if then is None else then
    year = first + len(amounts)
    return (*held, *(paid(date(year, m, 10), running / 4) for m in (2, 5)))


def earning(*a_share: float) -> tuple[Statement, ...]:
    """Fiscal years up to 2025 with so much cash and earnings a share, on ten shares."""
    first = 2026 - len(a_share)
    return tuple(
        year_statement(
            first + n,
            operating_cash_flow=10 * x,
            capital_expenditure=0.0,
            net_income=10 * x,
            diluted_shares=10.0,
            dividends_paid=1.0,
        )
        for n, x in enumerate(a_share)
    )


def of(
    dividends: Sequence[Dividend],
    statements: Sequence[Statement] = earning(*[100.0] * 10),
    **more: object,
) -> PayerFile:
    return PayerFile(
        payer=payer(),
        dividends=tuple(dividends),
        statements=tuple(statements),
        prices=weekly_prices(date(2012, 1, 6), date(2026, 6, 26)),
        **more,  # type: ignore[arg-type]
    )


def growth(file: PayerFile, day: date = TODAY) -> Input:
    return review(file, day).worth.inputs["growth"]


def value(file: PayerFile, day: date = TODAY) -> float | None:
    return growth(file, day).figure.value


def test_a_catch_up_after_a_cut_is_no_pace() -> None:
    """Halved to 0.50; 0.65 three years later is 9.14 % a year of three, 2.66 % of ten."""
    found = growth(of(yearly(2012, *[1.00] * 10, 0.50, 0.55, 0.60, 0.65)))
    assert found.figure.value == pytest.approx((0.65 / 0.50) ** 0.1 - 1)
    assert found.figure.value == pytest.approx(0.0266, abs=5e-5)
    assert "since the reduction of 2022" in found.origin


def test_years_before_the_cut_count_as_years_without_growth() -> None:
    """1.0216 → 1.1841 nine years after the cut: 1.49 % of ten years."""
    step = (1.1841 / 1.0216) ** (1 / 9)
    after = [1.0216 * step**n for n in range(10)]
    assert value(of(yearly(2011, *[1.50] * 5, *after))) == pytest.approx(0.0149, abs=5e-5)


def test_without_a_cut_it_is_the_lower_of_five_and_ten_years() -> None:
    slow, fast = [1.02**n for n in range(11)], [1.02**10 * 1.08**n for n in range(1, 6)]
    assert value(of(yearly(2010, *slow, *fast))) == pytest.approx((1.02**5 * 1.08**5) ** 0.1 - 1)
    slowing = [1.08**n for n in range(6)] + [1.08**5 * 1.01**n for n in range(1, 6)]
    assert value(of(yearly(2015, *slowing))) == pytest.approx(0.01)


def test_a_record_of_seven_years_is_spread_over_ten() -> None:
    found = value(of(yearly(2019, *[1.05**n for n in range(7)])))
    assert found == pytest.approx((1.05**6) ** 0.1 - 1)


def test_who_cuts_year_after_year_is_taken_to_go_on() -> None:
    """1.00 → 0.80 over ten years of cuts: −2.21 %, though no year since the last is whole."""
    fall = 0.8**0.1
    found = growth(of(yearly(2015, *[fall**n for n in range(11)], then=fall**11)))
    assert found.figure.value == pytest.approx(-0.0221, abs=5e-5)
    assert "with cuts in 2016" in found.origin


def test_three_cuts_make_a_habit_and_two_do_not() -> None:
    twice = [2.0, 2.0, 1.8, 1.8, 1.6, 1.6, 1.6, 1.6, 1.6, 1.6, 1.6]
    assert value(of(yearly(2015, *twice))) == 0.0
    thrice = [*twice[:8], 1.4, 1.4, 1.4]
    assert value(of(yearly(2015, *thrice))) == pytest.approx((1.4 / 2.0) ** 0.1 - 1)


def test_a_stop_counts_as_a_cut() -> None:
    twice = [2.0, 2.0, 1.8, 1.8, 1.6, 1.6, 1.6, 1.6, 1.6, 1.6, 1.6]
    stopped = of(yearly(2015, *twice), notices=(notice(date(2022, 12, 1)),))
    assert value(stopped) == pytest.approx((1.6 / 2.0) ** 0.1 - 1)


def test_a_habit_of_cuts_is_held_to_five_percent_a_year() -> None:
    fall = 0.9
    found = value(of(yearly(2015, *[fall**n for n in range(11)], then=fall**11)))
    assert found == -0.05


RISING = [1.03**n for n in range(12)]
RATE = RISING[-1]


def falling(share: float, trend: float) -> tuple[Statement, ...]:
    """Cash a share that falls by this trend a year, of which the rate is this share at the end."""
    last = RATE / share
    return earning(*[last / (1 + trend) ** (9 - n) for n in range(10)])


def test_too_high_a_payout_draws_growth_to_the_trend_of_its_cash() -> None:
    """3 %, trend −4 %, payout 66.67 % of 60 %: a third of the way, 0.67 %."""
    file = of(yearly(2014, *RISING), falling(2 / 3, -0.04))
    trend = review(file).cover.leading.per_share_trend.value
    assert trend == pytest.approx(-0.04, rel=0.03)
    assert value(file) == pytest.approx(0.03 + (trend - 0.03) / 3, rel=1e-6)
    assert value(file) == pytest.approx(0.0067, abs=5e-4)


@pytest.mark.parametrize(
    ("share", "trend", "want"),
    [(0.60, -0.04, 0.03), (0.50, -0.04, 0.03), (0.80, +0.02, 0.03), (0.90, -0.20, -0.05)],
)
def test_only_a_falling_trend_under_too_high_a_payout_binds(
    share: float, trend: float, want: float
) -> None:
    assert value(of(yearly(2014, *RISING), falling(share, trend))) == pytest.approx(want)


def test_a_payout_without_size_takes_it_all_of_the_way() -> None:
    statements = earning(*[30 - 3.0 * n for n in range(9)], -1.0)
    found = growth(of(yearly(2014, *RISING), statements))
    assert found.figure.value == -0.05
    assert "trend of cash" in found.origin


def test_each_step_is_said_with_its_figure() -> None:
    found = growth(of(yearly(2014, *RISING), falling(2 / 3, -0.04)))
    notes = " ".join(found.figure.notes)
    assert "33 % of the way" in notes
    assert "66.7 % against your 60 %" in notes
    assert found.figure.inputs[0].label == "growth"


def young(full: int) -> PayerFile:
    """So many full years of dividends, after one that had begun."""
    begun = [paid(date(2025 - full, m, 10), 0.25) for m in (8, 11)]
    whole = yearly(2026 - full, *[1.04**n for n in range(full)], then=1.04**full)
    return of((*begun, *whole), earning(*[2.0] * 10))


@pytest.mark.parametrize("full", [1, 2])
def test_too_few_years_give_no_growth_and_say_what_to_do(full: int) -> None:
    found = review(young(full))
    held = found.worth.inputs["growth"]
    assert held.figure.value is None
    assert f"{full} full year" in (held.figure.reason or "")
    for model in found.worth.models:
        if model.answers == "dividends":
            assert not model.suits
            assert "type one" in (model.why_off or "")


def test_a_young_payers_own_span_stands_beside_it() -> None:
    (offer,) = growth(young(2)).offers
    assert offer.origin == "its 1 year"
    assert offer.figure.value == pytest.approx(0.04)
    assert growth(young(3)).offers == ()
    assert value(young(3)) == pytest.approx((1.04**2) ** 0.1 - 1)


def test_growth_that_is_typed_brings_the_models_back() -> None:
    asked = review(young(2), question=Question(inputs={"growth": 0.03}))
    assert asked.worth.inputs["growth"].figure.value == 0.03
    assert any(m.on for m in asked.worth.models)


steps = st.lists(st.floats(-0.15, 0.15), min_size=4, max_size=14)


@settings(max_examples=40, deadline=None)
@given(changes=steps, share=st.floats(0.2, 1.5), trend=st.floats(-0.15, 0.15))
def test_no_step_raises_what_the_one_before_found(
    changes: list[float], share: float, trend: float
) -> None:
    """Never above the growth of its full years since the last cut, and none of −5 % unless its own
    history is worse."""
    amounts = [1.0]
    for change in changes:
        amounts.append(amounts[-1] * (1 + change))
    last = amounts[-1] / share
    cash = earning(*[last / (1 + trend) ** (9 - n) for n in range(10)])
    file = of(yearly(2026 - len(amounts), *amounts), cash)
    found, plain = value(file), value(of(file.dividends))
    assert found is not None
    assert plain is not None
    assert found <= plain + 1e-12
    cut = max((n for n, c in enumerate(changes, 1) if c < -0.0005), default=0)
    since = amounts[cut:]
    assert plain <= max(0.0, since[-1] / since[0]) ** 0.1 - 1 + 1e-9 or len(since) < 2
    assert found >= min(-0.05, plain) - 1e-12


@settings(max_examples=25, deadline=None)
@given(share=st.floats(0.55, 0.85), step=st.sampled_from([1e-3, 1e-4, 1e-5]))
def test_growth_moves_no_faster_than_the_payout(share: float, step: float) -> None:
    """Eight points lie between the trend and 3 %, and 20 points of payout between none and all."""
    one, other = (
        value(of(yearly(2014, *RISING), falling(s, -0.05))) for s in (share, share + step)
    )
    assert one is not None
    assert other is not None
    assert abs(one - other) <= 0.09 / 0.20 * step + 1e-9
