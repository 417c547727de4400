"""The dividend models as they are declared: constant growth, two stages, fading growth."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Any

from ..cover.bases import NOTHING_PAID
from ..figures.figure import Figure, Touch, Unit, Unknown, given, percent
from ..figures.inputs import Case, Inputs
from ..figures.ties import above
from ..record.payments import manual_edits_between
from .declare import EVERY_KIND, Ground, ModelSpec
from .dividend_discount import constant_growth_value, fading_value, two_stage_value
from .trace import Trace, Value


def _reads(*ids: str, rule: Callable[[Ground], Figure] | None = None) -> Callable[..., Any]:
    """The declared rate, a house rule where one is wanted, and inputs."""

    def read(ground: Ground, case: Case) -> list[Figure]:
        ruled = [rule(ground)] if rule else []
        return [ground.record.declared_rate, *ruled, *(case[id] for id in ids)]

    return read


def early_years(ground: Ground) -> Figure:
    return given("early years", Unit.YEARS, float(ground.rules.early_years), "house rule")


def _fade_years(ground: Ground) -> Figure:
    return given("years of fading", Unit.YEARS, float(ground.rules.fade_years), "house rule")


def unpaid(rate: float) -> Unknown | None:
    return None if rate > 0 else Unknown(NOTHING_PAID)


def _two_stage(
    trace: Trace, rate: Value, years: Value, early: Value, later: Value, r: Value
) -> Value:
    return two_stage_value(rate, early, round(years), later, r, trace)


def dividend_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    """Why a dividend model does not suit; None where it does."""
    if pays_nothing(ground):
        return NOTHING_PAID
    growth = inputs["growth"].figure
    return None if growth.known else f"growth unknown: {growth.reason}; type one"


def pays_nothing(ground: Ground) -> bool:
    """Whether no regular dividend is on record, or what was paid has stopped."""
    rate = ground.record.declared_rate.value
    return not ground.record.compared or (rate is not None and rate <= 0)


def _grows_fast(ground: Ground, inputs: Inputs) -> bool:
    """Whether the dividend grows faster than is taken to go on for ever."""
    growth = inputs["growth"].figure.value
    return growth is not None and above(growth, ground.rules.highest_growth)


def _constant_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    unsuited = dividend_unsuited(ground, inputs)
    if unsuited is None and _grows_fast(ground, inputs):
        return (
            f"grows {percent(inputs['growth'].figure.value or 0.0, 1)} a year; more than "
            f"{percent(ground.rules.highest_growth)} is not taken to go on for ever"
        )
    return unsuited


def _stages_unsuited(ground: Ground, inputs: Inputs) -> str | None:
    unsuited = dividend_unsuited(ground, inputs)
    if unsuited is None and not _grows_fast(ground, inputs):
        return (
            f"growth is not above the {percent(ground.rules.highest_growth)} that may go on for "
            "ever; constant growth says it all"
        )
    return unsuited


def _touch(ground: Ground) -> Touch | None:
    return manual_edits_between(ground.file, date.min)


MODELS = (
    ModelSpec(
        id="constant_growth",
        name="Constant growth",
        question="What are its dividends worth if they grow at one rate for ever?",
        answers="dividends",
        leads=EVERY_KIND,
        takes=("lasting_growth", "required_return"),
        reads=_reads("lasting_growth", "required_return"),
        worth=lambda _, *x: constant_growth_value(*x),
        refuses=lambda rate, *_: unpaid(rate),
        lasting=("lasting_growth", "required_return"),
        formula="declared rate × (1 + growth) ÷ (required return − growth)",
        unsuited=_constant_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="two_stage",
        name="Two stages",
        question="What are its dividends worth if they grow fast for some years, then slower?",
        answers="dividends",
        leads=EVERY_KIND,
        takes=("growth", "later_growth", "required_return"),
        reads=_reads("growth", "later_growth", "required_return", rule=early_years),
        worth=_two_stage,
        refuses=lambda rate, *_: unpaid(rate),
        lasting=("later_growth", "required_return"),
        formula="present value of the dividends of the early years + that of constant growth at "
        "the later growth from then on",
        amount="dividend",
        unsuited=_stages_unsuited,
        touch=_touch,
    ),
    ModelSpec(
        id="fading",
        name="Fading growth",
        question="What are its dividends worth if their growth fades to a slower one?",
        answers="dividends",
        leads=EVERY_KIND,
        takes=("growth", "later_growth", "required_return"),
        reads=_reads("growth", "later_growth", "required_return", rule=_fade_years),
        worth=lambda _, rate, fade, early, later, r: fading_value(rate, early, fade, later, r),
        refuses=lambda rate, *_: unpaid(rate),
        lasting=("later_growth", "required_return"),
        formula="declared rate × [(1 + later growth) + half the fade × (growth − later growth)] ÷ "
        "(required return − later growth)",
        unsuited=_stages_unsuited,
        touch=_touch,
    ),
)
