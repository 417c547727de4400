"""Cover: who pays for the dividend, and how far that can fall. (docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from functools import cached_property

from ..estimates.newest import year_ahead
from ..estimates.outlook import Outlook, outlooks
from ..facts.age import Freshness
from ..facts.derived import per_share_of
from ..facts.payer_file import PayerFile
from ..facts.periods import (
    Period,
    fiscal_years,
    in_a_row,
    trailing_age,
    trailing_period,
    within,
    year_age,
    years_excluded,
)
from ..facts.robust import TREND_YEARS, freak_years, trend
from ..facts.statements import words
from ..figures.figure import Figure, Unit, touch_of, unknown
from ..figures.parts import HoldsFigures
from ..figures.ties import above
from ..record.eras import eras_in
from ..record.history import Record
from ..record.payments import Payment, manual_edits_between, payments_of
from .bases import (
    BASES,
    Basis,
    CoverPeriod,
    cover_period,
    declared_payout,
    not_converted,
    payout_ratio,
)
from .bridge import Bridge, bridges
from .crossing import crossing, crossing_year
from .cycle import CYCLE_YEARS, counted_years, through_the_cycle
from .forward import forward_payout
from .uses import Uses, uses_of_cash

KNOWN_YEARS = 10
SWINGS = 3
"""So many marked years in ten, and none stands out any more: the basis swings widely."""


@dataclass(frozen=True, kw_only=True)
class BasisCover(HoldsFigures):
    """One basis over the years and now.

    declared: the payout at the declared rate; forward: on the year ahead as it is estimated, None
    where no estimates are made of the basis. through_cycle: on what is promised now;
    through_cycle_paid: as it was paid. overpaid: years of the last ten known in which more was paid
    than came in. swings: too many years would be marked as freak for any to stand out. row: the
    years trends are read from. gone: fiscal years excluded, in words.
    """

    basis: Basis
    years: tuple[CoverPeriod, ...]
    latest: CoverPeriod | None
    trailing: CoverPeriod | None
    declared: Figure
    forward: Figure | None
    through_cycle: Figure
    through_cycle_paid: Figure
    worst_of_ten: Figure
    per_share_trend: Figure
    overpaid: Figure
    swings: bool
    row: Sequence[CoverPeriod]
    gone: tuple[str, ...]

    @property
    def key(self) -> str:
        return self.basis.value

    @property
    def name(self) -> str:
        return words(self.basis.value)

    @cached_property
    def crossing(self) -> Figure:
        """In how many years the dividend would overtake what pays for it."""
        return crossing(self.basis, self.row).with_exclusions(self.gone)

    @property
    def crossing_year(self) -> int | None:
        return crossing_year(self.row, self.crossing)

    @property
    def newest(self) -> CoverPeriod | None:
        """The trailing twelve months; where there are none, the latest fiscal year."""
        return self.trailing or self.latest


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


@dataclass(frozen=True, kw_only=True)
class Cover:
    """periods: the fiscal years it was built from; ground: all else it was. What is drawn apart is
    built when asked for."""

    bases: tuple[BasisCover, ...]
    periods: Sequence[Period]
    declared_rate: Figure
    net_income: Figure
    trailing_note: str | None
    ground: _Ground = field(repr=False, compare=False)

    @cached_property
    def outlooks(self) -> tuple[Outlook, ...]:
        """What is expected of the year ahead, for every measure that is estimated or guided."""
        return outlooks(self.ground.file)

    @property
    def outlook_year(self) -> int:
        return year_ahead(self.ground.file)

    @cached_property
    def bridges(self) -> tuple[Bridge, ...]:
        return bridges(self.ground.file.payer.kind, self.periods, self.ground.trailing)

    @cached_property
    def uses(self) -> tuple[Uses, ...]:
        return uses_of_cash(self.periods)

    @property
    def leading(self) -> BasisCover:
        return self.bases[0]

    def of(self, basis: Basis) -> BasisCover | None:
        return next((b for b in self.bases if b.basis is basis), None)


def worst_of_ten(basis: Basis, years: Sequence[CoverPeriod]) -> Figure:
    """The highest payout of the last ten fiscal years; a year of loss or cash burn is worse."""
    label = f"{words(basis)} payout, worst of ten years"
    recent = [y.payout for y in years]
    burnt = [p for p in recent if p.breach]
    touch = touch_of([p.touch for p in recent])
    if burnt:
        return burnt[-1].but(label=label).with_touch(touch)
    known = [p for p in recent if p.value is not None]
    if not known:
        return unknown(label, Unit.FRACTION, "no payout is known in the last ten years")
    return max(known, key=lambda p: p.value or 0.0).but(label=label).with_touch(touch)


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


def basis_cover(basis: Basis, ground: _Ground) -> BasisCover:
    file, payments, gone = ground.file, ground.payments, ground.gone
    years = [cover_period(basis, p, payments) for p in ground.periods]
    years, swings = _marked(years, file.currency_of_statements)
    years = [
        replace(y, excluded=file.excluded_years[basis, y.end].reason)
        if (basis, y.end) in file.excluded_years
        else y
        for y in years
    ]
    fresh = year_age(file, ground.periods)
    recent = within(years, KNOWN_YEARS)
    row = in_a_row(years, TREND_YEARS)
    latest = latest_of(years, gone)
    trailing = _trailing(basis, ground)
    counted = counted_years(years, ground.first_paid, ground.resumed)
    by_hand = manual_edits_between(file, _first_day(in_a_row(years, CYCLE_YEARS)))

    def now(figure: Figure) -> Figure:
        return fresh.of(figure).with_exclusions(gone)

    latest = latest and _as_current(latest, fresh)
    return BasisCover(
        basis=basis,
        years=tuple(years),
        latest=latest,
        trailing=trailing,
        declared=declared_payout(
            basis, ground.declared_rate, now_per_share(basis, years, latest, trailing)
        ),
        forward=_forward(basis, ground, trailing),
        through_cycle=now(through_the_cycle(basis, counted, ground.declared_rate)).with_touch(
            by_hand
        ),
        through_cycle_paid=now(through_the_cycle(basis, counted)).with_touch(by_hand),
        worst_of_ten=now(worst_of_ten(basis, recent)),
        per_share_trend=now(
            trend(f"{words(basis)} per share, trend", [y.end for y in row], _one_currency(row))
        ),
        overpaid=now(overpaid(recent)),
        swings=swings,
        row=row,
        gone=gone,
    )


def _forward(basis: Basis, ground: _Ground, trailing: CoverPeriod | None) -> Figure | None:
    newest = trailing.period if trailing else None
    found = forward_payout(basis, ground.file, ground.declared_rate, newest)
    if found is None or newest is None:
        return found
    since = newest.end - timedelta(days=365)
    choices = ground.file.exclusions_within("statements", since, date.max)
    return found.with_exclusions((*choices, *ground.gone))


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


def now_per_share(
    basis: Basis,
    years: Sequence[CoverPeriod],
    latest: CoverPeriod | None,
    trailing: CoverPeriod | None,
) -> Figure:
    """The basis per share of the trailing twelve months; of the latest fiscal year where there are
    none, or where they are a year that was excluded."""
    aside = {y.end for y in years if y.excluded}
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
    return _chosen(found, ground.file.exclusions_within("statements", since, date.max))


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
        per_share=per_share_of(
            period.per_share.label, available, period.period.line("diluted_shares")
        ),
    )


def _chosen(period: CoverPeriod, choices: Sequence[str]) -> CoverPeriod:
    """A period that stands where it does because of what the person excluded."""
    if not choices:
        return period
    return replace(
        period,
        driver=period.driver.with_exclusions(choices),
        dividends=period.dividends.with_exclusions(choices),
        payout=period.payout.with_exclusions(choices),
        per_share=period.per_share.with_exclusions(choices),
    )


def latest_of(years: Sequence[CoverPeriod], gone: Sequence[str] = ()) -> CoverPeriod | None:
    """The newest fiscal year that is not excluded; it says which newer ones are.

    gone: fiscal years excluded, in words.
    """
    for back, year in enumerate(reversed(years)):
        if not year.excluded:
            newer = years[len(years) - back :]
            aside = tuple(f"{y.label} excluded: {y.excluded}" for y in newer)
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
        gone=years_excluded(file, years),
    )
    return Cover(
        bases=tuple(basis_cover(b, ground) for b in BASES[file.payer.kind]),
        periods=_marked_periods(years, ground.gone),
        declared_rate=record.declared_rate,
        net_income=_latest_net_income(file, years),
        trailing_note=trailing.note if trailing else None,
        ground=ground,
    )


def cover_under(cover: Cover, change: Callable[[Period], Period]) -> Cover:
    """What is promised now on other newest twelve months; past years, and five together, stay."""
    ground = cover.ground
    if ground.trailing is None:
        return cover
    changed = replace(ground, trailing=change(ground.trailing))
    return replace(
        cover,
        bases=tuple(_basis_under(b, changed, change) for b in cover.bases),
        net_income=_latest_net_income(ground.file, [change(p) for p in ground.periods]),
    )


def _basis_under(on: BasisCover, ground: _Ground, change: Callable[[Period], Period]) -> BasisCover:
    trailing, latest = _trailing(on.basis, ground), on.latest
    if latest is not None and trailing is not None and any(y.excluded for y in on.years):
        changed = cover_period(on.basis, change(latest.period), ground.payments)
        latest = _as_current(changed, year_age(ground.file, ground.periods))
    per_share = now_per_share(on.basis, on.years, latest, trailing)
    declared = declared_payout(on.basis, ground.declared_rate, per_share)
    return replace(on, declared=declared, trailing=trailing)


def _marked_periods(years: Sequence[Period], gone: tuple[str, ...]) -> Sequence[Period]:
    """Years as they stand side by side: what is excluded shapes them all."""
    return [replace(p, excluded=gone) for p in years] if gone else years


def _latest_net_income(file: PayerFile, years: Sequence[Period]) -> Figure:
    """Of the newest fiscal year whose earnings are not excluded."""
    held = [y for y in years if (Basis.EARNINGS, y.end) not in file.excluded_years]
    if not held:
        return unknown("net income", Unit.MONEY, "no fiscal year is held")
    aside = tuple(f"{y.label} excluded" for y in years[years.index(held[-1]) + 1 :])
    found = year_age(file, years).of(held[-1].line("net_income"))
    return found.with_exclusions((*aside, *years_excluded(file, years)))
