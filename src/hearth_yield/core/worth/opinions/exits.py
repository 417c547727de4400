"""Dividends until it is sold: as declared, and out of cash."""

from __future__ import annotations

from ...cover.bases import Basis
from ...figures.figure import Unit, Unknown, given
from ...figures.inputs import Default, Inputs, InputSpec
from ...range.quantity import YIELD
from ..after_tax import MOST, credit_of
from ..declare import Ground, ModelSpec
from ..dividends import dividend_unsuited, early_years, unpaid
from ..staged import dividends_to_exit, kept_of_dividend
from ..trace import Trace, Value
from .cash import cash_unsuited, reads_years
from .common import TENTH_LESS, TENTH_MORE, five_years, part_spec, payout_of, touched


def _exit_yield(ground: Ground, _: Inputs) -> Default:
    usual = five_years(ground, YIELD)
    return Default(usual.figure.but(label="exit yield"), usual.origin)


_AS_OTHERS = "before tax, as the others"
BEFORE_TAX = Default(given("tax on dividends", Unit.FRACTION, 0.0, _AS_OTHERS), _AS_OTHERS)

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
        draws="exit_yield",
    ),
    part_spec("exit_tax", "Tax on dividends to the exit", lambda *_: BEFORE_TAX, (0.0, 0.95)),
    part_spec(
        "credited",
        "Part that carries a tax credit",
        lambda ground, _: credit_of(ground.file).part,
        (0.0, 1.0),
    ),
    part_spec(
        "credit_rate",
        "Tax rate behind the credit",
        lambda ground, _: credit_of(ground.file).rate,
        (0.0, MOST),
    ),
    part_spec(
        "cash_payout",
        "Payout of free cash flow",
        payout_of(Basis.FREE_CASH_FLOW, "payout of free cash flow"),
        (0.0, 3.0),
    ),
)
GROWN = ("growth", "later_growth", "exit_yield", "required_return")
EXIT = (*GROWN, "exit_tax", "credited", "credit_rate")
CASH_PAID = ("cash_start", "cash_payout", *GROWN)


def _exit(
    trace: Trace,
    n: Value,
    rate: Value,
    g: Value,
    later: Value,
    y: Value,
    r: Value,
    tax: Value = 0.0,
    q: Value = 0.0,
    c: Value = 0.0,
) -> Value:
    years = round(n)
    kept = kept_of_dividend(tax, q, c)
    return dividends_to_exit(rate, [(years, g), (years, later)], y, r, kept, trace)


def _cash_paid(trace: Trace, n: Value, start: Value, payout: Value, *grown: Value) -> Value:
    return _exit(trace, n, start * payout, *grown)


def _unpaid_cash(_: float, start: float, payout: float, *__: float) -> Unknown | None:
    paid = start > 0 and payout > 0
    return None if paid else Unknown("free cash flow pays no dividend")


MODELS = (
    ModelSpec(
        id="exit",
        name="Dividends to an exit",
        question="What are its dividends worth if it is sold after some years at its usual yield?",
        answers="dividends",
        takes=EXIT,
        reads=lambda ground, case: [
            early_years(ground),
            ground.record.declared_rate,
            *(case[id] for id in EXIT),
        ],
        worth=_exit,
        refuses=lambda _, rate, *__: unpaid(rate),
        formula="present value of two times the early years of dividends, after tax and with their "
        "credits, then sold at the exit yield",
        amount="dividend",
        unsuited=dividend_unsuited,
        touch=touched,
    ),
    ModelSpec(
        id="cash_paid",
        name="Dividends out of cash",
        question="What would dividends be worth that follow its cash and not what is declared?",
        answers="dividends",
        takes=CASH_PAID,
        reads=reads_years(*CASH_PAID),
        worth=_cash_paid,
        refuses=_unpaid_cash,
        formula="as dividends to an exit, the first one free cash flow × payout",
        amount="dividend out of cash",
        unsuited=lambda ground, inputs: (
            dividend_unsuited(ground, inputs) or cash_unsuited(ground, inputs)
        ),
        touch=touched,
    ),
)
