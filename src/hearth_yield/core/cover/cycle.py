"""The payout through the cycle: five fiscal years together, on what is promised now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..facts.periods import in_a_row
from ..facts.statements import words
from ..figures.figure import Figure, Unit, derive, unknown
from .bases import NOTHING_PAID, Basis, CoverPeriod, not_converted, payout_ratio

CYCLE_YEARS = 5
CYCLE_LEAST = 3


def _total(name: str, parts: Sequence[Figure]) -> Figure:
    """A sum over fiscal years; unknown where they are in different currencies."""
    span = f"{parts[0].period} to {parts[-1].period}"
    currency = parts[-1].currency
    other = next((p.currency for p in parts if p.currency != currency), None)
    if other is not None:
        return unknown(name, Unit.MONEY, not_converted(other, currency), inputs=tuple(parts))
    return derive(
        name,
        Unit.MONEY,
        "sum over the years",
        parts,
        lambda *v: sum(v),
        currency=currency,
        period=span,
    )


def promised(year: CoverPeriod, declared_rate: Figure) -> Figure:
    """What a past year's dividend comes to at what is promised now: a cut re-bases the past, a
    raise does not. min(dividends paid, declared rate × diluted shares)"""
    if year.dividends.currency != declared_rate.currency:
        why = not_converted(year.dividends.currency, declared_rate.currency)
        return unknown("dividends at the declared rate", Unit.MONEY, why, period=year.label)
    return derive(
        "dividends at the declared rate",
        Unit.MONEY,
        "the lower of dividends paid and declared rate × diluted shares",
        [year.dividends, declared_rate, year.period.line("diluted_shares")],
        lambda paid, rate, shares: min(paid, rate * shares),
        currency=year.dividends.currency,
        period=year.label,
    )


@dataclass(frozen=True, slots=True)
class Counted:
    """Fiscal years that count through the cycle, and why others do not."""

    years: list[CoverPeriod]
    aside: tuple[str, ...]
    missing: str | None


def counted_years(years: Sequence[CoverPeriod], first_paid: date | None, resumed: bool) -> Counted:
    """Of the last five fiscal years in a row those that are known, not excluded, and not from
    before the first dividend or before a resumption.

    first_paid: the first ex-date since then.
    """

    def began(year: CoverPeriod) -> bool:
        if first_paid is None or year.end >= first_paid:
            return True
        return not resumed and bool(year.dividends.value)

    inside = [y for y in in_a_row(years, CYCLE_YEARS) if began(y)]
    aside = tuple(f"{y.label} excluded: {y.excluded}" for y in inside if y.excluded)
    found = [y for y in inside if y.driver.known and y.dividends.known and not y.excluded]
    missing = None
    if len(found) < CYCLE_LEAST:
        since = " since the dividend began" if len(inside) < len(in_a_row(years, 5)) else ""
        missing = f"{len(found)} of at least {CYCLE_LEAST} fiscal years in a row known{since}"
    return Counted(found, aside, missing)


def through_the_cycle(
    basis: Basis, counted: Counted, declared_rate: Figure | None = None
) -> Figure:
    """Σ dividends ÷ Σ driver over those of the last five fiscal years in a row that count, at
    least three.

    declared_rate: takes each year's dividends at no more than what is promised now; None: as paid.
    Source: docs/method.md, Cover.
    """
    as_paid = declared_rate is None
    label = f"{words(basis)} payout, through the cycle{', as paid' if as_paid else ''}"
    if declared_rate is not None and declared_rate.value == 0:
        return unknown(label, Unit.FRACTION, NOTHING_PAID, inputs=(declared_rate,))
    if counted.missing:
        return unknown(label, Unit.FRACTION, counted.missing, notes=counted.aside)
    years = counted.years
    paid = _total(
        "dividends paid" if as_paid else "dividends at the declared rate",
        [promised(y, declared_rate) if declared_rate else y.dividends for y in years],
    )
    figure = payout_ratio(label, paid, _total(years[-1].driver.label, [y.driver for y in years]))
    if len(years) + len(counted.aside) < CYCLE_YEARS:
        figure = figure.but(notes=(*figure.notes, f"only {len(years)} years count"))
    return figure.with_exclusions(counted.aside)
