"""Record: what the payer has paid, and what it has declared.

Everything here follows docs/method.md, Record. Amounts are in today's shares.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property

from ..facts.payer_file import PayerFile
from ..facts.records import DividendKind
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from .declared_rate import declared_rate_figure, read_on, rhythm_figure
from .eras import Comparison, Era, compare_payments, eras_in
from .payments import (
    READ_BACK,
    SLOT_DAYS,
    STOPS,
    Outcome,
    Payment,
    manual_edits_between,
    ordinals_of,
    payments_of,
    year_before,
)

SPANS = (1, 3, 5, 10, 20)
GAP_CALLED_OUT = 0.05
MORE = "payments of two rhythms, more than a year’s"
FULL = 0.99
"""A year is full when its payments, each as its part of a year, come to one; rounding aside."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Year(HoldsFigures):
    """A calendar year of regular payments.

    complete: it is over. part: it was paid in part only, in words ("2 of 4 payments"). pending: the
    part whose ex-date is still to come. special: None where there was none.
    """

    year: int
    total: Figure
    outcome: Outcome
    payments: tuple[Payment, ...]
    complete: bool
    part: str | None
    pending: Figure | None
    special: Figure | None

    @property
    def key(self) -> str:
        return str(self.year)

    @property
    def full(self) -> bool:
        """Over, and paid in full: what growth may be measured from or to."""
        return self.complete and bool(self.payments) and self.part is None

    @property
    def why_not_full(self) -> str:
        """In words, of a year that is not full."""
        if not self.payments:
            return f"nothing was paid in {self.year}"
        if self.part == MORE:
            return f"{self.year} holds {MORE}"
        return f"{self.year} was only part paid ({self.part})"


@dataclass(frozen=True, kw_only=True)
class Paid(HoldsFigures):
    """One payment, of whatever kind, in today's shares. outcome: what happened to it against its
    predecessor; None of those that are not regular. to_come: declared, and not ex yet."""

    payment: Payment
    currency: str
    outcome: Outcome | None
    to_come: bool

    @property
    def key(self) -> str:
        return f"{self.payment.ex_date.isoformat()} {self.payment.fact.kind.value}"

    @cached_property
    def amount(self) -> Figure:
        return self.payment.figure(self.currency)


@dataclass(frozen=True, kw_only=True)
class Record:
    """What one payer has paid, as known on a day. cuts: the days on which a cut, an omission or a
    suspension became known. at_rhythm: how many of its newest payments are of its rhythm of now.
    doubts: what of the declared rate might have to be read otherwise."""

    declared_rate: Figure
    trailing_rate: Figure
    trailing_gap: Figure
    rhythm: Figure
    uneven: bool
    years: tuple[Year, ...]
    growth: dict[int, Figure]
    growth_whole: Figure
    raises_in_a_row: Figure
    years_without_reduction: Figure
    latest_raise: Figure
    next_payment: Payment | None
    cuts: tuple[date, ...]
    compared: tuple[tuple[Payment, Outcome], ...]
    at_rhythm: int
    doubts: tuple[str, ...]
    others: tuple[Payment, ...]
    currency: str
    last_day: date

    @cached_property
    def paid(self) -> tuple[Paid, ...]:
        """Every payment, the newest first: regular ones with what happened to them, and others."""
        every: list[tuple[Payment, Outcome | None]] = [
            *self.compared,
            *((p, None) for p in self.others),
        ]
        every.sort(key=lambda x: (x[0].ex_date, x[0].fact.kind.value), reverse=True)
        return tuple(
            Paid(
                payment=p,
                currency=self.currency,
                outcome=outcome,
                to_come=p.ex_date > self.last_day,
            )
            for p, outcome in every
        )

    @property
    def last_cut(self) -> date | None:
        return self.cuts[-1] if self.cuts else None

    @property
    def gap_called_out(self) -> bool:
        """The past 12 months and the declared rate differ by so much that it must be said."""
        return self.trailing_gap.known and abs(self.trailing_gap.value or 0.0) > GAP_CALLED_OUT


def slot_years(payments: Sequence[Payment]) -> list[int]:
    """The calendar year each payment belongs to.

    A payment that slid over New Year goes to the year of its slot: one more than the year of the
    payment nearest to a year before it, within the reach of a slide.
    """
    years: list[int] = []
    days = ordinals_of(payments)
    for i, p in enumerate(payments):
        year = p.ex_date.year
        turn = min(
            abs((p.ex_date - date(year, 1, 1)).days), abs((p.ex_date - date(year, 12, 31)).days + 1)
        )
        if turn <= SLOT_DAYS:
            before = year_before(days, i)
            if before is not None:
                year = years[before] + 1
        years.append(year)
    return years


def year_outcome(outcomes: Sequence[Outcome], stopped: bool) -> Outcome:
    """One word for a year: a notice or an empty year is suspended, any cut makes it cut."""
    if stopped or not outcomes:
        return Outcome.SUSPENDED
    for candidate in (Outcome.CUT, Outcome.STARTED, Outcome.RESUMED, Outcome.RAISED):
        if candidate in outcomes:
            return candidate
    return Outcome.HELD


def part_paid(payments: Sequence[int], eras: Sequence[Era]) -> str | None:
    """Whether a year's payments fall short of a year's rhythm, in words.

    payments: their indexes. Each is its part of a year by the rhythm of its own era, so that a year
    in which the rhythm changes is full all the same. One whose rhythm cannot be counted yet counts
    by that of the era before.
    """
    rhythm, rhythms = None, set()
    paid = 0.0
    for place, era in enumerate(eras):
        mine = sum(era.first <= i <= era.last for i in payments)
        if not mine:
            continue
        f = era.rhythm or (eras[place - 1].rhythm if place else None)
        if f is None:
            return None
        rhythm = f
        rhythms.add(f)
        paid += mine / f
    if rhythm is None or (paid >= FULL and (paid <= 1 / FULL or len(rhythms) == 1)):
        return None
    if paid > 1:
        return MORE
    return f"{len(payments)} of {rhythm} payments"


def _begun(outcome: Outcome, paid: int, following: int) -> str | None:
    """A first year, or the first after a stop, with fewer payments than the year that follows: its
    own rhythm cannot be told from so little."""
    if outcome in (Outcome.STARTED, Outcome.RESUMED) and paid < following:
        return f"{paid} of {following} payments"
    return None


def _sum_of(label: str, payments: Sequence[Payment], currency: str, period: str) -> Figure | None:
    """None where there are none; unknown where one is in another currency."""
    if not payments:
        return None
    return derive(
        label,
        Unit.PER_SHARE,
        "sum of the payments, in today's shares",
        [p.figure(currency) for p in payments],
        lambda *a: sum(a),
        currency=currency,
        period=period,
    )


def yearly(
    file: PayerFile, payments: Sequence[Payment], outcomes: Sequence[Outcome], eras: Sequence[Era]
) -> list[Year]:
    """Regular dividends by calendar year, from the first year on record to the as-of year, or to
    that of the delisting."""
    if not payments:
        return []
    currency, today = file.payer.currency, file.last_day
    by_year: dict[int, list[int]] = {}
    for i, y in enumerate(slot_years(payments)):
        by_year.setdefault(y, []).append(i)
    stop_years = {n.declared_on.year for n in file.notices if n.kind in STOPS}
    specials = payments_of(file, DividendKind.SPECIAL)
    years = []
    for y in range(min(by_year), max(max(by_year), today.year) + 1):
        mine = by_year.get(y, [])
        complete = date(y, 12, 31) <= today
        if not mine and not complete and y not in stop_years:
            continue
        held = tuple(payments[i] for i in mine)
        outcome = year_outcome([outcomes[i] for i in mine], y in stop_years)
        following = len(by_year.get(y + 1, [])) if date(y + 1, 12, 31) <= today else 0
        total = derive(
            f"dividend in {y}",
            Unit.PER_SHARE,
            "sum of the year's regular payments, in today's shares",
            [p.figure(currency) for p in held],
            lambda *a: sum(a),
            currency=currency,
            period=str(y),
        ).with_exclusions(
            file.exclusions_within(
                "dividends", date(y, 1, 1), date(y, 12, 31), DividendKind.REGULAR
            )
        )
        years.append(
            Year(
                year=y,
                total=total,
                outcome=outcome,
                payments=held,
                complete=complete,
                part=part_paid(mine, eras) or _begun(outcome, len(mine), following),
                pending=_sum_of(
                    f"declared for {y}, not yet paid",
                    [p for p in held if p.ex_date > today],
                    currency,
                    str(y),
                ),
                special=_sum_of(
                    f"special dividends in {y}",
                    [p for p in specials if p.ex_date.year == y],
                    currency,
                    str(y),
                ),
            )
        )
    return years


def streak(file: PayerFile, years: Sequence[Year], label: str, kept: tuple[Outcome, ...]) -> Figure:
    """Complete years back from the last complete one whose outcome is among `kept`. It rests on the
    year that ended it as well, and on that one's predecessor.

    A cut or suspension declared in the running year ends the streak at once.
    """
    if not years:
        none = unknown(label, Unit.YEARS, "no regular dividend on record")
        return none.with_touch(manual_edits_between(file, date.min))
    running = [y for y in years if not y.complete]
    broken = any(y.outcome in (Outcome.CUT, Outcome.SUSPENDED) for y in running)
    counted: list[Year] = []
    for year in reversed([y for y in years if y.complete]):
        if broken or year.outcome not in kept:
            break
        counted.append(year)
    notes: tuple[str, ...] = ("a reduction declared this year ends it at once",) if broken else ()
    if counted and counted[-1].year == years[0].year + 1:
        notes += (f"the record begins in {years[0].year}",)
    reached = (counted[-1].year if counted else max(y.year for y in years)) - 2
    return Figure(
        label=label,
        unit=Unit.YEARS,
        value=float(len(counted)),
        formula="complete years, counted back from the last, that were "
        + " or ".join(o.value for o in kept),
        inputs=tuple(y.total for y in counted),
        notes=notes,
    ).with_touch(manual_edits_between(file, date(reached, 1, 1)))


def growth_over(file: PayerFile, years: Sequence[Year], n: int) -> Figure:
    """Growth a year over n years: (D_y / D_y−n)^(1/n) − 1, y the last complete year.

    Returns: a fraction a year; unknown when either end was not paid in full.
    Source: docs/method.md, Record.
    """
    label = f"dividend growth over {n} year{'s' if n > 1 else ''}"
    complete = {y.year: y for y in years if y.complete}

    def none(reason: str) -> Figure:
        return unknown(label, Unit.FRACTION, reason).with_touch(
            manual_edits_between(file, date.min)
        )

    if not complete:
        return none("no complete year of dividends")
    last = max(complete)
    base = complete.get(last - n)
    if base is None:
        return none(f"the record begins in {years[0].year}, after {last - n}")
    for end in (complete[last], base):
        if not end.full:
            return none(end.why_not_full)

    return derive(
        label,
        Unit.FRACTION,
        f"(last complete year ÷ {n} year{'s' if n > 1 else ''} before) ^ (1/{n}) − 1",
        [complete[last].total, base.total],
        lambda now, then: (now / then) ** (1 / n) - 1 if then > 0 else Unknown("nothing was paid"),
        period=f"{base.year} to {last}",
    )


def growth_whole(file: PayerFile, years: Sequence[Year]) -> Figure:
    """Growth a year from the first full year to the last complete one."""
    label = "dividend growth over the whole record"
    complete = [y for y in years if y.complete]
    first = next((y for y in complete if y.full and y.total.value), None)
    by_hand = manual_edits_between(file, date.min)
    if first is None or complete[-1].year <= first.year:
        reason = "fewer than two full years are on record"
        return unknown(label, Unit.FRACTION, reason).with_touch(by_hand)
    if not complete[-1].full:
        return unknown(label, Unit.FRACTION, complete[-1].why_not_full).with_touch(by_hand)
    n = complete[-1].year - first.year
    return derive(
        label,
        Unit.FRACTION,
        f"(last complete year ÷ first full year) ^ (1/{n}) − 1",
        [complete[-1].total, first.total],
        lambda now, then: (now / then) ** (1 / n) - 1,
        period=f"{first.year} to {complete[-1].year}",
    ).with_touch(manual_edits_between(file, date.min) if first is not years[0] else None)


def latest_raise(
    file: PayerFile, payments: Sequence[Payment], compared: Sequence[Comparison]
) -> Figure:
    """The newest raised payment over its predecessor − 1; that none came later rests on those."""
    label, currency = "latest raise", file.payer.currency
    for i in range(len(payments) - 1, -1, -1):
        c = compared[i]
        if c.outcome is Outcome.RAISED:
            ends = len(c.now)
            return derive(
                label,
                Unit.FRACTION,
                "raised payment ÷ its predecessor − 1"
                if len(c.now) + len(c.then) == 2 and c.now_times == c.then_times
                else "a year at the new rhythm ÷ a year at the old one − 1",
                [payments[j].figure(currency) for j in (*c.now, *c.then)],
                _Growth(ends, c.now_times, c.then_times),
                known_on=payments[i].known_on,
            ).with_touch(manual_edits_between(file, payments[min(c.then)].ex_date - READ_BACK))
    return unknown(label, Unit.FRACTION, "no raise on record").with_touch(
        manual_edits_between(file, date.min)
    )


@dataclass(frozen=True, slots=True)
class _Growth:
    """Of a sum of payments over another, each as many times as it falls due in a year."""

    ends: int
    now_times: int
    then_times: int

    def __call__(self, *amounts: float) -> float:
        now, then = sum(amounts[: self.ends]), sum(amounts[self.ends :])
        return now * self.now_times / (then * self.then_times) - 1


def trailing_rate_figure(file: PayerFile, payments: Sequence[Payment]) -> Figure:
    """Regular payments with ex-dates in the 12 months to as_of."""
    day = file.day
    year_ago = day.replace(year=day.year - 1, day=min(day.day, 28 if day.month == 2 else day.day))
    paid = [p for p in payments if year_ago < p.ex_date <= day]
    label = "trailing rate"
    if not payments:
        return unknown(label, Unit.PER_SHARE, "no regular dividend on record")
    return derive(
        label,
        Unit.PER_SHARE,
        "sum of regular payments with ex-dates in the last 12 months",
        [p.figure(file.payer.currency) for p in paid],
        lambda *a: sum(a),
        currency=file.payer.currency,
        period=f"12 months to {day.isoformat()}",
    ).with_exclusions(
        file.exclusions_within("dividends", year_ago + timedelta(days=1), day, DividendKind.REGULAR)
    )


def build_record(file: PayerFile) -> Record:
    """The record stage of one payer on the file's day."""
    payments = payments_of(file)
    reading = read_on(file, file.day)
    eras = eras_in(file)
    compared = compare_payments(payments, eras)
    outcomes = [c.outcome for c in compared]
    years = yearly(file, payments, outcomes, eras)
    declared = declared_rate_figure(file, reading)
    trailing = trailing_rate_figure(file, payments)
    gap = derive(
        "trailing against declared rate",
        Unit.FRACTION,
        "trailing rate ÷ declared rate − 1",
        [trailing, declared],
        lambda t, d: t / d - 1 if d else Unknown("nothing is declared"),
    )
    stops = [n.declared_on for n in file.notices if n.kind in STOPS]
    cuts = [p.known_on for p, o in zip(payments, outcomes, strict=True) if o is Outcome.CUT]
    return Record(
        declared_rate=declared,
        trailing_rate=trailing,
        trailing_gap=gap,
        rhythm=rhythm_figure(file, reading),
        uneven=bool(eras) and eras[-1].slots > 1,
        years=tuple(years),
        growth={n: growth_over(file, years, n) for n in SPANS},
        growth_whole=growth_whole(file, years),
        raises_in_a_row=streak(file, years, "years of raises in a row", (Outcome.RAISED,)),
        years_without_reduction=streak(
            file, years, "years without a reduction", (Outcome.RAISED, Outcome.HELD)
        ),
        latest_raise=latest_raise(file, payments, compared),
        next_payment=next((p for p in payments if p.ex_date > file.day), None),
        cuts=tuple(sorted({*stops, *cuts})),
        compared=tuple(zip(payments, outcomes, strict=True)),
        doubts=reading.doubts,
        at_rhythm=eras[-1].last - eras[-1].first + 1 if eras else 0,
        others=(
            *payments_of(file, DividendKind.SPECIAL),
            *payments_of(file, DividendKind.RETURN_OF_CAPITAL),
        ),
        currency=file.payer.currency,
        last_day=file.last_day,
    )
