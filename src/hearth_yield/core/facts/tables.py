"""The tables of facts, each declared once: from here come what a file holds, what is stored, the
checks of a backup, the export and the templates."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date
from enum import StrEnum
from operator import attrgetter
from typing import Any

from ..kinds import Kind
from .columns import MOST_A_SHARE, MOST_MONEY, MOST_SHARES, Column, Type
from .fact import Fact
from .records import (
    FORECAST_MEASURES,
    SERIES_KINDS,
    Dividend,
    DividendKind,
    Estimate,
    Exposure,
    Guidance,
    Notice,
    NoticeKind,
    PayerNote,
    Split,
)
from .statements import (
    HOLDING_LINES,
    OUTFLOW_LINES,
    PER_SHARE_LINES,
    RATIO_LINES,
    SHARE_LINES,
    STATEMENT_LINES,
    UNSCALED_LINES,
    Span,
    Statement,
)

UNITS = {"1": 1.0, "thousand": 1e3, "million": 1e6}
"""What money and shares of statements may be counted in."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FactTable:
    """One kind of fact. name: in files, packages and the page. held: in the store. owner: the table
    whose rows its own belong to; key: columns that no two rows of one owner share. by_key: stored
    in the order of its key, for tables of very many small rows. record: what the core reads its
    rows as, by the names of its columns; None: as arrays, or with their owner. gathered: columns
    that the record holds together, as `lines`. known_by: of these columns the first that is told
    is the day from which it is known; none: from long ago. member: of a payer's file, which holds
    its records. versioned: rows whose keys differ in the day of publication alone are versions of
    one fact, of which the newest known counts."""

    name: str
    held: str
    columns: tuple[Column, ...]
    key: tuple[str, ...]
    owner: str | None = None
    by_key: bool = False
    record: type | None = None
    gathered: tuple[str, ...] = ()
    known_by: tuple[str, ...] = ()
    member: str | None = None
    versioned: bool = False

    def known(self, records: Iterable[Fact], day: date) -> tuple[Any, ...]:
        """Of records those known by a day, in the order of their days where they have one."""
        found = [x for x in records if x.known_on <= day]
        if self.versioned:
            same = attrgetter(*(k for k in self.key if k not in self.known_by))
            newest = {same(x): x for x in sorted(found, key=attrgetter(*self.known_by))}
            return tuple(newest[k] for k in sorted(newest))
        first = next(c for c in self.columns if c.name == self.key[0])
        if first.type is Type.DATE:
            found.sort(key=attrgetter(first.name))
        return tuple(found)

    @property
    def editable(self) -> tuple[str, ...]:
        return tuple(c.name for c in self.columns if c.editable)

    @property
    def file_names(self) -> dict[str, str]:
        """What a file calls a column, where that is another name."""
        return {c.name: c.in_files for c in self.columns if c.in_files}

    @property
    def stored(self) -> tuple[Column, ...]:
        return tuple(c for c in self.columns if c.files_only is None)


def _text(name: str, *, required: bool = False, without: str = "") -> Column:
    return Column(name=name, type=Type.TEXT, required=required, without=without)


def _date(name: str, *, required: bool = False, past: bool = False, sought: bool = False) -> Column:
    return Column(name=name, type=Type.DATE, required=required, past=past, sought=sought)


def _choice(
    name: str,
    kinds: type[StrEnum] | tuple[str, ...],
    *,
    default: str | None = None,
    in_files: str | None = None,
    guarded: bool = True,
) -> Column:
    listed = kinds if isinstance(kinds, tuple) else tuple(k.value for k in kinds)
    return Column(
        name=name,
        type=Type.CHOICE,
        required=True,
        choices=listed,
        default=default,
        in_files=in_files,
        guarded=guarded,
    )


def _above_zero(name: str, *, most: float = MOST_A_SHARE, editable: bool = False) -> Column:
    return Column(
        name=name, type=Type.NUMBER, required=True, positive=True, most=most, editable=editable
    )


def _number(name: str, *, required: bool = False) -> Column:
    return Column(name=name, type=Type.NUMBER, required=required)


def _whole(name: str, low: float, high: float, *, required: bool = False) -> Column:
    return Column(name=name, type=Type.INTEGER, required=required, low=low, high=high)


def _share(name: str, *, required: bool = False) -> Column:
    return Column(name=name, type=Type.NUMBER, low=0, high=1, required=required)


def _line(name: str) -> Column:
    if name in RATIO_LINES:
        return Column(name=name, type=Type.NUMBER, low=0, high=1, editable=True)
    most = MOST_SHARES if name in SHARE_LINES else MOST_MONEY
    return Column(
        name=name,
        type=Type.NUMBER,
        positive=name in SHARE_LINES,
        low=0 if name in OUTFLOW_LINES | HOLDING_LINES else None,
        outflow=name in OUTFLOW_LINES,
        scaled=name not in UNSCALED_LINES,
        most=MOST_A_SHARE if name in PER_SHARE_LINES else most,
        editable=True,
    )


_CURRENCY = Column(name="currency", type=Type.CURRENCY, required=True)
_ASSUMED_EX = Column(name="assumed", type=Type.CHOICE, choices=("ex_date",))
_ASSUMED_PUBLISHED = Column(name="assumed", type=Type.CHOICE, choices=("published_on",))
_UNIT = Column(name="unit", type=Type.CHOICE, choices=tuple(UNITS), files_only="1")
_NOTED = ("sector", "industry", "credit_rating", "ownership", "peers")

TABLES: dict[str, FactTable] = {
    table.name: table
    for table in (
        FactTable(
            name="payers",
            held="payer",
            key=("exchange", "symbol"),
            columns=(
                _text("exchange", required=True, without="/\\,"),
                _text("symbol", required=True, without="\\"),
                _text("name", required=True),
                Column(name="isin", type=Type.ISIN, sought=True),
                _choice("kind", Kind),
                _text("country", required=True),
                _CURRENCY,
                Column(name="fiscal_year_end_month", type=Type.INTEGER, low=1, high=12, empty=12),
                _whole("rhythm", 1, 12),
                Column(name="evenness", type=Type.CHOICE, choices=("level", "uneven")),
                Column(name="description", type=Type.TEXT, empty=""),
                _date("listed_on"),
                _date("delisted_on"),
            ),
        ),
        FactTable(
            name="payer_notes",
            held="payer_note",
            known_by=("published_on",),
            record=PayerNote,
            member="notes",
            versioned=True,
            owner="payers",
            key=("field", "published_on"),
            columns=(
                _choice("field", _NOTED, guarded=False),
                _date("published_on", required=True, past=True),
                _text("value", required=True),
            ),
        ),
        FactTable(
            name="dividends",
            held="dividend",
            known_by=("declared_on", "ex_date"),
            record=Dividend,
            member="dividends",
            owner="payers",
            key=("ex_date", "kind"),
            columns=(
                _date("ex_date", required=True, sought=True),
                _choice("kind", DividendKind, default="regular"),
                _date("declared_on", past=True),
                _date("pay_date", sought=True),
                _above_zero("amount", editable=True),
                _CURRENCY,
                _whole("payments_per_year", 1, 12),
                _share("credited_fraction"),
                _share("credit_tax_rate"),
                _ASSUMED_EX,
            ),
        ),
        FactTable(
            name="dividend_notices",
            held="dividend_notice",
            known_by=("declared_on",),
            record=Notice,
            member="notices",
            owner="payers",
            key=("declared_on",),
            columns=(
                _date("declared_on", required=True, past=True),
                _choice("kind", NoticeKind, in_files="notice"),
            ),
        ),
        FactTable(
            name="splits",
            held="split",
            record=Split,
            member="splits",
            owner="payers",
            key=("effective_on",),
            columns=(
                _date("effective_on", required=True),
                _above_zero("new_shares", most=1e6),
                _above_zero("old_shares", most=1e6),
                _date("announced_on", past=True),
            ),
        ),
        FactTable(
            name="prices",
            held="price",
            known_by=("day",),
            owner="payers",
            key=("day",),
            by_key=True,
            columns=(
                _date("day", required=True, past=True),
                _above_zero("close", editable=True),
                Column(name="volume", type=Type.NUMBER, low=0, high=1e15),
            ),
        ),
        FactTable(
            name="statements",
            held="statement",
            known_by=("published_on",),
            record=Statement,
            member="statements",
            versioned=True,
            gathered=STATEMENT_LINES,
            owner="payers",
            key=("period_end", "span", "published_on"),
            columns=(
                _date("period_end", required=True, past=True),
                _choice("span", Span),
                _date("published_on", required=True, past=True),
                _CURRENCY,
                _UNIT,
                _ASSUMED_PUBLISHED,
                *(_line(name) for name in STATEMENT_LINES),
            ),
        ),
        FactTable(
            name="estimates",
            held="estimate",
            known_by=("published_on",),
            record=Estimate,
            member="estimates",
            owner="payers",
            key=("fiscal_year", "measure", "published_on"),
            columns=(
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("measure", FORECAST_MEASURES),
                _date("published_on", required=True, past=True),
                _number("mean", required=True),
                _number("low"),
                _number("high"),
                _whole("analysts", 1, 1000),
            ),
        ),
        FactTable(
            name="guidance",
            held="guidance",
            known_by=("published_on",),
            record=Guidance,
            member="guidance",
            owner="payers",
            key=("fiscal_year", "measure", "published_on"),
            columns=(
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("measure", FORECAST_MEASURES),
                _date("published_on", required=True, past=True),
                _number("low", required=True),
                _number("high", required=True),
            ),
        ),
        FactTable(
            name="exposures",
            held="exposure",
            known_by=("published_on",),
            record=Exposure,
            member="exposures",
            versioned=True,
            owner="payers",
            key=("fiscal_year", "basis", "name", "published_on"),
            columns=(
                _whole("fiscal_year", 1900, 2200, required=True),
                _choice("basis", ("segment", "region", "tenant")),
                _text("name", required=True),
                _date("published_on", required=True, past=True),
                _share("share", required=True),
            ),
        ),
        FactTable(
            name="series",
            held="series",
            key=("code",),
            columns=(
                _text("code", required=True),
                _choice("kind", SERIES_KINDS, default="price_index"),
                _text("name", required=True),
                _CURRENCY,
                Column(name="of_currency", type=Type.CURRENCY),
            ),
        ),
        FactTable(
            name="series_points",
            held="series_point",
            known_by=("published_on",),
            owner="series",
            key=("day", "published_on"),
            by_key=True,
            columns=(
                _date("day", required=True, past=True),
                _date("published_on", required=True, past=True),
                _number("value", required=True),
            ),
        ),
        FactTable(
            name="slumps",
            held="slump",
            key=("name",),
            columns=(
                Column(name="name", type=Type.TEXT, required=True, in_files="slump"),
                _date("begins", required=True, past=True),
                _date("ends", required=True),
            ),
        ),
    )
}
"""In the order they are written: owners before what they own."""
