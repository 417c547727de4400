"""Cover: who pays for the dividend, and how far that can fall. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise

from .declared_rate import Payment, payments_of
from .facts import Kind, PayerFile, Span, Statement, words
from .figure import Figure, Unit, Unknown, derive, unknown
from .robust import freak_years, trend

SHOWN_YEARS = 12
CYCLE_YEARS = 5
CYCLE_LEAST = 3
KNOWN_YEARS = 10


class Basis(StrEnum):
    """What the dividend is held against."""

    FREE_CASH_FLOW = "free_cash_flow"
    EARNINGS = "earnings"
    OPERATING_CASH_FLOW = "operating_cash_flow"
    AFFO = "affo"
    FFO = "ffo"
    DISTRIBUTABLE_CASH = "distributable_cash"


BASES: dict[Kind, tuple[Basis, ...]] = {
    Kind.COMPANY: (Basis.FREE_CASH_FLOW, Basis.EARNINGS, Basis.OPERATING_CASH_FLOW),
    Kind.PROPERTY_TRUST: (Basis.AFFO, Basis.FFO, Basis.OPERATING_CASH_FLOW),
    Kind.PARTNERSHIP: (Basis.DISTRIBUTABLE_CASH, Basis.FREE_CASH_FLOW),
    Kind.FINANCIAL: (Basis.EARNINGS,),
}
"""Bases by kind, the leading one first."""


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


@dataclass(frozen=True, slots=True, kw_only=True)
class CoverPeriod:
    """One period on one basis. per_share and dividend_per_share use diluted shares."""

    label: str
    end: date
    driver: Figure
    dividends: Figure
    payout: Figure
    left: Figure
    left_after_buybacks: Figure
    per_share: Figure
    dividend_per_share: Figure
    freak: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class BasisCover:
    basis: Basis
    years: tuple[CoverPeriod, ...]
    latest: CoverPeriod | None
    trailing: CoverPeriod | None
    through_cycle: Figure
    worst_of_ten: Figure
    per_share_trend: Figure
    overpaid_years: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Cover:
    bases: tuple[BasisCover, ...]
    net_income: Figure
    trailing_note: str | None

    @property
    def leading(self) -> BasisCover:
        return self.bases[0]

    def of(self, basis: Basis) -> BasisCover | None:
        return next((b for b in self.bases if b.basis is basis), None)


def free_cash_flow(period: Period) -> Figure:
    """operating cash flow − capital expenditure, after interest, before dividends."""
    return derive(
        "free cash flow",
        Unit.MONEY,
        "operating cash flow − capital expenditure",
        [period.line("operating_cash_flow"), period.line("capital_expenditure")],
        lambda cash, capex: cash - capex,
        currency=period.statements[0].currency,
        period=period.label,
        notes=("derived",),
    )


def funds_from_operations(period: Period) -> Figure:
    """FFO as published; else net income + property depreciation + impairments − gains on sales −
    preferred dividends. Source: docs/method.md, Statements, after Nareit's white paper."""
    published = period.line("ffo")
    if published.known:
        return published
    return derive(
        "FFO",
        Unit.MONEY,
        "net income + property depreciation + impairments − gains on property sales "
        "− preferred dividends",
        [
            period.line(n)
            for n in (
                "net_income", "property_depreciation", "impairments",
                "gains_on_property_sales", "preferred_dividends",
            )
        ],
        lambda ni, dep, imp, gains, pref: ni + dep + imp - gains - pref,
        currency=period.statements[0].currency,
        period=period.label,
        notes=("derived",),
    )  # fmt: skip


def adjusted_funds_from_operations(period: Period) -> Figure:
    """AFFO as published; else FFO − recurring capex − straight-line rent."""
    published = period.line("affo")
    if published.known:
        return published
    return derive(
        "AFFO",
        Unit.MONEY,
        "FFO − recurring capex − straight-line rent",
        [
            funds_from_operations(period),
            period.line("recurring_capex"),
            period.line("straight_line_rent"),
        ],
        lambda ffo, capex, rent: ffo - capex - rent,
        currency=period.statements[0].currency,
        period=period.label,
        notes=("derived",),
    )


def _after_preferred(label: str, before: Figure, period: Period) -> Figure:
    preferred = period.line("preferred_dividends")
    if before.value is not None and not preferred.value:
        silent = _silent(preferred)
        if before.label == label and not silent:
            return before
        return replace(before, label=label, notes=(*before.notes, *silent))
    return derive(
        f"{label} after preferred dividends",
        Unit.MONEY,
        f"{label} − preferred dividends",
        [before, preferred],
        lambda x, p: x - p,
        currency=before.currency,
        period=period.label,
    )


def _silent(preferred: Figure) -> tuple[str, ...]:
    return () if preferred.known else ("preferred dividends not reported; counted as nil",)


def driver(basis: Basis, period: Period) -> Figure:
    """The money the basis says the dividend is paid from, after preferred dividends."""
    match basis:
        case Basis.FREE_CASH_FLOW:
            return _after_preferred("free cash flow", free_cash_flow(period), period)
        case Basis.EARNINGS:
            return _after_preferred("earnings", period.line("net_income"), period)
        case Basis.OPERATING_CASH_FLOW:
            return _after_preferred(
                "operating cash flow", period.line("operating_cash_flow"), period
            )
        case Basis.FFO:
            return funds_from_operations(period)
        case Basis.AFFO:
            return adjusted_funds_from_operations(period)
        case Basis.DISTRIBUTABLE_CASH:
            return replace(period.line("distributable_cash_flow"), label="distributable cash")


def dividends_in(period: Period, payments: Sequence[Payment], months: int = 12) -> Figure:
    """Common dividends paid in the period; where the cash-flow statement is silent, declared per
    share × shares, marked."""
    paid = period.line("dividends_paid")
    if paid.known:
        return paid
    start = period.end - timedelta(days=round(months * 30.44))
    held = [p for p in payments if start < p.ex_date <= period.end]
    currency = period.statements[0].currency
    if not held:
        return paid
    per_share = derive(
        "declared per share",
        Unit.PER_SHARE,
        "sum of payments with ex-dates in the period",
        [p.figure(currency) for p in held],
        lambda *a: sum(a),
        currency=currency,
        period=period.label,
    )
    return derive(
        "dividends paid",
        Unit.MONEY,
        "declared per share × diluted shares",
        [per_share, period.line("diluted_shares")],
        lambda d, n: d * n,
        currency=currency,
        period=period.label,
        notes=("not in the cash-flow statement: declared per share × shares",),
    )


def payout_ratio(label: str, dividends: Figure, available: Figure) -> Figure:
    """Dividends as a fraction of what pays for them.

    dividends / available

    Returns: a fraction (0.55 is 55 %). Available ≤ 0 while something was paid: no ratio, a breach
    ("cash burn", "loss"). Nothing paid: unknown. Source: docs/method.md, Cover.
    """
    burn = "loss" if available.label.startswith("earnings") else "cash burn"

    def compute(paid: float, x: float) -> float | Unknown:
        if paid <= 0:
            return Unknown(f"no dividends were paid in {dividends.period}")
        if x <= 0:
            return Unknown(f"{burn}: {available.label} was not positive", breach=burn)
        return paid / x

    return derive(
        label,
        Unit.FRACTION,
        f"dividends paid ÷ {available.label}",
        [dividends, available],
        compute,
        period=dividends.period or available.period,
    )


def _difference(label: str, formula: str, a: Figure, b: Figure) -> Figure:
    return derive(
        label,
        Unit.MONEY,
        formula,
        [a, b],
        lambda x, y: x - y,
        currency=a.currency,
        period=a.period,
    )


def _per_share(label: str, total: Figure, shares: Figure) -> Figure:
    return derive(
        label,
        Unit.PER_SHARE,
        f"{total.label} ÷ diluted shares",
        [total, shares],
        lambda t, n: t / n if n > 0 else Unknown("no diluted shares"),
        currency=total.currency,
        period=total.period,
    )


def cover_period(basis: Basis, period: Period, payments: Sequence[Payment]) -> CoverPeriod:
    """Driver, dividends and what they leave, in total and per share, for one twelve months."""
    available, paid = driver(basis, period), dividends_in(period, payments)
    left = _difference("left after the dividend", f"{available.label} − dividends", available, paid)
    shares = period.line("diluted_shares")
    return CoverPeriod(
        label=period.label,
        end=period.end,
        driver=available,
        dividends=paid,
        payout=payout_ratio(f"{words(basis)} payout, {period.label}", paid, available),
        left=left,
        left_after_buybacks=_difference(
            "left after dividend and buybacks",
            "left after the dividend − buybacks",
            left,
            period.line("buybacks"),
        ),
        per_share=_per_share(f"{words(basis)} per share", available, shares),
        dividend_per_share=_per_share("dividends paid per share", paid, shares),
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


def through_the_cycle(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """Σ dividends ÷ Σ driver over the last five fiscal years, at least three."""
    label = f"{words(basis)} payout, through the cycle"
    recent = [y for y in years[-CYCLE_YEARS:] if y.driver.known and y.dividends.known]
    if len(recent) < CYCLE_LEAST:
        reason = f"{len(recent)} of at least {CYCLE_LEAST} fiscal years known"
        return unknown(label, Unit.FRACTION, reason)
    span = f"{recent[0].label} to {recent[-1].label}"

    def total(name: str, parts: list[Figure]) -> Figure:
        return derive(
            name,
            Unit.MONEY,
            "sum over the years",
            parts,
            lambda *v: sum(v),
            currency=parts[0].currency,
            period=span,
        )

    paid = total("dividends paid", [y.dividends for y in recent])
    available = total(recent[-1].driver.label, [y.driver for y in recent])
    figure = payout_ratio(label, paid, available)
    if len(recent) < CYCLE_YEARS:
        figure = replace(figure, notes=(*figure.notes, f"only {len(recent)} years known"))
    return figure


def worst_of_ten(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """The highest payout of the last ten fiscal years; a year of loss or cash burn is worse."""
    label = f"{words(basis)} payout, worst of ten years"
    recent = [y.payout for y in years[-KNOWN_YEARS:]]
    burnt = [p for p in recent if p.breach]
    if burnt:
        return replace(burnt[-1], label=label)
    known = [p for p in recent if p.value is not None]
    if not known:
        return unknown(label, Unit.FRACTION, "no payout is known in the last ten years")
    return replace(max(known, key=lambda p: p.value or 0.0), label=label)


def basis_cover(
    basis: Basis, periods: Sequence[Period], trailing: Period | None, payments: Sequence[Payment]
) -> BasisCover:
    years = [cover_period(basis, p, payments) for p in periods]
    recent = years[-KNOWN_YEARS:]
    freaks = freak_years([y.driver.value for y in recent])
    marked = [replace(y, freak=f) for y, f in zip(recent, freaks, strict=True)]
    years = years[: len(years) - len(recent)] + marked
    return BasisCover(
        basis=basis,
        years=tuple(years),
        latest=years[-1] if years else None,
        trailing=cover_period(basis, trailing, payments) if trailing else None,
        through_cycle=through_the_cycle(basis, years),
        worst_of_ten=worst_of_ten(basis, years),
        per_share_trend=trend(f"{words(basis)} per share, trend", [y.per_share for y in years]),
        overpaid_years=sum(
            1
            for y in recent
            if y.payout.breach or (y.payout.value is not None and y.payout.value > 1)
        ),
    )


def build_cover(file: PayerFile) -> Cover:
    """The cover stage on every basis of the payer's kind, leading first."""
    payments = payments_of(file)
    years = fiscal_years(file)
    trailing = trailing_period(file)
    return Cover(
        bases=tuple(basis_cover(b, years, trailing, payments) for b in BASES[file.payer.kind]),
        net_income=years[-1].line("net_income")
        if years
        else unknown("net income", Unit.MONEY, "no fiscal year is held"),
        trailing_note=trailing.note if trailing else None,
    )
