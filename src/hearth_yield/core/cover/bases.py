"""One basis of the cover over twelve months: what came in, what was paid, what was left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property

from ..facts.derived import (
    adjusted_funds_from_operations,
    free_cash_flow,
    funds_from_operations,
    per_share_of,
)
from ..facts.periods import Period
from ..facts.statements import fiscal_year_of, words
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from ..kinds import Kind
from ..record.payments import Payment

NOTHING_PAID = "nothing is being paid"


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
    Kind.OTHER: (Basis.EARNINGS,),
}
"""Bases by kind, the leading one first."""


@dataclass(frozen=True, kw_only=True)
class CoverPeriod(HoldsFigures):
    """One period on one basis. per_share and dividend_per_share use diluted shares. excluded: why
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
    excluded: str | None = None

    @property
    def key(self) -> str:
        return self.end.isoformat()

    @property
    def label(self) -> str:
        return self.period.label

    @property
    def end(self) -> date:
        return self.period.end

    @property
    def year(self) -> int:
        """The fiscal year's name."""
        return fiscal_year_of(self.end)

    @cached_property
    def left(self) -> Figure:
        return _difference(
            "left after the dividend",
            f"{self.driver.label} − dividends",
            self.driver,
            self.dividends,
        )

    @cached_property
    def left_after_buybacks(self) -> Figure:
        return _difference(
            "left after dividend and buybacks",
            "left after the dividend − buybacks",
            self.left,
            self.period.line("buybacks"),
        )

    @cached_property
    def dividend_per_share(self) -> Figure:
        return per_share_of(
            "dividends paid per share", self.dividends, self.period.line("diluted_shares")
        )


def _after_preferred(label: str, before: Figure, period: Period) -> Figure:
    preferred = period.line("preferred_dividends")
    stand = not preferred.known and (period.at_end("preferred_equity").value or 0) > 0
    if before.value is not None and not preferred.value and not stand:
        silent = _silent(preferred)
        if before.label == label and not silent:
            return before
        return before.but(label=label, notes=(*before.notes, *silent))
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
            reported = period.line("distributable_cash_flow").but(label="distributable cash")
            return _after_preferred("distributable cash", reported, period)


def dividends_in(period: Period, payments: Sequence[Payment]) -> Figure:
    """Common dividends paid in the period; where the cash-flow statement is silent, declared per
    share × shares, marked."""
    paid = period.line("dividends_paid")
    if paid.known:
        return paid
    start = period.end - timedelta(days=365)
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


def _ratio(paid: float, available: float, label: str, nothing: str) -> float | Unknown:
    """paid ÷ available; nothing: why there is none while nothing is paid."""
    if paid <= 0:
        return Unknown(nothing)
    if available <= 0:
        burn = "loss" if "earnings" in label else "cash burn"
        return Unknown(f"{burn}: {label} was not positive", breach=burn)
    return paid / available


def payout_ratio(label: str, dividends: Figure, available: Figure) -> Figure:
    """Dividends as a fraction of what pays for them.

    dividends / available

    Returns: a fraction (0.55 is 55 %). Available ≤ 0 while something was paid: no ratio, a breach
    ("cash burn", "loss"). Nothing paid: unknown. Source: docs/method.md, Cover.
    """
    return derive(
        label,
        Unit.FRACTION,
        f"{dividends.label} ÷ {available.label}",
        [dividends, available],
        lambda paid, x: _ratio(
            paid, x, available.label, f"no dividends were paid in {dividends.period}"
        ),
        period=dividends.period or available.period,
    )


def declared_payout(basis: Basis, declared_rate: Figure, per_share: Figure) -> Figure:
    """What is promised now as a fraction of what pays for it.

    declared rate / basis per share of the trailing twelve months

    Returns: as `payout_ratio`; unknown while nothing is being paid, and where the two are in
    different currencies. Source: docs/method.md, Cover.
    """
    return rate_over(f"{words(basis)} payout at the declared rate", declared_rate, per_share)


def rate_over(label: str, declared_rate: Figure, per_share: Figure) -> Figure:
    """The declared rate ÷ what is there, or expected, per share."""
    if per_share.known and per_share.currency != declared_rate.currency:
        reason = not_converted(per_share.currency, declared_rate.currency)
        return unknown(label, Unit.FRACTION, reason, inputs=(declared_rate, per_share))
    return derive(
        label,
        Unit.FRACTION,
        f"declared rate ÷ {per_share.label}",
        [declared_rate, per_share],
        lambda rate, x: _ratio(rate, x, per_share.label, NOTHING_PAID),
        period=per_share.period,
    )


def not_converted(held: str | None, wanted: str | None) -> str:
    return f"reported in {held}, which is not converted to {wanted}"


def _difference(label: str, formula: str, a: Figure, b: Figure) -> Figure:
    return derive(
        label, Unit.MONEY, formula, [a, b], lambda x, y: x - y, currency=a.currency, period=a.period
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
        per_share=per_share_of(f"{words(basis)} per share", available, shares),
    )
