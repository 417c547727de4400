"""Footing: would it carry the dividend through a bad year? (docs/method.md, Footing)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property

from ..facts.age import Freshness
from ..facts.payer_file import PayerFile
from ..facts.periods import (
    Period,
    fiscal_years,
    trailing_age,
    trailing_period,
    with_newest_sheet,
    year_age,
    years_excluded,
)
from ..figures.figure import Figure, Unit, unknown
from ..kinds import Kind
from .balance import Balance
from .business import Business, Course, business_of, course_of
from .indexed import IndexedYear, indexed_years
from .lines import Line, lines_of
from .newest import Compared, newest_compared
from .parts import Split, splits_of
from .slumps import SlumpFelt, slumps_felt

TWO_YEARS = timedelta(days=780)
NO_STATEMENT = "no statement is held"


@dataclass(frozen=True, kw_only=True)
class Footing:
    """The newest balance sheet and business, and how they came to be.

    balance, business: of the newest twelve months; None without a statement. course: of the fiscal
    years. Views that are not on
    screen are built when they are asked for.
    """

    file: PayerFile
    years: Sequence[Period]
    balance: Balance | None
    business: Business | None
    course: Course
    fresh: Freshness
    years_fresh: Freshness

    @property
    def kind(self) -> Kind:
        return self.file.payer.kind

    @cached_property
    def balances(self) -> tuple[Balance, ...]:
        """Year by year, the oldest first."""
        return tuple(Balance(period=p) for p in self.years)

    @cached_property
    def businesses(self) -> tuple[Business, ...]:
        """Year by year, the oldest first."""
        return tuple(business_of(self.file, p) for p in self.years)

    @cached_property
    def _recent(self) -> tuple[str, ...]:
        """What was excluded of the statements that the newest figures rest on."""
        if self.balance is None or not self.file.exclusions:
            return ()
        since = self.balance.period.end - TWO_YEARS
        return self.file.exclusions_within("statements", since, date.max)

    @cached_property
    def _gone(self) -> tuple[str, ...]:
        return years_excluded(self.file, self.years)

    @cached_property
    def indexed(self) -> tuple[IndexedYear, ...]:
        return indexed_years(self._marked)

    @cached_property
    def lines(self) -> tuple[Line, ...]:
        return lines_of(self._marked, self.file.excluded_years)

    @cached_property
    def compared(self) -> tuple[Compared, ...]:
        """The newest interim period, and the newest twelve months, a year apart."""
        return newest_compared(self.file)

    @cached_property
    def _marked(self) -> Sequence[Period]:
        """The fiscal years as views show them together: what is excluded shapes them all."""
        gone = self._gone
        return [replace(p, excluded=gone) for p in self.years] if gone else self.years

    @cached_property
    def splits(self) -> tuple[Split, ...]:
        return splits_of(self.file)

    @cached_property
    def slumps(self) -> tuple[SlumpFelt, ...]:
        return slumps_felt(self.file)

    def owed(self, read: Callable[[Balance], Figure], name: str, unit: Unit) -> Figure:
        """A figure of the newest balance sheet, as it may be shown as current."""
        if self.balance is None:
            return unknown(name, unit, NO_STATEMENT)
        return self.fresh.of(read(self.balance)).with_exclusions(self._recent)

    def earned(self, read: Callable[[Business], Figure], name: str, unit: Unit) -> Figure:
        """A figure of the newest twelve months, as it may be shown as current."""
        if self.business is None:
            return unknown(name, unit, NO_STATEMENT)
        return self.fresh.of(read(self.business)).with_exclusions(self._recent)

    def over_years(self, read: Callable[[Course], Figure]) -> Figure:
        """A figure of the newest fiscal years together."""
        return self.years_fresh.of(read(self.course)).with_exclusions(self._gone)


def build_footing(file: PayerFile) -> Footing:
    years, trailing = fiscal_years(file), trailing_period(file)
    return Footing(
        file=file,
        years=years,
        balance=Balance(period=with_newest_sheet(file, trailing)) if trailing else None,
        business=business_of(file, trailing) if trailing else None,
        course=course_of(years, file.payer.kind),
        fresh=trailing_age(file, trailing),
        years_fresh=year_age(file, years),
    )


def footing_under(footing: Footing, change: Callable[[Period], Period]) -> Footing:
    """The balance sheet against other newest twelve months; what is owned and owed stays."""
    if footing.balance is None:
        return footing
    return replace(footing, balance=Balance(period=change(footing.balance.period)))
