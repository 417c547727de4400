"""Published statements: the lines there are, and one statement with those it reports."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from functools import cache
from typing import Any

from ..figures.figure import FactAt, Figure, Touch, Unit, touch_of, unknown
from .edits import BY_HAND, Edited, Exclusion
from .fact import Published

HALF_WAY = (6, 24)
"""The month and day from which a fiscal year that ends on it bears its end's year."""


def fiscal_year_of(period_end: date) -> int:
    """The name of a fiscal year: the calendar year that holds most of its days; of one that ends
    with June, half in each, the year it ends in. (docs/method.md, Statements)"""
    late = (period_end.month, period_end.day) >= HALF_WAY
    return period_end.year if late else period_end.year - 1


class Span(StrEnum):
    YEAR = "year"
    HALF = "half"
    QUARTER = "quarter"

    @property
    def months(self) -> int:
        return {"year": 12, "half": 6, "quarter": 3}[self.value]

    @property
    def plural(self) -> str:
        return "halves" if self is Span.HALF else f"{self.value}s"


INCOME_LINES = (
    "revenue",
    "cost_of_revenue",
    "operating_expenses",
    "ebit",
    "depreciation_amortization",
    "ebitda",
    "interest_expense",
    "tax",
    "net_income",
    "diluted_eps",
    "diluted_shares",
    "impairments",
    "gains_on_property_sales",
    "property_depreciation",
    "straight_line_rent",
    "ffo",
    "affo",
    "net_operating_income",
    "distributable_cash_flow",
)
CASH_LINES = (
    "operating_cash_flow",
    "capital_expenditure",
    "maintenance_capex",
    "recurring_capex",
    "dividends_paid",
    "preferred_dividends",
    "buybacks",
    "share_issuance",
    "stock_based_compensation",
)
BALANCE_LINES = (
    "cash",
    "short_term_debt",
    "long_term_debt",
    "floating_rate_debt",
    "preferred_equity",
    "current_assets",
    "current_liabilities",
    "total_assets",
    "total_liabilities",
    "equity",
    "minority_interest",
    "shares_outstanding",
    "occupancy",
    "capital_ratio",
)
STATEMENT_LINES = INCOME_LINES + CASH_LINES + BALANCE_LINES
PER_SHARE_LINES = frozenset({"diluted_eps"})
SHARE_LINES = frozenset({"diluted_shares", "shares_outstanding"})
RATIO_LINES = frozenset({"occupancy", "capital_ratio"})
"""Lines that are not money: an import's unit does not scale them."""
OUTFLOW_LINES = frozenset(
    {
        "cost_of_revenue",
        "operating_expenses",
        "depreciation_amortization",
        "property_depreciation",
        "interest_expense",
        "capital_expenditure",
        "maintenance_capex",
        "recurring_capex",
        "dividends_paid",
        "preferred_dividends",
        "buybacks",
        "stock_based_compensation",
    }
)
"""Costs and what goes out: held as positive amounts, and often written as negative ones."""
HOLDING_LINES = frozenset(
    {
        "cash",
        "short_term_debt",
        "long_term_debt",
        "floating_rate_debt",
        "preferred_equity",
        "current_assets",
        "current_liabilities",
        "total_assets",
        "total_liabilities",
        "share_issuance",
    }
)
"""What there is, is owed or comes in: never negative."""
_IN_SHARES = PER_SHARE_LINES | SHARE_LINES
UNSCALED_LINES = PER_SHARE_LINES | RATIO_LINES
_UNITS = (
    dict.fromkeys(PER_SHARE_LINES, Unit.PER_SHARE)
    | dict.fromkeys(SHARE_LINES, Unit.SHARES)
    | dict.fromkeys(RATIO_LINES, Unit.FRACTION)
)


def unit_of(line: str) -> Unit:
    return _UNITS.get(line, Unit.MONEY)


SECTION_TOTAL = {
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


_SPELT = {
    "depreciation_amortization": "depreciation and amortization",
    "diluted_eps": "diluted EPS",
    "floating_rate_debt": "floating-rate debt",
    "long_term_debt": "long-term debt",
    "maintenance_capex": "maintenance capital expenditure",
    "recurring_capex": "recurring capital expenditure",
    "short_term_debt": "short-term debt",
    "stock_based_compensation": "stock-based compensation",
    "straight_line_rent": "straight-line rent",
}


@cache
def words(line: str) -> str:
    """The name of a line or basis as prose: `free_cash_flow` → "free cash flow"."""
    capitals = {"ebit": "EBIT", "ebitda": "EBITDA", "ffo": "FFO", "affo": "AFFO"}
    return capitals.get(line, _SPELT.get(line, line.replace("_", " ")))


ASSUMED_PUBLISHED = "when it was published is assumed, by a rule you chose at the import"
_PLACES = {name: place for place, name in enumerate(STATEMENT_LINES)}


class Lines(Mapping[str, float]):
    """The lines one statement reports, over a row of all there are: most are never asked for."""

    __slots__ = ("_row",)

    def __init__(self, row: Sequence[float | None]) -> None:
        """row: a value, or None, for each of STATEMENT_LINES in order."""
        self._row = row

    def __getitem__(self, name: str) -> float:
        value = self._row[_PLACES[name]]
        if value is None:
            raise KeyError(name)
        return value

    def get(self, name: str, default: Any = None) -> Any:
        place = _PLACES.get(name)
        value = None if place is None else self._row[place]
        return default if value is None else value

    def __contains__(self, name: object) -> bool:
        return self.get(str(name)) is not None

    def __iter__(self) -> Iterator[str]:
        return (n for n, v in zip(STATEMENT_LINES, self._row, strict=True) if v is not None)

    def __len__(self) -> int:
        return sum(v is not None for v in self._row)


@dataclass(frozen=True, slots=True, kw_only=True)
class Statement(Published):
    """lines: only what was reported, in single units of `currency`. assumed: published_on follows
    from a rule, as nothing says when. instead_of: the other version of the period, which this one
    stands for since the person left it out."""

    period_end: date
    span: Span
    published_on: date
    currency: str
    lines: Mapping[str, float]
    source: int | None = None
    assumed: bool = False
    split_factor: float = 1.0
    split_touch: Touch | None = None
    entered: bool = False
    edited: Mapping[str, Edited] = field(default_factory=dict)
    instead_of: Exclusion | None = None
    made: dict[str, Any] = field(default_factory=dict, init=False, repr=False, compare=False)

    def older_than(self, left: Exclusion) -> bool:
        """Whether it stands for a later version of its period, which was excluded."""
        same = (self.period_end, self.span.value) == (left.day, left.kind)
        return same and self.published_on < left.known_on

    @property
    def by_hand(self) -> bool:
        """Whether a person entered or edited any of it."""
        return self.entered or bool(self.edited)

    @property
    def placed_on(self) -> date:
        return self.period_end

    @property
    def called(self) -> str:
        return f"{self.period}, published {self.published_on}"

    @property
    def sort(self) -> str:
        return self.span.value

    @property
    def period(self) -> str:
        return str(self._meta["period"])

    @property
    def label(self) -> str:
        end = self.period_end
        if self.span is Span.YEAR:
            return f"fiscal {fiscal_year_of(end)}"
        return f"{self.span.value} to {end.isoformat()}"

    @property
    def _meta(self) -> dict[str, Any]:
        """What every figure of it carries, and the key of its facts; made once."""
        if not self.made:
            self.made.update(
                {
                    "currency": self.currency,
                    "period": self.label,
                    "known_on": self.published_on,
                    "source": self.source,
                }
            )
        return self.made

    def line(self, name: str) -> Figure:
        """A reported line, in today's shares; a missing core line is unknown, never zero."""
        value = reported = self.lines.get(name)
        notes: tuple[str, ...] = ()
        if value is None and name in SECTION_TOTAL and SECTION_TOTAL[name] in self.lines:
            value, notes = 0.0, ("not reported; counted as nil",)
        unit, label = unit_of(name), words(name)
        changed = self.edited.get(name)
        touch = Touch.ENTERED if self.entered else None
        if changed is not None:
            notes += (changed.note,)
        elif self.entered:
            notes += (BY_HAND,)
        if self.assumed:
            notes += (ASSUMED_PUBLISHED,)
        if self.instead_of is not None:
            notes += (self.instead_of.note,)
        if changed is not None or self.instead_of is not None:
            touch = Touch.EDITED
        meta: dict[str, Any] = {
            **self._meta,
            "touch": touch,
            "fact": FactAt(
                table="statements",
                key=(
                    ("period_end", self.period_end),
                    ("span", self.span),
                    ("published_on", self.published_on),
                ),
                field=name,
                raw=changed.original if changed else reported,
            ),
        }
        if value is None:
            return unknown(label, unit, f"not reported for {self.period}", **meta)
        if name in _IN_SHARES:
            meta["touch"] = touch_of([touch, self.split_touch])
            factor = self.split_factor
            if factor != 1.0:
                value = value / factor if name in PER_SHARE_LINES else value * factor
                notes += (f"adjusted for later splits ({factor:g} for 1)",)
        return Figure(label=label, unit=unit, value=value, notes=notes, **meta)
