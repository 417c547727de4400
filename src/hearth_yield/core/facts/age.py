"""How well a payer's facts are kept: how old the newest are, and what is missing between them.

Ages are judged per kind of fact, by how often such facts come. (docs/method.md, Upkeep)
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise

from ..figures.figure import Figure


class Age(StrEnum):
    NONE = "none"
    FRESH = "fresh"
    AGEING = "ageing"
    OLD = "old"


BOUNDS: dict[str, tuple[int, int]] = {
    "prices": (7, 30),
    "dividends": (200, 400),
    "years": (500, 600),
    "quarters": (150, 250),
    "halves": (250, 350),
    "estimates": (120, 250),
    "guidance": (400, 600),
    "exposures": (430, 800),
    "payer_notes": (800, 1500),
    "price_index": (90, 150),
    "risk_free_yield": (45, 120),
    "aaa_yield": (45, 120),
    "market_index": (10, 40),
    "market_total_return": (10, 40),
    "exchange_rate": (10, 40),
}
"""Days up to which the newest fact of a kind is fresh, and then ageing. Years and quarters count
from their period's end, payments from their ex-date, points of a series from the day they are
for, the rest from publication."""
PRICE_GAP_DAYS = 14


def age_of(kind: str, newest: date | None, as_of: date, ended: date | None = None) -> Age:
    """ended: the day a payer was delisted; nothing is expected after it."""
    if newest is None:
        return Age.NONE
    fresh, ageing = BOUNDS[kind]
    days = (min(as_of, ended or as_of) - newest).days
    return Age.FRESH if days <= fresh else Age.AGEING if days <= ageing else Age.OLD


def in_words(day: date) -> str:
    """14 June 2019"""
    return f"{day.day} {day:%B %Y}"


@dataclass(frozen=True, slots=True)
class Freshness:
    """How old the newest fact of a kind is, and how that is said: "the newest close is of …"."""

    age: Age
    said: str

    def of(self, figure: Figure) -> Figure:
        """The figure as it may be shown as current: marked when ageing, unknown when old. What it
        was then is kept in `was`."""
        if self.age is Age.AGEING and figure.known:
            return figure.but(cautions=(*figure.cautions, self.said))
        if self.age is Age.OLD and figure.known:
            return figure.but(value=None, was=figure.value, reason=self.said)
        if self.age is Age.OLD and (figure.breach or figure.spared):
            return figure.but(breach=None, spared=None, reason=self.said)
        return figure


CURRENT = Freshness(Age.FRESH, "")


def freshness(
    kind: str, newest: date | None, as_of: date, name: str, delisted: date | None = None
) -> Freshness:
    """Of the newest fact of a kind on a day. name: what it is, "the newest close".

    delisted: when the payer was, if it was by then; nothing of it is current any more.
    """
    if delisted is not None:
        return Freshness(Age.OLD, f"delisted on {in_words(delisted)}")
    if newest is None:
        return CURRENT
    return Freshness(age_of(kind, newest, as_of), f"{name} is of {in_words(newest)}")


MONTH_DAYS = 365.25 / 12


def periods_between(first: date, last: date, months: int) -> int:
    """How many periods of so many months lie from one period's end to another's; a fiscal year of
    52 or 53 weeks is one."""
    return round((last - first).days / (months * MONTH_DAYS))


def missing_periods(ends: Sequence[date], months: int) -> list[date]:
    """Period ends that lie between the first and the last held, and are not held, evenly spaced
    between their neighbours.

    ends: of one span, in any order; months: of the span (12, 6 or 3).
    """
    found = []
    for before, after in pairwise(sorted(set(ends))):
        apart = periods_between(before, after, months)
        step = (after - before).days / max(apart, 1)
        found += [
            _near_month_end(before + timedelta(days=round(step * n))) for n in range(1, apart)
        ]
    return found


def _near_month_end(day: date) -> date:
    """The month end nearest to a day, where it is within a week of one."""
    for month in (day.replace(day=1), (day.replace(day=1) + timedelta(days=32)).replace(day=1)):
        end = month - timedelta(days=1)
        if abs((day - end).days) <= 7:
            return end
    return day
