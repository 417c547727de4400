"""Lines and outliers that one strange year cannot bend. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations
from statistics import median

from .facts import Floats
from .figure import Figure, Unit, Unknown, derive, unknown

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


def theil_sen(points: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """Median of the slopes between all pairs; intercept through the medians of both coordinates.

    A dozen points at most: plain Python is several times faster here than array calls.
    """
    slope = median([(y2 - y1) / (x2 - x1) for (x1, y1), (x2, y2) in combinations(points, 2)])
    return slope, _through_medians(points, slope)


def _through_medians(points: Sequence[tuple[float, float]], slope: float) -> float:
    """The intercept of a line through the medians of both coordinates."""
    return median([y for _, y in points]) - slope * median([x for x, _ in points])


def freak_years(values: Sequence[float | None]) -> list[bool]:
    """Which values lie far outside their neighbours.

    For each, a straight line (Theil–Sen; the slopes between pairs are those of all, less its own)
    and its spread (MAD) are fitted to the others; freak when
    the deviation exceeds both 3 × 1.4826 × MAD and 40 % of the median absolute level.

    Args: values: yearly figures, oldest first, None where unknown.
    Source: docs/method.md, Cover; Theil 1950, Sen 1968.
    """
    known = [(float(i), v) for i, v in enumerate(values) if v is not None]
    pairs = [(x1, x2, (y2 - y1) / (x2 - x1)) for (x1, y1), (x2, y2) in combinations(known, 2)]
    flags = []
    for i, value in enumerate(values):
        others = [(x, y) for x, y in known if x != i]
        if value is None or len(others) < FREAK_OTHERS:
            flags.append(False)
            continue
        slope = median([s for x1, x2, s in pairs if i not in (x1, x2)])
        intercept = _through_medians(others, slope)
        residuals = [y - (slope * x + intercept) for x, y in others]
        centre = median(residuals)
        mad = median([abs(r - centre) for r in residuals])
        level = median([abs(y) for _, y in others])
        deviation = abs(value - (slope * i + intercept))
        flags.append(deviation > FREAK_SPREADS * mad and deviation > FREAK_LEVEL * level)
    return flags


def trend(label: str, parts: Sequence[Figure]) -> Figure:
    """Theil–Sen slope a year over five years, as a fraction of the median absolute level."""
    recent = [p for p in parts[-TREND_YEARS:] if p.value is not None]
    if len(recent) < TREND_YEARS:
        reason = f"{len(recent)} of {TREND_YEARS} years known"
        return unknown(label, Unit.FRACTION, reason)

    def compute(*v: float) -> float | Unknown:
        level = median(abs(x) for x in v)
        if level == 0:
            return Unknown("every year is nil")
        return theil_sen(list(enumerate(v)))[0] / level

    return derive(
        label,
        Unit.FRACTION,
        "median slope between all pairs of years ÷ median level (Theil–Sen)",
        recent,
        compute,
        period=f"{recent[0].period} to {recent[-1].period}",
    )
