"""The cash that all capital shares, and the cash that revenue and margin leave."""

from __future__ import annotations

from dataclasses import replace

from ...facts.derived import total_debt
from ...facts.periods import fiscal_years, years_excluded
from ...figures.figure import Unit, Unknown, derive, unknown
from ...figures.inputs import Default, Inputs, InputSpec
from ...range.multiples import CLAIMS
from ..declare import Ground, ModelSpec
from ..dividends import early_years
from ..growth import FASTER, SLOWER
from ..staged import cash_value_to_multiple
from ..trace import Trace, Value, lower_of
from .cash import GROWN, MOST_IN_TOTAL, cash_unsuited, for_ever, positive
from .common import (
    POINT_LESS,
    POINT_MORE,
    amount_spec,
    lasting_spec,
    lines_of_twelve,
    newest_shares,
    of_twelve,
    one_currency,
    part_spec,
    revenue_growth,
    total_growth_spec,
    touched,
)

TWELVE = "twelve months"


def _tax_rate(ground: Ground, _: Inputs) -> Default:
    def compute(tax: float, kept: float) -> float | Unknown:
        return tax / (kept + tax) if kept + tax > 0 else Unknown("nothing was earned")

    rate = of_twelve(
        ground,
        "tax rate",
        Unit.FRACTION,
        "tax ÷ (net income + tax)",
        lambda p: [p.line("tax"), p.line("net_income")],
        compute,
    )
    return Default(rate, TWELVE)


def _firm_start(ground: Ground, chosen: Inputs) -> Default:
    """Mean of three fiscal years of what all capital shares, for each share of today."""
    years = fiscal_years(ground.file)[-3:]
    label, origin = "cash for all capital per share", "mean of three years"
    left = years_excluded(ground.file, years)
    if len(years) < 3:
        why = "fewer than three fiscal years are held"
        return Default(unknown(label, Unit.PER_SHARE, why).with_exclusions(left), origin)
    names = ("operating_cash_flow", "capital_expenditure", "interest_expense")
    lines = [y.line(n) for y in years for n in names]
    mixed = one_currency(lines)
    if mixed is not None:
        return Default(unknown(label, Unit.PER_SHARE, mixed).with_exclusions(left), origin)

    def compute(tax: float, shares: float, *v: float) -> float | Unknown:
        if shares <= 0:
            return Unknown("no diluted shares")
        return float(_start_worked(tax, shares, *v))

    found = derive(
        label,
        Unit.PER_SHARE,
        "mean of three fiscal years of operating cash flow − capital expenditure + interest × "
        "(1 − tax rate), ÷ diluted shares of the newest statement",
        [chosen["firm_tax"].figure, newest_shares(ground), *lines],
        compute,
        currency=lines[0].currency,
    )
    return Default(found.with_exclusions(left), origin)


def _firm_return(ground: Ground, chosen: Inputs) -> Default:
    """The required return on the shares and the interest after tax on the debt, each by its part of
    what both are worth."""

    def compute(
        r: float, price: float, shares: float, debt: float, interest: float, tax: float
    ) -> float | Unknown:
        if price * shares + debt <= 0:
            return Unknown("there is no capital")
        if debt <= 0:
            return r
        return float(_return_worked(r, price, shares, debt, interest, tax))

    found = of_twelve(
        ground,
        "rate for all capital",
        Unit.FRACTION,
        "(price × shares × required return + interest × (1 − tax rate)) ÷ (price × shares + total "
        "debt), not above the required return; that alone where nothing is owed",
        lambda p: [
            chosen["required_return"].figure,
            ground.file.price,
            p.line("diluted_shares"),
            total_debt(p),
            p.line("interest_expense"),
            chosen["firm_tax"].figure,
        ],
        compute,
    )
    return Default(found, "required return and interest, by weight")


def _margin(ground: Ground, _: Inputs) -> Default:
    found = of_twelve(
        ground,
        "net margin",
        Unit.FRACTION,
        "net income ÷ revenue",
        lambda p: [p.line("net_income"), p.line("revenue")],
        lambda kept, sold: kept / sold if sold > 0 else Unknown("there was no revenue"),
    )
    return Default(found, TWELVE)


def _conversion(ground: Ground, chosen: Inputs) -> Default:
    """Mean free cash flow of three years ÷ what the margin leaves of revenue."""

    def compute(cash: float, sold: float, margin: float, shares: float) -> float | Unknown:
        if margin <= 0 or sold <= 0:
            return Unknown("the margin is not positive")
        return float(_conversion_worked(cash, sold, margin, shares))

    found = of_twelve(
        ground,
        "cash of net income",
        Unit.FRACTION,
        "free cash flow per share ÷ (revenue × net margin ÷ diluted shares)",
        lambda p: [
            chosen["cash_start"].figure,
            p.line("revenue"),
            chosen["net_margin"].figure,
            p.line("diluted_shares"),
        ],
        compute,
    )
    return Default(found, "three years of cash")


def _start_worked(tax: Value, shares: Value, *lines: Value) -> Value:
    each = zip(lines[::3], lines[1::3], lines[2::3], strict=True)
    return sum(cash - capex + interest * (1 - tax) for cash, capex, interest in each) / 3 / shares


def _return_worked(
    r: Value, price: Value, shares: Value, debt: Value, interest: Value, tax: Value
) -> Value:
    own = price * shares
    return lower_of(r, (own * r + interest * (1 - tax)) / (own + debt))


def _conversion_worked(cash: Value, sold: Value, margin: Value, shares: Value) -> Value:
    return cash / (sold * margin / shares)


INPUTS = (
    part_spec("firm_tax", "Tax rate", _tax_rate, (-1.0, 1.0)),
    replace(
        amount_spec("firm_start", "Cash for all capital, per share", _firm_start),
        advice=lambda _: "before interest, so that debt may be taken off once, at the end",
        worked=_start_worked,
    ),
    InputSpec(
        id="firm_return",
        label="Rate for all capital",
        name="rate for all capital",
        unit=Unit.FRACTION,
        default=_firm_return,
        bounds=(0.001, 0.5),
        low=POINT_MORE,
        high=POINT_LESS,
        draws="return",
        worked=_return_worked,
    ),
    total_growth_spec("revenue_growth", "Growth of revenue", revenue_growth),
    lasting_spec("revenue_lasting", "Growth of revenue for ever", "revenue_growth", MOST_IN_TOTAL),
    InputSpec(
        id="net_margin",
        label="Net margin",
        name="net margin",
        unit=Unit.FRACTION,
        default=_margin,
        bounds=(-1.0, 1.0),
        low=SLOWER,
        high=FASTER,
    ),
    replace(
        part_spec("cash_of_income", "Cash of net income", _conversion, (-5.0, 5.0)),
        worked=_conversion_worked,
    ),
)
FIRM = ("firm_start", *GROWN, "firm_return")
REVENUE_SOLD = (
    "net_margin",
    "cash_of_income",
    "revenue_growth",
    "cash_multiple",
    "dilution",
    "required_return",
)
SALES = ("revenue_growth", "revenue_lasting", "dilution")
REVENUE = ("net_margin", "cash_of_income", *SALES, "required_return")


def _firm(trace: Trace, n: Value, claims: Value, *cash: Value) -> Value:
    return for_ever(trace, n, *cash) + trace.part("owed, net of cash", -claims)


def _revenue(
    trace: Trace, n: Value, sold: Value, shares: Value, margin: Value, kept: Value, *grown: Value
) -> Value:
    return for_ever(trace, n, sold * margin * kept / shares, *grown)


def _revenue_sold(
    trace: Trace,
    n: Value,
    sold: Value,
    shares: Value,
    margin: Value,
    kept: Value,
    g: Value,
    multiple: Value,
    b: Value,
    r: Value,
) -> Value:
    start = sold * margin * kept / shares
    return cash_value_to_multiple(start, [(round(n), g)], multiple, r, b, trace)


def _none_left(
    _: float, sold: float, shares: float, margin: float, kept: float, *__: float
) -> Unknown | None:
    positive = shares > 0 and sold * margin * kept > 0
    return None if positive else Unknown("revenue leaves no cash")


_cash = positive("cash for all capital")


MODELS = (
    ModelSpec(
        id="cash_to_firm",
        name="Cash flow to the firm",
        question="What is the cash worth that all capital shares, less what is owed?",
        answers="cash",
        takes=("firm_tax", *FIRM, "required_return"),
        reads=lambda ground, case: [
            early_years(ground),
            CLAIMS.now(ground.file),
            *(case[id] for id in FIRM),
        ],
        worth=_firm,
        lasting=("cash_lasting", "firm_return"),
        refuses=lambda _, __, x, *___: _cash(x),
        formula="present value of cash for all capital, for ever, − net debt, minority and "
        "preferred per share",
        amount="cash for all capital",
        unsuited=cash_unsuited,
        touch=touched,
    ),
    ModelSpec(
        id="revenue",
        name="Revenue-driven cash flow",
        question="What is it worth by its sales, its margin and the cash they leave?",
        answers="cash",
        takes=("cash_start", *REVENUE),
        reads=lambda ground, case: [
            early_years(ground),
            *lines_of_twelve(ground, "revenue", "diluted_shares"),
            *(case[id] for id in REVENUE),
        ],
        worth=_revenue,
        lasting=("revenue_lasting", "required_return"),
        refuses=_none_left,
        formula="revenue × net margin × cash of net income ÷ shares, by stages and for ever",
        amount="cash per share",
        unsuited=cash_unsuited,
        touch=touched,
    ),
    ModelSpec(
        id="revenue_to_multiple",
        name="Revenue-driven, sold at a multiple",
        question="What is it worth by its sales and margin if it is sold after some years?",
        answers="cash",
        takes=("cash_start", *REVENUE_SOLD),
        reads=lambda ground, case: [
            early_years(ground),
            *lines_of_twelve(ground, "revenue", "diluted_shares"),
            *(case[id] for id in REVENUE_SOLD),
        ],
        worth=_revenue_sold,
        refuses=_none_left,
        formula="revenue × net margin × cash of net income ÷ shares, the early years of it, then "
        "sold at the exit multiple of the last",
        amount="cash per share",
        unsuited=cash_unsuited,
        touch=touched,
    ),
)
