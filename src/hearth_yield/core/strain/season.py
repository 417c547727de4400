"""How a year's revenue falls on its months. (docs/method.md, Footing, Season)"""

from __future__ import annotations

from datetime import date

from ..facts.payer_file import PayerFile
from ..facts.periods import fiscal_years, in_a_row
from ..facts.statements import Span
from ..figures.figure import Figure, Unit, Unknown, derive, given, unknown

SEASON_YEARS = 5
YEAR = 12


def share_of_year(file: PayerFile, months: Figure, first_month: Figure) -> Figure:
    """What part of a year's revenue so many months bring: by season where the first month is
    named, else evenly.

    first_month: 1 to 12; 0 where none is named. Months of one quarter count alike. Source:
    docs/method.md, Footing, Season.
    """
    label = "share of a year’s revenue in those months"
    if not first_month.value:
        return derive(label, Unit.FRACTION, "months ÷ 12", [months], lambda n: n / YEAR)
    shares = month_shares(file)
    if isinstance(shares, Unknown):
        return unknown(label, Unit.FRACTION, shares)
    first = int(first_month.value)

    def compute(n: float, _: float, *by_month: float) -> float:
        return sum(by_month[(first - 1 + i) % YEAR] for i in range(int(n)))

    formula = "sum of the named months’ shares, a month bringing an even part of its quarter"
    return derive(label, Unit.FRACTION, formula, [months, first_month, *shares], compute)


def month_shares(file: PayerFile) -> list[Figure] | Unknown:
    """January to December: each an even part of its quarter's (or half-year's) mean share of a
    fiscal year's revenue over the last five fiscal years."""
    years = [y for y in in_a_row(fiscal_years(file), SEASON_YEARS) if y.line("revenue").value]
    for span in (Span.QUARTER, Span.HALF):
        found = _by_month(file, {y.end: y.line("revenue") for y in years}, span)
        if found:
            return found
    return Unknown("no fiscal year is held together with all its quarters")


def _by_month(file: PayerFile, years: dict[date, Figure], span: Span) -> list[Figure]:
    parts: dict[int, list[Figure]] = {}
    held = file.of_span(span)
    in_year = YEAR // span.months
    for end, revenue in years.items():
        mine = [s for s in held if 0 <= (end - s.period_end).days < 350]
        if len(mine) != in_year:
            continue
        for s in mine:
            line = s.line("revenue")
            share = derive(
                f"share of the year’s revenue, {s.period}",
                Unit.FRACTION,
                "revenue of the period ÷ of the fiscal year",
                [line, revenue],
                lambda part, whole: part / whole if whole > 0 else Unknown("no revenue"),
            )
            for back in range(span.months):
                parts.setdefault((_month_of(s.period_end) - 1 - back) % YEAR, []).append(share)
    if len(parts) < YEAR:
        return []
    n = span.months
    return [
        derive(
            f"share of month {month + 1}",
            Unit.FRACTION,
            f"mean of the years ÷ {n}",
            parts[month],
            lambda *v: sum(v) / len(v) / n,
        )
        for month in range(YEAR)
    ]


def _month_of(end: date) -> int:
    """The month a period ends with; one that ends in a month's first week, the one before."""
    return (end.month - 2) % YEAR + 1 if end.day <= 7 else end.month


def no_month() -> Figure:
    return given("first month", Unit.COUNT, 0, "no month is named: spread evenly over the year")
