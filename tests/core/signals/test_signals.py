"""What is told of a payer, when, and once."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import pytest

from hearth_yield.core.expecting.expectation import Expectation, Side, Way
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, Estimate, Guidance, NoticeKind, PriceHistory
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import State
from hearth_yield.core.range.entry_steps import EntryStep
from hearth_yield.core.signals.announced import (
    CUT,
    DECLARED,
    ESTIMATE_CUT,
    EX_SOON,
    GUIDANCE_CHANGED,
    RAISED,
    SUSPENDED,
)
from hearth_yield.core.signals.changed import (
    DATA_OLD,
    EXPECTATION,
    FINDING_CHANGED,
    LOOK_DUE,
    TEST_CHANGED,
    turned,
)
from hearth_yield.core.signals.make import KINDS, signals_of
from hearth_yield.core.signals.prices import BUY_REACHED, MEAN_CROSSED, STEP_REACHED, TRIM_REACHED
from hearth_yield.core.signals.signal import Followed, Signal, SignalKind, Value, Wait
from tests.declared import throw_away_signal  # noqa: F401 - a fixture

from ..build import notice, payer, split, steady

RULES = HouseRules()
MADE = date(2026, 6, 1)
UNTIL = date(2026, 6, 30)
JULY = date(2026, 7, 31)


def closes(*pairs: tuple[str, float]) -> PriceHistory:
    return PriceHistory.of([(date.fromisoformat(d), c) for d, c in pairs])


def told(file: PayerFile, followed: Followed, until: date = UNTIL) -> list[Signal]:
    return signals_of(file, RULES, MADE - timedelta(days=1), until, followed)


def days(found: list[Signal], kind: SignalKind) -> list[str]:
    return [s.day.isoformat() for s in found if s.kind is kind]


def test_a_price_is_reached_once_until_it_was_left_by_more_than_a_fiftieth() -> None:
    """40 waited for: 41, 39.9 (reached), 40.5 (1.25 % off: not left), 39, 41 (left), 40 (anew)."""
    prices = closes(
        ("2026-06-01", 41.0),
        ("2026-06-02", 39.9),
        ("2026-06-03", 40.5),
        ("2026-06-04", 39.0),
        ("2026-06-05", 41.0),
        ("2026-06-08", 40.0),
    )
    found = told(steady(prices=prices), Followed(waits=[Wait(made=MADE, until=None, buy_below=40)]))
    assert days(found, BUY_REACHED) == ["2026-06-02", "2026-06-08"]
    first = next(s for s in found if s.kind is BUY_REACHED)
    assert [p.value for p in first.said if isinstance(p, Value)] == [39.9, 40.0]
    assert first.stage is Stage.RANGE


def test_a_price_above_which_one_trims_is_reached_from_below() -> None:
    prices = closes(("2026-06-01", 49.0), ("2026-06-02", 50.0), ("2026-06-03", 51.0))
    wait = Wait(made=MADE, until=None, trim_above=50)
    found = told(steady(prices=prices), Followed(waits=[wait]))
    assert days(found, TRIM_REACHED) == ["2026-06-02"]


def test_a_target_is_in_the_shares_of_the_day_it_was_set() -> None:
    """40 of before a split 2 for 1 is 20 of after: 20.5 is not there, 19.9 is."""
    prices = closes(("2026-06-02", 41.0), ("2026-06-11", 20.5), ("2026-06-12", 19.9))
    file = steady(prices=prices, splits=(split(date(2026, 6, 10), 2.0),))
    found = told(file, Followed(waits=[Wait(made=MADE, until=None, buy_below=40)]))
    (reached,) = [s for s in found if s.kind is BUY_REACHED]
    assert reached.day == date(2026, 6, 12)
    assert [p.value for p in reached.said if isinstance(p, Value)] == [19.9, 20.0]


def test_a_decision_that_gave_way_is_not_waited_on() -> None:
    prices = closes(("2026-06-02", 41.0), ("2026-06-12", 39.0))
    old = Wait(made=MADE, until=date(2026, 6, 10), buy_below=40)
    new = Wait(made=date(2026, 6, 10), until=None, buy_below=30)
    found = told(steady(prices=prices), Followed(waits=[old, new]))
    assert days(found, BUY_REACHED) == []


def test_an_entry_step_on_the_yield_is_reached_when_the_yield_is() -> None:
    """Twice the yield of 41 is at half the price."""
    prices = closes(("2026-06-01", 41.0), ("2026-06-02", 30.0), ("2026-06-03", 20.0))
    rate = 4 * steady().dividends[-1].amount
    step = EntryStep(quantity="yield", target=rate / 20.5, amount=Decimal(1), kept_on=MADE)
    found = told(steady(prices=prices), Followed(steps=[step]))
    assert days(found, STEP_REACHED) == ["2026-06-03"]


def paying(*more: Dividend) -> PayerFile:
    return steady(dividends=(*steady().dividends, *more))


def next_dividend(times: float, **more: object) -> Dividend:
    base = {
        "ex_date": date(2026, 8, 4),
        "amount": steady().dividends[-1].amount * times,
        "currency": "TLL",
        "declared_on": date(2026, 7, 6),
    }
    return Dividend(**(base | more))  # type: ignore[arg-type]


@pytest.mark.parametrize(("times", "kind"), [(1.0, DECLARED), (1.1, RAISED), (0.5, CUT)])
def test_a_dividend_is_told_on_the_day_it_is_declared(times: float, kind: SignalKind) -> None:
    followed = Followed(waits=[Wait(made=MADE, until=None)])
    found = told(paying(next_dividend(times)), followed, JULY)
    mine = {DECLARED, RAISED, CUT}
    assert [(s.kind, s.day) for s in found if s.kind in mine] == [(kind, date(2026, 7, 6))]
    assert days(found, EX_SOON) == ["2026-07-28"]


def in_words(said: tuple[object, ...]) -> str:
    return "".join(
        f"{x.value:.4f}"
        if isinstance(x, Value)
        else x.isoformat()
        if isinstance(x, date)
        else str(x)
        for x in said
    )


def paid_each(amounts: list[tuple[date, float]]) -> PayerFile:
    return steady(
        dividends=tuple(
            Dividend(ex_date=d, amount=a, currency="TLL", declared_on=d) for d, a in amounts
        )
    )


def test_two_amounts_of_a_change_are_told_apart() -> None:
    """0.1380 after 0.1411 are not both 0.14."""
    quarters = [date(y, m, 10) for y in range(2023, 2027) for m in (1, 4, 7, 10)]
    amounts = [(d, 0.1411) for d in quarters if d <= date(2026, 4, 30)]
    file = paid_each([*amounts, (date(2026, 7, 10), 0.1380)])
    followed = Followed(waits=[Wait(made=MADE, until=None)])
    (cut,) = [s for s in told(file, followed, JULY) if s.kind is CUT]
    assert in_words(cut.said) == (
        "declared 0.138 TLL a share, ex 2026-07-10, down 0.0220 from 0.141 TLL"
    )


def test_a_raise_at_a_new_rhythm_is_told_for_a_year() -> None:
    """4 × 0.57, then 1.23 half a year later: up 7.9 % a year, not 116 %."""
    slow = paid_each(
        [
            *((date(y, m, 10), 0.57) for y in range(2022, 2026) for m in (1, 4, 7, 10)),
            (date(2026, 1, 10), 0.57),
            (date(2026, 7, 10), 1.23),
        ]
    )
    followed = Followed(waits=[Wait(made=MADE, until=None)])
    (raised,) = [s for s in told(slow, followed, JULY) if s.kind is RAISED]
    assert in_words(raised.said).endswith("up 0.0789 a year from 2.2800 a year")


def test_a_cut_is_told_of_payers_that_are_not_followed_and_a_raise_is_not() -> None:
    assert days(told(paying(next_dividend(0.5)), Followed(), JULY), CUT) == ["2026-07-06"]
    assert told(paying(next_dividend(1.1)), Followed(), JULY) == []
    every = HouseRules(signals={"raised": "all", "cut": "nobody"})
    since = MADE - timedelta(days=1)
    assert [s.kind for s in signals_of(paying(next_dividend(1.1)), every, since, JULY)] == [RAISED]
    assert signals_of(paying(next_dividend(0.5)), every, since, JULY) == []


def test_one_declared_late_is_told_that_it_goes_ex_when_it_is_declared() -> None:
    late = next_dividend(1.0, declared_on=date(2026, 7, 30))
    found = told(paying(late), Followed(waits=[Wait(made=MADE, until=None)]), JULY)
    assert days(found, EX_SOON) == ["2026-07-30"]


def test_a_stop_is_told_on_its_day() -> None:
    file = steady(notices=(notice(date(2026, 6, 9), NoticeKind.SUSPENDED),))
    assert days(told(file, Followed()), SUSPENDED) == ["2026-06-09"]


def estimate(day: str, mean: float) -> Estimate:
    return Estimate(
        fiscal_year=2026, measure="eps", published_on=date.fromisoformat(day), mean=mean
    )


def test_an_estimate_is_cut_by_more_than_a_twentieth() -> None:
    """4 % down is not told, 5.2 % of what is left is."""
    row = (estimate("2026-05-01", 2.0), estimate("2026-06-03", 1.92), estimate("2026-06-20", 1.82))
    found = told(steady(estimates=row), Followed(waits=[Wait(made=MADE, until=None)]))
    (cut,) = [s for s in found if s.kind is ESTIMATE_CUT]
    assert cut.day == date(2026, 6, 20)
    assert next(p.value for p in cut.said if isinstance(p, Value)) == pytest.approx(0.052083, 1e-4)


def test_guidance_is_told_when_it_says_something_else() -> None:
    def said(day: str, low: float, high: float) -> Guidance:
        return Guidance(
            fiscal_year=2026,
            measure="eps",
            published_on=date.fromisoformat(day),
            low=low,
            high=high,
        )

    row = (said("2026-02-01", 1.0, 1.2), said("2026-06-03", 1.0, 1.2), said("2026-06-20", 0.9, 1.0))
    found = told(steady(guidance=row), Followed(waits=[Wait(made=MADE, until=None)]))
    (changed,) = [s for s in found if s.kind is GUIDANCE_CHANGED]
    assert (changed.day, changed.said[0], changed.said[1]) == (
        date(2026, 6, 20),
        "guidance on earnings per share for fiscal 2026 ",
        "lowered to between ",
    )
    twice = split(date(2026, 3, 1), 2)
    halved = (
        said("2026-02-01", 1.0, 1.2),
        said("2026-06-03", 0.5, 0.6),
        said("2026-06-20", 0.7, 0.7),
    )
    found = told(
        steady(guidance=halved, splits=(twice,)), Followed(waits=[Wait(made=MADE, until=None)])
    )
    (changed,) = [s for s in found if s.kind is GUIDANCE_CHANGED]
    assert [str(p) for p in changed.said if isinstance(p, str)][1:] == ["raised to "]


def test_a_look_is_due_on_its_day() -> None:
    wait = Wait(made=MADE, until=None, next_look=date(2026, 6, 15))
    assert days(told(steady(), Followed(waits=[wait])), LOOK_DUE) == ["2026-06-15"]


def test_an_expectation_goes_off_track_when_facts_say_so_and_is_judged_on_its_day() -> None:
    """The declared rate at least what it was; halved by the payment of 6 July."""
    rate = 4 * steady().dividends[-1].amount
    expected = Expectation(
        measure="declared_rate",
        way=Way.LEVEL,
        side=Side.AT_LEAST,
        value=rate,
        until=date(2026, 7, 28),
        then=rate,
    )
    wait = Wait(made=MADE, until=None, expectations=[expected])
    found = told(paying(next_dividend(0.5)), Followed(waits=[wait]), JULY)
    mine = [s for s in found if s.kind is EXPECTATION]
    assert days(found, EXPECTATION) == ["2026-07-06", "2026-07-28"]
    assert ": is off track" in mine[0].said
    assert ": did not come true" in mine[1].said


def test_closes_that_stop_are_told_a_month_later() -> None:
    """The newest of 20 May is too old from 20 June on: 31 days."""
    file = steady(prices=closes(("2026-05-19", 40.0), ("2026-05-20", 40.0)))
    found = told(file, Followed(waits=[Wait(made=MADE, until=None)]))
    assert days(found, DATA_OLD) == ["2026-06-20"]


def test_a_yield_far_below_its_mean_is_told_on_the_monday_after_its_week() -> None:
    """Weekly closes at 40, the last at 60: a quarter under the mean."""
    base = steady()
    held = [
        (d.astype(date), float(c))
        for d, c in zip(base.prices.days, base.prices.closes, strict=True)
    ]
    held = [p for p in held if p[0] < date(2026, 6, 12)]
    file = steady(prices=PriceHistory.of([*held, (date(2026, 6, 12), 60.0)]))
    found = told(file, Followed(waits=[Wait(made=MADE, until=None)]))
    assert days(found, MEAN_CROSSED)[-1] == "2026-06-15"


@pytest.mark.parametrize(
    ("then", "now", "words"),
    [
        (State.WITHIN, State.OUTSIDE, "outside its limit now"),
        (State.CLOSE, State.OUTSIDE, "outside its limit now"),
        (State.WITHIN, State.CLOSE, "close to its limit now"),
        (State.CLOSE, State.WITHIN, "no longer close to its limit"),
        (State.OUTSIDE, State.WITHIN, "within its limit again"),
        (State.OUTSIDE, State.CLOSE, "within its limit again, but close"),
        (State.OUTSIDE, State.UNKNOWN, "cannot be told any more"),
        (State.UNKNOWN, State.OUTSIDE, "known now, outside its limit"),
        (State.UNKNOWN, State.WITHIN, "known now, within its limit"),
    ],
)
def test_what_became_of_a_test_hangs_on_what_it_was(then: State, now: State, words: str) -> None:
    assert turned(then, now, "its limit", "its limit") == words


@pytest.mark.usefixtures("throw_away_signal")
def test_a_kind_that_is_declared_is_made_and_asked_for_as_the_others() -> None:
    kind = KINDS["share_split"]
    halved = steady(splits=(split(date(2026, 6, 12), 2.0),))
    (one,) = [s for s in told(halved, Followed()) if s.kind is kind]
    assert one.day == date(2026, 6, 12)
    nobody = HouseRules(signals={kind.id: "nobody"})
    assert signals_of(halved, nobody, MADE, UNTIL) == []


def test_a_payer_that_was_delisted_tells_it_once() -> None:
    """Its figures end with it; that none can be told any more is no news of each."""
    asked = HouseRules(signals=dict.fromkeys(KINDS, "all"))
    gone = steady(payer=replace(payer(), delisted_on=date(2026, 6, 10)))
    found = signals_of(gone, asked, MADE - timedelta(days=1), JULY, Followed())
    assert not {TEST_CHANGED, FINDING_CHANGED} & {s.kind for s in found}
