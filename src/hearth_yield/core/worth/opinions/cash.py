"""The cash that is left for shareholders: for ever, sold at a multiple, and beside the best
bonds."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from ...cover.bases import Basis, CoverPeriod
from ...cover.cover import BasisCover
from ...facts.points import newest_point
from ...figures.figure import Figure, Unit, Unknown, derive, given, percent, unknown
from ...figures.inputs import Case, Default, Inputs, InputSpec
from ...kinds import Kind
from ...range.multiples import EARNINGS, PRICE_TO_EARNINGS
from ..declare import Ground, ModelSpec
from ..dividends import early_years
from ..expected import estimated_growth
from ..staged import cash_value, cash_value_to_multiple, graham_growth_value
from ..trace import Trace, Value
from .common import (
    amount_spec,
    basis_of,
    dilution_of,
    growth_spec,
    lasting_spec,
    multiple_spec,
    newest_shares,
    one_currency,
    total_growth,
    total_growth_spec,
    touched,
)

STEEP = 0.15
"""Growth beyond it, to either side, is none that Graham's formula was made for."""
MOST_IN_TOTAL = 0.03
"""What grows in total is taken to go on no faster than this."""
WORDS = {3: "three", 5: "five"}
GRAHAM = "Graham’s own"


def _basis_years(ground: Ground) -> tuple[BasisCover | None, list[CoverPeriod]]:
    basis = basis_of(ground, Basis.FREE_CASH_FLOW)
    return basis, [] if basis is None else [y for y in basis.years if not y.excluded]


def _apiece(ground: Ground, totals: list[Figure], origin: str, **meta: Any) -> Figure:
    """The mean of some totals for each share of today's."""
    shares, why = newest_shares(ground), one_currency(totals)
    if why is not None:
        return unknown("free cash flow per share", Unit.PER_SHARE, why)
    return derive(
        "free cash flow per share",
        Unit.PER_SHARE,
        f"{origin}, in all after preferred dividends ÷ diluted shares of the newest statement",
        [*totals, shares],
        lambda *v: sum(v[:-1]) / len(v[:-1]) / v[-1] if v[-1] > 0 else Unknown("no diluted shares"),
        currency=totals[-1].currency,
        **meta,
    )


def _mean_of(ground: Ground, wanted: int) -> Default:
    """Mean of the last fiscal years in all, for each share of today; with a caution where a freak
    year is among them."""
    basis, years = _basis_years(ground)
    held, label = years[-wanted:], "free cash flow per share"
    origin, left = f"mean of {WORDS[wanted]} years", basis.gone if basis else ()
    if len(held) < wanted:
        why = f"fewer than {WORDS[wanted]} fiscal years of free cash flow are held"
        return Default(unknown(label, Unit.PER_SHARE, why).with_exclusions(left), origin)
    among = ", ".join(y.label for y in held if y.freak)
    cautions = (f"the mean has a freak year in it: {among}",) if among else ()
    figure = _apiece(ground, [y.driver for y in held], origin, cautions=cautions)
    return Default(figure.with_exclusions(left), origin)


def _start(ground: Ground, _: Inputs) -> Default:
    return _mean_of(ground, 3)


def _starts(ground: Ground, _: Inputs) -> list[Default]:
    """What a cash model may begin with besides a figure of the person's own."""
    basis, years = _basis_years(ground)
    if basis is None:
        return []
    single = [("latest year", years[-1])] if years else []
    if basis.trailing:
        single.append(("twelve months", basis.trailing))
    latest = [
        Default(_apiece(ground, [y.driver], origin).with_exclusions(basis.gone), origin)
        for origin, y in single
    ]
    return [*latest, _mean_of(ground, 3), _mean_of(ground, 5)]


def cash_unsuited(ground: Ground, _: Inputs) -> str | None:
    """Why free cash flow says little of a payer."""
    basis = basis_of(ground, Basis.FREE_CASH_FLOW)
    if basis is None:
        return f"free cash flow says little of a {ground.file.payer.kind.words}"
    five = [y.per_share.value for y in basis.years][-5:]
    positive = sum(v is not None and v > 0 for v in five)
    if positive < 3:
        return f"free cash flow was positive in {positive} of the last {len(five)} years"
    return None


def _dilution(ground: Ground, _: Inputs) -> Default:
    return Default(dilution_of(ground), "five years of share counts")


def _of_buybacks(dilution: float) -> str | None:
    """A share count that falls has to be paid for."""
    if dilution >= 0:
        return None
    return (
        "counted as 0: shares bought back at a fair price add nothing to value, as the cash that "
        "pays for them is gone"
    )


def _earnings_growth(ground: Ground, _: Inputs) -> Default:
    """Of earnings per share: the trend of five years; where there is none, what analysts expect."""
    basis = basis_of(ground, Basis.EARNINGS)
    found = basis.per_share_trend if basis else None
    if found is not None and found.known:
        return Default(found.but(label="growth of earnings"), "trend of five years")
    expected = estimated_growth(ground, PRICE_TO_EARNINGS)
    return Default(expected.but(label="growth of earnings"), "what analysts expect")


def _aaa(ground: Ground, _: Inputs) -> Default:
    found = newest_point(
        "AAA yield", Unit.YIELD, ground.file.aaa_yield, "aaa_yield", ground.file.day
    )
    return Default(found, "newest AAA yield")


def _graham_spec(id: str, label: str, value: float, high: float) -> InputSpec:
    return InputSpec(
        id=id,
        label=label,
        name=label,
        unit=Unit.COUNT,
        default=lambda *_: Default(given(label, Unit.COUNT, value, GRAHAM), GRAHAM),
        bounds=(0.0, high),
        step=0.5,
    )


INPUTS = (
    replace(
        amount_spec("cash_start", "Free cash flow per share", _start),
        offers=_starts,
        advice=lambda _: "interest is paid already; taking debt off too would count it twice",
    ),
    InputSpec(
        id="dilution",
        label="Dilution a year",
        name="dilution",
        unit=Unit.FRACTION,
        default=_dilution,
        bounds=(-0.2, 0.5),
        advice=_of_buybacks,
    ),
    replace(
        total_growth_spec(
            "cash_growth",
            "Growth of cash in all",
            total_growth(Basis.FREE_CASH_FLOW, "growth of cash in all"),
        ),
        shown="always",
    ),
    lasting_spec("cash_lasting", "Growth of cash for ever", "cash_growth", MOST_IN_TOTAL),
    multiple_spec("cash_multiple", "Exit price to free cash flow", "free_cash_flow"),
    growth_spec("earnings_growth", "Growth of earnings", _earnings_growth),
    InputSpec(
        id="aaa_yield",
        label="AAA yield",
        name="AAA yield",
        unit=Unit.YIELD,
        default=_aaa,
        bounds=(0.001, 0.5),
        step=0.0005,
    ),
    _graham_spec("graham_base", "Multiple without growth", 8.5, 30.0),
    _graham_spec("graham_k", "Weight of growth", 2.0, 5.0),
)
GROWN = ("cash_growth", "cash_lasting", "dilution")
EQUITY = ("cash_start", *GROWN, "required_return")
GRAHAM_TAKES = ("earnings_growth", "graham_base", "graham_k", "aaa_yield")
SOLD = ("cash_start", "cash_growth", "cash_multiple", "dilution", "required_return")


def reads_years(*ids: str) -> Callable[[Ground, Case], list[Figure]]:
    """How long each stage lasts, and inputs."""
    return lambda ground, case: [early_years(ground), *(case[id] for id in ids)]


def for_ever(
    trace: Trace, n: Value, start: Value, g: Value, last: Value, b: Value, r: Value
) -> Value:
    """Cash per share that grows n years, n more half way to the growth for ever, then at that."""
    years = round(n)
    return cash_value(start, [(years, g), (years, (g + last) / 2)], last, r, b, trace)


def _sold(trace: Trace, n: Value, start: Value, g: Value, m: Value, b: Value, r: Value) -> Value:
    return cash_value_to_multiple(start, [(round(n), g)], m, r, b, trace)


def positive(what: str) -> Callable[[float], Unknown | None]:
    return lambda x: None if x > 0 else Unknown(f"{what} is not positive")


_cash = positive("free cash flow per share")


def _graham_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    kind = ground.file.payer.kind
    if kind not in (Kind.COMPANY, Kind.FINANCIAL):
        return f"earnings say little of a {kind.words}"
    earned, growth = EARNINGS.now(ground.file), _earnings_growth(ground, inputs).figure.value
    if earned.value is None:
        return f"earnings per share unknown: {earned.reason}"
    if earned.value <= 0:
        return "earnings per share are not positive"
    if "earnings_growth" in ground.choices.inputs:
        growth = ground.choices.inputs["earnings_growth"]
    if growth is not None and abs(growth) > STEEP:
        return f"growth of earnings is beyond ± {percent(STEEP)}"
    return None


MODELS = (
    ModelSpec(
        id="cash_to_equity",
        name="Cash flow to equity",
        question="What is the cash worth that is left for shareholders, for ever?",
        answers="cash",
        leads=(Kind.COMPANY, Kind.PARTNERSHIP),
        takes=EQUITY,
        reads=reads_years(*EQUITY),
        worth=for_ever,
        lasting=("cash_lasting", "required_return"),
        refuses=lambda _, x, *__: _cash(x),
        formula="present value of the early years at the growth, as many half way to the growth "
        "for ever, and all after; no debt is taken off, as interest is paid already",
        amount="cash per share",
        unsuited=cash_unsuited,
        touch=touched,
    ),
    ModelSpec(
        id="cash_to_multiple",
        name="Cash flow, sold at a multiple",
        question="What is that cash worth if it is sold after some years at its usual multiple?",
        answers="cash",
        takes=SOLD,
        reads=reads_years(*SOLD),
        worth=_sold,
        refuses=lambda _, x, *__: _cash(x),
        formula="present value of the cash of the early years, then sold at the exit multiple of "
        "the last",
        amount="cash per share",
        unsuited=cash_unsuited,
        touch=touched,
    ),
    ModelSpec(
        id="graham",
        name="Graham’s growth formula",
        question="What would a growing earner be worth beside the best bonds?",
        answers="others",
        takes=GRAHAM_TAKES,
        reads=lambda ground, case: [EARNINGS.now(ground.file), *(case[id] for id in GRAHAM_TAKES)],
        worth=lambda _, *x: graham_growth_value(*x),
        formula="earnings per share × (multiple without growth + weight × growth in percent) × "
        "4.4 ÷ AAA yield in percent",
        unsuited=_graham_unsuited,
        touch=touched,
    ),
)
