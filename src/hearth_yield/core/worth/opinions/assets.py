"""What a payer owns: its net assets, its buildings by their rent, and what rents leave."""

from __future__ import annotations

from collections.abc import Callable

from ...cover.bases import Basis
from ...figures.figure import Figure, Unit, Unknown, given
from ...figures.inputs import Case, Default, Inputs, InputSpec
from ...kinds import Kind
from ...range.multiples import AFFO, BOOK, CLAIMS
from ..declare import Ground, ModelSpec
from ..staged import funds_path_value
from .common import (
    POINT_LESS,
    POINT_MORE,
    amount_spec,
    growth_spec,
    lasting,
    multiple_spec,
    of_twelve,
    part_spec,
    payout_of,
    touched,
    trend,
    valued,
)


def _funds_start(ground: Ground, _: Inputs) -> Default:
    return Default(AFFO.now(ground.file), "twelve months")


def _cap_rate(ground: Ground, _: Inputs) -> Default:
    rule = ground.rules.cap_rate
    return Default(given("cap rate", Unit.YIELD, rule, "house rule"), "house rule")


INPUTS = (
    amount_spec("funds_start", "AFFO per unit", _funds_start),
    growth_spec("funds_growth", "Growth of AFFO", trend(Basis.AFFO, "growth of AFFO")),
    growth_spec("funds_lasting", "Later growth of AFFO", lasting("funds_growth")),
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


def _funds(_: Ground, case: Case, label: str) -> Figure:
    def value(
        a: float, g: float, later: float, b: float, payout: float, m: float, r: float
    ) -> float | Unknown:
        if a <= 0:
            return Unknown("AFFO per unit is not positive")
        stages = [(3, g), (3, (g + later) / 2), (4, later)]
        return funds_path_value(a, stages, b, payout, m, r)

    return valued(
        label,
        "present value of what is paid out of ten years of AFFO, then sold at the exit multiple",
        [case[i] for i in FUNDS],
        value,
    )


def _net_assets(ground: Ground, _: Case, label: str) -> Figure:
    return BOOK.now(ground.file).but(label=label)


def _income_assets(ground: Ground, case: Case, label: str) -> Figure:
    def compute(rent: float, owed: float, rate: float, units: float) -> float | Unknown:
        return (rent / rate - owed) / units if units > 0 else Unknown("no diluted shares")

    return of_twelve(
        ground,
        label,
        Unit.PER_SHARE,
        "(net operating income ÷ cap rate − net debt − minority − preferred) ÷ units",
        lambda p: [
            p.line("net_operating_income"),
            CLAIMS.total(p),
            case["cap_rate"],
            p.at_end("diluted_shares"),
        ],
        compute,
    )


def _only(why: str, *kinds: Kind) -> Callable[[Ground, Inputs], str | None]:
    return lambda ground, _: None if ground.file.payer.kind in kinds else why


MODELS = (
    ModelSpec(
        id="funds",
        name="AFFO, sold at a multiple",
        question="What is a unit worth by what its rents leave, sold after ten years?",
        answers="cash",
        lead=False,
        takes=FUNDS,
        value=_funds,
        unsuited=_only("only a property trust reports AFFO", Kind.PROPERTY_TRUST),
        touch=touched,
    ),
    ModelSpec(
        id="net_assets",
        name="Net asset value",
        question="What would be left of what it owns after what it owes?",
        answers="assets",
        lead=False,
        takes=(),
        value=_net_assets,
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
        answers="assets",
        lead=False,
        takes=("cap_rate",),
        value=_income_assets,
        unsuited=_only("it has no rent to capitalise", Kind.PROPERTY_TRUST),
        touch=touched,
    ),
)
