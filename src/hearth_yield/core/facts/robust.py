"""Lines and outliers that one strange year cannot bend. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date
from itertools import combinations
from statistics import median

from ..figures.arrays import Floats
from ..figures.figure import Figure, Unit, Unknown, derive, unknown

FREAK_OTHERS = 6
FREAK_SPREADS = 3 * 1.4826
FREAK_LEVEL = 0.40
TREND_YEARS = 5


def quantile(ordered: Floats, q: float) -> float:
    """Linear between neighbours, as QUARTILE.INC does; a tenth of numpy's own time for a few
    thousand values. ordered: ascending, at least one."""
    place = q * (len(ordered) - 1)
    below = int(place)
    above = min(below + 1, len(ordered) - 1)
    return float(ordered[below] + (place - below) * (ordered[above] - ordered[below]))


Point = tuple[float, float]


def theil_sen(points: Sequence[Point]) -> tuple[float, float]:
    """Slope: the median of those between all pairs; intercept: the median of y − slope × x.

    A dozen points at most: plain Python is several times faster here than array calls.
    Source: Theil 1950, Sen 1968.
    """
    slope = median([(y2 - y1) / (x2 - x1) for (x1, y1), (x2, y2) in combinations(points, 2)])
    return slope, _intercept(points, slope)


def _intercept(points: Sequence[Point], slope: float) -> float:
    return median([y - slope * x for x, y in points])


def years_since(ends: Sequence[date]) -> list[float]:
    """Where each period end lies on an axis of years, from the first on: a missing year leaves its
    gap."""
    return [(end - ends[0]).days / 365.25 for end in ends]


def freak_years(ends: Sequence[date], values: Sequence[float | None]) -> list[bool]:
    """Which values lie far outside their neighbours.

    For each, a straight line (Theil–Sen; the slopes between pairs are those of all, less its own)
    is fitted to the others, by their dates; freak when the deviation from it exceeds both
    3 × 1.4826 × the others' median absolute deviation from it and 40 % of their median absolute
    level.

    Args: ends, values: of up to ten fiscal years, oldest first, None where unknown.
    Source: docs/method.md, Cover; Theil 1950, Sen 1968.
    """
    axis = years_since(ends)
    known = [(i, axis[i], v) for i, v in enumerate(values) if v is not None]
    pairs = [(i, j, (y2 - y1) / (x2 - x1)) for (i, x1, y1), (j, x2, y2) in combinations(known, 2)]
    flags = []
    for i, value in enumerate(values):
        others = [(x, y) for j, x, y in known if j != i]
        if value is None or len(others) < FREAK_OTHERS:
            flags.append(False)
            continue
        slope = median([s for j, k, s in pairs if i not in (j, k)])
        intercept = _intercept(others, slope)
        mad = median([abs(y - (slope * x + intercept)) for x, y in others])
        level = median([abs(y) for _, y in others])
        deviation = abs(value - (slope * axis[i] + intercept))
        flags.append(deviation > FREAK_SPREADS * mad and deviation > FREAK_LEVEL * level)
    return flags


def trend(label: str, ends: Sequence[date], parts: Sequence[Figure]) -> Figure:
    """Theil–Sen slope a year over five years, as a fraction of the median absolute level.

    ends, parts: of five fiscal years that follow one another, or of fewer where fewer do.
    """
    known = [(end, p) for end, p in zip(ends, parts, strict=True) if p.value is not None]
    if len(known) < TREND_YEARS:
        reason = f"{len(known)} of {TREND_YEARS} fiscal years in a row known"
        return unknown(label, Unit.FRACTION, reason)
    axis = years_since([end for end, _ in known])

    def compute(*v: float) -> float | Unknown:
        level = median(abs(x) for x in v)
        if level == 0:
            return Unknown("every year is nil")
        return theil_sen(list(zip(axis, v, strict=True)))[0] / level

    return derive(
        label,
        Unit.FRACTION,
        "median slope between all pairs of years ÷ median level (Theil–Sen)",
        [p for _, p in known],
        compute,
        period=f"{known[0][1].period} to {known[-1][1].period}",
    )
