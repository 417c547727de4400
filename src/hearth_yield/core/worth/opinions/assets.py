"""What a payer owns: its net assets, its buildings by their rent, and what rents leave."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from ...cover.bases import Basis
from ...facts.periods import trailing_period
from ...figures.figure import Figure, Unit, Unknown, given
from ...figures.inputs import Case, Default, Inputs, InputSpec
from ...kinds import Kind
from ...range.multiples import AFFO, BOOK, CLAIMS, FFO, statements_left
from ..declare import Ground, ModelSpec
from ..staged import funds_path_value
from ..trace import Trace, Value
from .cash import positive
from .common import (
    POINT_LESS,
    POINT_MORE,
    amount_spec,
    lasting_spec,
    lines_of_twelve,
    multiple_spec,
    part_spec,
    payout_of,
    total_growth,
    total_growth_spec,
    touched,
)


def _funds_start(ground: Ground, _: Inputs) -> Default:
    return Default(AFFO.now(ground.file), "twelve months")


def _funds_starts(ground: Ground, _: Inputs) -> list[Default]:
    """Rents before and after what keeps the buildings as they are."""
    return [
        Default(AFFO.now(ground.file), "AFFO of twelve months"),
        Default(FFO.now(ground.file), "FFO of twelve months"),
    ]


def _cap_rate(ground: Ground, _: Inputs) -> Default:
    rule = ground.rules.cap_rate
    return Default(given("cap rate", Unit.YIELD, rule, "house rule"), "house rule")


INPUTS = (
    replace(amount_spec("funds_start", "AFFO per unit", _funds_start), offers=_funds_starts),
    replace(
        total_growth_spec(
            "funds_growth",
            "Growth of AFFO in all",
            total_growth(Basis.AFFO, "growth of AFFO in all"),
        ),
        shown="always",
    ),
    lasting_spec("funds_lasting", "Later growth of AFFO", "funds_growth"),
    part_spec(
        "funds_payout", "Payout of AFFO", payout_of(Basis.AFFO, "payout of AFFO"), (0.0, 3.0)
    ),
    multiple_spec("funds_multiple", "Exit price to AFFO", "affo"),
    InputSpec(
        id="cap_rate",
        label="Cap rate",
        name="cap rate",
        unit=Unit.YIELD,
        default=_cap_rate,
        bounds=(0.005, 0.5),
        step=0.0005,
        low=POINT_MORE,
        high=POINT_LESS,
        draws="exit_yield",
    ),
)
FUNDS = (
    "funds_start",
    "funds_growth",
    "funds_lasting",
    "dilution",
    "funds_payout",
    "funds_multiple",
    "required_return",
)


def _funds(
    trace: Trace, a: Value, g: Value, later: Value, b: Value, payout: Value, m: Value, r: Value
) -> Value:
    stages = [(3, g), (3, (g + later) / 2), (4, later)]
    return funds_path_value(a, stages, b, payout, m, r, trace)


_affo = positive("AFFO per unit")


def _buildings(ground: Ground, case: Case) -> list[Figure]:
    (rent,) = lines_of_twelve(ground, "net_operating_income")
    period = trailing_period(ground.file)
    left = statements_left(ground.file, period)
    if period is None:
        return [rent]
    owed, units = CLAIMS.total(period), period.at_end("diluted_shares")
    return [rent, case["cap_rate"], owed.with_exclusions(left), units.with_exclusions(left)]


def _only(why: str, *kinds: Kind) -> Callable[[Ground, Inputs], str | None]:
    return lambda ground, _: None if ground.file.payer.kind in kinds else why


MODELS = (
    ModelSpec(
        id="funds",
        name="AFFO, sold at a multiple",
        question="What is a unit worth by what its rents leave, sold after ten years?",
        answers="cash",
        leads=(Kind.PROPERTY_TRUST,),
        takes=FUNDS,
        reads=lambda _, case: [case[id] for id in FUNDS],
        worth=_funds,
        refuses=lambda a, *_: _affo(a),
        formula="present value of what is paid out of ten years of AFFO, then sold at the exit "
        "multiple",
        amount="AFFO per unit",
        unsuited=_only("only a property trust reports AFFO", Kind.PROPERTY_TRUST),
        touch=touched,
    ),
    ModelSpec(
        id="net_assets",
        name="Net asset value",
        question="What would be left of what it owns after what it owes?",
        answers="others",
        takes=(),
        reads=lambda ground, _: [BOOK.now(ground.file)],
        worth=lambda _, assets: assets,
        formula="net assets per share",
        unsuited=_only(
            "its worth lies in what it earns, not in what it owns",
            Kind.PROPERTY_TRUST,
            Kind.FINANCIAL,
        ),
        touch=touched,
    ),
    ModelSpec(
        id="income_assets",
        name="Net asset value from income",
        question="What would its buildings fetch by the rent they bring?",
        answers="others",
        takes=("cap_rate",),
        reads=_buildings,
        worth=lambda _, rent, rate, owed, units: (rent / rate - owed) / units,
        refuses=lambda *x: None if x[-1] > 0 else Unknown("no diluted shares"),
        formula="(net operating income ÷ cap rate − net debt − minority − preferred) ÷ units",
        unsuited=_only("it has no rent to capitalise", Kind.PROPERTY_TRUST),
        touch=touched,
    ),
)
