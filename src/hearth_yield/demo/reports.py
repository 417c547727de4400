"""What of the books is published, and when: years, quarters or halves, restated years twice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from random import Random

from .accounts import RATIO_SCALE, Lines, Quarter, year_of
from .payments import Record, owner, split_ratio_after
from .script import Script

RATIOS = ("occupancy", "capital_ratio")
DILUTION = 1.008
"""Diluted shares for one that there was on average."""


@dataclass(frozen=True, slots=True)
class Reported:
    """When the figures of a quarter are published: by themselves or with those of their half, and
    with their year."""

    end: date
    results: date
    full: date


def reported(script: Script, ends: Sequence[date], random: Random) -> list[Reported]:
    """The days of every quarter, by the payer's habit. The half that a quarter belongs to may end
    after the last one: then no day is known yet."""
    habit = random.randrange(-6, 9)
    days = [
        Reported(
            end=end,
            results=end + timedelta(days=38 + habit + random.randrange(5)),
            full=end + timedelta(days=48 + habit + random.randrange(6)),
        )
        for end in ends
    ]
    if script.reports != "half":
        return days
    halves = [d.results if d.end.month in (6, 12) else None for d in days]
    with_half = [
        own or later or date.max for own, later in zip(halves, [*halves[1:], None], strict=True)
    ]
    return [replace(d, results=day) for d, day in zip(days, with_half, strict=True)]


def statements(
    script: Script, books: Sequence[Quarter], days: Sequence[Reported], quarters_from: int
) -> list[Record]:
    """Years throughout, quarters or halves from a year on, each with the day it was published."""
    records: list[Record] = []
    step = 2 if script.reports == "half" else 1
    for i, (quarter, told) in enumerate(zip(books, days, strict=True)):
        end = quarter.end
        part = books[i + 1 - step : i + 1]
        if end.year >= quarters_from and len(part) == step and end.month % (3 * step) == 0:
            span = "half" if step == 2 else "quarter"
            records += _versions(script, span, told.results, part, told.full)
        if end.month == 12 and i >= 3:
            records += _versions(script, "year", told.full, books[i - 3 : i + 1], told.full)
    return [r for r in records if _is_public(script, r)]


def first_published(script: Script, year: int, lines: Lines) -> Lines:
    """Lines of a period as they were told at first: overstated where the story says so."""
    more = round(lines["net_income"] * script.overstated.get(year, 0.0))
    raised = ("revenue", "ebit", "net_income", "current_assets", "total_assets", "equity")
    return lines | {n: lines[n] + more for n in raised} if more else lines


def _versions(
    script: Script, span: str, published: date, parts: Sequence[Quarter], full: date
) -> list[Record]:
    """As first published and, where a year was overstated, as restated with the year after."""
    end, lines = parts[-1].end, year_of(parts)
    if end in script.missing and span == "quarter":
        return []
    average = sum(q.lines["shares"] for q in parts) / len(parts)
    first = first_published(script, end.year, lines)
    versions = [_record(script, end, span, published, first, average)]
    if first is not lines:
        restated = max(date(end.year + 2, 2, 22), full)
        versions.append(_record(script, end, span, restated, lines, average))
    return versions


def _is_public(script: Script, record: Record) -> bool:
    """A newcomer shows two years in its prospectus, and quarters from then on."""
    if record["published_on"] > script.last_day:
        return False
    if script.listed is None:
        return True
    record["published_on"] = max(record["published_on"], script.listed)
    if record["span"] == "year":
        return bool(record["period_end"].year >= script.listed.year - 2)
    return bool(record["period_end"] > script.listed)


def _record(
    script: Script, end: date, span: str, published: date, lines: Lines, average: float
) -> Record:
    """Thousands into single units; share counts and EPS in the shares of the publication day."""
    ratio = split_ratio_after(script, published)
    shown = {k: float(v) * 1000 for k, v in lines.items() if k != "shares" and k not in RATIOS}
    shown |= {k: lines[k] / RATIO_SCALE for k in RATIOS if k in lines}
    diluted = round(average * DILUTION * 1000 / ratio)
    earned = lines["net_income"] - lines.get("preferred_dividends", 0)
    period = {"period_end": end, "span": span, "published_on": published}
    return (
        owner(script)
        | period
        | {"currency": script.land.currency}
        | shown
        | {
            "diluted_shares": float(diluted),
            "shares_outstanding": float(round(lines["shares"] * 1000 / ratio)),
            "diluted_eps": round(earned * 1000 / diluted, 4),
        }
    )
