"""Statements as they are found: signs, units, days of publication, and the estimates and dividends
a share that stand among them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta

from hearth_yield.core.facts.statements import (
    OUTFLOW_LINES,
    PER_SHARE_LINES,
    RATIO_LINES,
    SHARE_LINES,
    STATEMENT_LINES,
    UNSCALED_LINES,
    fiscal_year_of,
)
from hearth_yield.exchange.cells import Cell as Told
from hearth_yield.exchange.exact import product

from .dates import Period, date_of, period_of
from .made import Made, cell_name, owner
from .numbers import is_large, is_nil, is_small
from .patience import tick
from .payers import Payers
from .settings import Answers, Setting
from .sheets import Cell
from .table import Found, Line
from .units import FACTOR, HUNDREDTH, NAMES, WRITTEN

ESTIMATED = {
    "diluted_eps": "eps",
    "ffo_per_share": "ffo",
    "affo_per_share": "affo",
    "dividends_per_share": "dps",
    "revenue": "revenue",
    "free_cash_flow": "fcf",
}
A_SHARE = frozenset(("eps", "dps", "ffo", "affo"))
"""Measures of estimates that are amounts a share."""
ASIDE = ("period_end", "published_on", "currency")
Held = dict[str, dict[int, float]]
"""By line, and by the place of its period."""


def ask_of_signs(found: Found, answers: Answers) -> None:
    """A cost or an outflow that is negative in some periods and positive in others is asked."""
    for line in found.lines:
        if line.target not in OUTFLOW_LINES:
            continue
        values = _line_values(found, line.place)
        if not values or min(values) > 0 or max(values) < 0:
            continue
        negative = sum(v < 0 for v in values)
        if 0 < negative < len(values):
            name = f"sign-{line.place}"
            options = [("out", "all of them went out"), ("skip", "leave the line out")]
            told = answers.own(found.id, name) or answers.kept.get(f"sign.{line.target}")
            found.settings.append(
                Setting(
                    id=f"{found.id}.{name}",
                    name=name,
                    asks=f"“{line.heading}” is negative in {negative} of {len(values)} periods. "
                    "What are they?",
                    options=options,
                    answer=told if told in dict(options) else None,
                    asked=True,
                )
            )


def _line_values(found: Found, line: int) -> list[float]:
    """The values of a line that are not nil, of the periods that are over."""
    places = [at for at, _, period in found.periods if not period.estimated]
    if found.across:
        row = found.sheet.rows[line]
        cells = [row[at] for at in places if at < len(row)]
    else:
        cells = [found.cell(at, line) for at in places]
    return [v for c in cells if (v := c if type(c) is float else found.value(c))]


@dataclass(frozen=True, slots=True)
class _Columns:
    """What each place of a period stands for: whose it is, and the period."""

    whose: dict[int, str]
    periods: dict[int, Period]

    def expected(self) -> set[int]:
        return {at for at, p in self.periods.items() if p.estimated}


def statements(
    found: Found, made: Made, payers: Payers, today: date, paid: frozenset[int], answers: Answers
) -> None:
    """paid: the years for which payments are stored, so that a year's total must not come in
    beside them."""
    whose = {at: _whose(found, at, payers) for at, _, _ in found.periods}
    strangers = sorted({_stranger(found, at) for at, who in whose.items() if who is None})
    if strangers:
        made.left_out.append("payers that are not stored: " + ", ".join(strangers[:20]))
    columns = _Columns(
        {at: who for at, who in whose.items() if who},
        {at: p for at, _, p in found.periods if whose[at]},
    )
    if found.across:
        _no_period_columns(found, made)
    held = _values(found, made, columns)
    _estimates(found, made, held, columns, today)
    expected = columns.expected()
    if expected:
        held = {n: {k: v for k, v in by.items() if k not in expected} for n, by in held.items()}
    _turn(found, made, held)
    _share_counts(found, made)
    _rows(found, made, held, columns)
    _a_share(found, made, held, columns, paid)


def _counted_in(found: Found, line: Line) -> float:
    """What the values of a line will be times; one that says its own size ("1.2bn") is not."""
    if line.target in SHARE_LINES:
        return FACTOR[found.answer("shares") or "1"]
    if line.target in UNSCALED_LINES or line.target == "dividends_per_share":
        return 1.0
    return FACTOR[line.unit or found.answer("unit", "1")]


def _values(found: Found, made: Made, columns: _Columns) -> Held:
    held: Held = {}
    across, sheet = found.lie == "across", found.sheet.rows
    last = max(columns.periods, default=0)
    for line in found.lines:
        if line.target is None or line.target in ASIDE:
            continue
        tick()
        mine = held.setdefault(line.target, {})
        own = sheet[line.place] if across else ()
        if across and len(own) > last:
            cells = [own[at] for at in columns.periods]
            if {*map(type, cells)} == {float}:
                mine.update(zip(columns.periods, cells, strict=True))  # type: ignore[arg-type]
                continue
        for place in columns.periods:
            row, column = (own, place) if across else (sheet[place], line.place)
            cell = row[column] if column < len(row) else None
            value = cell if type(cell) is float else found.value(cell)
            if value is not None and isinstance(cell, str) and is_large(cell):
                value /= _counted_in(found, line)
            twice = line.unit == HUNDREDTH and found.answer("per_share") != "0.01"
            if value is not None and twice and isinstance(cell, str) and is_small(cell):
                value *= 100  # its line says the pence once more
            if value is not None:
                mine[place] = value
            elif _is_value(cell):
                at = (line.place, place) if across else (place, line.place)
                made.refuse(f"{cell_name(*at)} holds “{cell}”, which is no number")
    if not across:
        _no_periods(found, made)
    return {name: by for name, by in held.items() if by}


def _whose(found: Found, at: int, payers: Payers) -> str | None:
    if not found.columns_of or found.payer:
        return found.payer
    for column in found.columns_of.values():
        who = payers.named(str(found.cell(at, column) or ""))
        if who:
            return who.key
    return None


def _stranger(found: Found, at: int) -> str:
    column = next(iter(found.columns_of.values()), 0)
    return str(found.cell(at, column) or "?")


def _no_period_columns(found: Found, made: Made) -> None:
    """Columns of figures whose headings name no period: twelve months to now, growth and the
    like."""
    known = {at for at, _, _ in found.periods}
    first = min(known, default=0)
    heads = found.sheet.rows[found.head]
    names = [
        str(cell)
        for at, cell in enumerate(heads)
        if at not in known
        and cell is not None
        and (at > first or (at and period_of(cell, found.order, found.year_ends)))
    ]
    if names:
        made.left_out.append(
            f"columns that name no period, or one that is told again: {', '.join(names[:20])}"
        )


def _no_periods(found: Found, made: Made) -> None:
    """Rows of figures that name no period: totals and the like."""
    column = found.place_of("period_end") or 0
    known = {at for at, _, _ in found.periods}
    for n in found.rows:
        cell = found.cell(n, column)
        if n in known or not _is_value(cell):
            continue
        if any(found.value(c) is not None for c in found.sheet.rows[n]):
            made.leave(f"row {n + 1}: “{cell}” is no period")


def _is_value(cell: Cell) -> bool:
    """Whether something stands there that ought to be a value."""
    return cell is not None and not (isinstance(cell, str) and is_nil(cell))


def _turn(found: Found, made: Made, held: Held) -> None:
    """Outflows written as negatives are amounts that went out. Tax follows the others, as it can
    be of either sign."""
    turned, straight = [], 0
    for name in sorted(OUTFLOW_LINES & set(held)):
        values = [v for v in held[name].values() if v]
        if values and all(v < 0 for v in values):
            held[name] = {k: -v for k, v in held[name].items()}
            turned.append(name.replace("_", " "))
        elif any(v < 0 for v in values):
            _settle_sign(found, made, held, name)
        elif name in ("cost_of_revenue", "operating_expenses", "interest_expense"):
            straight += bool(values)
    costs = ("cost of revenue", "operating expenses", "interest expense")
    taxes = [v for v in held.get("tax", {}).values() if v]
    if taxes and all(v < 0 for v in taxes) and any(n in turned for n in costs) and not straight:
        held["tax"] = {k: -v for k, v in held["tax"].items()}
        turned.append("tax")
    if turned:
        made.notes.append("written as negative, and turned: " + ", ".join(turned))


def _settle_sign(found: Found, made: Made, held: Held, name: str) -> None:
    place = found.place_of(name)
    if found.answer(f"sign-{place}") == "out":
        held[name] = {k: abs(v) for k, v in held[name].items()}
        made.notes.append(f"{name.replace('_', ' ')}: all of it taken as outflows, as you said")
    else:
        del held[name]
        made.left_out.append(f"{name.replace('_', ' ')}, as its signs are mixed")


def _share_counts(found: Found, made: Made) -> None:
    unit, shares = found.answer("unit", "1"), found.answer("shares")
    if shares and shares != unit:
        made.notes.append(f"share counts are read in {NAMES[shares]}")


def _own(found: Found, target: str) -> str | None:
    """What a line says for itself that it is counted in."""
    return next((x.unit for x in found.lines if x.target == target), None)


def _a_share_in(found: Found, own: str | None) -> float:
    """What amounts a share will be times. own: what their line says for itself."""
    return 0.01 if own == HUNDREDTH else float(found.answer("per_share", "1"))


def _counted(
    found: Found, name: str, by: Mapping[int, float], own: str | None, unit: float
) -> dict[int, float]:
    """The values of a line in the table's unit; own: what its heading says it
    is counted in. Ratios written as 55 are 0.55."""
    values = list(by.values())
    factor = 1.0
    if name in SHARE_LINES:
        values = [found.shares(at, v) for at, v in by.items()]
        factor = FACTOR[found.answer("shares") or "1"] / unit
    elif name in PER_SHARE_LINES:
        values = [found.a_share(at, v) for at, v in by.items()]
        factor = _a_share_in(found, own)
    elif name not in UNSCALED_LINES:
        factor = FACTOR[own or found.answer("unit", "1")] / unit
    if name in RATIO_LINES:
        values = [v / 100 if v > 1 else v for v in values]
    return {at: product(v, factor) for at, v in zip(by, values, strict=True)}


def _rows(found: Found, made: Made, held: Held, columns: _Columns) -> None:
    published = _published(found)
    assumed = False
    currency, unit = found.answer("currency"), found.answer("unit", "1")
    own = {x.target: x.unit for x in found.lines}
    unit = WRITTEN.get(unit, unit)
    size = FACTOR[unit]
    lines = [(n, _counted(found, n, held[n], own[n], size)) for n in STATEMENT_LINES if n in held]
    after = {span: _after(found, span) for span in ("year", "half", "quarter")}
    places = sorted(columns.periods, key=lambda at: (columns.whose[at], columns.periods[at].end))
    for at in places:
        period = columns.periods[at]
        told = {n: by[at] for n, by in lines if at in by}
        if not told:
            continue
        on = published.get(at)
        row: dict[str, Told] = {
            **owner(columns.whose[at]),
            "period_end": period.end,
            "span": period.span.value,
            "published_on": on or period.end + after[period.span.value],
            "currency": currency,
            "unit": unit,
        }
        if on is None:
            row["assumed"], assumed = "published_on", True
        made.add("statements", row | told, at)
    if assumed:
        days = [
            f"{days_after} days after a {span}’s end"
            for span in ("year", "quarter")
            if (days_after := found.answer(f"after_{span}"))
        ]
        made.notes.append(f"when it was published is assumed: {', '.join(days)}")


def _after(found: Found, span: str) -> timedelta:
    """How long after a period's end it is taken to be published."""
    told = found.answer("after_quarter" if span == "quarter" else "after_year", "60")
    days = int(told) if told.isascii() and told.isdigit() else 60
    return timedelta(days=min(days, 400))


def _published(found: Found) -> dict[int, date]:
    place = found.place_of("published_on")
    told = {}
    for at, _, period in found.periods if place is not None else ():
        cell = found.cell(place, at) if found.across else found.cell(at, place)  # type: ignore[arg-type]
        day = None if cell is None else date_of(cell, found.order)
        if day is not None and day >= period.end:
            told[at] = day
    return told


def _estimates(found: Found, made: Made, held: Held, columns: _Columns, today: date) -> None:
    """Columns of years to come, known from today as nothing says since when."""
    expected = columns.expected()
    if not expected:
        return
    count, aside = 0, set()
    unit = FACTOR[found.answer("unit", "1")]
    for name, by in held.items():
        a_share = _a_share_in(found, _own(found, name))
        for at in sorted(expected & set(by)):
            measure, period = ESTIMATED.get(name), columns.periods[at]
            if measure is None or period.span.value != "year":
                aside.add(name.replace("_", " "))
                continue
            count += 1
            year, value = fiscal_year_of(period.end), by[at]
            cells: dict[str, Told] = {
                **owner(columns.whose[at]),
                "fiscal_year": year,
                "measure": measure,
                "published_on": today,
                "mean": product(found.a_share(at, value), a_share)
                if measure in A_SHARE
                else product(value, unit),
            }
            made.add("estimates", cells, f"column of {year}, {name.replace('_', ' ')}")
    if count:
        made.notes.append("columns of years to come are estimates, counted as known from today")
    if aside:
        made.left_out.append("estimates of " + ", ".join(sorted(aside)))


def _a_share(found: Found, made: Made, held: Held, columns: _Columns, paid: frozenset[int]) -> None:
    """Dividends a share of whole years, where no payments of the year are stored."""
    by = held.get("dividends_per_share", {})
    known, taken, scale = [], 0, _a_share_in(found, _own(found, "dividends_per_share"))
    for at in sorted(by, key=lambda at: columns.periods[at].end):
        period, value = columns.periods[at], by[at]
        if period.span.value != "year" or value <= 0:
            continue
        year = fiscal_year_of(period.end)
        if period.end.year in paid:
            known.append(str(year))
            continue
        taken += 1
        amount = product(found.a_share(at, value), scale)
        cells = year_paid(columns.whose[at], period.end, amount, found.answer("currency"))
        made.add("dividends", cells, f"dividends a share of {year}")
    if known:
        made.left_out.append(
            f"dividends a share of {', '.join(known)}, as the payments of those years are stored"
        )
    if taken:
        made.notes.append(YEARLY)
    follow = ("free_cash_flow", "ffo_per_share", "affo_per_share")
    others = [n.replace("_", " ") for n in follow if held.get(n)]
    if others:
        made.left_out.append(f"{', '.join(others)}, which follow from other lines")


YEARLY = "what a year paid comes in as one payment on its last day, marked as assumed"


def year_paid(who: str, end: date, amount: float, currency: str) -> Mapping[str, Told]:
    """A year's dividends a share as one payment, whose day is assumed."""
    return {
        **owner(who),
        "ex_date": end,
        "amount": amount,
        "currency": currency,
        "payments_per_year": 1,
        "assumed": "ex_date",
    }
