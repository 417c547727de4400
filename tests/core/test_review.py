"""A review as a whole: what each stage says, and every figure by its name."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.errors import MethodError
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, Estimate
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.figures.measure import Limit, Size, Stage
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import State
from hearth_yield.core.names import figure_at, named_figures, named_measures
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review, build_review, rejudge, rework
from hearth_yield.core.strain.inputs import Strain
from hearth_yield.core.worth.worth import TAKEN_FOR_GRANTED

from .build import (
    notice,
    payer,
    paying_out,
    plain_years,
    steady,
    weekly_prices,
    year_statement,
    yearly_raises,
)

DAY = date(2026, 6, 30)
RULES = HouseRules()


def review(file: PayerFile, day: date = DAY, question: Question | None = None) -> Review:
    return build_review(file.cut(day), RULES, question)


def says(found: Review, stage: Stage) -> str:
    """A finding's sentence with figures to three places."""
    words = []
    for part in found.stages[stage].finding:
        figure = part.figure if isinstance(part, Size) else part
        if isinstance(figure, Figure):
            value = figure.value or 0.0
            words.append(f"<{abs(value) if isinstance(part, Size) else value:.3f}>")
        else:
            words.append(str(part))
    return "".join(words)


def test_a_steady_raiser() -> None:
    found = review(steady())
    assert says(found, Stage.RECORD) == (
        "Raised <23.000> running; <0.050> a year over ten, <0.029> after prices."
    )
    assert says(found, Stage.COVER) == (
        "Pays out <0.500> of free cash flow at the declared rate, <0.500> through the cycle; "
        "free cash flow can fall <0.167>."
    )


def test_a_cut_leads_and_calls_out_the_trailing_rate() -> None:
    paid = tuple(yearly_raises(2015, 2025, 0.5, 0.0))
    cut = Dividend(
        ex_date=date(2026, 2, 10), amount=0.2, currency="TLL", declared_on=date(2026, 1, 20)
    )
    assert says(review(steady(dividends=(*paid, cut)), date(2026, 1, 25)), Stage.RECORD).startswith(
        "Cut on 2026-01-20: <0.800> a year is declared, while the past 12 months still show <2.000>"
    )


def test_a_suspension_leads_even_years_later() -> None:
    file = steady(
        dividends=tuple(yearly_raises(2015, 2019, 0.5, 0.0)), notices=(notice(date(2020, 1, 15)),)
    )
    found = review(file)
    assert says(found, Stage.RECORD) == "Dividend suspended on 2020-01-15; nothing is being paid."
    assert says(found, Stage.RANGE) == "Yield unknown: nothing is being paid."
    assert says(found, Stage.WORTH).startswith("Worth <36.125>: its own past <40.000>, its cash <")


def test_a_holder_and_a_newcomer() -> None:
    held = steady(dividends=tuple(yearly_raises(2015, 2025, 0.5, 0.0)), price_index=None)
    assert says(review(held, date(2026, 1, 31)), Stage.RECORD) == (
        "Held or raised <10.000> running; <0.000> a year over ten."
    )
    fresh = steady(dividends=tuple(yearly_raises(2025, 2025, 0.5, 0.0)))
    assert "unknown" in says(review(fresh, date(2025, 6, 1)), Stage.RECORD)


@pytest.mark.parametrize(
    ("paid", "words"),
    [(70.0, "10 points above your 60 %."), (55.0, "free cash flow can fall <0.083>.")],
)
def test_the_cover_names_room_or_breach(paid: float, words: str) -> None:
    file = steady(statements=paying_out(paid / 100, 2015))
    assert says(review(file), Stage.COVER).endswith(words)


def test_a_value_that_rests_on_a_dividend_over_its_limit_says_so() -> None:
    warning = "It takes for granted a dividend that is over your payout limit."
    mild, hard = (steady(statements=paying_out(p, 2015)) for p in (0.5, 0.8))
    assert warning not in says(review(mild), Stage.WORTH)
    assert says(review(hard), Stage.WORTH).endswith(warning)
    assert review(mild).worth.buy_below.cautions == ()
    assert review(hard).worth.price_against_buy_below.cautions == (TAKEN_FOR_GRANTED,)


def test_a_payer_with_nothing_at_all_still_reads() -> None:
    found = review(PayerFile(payer=payer()))
    assert says(found, Stage.RECORD) == "No regular dividend on record."
    assert says(found, Stage.COVER).startswith("Payout from free cash flow unknown")
    assert "unknown" in says(found, Stage.RANGE)
    assert found.first_to_give is None


def test_under_a_year_of_prices_the_yield_stands_without_a_mean() -> None:
    file = steady(prices=weekly_prices(date(2025, 12, 1), date(2026, 6, 26)))
    assert "its mean is unknown" in says(review(file), Stage.RANGE)


def test_every_figure_has_one_name_and_the_names_are_plain() -> None:
    names = named_figures(review(steady()))
    assert len(names) > 250
    assert len({id(f) for f in names.values()}) > 200
    for name in names:
        assert ".." not in name
        assert not name.endswith(".")
    assert names["record.years.2019.total"].label == "dividend in 2019"
    assert names["cover.bases.earnings.years.2021-12-31.payout"].period == "fiscal 2021"


def test_every_name_leads_back_to_its_figure() -> None:
    found = review(steady())
    for name, figure in named_figures(found).items():
        assert figure_at(found, name) is figure, name
    for name in ("", "cover", "cover.nothing", "tests.payout", "tests.x.cushion", "aim.x", "x.y"):
        assert figure_at(found, name) is None


def test_measures_are_named_by_stage_and_id() -> None:
    names = named_measures(review(steady()))
    assert {"payer.price", "record.raises", "cover.payout", "range.yield"} <= set(names)
    assert {"worth.buy_below", "tests.payout.cushion"} <= set(names)


def test_judging_by_other_rules_gives_what_building_under_them_gives() -> None:
    file = steady().cut(DAY)
    other = HouseRules(
        margin_of_safety=0.3, highest_growth=0.02, close_under=0.4, market_return=0.1
    )
    moved, anew = rejudge(build_review(file, RULES), file, other), build_review(file, other)
    told = [
        {name: figure.value for name, figure in named_figures(found).items()}
        for found in (moved, anew, build_review(file, RULES))
    ]
    assert told[0] == told[1] != told[2]
    assert [(t.id, t.state) for t in moved.tests] == [(t.id, t.state) for t in anew.tests]


def test_reworking_gives_what_building_anew_gives() -> None:
    file = steady().cut(DAY)
    question = Question(
        window="10", aim=0.03, inputs={"growth": 0.02}, switched={"yield_reversion": False}
    )
    plain = build_review(file, RULES, Question(window="10"))
    moved, anew = rework(plain, file, RULES, question), build_review(file, RULES, question)
    assert {k: f.value for k, f in named_figures(moved).items()} == {
        k: f.value for k, f in named_figures(anew).items()
    }
    assert [s.finding for s in moved.stages.values()][:3] == [
        s.finding for s in plain.stages.values()
    ][:3]


def test_the_window_moves_the_range_and_not_the_worth() -> None:
    file = steady(prices=weekly_prices(date(2002, 1, 4), date(2026, 6, 26), 20.0, 0.0006))
    five, ten = review(file), review(file, question=Question(window="10"))
    assert five.range.mean.value != ten.range.mean.value
    assert five.worth.combined.value == ten.worth.combined.value


def test_an_aim_by_price_is_an_aim_by_its_yield() -> None:
    by_price = review(steady(), question=Question(aim_price=32.0)).aim
    assert by_price is not None
    assert by_price.target_price.value == pytest.approx(32.0)
    with pytest.raises(MethodError):
        review(steady(), question=Question(aim_price=0.0))
    with pytest.raises(MethodError, match="no price can be aimed at"):
        review(replace(steady(), dividends=()), question=Question(aim_price=3.0))


def test_house_rules_move_states_but_no_measure() -> None:
    limits = {payer().kind: {"payout": Limit(value=0.45, required=True)}}
    strict = HouseRules(limits=limits)
    mild, hard = review(steady()), build_review(steady().cut(DAY), strict)
    assert mild.state != hard.state
    assert mild.cover == hard.cover


def test_every_required_test_that_is_crossed_marks_the_buy_below_price() -> None:
    """Payout at half of cash; ten times EBITDA owed."""
    lines = dict(plain_years(2025, 2025)[0].lines) | {"long_term_debt": 2000.0}
    owing = tuple(year_statement(y, **lines) for y in range(2016, 2026))
    marks = review(steady(statements=owing)).worth.buy_below.cautions
    (mark,) = [m for m in marks if "outside your limits" in m]
    assert "net debt to EBITDA" in mark
    assert TAKEN_FOR_GRANTED not in marks


@pytest.mark.parametrize(
    ("expected", "ending"),
    [
        ({}, ""),
        ({"eps": 3.0}, ""),
        ({"fcf": 30.0}, " Free cash flow expected of fiscal 2026 would not cover it: payout <"),
        ({"eps": 1.0}, " Earnings expected of fiscal 2026 would not cover it: payout <"),
        ({"eps": -1.0}, " Earnings expected of fiscal 2026 would not cover it: loss."),
    ],
)
def test_cover_says_when_what_is_expected_would_not_cover_the_dividend(
    expected: dict[str, float], ending: str
) -> None:
    """The dividend of a year is 1.32 a share; of cash it would be 50 in all."""
    estimates = tuple(
        Estimate(fiscal_year=2026, measure=m, published_on=date(2026, 5, 4), mean=mean)
        for m, mean in expected.items()
    )
    said = says(review(steady(estimates=estimates)), Stage.COVER)
    assert said.partition("can fall <0.167>.")[2].startswith(ending)
    assert bool(ending) == ("would not cover it" in said)


def test_who_pays_nothing_has_no_state_and_nothing_that_gives_first() -> None:
    stopped = review(replace(steady(), notices=(notice(date(2026, 5, 1)),)))
    assert (stopped.state, stopped.first_to_give) == (State.PAYING_NOTHING, None)
    assert any(t.state is State.WITHIN for t in stopped.tests)
    strained = review(
        steady(notices=(notice(date(2026, 5, 1)),)), question=Question(strain=Strain())
    )
    assert strained.strained is not None
    assert strained.strained.state is State.PAYING_NOTHING


def test_a_table_of_dividends_that_is_not_there_is_not_a_dividend_of_nil() -> None:
    """The statement decides: 50 paid a year and no dividend on record, then none paid."""
    silent = replace(steady(), dividends=())
    assert silent.statements[-1].line("dividends_paid").value == 50
    assert review(silent).record.declared_rate.value is None
    assert review(silent).state is State.UNKNOWN
    lines = dict(plain_years(2025, 2025)[0].lines) | {"dividends_paid": 0.0}
    never = replace(silent, statements=tuple(year_statement(y, **lines) for y in range(2016, 2026)))
    assert review(never).record.declared_rate.value == 0
    assert review(never).state is State.PAYING_NOTHING
    old = review(never, date(2029, 6, 30))
    assert old.record.declared_rate.value is None
