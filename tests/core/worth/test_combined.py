"""One vote for each question: what the three answers weigh, and what they come to together."""

from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given as over
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review, build_review
from hearth_yield.core.worth.combined import Answer
from hearth_yield.core.worth.words import in_words
from hearth_yield.core.worth.worth import Worth
from tests.core.build import payer, paying_out, review, steady, weekly_prices, yearly_raises


def worth(file: PayerFile | None = None, **question: object) -> Worth:
    asked = Question(**question)  # type: ignore[arg-type]
    return review(file or steady(), question=asked).worth


def answer(found: Worth, id: str) -> Answer:
    return next(a for a in found.answers if a.id == id)


def shares(found: Worth) -> dict[str, float]:
    return {a.id: a.share.value or 0.0 for a in found.answers}


@pytest.mark.parametrize(
    ("payout", "limit", "want"),
    [(0.391, 0.60, 0.4775), (0.70, 0.85, 0.7353), (0.66, 0.90, 0.60), (0.2, 0.6, 0), (0.7, 0.6, 1)],
)
def test_the_payout_decides_between_dividends_and_cash(
    payout: float, limit: float, want: float
) -> None:
    """(p − L/3) ÷ (2L/3), within 0 … 1; its own past always has half."""
    rules = HouseRules(limits={Kind.COMPANY: {"payout": Limit(value=limit, required=True)}})
    found = build_review(steady(statements=paying_out(payout)).cut(date(2026, 6, 30)), rules)
    parts = shares(found.worth)
    assert parts["dividends"] == pytest.approx(want / 2, abs=3e-5)
    assert parts["cash"] == pytest.approx((1 - want) / 2, abs=3e-5)
    assert parts["past"] == pytest.approx(0.5)


def test_the_combined_value_is_the_answers_by_their_weights() -> None:
    """Dividends 45.00, own past (62.60 + 55.00) ÷ 2 = 58.80, cash 52.00 at 0.4775 → 53.7288."""
    found = worth(weights={"dividends": 0.4775, "cash": 0.5225})
    values = {a.id: a.middle.value or 0.0 for a in found.answers}
    by_hand = (0.4775 * values["dividends"] + values["past"] + 0.5225 * values["cash"]) / 2
    assert found.combined.value == pytest.approx(by_hand)
    assert pytest.approx(53.7288, abs=1e-4) == (0.4775 * 45 + (62.60 + 55.00) / 2 + 0.5225 * 52) / 2
    past = [m.middle.value or 0.0 for m in found.on if m.answers == "past"]
    assert values["past"] == pytest.approx(sum(past) / 2)


def test_a_like_model_more_or_less_does_not_outvote_the_others() -> None:
    """Two stages and fading growth say nearly the same: with both or with one the dividends have
    the same part."""
    both = worth()
    one = worth(switched={"fading": False})
    assert shares(one) == pytest.approx(shares(both))
    apart = answer(both, "dividends").middle.value or 0.0
    alone = answer(one, "dividends").middle.value or 0.0
    moved = (one.combined.value or 0.0) - (both.combined.value or 0.0)
    assert moved == pytest.approx(shares(both)["dividends"] * (alone - apart))


def test_a_question_without_a_model_leaves_its_half_to_the_other() -> None:
    without_cash = worth(switched={"cash_to_equity": False})
    assert shares(without_cash) == pytest.approx({"dividends": 0.5, "past": 0.5})
    off = {"two_stage": False, "fading": False}
    assert shares(worth(switched=off)) == pytest.approx({"past": 0.5, "cash": 0.5})
    alone = worth(switched={**off, "cash_to_equity": False})
    assert shares(alone) == {"past": 1.0}
    assert alone.combined.value == answer(alone, "past").middle.value
    said = "".join(str(p) for s in in_words(alone, review(steady()).price) for p in s)
    assert "rests on its own past alone" in said


def test_a_financial_is_worth_its_dividends_and_its_own_past() -> None:
    found = worth(steady(payer=payer(Kind.FINANCIAL)))
    assert shares(found) == pytest.approx({"dividends": 0.5, "past": 0.5})
    assert {m.id for m in found.on if m.answers == "past"} == {"yield_reversion", "own_earnings"}


def test_a_loss_leaves_the_dividends_all_of_their_half() -> None:
    burning = tuple(
        replace(s, lines={**s.lines, "operating_cash_flow": 1.0}) if s.period_end.year > 2024 else s
        for s in steady().statements
    )
    found = review(steady(statements=burning))
    assert found.cover.leading.declared.breach
    held = answer(found.worth, "dividends")
    assert (held.weight.value, held.share.value) == (1.0, 0.5)


def test_without_a_known_payout_there_is_no_combined_value_and_the_answers_stand() -> None:
    found = worth(steady(statements=()))
    assert {a.id for a in found.answers} >= {"dividends", "past"}
    assert all(a.middle.known for a in found.answers)
    assert found.combined.value is None
    assert "payout" in (found.combined.reason or "")
    assert found.trials.simulated().reason == found.combined.reason  # type: ignore[union-attr]
    typed = worth(steady(statements=()), weights={"dividends": 1.0})
    assert typed.combined.known


def test_who_pays_nothing_is_worth_its_cash_and_its_own_past() -> None:
    found = worth(steady(dividends=()))
    assert shares(found) == pytest.approx({"past": 0.5, "cash": 0.5})
    assert {m.id for m in found.on if m.answers == "past"} == {"own_free_cash_flow"}


def test_other_opinions_have_no_weight_until_they_are_given_one() -> None:
    plain, on = worth(), worth(switched={"graham": True}, inputs={"aaa_yield": 0.05})
    assert shares(on)["others"] == 0.0
    assert on.combined.value == pytest.approx(plain.combined.value)
    weighed = worth(switched={"graham": True}, inputs={"aaa_yield": 0.05}, weights={"others": 2.0})
    assert shares(weighed)["others"] == pytest.approx(0.5)


def test_the_value_without_each_and_the_spread() -> None:
    found = worth()
    held = {a.id: (a.middle.value or 0.0, a.weight.value or 0.0) for a in found.answers}
    for id in held:
        rest = [x for other, x in held.items() if other != id]
        want = sum(v * w for v, w in rest) / sum(w for _, w in rest)
        assert answer(found, id).without.value == pytest.approx(want)
    values, combined = [v for v, _ in held.values()], found.combined.value or 0.0
    assert found.spread.value == pytest.approx((max(values) - min(values)) / combined)
    moved = [abs((a.without.value or 0.0) - combined) for a in found.answers]
    assert found.leaving_out.value == pytest.approx(max(moved))


def test_all_low_to_all_high_holds_the_combined_value() -> None:
    found = worth()
    lows = {a.id: (a.low.value or 0.0) * (a.share.value or 0.0) for a in found.answers}
    assert found.combined_low.value == pytest.approx(sum(lows.values()))
    ends = (found.combined_low.value, found.combined.value, found.combined_high.value)
    assert ends == tuple(sorted(ends))  # type: ignore[type-var]


def test_a_price_under_buy_below_by_one_answer_alone_says_which() -> None:
    """Its cash, typed twelve times as high as it is, brings the price under."""
    file = steady()
    plain = worth(file)
    price, below = review(file).price.value or 0.0, plain.buy_below.value or 0.0
    assert below < price
    start = (plain.inputs["cash_start"].figure.value or 0.0) * 12
    found = review(file, question=Question(inputs={"cash_start": start}))
    assert (found.worth.buy_below.value or 0.0) > price
    said = ["".join(x if isinstance(x, str) else "#" for x in s) for s in _told(found)]
    assert any("only with its cash: without it the combined value is #" in s for s in said)
    assert not any("only with" in "".join(map(str, s)) for s in in_words(plain, review(file).price))


def _told(found: Review) -> list[tuple[object, ...]]:
    return list(in_words(found.worth, found.price))


def test_its_own_past_counts_from_the_last_cut_and_needs_a_year_of_weeks() -> None:
    """Cut in half two years ago: yields of before were paid for another dividend."""
    paid = yearly_raises(2010, 2026, 0.5, 0.0)[:-2]
    halved = tuple(
        replace(d, amount=d.amount / 2) if d.ex_date >= date(2024, 5, 1) else d for d in paid
    )
    prices = weekly_prices(date(2012, 1, 6), date(2026, 6, 26), 30.0)
    found = worth(steady(dividends=halved, prices=prices))
    mean = found.inputs["mean_yield"]
    assert mean.figure.value == pytest.approx(1.0 / 30.0)
    assert "since 2024" in mean.origin
    assert next(m for m in found.models if m.id == "yield_reversion").on
    fresh = tuple(
        replace(d, amount=d.amount / 2) if d.ex_date >= date(2025, 11, 1) else d for d in paid
    )
    young = worth(steady(dividends=fresh, prices=prices))
    why = next(m for m in young.models if m.id == "yield_reversion").why_off or ""
    assert "52 are needed" in why


def test_a_past_that_was_paid_for_faster_growth_says_so() -> None:
    paid = [*yearly_raises(2010, 2025, 0.5, 0.06), *_slower()]
    found = review(steady(dividends=tuple(paid)))
    said = ["".join(x if isinstance(x, str) else "#" for x in s) for s in _told(found)]
    assert "Its own past was paid for growth of #; the latest raise was #." in said
    steadily = review(steady())
    assert not any("paid for growth" in str(s) for s in _told(steadily))


def _slower() -> list[Dividend]:
    last = yearly_raises(2010, 2025, 0.5, 0.06)[-1].amount
    days = (date(2026, 2, 10), date(2026, 5, 10))
    return [Dividend(ex_date=d, amount=last * 1.02, currency="TLL", declared_on=d) for d in days]


@over(st.floats(0.05, 0.95), st.sampled_from([0.001, 0.0001, 0.00001]))
def test_nothing_jumps_as_the_payout_moves(payout: float, step: float) -> None:
    """Over steps of a tenth, a hundredth and a thousandth of a point."""
    day = date(2026, 6, 30)
    asked = Question(
        inputs={"cash_start": 2.0, "cash_growth": 0.02}, switched={"own_free_cash_flow": False}
    )
    before, after = (
        build_review(steady(statements=paying_out(p)).cut(day), HouseRules(), asked).worth
        for p in (payout, payout + step)
    )
    values = [w.combined.value for w in (before, after)]
    assert None not in values
    assert abs(values[1] / values[0] - 1) < 8 * step  # type: ignore[operator]


@over(st.sampled_from([0.02, 0.04, 0.06, 0.079]), st.sampled_from([0.001, 0.0001, 0.00001]))
def test_nothing_jumps_as_growth_moves(growth: float, step: float) -> None:
    """Over the highest growth for ever, and on towards the required return of 8 %."""
    day, file = date(2026, 6, 30), steady()

    def combined(g: float) -> float:
        asked = Question(inputs={"growth": g, "cash_start": 2.0, "cash_growth": 0.02})
        found = build_review(file.cut(day), HouseRules(), asked).worth.combined.value
        assert found is not None
        return found

    under, at, over = (combined(growth + n * step) for n in (-1, 0, 1))
    assert abs(at / under - 1) < 40 * step
    assert abs(over / at - 1) < 40 * step
