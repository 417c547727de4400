"""Which measures payers are compared on, and which end of each is the better one."""

from __future__ import annotations

from dataclasses import dataclass

from ..figures.measure import Direction, Measure
from .scoring import Better

LESS = frozenset(
    {
        "trailing_gap",
        "debt_to_equity",
        "liabilities_to_assets",
        "years_to_repay",
        "net_debt",
        "cost_growth",
        "share_growth",
        "share_trend",
        "share_of_weeks",
        "longest_above",
        "premium",
        "price_against_buy_below",
        "price_against_combined",
        "implied_growth",
        "spread",
        "required_return_used",
    }
)
"""Measures without a test of which less is better."""
_PAYOUTS = ("_payout", "_cycle", "_forward", "_worst", "_paid", "_trailing", "overpaid")


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureSet:
    id: str
    name: str
    measures: tuple[str, ...]


SETS: tuple[MeasureSet, ...] = (
    MeasureSet(
        id="overview",
        name="Overview",
        measures=(
            "yield",
            "growth_5",
            "real_growth_10",
            "raises",
            "payout_cycle",
            "debt_to_ebitda",
            "interest_cover",
            "deviation",
            "price_against_combined",
        ),
    ),
    MeasureSet(
        id="record",
        name="Record",
        measures=(
            "raises",
            "no_reduction",
            "growth_5",
            "growth_10",
            "real_growth_10",
            "years_ahead",
        ),
    ),
    MeasureSet(
        id="cover",
        name="Cover",
        measures=(
            "payout",
            "payout_cycle",
            "payout_forward",
            "payout_worst",
            "per_share_trend",
            "overpaid",
        ),
    ),
    MeasureSet(
        id="footing",
        name="Footing",
        measures=(
            "debt_to_ebitda",
            "interest_cover",
            "debt_to_assets",
            "return_on_capital",
            "revenue_growth",
            "share_growth",
        ),
    ),
    MeasureSet(
        id="range", name="Range", measures=("yield", "deviation", "percentile", "share_of_weeks")
    ),
    MeasureSet(
        id="worth",
        name="Worth",
        measures=(
            "price_against_buy_below",
            "price_against_combined",
            "implied_return",
            "implied_growth",
            "spread",
        ),
    ),
)


def better_of(measure: Measure) -> Better:
    """By its test, where it has one; else as it is declared above."""
    if measure.test is not None:
        return "low" if measure.test.direction is Direction.CAP else "high"
    less = (
        measure.id in LESS
        or measure.id.startswith("payout")
        or (measure.stage.value == "cover" and measure.id.endswith(_PAYOUTS))
    )
    return "low" if less or measure.id.endswith("_multiple") else "high"
