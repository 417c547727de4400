"""How well a payer's facts are kept: how old the newest are, and what is missing between them.

Ages are judged per kind of fact, by how often such facts come. (docs/method.md, Upkeep)
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from enum import StrEnum


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


def missing_periods(ends: Sequence[date], months: int) -> list[date]:
    """Period ends that lie between the first and the last held, and are not held.

    ends: of one span, in any order; months: of the span (12, 6 or 3).
    """
    if not ends:
        return []
    held = {(d.year, d.month) for d in ends}
    first, last = min(ends), max(ends)
    at, found = first.year * 12 + first.month - 1, []
    while at < last.year * 12 + last.month - 1:
        year, month = divmod(at, 12)
        if (year, month + 1) not in held:
            found.append(_month_end(year, month + 1))
        at += months
    return found


def _month_end(year: int, month: int) -> date:
    following = date(year + month // 12, month % 12 + 1, 1)
    return date.fromordinal(following.toordinal() - 1)
