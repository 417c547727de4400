"""What a person did to a fact: entered it, put another value in its place, or left it out.
(docs/method.md, By hand)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True, slots=True, kw_only=True)
class Edited:
    """A figure replaced by the person. original: what is held, None where nothing is."""

    original: float | None
    reason: str
    made_on: date

    @property
    def note(self) -> str:
        was = "not reported" if self.original is None else f"{self.original:g}"
        return f"edited by you on {self.made_on.isoformat()}, was {was}: {self.reason}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Exclusion:
    """A fact the person excluded with a reason: it is held, and counts on no day.

    kind: of a dividend, or the span of a statement. name: what it is, in words. day: that it is
    placed by: the ex-date of a dividend, the end of a period, the day of a close.
    """

    table: str
    kind: str
    name: str
    day: date
    known_on: date
    reason: str
    made_on: date

    @property
    def note(self) -> str:
        return f"{self.name} excluded by you on {self.made_on.isoformat()}: {self.reason}"


BY_HAND = "entered by hand"
