"""A strain against cases worked by hand; the arithmetic of each stands in the case file."""

import json
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Exposure
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.strain.inputs import Strain, inputs_of_all
from hearth_yield.core.strain.strained import Strained
from hearth_yield.core.strain.words import described, in_words
from tests.core.build import paid, payer, review, steady, year_statement

CASES: dict[str, Any] = json.loads(
    (Path(__file__).parents[2] / "data" / "strain_cases.json").read_text()
)
TENANTS = tuple(
    Exposure(
        fiscal_year=2025, basis="tenant", name=name, share=share, published_on=date(2026, 2, 20)
    )
    for name, share in (("Harbour board", 0.22), ("Households", 0.78))
)


def harbour(**lines: float) -> PayerFile:
    """Eleven a share declared; debts and cash as in the case file."""
    return PayerFile(
        payer=payer(),
        dividends=tuple(paid(date(y, 5, 10), 11.0, payments_per_year=1) for y in range(2012, 2027)),
        statements=(year_statement(2025, **{**CASES["lines"], **lines}),),
        exposures=TENANTS,
    )


def strained(file: PayerFile, strain: str, part: str = "all") -> Strained:
    question = read_question({"strain": strain, "strain_part": part})
    found = review(file, question=question).strained
    assert found is not None
    return found


@pytest.mark.parametrize("case", CASES["cases"], ids=lambda c: c["arithmetic"])
def test_a_strain(case: dict[str, Any]) -> None:
    tests = {t.key: t for t in strained(harbour(), case["strain"], case.get("part", "all")).tests}
    for id, want in case.get("after", {}).items():
        after = tests[id].after.measure
        if isinstance(want, str):
            assert after.breach == want
        else:
            assert after.value == pytest.approx(want, rel=CASES["tolerance"])
    for id, want in case.get("gives", {}).items():
        at = tests[id].gives_at
        assert at.value == pytest.approx(want, rel=CASES["tolerance"], abs=1e-9), at.reason


def test_no_strain_moves_nothing() -> None:
    found = strained(harbour(), "fall:0")
    for test in found.tests:
        assert test.measure.value == pytest.approx(test.before.measure.value, rel=1e-12)
        assert test.after.state is test.before.state


def test_past_years_are_not_strained() -> None:
    moved = {t.key for t in strained(harbour(), "fall:0.5").tests}
    assert not moved & {"payout_paid", "payout_cycle", "per_share_trend", "debt_to_assets"}


def test_what_gives_first_is_a_required_test_that_holds_today() -> None:
    found = strained(harbour(), "fall:0.1")
    assert [t.key for t in found.tests if t.before.required and t.before.state == "outside"] == [
        "earnings_payout"
    ]
    assert found.first is not None
    assert found.first.key == "payout"
    assert [t.id for t in found.outside_already] == ["earnings_payout"]


def test_a_part_holds_where_all_of_it_may_fall_away() -> None:
    file = replace(harbour(), exposures=(replace_share(TENANTS[0], 0.01),))
    [_, part] = strained(file, "fall:0.1").parts
    assert part.gives_at.value is None
    assert part.gives_at.spared == "it holds even if all of it falls away"


def replace_share(exposure: Exposure, share: float) -> Exposure:
    return Exposure(
        fiscal_year=exposure.fiscal_year,
        basis=exposure.basis,
        name=exposure.name,
        share=share,
        published_on=exposure.published_on,
    )


def quarter(end: date, revenue: float) -> Statement:
    return replace(year_statement(end.year, revenue=revenue), period_end=end, span=Span.QUARTER)


def test_named_months_count_by_season() -> None:
    """A year of 1,500 in quarters of 600, 300, 300, 300: January brings 40 % ÷ 3."""
    ends = [date(2025, 3, 31), date(2025, 6, 30), date(2025, 9, 30), date(2025, 12, 31)]
    seasonal = tuple(quarter(e, r) for e, r in zip(ends, (600.0, 300.0, 300.0, 300.0), strict=True))
    file = harbour()
    file = replace(file, statements=(*file.statements, *seasonal))
    shares = {
        first: strained(file, f"fall:0.1,months:3,first_month:{first}").months_share.value
        for first in (0, 1, 2, 11)
    }
    assert shares[0] == pytest.approx(0.25)
    assert shares[1] == pytest.approx(0.4)
    assert shares[2] == pytest.approx(0.4 * 2 / 3 + 0.2 / 3)
    assert shares[11] == pytest.approx(0.2 * 2 / 3 + 0.4 / 3), "over the turn of the year"


def test_named_months_without_quarters_say_so() -> None:
    found = strained(harbour(), "fall:0.1,months:3,first_month:4")
    assert "no fiscal year is held together with all its quarters" in (
        found.shock.revenue_fall.reason or ""
    )
    assert found.state == "unknown"


def test_interest_is_unknown_where_floating_debt_is_not_reported() -> None:
    lines = {k: v for k, v in CASES["lines"].items() if k != "floating_rate_debt"}
    file = replace(harbour(), statements=(year_statement(2025, **lines),))
    cover = next(t for t in strained(file, "fall:0").tests if t.key == "interest_cover")
    assert cover.measure.value == pytest.approx(6.0)
    found = strained(file, "fall:0,interest:0.01")
    after = {t.before.id: t for t in found.tests}
    assert "interest_cover" not in after or after["interest_cover"].after.state == "unknown"


def test_a_trust_without_tax_or_costs_loses_all_of_it() -> None:
    lines = {k: v for k, v in CASES["lines"].items() if k not in ("tax", "cost_of_revenue")}
    file = replace(
        harbour(),
        payer=payer(Kind.PROPERTY_TRUST),
        statements=(year_statement(2025, ffo=220.0, affo=180.0, **lines),),
    )
    found = strained(file, "fall:0.02")
    assert found.inputs["flow_through"].figure.value == 1.0
    assert found.inputs["tax_rate"].figure.value == 0.0
    payout = next(t for t in found.tests if t.key == "payout")
    assert payout.measure.value == pytest.approx(110 / 150), "180 − 30 of AFFO as published"


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"strain": "fall:1.2"}, "fall"),
        ({"strain": "months:2.5"}, "months"),
        ({"strain": "storm:1"}, "inputs"),
        ({"strain": "fall:abc"}, "fall"),
        ({"strain_part": "tenant/Nobody"}, "strain_part"),
    ],
)
def test_a_strain_that_cannot_be_is_refused(asked: dict[str, str], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        review(harbour(), question=read_question(asked))
    assert refused.value.field == field


def test_a_strain_is_part_of_the_question() -> None:
    for asked in (
        {"strain": "fall:0.3,months:6.0", "strain_part": "tenant/Harbour board"},
        {"strain_part": "all"},
    ):
        assert write_question(read_question(asked)) == asked
    assert write_question(Question()) == {}


def test_without_statements_there_is_nothing_to_strain() -> None:
    found = review(steady(statements=()), question=read_question({"strain": "fall:0.2"}))
    assert found.strained is None
    assert found.stages[Stage.COVER].figures["payout"].value is None


def lender(**lines: float) -> PayerFile:
    """The design's lender: 10,000 owned, 800 of it its owners', 12.5 % of capital, tax 25 %."""
    own = {
        "revenue": 600.0,
        "tax": 50.0,
        "net_income": 150.0,
        "total_assets": 10_000.0,
        "equity": 800.0,
        "capital_ratio": 0.125,
        "diluted_shares": 100.0,
    }
    return PayerFile(
        payer=payer(Kind.FINANCIAL),
        dividends=tuple(paid(date(y, 5, 10), 0.6, payments_per_year=1) for y in range(2012, 2027)),
        statements=(year_statement(2025, **{**own, **lines}),),
    )


def test_credit_losses_reach_a_lenders_capital_and_its_earnings() -> None:
    """6,400 weighted; 1 % lost is 75 after tax: (800 − 75) ÷ 6,400, and 60 of 75 earned is paid."""
    found = strained(lender(), "fall:0,credit_losses:0.01")
    tests = {t.key: t for t in found.tests}
    assert tests["capital_ratio"].after.measure.value == pytest.approx(0.113281, abs=5e-7)
    assert tests["capital_ratio"].gave
    assert tests["payout"].after.measure.value == pytest.approx(60 / 75)
    calm = strained(lender(), "fall:0")
    assert "capital_ratio" not in {t.key for t in calm.tests}
    assert calm.capital_at is not None
    assert calm.capital_at.value == pytest.approx(0.005 * 6400 / 7500)
    at = strained(lender(), f"fall:0,credit_losses:{calm.capital_at.value!r}")
    held = next(t for t in at.tests if t.key == "capital_ratio")
    assert held.after.measure.value == pytest.approx(0.12)
    assert any("reaches your minimum at credit losses of" in s[0] for s in in_words(calm))


def test_credit_losses_are_of_lenders_alone_and_say_what_they_lack() -> None:
    assert "credit_losses" not in strained(harbour(), "fall:0,credit_losses:0.01").inputs
    unheld = strained(lender(equity=-5.0), "fall:0,credit_losses:0.01")
    (test,) = [t for t in unheld.tests if t.key == "capital_ratio"]
    assert test.after.measure.value is None
    assert "not positive" in (test.after.measure.reason or "")


@pytest.mark.parametrize(
    ("revenues", "fall", "origin"),
    [
        ((100, 90, 70, 95), 0.30, "its own worst"),
        ((100, 80, 90, 120, 84), 0.30, "its own worst"),
        ((100, 110, 120), 0.10, "never fell"),
        ((100, 98, 120), 0.10, "fell 2.0 % at most"),
        ((100,), 0.20, "a fifth"),
    ],
)
def test_a_fall_begins_where_its_past_went(
    revenues: tuple[float, ...], fall: float, origin: str
) -> None:
    years = tuple(
        year_statement(2026 - len(revenues) + n, **{**CASES["lines"], "revenue": revenue})
        for n, revenue in enumerate(revenues)
    )
    held = strained(replace(harbour(), statements=years), "months:12").inputs["fall"]
    assert held.figure.value == pytest.approx(fall)
    assert origin in held.origin


def test_for_every_payer_the_fall_is_each_ones_own_unless_it_is_typed() -> None:
    assert described(Strain()).startswith("all revenue falling as each payer’s own did at worst")
    one = strained(harbour(), "months:12")
    assert described(one.strain, one.inputs) == "all revenue −20 %"
    assert described(Strain(inputs={"fall": 0.2})) == "all revenue −20 %"
    assert inputs_of_all({})["fall"].figure.reason == "each payer’s own worst"


def test_years_that_are_missing_between_tell_no_fall() -> None:
    years = tuple(
        year_statement(y, **{**CASES["lines"], "revenue": revenue})
        for y, revenue in ((2018, 100.0), (2024, 40.0), (2025, 44.0))
    )
    held = strained(replace(harbour(), statements=years), "months:12").inputs["fall"]
    assert held.origin == "it never fell in the years on record: a tenth"
