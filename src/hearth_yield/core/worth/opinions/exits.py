"""Dividends until it is sold: as declared, and out of cash."""

from __future__ import annotations

from ...cover.bases import Basis
from ...figures.figure import Figure, Unit, Unknown, given
from ...figures.inputs import Case, Default, Inputs, InputSpec
from ..declare import Ground, ModelSpec
from ..dividends import dividend_unsuited
from ..staged import dividends_to_exit, kept_of_dividend
from .cash import cash_unsuited
from .common import TENTH_LESS, TENTH_MORE, Read, part_spec, payout_of, touched, valued


def _exit_yield(ground: Ground, _: Inputs) -> Default:
    return Default(ground.yields.mean.but(label="exit yield"), "5-year mean")


def _nil(name: str, origin: str) -> Read:
    return lambda *_: Default(given(name, Unit.FRACTION, 0.0, origin), origin)


INPUTS = (
    InputSpec(
        id="exit_yield",
        label="Exit yield",
        name="exit yield",
        unit=Unit.YIELD,
        default=_exit_yield,
        bounds=(0.0001, 1.0),
        step=0.0005,
        low=TENTH_MORE,
        high=TENTH_LESS,
    ),
    part_spec(
        "exit_tax",
        "Tax on dividends to the exit",
        _nil("tax on dividends", "before tax, as the others"),
        (0.0, 0.95),
    ),
    part_spec("credited", "Part that carries a tax credit", _nil("part", "none"), (0.0, 1.0)),
    part_spec("credit_rate", "Tax rate behind the credit", _nil("tax rate", "none"), (0.0, 0.95)),
    part_spec(
        "cash_payout",
        "Payout of free cash flow",
        payout_of(Basis.FREE_CASH_FLOW, "payout of free cash flow"),
        (0.0, 3.0),
    ),
)
GROWN = ("growth", "later_growth", "exit_yield", "required_return")
EXIT = (*GROWN, "exit_tax", "credited", "credit_rate")
CASH_PAID = (*GROWN, "cash_start", "cash_payout")


def _exit(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years

    def value(
        d: float, g: float, later: float, y: float, r: float, tax: float, q: float, c: float
    ) -> float | Unknown:
        if d <= 0:
            return Unknown("nothing is being paid")
        return dividends_to_exit(d, [(n, g), (n, later)], y, r, kept_of_dividend(tax, q, c))

    return valued(
        label,
        f"present value of {2 * n} years of dividends, after tax and with their credits, then sold "
        "at the exit yield",
        [ground.record.declared_rate, *(case[i] for i in EXIT)],
        value,
    )


def _cash_paid(ground: Ground, case: Case, label: str) -> Figure:
    n = ground.rules.early_years

    def value(
        g: float, later: float, y: float, r: float, x: float, payout: float
    ) -> float | Unknown:
        if x <= 0 or payout <= 0:
            return Unknown("free cash flow pays no dividend")
        return dividends_to_exit(x * payout, [(n, g), (n, later)], y, r)

    return valued(
        label,
        f"as dividends to an exit, the first one free cash flow × payout: {2 * n} years",
        [case[i] for i in CASH_PAID],
        value,
    )


MODELS = (
    ModelSpec(
        id="exit",
        name="Dividends to an exit",
        question="What are its dividends worth if it is sold after some years at its usual yield?",
        answers="dividends",
        lead=False,
        takes=EXIT,
        value=_exit,
        unsuited=lambda ground, _: dividend_unsuited(ground),
        touch=touched,
    ),
    ModelSpec(
        id="cash_paid",
        name="Dividends out of cash",
        question="What would dividends be worth that follow its cash and not what is declared?",
        answers="dividends",
        lead=False,
        takes=CASH_PAID,
        value=_cash_paid,
        unsuited=lambda ground, inputs: dividend_unsuited(ground) or cash_unsuited(ground, inputs),
        touch=touched,
    ),
)
