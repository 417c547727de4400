"""The dividend models as they are declared: constant growth, two stages, fading growth."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from datetime import date

from ..figures.figure import Figure, Touch, Unit, Unknown, derive, given, percent, touch_of
from ..figures.inputs import Case, Inputs
from ..figures.ties import above
from ..record.payments import manual_edits_between
from .declare import Ground, ModelSpec, ModelYear
from .dividend_discount import constant_growth_value, fading_value, two_stage_value
from .growth import limitless

LEAST_PAYOUT = 0.40
"""Under it a dividend says little of what the payer is worth."""


def _discounted(
    rate: Figure,
    label: str,
    formula: str,
    inputs: Sequence[Figure],
    lasting: int,
    value: Callable[..., float],
) -> Figure:
    """A dividend discounted. lasting: which of the inputs, the required return last, is the growth
    that goes on for ever."""

    def compute(d: float, *x: float) -> float | Unknown:
        if d <= 0:
            return Unknown("nothing is being paid")
        return limitless(x[lasting], x[-1]) or value(d, *x)

    return derive(label, Unit.PER_SHARE, formula, [rate, *inputs], compute, currency=rate.currency)


def _constant_growth(ground: Ground, case: Case, label: str) -> Figure:
    return _discounted(
        ground.record.declared_rate,
        label,
        "declared rate × (1 + growth) ÷ (required return − growth)",
        [case["lasting_growth"], case["required_return"]],
        0,
        constant_growth_value,
    )


def _rule(label: str, years: int) -> Figure:
    return given(label, Unit.YEARS, float(years), "house rule")


def _two_stage(ground: Ground, case: Case, label: str) -> Figure:
    early = _rule("early years", ground.rules.early_years)
    return _discounted(
        ground.record.declared_rate,
        label,
        "present value of the dividends of the early years + that of constant growth at the later "
        "growth from then on",
        [case["growth"], early, case["later_growth"], case["required_return"]],
        2,
        lambda d, g, n, later, r: two_stage_value(d, g, round(n), later, r),
    )


def _fading(ground: Ground, case: Case, label: str) -> Figure:
    fade = _rule("years of fading", ground.rules.fade_years)
    return _discounted(
        ground.record.declared_rate,
        label,
        "declared rate × [(1 + later growth) + half the fade × (growth − later growth)] ÷ "
        "(required return − later growth)",
        [case["growth"], fade, case["later_growth"], case["required_return"]],
        2,
        fading_value,
    )


def _early_years(ground: Ground, case: Case) -> Sequence[ModelYear]:
    """The dividends of the early years, and what each is worth now."""
    rate, growth = ground.record.declared_rate.value, case["growth"].value
    wanted = case["required_return"].value
    if not rate or growth is None or wanted is None:
        return ()
    found = []
    for year in range(1, ground.rules.early_years + 1):
        dividend = rate * (1 + growth) ** year
        found.append(ModelYear(year, growth, dividend, dividend / (1 + wanted) ** year))
    return found


def dividend_unsuited(ground: Ground) -> str | None:
    """Why a dividend model does not suit; None where it does."""
    payout = ground.cover.leading.declared
    if payout.value is None:
        return payout.reason if payout.breach else f"{payout.label} unknown: {payout.reason}"
    if payout.value < LEAST_PAYOUT:
        return (
            f"pays out {percent(payout.value)} at the declared rate; under {percent(LEAST_PAYOUT)} "
            "a dividend says little of what the payer is worth"
        )
    return None


def _grows_fast(ground: Ground, inputs: Inputs) -> bool:
    """Whether the dividend grows faster than is taken to go on for ever."""
    growth = inputs["growth"].figure.value
    return growth is not None and above(growth, ground.rules.highest_growth)


def _constant_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    unsuited = dividend_unsuited(ground)
    if unsuited is None and _grows_fast(ground, inputs):
        return (
            f"grows {percent(inputs['growth'].figure.value or 0.0, 1)} a year; more than "
            f"{percent(ground.rules.highest_growth)} is not taken to go on for ever"
        )
    return unsuited


def _stages_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    unsuited = dividend_unsuited(ground)
    if unsuited is None and not _grows_fast(ground, inputs):
        return (
            f"growth is not above the {percent(ground.rules.highest_growth)} that may go on for "
            "ever; constant growth says it all"
        )
    return unsuited


def _touch(ground: Ground) -> Touch | None:
    return touch_of(
        [ground.cover.leading.declared.touch, manual_edits_between(ground.file, date.min)]
    )


MODELS = (
    ModelSpec(
        id="constant_growth",
        name="Constant growth",
        question="What are its dividends worth if they grow at one rate for ever?",
        answers="dividends",
        takes=("lasting_growth", "required_return"),
        value=_constant_growth,
        unsuited=_constant_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="two_stage",
        name="Two stages",
        question="What are its dividends worth if they grow fast for some years, then slower?",
        answers="dividends",
        takes=("growth", "later_growth", "required_return"),
        value=_two_stage,
        years=_early_years,
        unsuited=_stages_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="fading",
        name="Fading growth",
        question="What are its dividends worth if their growth fades to a slower one?",
        answers="dividends",
        takes=("growth", "later_growth", "required_return"),
        value=_fading,
        unsuited=_stages_unsuited,
        touch=_touch,
    ),
)
