"""Values of a dividend that goes on: constant, in stages or fading. (docs/method.md, Worth)

Elementwise over arrays and cells. Growth that goes on for ever is held to two points under the
required return.
"""

from __future__ import annotations

from .growth import held_for_ever
from .trace import PLAIN, Trace, Value, stages_worth


def constant_growth_value(dividend: Value, growth: Value, required_return: Value) -> Value:
    """Present value of a growing perpetuity.

    D0 (1 + g) / (r − g)

    Args: dividend: per share a year, already declared; growth, required_return: fractions a year.
    Returns: value per share.
    Source: Gordon 1962. 2.40, 3 %, 8 % → 49.44.
    """
    g = held_for_ever(growth, required_return)
    return dividend * (1 + g) / (required_return - g)


def two_stage_value(
    dividend: Value,
    growth: Value,
    years: int,
    later_growth: Value,
    required_return: Value,
    trace: Trace = PLAIN,
) -> Value:
    """Present value of a dividend that grows at one rate for some years and then at another.

    Σ D0 (1 + g1)^t / (1 + r)^t for t = 1 … n, + constant growth at g2 from year n on

    Args: growth, later_growth, required_return: fractions a year; years: n, at least 1.
    Source: the CFA Institute's equity-valuation curriculum. 2.40, 7 % for 5, 3 %, 8 % → 58.8639.
    """
    early = stages_worth(dividend, [(years, growth)], required_return, trace=trace)
    later = constant_growth_value(early.amount, later_growth, required_return) * early.factor
    return early.worth + trace.part("for ever after", later)


def fading_value(
    dividend: Value, growth: Value, fade_years: Value, later_growth: Value, required_return: Value
) -> Value:
    """Present value of a dividend whose growth falls in a straight line to a later one.

    D0 [(1 + gL) + H (gS − gL)] / (r − gL), H half the fade in years

    Source: Fuller & Hsia 1984. 2.40, 7 % → 3 % over 8 years, 8 % → 57.12.
    """
    later = held_for_ever(later_growth, required_return)
    even = constant_growth_value(dividend, later, required_return)
    extra = dividend * fade_years / 2 * (growth - later)
    return even + extra / (required_return - later)
