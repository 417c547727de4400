"""How a change and a side are said: the verb and the side by the sign, the figure by its size, and
nothing that would read as 0.0 %."""

from __future__ import annotations

from .figure import Figure
from .measure import Sentence, Size

LEAST_TOLD = 0.0005
"""A smaller share would be said as 0.0 %."""


def is_told(figure: Figure) -> bool:
    """Whether a share differs from nil by more than is shown of it."""
    return figure.value is not None and abs(figure.value) >= LEAST_TOLD


def moved(
    figure: Figure, up: str = "grew", down: str = "fell", still: str = "did not move"
) -> Sentence:
    """ "grew 3.1 %", "fell 2.0 %", or that it did not move."""
    if not is_told(figure):
        return (still,)
    return (f"{up if (figure.value or 0.0) > 0 else down} ", Size(figure=figure))


def beside(figure: Figure, what: str, over: str = "over", under: str = "under") -> Sentence:
    """ "3.1 % over it", "2.0 % under it", or "at it"."""
    if not is_told(figure):
        return (f"at {what}",)
    return (Size(figure=figure), f" {over if (figure.value or 0.0) > 0 else under} {what}")
