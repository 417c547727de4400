"""Examples that docs/method.md prints for the models, typed into the product as a person would."""

from datetime import date
from pathlib import Path

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.review import build_review

from ..build import paid, payer, plain_years, steady, year_statement

METHOD = (Path(__file__).parents[3] / "docs" / "method.md").read_text()
LINES = {
    "revenue": 1200.0,
    "diluted_shares": 96.0,
    "shares_outstanding": 96.0,
    "cash": 100.0,
    "long_term_debt": 1320.0,
    "short_term_debt": 0.0,
}
"""1,200 sold, 1,220 owed net of cash, 96 shares."""
EQUITY = {"cash_start": 412 / 96, "cash_growth": 0.04, "cash_lasting": 0.02}
FIRM = {"firm_start": 467.5 / 96, "firm_return": 0.07, "cash_growth": 0.04, "cash_lasting": 0.02}
SALES = {"net_margin": 0.12, "cash_of_income": 0.9, "revenue_growth": 0.04, "revenue_lasting": 0.02}
FUNDS = {"funds_start": 2.65, "funds_growth": 0.07, "funds_lasting": 0.03}
OTHER_FUNDS = {"funds_start": 2.0, "funds_growth": 0.06, "funds_lasting": 0.04}
EVEN = {"cash_start": 5.0, "cash_growth": 0.02, "cash_lasting": 0.02}
LOW = {"required_return": 0.085}
EXIT = {"growth": 0.04, "later_growth": 0.02, "required_return": 0.09, "exit_yield": 0.06}

# What is printed; the model; a year's dividend; what is typed; the answer.
EXAMPLES = [
    ("2.40, 3 %, 8 % → 49.44", "constant_growth", 2.4, {"growth": 0.03, "required_return": 0.08}),
    ("1.86, 0 %, 9 % → 20.6667", "constant_growth", 1.86, {"growth": 0, "required_return": 0.09}),
    (
        "2.40, 7 % for 5, 3 %, 8 % → 58.8639",
        "two_stage",
        2.4,
        {"growth": 0.07, "later_growth": 0.03, "required_return": 0.08},
    ),
    (
        "2.40, 7 % → 3 %, H 4, 8 % → 57.12",
        "fading",
        2.4,
        {"growth": 0.07, "later_growth": 0.03, "required_return": 0.08},
    ),
    ("1.40 at 3.5 % → 40.00", "yield_reversion", 1.4, {"mean_yield": 0.035}),
    ("0.84; 5y 4 %, 5y 2 %; 9 %; exit 6 % → 14.4924", "exit", 0.84, EXIT),
    (
        "q 1, c 20 % → 14.0930",
        "exit",
        0.84,
        EXIT | {"exit_tax": 0.25, "credited": 1, "credit_rate": 0.2},
    ),
    (
        "412 on 96; 5y 4 %, 5y 3 %, 2 %; 8.5 % → 75.8370",
        "cash_to_equity",
        1,
        EQUITY | LOW | {"dilution": 0},
    ),
    ("b 1 % → 70.1945", "cash_to_equity", 1, EQUITY | LOW | {"dilution": 0.01}),
    ("480 on 96, 2 %: 78.4615", "cash_to_equity", 1, EVEN | LOW | {"dilution": 0}),
    ("62.7839 at b 3 %", "cash_to_equity", 1, EVEN | LOW | {"dilution": 0.03}),
    (
        "412 on 96; 5y 5 %; 8.5 %; 15× → 74.1095",
        "cash_to_multiple",
        1,
        EQUITY | LOW | {"cash_growth": 0.05, "cash_multiple": 15, "dilution": 0},
    ),
    (
        "467.5; 5y 4 %, 5y 3 %, 2 %; 7 %; 1,220 owed; 96 → 99.7640",
        "cash_to_firm",
        1,
        FIRM | {"dilution": 0},
    ),
    (
        "1,200; 12 %; 90 %; 96; 5y 4 %, 5y 3 %, 2 %; 8.5 % → 23.8555",
        "revenue",
        1,
        SALES | LOW | {"dilution": -0.01},
    ),
    (
        "2.65; 7, 5, 3 %; b 1.5 %; 74 %; 8.5 %; 17× → 43.1574",
        "funds",
        1,
        FUNDS | LOW | {"dilution": 0.015, "funds_payout": 0.74, "funds_multiple": 17},
    ),
    (
        "2.00; 6, 5, 4 %; b 3 %; 70 %; 8.5 %; 16× → 27.2582",
        "funds",
        1,
        OTHER_FUNDS | LOW | {"dilution": 0.03, "funds_payout": 0.7, "funds_multiple": 16},
    ),
]


def payer_of(rate: float, kind: Kind) -> PayerFile:
    plain = dict(plain_years(2025, 2025)[0].lines)
    return steady(
        payer=payer(kind),
        dividends=tuple(paid(date(y, 5, 10), rate, payments_per_year=1) for y in range(2012, 2027)),
        statements=tuple(year_statement(y, **{**plain, **LINES}) for y in range(2016, 2026)),
    )


def valued(
    model: str, rate: float, inputs: dict[str, float], rules: HouseRules | None = None
) -> float | None:
    kind = Kind.PROPERTY_TRUST if model == "funds" else Kind.COMPANY
    question = Question(inputs=inputs, switched={model: True})
    file = payer_of(rate, kind).cut(date(2026, 6, 30))
    found = build_review(file, rules or HouseRules(), question).worth
    held = next(m for m in found.models if m.id == model)
    return held.middle.value


@pytest.mark.parametrize(
    ("printed", "model", "rate", "inputs"), EXAMPLES, ids=[e[0] for e in EXAMPLES]
)
def test_a_printed_example_typed_gives_what_is_printed(
    printed: str, model: str, rate: float, inputs: dict[str, float]
) -> None:
    assert printed in METHOD
    told = printed.split(": ")[-1] if "→" not in printed else printed.rpartition("→ ")[2]
    number = told.split(" at ")[0]
    digits = len(number.partition(".")[2])
    assert valued(model, rate, inputs) == pytest.approx(float(number), abs=0.51 * 10**-digits)


def test_four_years_of_early_growth_are_a_house_rule() -> None:
    printed = "1,200; 12 %; 90 %; 96; 4y 5 %; b −2 %; 10 %; 14× → 4.8136 + 15.6909 = 20.5045"
    assert printed in METHOD
    inputs = SALES | {"revenue_growth": 0.05, "dilution": -0.02}
    inputs |= {"required_return": 0.1, "cash_multiple": 14}
    four = HouseRules(early_years=4)
    assert valued("revenue_to_multiple", 1, inputs, four) == pytest.approx(20.5045, abs=5e-5)
