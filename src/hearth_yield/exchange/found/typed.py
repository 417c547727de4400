"""Rows as a person types them: days in any usual form, years for periods, and no day of publication
where none is known."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import date, timedelta

from hearth_yield.core.facts.columns import Type
from hearth_yield.core.household.kinds import KINDS
from hearth_yield.exchange.cells import Cell, spelt
from hearth_yield.exchange.columns import IN_FILES

from .dates import Order, date_of, order_of, period_of
from .settling import PUBLISHED_AFTER

YearEnds = Callable[[str, str], int]
"""The month in which the fiscal years of a payer end, by exchange and symbol."""


def as_typed(
    table: str, rows: Sequence[Mapping[str, str]], year_ends: YearEnds, today: date | None
) -> list[Mapping[str, Cell]]:
    """The same rows with their days read. What cannot be read, or in two ways, stays as it is
    typed, so that it is refused under its own words. today: when they are typed."""
    days = [c.name for c in IN_FILES[table].columns if c.type is Type.DATE]
    order = order_of(text for row in rows for n in days if (text := row.get(n, "")))
    return [_row(table, row, days, order, year_ends, today) for row in rows]


def _row(
    table: str,
    row: Mapping[str, str],
    days: Sequence[str],
    order: Order,
    year_ends: YearEnds,
    today: date | None,
) -> Mapping[str, Cell]:
    typed: dict[str, Cell] = dict(row)
    ends = year_ends(row.get("exchange", ""), row.get("symbol", ""))
    if table == "entries":
        _kind(typed)
    elif table == "statements":
        _period(typed, order, ends)
    elif table == "dividends":
        _year_paid(typed, order, ends)
    for name in days:
        day = _day(typed.get(name), order)
        if day is not None:
            typed[name] = day
    if table == "statements":
        _published(typed, today)
    return typed


KINDS_SAID = {
    said.lower(): k.kind.value for k in KINDS.values() for said in (k.name, k.did, k.kind.value)
}
"""What people call the kinds of entries."""


def _kind(typed: dict[str, Cell]) -> None:
    told = spelt(typed.get("kind")).lower()
    typed["kind"] = KINDS_SAID.get(told, typed.get("kind"))


def _day(cell: Cell, order: Order) -> date | None:
    """None for no day, and for one that can be read in two ways."""
    text = spelt(cell)
    if not text or (order.asked and order_of([text]).asked):
        return None
    return date_of(text, order)


def _period(typed: dict[str, Cell], order: Order, ends: int) -> None:
    """ "2025" and "Q3 2025" say the span too; a day alone is the end of a year where nothing
    else is said."""
    text = spelt(typed.get("period_end"))
    period = period_of(text, order, ends) if text else None
    if period is None or period.estimated or (period.dated and _day(text, order) is None):
        return
    typed["period_end"] = period.end
    if not spelt(typed.get("span")):
        typed["span"] = period.span.value


def _year_paid(typed: dict[str, Cell], order: Order, ends: int) -> None:
    """A year in place of a day is what the year paid, as one payment on its last day."""
    text = spelt(typed.get("ex_date"))
    period = period_of(text, order, ends) if text else None
    if period is None or not period.named or period.span.value != "year" or period.estimated:
        return
    typed |= {"ex_date": period.end, "assumed": "ex_date"}
    if not spelt(typed.get("payments_per_year")):
        typed["payments_per_year"] = 1


def _published(typed: dict[str, Cell], today: date | None) -> None:
    """By the rule, where no day of publication is typed; today at the latest, as it is known."""
    last, span = typed.get("period_end"), spelt(typed.get("span")).lower()
    if spelt(typed.get("published_on")) or span not in ("year", "half", "quarter"):
        return
    if not isinstance(last, date):
        return
    after = PUBLISHED_AFTER["quarter" if span == "quarter" else "year"]
    published = last + timedelta(days=after)
    if today is not None and last <= today:
        published = min(published, today)
    typed |= {"published_on": published, "assumed": "published_on"}
