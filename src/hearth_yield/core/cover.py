"""Cover: who pays for the dividend, and how far that can fall. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property

from .derived import adjusted_funds_from_operations, free_cash_flow, funds_from_operations
from .facts import Kind, PayerFile
from .figure import Figure, Unit, Unknown, derive, touch_of, unknown
from .payments import Payment, eras_in, hand_in, payments_of
from .periods import Period, fiscal_years, in_a_row, trailing_age, trailing_period, within, year_age
from .record import Record
from .robust import TREND_YEARS, freak_years, trend
from .statements import Span, words
from .ties import above
from .upkeep import Freshness

CYCLE_YEARS = 5
CYCLE_LEAST = 3
KNOWN_YEARS = 10
SWINGS = 3
"""So many marked years in ten, and none stands out any more: the basis swings widely."""
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
        return _per_share(
            "dividends paid per share", self.dividends, self.period.line("diluted_shares")
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class BasisCover:
    """One basis over the years and now.

    declared: the payout at the declared rate. through_cycle: on what is promised now;
    through_cycle_paid: as it was paid. overpaid: years of the last ten known in which more was paid
    than came in. swings: too many years would be marked as freak for any to stand out.
    """

    basis: Basis
    years: tuple[CoverPeriod, ...]
    latest: CoverPeriod | None
    trailing: CoverPeriod | None
    declared: Figure
    through_cycle: Figure
    through_cycle_paid: Figure
    worst_of_ten: Figure
    per_share_trend: Figure
    overpaid: Figure
    swings: bool


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
    if paid <= 0:
        return Unknown(nothing)
    if available <= 0:
        burn = "loss" if label.startswith("earnings") else "cash burn"
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
    label = f"{words(basis)} payout at the declared rate"
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
class _Counted:
    """Fiscal years that count through the cycle, and why others do not."""

    years: list[CoverPeriod]
    aside: tuple[str, ...]
    missing: str | None


def _counted(years: Sequence[CoverPeriod], first_paid: date | None, resumed: bool) -> _Counted:
    """Of the last five fiscal years in a row those that are known, not set aside, and not from
    before the first dividend or before a resumption.

    first_paid: the first ex-date since then.
    """

    def began(year: CoverPeriod) -> bool:
        if first_paid is None or year.end >= first_paid:
            return True
        return not resumed and bool(year.dividends.value)

    inside = [y for y in in_a_row(years, CYCLE_YEARS) if began(y)]
    aside = tuple(f"{y.label} set aside: {y.set_aside}" for y in inside if y.set_aside)
    found = [y for y in inside if y.driver.known and y.dividends.known and not y.set_aside]
    missing = None
    if len(found) < CYCLE_LEAST:
        since = " since the dividend began" if len(inside) < len(in_a_row(years, 5)) else ""
        missing = f"{len(found)} of at least {CYCLE_LEAST} fiscal years in a row known{since}"
    return _Counted(found, aside, missing)


def through_the_cycle(
    basis: Basis, counted: _Counted, declared_rate: Figure | None = None
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
    return figure.shaped_by(counted.aside)


def worst_of_ten(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """The highest payout of the last ten fiscal years; a year of loss or cash burn is worse."""
    label = f"{words(basis)} payout, worst of ten years"
    recent = [y.payout for y in years]
    burnt = [p for p in recent if p.breach]
    touch = touch_of([p.touch for p in recent])
    if burnt:
        return burnt[-1].but(label=label).also(touch)
    known = [p for p in recent if p.value is not None]
    if not known:
        return unknown(label, Unit.FRACTION, "no payout is known in the last ten years")
    return max(known, key=lambda p: p.value or 0.0).but(label=label).also(touch)


def overpaid(years: Sequence[CoverPeriod]) -> Figure:
    """In how many of the years known more was paid than came in."""
    known = [y.payout for y in years if y.payout.breach or y.payout.known]
    label = "years in which more was paid than came in"
    if not known:
        return unknown(label, Unit.COUNT, "no payout is known in the last ten years")
    return Figure(
        label=label,
        unit=Unit.COUNT,
        value=float(sum(bool(p.breach) or above(p.value or 0.0, 1.0) for p in known)),
        formula="fiscal years of the last ten with a payout over 100 %, a loss or cash burn",
        inputs=tuple(known),
        period=f"of {len(known)}",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Ground:
    """What every basis of one payer is judged by."""

    file: PayerFile
    payments: Sequence[Payment]
    periods: Sequence[Period]
    trailing: Period | None
    declared_rate: Figure
    first_paid: date | None
    resumed: bool
    gone: tuple[str, ...]


def basis_cover(basis: Basis, ground: _Ground) -> BasisCover:
    file, payments, gone = ground.file, ground.payments, ground.gone
    years = [cover_period(basis, p, payments) for p in ground.periods]
    years, swings = _marked(years, file.currency_of_statements)
    years = [
        replace(y, set_aside=file.set_aside[basis, y.end].reason)
        if (basis, y.end) in file.set_aside
        else y
        for y in years
    ]
    fresh = year_age(file, ground.periods)
    recent = within(years, KNOWN_YEARS)
    row = in_a_row(years, TREND_YEARS)
    latest = latest_of(years, gone)
    trailing = _trailing(basis, ground)
    counted = _counted(years, ground.first_paid, ground.resumed)
    by_hand = hand_in(file, _first_day(in_a_row(years, CYCLE_YEARS)))

    def now(figure: Figure) -> Figure:
        return fresh.of(figure).shaped_by(gone)

    latest = latest and _as_current(latest, fresh)
    return BasisCover(
        basis=basis,
        years=tuple(years),
        latest=latest,
        trailing=trailing,
        declared=declared_payout(
            basis, ground.declared_rate, _now_per_share(basis, years, latest, trailing)
        ),
        through_cycle=now(through_the_cycle(basis, counted, ground.declared_rate)).also(by_hand),
        through_cycle_paid=now(through_the_cycle(basis, counted)).also(by_hand),
        worst_of_ten=now(worst_of_ten(basis, recent)),
        per_share_trend=now(
            trend(f"{words(basis)} per share, trend", [y.end for y in row], _one_currency(row))
        ),
        overpaid=now(overpaid(recent)),
        swings=swings,
    )


def _first_day(years: Sequence[CoverPeriod]) -> date:
    return years[0].end - timedelta(days=365) if years else date.min


def _one_currency(years: Sequence[CoverPeriod]) -> list[Figure]:
    """Per share figures; unknown where a year was reported in another currency than the newest."""
    wanted = years[-1].per_share.currency if years else None
    return [
        y.per_share
        if y.per_share.currency == wanted
        else unknown(y.per_share.label, Unit.PER_SHARE, not_converted(y.per_share.currency, wanted))
        for y in years
    ]


def _marked(years: list[CoverPeriod], currency: str | None) -> tuple[list[CoverPeriod], bool]:
    """Freak years of the last ten marked; or none, and that the basis swings widely.

    currency: of the newest statement; years in another are passed over.
    """
    recent = within(years, KNOWN_YEARS)
    values = [y.driver.value if y.driver.currency == currency else None for y in recent]
    flags = freak_years([y.end for y in recent], values)
    if sum(flags) >= SWINGS:
        return years, True
    marked = [replace(y, freak=f) if f else y for y, f in zip(recent, flags, strict=True)]
    return [*years[: len(years) - len(recent)], *marked], False


def _now_per_share(
    basis: Basis,
    years: Sequence[CoverPeriod],
    latest: CoverPeriod | None,
    trailing: CoverPeriod | None,
) -> Figure:
    """The basis per share of the trailing twelve months; of the latest fiscal year where there are
    none, or where they are a year that was set aside."""
    aside = {y.end for y in years if y.set_aside}
    found = latest if trailing is None or trailing.end in aside else trailing
    if found is None:
        return unknown(f"{words(basis)} per share", Unit.PER_SHARE, "no fiscal year is held")
    return found.per_share


def _trailing(basis: Basis, ground: _Ground) -> CoverPeriod | None:
    period = ground.trailing
    if period is None:
        return None
    found = _as_current(
        cover_period(basis, period, ground.payments), trailing_age(ground.file, period)
    )
    since = period.end - timedelta(days=365)
    return _chosen(found, ground.file.left_out_within("statements", since, date.max))


def _as_current(period: CoverPeriod, fresh: Freshness) -> CoverPeriod:
    """A period shown as the newest there is: marked when it is ageing, unknown when it is old."""
    available, paid = fresh.of(period.driver), fresh.of(period.dividends)
    if available is period.driver and paid is period.dividends:
        return period
    return replace(
        period,
        driver=available,
        dividends=paid,
        payout=payout_ratio(period.payout.label, paid, available),
        per_share=_per_share(
            period.per_share.label, available, period.period.line("diluted_shares")
        ),
    )


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


def build_cover(file: PayerFile, record: Record) -> Cover:
    """The cover stage on every basis of the payer's kind, leading first."""
    payments = payments_of(file)
    years = fiscal_years(file)
    trailing = trailing_period(file)
    eras = eras_in(file)
    since = next((e for e in reversed(eras) if e.follows != "change"), None)
    ground = _Ground(
        file=file,
        payments=payments,
        periods=years,
        trailing=trailing,
        declared_rate=record.declared_rate,
        first_paid=payments[since.first].ex_date if since else None,
        resumed=since is not None and since.follows == "stop",
        gone=_years_left_out(file, years),
    )
    return Cover(
        bases=tuple(basis_cover(b, ground) for b in BASES[file.payer.kind]),
        net_income=_latest_net_income(file, years),
        trailing_note=trailing.note if trailing else None,
    )


def _latest_net_income(file: PayerFile, years: Sequence[Period]) -> Figure:
    """Of the newest fiscal year whose earnings are not set aside."""
    held = [y for y in years if (Basis.EARNINGS, y.end) not in file.set_aside]
    if not held:
        return unknown("net income", Unit.MONEY, "no fiscal year is held")
    aside = tuple(f"{y.label} set aside" for y in years[years.index(held[-1]) + 1 :])
    found = year_age(file, years).of(held[-1].line("net_income"))
    return found.shaped_by((*aside, *_years_left_out(file, years)))
