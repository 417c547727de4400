"""What rules would say of all payers at once is what each review says under them."""

import numpy as np
import pytest

from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.finding.effects import NONE, states_under
from hearth_yield.core.finding.measured import measure
from hearth_yield.core.finding.search import Candidate, Universe
from hearth_yield.core.judging.house_rules import Exemption, HouseRules
from hearth_yield.core.judging.judge import WORST_FIRST
from hearth_yield.core.kinds import Kind
from hearth_yield.core.review import build_review
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from tests.core.build import TODAY


def need(value: float) -> Limit:
    return Limit(value=value, required=True)


RULES = {
    "the house's own": HouseRules(),
    "stricter": HouseRules(
        close_under=0.3,
        limits={
            Kind.COMPANY: {
                "payout": need(0.45),
                "debt_of_capital": need(0.25),
                "raises": need(20),
                "interest_cover": Limit(value=4, required=False),
            },
            Kind.PROPERTY_TRUST: {"debt_to_ebitda": need(5.0), "per_share_trend": need(0.01)},
            Kind.FINANCIAL: {"capital_ratio": need(0.145)},
        },
    ),
    "with exceptions": HouseRules(
        exemptions=(
            Exemption(scope="sector", name="Energy", measure="payout", limit=need(0.30)),
            Exemption(scope="payer", name="ELV/TRS", measure="payout", limit=need(0.90)),
            Exemption(
                scope="payer",
                name="ELV/GWK",
                measure="debt_to_ebitda",
                limit=Limit(value=1, required=False),
            ),
        )
    ),
}


@pytest.mark.parametrize("name", RULES)
def test_all_at_once_is_as_one_by_one(twenty: Database, name: str) -> None:
    rules = RULES[name]
    entries, wanted = [], []
    with twenty.read() as connection:
        for exchange, symbol in payer_files.keys(connection):
            file = payer_files.load(connection, exchange, symbol).cut(TODAY)
            held = measure(build_review(file, HouseRules()))
            gone = file.payer.delisted_on is not None
            entries.append(
                Candidate(
                    exchange=exchange, symbol=symbol, name=symbol, measured=held, delisted=gone
                )
            )
            state = build_review(file, rules).state
            wanted.append(NONE if state is None else WORST_FIRST.index(state))
    found = states_under(Universe(candidates=entries), rules)
    assert np.array_equal(found, wanted), [
        (e.symbol, int(a), int(b)) for e, a, b in zip(entries, found, wanted, strict=True) if a != b
    ]
