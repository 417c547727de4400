"""A verdict that its own prices contradict. (docs/method.md, Decision)"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Priced:
    """What a decision says, and the price of its day; per share, of one currency."""

    verdict: str
    price: float
    buy_below: float | None = None
    trim_above: float | None = None


def _buys_later(p: Priced) -> str | None:
    if p.verdict != "buy" or p.buy_below is None or p.price <= p.buy_below:
        return None
    return (
        f"you would buy below {p.buy_below:,.2f} and the price is {p.price:,.2f}; until it is "
        "reached, the decision counts as waiting"
    )


def _waits_for_nothing(p: Priced) -> str | None:
    if p.verdict != "wait" or p.buy_below is None or p.price > p.buy_below:
        return None
    return f"the price, {p.price:,.2f}, is not above the {p.buy_below:,.2f} you wait for"


def _trims_too_early(p: Priced) -> str | None:
    if p.verdict != "trim" or p.trim_above is None or p.price >= p.trim_above:
        return None
    return f"the price, {p.price:,.2f}, is under the {p.trim_above:,.2f} above which you would trim"


def _buys_to_trim(p: Priced) -> str | None:
    if p.buy_below is None or p.trim_above is None or p.buy_below < p.trim_above:
        return None
    return f"you would buy below {p.buy_below:,.2f} and trim above {p.trim_above:,.2f}"


RULES: tuple[Callable[[Priced], str | None], ...] = (
    _buys_later,
    _waits_for_nothing,
    _trims_too_early,
    _buys_to_trim,
)


def contradictions(priced: Priced) -> list[str]:
    """What of a decision contradicts itself, each in words; nothing where it does not."""
    return [said for rule in RULES if (said := rule(priced)) is not None]
