"""The newest quarter (or half-year) against the same of the year before, and twelve months against
twelve months. (docs/method.md, Footing, Newest quarter)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from ..facts.payer_file import PayerFile
from ..facts.periods import Period, trailing_period
from ..facts.statements import BALANCE_LINES, Span, Statement
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures
from .business import Business
from .lines import Mark, change_between, line_ids, line_reader, mark_by, mark_of

AT_THE_END = frozenset({*BALANCE_LINES, "total_debt", "net_debt"})
"""Lines of the balance sheet, which Balance shows."""
MATERIAL = 0.005
"""The share of revenue from which on a movement is told among the first."""
A_YEAR = timedelta(days=365)
REACH = timedelta(days=16)
MARGINS = ("gross_margin", "operating_margin", "net_margin", "cash_margin")


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved(HoldsFigures):
    """One line then and now: the amount it moved by, and in percent; margins in points."""

    id: str
    name: str
    before: Figure
    now: Figure
    amount: Figure
    change: Figure | None
    mark: Mark | None

    @property
    def key(self) -> str:
        return self.id


@dataclass(frozen=True, slots=True, kw_only=True)
class Compared(HoldsFigures):
    """Two periods of the same length, a year apart. lines: what moved most first."""

    id: str
    now: str
    before: str
    lines: tuple[Moved, ...]

    @property
    def key(self) -> str:
        return self.id

    def line(self, id: str) -> Moved | None:
        return next((x for x in self.lines if x.id == id), None)


def newest_compared(file: PayerFile) -> tuple[Compared, ...]:
    """The newest interim period against a year before, and the newest twelve months against the
    twelve months before them; those that are held."""
    found = []
    for span in (Span.QUARTER, Span.HALF):
        held = file.of_span(span)
        if held and (now := held[-1]) and (before := _year_before(held, now)):
            found.append(_compared(file, span.value, _single(before), _single(now)))
            break
    now_year, before_year = trailing_period(file), _twelve_before(file)
    if now_year is not None and before_year is not None:
        found.append(_compared(file, "twelve_months", before_year, now_year))
    return tuple(found)


def _single(statement: Statement) -> Period:
    return Period(label=statement.period, end=statement.period_end, statements=(statement,))


def _year_before(held: Sequence[Statement], now: Statement) -> Statement | None:
    wanted = now.period_end - A_YEAR
    return next((s for s in held if abs(s.period_end - wanted) <= REACH), None)


def _twelve_before(file: PayerFile) -> Period | None:
    """The twelve months that end a year before the newest, of as many statements."""
    now = trailing_period(file)
    if now is None:
        return None
    span = now.statements[-1].span
    before = [_year_before(file.of_span(span), s) for s in now.statements]
    parts = tuple(s for s in before if s is not None)
    if len(parts) < len(now.statements):
        return None
    end = parts[-1].period_end
    label = parts[-1].period if len(parts) == 1 else f"12 months to {end.isoformat()}"
    return Period(label=label, end=end, statements=parts)


def _compared(file: PayerFile, id: str, before: Period, now: Period) -> Compared:
    excluded = file.exclusions_within("statements", before.end - 2 * A_YEAR, date.max)
    if excluded:
        before, now = replace(before, excluded=excluded), replace(now, excluded=excluded)
    sold = change_between("revenue", before.line("revenue"), now.line("revenue"))
    lines = [_moved(name, before, now, sold) for name in line_ids() if name not in AT_THE_END]
    shown = [x for x in lines if x is not None]
    revenue = before.line("revenue").value
    shown.sort(key=lambda x: _weight(x, revenue), reverse=True)
    return Compared(
        id=id, now=now.label, before=before.label, lines=(*shown, *_margins(before, now))
    )


def _weight(moved: Moved, revenue: float | None) -> tuple[bool, float]:
    """What moved most: by its own change, lines that moved by a fair part of revenue first."""
    change = moved.change.value if moved.change else None
    amount = moved.amount.value or 0.0
    money = moved.now.unit is Unit.MONEY
    material = not money or (bool(revenue) and abs(amount) >= MATERIAL * abs(revenue or 0.0))
    return material, abs(change) if change is not None else -1.0


def _moved(id: str, before: Period, now: Period, sold: Figure) -> Moved | None:
    """sold: how revenue changed, which costs are held against."""
    read = line_reader(id)
    then, newest = read(before), read(now)
    if not then.known or not newest.known or (then.value == 0 and newest.value == 0):
        return None
    name = newest.label
    change = change_between(name, then, newest)
    return Moved(
        id=id,
        name=name,
        before=then,
        now=newest,
        amount=_difference(f"{name}, moved by", then, newest),
        change=change,
        mark=mark_of(id, change, _difference("change against revenue's", sold, change)),
    )


def _difference(label: str, before: Figure, now: Figure) -> Figure:
    def compute(a: float, b: float) -> float | Unknown:
        if before.currency != now.currency:
            return Unknown("the two are in different currencies")
        return b - a

    return derive(
        label,
        now.unit,
        "later − earlier",
        [before, now],
        compute,
        currency=now.currency,
        period=f"{before.period} to {now.period}",
    )


def _margins(before: Period, now: Period) -> list[Moved]:
    found = []
    for id in MARGINS:
        then: Figure = getattr(Business(period=before, before=None), id)
        newest: Figure = getattr(Business(period=now, before=None), id)
        if then.known and newest.known:
            moved = _difference(f"{newest.label}, moved by", then, newest)
            found.append(
                Moved(
                    id=id,
                    name=newest.label,
                    before=then,
                    now=newest,
                    amount=moved,
                    change=None,
                    mark=mark_by(moved, 1),
                )
            )
    return found
