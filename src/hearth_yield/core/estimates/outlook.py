"""An estimate with what to think of it: revisions, guidance, and how far off it was in past years.
(docs/method.md, Estimates)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property

from ..facts.age import periods_between
from ..facts.derived import (
    adjusted_funds_from_operations,
    free_cash_flow,
    funds_from_operations,
    per_share_of,
)
from ..facts.edits import BY_HAND
from ..facts.payer_file import PayerFile
from ..facts.periods import Period, fiscal_years
from ..facts.records import Estimate, Guidance, split_factor
from ..facts.statements import Span, fiscal_year_of
from ..figures.figure import Figure, Touch, Unit, Unknown, derive, touch_of, unknown
from ..figures.parts import HoldsFigures
from ..figures.ties import at_least
from .newest import (
    NAMES,
    estimates_of,
    figure_of,
    known_on,
    marked,
    newest_estimate,
    unit_of,
    year_ahead,
)

REVISED_OVER = {3: 91, 6: 182}
"""Days back by months."""
BANDS = {12: 0.10, 24: 0.20}
"""How far off an estimate so many months ahead may be and still be called met."""
TRACK_YEARS = 10


class Turned(StrEnum):
    """How a year turned out against what was expected of it."""

    BEAT = "beat"
    MET = "met"
    MISSED = "missed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Guess(HoldsFigures):
    """A past year: what was expected of it so many months before its end, and what it brought. off:
    actual ÷ estimate − 1."""

    year: int
    actual: Figure
    expected: Mapping[int, Figure]
    off: Mapping[int, Figure]

    @property
    def key(self) -> str:
        return str(self.year)

    def turned(self, months: int) -> Turned | None:
        """None where either is unknown."""
        off, band = self.off[months].value, BANDS[months]
        if off is None:
            return None
        if at_least(band, abs(off)):
            return Turned.MET
        return Turned.BEAT if off > 0 else Turned.MISSED


@dataclass(frozen=True, kw_only=True)
class Outlook(HoldsFigures):
    """What is expected of one measure in the year ahead."""

    file: PayerFile
    measure: str
    year: int
    mean: Figure

    @property
    def key(self) -> str:
        return self.measure

    @property
    def name(self) -> str:
        return NAMES[self.measure]

    @cached_property
    def _newest(self) -> tuple[Figure, Figure, int | None]:
        held = estimates_of(self.file, self.measure, self.year)
        low, high = f"lowest estimate of {self.name}", f"highest estimate of {self.name}"
        if not held:
            why = self.mean.reason or "no estimate is held"
            none = [marked(self.file, unknown(n, self.mean.unit, why)) for n in (low, high)]
            return none[0], none[1], None
        x = held[-1]
        return (
            marked(self.file, figure_of(self.file, x, x.low, low)),
            marked(self.file, figure_of(self.file, x, x.high, high)),
            x.analysts,
        )

    @property
    def low(self) -> Figure:
        return self._newest[0]

    @property
    def high(self) -> Figure:
        return self._newest[1]

    @property
    def analysts(self) -> int | None:
        return self._newest[2]

    @cached_property
    def revised(self) -> dict[int, Figure]:
        """Newest mean ÷ mean known so many months before − 1, by months."""
        return {n: self._revised(n, days) for n, days in REVISED_OVER.items()}

    def _revised(self, months: int, days: int) -> Figure:
        label = f"revision over {months} months: {self.name}"
        then = self.file.day - timedelta(days=days)
        before = known_on(estimates_of(self.file, self.measure, self.year), then)
        if before is None:
            why = f"no estimate of it was known {months} months before"
            return marked(self.file, unknown(label, Unit.FRACTION, why))
        base = figure_of(self.file, before, before.mean, f"estimate {months} months before")
        return derive(
            label,
            Unit.FRACTION,
            f"newest estimate ÷ estimate known {days} days before − 1",
            [self.mean, base],
            lambda now, was: now / was - 1 if was > 0 else Unknown("it was not positive then"),
            period=f"fiscal {self.year}",
        )

    @cached_property
    def guided_low(self) -> Figure:
        return self._guided("low")

    @cached_property
    def guided_high(self) -> Figure:
        return self._guided("high")

    @cached_property
    def guided_middle(self) -> Figure:
        return derive(
            f"middle of the guidance for {self.name}",
            self.mean.unit,
            "(low + high) ÷ 2",
            [self.guided_low, self.guided_high],
            lambda low, high: (low + high) / 2,
            currency=self.guided_low.currency,
            period=f"fiscal {self.year}",
        )

    def _guided(self, end: str) -> Figure:
        label = f"guidance for {self.name}, {end}"
        held = guidance_of(self.file, self.measure, self.year)
        if held is None:
            why = f"the payer has given no guidance for fiscal {self.year}"
            return marked(self.file, unknown(label, unit_of(self.measure), why))
        unit = unit_of(self.measure)
        by_split = unit is not Unit.MONEY
        factor = split_factor(self.file.splits, held.published_on) if by_split else 1.0
        value: float = getattr(held, end)
        found = Figure(
            label=label,
            unit=unit,
            value=value / factor,
            currency=self.file.payer.currency if by_split else self.file.currency_of_statements,
            period=f"fiscal {self.year}",
            known_on=held.published_on,
            source=held.source,
            notes=(BY_HAND,) if held.entered else (),
            touch=touch_of(
                [
                    Touch.ENTERED if held.entered else None,
                    self.file.split_touch(held.published_on) if by_split else None,
                ]
            ),
        )
        return marked(self.file, found)

    @cached_property
    def so_far(self) -> Figure:
        """What the interim periods of the year ahead that were published have brought."""
        actual = ACTUALS[self.measure]
        return marked(self.file, brought_so_far(self.file, self.measure, self.year, actual))

    @cached_property
    def part_of_estimate(self) -> Figure:
        return _part_of(self.so_far, self.mean)

    @cached_property
    def rest_of_estimate(self) -> Figure:
        return _rest_of(self.so_far, self.mean)

    @cached_property
    def part_of_guidance(self) -> Figure:
        return _part_of(self.so_far, self.guided_middle)

    @cached_property
    def rest_of_guidance(self) -> Figure:
        return _rest_of(self.so_far, self.guided_middle)

    @cached_property
    def track(self) -> tuple[Guess, ...]:
        """The last ten fiscal years, the newest first, as far as they were estimated."""
        found = (_guess(self.file, self.measure, p) for p in reversed(fiscal_years(self.file)))
        return tuple(g for g in found if any(e.known for e in g.expected.values()))[:TRACK_YEARS]

    def times(self, months: int) -> dict[Turned, int]:
        """How often years were beaten, met and missed, of those estimated so long before."""
        turned = [g.turned(months) for g in self.track]
        return {t: turned.count(t) for t in Turned}


def brought_so_far(
    file: PayerFile, measure: str, year: int, actual: Callable[[Period], Figure]
) -> Figure:
    """The sum over the published interim periods of a fiscal year; unknown without one, and where
    one is missing between them."""
    label, period = f"{NAMES[measure]} so far", f"fiscal {year}"
    last = fiscal_years(file)[-1].end if fiscal_years(file) else None
    for span in (Span.QUARTER, Span.HALF):
        held = [s for s in file.of_span(span) if last is not None and s.period_end > last]
        if not held or last is None:
            continue
        if len(held) != periods_between(last, held[-1].period_end, span.months):
            return unknown(label, unit_of(measure), f"a {span} of fiscal {year} is missing")
        parts = [actual(Period(label=s.period, end=s.period_end, statements=(s,))) for s in held]
        return derive(
            label,
            unit_of(measure),
            f"sum of the {len(parts)} {span.plural} published of fiscal {year}"
            if len(parts) > 1
            else f"the first {span} of fiscal {year}",
            parts,
            lambda *v: sum(v),
            currency=parts[0].currency,
            period=f"{period} to {held[-1].period_end.isoformat()}",
        )
    return unknown(label, unit_of(measure), f"no interim period of fiscal {year} is published")


def _part_of(so_far: Figure, whole: Figure) -> Figure:
    """What part of what is expected the year has brought already."""
    return derive(
        f"{so_far.label}, of the {whole.label}",
        Unit.FRACTION,
        f"{so_far.label} ÷ {whole.label}",
        [so_far, whole],
        lambda got, all_of_it: got / all_of_it if all_of_it > 0 else Unknown("none is expected"),
        period=so_far.period,
    )


def _rest_of(so_far: Figure, whole: Figure) -> Figure:
    """What the rest of the year must bring."""
    return derive(
        f"the rest of the year must bring, for the {whole.label}",
        whole.unit,
        f"{whole.label} − {so_far.label}",
        [whole, so_far],
        lambda all_of_it, got: all_of_it - got,
        currency=whole.currency,
        period=whole.period,
    )


def guidance_of(file: PayerFile, measure: str, year: int) -> Guidance | None:
    """The newest of one fiscal year."""
    mine = [g for g in file.guidance if (g.measure, g.fiscal_year) == (measure, year)]
    return max(mine, key=lambda g: g.published_on, default=None)


def outlooks(file: PayerFile) -> tuple[Outlook, ...]:
    """Every measure that is estimated or guided, for the year ahead."""
    year = year_ahead(file)
    held = {x.measure for x in file.estimates} | {g.measure for g in file.guidance}
    return tuple(
        Outlook(file=file, measure=m, year=year, mean=newest_estimate(file, m, year))
        for m in NAMES
        if m in held
    )


def _per_share(total: Callable[[Period], Figure], label: str) -> Callable[[Period], Figure]:
    return lambda p: per_share_of(label, total(p), p.line("diluted_shares"))


def _earned(period: Period) -> Figure:
    told = period.line("diluted_eps")
    if told.known:
        return told
    return per_share_of(
        "earnings per share", period.line("net_income"), period.line("diluted_shares")
    )


ACTUALS: Mapping[str, Callable[[Period], Figure]] = {
    "eps": _earned,
    "ffo": _per_share(funds_from_operations, "FFO per unit"),
    "affo": _per_share(adjusted_funds_from_operations, "AFFO per unit"),
    "dps": _per_share(lambda p: p.line("dividends_paid"), "dividends per share"),
    "revenue": lambda p: p.line("revenue"),
    "fcf": free_cash_flow,
}
"""What a fiscal year brought, of what is estimated."""


def _guess(file: PayerFile, measure: str, period: Period) -> Guess:
    year, actual = fiscal_year_of(period.end), ACTUALS[measure](period)
    held = estimates_of(file, measure, year)
    expected = {n: _expected(file, measure, held, period.end, n) for n in BANDS}
    return Guess(
        year=year,
        actual=actual,
        expected=expected,
        off={
            n: derive(
                f"fiscal {year} against its estimate {n} months ahead",
                Unit.FRACTION,
                f"actual ÷ estimate known {n} months before the year’s end − 1",
                [actual, expected[n]],
                lambda was, said: was / said - 1 if said > 0 else Unknown("none was expected"),
                period=f"fiscal {year}",
            )
            for n in BANDS
        },
    )


def _expected(
    file: PayerFile, measure: str, held: Sequence[Estimate], end: date, months: int
) -> Figure:
    label = f"estimate {months} months ahead"
    last = min(end.day, 28) if end.month == 2 else end.day
    by = end.replace(year=end.year - months // 12, day=last)
    found = known_on(held, by)
    if found is None:
        why = f"none was known {months} months before the year’s end"
        return unknown(label, unit_of(measure), why)
    return figure_of(file, found, found.mean, label)
