"""Every line of the statements over the years: how it grew, against revenue, and whether that
speaks for the payer. (docs/method.md, Footing, Lines)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from itertools import pairwise
from statistics import median

from ..facts.derived import LINES as DERIVED
from ..facts.edits import Edited
from ..facts.periods import Period, in_a_row
from ..facts.robust import freak_years
from ..facts.statements import STATEMENT_LINES, words
from ..figures.figure import Figure, Unit, Unknown, derive, touch_of, unknown
from ..figures.parts import HoldsFigures
from .business import gross_profit, growth_between

SPANS = (3, 5, 10)
MANY_YEARS = 10
SWINGS = 3
"""So many marked years in ten, and none stands out any more."""
LEAST_MARKED = 0.001
"""A tenth of a point a year: less speaks neither for nor against."""
UP_IS_GOOD = frozenset(
    {
        "revenue",
        "gross_profit",
        "ebit",
        "ebitda",
        "net_income",
        "diluted_eps",
        "ffo",
        "affo",
        "net_operating_income",
        "distributable_cash_flow",
        "operating_cash_flow",
        "free_cash_flow",
        "dividends_paid",
        "cash",
        "current_assets",
        "equity",
        "occupancy",
        "capital_ratio",
    }
)
"""Growth speaks for the payer."""
SLOWER_IS_GOOD = frozenset(
    {
        "cost_of_revenue",
        "operating_expenses",
        "interest_expense",
        "short_term_debt",
        "long_term_debt",
        "floating_rate_debt",
        "total_debt",
        "current_liabilities",
        "total_liabilities",
    }
)
"""Growth slower than revenue's speaks for it, faster against it."""
BASIS_OF = {
    "net_income": "earnings",
    "diluted_eps": "earnings",
    "free_cash_flow": "free_cash_flow",
    "operating_cash_flow": "operating_cash_flow",
    "ffo": "ffo",
    "affo": "affo",
    "distributable_cash_flow": "distributable_cash",
}
"""The basis of Cover on which a year of the line is excluded."""
DOWN_IS_GOOD = frozenset({"diluted_shares", "shares_outstanding"})
"""Fewer speak for it."""


class Mark(StrEnum):
    FOR = "for"
    AGAINST = "against"


@dataclass(frozen=True, slots=True, kw_only=True)
class LineYear(HoldsFigures):
    """One line in one fiscal year, and its change from the year before. excluded: why the person
    leaves the year out on the basis that the line is."""

    end_key: str
    year: str
    value: Figure
    change: Figure
    freak: bool
    excluded: str | None

    @property
    def key(self) -> str:
        return self.end_key


@dataclass(frozen=True, slots=True, kw_only=True)
class Line(HoldsFigures):
    """One line over the years.

    latest: change from the year before. median: of the yearly changes of the last ten years,
    without years the person excluded. growth_3, growth_5, growth_10: compound, a year; of a ratio
    points a year. against: its growth less that of revenue, over five years, else three. mark: None
    where growth says nothing by itself.
    """

    id: str
    name: str
    years: tuple[LineYear, ...]
    latest: Figure
    median: Figure
    growth_3: Figure
    growth_5: Figure
    growth_10: Figure
    against: Figure
    mark: Mark | None

    @property
    def key(self) -> str:
        return self.id

    @property
    def freaks(self) -> list[str]:
        return [y.year for y in self.years if y.freak]


def change_between(name: str, before: Figure, after: Figure) -> Figure:
    """after ÷ before − 1; of a ratio the difference. From nothing or a loss there is none."""
    period = f"{before.period} to {after.period}"
    label = f"{name}, change"
    if before.currency != after.currency:
        return unknown(label, Unit.FRACTION, "the two are in different currencies", period=period)
    if after.unit is Unit.FRACTION:
        return derive(
            label,
            Unit.FRACTION,
            "later − earlier",
            [before, after],
            lambda a, b: b - a,
            period=period,
        )

    def compute(a: float, b: float) -> float | Unknown:
        return b / a - 1 if a > 0 else Unknown(f"{name} was not positive in {before.period}")

    return derive(
        label, Unit.FRACTION, "later ÷ earlier − 1", [before, after], compute, period=period
    )


def line_reader(id: str) -> Callable[[Period], Figure]:
    if id == "gross_profit":
        return gross_profit
    if id in DERIVED:
        return DERIVED[id]
    return lambda period: period.line(id)


def line_ids() -> list[str]:
    """Reported and derived lines in the order a statement is read in."""
    ids = list(STATEMENT_LINES)
    ids.insert(ids.index("cost_of_revenue") + 1, "gross_profit")
    ids.insert(ids.index("capital_expenditure") + 1, "free_cash_flow")
    ids.insert(ids.index("long_term_debt") + 1, "total_debt")
    ids.insert(ids.index("total_debt") + 1, "net_debt")
    return ids


def lines_of(
    years: Sequence[Period], excluded: Mapping[tuple[str, date], Edited]
) -> tuple[Line, ...]:
    """Every line that the newest fiscal year shows, over the years that lead to it in a row.

    excluded: fiscal years the person leaves out, by basis and period end.
    """
    row = in_a_row(years, MANY_YEARS + 1)
    if len(row) < 2:
        return ()
    revenue = _growths("revenue", [p.line("revenue") for p in row])
    found = []
    for id in line_ids():
        read = line_reader(id)
        newest = read(row[-1])
        if not newest.known or "counted as nil" in " ".join(newest.notes):
            continue
        parts = [read(p) for p in row]
        if any(p.value for p in parts):
            basis = BASIS_OF.get(id, "")
            reasons = [
                excluded[basis, p.end].reason if (basis, p.end) in excluded else None for p in row
            ]
            found.append(_line(id, row, parts, revenue, reasons))
    return tuple(found)


def _growths(name: str, parts: Sequence[Figure]) -> dict[int, Figure]:
    """Compound growth over each span that is held."""
    found = {}
    for n in SPANS:
        label = f"{name}, growth a year over {n} years"
        if len(parts) <= n:
            found[n] = unknown(label, Unit.FRACTION, f"{len(parts)} fiscal years in a row are held")
        else:
            between = points_between if parts[-1].unit is Unit.FRACTION else growth_between
            found[n] = between(label, parts[-1 - n], parts[-1], n)
    return found


def points_between(label: str, before: Figure, after: Figure, years: float) -> Figure:
    """Of a ratio: (after − before) ÷ years, in points a year."""
    return derive(
        label,
        Unit.FRACTION,
        f"({after.label}, {after.period} − {before.period}) ÷ {years:g}",
        [before, after],
        lambda a, b: (b - a) / years,
        period=f"{before.period} to {after.period}",
    )


def _line(
    id: str,
    row: Sequence[Period],
    parts: Sequence[Figure],
    revenue: dict[int, Figure],
    reasons: Sequence[str | None],
) -> Line:
    name = words(id)
    ends = [p.end for p in row]
    recent = parts[-MANY_YEARS:]
    flags = freak_years(ends[-MANY_YEARS:], [p.value for p in recent])
    if sum(flags) >= SWINGS:
        flags = [False] * len(recent)
    flags = [False] * (len(row) - len(recent)) + flags
    changes = [change_between(name, before, after) for before, after in pairwise(parts)]
    years = tuple(
        LineYear(
            end_key=p.end.isoformat(),
            year=p.label,
            value=part,
            change=change,
            freak=flag,
            excluded=reason,
        )
        for p, part, change, flag, reason in zip(
            row[1:], parts[1:], changes, flags[1:], reasons[1:], strict=True
        )
    )
    growth = _growths(name, parts)
    against = _against(name, growth, revenue, ratio=parts[-1].unit is Unit.FRACTION)
    gone = row[-1].excluded
    return Line(
        id=id,
        name=name,
        years=years,
        latest=changes[-1].with_exclusions(gone),
        median=_median(name, years).with_exclusions(gone),
        growth_3=growth[3].with_exclusions(gone),
        growth_5=growth[5].with_exclusions(gone),
        growth_10=growth[10].with_exclusions(gone),
        against=against.with_exclusions(gone),
        mark=mark_of(id, _longest(growth), against),
    )


def _median(name: str, years: Sequence[LineYear]) -> Figure:
    """Of the yearly changes that are known, without those into and out of excluded years."""
    label = f"{name}, median yearly change"
    counted = [
        y.change
        for n, y in enumerate(years)
        if y.change.known and not y.excluded and not (n and years[n - 1].excluded)
    ]
    aside = tuple(f"{y.year} excluded: {y.excluded}" for y in years if y.excluded)
    if not counted:
        return unknown(label, Unit.FRACTION, "no yearly change is known").with_exclusions(aside)
    found = derive(
        label,
        Unit.FRACTION,
        "median of the yearly changes, those into and out of excluded years left out",
        counted,
        lambda *v: median(v),
        period=f"{years[0].year} to {years[-1].year}",
    )
    return found.with_touch(touch_of([y.value.touch for y in years])).with_exclusions(aside)


def _longest(growth: dict[int, Figure]) -> Figure:
    """Over five years, else three, else ten: what a mark goes by."""
    return next((growth[n] for n in (5, 3, 10) if growth[n].known), growth[5])


def _against(
    name: str, growth: dict[int, Figure], revenue: dict[int, Figure], *, ratio: bool
) -> Figure:
    """Growth less revenue's, over five years, or three where five are not known."""
    label = f"{name}, growth against revenue's"
    span = next((n for n in (5, 3) if growth[n].known and revenue[n].known), None)
    if ratio:
        return unknown(label, Unit.FRACTION, "a ratio is not held against revenue")
    if span is None:
        return unknown(label, Unit.FRACTION, "no span is known for both")
    return derive(
        label,
        Unit.FRACTION,
        "its growth a year − revenue's",
        [growth[span], revenue[span]],
        lambda own, revenue: own - revenue,
        period=growth[span].period,
    )


def mark_of(id: str, growth: Figure, against: Figure) -> Mark | None:
    """Whether a line speaks for the payer or against it. against: its growth less revenue's."""
    if id in SLOWER_IS_GOOD:
        return mark_by(against, -1)
    good = 1 if id in UP_IS_GOOD else -1 if id in DOWN_IS_GOOD else 0
    return mark_by(growth, good) if good else None


def mark_by(figure: Figure, good: int) -> Mark | None:
    """good: the sign that speaks for the payer. Too small a difference says nothing."""
    value = figure.value
    if value is None or abs(value) < LEAST_MARKED:
        return None
    return Mark.FOR if good * value > 0 else Mark.AGAINST
