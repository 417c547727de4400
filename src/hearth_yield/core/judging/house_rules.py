"""House rules: the person's limits, and what they ask of a price. (docs/method.md)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..figures.measure import Limit, Measure
from ..kinds import Kind

DEFAULT_RETURNS: dict[Kind, float] = {
    Kind.COMPANY: 0.08,
    Kind.PROPERTY_TRUST: 0.085,
    Kind.FINANCIAL: 0.09,
    Kind.PARTNERSHIP: 0.10,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseRules:
    """What the person set; the rest is as the house has it.

    limits: by kind and measure, in the place of the measure's own. close_under: the cushion under
    which a test is close to its limit. highest_growth: the most that is
    taken to go on for ever; faster growth ends in it, after early_years at once or over fade_years.
    """

    required_returns: Mapping[Kind, float] = field(default_factory=lambda: dict(DEFAULT_RETURNS))
    margin_of_safety: float = 0.20
    highest_growth: float = 0.04
    early_years: int = 5
    fade_years: int = 8
    close_under: float = 0.10
    limits: Mapping[Kind, Mapping[str, Limit]] = field(default_factory=dict)

    def limit_of(self, measure: Measure, kind: Kind) -> Limit | None:
        """What a measure is held against; None where its test is not made for the kind."""
        if measure.test is None:
            return None
        own = self.limits.get(kind, {})
        return own.get(measure.id) or measure.test.limits.get(kind)
