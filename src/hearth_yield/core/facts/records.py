"""The records the core reads. Each became known on a day and comes from a source.

`payer_file.PayerFile` holds all facts of one payer; its `cut(as_of)` keeps what was known by then.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from ..figures.arrays import Days, Floats
from ..figures.figure import FactAt, Touch
from ..kinds import Kind
from .edits import BY_HAND, Edited
from .fact import Fact, Forecast, Published
from .statements import words

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
    isin: str | None = None
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
class PayerNote(Published):
    field: str
    value: str
    published_on: date
    source: int | None = None
    entered: bool = False

    @property
    def called(self) -> str:
        return f"{words(self.field)} “{self.value}”"

    @property
    def touch(self) -> Touch | None:
        return Touch.ENTERED if self.entered else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Dividend(Fact):
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
class Notice(Fact):
    declared_on: date
    kind: NoticeKind
    source: int | None = None
    entered: bool = False

    @property
    def known_on(self) -> date:
        return self.declared_on

    @property
    def called(self) -> str:
        return f"notice “{self.kind}” of {self.declared_on}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Split(Fact):
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
    def called(self) -> str:
        return f"split {self.new_shares:g} for {self.old_shares:g} of {self.effective_on}"

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


class Exposure(Struct, Published, frozen=True, kw_only=True):
    """What part of a fiscal year's revenue or rent a segment, region or tenant brought."""

    fiscal_year: int
    basis: str
    name: str
    share: float
    published_on: date
    source: int | None = None
    entered: bool = False

    @property
    def called(self) -> str:
        return f"{self.name} of fiscal {self.fiscal_year}"

    @property
    def sort(self) -> str:
        return self.basis


class Estimate(Struct, Forecast, frozen=True, kw_only=True):
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


class Guidance(Struct, Forecast, frozen=True, kw_only=True):
    """What the payer itself said on a day that it expects of a fiscal year."""

    fiscal_year: int
    measure: str
    published_on: date
    low: float
    high: float
    source: int | None = None
    entered: bool = False


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
