"""The business: margins, returns, and which way revenue, profit and shares go.
(docs/method.md, Footing)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import timedelta
from functools import cached_property

from ..facts.derived import adjusted_funds_from_operations, free_cash_flow, per_share_of, total_debt
from ..facts.payer_file import PayerFile
from ..facts.periods import A_YEAR, Period, in_a_row
from ..facts.robust import TREND_YEARS, trend
from ..facts.statements import Statement
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.measure import Sentence, Size
from ..figures.parts import HoldsFigures
from ..figures.ties import at_least
from ..kinds import Kind

NO_REVENUE = "revenue was not positive"


def costs(period: Period) -> Figure:
    """What it cost to earn the revenue: cost of revenue + operating expenses; where they are not
    reported, revenue − EBIT."""
    direct, running = period.line("cost_of_revenue"), period.line("operating_expenses")
    if direct.known and running.known:
        parts, formula = [direct, running], "cost of revenue + operating expenses"
        return _money(period, "costs", formula, parts, lambda a, b: a + b)
    parts = [period.line("revenue"), period.line("ebit")]
    return _money(period, "costs", "revenue − EBIT", parts, lambda a, b: a - b)


def gross_profit(period: Period) -> Figure:
    """revenue − cost of revenue."""
    parts = [period.line("revenue"), period.line("cost_of_revenue")]
    formula = "revenue − cost of revenue"
    return _money(period, "gross profit", formula, parts, lambda revenue, cost: revenue - cost)


def tax_rate(period: Period) -> Figure:
    """tax ÷ (net income + tax), as the statements show it; unknown in a loss."""

    def compute(tax: float, income: float) -> float | Unknown:
        before = income + tax
        return tax / before if before > 0 else Unknown("a loss before tax")

    parts = [period.line("tax"), period.line("net_income")]
    formula = "tax ÷ (net income + tax)"
    return derive("tax rate", Unit.FRACTION, formula, parts, compute, period=period.label)


def growth_between(label: str, before: Figure, after: Figure, years: float) -> Figure:
    """Compound growth a year: (after ÷ before)^(1 ÷ years) − 1. A base that is not positive has
    none."""

    def compute(a: float, b: float) -> float | Unknown:
        if a <= 0 or b <= 0:
            return Unknown(f"{before.label} was not positive throughout")
        return float((b / a) ** (1 / years) - 1)

    return derive(
        label,
        Unit.FRACTION,
        f"({after.label}, {after.period} ÷ {before.period})^(1 ÷ {years:g}) − 1",
        [before, after],
        compute,
        period=f"{before.period} to {after.period}",
    )


def year_earlier(file: PayerFile, period: Period) -> Statement | None:
    """The balance sheet a year before the period's end, of whatever statement holds one."""
    wanted = period.end - timedelta(days=365)
    held = [
        s
        for s in file.statements
        if abs((s.period_end - wanted).days) <= (A_YEAR[1] - A_YEAR[0]) / 2
        and s.currency == period.statements[-1].currency
        and "total_assets" in s.lines
    ]
    return max(held, key=lambda s: s.span.months, default=None)


SQUEEZE = 0.02
"""A year, either way, under which neither line is said to grow or to fall."""


@dataclass(frozen=True, kw_only=True)
class Business(HoldsFigures):
    """Twelve months of the business: what is left of revenue, and what is earned on what is owned.

    before: the balance sheet a year earlier. excluded: what the person left out of the statements
    that one is looked for among, in words.
    """

    period: Period
    before: Statement | None
    excluded: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        return self.period.end.isoformat()

    @cached_property
    def gross_margin(self) -> Figure:
        return self._of_revenue("gross margin", gross_profit(self.period))

    @cached_property
    def operating_margin(self) -> Figure:
        return self._of_revenue("operating margin", self.period.line("ebit"))

    @cached_property
    def net_margin(self) -> Figure:
        return self._of_revenue("net margin", self.period.line("net_income"))

    @cached_property
    def cash_margin(self) -> Figure:
        return self._of_revenue("free cash flow margin", free_cash_flow(self.period))

    @cached_property
    def return_on_assets(self) -> Figure:
        return self._return("return on assets", self.period.line("net_income"), "total_assets")

    @cached_property
    def return_on_equity(self) -> Figure:
        return self._return("return on equity", self.period.line("net_income"), "equity")

    @cached_property
    def return_on_capital(self) -> Figure:
        """EBIT × (1 − tax rate) ÷ mean (debt + equity − cash)."""
        after_tax = _money(
            self.period,
            "EBIT after tax",
            "EBIT × (1 − tax rate)",
            [self.period.line("ebit"), tax_rate(self.period)],
            lambda ebit, rate: ebit * (1 - rate),
        )
        label = "return on invested capital"
        if self.before is None:
            return self._nothing_before(label)
        then = Period(
            label=self.before.period, end=self.before.period_end, statements=(self.before,)
        )
        capital = self._mean("invested capital", _capital(self.period), _capital(then))
        return self._over(label, after_tax, capital)

    def _of_revenue(self, label: str, part: Figure) -> Figure:
        def compute(x: float, revenue: float) -> float | Unknown:
            return x / revenue if revenue > 0 else Unknown(NO_REVENUE)

        return derive(
            label,
            Unit.FRACTION,
            f"{part.label} ÷ revenue",
            [part, self.period.line("revenue")],
            compute,
            period=self.period.label,
        )

    def _return(self, label: str, earned: Figure, line: str) -> Figure:
        now = self.period.at_end(line)
        if self.before is None:
            return self._nothing_before(label)
        return self._over(label, earned, self._mean(now.label, now, self.before.line(line)))

    def _nothing_before(self, label: str) -> Figure:
        return unknown(label, Unit.FRACTION, "no balance sheet of a year earlier is held")

    def _mean(self, name: str, now: Figure, then: Figure) -> Figure:
        return _money(
            self.period,
            f"mean {name}",
            "mean of its two ends",
            [then, now],
            lambda a, b: (a + b) / 2,
        )

    def _over(self, label: str, earned: Figure, mean: Figure) -> Figure:
        def compute(income: float, base: float) -> float | Unknown:
            return income / base if base > 0 else Unknown(f"{mean.label} was not positive")

        return derive(
            label,
            Unit.FRACTION,
            f"{earned.label} ÷ {mean.label}",
            [earned, mean],
            compute,
            period=self.period.label,
        ).with_exclusions(self.excluded)


PAYS: Mapping[Kind, tuple[str, Callable[[Period], Figure]]] = {
    Kind.COMPANY: ("free cash flow", free_cash_flow),
    Kind.PROPERTY_TRUST: ("AFFO", adjusted_funds_from_operations),
    Kind.PARTNERSHIP: ("distributable cash", lambda p: p.line("distributable_cash_flow")),
    Kind.FINANCIAL: ("earnings", lambda p: p.line("net_income")),
    Kind.OTHER: ("earnings", lambda p: p.line("net_income")),
}
"""What pays the dividend, by kind."""


@dataclass(frozen=True, kw_only=True)
class Course:
    """Which way the business goes, over the newest fiscal years in a row, at most six: five years
    of growth."""

    row: Sequence[Period]
    kind: Kind

    @cached_property
    def revenue_trend(self) -> Figure:
        return self._trend("revenue, trend", [p.line("revenue") for p in self._five])

    @cached_property
    def net_income_trend(self) -> Figure:
        return self._trend("net income, trend", [p.line("net_income") for p in self._five])

    @cached_property
    def share_trend(self) -> Figure:
        return self._trend("share count, trend", [p.line("diluted_shares") for p in self._five])

    @cached_property
    def revenue_growth(self) -> Figure:
        return self._growth("revenue growth a year", lambda p: p.line("revenue"))

    @cached_property
    def cost_growth(self) -> Figure:
        return self._growth("cost growth a year", costs)

    @cached_property
    def share_growth(self) -> Figure:
        return self._growth("share count growth a year", lambda p: p.line("diluted_shares"))

    @cached_property
    def cash_growth(self) -> Figure:
        """Of what pays the dividend: AFFO, distributable cash, earnings or free cash flow."""
        return self._growth(f"{PAYS[self.kind][0]} growth a year", PAYS[self.kind][1])

    @cached_property
    def cash_per_share_growth(self) -> Figure:
        """The same per share: after the shares or units that were issued."""
        name, read = PAYS[self.kind]
        return self._growth(
            f"{name} per share, growth a year",
            lambda p: per_share_of(f"{name} per share", read(p), p.line("diluted_shares")),
        )

    @cached_property
    def net_income_growth(self) -> Figure:
        return self._growth("net income growth a year", lambda p: p.line("net_income"))

    @property
    def squeezed(self) -> bool:
        """Revenue grows while net income falls, by 2 % a year or more either way and by trend and
        compound growth alike; a loss where there was a profit has fallen."""
        grew = [self.revenue_trend.value, self.revenue_growth.value]
        fell = [self.net_income_trend.value, self.net_income_growth.value]
        if fell[1] is None and self.row and (self.row[-1].line("net_income").value or 0.0) < 0:
            fell = fell[:1]
        return all(g is not None and at_least(g, SQUEEZE) for g in grew) and all(
            f is not None and at_least(-SQUEEZE, f) for f in fell
        )

    @property
    def squeeze(self) -> Sentence:
        """What squeezes it, with both readings of both lines."""
        income = self.net_income_growth
        compound: Sentence = ("; ", Size(figure=income), " compound") if income.known else ()
        return (
            "revenue grew by ",
            self.revenue_trend,
            " a year (trend; ",
            self.revenue_growth,
            " compound) while net income fell by ",
            Size(figure=self.net_income_trend),
            " (trend",
            *compound,
            ")",
        )

    @property
    def creeping(self) -> bool:
        """Costs grew faster than revenue over the span."""
        cost, revenue = self.cost_growth.value, self.revenue_growth.value
        return cost is not None and revenue is not None and cost > revenue

    @property
    def _five(self) -> Sequence[Period]:
        return self.row[-TREND_YEARS:]

    def _trend(self, label: str, parts: Sequence[Figure]) -> Figure:
        currencies = {p.currency for p in parts}
        if len(currencies) > 1 and parts[0].unit is not Unit.SHARES:
            return unknown(label, Unit.FRACTION, "the years are in different currencies")
        return trend(label, [p.end for p in self._five], parts)

    def _growth(self, label: str, line: Callable[[Period], Figure]) -> Figure:
        """Over the last five years, or as many as are held in a row."""
        if len(self.row) < 2:
            held = "one fiscal year is held" if self.row else "no fiscal year is held"
            return unknown(label, Unit.FRACTION, held)
        first, last = self.row[0], self.row[-1]
        return growth_between(label, line(first), line(last), len(self.row) - 1)


def _capital(period: Period) -> Figure:
    return _money(
        period,
        "invested capital",
        "total debt + equity − cash",
        [total_debt(period), period.at_end("equity"), period.at_end("cash")],
        lambda debt, own, cash: debt + own - cash,
    )


def _money(
    period: Period,
    label: str,
    formula: str,
    parts: Sequence[Figure],
    compute: Callable[..., float | Unknown],
) -> Figure:
    return derive(
        label,
        Unit.MONEY,
        formula,
        parts,
        compute,
        currency=period.statements[-1].currency,
        period=period.label,
    )


def business_of(file: PayerFile, period: Period) -> Business:
    since = period.end - timedelta(days=2 * A_YEAR[1])
    return Business(
        period=period,
        before=year_earlier(file, period),
        excluded=file.exclusions_within("statements", since, period.end),
    )


def course_of(years: Sequence[Period], kind: Kind) -> Course:
    return Course(row=in_a_row(years, TREND_YEARS + 1), kind=kind)
