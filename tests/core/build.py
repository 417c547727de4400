"""Made-up payers for tests, built from as few words as the test needs."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import (
    Dividend,
    Notice,
    NoticeKind,
    Payer,
    PriceHistory,
    Series,
    SeriesPoint,
    Split,
)
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review, build_review

TODAY = date(2026, 6, 30)


def payer(kind: Kind = Kind.COMPANY, **more: object) -> Payer:
    base = {
        "symbol": "TST",
        "exchange": "ELV",
        "name": "Testament Ropes",
        "kind": kind,
        "currency": "TLL",
        "country": "Sundrey",
        "fiscal_year_end_month": 12,
    }
    return Payer(**(base | more))  # type: ignore[arg-type]


def dividends(
    amounts: Sequence[float], per_year: int, last_ex: date, *, stated: bool = False
) -> tuple[Dividend, ...]:
    """Regular payments, evenly spaced, the last with ex-date `last_ex`; declared 30 days before."""
    found = []
    for back, amount in enumerate(reversed(amounts)):
        ex = last_ex - timedelta(days=round(365.25 * back / per_year))
        found.append(
            Dividend(
                ex_date=ex,
                amount=amount,
                currency="TLL",
                declared_on=ex - timedelta(days=30),
                payments_per_year=per_year if stated else None,
                source=1,
            )
        )
    return tuple(reversed(found))


def yearly_raises(first_year: int, last_year: int, start: float, growth: float) -> list[Dividend]:
    """Four equal payments a calendar year, raised each year by `growth`."""
    return [
        Dividend(
            ex_date=date(y, m, 10),
            amount=start * (1 + growth) ** (y - first_year),
            currency="TLL",
            declared_on=date(y, m, 10) - timedelta(days=20),
            source=1,
        )
        for y in range(first_year, last_year + 1)
        for m in (2, 5, 8, 11)
    ]


def year_statement(year: int, **lines: float) -> Statement:
    return Statement(
        period_end=date(year, 12, 31),
        span=Span.YEAR,
        published_on=date(year + 1, 2, 20),
        currency="TLL",
        lines=lines,
        source=2,
    )


def plain_years(
    first: int, last: int, cash: float = 100.0, paid: float = 50.0, shares: float = 10.0
) -> tuple[Statement, ...]:
    """Fiscal years with round figures: FCF = cash, earnings = cash, no debt."""
    return tuple(
        year_statement(
            y,
            revenue=1000.0,
            net_income=cash,
            diluted_shares=shares,
            operating_cash_flow=cash + 40.0,
            capital_expenditure=40.0,
            dividends_paid=paid,
            ebit=1.2 * cash,
            interest_expense=0.0,
            depreciation_amortization=40.0,
            cash=100.0,
            long_term_debt=0.0,
            total_assets=900.0,
        )
        for y in range(first, last + 1)
    )


def weekly_prices(first: date, last: date, close: float = 40.0, drift: float = 0.0) -> PriceHistory:
    """Friday closes from `first` (moved to its Friday) to `last`."""
    day = first + timedelta(days=(4 - first.weekday()) % 7)
    rows = []
    while day <= last:
        rows.append((day, close * (1 + drift) ** len(rows)))
        day += timedelta(days=7)
    return PriceHistory.of(rows, source=3)


def price_index(first: int, last: date, start: float = 100.0, rate: float = 0.02) -> Series:
    """Monthly points, published on the 20th of the month after."""
    points = []
    month = date(first, 1, 1)
    while month <= last:
        following = (month + timedelta(days=32)).replace(day=1)
        years = (month.year - first) + (month.month - 1) / 12
        points.append(
            SeriesPoint(
                day=month,
                published_on=following.replace(day=20),
                value=start * (1 + rate) ** years,
                source=4,
            )
        )
        month = following
    return Series(code="CPI", name="Sundrey price index", currency="TLL", points=tuple(points))


RATE = 0.40 * 1.05**24
"""What the steady payer has declared a year."""


def paying_out(share: float, first: int = 2002) -> tuple[Statement, ...]:
    """Fiscal years in which the steady payer's declared rate is this share of its cash."""
    return plain_years(first, 2025, paid=100.0 * share, shares=100.0 * share / RATE)


def steady(**more: object) -> PayerFile:
    """Twenty-five years of raises at 5 %, cash twice the dividend, weekly prices at 40."""
    base: dict[str, object] = {
        "payer": payer(),
        "dividends": tuple(yearly_raises(2002, 2026, 0.10, 0.05)[:-2]),
        "statements": paying_out(0.5),
        "prices": weekly_prices(date(2002, 1, 4), date(2026, 6, 26)),
        "price_index": price_index(2001, date(2026, 5, 1)),
    }
    return PayerFile(**(base | more))  # type: ignore[arg-type]


def notice(day: date, kind: NoticeKind = NoticeKind.SUSPENDED) -> Notice:
    return Notice(declared_on=day, kind=kind, source=1)


def split(day: date, new: float, old: float = 1.0) -> Split:
    return Split(effective_on=day, new_shares=new, old_shares=old, source=1)


def paid(day: date, amount: float, **more: object) -> Dividend:
    base = {
        "ex_date": day,
        "amount": amount,
        "currency": "TLL",
        "declared_on": day - timedelta(days=20),
    }
    return Dividend(**(base | more))  # type: ignore[arg-type]


def review(file: PayerFile, day: date = TODAY, question: Question | None = None) -> Review:
    return build_review(file.cut(day), HouseRules(), question)
