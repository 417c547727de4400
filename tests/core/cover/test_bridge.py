"""The bridge: every total is exact, whatever is reported between."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.cover.bridge import BRIDGES, Bridge, bridges
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.periods import fiscal_years
from hearth_yield.core.kinds import Kind
from tests.core.build import TODAY, payer, year_statement

TRUST = {
    "net_income": 100.0,
    "property_depreciation": 40.0,
    "gains_on_property_sales": 15.0,
    "recurring_capex": 12.0,
    "straight_line_rent": 3.0,
    "operating_cash_flow": 140.0,
    "dividends_paid": 90.0,
    "diluted_shares": 50.0,
}


def bridge(kind: Kind, **lines: float) -> Bridge:
    file = PayerFile(payer=payer(kind), statements=(year_statement(2025, **lines),)).cut(TODAY)
    (found,) = bridges(kind, fiscal_years(file), None)
    return found


def values(found: Bridge) -> dict[str, float | None]:
    return {id: f.value for id, f in found.total.items()}


def test_a_trusts_way_from_net_income_to_what_is_left() -> None:
    """100 + 40 − 15 = 125; − 12 − 3 = 110; − 90 = 20."""
    found = values(bridge(Kind.PROPERTY_TRUST, **TRUST))
    assert (found["ffo"], found["affo"], found["left"]) == (125.0, 110.0, 20.0)
    assert (found["impairments"], found["ffo_rest"], found["affo_rest"]) == (0.0, 0.0, 0.0)
    shares = bridge(Kind.PROPERTY_TRUST, **TRUST).per_share
    assert shares["affo"].value == pytest.approx(2.2)


def test_what_a_trust_publishes_beside_the_steps_is_everything_else() -> None:
    """FFO of 130 is 5 above the steps; AFFO of 113 is 130 − 12 − 3 − 2."""
    found = values(bridge(Kind.PROPERTY_TRUST, **TRUST, ffo=130.0, affo=113.0))
    assert (found["ffo_rest"], found["affo_rest"], found["left"]) == (5.0, -2.0, 23.0)


def test_a_partnerships_way_to_distributable_cash() -> None:
    lines = {"operating_cash_flow": 200.0, "maintenance_capex": 50.0, "dividends_paid": 120.0}
    found = values(bridge(Kind.PARTNERSHIP, **lines, distributable_cash_flow=140.0))
    assert (found["distributable_rest"], found["left"]) == (-10.0, 20.0)


def test_a_step_that_is_not_reported_is_left_to_everything_else() -> None:
    """Net income 100 and depreciation unknown: 60 to operating cash flow of 160."""
    lines = {"net_income": 100.0, "operating_cash_flow": 160.0, "capital_expenditure": 40.0}
    found = values(bridge(Kind.COMPANY, **lines, dividends_paid=50.0))
    assert found["depreciation_amortization"] is None
    assert (found["working_capital"], found["free_cash_flow"], found["left"]) == (60.0, 120.0, 70.0)


def test_a_financial_shows_its_capital_ratio_beside_its_earnings() -> None:
    found = bridge(Kind.FINANCIAL, net_income=80.0, dividends_paid=30.0, capital_ratio=0.14)
    assert found.capital_ratio is not None
    assert (found.capital_ratio.value, values(found)["net_income"]) == (0.14, 80.0)


money = st.integers(-(10**9), 10**9).map(float)


@given(st.sampled_from(list(BRIDGES)), st.data())
def test_steps_add_up_to_every_total_to_the_unit(kind: Kind, data: st.DataObject) -> None:
    specs = BRIDGES[kind]
    names = {s.id for s in specs if s.what in ("start", "step")}
    names |= {"operating_cash_flow", "capital_expenditure", "distributable_cash_flow", "affo"}
    lines = {n: data.draw(money, label=n) for n in sorted(names)}
    found = values(bridge(kind, **lines))
    running = 0.0
    for spec in specs:
        value = found[spec.id]
        assert value is not None
        if spec.what == "total":
            assert running == pytest.approx(value, abs=1e-3)
            running = value
        else:
            running += spec.sign * value


def test_the_newest_twelve_months_stand_last_where_they_are_newer() -> None:
    file = PayerFile(
        payer=payer(),
        statements=tuple(year_statement(y, net_income=1.0) for y in range(2015, 2026)),
    ).cut(TODAY)
    years = fiscal_years(file)
    assert [b.id for b in bridges(Kind.COMPANY, years, years[-1])][-1] == "2025-12-31"
    assert len(bridges(Kind.COMPANY, years, None)) == 6
    assert years[-1].end == date(2025, 12, 31)
