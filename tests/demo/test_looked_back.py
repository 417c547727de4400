"""The demo looked back on: whom its limits warn of, and whom they leave alone."""

from statistics import quantiles

import pytest

from hearth_yield.core.finding.effects import RANK
from hearth_yield.core.finding.look_back import LookedBack, past_of
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.judging.judge import State
from hearth_yield.core.kinds import Kind
from hearth_yield.core.review import review_of
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.core.build import TODAY

STEADY = ("TRS", "CRDW", "DRWL", "CVHD", "OPT", "ORVN")
SLID = ("GWK", "BRDM", "CRF", "BRNH", "FLWM")
"""Cut after their cover had slid for years."""


def looked(demo: Database, *symbols: str) -> LookedBack:
    with demo.read() as connection:
        held = [k for k in payer_files.keys(connection) if not symbols or k[1] in symbols]
        files = [payer_files.load(connection, exchange, symbol) for exchange, symbol in held]
    return LookedBack.of([past_of(f, TODAY) for f in files], TODAY)


@pytest.mark.parametrize("symbol", STEADY)
def test_a_steady_raiser_is_over_no_limit_in_nine_years_of_ten(demo: Database, symbol: str) -> None:
    states = looked(demo, symbol).states(HouseRules())
    assert (states != RANK[State.OUTSIDE]).mean() >= 0.9
    assert (states == RANK[State.WITHIN]).mean() >= 0.7


@pytest.mark.parametrize("symbol", SLID)
def test_a_payer_that_slid_was_flagged_a_year_before_its_cut(demo: Database, symbol: str) -> None:
    verdict = looked(demo, symbol).judged(HouseRules())
    assert verdict.cuts > 0
    assert verdict.rows[0].state in ("close", "outside")
    assert verdict.rows[0].earlier_state in ("close", "outside")


def test_payouts_have_the_spread_of_a_real_market(demo: Database) -> None:
    """Companies from growers that keep two thirds to payers that hand out more than comes in, with
    no twentieth part of the scale holding a third of them."""
    with demo.read() as connection:
        keys = payer_files.keys(connection)
        files = [payer_files.load(connection, *key) for key in keys]
    found = [
        figure.value
        for file in files
        if file.payer.kind is Kind.COMPANY
        and (figure := review_of(file, TODAY, HouseRules()).figure("payout")) is not None
        and figure.value is not None
    ]
    low, middle, high = quantiles(found, n=4)
    assert low < 0.40 < middle < 0.50 < high
    for start in range(0, 100, 5):
        inside = sum(start <= 100 * v < start + 5 for v in found)
        assert inside < len(found) / 3, start


def test_fewer_than_a_third_stand_close_today(demo: Database) -> None:
    with demo.read() as connection:
        keys = payer_files.keys(connection)
        states = [
            review_of(payer_files.load(connection, *key), TODAY, HouseRules()).state for key in keys
        ]
    assert 3 * states.count(State.CLOSE) < len(states)
    assert {State.WITHIN, State.CLOSE, State.OUTSIDE} <= set(states)
