"""All facts of one payer, and what of them was known on a day."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from functools import cached_property
from typing import Any

import numpy as np

from ..errors import MethodError
from ..figures.arrays import Floats
from ..figures.figure import Figure, Touch, Unit, touch_of, unknown
from .age import Freshness, freshness
from .edits import Edited, Exclusion
from .records import (
    Dividend,
    Estimate,
    Exposure,
    Guidance,
    Notice,
    Payer,
    PayerNote,
    PriceHistory,
    Series,
    Slump,
    Split,
    split_factor,
)
from .statements import Span, Statement
from .tables import TABLES

_MEMBERS = {table.member: table for table in TABLES.values() if table.member}


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
        held: dict[str, Any] = {m: t.known(getattr(self, m), as_of) for m, t in _MEMBERS.items()}
        splits, dividends = held["splits"], held["dividends"]
        statements = sorted(held["statements"], key=lambda s: (s.period_end, s.span.months))
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
        return replace(
            self,
            payer=self.payer.until(as_of),
            **held | {"statements": tuple(statements)},
            pending_splits=tuple(
                s for s in self.splits if s.effective_on > as_of and _is_known(s, dividends, as_of)
            ),
            prices=self.prices.until(as_of),
            versions=tuple(s for s in self.statements if s.published_on <= as_of),
            price_index=self.price_index.until(as_of) if self.price_index else None,
            market_index=self.market_index.until(as_of) if self.market_index else None,
            market_total=self.market_total.until(as_of) if self.market_total else None,
            risk_free_yield=self.risk_free_yield.until(as_of) if self.risk_free_yield else None,
            aaa_yield=self.aaa_yield.until(as_of) if self.aaa_yield else None,
            slumps=tuple(k for s in self.slumps if (k := s.until(as_of)) is not None),
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
