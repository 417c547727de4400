"""Second opinions: by hand, as they suit each kind, and counted in once they are switched on."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.facts.records import Estimate, PayerFile
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
    return next(m for m in found.others.models if m.id == id)


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
    typical = found.others.inputs["own_earnings"].figure.value
    assert typical is not None
    assert own.middle.value == pytest.approx(typical * per_share)
    assert own.low.value == pytest.approx(0.9 * typical * per_share)


def test_second_opinions_count_only_when_they_are_switched_on() -> None:
    plain = worth(steady(), inputs=INPUTS)
    assert {m.id for m in plain.models} == {s.id for s in MODELS.values() if s.lead}
    assert not any(m.on for m in plain.others.models)
    counted = worth(steady(), inputs=INPUTS, switched={"cash_to_equity": True})
    assert any(m.id == "cash_to_equity" and m.on for m in counted.models)
    on = [m.middle.value or 0.0 for m in counted.models if m.on]
    assert counted.combined.value == pytest.approx(sum(on) / len(on))
    assert counted.combined.value != pytest.approx(plain.combined.value)
    assert all(m.id != "cash_to_equity" for m in counted.others.models)


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
    found = worth(replace(file, statements=statements)).others
    assert suits <= {m.id for m in found.models}
    assert not_for_it <= set(found.unsuited)
    assert all(found.unsuited.values())


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
    assert "the sum has no limit" in (opinion(high, "cash_to_equity").middle.reason or "")


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
    assert found.others.inputs["firm_tax"].figure.value == pytest.approx(25 / 125)


def test_revenue_margin_and_conversion_make_the_cash() -> None:
    shares = 100.0 * 0.5 / RATE
    typed = INPUTS | {"net_margin": 0.12, "cash_of_income": 0.9}
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
    found = worth(steady(), inputs={"cash_growth": 0.03}).others.inputs["cash_start"]
    assert [o.origin for o in found.offers] == [
        "latest year",
        "twelve months",
        "mean of three years",
        "mean of five years",
    ]
    assert found.offers[2].figure.value == found.figure.value
