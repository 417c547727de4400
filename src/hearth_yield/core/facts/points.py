"""The newest point of a dated series, as it may be shown as current."""

from __future__ import annotations

from datetime import date

from ..figures.figure import Figure, Unit, unknown
from .age import freshness
from .records import Series


def newest_point(label: str, unit: Unit, series: Series | None, kind: str, day: date) -> Figure:
    """Unknown where none is held, and once it is old. kind: what the series is of, as `age` has
    it."""
    if series is None or not series.points:
        return unknown(label, unit, f"no {label} is held for this currency")
    point = series.points[-1]
    found = Figure(
        label=label,
        unit=unit,
        value=point.value,
        period=point.day.isoformat(),
        known_on=point.published_on,
        source=point.source,
        touch=point.touch,
    )
    return freshness(kind, point.day, day, f"the newest {series.name}").of(found)
