"""The tables a person can bring, column by column. docs/data-formats.md shows each by example."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from enum import StrEnum

from hearth_yield.core.facts.records import (
    FORECAST_MEASURES,
    SERIES_KINDS,
    DividendKind,
    NoticeKind,
)
from hearth_yield.core.facts.statements import (
    HOLDING_LINES,
    OUTFLOW_LINES,
    PER_SHARE_LINES,
    RATIO_LINES,
    SHARE_LINES,
    STATEMENT_LINES,
    UNSCALED_LINES,
    Span,
)
from hearth_yield.core.kinds import Kind


class Type(StrEnum):
    TEXT = "text"
    DATE = "date"
    NUMBER = "number"
    INTEGER = "integer"
    CHOICE = "choice"
    CURRENCY = "currency"


FIRST_DAY, LAST_DAY = date(1800, 1, 1), date(2199, 12, 31)
"""What any date of a fact lies between: the ends of the calendar leave no room to count from."""
MOST_MONEY = 1e18
MOST_SHARES = 1e15
MOST_A_SHARE = 1e12
LEAST = 1e-9
UNTOLD = 1e9
"""From here on a bound only keeps out what cannot be, and is not told."""
"""Beyond these no company, price or payment can be."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """scaled: money in the unit the file names. positive, low, high: what a number must be; most:
    what its size must not exceed, in single units. outflow: what goes out, as a positive amount.
    without: characters that a text must not hold. past: a day that is over before it can be told.
    """

    name: str
    type: Type
    required: bool = False
    choices: tuple[str, ...] = ()
    default: str | None = None
    positive: bool = False
    low: float | None = None
    high: float | None = None
    most: float = MOST_MONEY
    scaled: bool = False
    outflow: bool = False
    without: str = ""
    past: bool = False

    def refuses(self, value: float) -> str | None:
        """What a number, in single units, would have to be to stand here; None: it may."""
        if not math.isfinite(value) or abs(value) > self.most:
            return f"a number of at most {self.most:,.0f}"
        low, high = self.low, self.high
        below = (self.positive and value < LEAST) or (low is not None and value < low)
        return self.expected if below or (high is not None and value > high) else None

    def fits(self, text: str) -> bool:
        """Whether a text may stand here."""
        return bool(text.strip(".")) and not any(c in text for c in self.without)

    @property
    def expected(self) -> str:
        """What a cell must hold, in words."""
        match self.type:
            case Type.DATE:
                return "a date as YYYY-MM-DD"
            case Type.CHOICE:
                return "one of " + ", ".join(self.choices)
            case Type.TEXT:
                return (
                    f"some text without {' or '.join(self.without)}"
                    if self.without
                    else ("some text")
                )
            case Type.CURRENCY:
                return "a three-letter currency code in capitals"
        kind = "a whole number" if self.type is Type.INTEGER else "a number"
        if self.positive:
            return f"{kind} above 0"
        if self.outflow:
            return f"{kind}, 0 or more: a cost or an outflow is written as a positive amount"
        if self.low is not None and self.high is not None:
            if self.high >= UNTOLD:
                return f"{kind}, 0 or more" if self.low == 0 else kind
            return f"{kind} from {self.low:g} to {self.high:g}"
        return f"{kind}, 0 or more" if self.low == 0 else kind


@dataclass(frozen=True, slots=True, kw_only=True)
class Format:
    """One table of a file. key: columns no two rows may share."""

    name: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]

    @property
    def required(self) -> frozenset[str]:
        return frozenset(c.name for c in self.columns if c.required and c.default is None)

    @property
    def by_name(self) -> dict[str, Column]:
        return {c.name: c for c in self.columns}


def _text(name: str, *, required: bool = False, without: str = "") -> Column:
    return Column(name=name, type=Type.TEXT, required=required, without=without)


def _date(name: str, *, required: bool = False, past: bool = False) -> Column:
    return Column(name=name, type=Type.DATE, required=required, past=past)


def _choice(
    name: str, kinds: type[StrEnum] | tuple[str, ...], *, default: str | None = None
) -> Column:
    listed = kinds if isinstance(kinds, tuple) else tuple(k.value for k in kinds)
    return Column(name=name, type=Type.CHOICE, required=True, choices=listed, default=default)


def _above_zero(name: str, *, required: bool = True, most: float = MOST_A_SHARE) -> Column:
    return Column(name=name, type=Type.NUMBER, required=required, positive=True, most=most)


def _whole(name: str, low: float, high: float, *, required: bool = False) -> Column:
    return Column(name=name, type=Type.INTEGER, required=required, low=low, high=high)


def _share(name: str) -> Column:
    return Column(name=name, type=Type.NUMBER, low=0, high=1)


def _line(name: str) -> Column:
    if name in RATIO_LINES:
        return _share(name)
    most = MOST_SHARES if name in SHARE_LINES else MOST_MONEY
    return Column(
        name=name,
        type=Type.NUMBER,
        positive=name in SHARE_LINES,
        low=0 if name in OUTFLOW_LINES | HOLDING_LINES else None,
        outflow=name in OUTFLOW_LINES,
        scaled=name not in UNSCALED_LINES,
        most=MOST_A_SHARE if name in PER_SHARE_LINES else most,
    )


_CURRENCY = Column(name="currency", type=Type.CURRENCY, required=True)
UNITS = {"1": 1.0, "thousand": 1e3, "million": 1e6}
_PAYER = (
    _text("exchange", required=True, without="/\\,"),
    _text("symbol", required=True, without="\\"),
)
"""A slash parts exchange and symbol where both are named; a symbol may hold one (share classes)."""

FORMATS: dict[str, Format] = {
    f.name: f
    for f in (
        Format(
            name="payers",
            columns=(
                *_PAYER,
                _text("name", required=True),
                _choice("kind", Kind),
                _text("country", required=True),
                _CURRENCY,
                _whole("fiscal_year_end_month", 1, 12, required=True),
                _whole("rhythm", 1, 12),
                Column(name="evenness", type=Type.CHOICE, choices=("level", "uneven")),
                _text("description"),
                _date("listed_on"),
                _date("delisted_on"),
            ),
            key=("exchange", "symbol"),
        ),
        Format(
            name="payer_notes",
            columns=(
                *_PAYER,
                _choice("field", ("sector", "industry", "credit_rating", "ownership", "peers")),
                _date("published_on", required=True, past=True),
                _text("value", required=True),
            ),
            key=("exchange", "symbol", "field", "published_on"),
        ),
        Format(
            name="dividends",
            columns=(
                *_PAYER,
                _date("ex_date", required=True),
                _choice("kind", DividendKind, default="regular"),
                _date("declared_on", past=True),
                _date("pay_date"),
                _above_zero("amount"),
                _CURRENCY,
                _whole("payments_per_year", 1, 12),
                _share("credited_fraction"),
                _share("credit_tax_rate"),
                Column(name="assumed", type=Type.CHOICE, choices=("ex_date",)),
            ),
            key=("exchange", "symbol", "ex_date", "kind"),
        ),
        Format(
            name="dividend_notices",
            columns=(
                *_PAYER,
                _date("declared_on", required=True, past=True),
                _choice("notice", NoticeKind),
            ),
            key=("exchange", "symbol", "declared_on"),
        ),
        Format(
            name="splits",
            columns=(
                *_PAYER,
                _date("effective_on", required=True),
                _above_zero("new_shares", most=1e6),
                _above_zero("old_shares", most=1e6),
                _date("announced_on", past=True),
            ),
            key=("exchange", "symbol", "effective_on"),
        ),
        Format(
            name="prices",
            columns=(
                *_PAYER,
                _date("day", required=True, past=True),
                _above_zero("close"),
                Column(name="volume", type=Type.NUMBER, low=0, high=1e15),
            ),
            key=("exchange", "symbol", "day"),
        ),
        Format(
            name="statements",
            columns=(
                *_PAYER,
                _date("period_end", required=True, past=True),
                _choice("span", Span),
                _date("published_on", required=True, past=True),
                _CURRENCY,
                Column(name="unit", type=Type.CHOICE, choices=tuple(UNITS)),
                Column(name="assumed", type=Type.CHOICE, choices=("published_on",)),
                *(_line(name) for name in STATEMENT_LINES),
            ),
            key=("exchange", "symbol", "period_end", "span", "published_on"),
        ),
        Format(
            name="estimates",
            columns=(
                *_PAYER,
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("measure", FORECAST_MEASURES),
                _date("published_on", required=True, past=True),
                Column(name="mean", type=Type.NUMBER, required=True),
                Column(name="low", type=Type.NUMBER),
                Column(name="high", type=Type.NUMBER),
                _whole("analysts", 1, 1000),
            ),
            key=("exchange", "symbol", "fiscal_year", "measure", "published_on"),
        ),
        Format(
            name="guidance",
            columns=(
                *_PAYER,
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("measure", FORECAST_MEASURES),
                _date("published_on", required=True, past=True),
                Column(name="low", type=Type.NUMBER, required=True),
                Column(name="high", type=Type.NUMBER, required=True),
            ),
            key=("exchange", "symbol", "fiscal_year", "measure", "published_on"),
        ),
        Format(
            name="exposures",
            columns=(
                *_PAYER,
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("basis", ("segment", "region", "tenant")),
                _text("name", required=True),
                _date("published_on", required=True, past=True),
                Column(name="share", type=Type.NUMBER, required=True, low=0, high=1),
            ),
            key=("exchange", "symbol", "fiscal_year", "basis", "name", "published_on"),
        ),
        Format(
            name="series",
            columns=(
                _text("code", required=True),
                _choice("kind", SERIES_KINDS, default="price_index"),
                _text("name", required=True),
                _CURRENCY,
                Column(name="of_currency", type=Type.CURRENCY),
                _date("day", required=True, past=True),
                _date("published_on", required=True, past=True),
                Column(name="value", type=Type.NUMBER, required=True),
            ),
            key=("code", "day", "published_on"),
        ),
        Format(
            name="slumps",
            columns=(
                _text("slump", required=True),
                _date("begins", required=True, past=True),
                _date("ends", required=True),
            ),
            key=("slump",),
        ),
    )
}


def recognise(file_stem: str, header: frozenset[str]) -> Format | None:
    """Which table a file holds: by its name, else by the columns only one table has."""
    named = FORMATS.get(file_stem.lower().replace("-", "_").replace(" ", "_"))
    if named is not None:
        return named
    fits = [f for f in FORMATS.values() if f.required <= header]
    fits = [f for f in fits if header <= set(f.by_name)] or fits
    return max(fits, key=lambda f: len(f.required), default=None)
