"""Second opinions: by hand, as they suit each kind, and counted in once they are switched on."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Estimate
from hearth_yield.core.facts.statements import Statement
from hearth_yield.core.figures.inputs import Input
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.worth.models import MODELS, Model
from hearth_yield.core.worth.pairs import pair_in_words
from hearth_yield.core.worth.staged import cash_value, dividends_to_exit
from hearth_yield.core.worth.worth import Worth

from ..build import RATE, payer, review, steady, weekly_prices, year_statement


def worth(file: PayerFile, **question: object) -> Worth:
    return review(file, question=Question(**question)).worth  # type: ignore[arg-type]


def opinion(found: Worth, id: str) -> Model:
    return next(m for m in (*found.models, *found.others.models) if m.id == id)


def inputs_of(found: Worth) -> dict[str, Input]:
    return {**found.inputs, **found.others.inputs}


INPUTS = {
    "growth": 0.05,
    "later_growth": 0.03,
    "required_return": 0.09,
    "exit_yield": 0.04,
    "cash_start": 2.0,
    "cash_growth": 0.06,
    "cash_lasting": 0.02,
    "dilution": 0.01,
}


def test_what_is_typed_is_what_is_valued() -> None:
    found = worth(steady(), inputs=INPUTS)
    stages = [(5, 0.05), (5, 0.03)]
    expected = dividends_to_exit(RATE, stages, 0.04, 0.09)
    assert opinion(found, "exit").middle.value == pytest.approx(expected)
    cash = [(5, 0.06), (5, 0.04)]
    expected = cash_value(2.0, cash, 0.02, 0.09, 0.01)
    assert opinion(found, "cash_to_equity").middle.value == pytest.approx(expected)


def test_an_own_multiple_is_its_median_times_what_it_earns_now() -> None:
    found = worth(steady(prices=weekly_prices(date(2012, 1, 6), date(2026, 6, 26), 30.0)))
    own = opinion(found, "own_earnings")
    per_share = 100.0 / (100.0 * 0.5 / RATE)
    typical = inputs_of(found)["own_earnings"].figure.value
    assert typical is not None
    assert own.middle.value == pytest.approx(typical * per_share)
    assert own.low.value == pytest.approx(0.9 * typical * per_share)


def test_second_opinions_count_only_when_they_are_switched_on() -> None:
    plain = worth(steady(), inputs=INPUTS)
    leads = {s.id for s in MODELS.values() if Kind.COMPANY in s.leads}
    assert {m.id for m in plain.models} == leads
    assert not any(m.on for m in plain.others.models)
    counted = worth(steady(), inputs=INPUTS, switched={"exit": True})
    on = {m.id: m.middle.value or 0.0 for m in counted.models if m.on}
    assert set(on) == {m.id for m in plain.models if m.on} | {"exit"}
    dividends = next(a for a in counted.answers if a.id == "dividends")
    mean = (on["two_stage"] + on["fading"] + on["exit"]) / 3
    assert dividends.middle.value == pytest.approx(mean)
    assert counted.combined.value != pytest.approx(plain.combined.value)
    assert all(m.id != "exit" for m in counted.others.models)


@pytest.mark.parametrize(
    ("kind", "suits", "not_for_it"),
    [
        (Kind.COMPANY, {"cash_to_equity", "graham", "own_earnings"}, {"funds", "net_assets"}),
        (Kind.FINANCIAL, {"net_assets", "graham"}, {"cash_to_equity", "funds", "income_assets"}),
    ],
)
def test_each_kind_has_its_own(kind: Kind, suits: set[str], not_for_it: set[str]) -> None:
    file = steady(payer=payer(kind))
    lines = {"total_liabilities": 300.0, "short_term_debt": 0.0}
    statements = tuple(replace(s, lines={**s.lines, **lines}) for s in file.statements)
    found = worth(replace(file, statements=statements))
    assert suits <= {m.id for m in (*found.models, *found.others.models)}
    assert not_for_it <= set(found.others.unsuited)
    assert all(found.others.unsuited.values())


def test_a_trust_is_valued_by_its_rents_and_its_buildings() -> None:
    """Rent 84 at a cap rate of 6 %, less 560 of net debt, on 50 units: 16.80."""
    statement = year_statement(
        2025,
        net_operating_income=84.0,
        long_term_debt=600.0,
        short_term_debt=0.0,
        cash=40.0,
        total_assets=1400.0,
        total_liabilities=660.0,
        diluted_shares=50.0,
        affo=60.0,
    )
    file = steady(payer=payer(Kind.PROPERTY_TRUST), statements=(statement,))
    found = worth(file, inputs={"cap_rate": 0.06})
    assert opinion(found, "income_assets").middle.value == pytest.approx(16.80)
    assert opinion(found, "net_assets").middle.value == pytest.approx((1400 - 660) / 50)


def test_a_negative_answer_is_a_reason_and_the_rest_lives() -> None:
    found = worth(steady(), inputs={"cash_start": -1.0, "cash_lasting": 0.2})
    assert (
        opinion(found, "cash_to_equity").middle.reason == "free cash flow per share is not positive"
    )
    assert opinion(found, "exit").middle.known
    high = worth(steady(), inputs={"cash_lasting": 0.2, "required_return": 0.08})
    assert "next to no limit" in (opinion(high, "cash_to_equity").middle.reason or "")


def test_next_years_estimate_at_the_usual_multiple() -> None:
    """Typed 16×, 3.80 expected, the declared rate paid, 8 % asked; none where nobody estimates."""
    expected = Estimate(
        fiscal_year=2026, measure="eps", mean=3.80, published_on=date(2026, 6, 1), analysts=4
    )
    inputs = {"own_earnings": 16.0, "required_return": 0.08}
    held = worth(steady(estimates=(expected,)), inputs=inputs)
    found = opinion(held, "next_earnings").middle.value
    assert found == pytest.approx((16 * 3.80 + RATE) / 1.08)
    why = worth(steady(), inputs=inputs).others.unsuited["next_earnings"]
    assert why == "no estimate of fiscal 2026 is held"


def test_grahams_formula_grows_earnings_and_not_the_dividend() -> None:
    """3.10 × (8.5 + 2 × 4) × 4.4 ÷ 5.1 → 44.1294, whatever the dividend does; by default the trend
    of what it earned, else what is expected of it."""
    typed = {"aaa_yield": 0.051, "earnings_growth": 0.04}
    values = [
        opinion(worth(steady(), inputs=typed | {"growth": g}), "graham").middle.value
        for g in (0.01, 0.12)
    ]
    earned = 100.0 / (100.0 * 0.5 / RATE)
    assert values == pytest.approx([44.1294 / 3.10 * earned] * 2, rel=1e-5)
    rising = cash_years([100.0 * 1.06**n for n in range(8)], LEVEL)
    on = {"graham": True}
    default = inputs_of(worth(steady(statements=rising), switched=on))["earnings_growth"]
    assert default.figure.value == pytest.approx(0.06, rel=0.05)
    expected = Estimate(
        fiscal_year=2026, measure="eps", mean=1.1, published_on=date(2026, 3, 1), analysts=4
    )
    young = steady(statements=rising[-2:], estimates=(expected,))
    assert inputs_of(worth(young, switched=on))["earnings_growth"].origin == "what analysts expect"


def test_cash_for_all_capital_less_what_is_owed() -> None:
    """Typed 2.00 a share at 7 %; 100 of cash and no debt on the shares: 100 ÷ shares comes on
    top."""
    shares = 100.0 * 0.5 / RATE
    statements = tuple(
        replace(s, lines={**s.lines, "short_term_debt": 0.0, "tax": 25.0})
        for s in steady().statements
    )
    typed = INPUTS | {"firm_start": 2.0, "firm_return": 0.07}
    found = worth(steady(statements=statements), inputs=typed)
    plain = cash_value(2.0, [(5, 0.06), (5, 0.04)], 0.02, 0.07, 0.01)
    assert opinion(found, "cash_to_firm").middle.value == pytest.approx(plain + 100.0 / shares)
    assert inputs_of(found)["firm_tax"].figure.value == pytest.approx(25 / 125)


def test_revenue_margin_and_conversion_make_the_cash() -> None:
    shares = 100.0 * 0.5 / RATE
    sales = {"revenue_growth": 0.06, "revenue_lasting": 0.02}
    typed = INPUTS | sales | {"net_margin": 0.12, "cash_of_income": 0.9}
    found = worth(steady(), inputs=typed)
    start = 1000 * 0.12 * 0.9 / shares
    expected = cash_value(start, [(5, 0.06), (5, 0.04)], 0.02, 0.09, 0.01)
    assert opinion(found, "revenue").middle.value == pytest.approx(expected)
    plain = worth(steady(), inputs=INPUTS).others.inputs
    assert plain["net_margin"].figure.value == pytest.approx(0.1)


def test_a_dividend_is_taxed_and_credited_where_the_person_says_so() -> None:
    """25 % tax, all of it credited at 20 %: 0.9375 of each dividend is kept, the sale is not
    taxed."""
    taxed = INPUTS | {"exit_tax": 0.25, "credited": 1.0, "credit_rate": 0.2}
    found = opinion(worth(steady(), inputs=taxed), "exit").middle.value
    stages = [(5, 0.05), (5, 0.03)]
    assert found == pytest.approx(dividends_to_exit(RATE, stages, 0.04, 0.09, 0.9375))


def test_dividends_out_of_cash_begin_with_cash_times_payout() -> None:
    found = worth(steady(), inputs=INPUTS | {"cash_payout": 0.6})
    expected = dividends_to_exit(1.2, [(5, 0.05), (5, 0.03)], 0.04, 0.09)
    assert opinion(found, "cash_paid").middle.value == pytest.approx(expected)
    plain = worth(steady(), inputs=INPUTS).others.inputs["cash_payout"]
    assert plain.figure.value == pytest.approx(0.5)


def test_two_ends_of_one_question_stand_with_their_difference() -> None:
    found = worth(steady(), inputs=INPUTS | {"cash_payout": 0.6}).others
    pair = next(p for p in found.pairs if p.key == "cash_paid")
    first, second = opinion(worth(steady(), inputs=INPUTS), "exit"), pair.second
    assert pair.difference.value == pytest.approx(
        (second.middle.value or 0) / (first.middle.value or 1) - 1
    )
    told = "".join(x for x in pair_in_words(pair) if isinstance(x, str))
    assert told.startswith("Dividends out of cash is ")


def test_a_large_difference_names_the_input_that_explains_it() -> None:
    far = worth(steady(), inputs=INPUTS | {"cash_payout": 2.0}).others
    pair = next(p for p in far.pairs if p.key == "cash_paid")
    assert abs(pair.difference.value or 0) > 0.25
    assert pair.explained_by in ("free cash flow per share", "payout of free cash flow")
    near = worth(steady(), inputs=INPUTS | {"cash_start": RATE, "cash_payout": 1.0}).others
    pair = next(p for p in near.pairs if p.key == "cash_paid")
    assert pair.difference.value == pytest.approx(0.0)
    assert pair.explained_by is None


def test_a_cash_model_may_begin_with_any_of_four_years() -> None:
    found = inputs_of(worth(steady(), inputs={"cash_growth": 0.03}))["cash_start"]
    assert [o.origin for o in found.offers] == [
        "latest year",
        "twelve months",
        "mean of three years",
        "mean of five years",
    ]
    assert found.offers[2].figure.value == found.figure.value


def cash_years(totals: list[float], shares: list[float]) -> tuple[Statement, ...]:
    """Fiscal years up to 2025 with so much free cash flow in all, and so many shares."""
    first = 2026 - len(totals)
    return tuple(
        year_statement(
            first + n,
            operating_cash_flow=total + 40.0,
            capital_expenditure=40.0,
            net_income=total,
            revenue=10 * total,
            dividends_paid=total / 2,
            preferred_dividends=0.0,
            diluted_shares=count,
        )
        for n, (total, count) in enumerate(zip(totals, shares, strict=True))
    )


LEVEL = [100.0] * 8
SHRINKING = [100.0 * 0.95**n for n in range(8)]


def test_cash_is_valued_as_a_total_whatever_buybacks_made_of_each_share() -> None:
    """Level cash on a share count that falls 5 % a year: a share's grew, the whole did not."""
    file = steady(statements=cash_years(LEVEL, SHRINKING))
    found = worth(file)
    inputs = inputs_of(found)
    assert inputs["cash_growth"].figure.value == pytest.approx(0.0, abs=1e-12)
    assert inputs["dilution"].figure.value == 0.0
    start = 100.0 / SHRINKING[-1]
    assert inputs["cash_start"].figure.value == pytest.approx(start)
    assert opinion(found, "cash_to_equity").middle.value == pytest.approx(start / 0.08)


def test_what_all_shares_are_worth_does_not_depend_on_how_many_were_bought_back() -> None:
    rising = [100.0 * 1.04**n for n in range(8)]
    whole = []
    for shares in ([100.0] * 8, SHRINKING, [100.0 * 0.9**n for n in range(8)]):
        found = opinion(worth(steady(statements=cash_years(rising, shares))), "cash_to_equity")
        assert found.middle.value is not None
        whole.append(found.middle.value * shares[-1])
    assert whole[1:] == pytest.approx([whole[0]] * 2)


def test_issuance_takes_from_each_share_what_the_total_grew_by() -> None:
    """4 % in all on 4 % more shares: a share's stands still."""
    rising = [100.0 * 1.04**n for n in range(8)]
    found = worth(steady(statements=cash_years(rising, rising)))
    inputs = inputs_of(found)
    assert inputs["dilution"].figure.value == pytest.approx(0.04)
    trend = inputs["cash_growth"].figure.inputs[0].value
    assert trend is not None
    assert inputs["cash_growth"].figure.value == pytest.approx(trend)
    sold = opinion(
        worth(steady(statements=cash_years(rising, rising)), inputs={"cash_multiple": 10.0}),
        "cash_to_multiple",
    )
    start = sum(rising[-3:]) / 3 / rising[-1]
    growth = (1 + trend) / 1.04
    expected = (
        sum(start * growth**t / 1.08**t for t in range(1, 6)) + 10 * start * growth**5 / 1.08**5
    )
    assert sold.middle.value == pytest.approx(expected)


def test_growth_is_held_a_share_not_in_total() -> None:
    """30 % in all on 10 % more shares is 18 % a share: held to 8, which is 18.8 % in all."""
    rising, shares = [100.0 * 1.3**n for n in range(8)], [100.0 * 1.1**n for n in range(8)]
    inputs = inputs_of(worth(steady(statements=cash_years(rising, shares))))
    assert inputs["cash_growth"].figure.value == pytest.approx(1.08 * 1.1 - 1)


def test_revenue_driven_cash_grows_as_revenue_does() -> None:
    found = worth(steady(statements=cash_years([100.0 * 1.03**n for n in range(8)], LEVEL)))
    assert inputs_of(found)["revenue_growth"].figure.value == pytest.approx(0.03, rel=0.06)
    assert inputs_of(found)["revenue_lasting"].figure.value == pytest.approx(
        min(0.03, inputs_of(found)["revenue_growth"].figure.value or 0)
    )


@pytest.mark.parametrize(
    ("debt", "interest", "want"), [(300.0, 15.0, 0.069375), (0.0, 0.0, 0.08), (300.0, 60.0, 0.08)]
)
def test_the_rate_for_all_capital(debt: float, interest: float, want: float) -> None:
    """900 of shares at 8 %, 300 owed at 5 % after 25 % tax → 6.9375 %; dear debt raises none."""
    lines = dict(cash_years([100.0], [90.0])[0].lines) | {
        "long_term_debt": debt,
        "short_term_debt": 0.0,
        "interest_expense": interest,
        "total_assets": 2000.0,
        "cash": 0.0,
        "tax": 25.0,
        "net_income": 75.0,
    }
    statements = (*cash_years(LEVEL[:-1], LEVEL[:-1])[1:], year_statement(2025, **lines))
    file = steady(
        statements=statements, prices=weekly_prices(date(2012, 1, 6), date(2026, 6, 26), 10.0)
    )
    rate = inputs_of(worth(file))["firm_return"].figure
    assert rate.value == pytest.approx(want)


def test_a_delisted_or_silent_payer_has_no_cash_per_share() -> None:
    old = steady(statements=tuple(s for s in cash_years(LEVEL, LEVEL) if s.period_end.year < 2023))
    start = worth(old, switched={"cash_to_equity": True}).inputs["cash_start"].figure
    assert start.value is None
    assert "2022" in (start.reason or "")


def test_cash_in_two_currencies_is_neither_added_up_nor_grown() -> None:
    years = cash_years(LEVEL, LEVEL)
    changed = tuple(
        replace(s, currency="THK" if s.period_end.year < 2024 else "TLL") for s in years
    )
    inputs = inputs_of(worth(steady(statements=changed)))
    for id in ("cash_start", "cash_growth", "firm_start", "revenue_growth"):
        assert inputs[id].figure.value is None, id
        assert "different currencies" in (inputs[id].figure.reason or "")
