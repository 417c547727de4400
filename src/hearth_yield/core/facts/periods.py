"""Twelve months of one payer: fiscal years, and the newest published periods that make twelve
months."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from itertools import pairwise
from typing import Protocol, TypeVar

from ..figures.figure import Figure, Unit, derive
from .age import MONTH_DAYS, Freshness, freshness
from .payer_file import PayerFile
from .statements import Span, Statement

SHOWN_YEARS = 12
A_YEAR = (350, 380)
"""Days between the ends of two fiscal years that follow one another, 52 and 53 weeks included."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Period:
    """Twelve months of one payer: the statements they were read from and the lines summed.

    excluded: what the person left out, so that this period stands where it does; all lines say so.
    sheet: a statement with a newer balance sheet than the twelve months end with, where interim
    statements are missing between.
    """

    label: str
    end: date
    statements: tuple[Statement, ...]
    note: str | None = None
    excluded: tuple[str, ...] = ()
    sheet: Statement | None = None
    _lines: dict[str, Figure] = field(default_factory=dict, init=False, repr=False, compare=False)

    def at_end(self, name: str) -> Figure:
        """A line of the balance sheet, at the period's end, or of the newer sheet."""
        return (self.sheet or self.statements[-1]).line(name).with_exclusions(self.excluded)

    @property
    def label_at_end(self) -> str:
        """What a figure of the balance sheet alone is of."""
        return self.sheet.label if self.sheet else self.label

    def line(self, name: str) -> Figure:
        """A flow line over the twelve months, or the mean of a share count; built once."""
        if name not in self._lines:
            self._lines[name] = self._sum(name).with_exclusions(self.excluded)
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
    """The last twelve fiscal years by date; no measure looks further back. Made once for each
    file: the stages share the lines they read."""
    held: list[Period] | None = file.made.get("years")
    if held is None:
        every = [
            Period(label=s.period, end=s.period_end, statements=(s,))
            for s in file.of_span(Span.YEAR)
        ]
        held = file.made["years"] = within(every, SHOWN_YEARS)
    return held


class _Ended(Protocol):
    @property
    def end(self) -> date: ...


P = TypeVar("P", bound=_Ended)


def within(periods: Sequence[P], years: int) -> list[P]:
    """Of periods by their ends, those of the last so many years by date."""
    if not periods:
        return []
    first = periods[-1].end - timedelta(days=round((years - 0.5) * 365.25))
    return [p for p in periods if p.end > first]


def in_a_row(periods: Sequence[P], years: int) -> list[P]:
    """The newest periods that follow one another without a gap, at most so many."""
    found: list[P] = []
    for period in reversed(periods):
        if found and not A_YEAR[0] <= (found[-1].end - period.end).days <= A_YEAR[1]:
            break
        found.append(period)
    return found[:years][::-1]


def years_excluded(file: PayerFile, periods: Sequence[Period]) -> tuple[str, ...]:
    """Fiscal years of the span shown of which no version is left, in words."""
    if not file.exclusions:
        return ()
    first = periods[0].end if periods else date.min
    held = {p.end for p in periods}
    return tuple(
        x.note
        for x in file.exclusions
        if x.table == "statements" and x.kind == Span.YEAR and x.day >= first and x.day not in held
    )


def year_age(file: PayerFile, years: Sequence[Period]) -> Freshness:
    """How old the newest fiscal year is."""
    newest = years[-1].end if years else None
    return freshness("years", newest, file.day, "the newest fiscal year", file.payer.delisted_on)


def trailing_age(file: PayerFile, period: Period | None) -> Freshness:
    """How old the newest twelve months are, by how often such statements come."""
    delisted = file.payer.delisted_on
    if period is None or len(period.statements) == 1:
        return year_age(file, [period] if period else [])
    kind = "quarters" if len(period.statements) == 4 else "halves"
    name = f"the newest {'quarter' if kind == 'quarters' else 'half-year'}"
    return freshness(kind, period.end, file.day, name, delisted)


def trailing_period(file: PayerFile) -> Period | None:
    """The newest published periods that make twelve months: quarters, halves, or the last year.
    Made once for each file."""
    if "trailing" not in file.made:
        file.made["trailing"] = _trailing(file)
    found: Period | None = file.made["trailing"]
    return found


def _trailing(file: PayerFile) -> Period | None:
    years = fiscal_years(file)
    newest = newest_twelve({span: file.of_span(span) for span in Span})
    if len(newest) > 1:
        end = newest[-1].period_end
        return Period(label=f"12 months to {end.isoformat()}", end=end, statements=newest)
    if not years:
        return None
    return replace(years[-1], note="no interim periods that make 12 months; the last fiscal year")


def with_newest_sheet(file: PayerFile, period: Period) -> Period:
    """The twelve months with the newest balance sheet there is, in their currency."""
    later = [
        s
        for span in Span
        for s in file.of_span(span)
        if s.period_end > period.end
        and s.currency == period.statements[-1].currency
        and s.line("total_assets").known
    ]
    return replace(period, sheet=max(later, key=lambda s: s.period_end)) if later else period


INTERIM = {Span.QUARTER: 4, Span.HALF: 2}
"""Interim statements that make twelve months."""


def newest_twelve(held: Mapping[Span, Sequence[Statement]]) -> tuple[Statement, ...]:
    """The newest statements that make twelve months, oldest first; none where there are none.

    held: of each span one statement a period, by their ends.
    """
    best: tuple[Statement, ...] = tuple(held[Span.YEAR][-1:])
    for span, n in INTERIM.items():
        recent = held[span][-n:]
        if len(recent) < n:
            continue
        gaps = [(b.period_end - a.period_end).days for a, b in pairwise(recent)]
        contiguous = len({s.currency for s in recent}) == 1 and all(
            abs(g - span.months * MONTH_DAYS) < 20 for g in gaps
        )
        if contiguous and (not best or recent[-1].period_end >= best[-1].period_end):
            best = tuple(recent)
    return best
