"""Cover: who pays for the dividend, and how far that can fall. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property

from .declared_rate import Payment, payments_of
from .derived import adjusted_funds_from_operations, free_cash_flow, funds_from_operations
from .facts import Kind, PayerFile
from .figure import Figure, Unit, Unknown, derive, touch_of, unknown
from .periods import Period, fiscal_years, trailing_period
from .robust import freak_years, trend
from .statements import Span, words

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


@dataclass(frozen=True, kw_only=True)
class CoverPeriod:
    """One period on one basis. per_share and dividend_per_share use diluted shares. set_aside: why
    the person leaves the year out of "latest" and "through the cycle".

    What no other figure rests on is built when it is asked for: measures are made of thousands of
    payers, and ask for the latest year's alone.
    """

    period: Period
    driver: Figure
    dividends: Figure
    payout: Figure
    per_share: Figure
    freak: bool = False
    set_aside: str | None = None

    @property
    def label(self) -> str:
        return self.period.label

    @property
    def end(self) -> date:
        return self.period.end

    @cached_property
    def left(self) -> Figure:
        return _difference(
            "left after the dividend", f"{self.driver.label} − dividends", self.driver,
            self.dividends,
        )  # fmt: skip

    @cached_property
    def left_after_buybacks(self) -> Figure:
        return _difference(
            "left after dividend and buybacks", "left after the dividend − buybacks", self.left,
            self.period.line("buybacks"),
        )  # fmt: skip

    @cached_property
    def dividend_per_share(self) -> Figure:
        return _per_share(
            "dividends paid per share", self.dividends, self.period.line("diluted_shares")
        )


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
    shares = period.line("diluted_shares")
    return CoverPeriod(
        period=period,
        driver=available,
        dividends=paid,
        payout=payout_ratio(f"{words(basis)} payout, {period.label}", paid, available),
        per_share=_per_share(f"{words(basis)} per share", available, shares),
    )


def through_the_cycle(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """Σ dividends ÷ Σ driver over those of the last five fiscal years that are not set aside, at
    least three."""
    label = f"{words(basis)} payout, through the cycle"
    inside = years[-CYCLE_YEARS:]
    recent = [y for y in inside if y.driver.known and y.dividends.known and not y.set_aside]
    aside = tuple(f"{y.label} set aside: {y.set_aside}" for y in inside if y.set_aside)
    if len(recent) < CYCLE_LEAST:
        reason = f"{len(recent)} of at least {CYCLE_LEAST} fiscal years known"
        return unknown(label, Unit.FRACTION, reason, notes=aside)
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
    if len(recent) + len(aside) < CYCLE_YEARS:
        figure = replace(figure, notes=(*figure.notes, f"only {len(recent)} years known"))
    return figure.shaped_by(aside)


def worst_of_ten(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """The highest payout of the last ten fiscal years; a year of loss or cash burn is worse."""
    label = f"{words(basis)} payout, worst of ten years"
    recent = [y.payout for y in years[-KNOWN_YEARS:]]
    burnt = [p for p in recent if p.breach]
    touch = touch_of([p.touch for p in recent])
    if burnt:
        return replace(burnt[-1], label=label).also(touch)
    known = [p for p in recent if p.value is not None]
    if not known:
        return unknown(label, Unit.FRACTION, "no payout is known in the last ten years")
    return replace(max(known, key=lambda p: p.value or 0.0), label=label).also(touch)


def basis_cover(
    basis: Basis,
    periods: Sequence[Period],
    trailing: Period | None,
    payments: Sequence[Payment],
    file: PayerFile,
) -> BasisCover:
    set_aside, gone = file.set_aside, _years_left_out(file, periods)
    years = [cover_period(basis, p, payments) for p in periods]
    recent = years[-KNOWN_YEARS:]
    freaks = freak_years([y.driver.value for y in recent])
    marked = [replace(y, freak=f) if f else y for y, f in zip(recent, freaks, strict=True)]
    years = [
        replace(y, set_aside=set_aside[basis, y.end].reason) if (basis, y.end) in set_aside else y
        for y in (*years[: len(years) - len(recent)], *marked)
    ]
    return BasisCover(
        basis=basis,
        years=tuple(years),
        latest=latest_of(years, gone),
        trailing=_trailing(basis, trailing, payments, file),
        through_cycle=through_the_cycle(basis, years).shaped_by(gone),
        worst_of_ten=worst_of_ten(basis, years).shaped_by(gone),
        per_share_trend=trend(
            f"{words(basis)} per share, trend", [y.per_share for y in years]
        ).shaped_by(gone),
        overpaid_years=sum(
            1
            for y in recent
            if y.payout.breach or (y.payout.value is not None and y.payout.value > 1)
        ),
    )


def _trailing(
    basis: Basis, period: Period | None, payments: Sequence[Payment], file: PayerFile
) -> CoverPeriod | None:
    if period is None:
        return None
    found = cover_period(basis, period, payments)
    since = period.end - timedelta(days=365)
    gone = file.left_out_within("statements", since, date.max)
    return _chosen(found, gone)


def _chosen(period: CoverPeriod, choices: Sequence[str]) -> CoverPeriod:
    """A period that stands where it does because of what the person left out."""
    if not choices:
        return period
    return replace(
        period,
        driver=period.driver.shaped_by(choices),
        dividends=period.dividends.shaped_by(choices),
        payout=period.payout.shaped_by(choices),
        per_share=period.per_share.shaped_by(choices),
    )


def _years_left_out(file: PayerFile, periods: Sequence[Period]) -> tuple[str, ...]:
    """Fiscal years of the span shown of which no version is left."""
    if not file.left_out:
        return ()
    first = periods[0].end if periods else date.min
    held = {p.end for p in periods}
    return tuple(
        x.note
        for x in file.left_out
        if x.table == "statements" and x.kind == Span.YEAR and x.day >= first and x.day not in held
    )


def latest_of(years: Sequence[CoverPeriod], gone: Sequence[str] = ()) -> CoverPeriod | None:
    """The newest fiscal year that is not set aside; it says which newer ones are.

    gone: fiscal years left out, in words.
    """
    for back, year in enumerate(reversed(years)):
        if not year.set_aside:
            newer = years[len(years) - back :]
            aside = tuple(f"{y.label} set aside: {y.set_aside}" for y in newer)
            return _chosen(year, (*aside, *gone))
    return None


def build_cover(file: PayerFile) -> Cover:
    """The cover stage on every basis of the payer's kind, leading first."""
    payments = payments_of(file)
    years = fiscal_years(file)
    trailing = trailing_period(file)
    return Cover(
        bases=tuple(
            basis_cover(b, years, trailing, payments, file) for b in BASES[file.payer.kind]
        ),
        net_income=_latest_net_income(file, years),
        trailing_note=trailing.note if trailing else None,
    )


def _latest_net_income(file: PayerFile, years: Sequence[Period]) -> Figure:
    """Of the newest fiscal year whose earnings are not set aside."""
    held = [y for y in years if (Basis.EARNINGS, y.end) not in file.set_aside]
    if not held:
        return unknown("net income", Unit.MONEY, "no fiscal year is held")
    aside = tuple(f"{y.label} set aside" for y in years[years.index(held[-1]) + 1 :])
    return held[-1].line("net_income").shaped_by((*aside, *_years_left_out(file, years)))
