"""Revenue, profit, cash per share and share count over the years, on one scale: 100 in the first.
(docs/method.md, Footing, Business)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ..facts.derived import free_cash_flow, per_share_of
from ..facts.periods import Period
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures

BASE = 100.0


def cash_per_share(period: Period) -> Figure:
    shares = period.line("diluted_shares")
    return per_share_of("free cash flow per share", free_cash_flow(period), shares)


LINES: dict[str, Callable[[Period], Figure]] = {
    "revenue": lambda p: p.line("revenue"),
    "net_income": lambda p: p.line("net_income"),
    "cash_per_share": cash_per_share,
    "shares": lambda p: p.line("diluted_shares"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class IndexedYear(HoldsFigures):
    """One fiscal year against the base year, which is 100."""

    period: Period
    base: Period
    revenue: Figure
    net_income: Figure
    cash_per_share: Figure
    shares: Figure

    @property
    def key(self) -> str:
        return self.period.end.isoformat()


def indexed_years(years: Sequence[Period]) -> tuple[IndexedYear, ...]:
    """The base is the first year in which all four are above 0; without one, the first."""
    if not years:
        return ()
    base = next((p for p in years if _has_all(p)), years[0])
    first = {name: read(base) for name, read in LINES.items()}
    return tuple(
        IndexedYear(
            period=p,
            base=base,
            **{name: _indexed(first[name], read(p)) for name, read in LINES.items()},
        )
        for p in years
    )


def _has_all(period: Period) -> bool:
    return all((read(period).value or 0.0) > 0 for read in LINES.values())


def _indexed(base: Figure, now: Figure) -> Figure:
    def compute(then: float, value: float) -> float | Unknown:
        if then <= 0:
            return Unknown(f"{base.label} was not positive in {base.period}")
        return BASE * value / then

    return derive(
        f"{now.label}, {base.period} = 100",
        Unit.INDEX,
        f"100 × value ÷ that of {base.period}",
        [base, now],
        compute,
        period=now.period,
    )
