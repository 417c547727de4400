"""The records the core reads. Each became known on a day and comes from a source.

`PayerFile` holds all facts of one payer; `PayerFile.cut(as_of)` keeps what was known by then.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from enum import StrEnum
from functools import cached_property
from typing import Any

import numpy as np
import numpy.typing as npt

from .errors import MethodError
from .figure import FactAt, Figure, Touch, Unit, touch_of, unknown

Days = npt.NDArray[np.datetime64]
Floats = npt.NDArray[np.float64]


class Kind(StrEnum):
    COMPANY = "company"
    PROPERTY_TRUST = "property_trust"
    PARTNERSHIP = "partnership"
    FINANCIAL = "financial"


class DividendKind(StrEnum):
    REGULAR = "regular"
    SPECIAL = "special"
    RETURN_OF_CAPITAL = "return_of_capital"


class NoticeKind(StrEnum):
    OMITTED = "omitted"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


class Span(StrEnum):
    YEAR = "year"
    HALF = "half"
    QUARTER = "quarter"

    @property
    def months(self) -> int:
        return {"year": 12, "half": 6, "quarter": 3}[self.value]


INCOME_LINES = (
    "revenue", "cost_of_revenue", "operating_expenses", "ebit", "depreciation_amortization",
    "ebitda", "interest_expense", "tax", "net_income", "diluted_eps", "diluted_shares",
    "impairments", "gains_on_property_sales", "property_depreciation", "straight_line_rent",
    "ffo", "affo", "net_operating_income", "distributable_cash_flow",
)  # fmt: skip
CASH_LINES = (
    "operating_cash_flow", "capital_expenditure", "maintenance_capex", "recurring_capex",
    "dividends_paid", "preferred_dividends", "buybacks", "share_issuance",
    "stock_based_compensation",
)  # fmt: skip
BALANCE_LINES = (
    "cash", "short_term_debt", "long_term_debt", "floating_rate_debt", "preferred_equity",
    "current_assets", "current_liabilities", "total_assets", "total_liabilities", "equity",
    "minority_interest", "shares_outstanding", "occupancy", "capital_ratio",
)  # fmt: skip
STATEMENT_LINES = INCOME_LINES + CASH_LINES + BALANCE_LINES
PER_SHARE_LINES = frozenset({"diluted_eps"})
SHARE_LINES = frozenset({"diluted_shares", "shares_outstanding"})
RATIO_LINES = frozenset({"occupancy", "capital_ratio"})
"""Lines that are not money: an import's unit does not scale them."""
UNSCALED_LINES = PER_SHARE_LINES | RATIO_LINES

_SECTION_TOTAL = {
    "impairments": "net_income",
    "gains_on_property_sales": "net_income",
    "straight_line_rent": "net_income",
    "preferred_dividends": "operating_cash_flow",
    "buybacks": "operating_cash_flow",
    "share_issuance": "operating_cash_flow",
    "preferred_equity": "total_assets",
    "minority_interest": "total_assets",
    "short_term_debt": "total_assets",
}
"""Optional lines count as nil when their section's total is there (docs/method.md, Statements)."""


SERIES_KINDS = (
    "price_index", "risk_free_yield", "aaa_yield", "market_index", "market_total_return",
    "exchange_rate",
)  # fmt: skip
FORECAST_MEASURES = ("eps", "ffo", "affo", "dps", "revenue", "fcf")
"""What estimates and guidance are of; all but revenue and fcf are per share or unit."""


def words(line: str) -> str:
    """The name of a line or basis as prose: `free_cash_flow` → "free cash flow"."""
    capitals = {"ebit": "EBIT", "ebitda": "EBITDA", "ffo": "FFO", "affo": "AFFO"}
    return capitals.get(line, line.replace("_", " ").replace("diluted eps", "diluted EPS"))


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


@dataclass(frozen=True, slots=True, kw_only=True)
class Adjusted:
    """A figure replaced by the person. original: what is held, None where nothing is."""

    original: float | None
    reason: str
    made_on: date

    @property
    def note(self) -> str:
        was = "not reported" if self.original is None else f"{self.original:g}"
        return f"adjusted by you on {self.made_on.isoformat()}, was {was}: {self.reason}"


@dataclass(frozen=True, slots=True, kw_only=True)
class LeftOut:
    """A fact the person left out with a reason: it is held, and counts on no day.

    kind: of a dividend, or the span of a statement. name: what it is, in words. day: that it is
    placed by: the ex-date of a dividend, the end of a period, the day of a close.
    """

    table: str
    kind: str
    name: str
    day: date
    known_on: date
    reason: str
    made_on: date

    @property
    def note(self) -> str:
        return f"{self.name} left out by you on {self.made_on.isoformat()}: {self.reason}"


BY_HAND = "entered by hand"


@dataclass(frozen=True, slots=True, kw_only=True)
class PayerNote:
    field: str
    value: str
    published_on: date
    source: int | None = None
    entered: bool = False

    @property
    def touch(self) -> Touch | None:
        return Touch.ENTERED if self.entered else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Dividend:
    """amount: per share as paid, in the shares of its ex-date."""

    ex_date: date
    amount: float
    currency: str
    kind: DividendKind = DividendKind.REGULAR
    declared_on: date | None = None
    pay_date: date | None = None
    payments_per_year: int | None = None
    source: int | None = None
    entered: bool = False
    adjusted: Adjusted | None = None

    @property
    def touch(self) -> Touch | None:
        return Touch.ADJUSTED if self.adjusted else Touch.ENTERED if self.entered else None

    @property
    def at(self) -> FactAt:
        key = (("ex_date", self.ex_date.isoformat()), ("kind", self.kind.value))
        raw = self.adjusted.original if self.adjusted else self.amount
        return FactAt(table="dividends", key=key, field="amount", raw=raw)

    @property
    def known_on(self) -> date:
        return self.declared_on or self.ex_date


@dataclass(frozen=True, slots=True, kw_only=True)
class Notice:
    declared_on: date
    kind: NoticeKind
    source: int | None = None
    entered: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Split:
    """new_shares for old_shares; 3 for 1 is ratio 3."""

    effective_on: date
    new_shares: float
    old_shares: float
    source: int | None = None
    entered: bool = False

    @property
    def ratio(self) -> float:
        return self.new_shares / self.old_shares


@dataclass(frozen=True, slots=True, kw_only=True)
class Statement:
    """lines: only what was reported, in single units of `currency`. instead_of: the other version
    of the period, which this one stands for since the person left it out."""

    period_end: date
    span: Span
    published_on: date
    currency: str
    lines: Mapping[str, float]
    source: int | None = None
    split_factor: float = 1.0
    split_touch: Touch | None = None
    entered: bool = False
    adjusted: Mapping[str, Adjusted] = field(default_factory=dict)
    instead_of: LeftOut | None = None

    def older_than(self, left: LeftOut) -> bool:
        """Whether it stands for a later version of its period, which was left out."""
        same = (self.period_end, self.span.value) == (left.day, left.kind)
        return same and self.published_on < left.known_on

    @property
    def period(self) -> str:
        if self.span is Span.YEAR:
            return f"fiscal {self.period_end.year}"
        return f"{self.span.value} to {self.period_end.isoformat()}"

    def line(self, name: str) -> Figure:
        """A reported line, in today's shares; a missing core line is unknown, never zero."""
        value = self.lines.get(name)
        notes: tuple[str, ...] = ()
        if value is None and _SECTION_TOTAL.get(name) in self.lines:
            value, notes = 0.0, ("not reported; counted as nil",)
        unit = (
            Unit.PER_SHARE
            if name in PER_SHARE_LINES
            else Unit.SHARES
            if name in SHARE_LINES
            else Unit.FRACTION
            if name in RATIO_LINES
            else Unit.MONEY
        )
        label = words(name)
        changed = self.adjusted.get(name)
        touch = Touch.ENTERED if self.entered else None
        if changed is not None:
            notes += (changed.note,)
        elif self.entered:
            notes += (BY_HAND,)
        if self.instead_of is not None:
            notes += (self.instead_of.note,)
        if changed is not None or self.instead_of is not None:
            touch = Touch.ADJUSTED
        meta: dict[str, Any] = {
            "currency": self.currency,
            "period": self.period,
            "known_on": self.published_on,
            "source": self.source,
            "touch": touch,
            "fact": FactAt(
                table="statements",
                key=(
                    ("period_end", self.period_end.isoformat()),
                    ("span", self.span.value),
                    ("published_on", self.published_on.isoformat()),
                ),
                field=name,
                raw=changed.original if changed else self.lines.get(name),
            ),
        }
        if value is None:
            return unknown(label, unit, f"not reported for {self.period}", **meta)
        if self.split_factor != 1.0 and name in PER_SHARE_LINES | SHARE_LINES:
            factor = self.split_factor
            value = value / factor if name in PER_SHARE_LINES else value * factor
            notes += (f"adjusted for later splits ({factor:g} for 1)",)
            meta["touch"] = touch_of([touch, self.split_touch])
        return Figure(label=label, unit=unit, value=value, notes=notes, **meta)


@dataclass(frozen=True, kw_only=True)
class PriceHistory:
    """Closes as traded, oldest first. days: datetime64[D]; closes, sources: same length.

    entered: sources that are a person's own hand. adjusted: by day.
    """

    days: Days
    closes: Floats
    sources: npt.NDArray[np.int64]
    entered: frozenset[int] = frozenset()
    adjusted: Mapping[date, Adjusted] = field(default_factory=dict)

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
        if any(first <= d <= last for d in self.adjusted):
            return Touch.ADJUSTED
        if not self.entered:
            return None
        inside = (self.days >= np.datetime64(first)) & (self.days <= np.datetime64(last))
        by_hand = np.isin(self.sources[inside], sorted(self.entered))
        return Touch.ENTERED if by_hand.any() else None

    def fact_meta(self, place: int) -> dict[str, Any]:
        """What a figure of one close carries: day, source, notes, and where it is held."""
        day = self.days[place].astype(date)
        changed, touch = self.adjusted.get(day), self.touch(day, day)
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


@dataclass(frozen=True, slots=True, kw_only=True)
class SeriesPoint:
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

    def until(self, as_of: date) -> Series:
        newest: dict[date, SeriesPoint] = {}
        for point in self.points:
            held = newest.get(point.day)
            if point.published_on <= as_of and (
                held is None or held.published_on <= point.published_on
            ):
                newest[point.day] = point
        return replace(self, points=tuple(newest[d] for d in sorted(newest)))


@dataclass(frozen=True, slots=True, kw_only=True)
class Slump:
    name: str
    begins: date
    ends: date


def split_factor(splits: Sequence[Split], after: date) -> float:
    """How many of today's shares one share of the day `after` has become."""
    factor = 1.0
    for split in splits:
        if split.effective_on > after:
            factor *= split.ratio
    return factor


def split_touch(splits: Sequence[Split], after: date) -> Touch | None:
    """Whether a person entered one of the splits that what is of the day `after` is adjusted by."""
    by_hand = any(s.entered and s.effective_on > after for s in splits)
    return Touch.ENTERED if by_hand else None


@dataclass(frozen=True, kw_only=True)
class PayerFile:
    """All facts of one payer. as_of is None while uncut; the stages only take a cut file.

    set_aside: fiscal years the person set aside, by basis and period end. left_out: facts that the
    person left out; they are in none of the other fields.
    """

    payer: Payer
    notes: tuple[PayerNote, ...] = ()
    dividends: tuple[Dividend, ...] = ()
    notices: tuple[Notice, ...] = ()
    splits: tuple[Split, ...] = ()
    prices: PriceHistory = field(default_factory=lambda: PriceHistory.of([]))
    statements: tuple[Statement, ...] = ()
    price_index: Series | None = None
    slumps: tuple[Slump, ...] = ()
    set_aside: Mapping[tuple[str, date], Adjusted] = field(default_factory=dict)
    left_out: tuple[LeftOut, ...] = ()
    as_of: date | None = None

    def cut(self, as_of: date) -> PayerFile:
        """What was known by the end of `as_of`; of restated statements the newest known."""
        splits = tuple(s for s in self.splits if s.effective_on <= as_of)
        newest: dict[tuple[date, Span], Statement] = {}
        for s in self.statements:
            held = newest.get((s.period_end, s.span))
            if s.published_on <= as_of and (held is None or held.published_on <= s.published_on):
                newest[(s.period_end, s.span)] = s
        statements = sorted(newest.values(), key=lambda s: (s.period_end, s.span.months))
        if splits:
            statements = [
                replace(
                    s,
                    split_factor=split_factor(splits, s.published_on),
                    split_touch=split_touch(splits, s.published_on),
                )
                for s in statements
            ]
        left_out = tuple(x for x in self.left_out if x.known_on <= as_of)
        for x in left_out:
            if x.table == "statements":
                statements = [
                    replace(s, instead_of=x) if s.older_than(x) else s for s in statements
                ]
        notes: dict[str, PayerNote] = {}
        for note in sorted(self.notes, key=lambda n: n.published_on):
            if note.published_on <= as_of:
                notes[note.field] = note
        return replace(
            self,
            notes=tuple(notes.values()),
            dividends=tuple(
                sorted((d for d in self.dividends if d.known_on <= as_of), key=lambda d: d.ex_date)
            ),
            notices=tuple(
                sorted(
                    (n for n in self.notices if n.declared_on <= as_of),
                    key=lambda n: n.declared_on,
                )
            ),
            splits=splits,
            prices=self.prices.until(as_of),
            statements=tuple(statements),
            price_index=self.price_index.until(as_of) if self.price_index else None,
            slumps=tuple(s for s in self.slumps if s.begins <= as_of),
            left_out=left_out,
            as_of=as_of,
        )

    @property
    def day(self) -> date:
        """The day the file is cut to."""
        if self.as_of is None:
            raise MethodError("the facts must be cut to a day first", field="as_of", value=None)
        return self.as_of

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
        return Figure(
            label="price",
            unit=Unit.PER_SHARE,
            value=float(self.adjusted_closes[-1]),
            period=f"close of {found['known_on'].isoformat()}",
            **found,
            **meta,
        ).shaped_by(self.left_out_within("prices", found["known_on"], self.day))

    def close_meta(self, place: int) -> dict[str, Any]:
        """What a figure of one close in today's shares carries."""
        meta = self.prices.fact_meta(place)
        by_split = split_touch(self.splits, meta["known_on"])
        return meta | {"touch": touch_of([meta["touch"], by_split])}

    def closes_touch(self, first: date, last: date) -> Touch | None:
        """Whether a person had a hand in any close from first to last, a split of it included."""
        left = Touch.ADJUSTED if self.left_out_within("prices", first, last) else None
        by_split = split_touch(self.splits, first)
        return touch_of([self.prices.touch(first, last), by_split, left])

    def left_out_within(
        self, table: str, first: date, last: date, kind: str | None = None
    ) -> tuple[str, ...]:
        """What was left out of a table between two days, both included, in words."""
        return tuple(
            x.note
            for x in self.left_out
            if x.table == table and first <= x.day <= last and kind in (None, x.kind)
        )

    def note(self, name: str) -> PayerNote | None:
        return next((n for n in self.notes if n.field == name), None)

    def of_span(self, span: Span) -> list[Statement]:
        return [s for s in self.statements if s.span is span]
