"""The records the core reads. Each became known on a day and comes from a source.

`PayerFile` holds all facts of one payer; `PayerFile.cut(as_of)` keeps what was known by then.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property
from itertools import pairwise
from typing import Any, Protocol

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from ..errors import MethodError
from ..figures.arrays import Days, Floats
from ..figures.figure import FactAt, Figure, Touch, Unit, touch_of, unknown
from ..kinds import Kind
from .age import Freshness, freshness
from .edits import BY_HAND, Edited, Exclusion
from .statements import Span, Statement, words


class Fact(Protocol):
    """What every record says of itself."""

    @property
    def known_on(self) -> date: ...

    @property
    def placed_on(self) -> date:
        """The day it stands on: of an ex-date, the end of a period, a publication."""

    @property
    def called(self) -> str:
        """What it is, in words."""

    @property
    def sort(self) -> str:
        """What tells it from others of its day."""


NEARLY_ALL = 0.9
A_YEAR = timedelta(days=364)
"""Twelve months back from a day, that day a year before left out."""


class DividendKind(StrEnum):
    REGULAR = "regular"
    SPECIAL = "special"
    RETURN_OF_CAPITAL = "return_of_capital"


class NoticeKind(StrEnum):
    OMITTED = "omitted"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


SERIES_KINDS = (
    "price_index",
    "risk_free_yield",
    "aaa_yield",
    "market_index",
    "market_total_return",
    "exchange_rate",
)
FORECAST_MEASURES = ("eps", "ffo", "affo", "dps", "revenue", "fcf")
"""What estimates and guidance are of; all but revenue and fcf are per share or unit."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Payer:
    symbol: str
    exchange: str
    name: str
    kind: Kind
    currency: str
    country: str
    fiscal_year_end_month: int
    rhythm: int | None = None
    evenness: str | None = None
    description: str = ""
    listed_on: date | None = None
    delisted_on: date | None = None
    entered: bool = False

    @property
    def touch(self) -> Touch | None:
        return Touch.ENTERED if self.entered else None

    def until(self, as_of: date) -> Payer:
        """As known on a day: a delisting is not known before it happens."""
        if self.delisted_on is None or self.delisted_on <= as_of:
            return self
        return replace(self, delisted_on=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class PayerNote:
    field: str
    value: str
    published_on: date
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.published_on

    @property
    def placed_on(self) -> date:
        return self.published_on

    @property
    def called(self) -> str:
        return f"{words(self.field)} “{self.value}”"

    @property
    def sort(self) -> str:
        return ""

    @property
    def touch(self) -> Touch | None:
        return Touch.ENTERED if self.entered else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Dividend:
    """amount: per share as paid, in the shares of its ex-date. assumed: that day is not told; the
    amount is of a whole year. credited_fraction: the part that carries a tax credit;
    credit_tax_rate: the tax behind it."""

    ex_date: date
    amount: float
    currency: str
    kind: DividendKind = DividendKind.REGULAR
    declared_on: date | None = None
    pay_date: date | None = None
    payments_per_year: int | None = None
    credited_fraction: float | None = None
    credit_tax_rate: float | None = None
    source: int | None = None
    assumed: bool = False
    entered: bool = False
    edited: Edited | None = None

    @property
    def touch(self) -> Touch | None:
        return Touch.EDITED if self.edited else Touch.ENTERED if self.entered else None

    @property
    def at(self) -> FactAt:
        key = (("ex_date", self.ex_date), ("kind", self.kind))
        raw = self.edited.original if self.edited else self.amount
        return FactAt(table="dividends", key=key, field="amount", raw=raw)

    @property
    def known_on(self) -> date:
        return self.declared_on or self.ex_date

    @property
    def placed_on(self) -> date:
        return self.ex_date

    @property
    def called(self) -> str:
        return f"{words(self.kind)} dividend, ex {self.ex_date}"

    @property
    def sort(self) -> str:
        return self.kind.value


def without_sums(dividends: Sequence[Dividend]) -> tuple[Dividend, ...]:
    """What a year paid in all, as one assumed payment, or its own payments, never both: whichever
    was imported first, the payments, but for the year in which they begin where they come to less
    than nine tenths of the sum. Source: docs/method.md, Record.
    2.40 for 2025 and four of 0.60 in 2025 → the four; one of 0.60 in November 2024, 2.20 for 2024
    → the 2.20."""
    told = sorted((d for d in dividends if not d.assumed), key=lambda d: d.ex_date)
    days = [d.ex_date.toordinal() for d in told]
    passed: set[int] = set()
    for d in dividends:
        day = d.ex_date.toordinal()
        first, last = bisect_right(days, day - A_YEAR.days), bisect_right(days, day)
        inside = told[first:last]
        if not d.assumed or not any(x.kind is DividendKind.REGULAR for x in inside):
            continue
        begins = not any(x.kind is DividendKind.REGULAR for x in told[:first])
        few = begins and sum(x.amount for x in inside) < NEARLY_ALL * d.amount
        passed.update(map(id, inside) if few else [id(d)])
    return tuple(d for d in dividends if id(d) not in passed)


@dataclass(frozen=True, slots=True, kw_only=True)
class Notice:
    declared_on: date
    kind: NoticeKind
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.declared_on

    @property
    def placed_on(self) -> date:
        return self.declared_on

    @property
    def called(self) -> str:
        return f"notice “{self.kind}” of {self.declared_on}"

    @property
    def sort(self) -> str:
        return ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Split:
    """new_shares for old_shares; 3 for 1 is ratio 3. announced_on: when it became known."""

    effective_on: date
    new_shares: float
    old_shares: float
    announced_on: date | None = None
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.effective_on

    @property
    def placed_on(self) -> date:
        return self.effective_on

    @property
    def called(self) -> str:
        return f"split {self.new_shares:g} for {self.old_shares:g} of {self.effective_on}"

    @property
    def sort(self) -> str:
        return ""

    @property
    def ratio(self) -> float:
        return self.new_shares / self.old_shares


@dataclass(frozen=True, kw_only=True)
class PriceHistory:
    """Closes as traded, oldest first. days: datetime64[D]; closes, sources: same length.

    entered: sources that are a person's own hand. edited: by day.
    """

    days: Days
    closes: Floats
    sources: npt.NDArray[np.int64]
    entered: frozenset[int] = frozenset()
    edited: Mapping[date, Edited] = field(default_factory=dict)

    @staticmethod
    def of(rows: Sequence[tuple[date, float]], source: int = 0) -> PriceHistory:
        return PriceHistory(
            days=np.array([r[0] for r in rows], dtype="datetime64[D]"),
            closes=np.array([r[1] for r in rows], dtype=np.float64),
            sources=np.full(len(rows), source, dtype=np.int64),
        )

    def until(self, as_of: date) -> PriceHistory:
        n = int(np.searchsorted(self.days, np.datetime64(as_of), side="right"))
        return replace(self, days=self.days[:n], closes=self.closes[:n], sources=self.sources[:n])

    def touch(self, first: date, last: date) -> Touch | None:
        """Whether a person had a hand in any close from first to last."""
        if any(first <= d <= last for d in self.edited):
            return Touch.EDITED
        if not self.entered:
            return None
        inside = (self.days >= np.datetime64(first)) & (self.days <= np.datetime64(last))
        by_hand = np.isin(self.sources[inside], sorted(self.entered))
        return Touch.ENTERED if by_hand.any() else None

    def fact_meta(self, place: int) -> dict[str, Any]:
        """What a figure of one close carries: day, source, notes, and where it is held."""
        day = self.days[place].astype(date)
        changed, touch = self.edited.get(day), self.touch(day, day)
        raw = changed.original if changed else float(self.closes[place])
        return {
            "known_on": day,
            "source": int(self.sources[place]),
            "notes": (changed.note,) if changed else (BY_HAND,) if touch else (),
            "touch": touch,
            "fact": FactAt(table="prices", key=(("day", day.isoformat()),), field="close", raw=raw),
        }

    def __len__(self) -> int:
        return len(self.days)


class SeriesPoint(Struct, frozen=True, kw_only=True):
    day: date
    published_on: date
    value: float
    source: int | None = None
    entered: bool = False

    @property
    def touch(self) -> Touch | None:
        return Touch.ENTERED if self.entered else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Series:
    """A dated series with a publication lag; points oldest first, restatements included."""

    code: str
    name: str
    currency: str
    points: tuple[SeriesPoint, ...] = ()
    made: dict[Any, Any] = field(default_factory=dict, init=False, repr=False, compare=False)
    """What was made of it and is needed again: payers of one currency share it."""

    @property
    def _published(self) -> list[date]:
        if "published" not in self.made:
            self.made["published"] = [p.published_on for p in self.points]
        found: list[date] = self.made["published"]
        return found

    @property
    def _plain(self) -> bool:
        """Each day once, published one after the other: what was known is a beginning of it."""
        if "plain" not in self.made:
            days, published = [p.day for p in self.points], self._published
            self.made["plain"] = all(a < b for a, b in pairwise(days)) and all(
                a <= b for a, b in pairwise(published)
            )
        return bool(self.made["plain"])

    def until(self, as_of: date) -> Series:
        """What was published by the end of a day, of each point the newest; made once a day."""
        if as_of not in self.made:
            self.made[as_of] = self._until(as_of)
        found: Series = self.made[as_of]
        return found

    def _until(self, as_of: date) -> Series:
        if self._plain:
            n = bisect_right(self._published, as_of)
            return replace(self, points=self.points[:n])
        newest: dict[date, SeriesPoint] = {}
        for point in self.points:
            held = newest.get(point.day)
            if point.published_on <= as_of and (
                held is None or held.published_on <= point.published_on
            ):
                newest[point.day] = point
        return replace(self, points=tuple(newest[d] for d in sorted(newest)))


class Exposure(Struct, frozen=True, kw_only=True):
    """What part of a fiscal year's revenue or rent a segment, region or tenant brought."""

    fiscal_year: int
    basis: str
    name: str
    share: float
    published_on: date
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.published_on

    @property
    def placed_on(self) -> date:
        return self.published_on

    @property
    def called(self) -> str:
        return f"{self.name} of fiscal {self.fiscal_year}"

    @property
    def sort(self) -> str:
        return self.basis


class Estimate(Struct, frozen=True, kw_only=True):
    """What analysts expected of a fiscal year on a day; per share in the shares of that day."""

    fiscal_year: int
    measure: str
    published_on: date
    mean: float
    low: float | None = None
    high: float | None = None
    analysts: int | None = None
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.published_on

    @property
    def placed_on(self) -> date:
        return self.published_on

    @property
    def called(self) -> str:
        return f"{self.measure.upper()} of fiscal {self.fiscal_year}, of {self.published_on}"

    @property
    def sort(self) -> str:
        return self.measure


class Guidance(Struct, frozen=True, kw_only=True):
    """What the payer itself said on a day that it expects of a fiscal year."""

    fiscal_year: int
    measure: str
    published_on: date
    low: float
    high: float
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.published_on

    @property
    def placed_on(self) -> date:
        return self.published_on

    @property
    def called(self) -> str:
        return f"{self.measure.upper()} of fiscal {self.fiscal_year}, of {self.published_on}"

    @property
    def sort(self) -> str:
        return self.measure


@dataclass(frozen=True, slots=True, kw_only=True)
class Slump:
    """A past downturn; ends: None while it lasts, as far as is known."""

    name: str
    begins: date
    ends: date | None

    def until(self, as_of: date) -> Slump | None:
        """As known on a day: not before it began, and without an end before it ended."""
        if self.begins > as_of:
            return None
        ended = self.ends is not None and self.ends <= as_of
        return self if ended else replace(self, ends=None)


def split_factor(splits: Sequence[Split], after: date) -> float:
    """How many of today's shares one share of the day `after` has become."""
    factor = 1.0
    for split in splits:
        if split.effective_on > after:
            factor *= split.ratio
    return factor


def pending_factor(pending: Sequence[Split], ex_date: date) -> float:
    """How many shares one share of today will be on a day after splits that are known and still to
    come: amounts that go ex by then are in those."""
    factor = 1.0
    for split in pending:
        if split.effective_on <= ex_date:
            factor *= split.ratio
    return factor


@dataclass(frozen=True, kw_only=True)
class PayerFile:
    """All facts of one payer. as_of is None while uncut; the stages only take a cut file.

    statements: of a cut file the newest known version of each period; versions: all of them known
    by the day. pending_splits: known by the day, and not yet in effect. excluded_years: fiscal
    years the person excluded, by basis and period end. exclusions: facts excluded whole; they are
    in none of the other fields.
    """

    payer: Payer
    notes: tuple[PayerNote, ...] = ()
    dividends: tuple[Dividend, ...] = ()
    notices: tuple[Notice, ...] = ()
    splits: tuple[Split, ...] = ()
    pending_splits: tuple[Split, ...] = ()
    prices: PriceHistory = field(default_factory=lambda: PriceHistory.of([]))
    statements: tuple[Statement, ...] = ()
    versions: tuple[Statement, ...] = ()
    price_index: Series | None = None
    market_index: Series | None = None
    market_total: Series | None = None
    risk_free_yield: Series | None = None
    aaa_yield: Series | None = None
    slumps: tuple[Slump, ...] = ()
    exposures: tuple[Exposure, ...] = ()
    estimates: tuple[Estimate, ...] = ()
    guidance: tuple[Guidance, ...] = ()
    excluded_years: Mapping[tuple[str, date], Edited] = field(default_factory=dict)
    exclusions: tuple[Exclusion, ...] = ()
    as_of: date | None = None
    made: dict[str, Any] = field(default_factory=dict, init=False, repr=False, compare=False)
    """What the stages made of the whole file and need again."""

    def cut(self, as_of: date) -> PayerFile:
        """What was known by the end of `as_of`; of restated statements the newest known."""
        splits = tuple(s for s in self.splits if s.effective_on <= as_of)
        newest: dict[tuple[date, Span], Statement] = {}
        for s in self.statements:
            held = newest.get((s.period_end, s.span))
            if s.published_on <= as_of and (held is None or held.published_on <= s.published_on):
                newest[(s.period_end, s.span)] = s
        statements = sorted(newest.values(), key=lambda s: (s.period_end, s.span.months))
        exclusions = tuple(x for x in self.exclusions if x.known_on <= as_of)
        if splits or exclusions:
            statements = [
                replace(
                    s,
                    split_factor=split_factor(splits, s.published_on),
                    split_touch=_split_touch(splits, exclusions, s.published_on),
                )
                for s in statements
            ]
        for x in exclusions:
            if x.table == "statements":
                statements = [
                    replace(s, instead_of=x) if s.older_than(x) else s for s in statements
                ]
        notes: dict[str, PayerNote] = {}
        for note in sorted(self.notes, key=lambda n: n.published_on):
            if note.published_on <= as_of:
                notes[note.field] = note
        dividends = sorted(
            (d for d in self.dividends if d.known_on <= as_of), key=lambda d: d.ex_date
        )
        return replace(
            self,
            payer=self.payer.until(as_of),
            notes=tuple(notes.values()),
            dividends=tuple(dividends),
            notices=tuple(
                sorted(
                    (n for n in self.notices if n.declared_on <= as_of), key=lambda n: n.declared_on
                )
            ),
            splits=splits,
            pending_splits=tuple(
                s for s in self.splits if s.effective_on > as_of and _is_known(s, dividends, as_of)
            ),
            prices=self.prices.until(as_of),
            statements=tuple(statements),
            versions=tuple(s for s in self.statements if s.published_on <= as_of),
            price_index=self.price_index.until(as_of) if self.price_index else None,
            market_index=self.market_index.until(as_of) if self.market_index else None,
            market_total=self.market_total.until(as_of) if self.market_total else None,
            risk_free_yield=self.risk_free_yield.until(as_of) if self.risk_free_yield else None,
            aaa_yield=self.aaa_yield.until(as_of) if self.aaa_yield else None,
            slumps=tuple(k for s in self.slumps if (k := s.until(as_of)) is not None),
            exposures=_newest_exposures(self.exposures, as_of),
            estimates=tuple(x for x in self.estimates if x.published_on <= as_of),
            guidance=tuple(x for x in self.guidance if x.published_on <= as_of),
            exclusions=exclusions,
            as_of=as_of,
        )

    @property
    def day(self) -> date:
        """The day the file is cut to."""
        if self.as_of is None:
            raise MethodError("the facts must be cut to a day first", field="as_of", value=None)
        return self.as_of

    @property
    def last_day(self) -> date:
        """The day the file is cut to, or that of the delisting before it."""
        return min(self.day, self.payer.delisted_on or self.day)

    @cached_property
    def close_age(self) -> Freshness:
        """How old the newest close is; nothing of a delisted payer is current."""
        newest = self.prices.days[-1].astype(date) if len(self.prices) else None
        return freshness("prices", newest, self.day, "the newest close", self.payer.delisted_on)

    @cached_property
    def adjusted_closes(self) -> Floats:
        """Closes in today's shares (docs/method.md, Splits)."""
        closes = self.prices.closes
        for split in self.splits:
            before = self.prices.days < np.datetime64(split.effective_on)
            closes = np.where(before, closes / split.ratio, closes)
        return closes

    @cached_property
    def price(self) -> Figure:
        """The newest close, with its day and source."""
        meta: dict[str, Any] = {"currency": self.payer.currency}
        if not len(self.prices):
            return unknown("price", Unit.PER_SHARE, "no prices are held", **meta)
        found = self.close_meta(-1)
        figure = Figure(
            label="price",
            unit=Unit.PER_SHARE,
            value=float(self.adjusted_closes[-1]),
            period=f"close of {found['known_on'].isoformat()}",
            **found,
            **meta,
        ).with_exclusions(self.exclusions_within("prices", found["known_on"], self.day))
        return self.close_age.of(figure)

    def close_meta(self, place: int) -> dict[str, Any]:
        """What a figure of one close in today's shares carries."""
        meta = self.prices.fact_meta(place)
        by_split = self.split_touch(meta["known_on"])
        return meta | {"touch": touch_of([meta["touch"], by_split])}

    def closes_touch(self, first: date, last: date) -> Touch | None:
        """Whether a person had a hand in any close from first to last, a split of it included."""
        left = Touch.EDITED if self.exclusions_within("prices", first, last) else None
        return touch_of([self.prices.touch(first, last), self.split_touch(first), left])

    def split_touch(self, after: date) -> Touch | None:
        """Whether a person entered or excluded a split that amounts of the day `after` are
        edited by."""
        return _split_touch(self.splits, self.exclusions, after)

    def exclusions_within(
        self, table: str, first: date, last: date, kind: str | None = None
    ) -> tuple[str, ...]:
        """What was excluded of a table between two days, both included, in words."""
        return tuple(
            x.note
            for x in self.exclusions
            if x.table == table and first <= x.day <= last and kind in (None, x.kind)
        )

    def note(self, name: str) -> PayerNote | None:
        return next((n for n in self.notes if n.field == name), None)

    @property
    def currency_of_statements(self) -> str | None:
        """Of the newest one."""
        return self.statements[-1].currency if self.statements else None

    def of_span(self, span: Span) -> list[Statement]:
        return [s for s in self.statements if s.span is span]


def _newest_exposures(held: Sequence[Exposure], as_of: date) -> tuple[Exposure, ...]:
    """Of each part of each year the newest known, in whatever order they are held."""
    newest: dict[tuple[int, str, str], Exposure] = {}
    for x in held:
        key = (x.fiscal_year, x.basis, x.name)
        before = newest.get(key)
        if x.published_on <= as_of and (before is None or before.published_on <= x.published_on):
            newest[key] = x
    return tuple(newest[k] for k in sorted(newest))


def _is_known(split: Split, dividends: Sequence[Dividend], as_of: date) -> bool:
    """Whether a split to come is known: announced, or a dividend was declared that goes ex in the
    new shares. dividends: known by the day, by ex-date."""
    if split.announced_on is not None:
        return split.announced_on <= as_of
    return bool(dividends) and dividends[-1].ex_date >= split.effective_on


def _split_touch(
    splits: Sequence[Split], exclusions: Sequence[Exclusion], after: date
) -> Touch | None:
    if any(x.table == "splits" and x.day > after for x in exclusions):
        return Touch.EDITED
    by_hand = any(s.entered and s.effective_on > after for s in splits)
    return Touch.ENTERED if by_hand else None
