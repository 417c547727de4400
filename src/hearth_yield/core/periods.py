"""Twelve months of one payer: fiscal years, and the newest published periods that make twelve
months."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date
from itertools import pairwise

from .facts import PayerFile
from .figure import Figure, Unit, derive
from .statements import Span, Statement

SHOWN_YEARS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Period:
    """Twelve months of one payer: the statements they were read from and the lines summed."""

    label: str
    end: date
    statements: tuple[Statement, ...]
    note: str | None = None
    _lines: dict[str, Figure] = field(default_factory=dict, repr=False, compare=False)

    def line(self, name: str) -> Figure:
        """A flow line over the twelve months, or the mean of a share count; built once."""
        if name not in self._lines:
            self._lines[name] = self._sum(name)
        return self._lines[name]

    def _sum(self, name: str) -> Figure:
        parts = [s.line(name) for s in self.statements]
        if len(parts) == 1:
            return parts[0]
        mean = parts[0].unit is Unit.SHARES
        return derive(
            parts[0].label,
            parts[0].unit,
            "mean of the periods" if mean else "sum of the periods",
            parts,
            lambda *v: sum(v) / (len(v) if mean else 1),
            currency=parts[0].currency,
            period=self.label,
        )


def fiscal_years(file: PayerFile) -> list[Period]:
    """The last twelve fiscal years; no measure looks further back."""
    return [
        Period(label=s.period, end=s.period_end, statements=(s,))
        for s in file.of_span(Span.YEAR)[-SHOWN_YEARS:]
    ]


def trailing_period(file: PayerFile) -> Period | None:
    """The newest published periods that make twelve months: quarters, halves, or the last year."""
    years = fiscal_years(file)
    best = years[-1] if years else None
    found = False
    for span, n in ((Span.QUARTER, 4), (Span.HALF, 2)):
        recent = file.of_span(span)[-n:]
        if len(recent) < n:
            continue
        gaps = [(b.period_end - a.period_end).days for a, b in pairwise(recent)]
        contiguous = all(abs(g - span.months * 30.44) < 20 for g in gaps)
        end = recent[-1].period_end
        if contiguous and (best is None or end >= best.end):
            best = Period(
                label=f"12 months to {end.isoformat()}", end=end, statements=tuple(recent)
            )
            found = True
    if best is not None and not found:
        best = replace(best, note="no interim periods that make 12 months; the last fiscal year")
    return best
