"""Looking back: what a made-up payer's limits would have said before its cut, by hand."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend
from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.finding.look_back import LookedBack, past_of
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.review import review_of
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.core.build import TODAY, payer, plain_years, price_index, year_statement

SYMBOLS = ("TRS", "GWK", "CRF", "LRT", "PLG")


def paid(year: int, amount: float) -> list[Dividend]:
    """Four payments a year, declared three weeks before."""
    return [
        Dividend(
            ex_date=date(year, m, 10),
            amount=amount,
            currency="TLL",
            declared_on=date(year, m, 1),
            payments_per_year=4,
        )
        for m in (3, 6, 9, 12)
    ]


def sliding() -> PayerFile:
    """2.00 a year on cash of 10.00 a share until 2017, of 3.00 in 2018 and 2019; cut to 0.80 in
    March 2020: at the year ends of 2017, 2018 and 2019 payout is 20 %, 20 % (2018 is not published)
    and 66.7 %."""
    dividends = [d for y in range(2008, 2020) for d in paid(y, 0.50)]
    dividends += [d for y in range(2020, 2026) for d in paid(y, 0.20)]
    lean = tuple(
        year_statement(
            y,
            revenue=900.0,
            net_income=30.0,
            diluted_shares=10.0,
            operating_cash_flow=70.0,
            capital_expenditure=40.0,
            dividends_paid=20.0,
            ebit=40.0,
            interest_expense=0.0,
            depreciation_amortization=40.0,
            cash=100.0,
            long_term_debt=0.0,
            total_assets=900.0,
        )
        for y in (2018, 2019)
    )
    good = plain_years(2006, 2017, cash=100.0, paid=20.0)
    after = plain_years(2020, 2025, cash=100.0, paid=8.0)
    return PayerFile(
        payer=payer(),
        dividends=tuple(dividends),
        statements=(*good, *lean, *after),
        price_index=price_index(2005, TODAY),
    )


def test_a_cut_after_a_visible_slide_was_flagged_and_not_a_year_earlier() -> None:
    looked = LookedBack.of([past_of(sliding(), TODAY)], TODAY)
    verdict = looked.judged(HouseRules())
    (row,) = verdict.rows
    assert (row.cut_on, row.before, row.earlier) == (
        date(2020, 3, 1),
        date(2019, 12, 31),
        date(2018, 12, 31),
    )
    assert (row.state, row.earlier_state) == ("outside", "within")
    assert (verdict.cuts, verdict.flagged, verdict.flagged_early, verdict.missed) == (1, 1, 0, 0)


def test_a_mild_limit_misses_it_and_a_strict_one_cries_often() -> None:
    looked = LookedBack.of([past_of(sliding(), TODAY)], TODAY)

    def judged(limit: float) -> tuple[int, int, int]:
        asked = Limit(value=limit, required=True)
        own = {"payout": asked, "earnings_payout": asked}
        verdict = looked.judged(HouseRules(limits={Kind.COMPANY: own}))
        return verdict.missed, verdict.flagged, verdict.false_alarms

    assert judged(0.90)[:2] == (1, 0)
    missed, flagged, false_alarms = judged(0.15)
    assert (missed, flagged) == (0, 1)
    assert false_alarms > 5
    points = looked.curve(HouseRules(), MEASURES["payout"], Kind.COMPANY)
    assert [p.limit for p in points] == sorted(p.limit for p in points)
    missed_by = [p.missed for p in points]
    alarms_by = [p.false_alarms for p in points]
    assert missed_by == sorted(missed_by)
    assert alarms_by == sorted(alarms_by, reverse=True)
    assert 0.60 in [p.limit for p in points]


def test_nothing_known_later_moves_what_was_judged() -> None:
    file = sliding()
    known = replace(file, statements=tuple(s for s in file.statements if s.period_end.year < 2019))
    then = LookedBack.of([past_of(file, TODAY)], TODAY)
    without = LookedBack.of([past_of(known, TODAY)], TODAY)
    days = then.payers[0].days
    upto = days.index(date(2019, 12, 31)) + 1
    assert list(then.states(HouseRules())[:upto]) == list(without.states(HouseRules())[:upto])


@pytest.mark.parametrize("symbol", SYMBOLS)
def test_each_year_end_is_judged_as_its_review_is(demo: Database, symbol: str) -> None:
    with demo.read() as connection:
        whole = payer_files.load(connection, "ELV", symbol)
    past = past_of(whole, TODAY)
    states = LookedBack.of([past], TODAY).states(HouseRules())
    for day, code in list(zip(past.days, states, strict=True))[::4]:
        state = review_of(whole, day, HouseRules()).state
        assert state is not None
        assert ("outside", "unknown", "close", "within", "paying_nothing")[code] == state.value, day
