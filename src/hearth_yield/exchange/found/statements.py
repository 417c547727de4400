"""Statements as they are found: signs, units, days of publication, and the estimates and dividends
a share that stand among them."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta

from hearth_yield.core.facts.statements import (
    OUTFLOW_LINES,
    RATIO_LINES,
    SHARE_LINES,
    STATEMENT_LINES,
    UNSCALED_LINES,
    fiscal_year_of,
)

from .dates import Period, date_of
from .made import Made, cell_name, column_name, owner, plain_number
from .numbers import is_nil
from .payers import Payers
from .settings import Answers, Setting
from .sheets import Cell
from .table import Found
from .units import FACTOR

ESTIMATED = {
    "diluted_eps": "eps",
    "ffo_per_share": "ffo",
    "affo_per_share": "affo",
    "dividends_per_share": "dps",
    "revenue": "revenue",
    "free_cash_flow": "fcf",
}
ASIDE = ("period_end", "published_on")
Held = dict[str, dict[tuple[str, Period], float]]
"""By line, and by payer and period."""


def ask_of_signs(found: Found, answers: Answers) -> None:
    """A cost or an outflow that is negative in some periods and positive in others is asked."""
    for line in found.lines:
        if line.target not in OUTFLOW_LINES:
            continue
        values = [v for p in _places(found, line.place) if (v := found.value(found.cell(*p)))]
        negative = sum(v < 0 for v in values)
        if 0 < negative < len(values):
            name = f"sign-{line.place}"
            options = [("out", "all of them went out"), ("skip", "leave the line out")]
            told = answers.own(found.id, name) or answers.kept.get(f"sign.{line.target}")
            found.settings.append(
                Setting(
                    id=f"{found.id}.{name}",
                    asks=f"“{line.heading}” is negative in {negative} of {len(values)} periods. "
                    "What are they?",
                    options=options,
                    answer=told if told in dict(options) else None,
                    asked=True,
                )
            )


def _places(found: Found, line: int) -> list[tuple[int, int]]:
    """The cells of a line, as row and column."""
    return [
        (line, at) if found.across else (at, line)
        for at, _, period in found.periods
        if not period.estimated
    ]


def statements(
    found: Found, made: Made, payers: Payers, today: date, paid: frozenset[int], answers: Answers
) -> None:
    """paid: the years for which payments are stored, so that a year's total must not come in
    beside them."""
    held = _values(found, made, payers)
    expected = {(who, p) for by in held.values() for who, p in by if p.estimated}
    _estimates(found, made, held, today)
    held = {n: {k: v for k, v in by.items() if k not in expected} for n, by in held.items()}
    _turn(found, made, held)
    _share_counts(found, made)
    _rows(found, made, held)
    _a_share(found, made, held, paid)


def _values(found: Found, made: Made, payers: Payers) -> Held:
    held: Held = {}
    whose = {at: _whose(found, at, payers) for at, _, _ in found.periods}
    for line in found.lines:
        if line.target is None or line.target in ASIDE:
            continue
        for place, _, period in found.periods:
            who = whose[place]
            if who is None:
                continue
            at = (line.place, place) if found.across else (place, line.place)
            cell = found.cell(*at)
            value = found.value(cell)
            if value is not None:
                held.setdefault(line.target, {})[who, period] = value
            elif _is_value(cell):
                made.wrong.append(f"{cell_name(*at)} holds “{cell}”, which is no number")
    strangers = sorted({_stranger(found, at) for at, who in whose.items() if who is None})
    if strangers:
        made.left_out.append("payers that are not stored: " + ", ".join(strangers[:20]))
    if not found.across:
        _no_periods(found, made)
    return held


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


def _no_periods(found: Found, made: Made) -> None:
    """Rows of figures that name no period: totals and the like."""
    column = found.place_of("period_end") or 0
    known = {at for at, _, _ in found.periods}
    for n in found.rows:
        cell = found.cell(n, column)
        if n in known or not _is_value(cell):
            continue
        if any(found.value(c) is not None for c in found.sheet.rows[n]):
            made.left_out.append(f"row {n + 1}: “{cell}” is no period")


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
        words = {"1": "single units", "thousand": "thousands", "million": "millions"}
        made.notes.append(f"share counts are read in {words[shares]}")


def _scaled(found: Found, name: str, value: float) -> str:
    """A value in the table's unit; ratios written as 55 are 0.55."""
    if name in RATIO_LINES and value > 1:
        value /= 100
    unit = FACTOR[found.answer("unit", "1")]
    own = next((x.unit for x in found.lines if x.target == name), None)
    if name in SHARE_LINES:
        value *= FACTOR[found.answer("shares") or "1"] / unit
    elif own and name not in UNSCALED_LINES:
        value *= FACTOR[own] / unit
    return plain_number(value)


def _rows(found: Found, made: Made, held: Held) -> None:
    published = _published(found)
    assumed = False
    places = {p: at for at, _, p in found.periods}
    keys = sorted({k for by in held.values() for k in by}, key=lambda k: (k[0], k[1].end))
    for who, period in keys:
        lines = {
            n: v for n in STATEMENT_LINES if (v := held.get(n, {}).get((who, period))) is not None
        }
        if not lines:
            continue
        on = published.get(period)
        row = {
            **owner(who),
            "period_end": period.end.isoformat(),
            "span": period.span.value,
            "published_on": on.isoformat() if on else _assumed(found, period).isoformat(),
            "currency": found.answer("currency"),
            "unit": found.answer("unit", "1"),
        }
        if on is None:
            row["assumed"], assumed = "published_on", True
        row |= {name: _scaled(found, name, v) for name, v in lines.items()}
        at = places[period]
        made.add(
            "statements", row, f"column {column_name(at)}" if found.across else f"row {at + 1}"
        )
    if assumed:
        days = [
            f"{after} days after a {span}’s end"
            for span in ("year", "quarter")
            if (after := found.answer(f"after_{span}"))
        ]
        made.notes.append(f"when it was published is assumed: {', '.join(days)}")


def _assumed(found: Found, period: Period) -> date:
    told = found.answer("after_quarter" if period.span.value == "quarter" else "after_year", "60")
    days = int(told) if told.isascii() and told.isdigit() else 60
    return period.end + timedelta(days=min(days, 400))


def _published(found: Found) -> dict[Period, date]:
    place = found.place_of("published_on")
    told = {}
    for at, _, period in found.periods if place is not None else ():
        cell = found.cell(place, at) if found.across else found.cell(at, place)  # type: ignore[arg-type]
        day = None if cell is None else date_of(cell, found.order)
        if day is not None and day >= period.end:
            told[period] = day
    return told


def _estimates(found: Found, made: Made, held: Held, today: date) -> None:
    """Columns of years to come, known from today as nothing says since when."""
    count, aside = 0, set()
    unit = FACTOR[found.answer("unit", "1")]
    for name, by in held.items():
        for (who, period), value in by.items():
            if not period.estimated:
                continue
            measure = ESTIMATED.get(name)
            if measure is None or period.span.value != "year":
                aside.add(name.replace("_", " "))
                continue
            count += 1
            made.add(
                "estimates",
                {
                    **owner(who),
                    "fiscal_year": str(fiscal_year_of(period.end)),
                    "measure": measure,
                    "published_on": today.isoformat(),
                    "mean": plain_number(value * unit if measure in ("revenue", "fcf") else value),
                },
                f"column of {fiscal_year_of(period.end)}, {name.replace('_', ' ')}",
            )
    if count:
        made.notes.append("columns of years to come are estimates, counted as known from today")
    if aside:
        made.left_out.append("estimates of " + ", ".join(sorted(aside)))


def _a_share(found: Found, made: Made, held: Held, paid: frozenset[int]) -> None:
    """Dividends a share of whole years, where no payments of the year are stored."""
    by = held.get("dividends_per_share", {})
    known, taken = [], 0
    for (who, period), value in sorted(by.items(), key=lambda x: x[0][1].end):
        if period.span.value != "year" or value <= 0:
            continue
        if period.end.year in paid:
            known.append(str(fiscal_year_of(period.end)))
            continue
        taken += 1
        cells = year_paid(who, period.end, value, found.answer("currency"))
        made.add("dividends", cells, f"dividends a share of {fiscal_year_of(period.end)}")
    if known:
        made.left_out.append(
            f"dividends a share of {', '.join(known)}, as the payments of those years are stored"
        )
    if taken:
        made.notes.append(YEARLY)
    others = [
        n.replace("_", " ")
        for n in ("free_cash_flow", "ffo_per_share", "affo_per_share")
        if held.get(n)
    ]
    if others:
        made.left_out.append(f"{', '.join(others)}, which follow from other lines")


YEARLY = "what a year paid comes in as one payment on its last day, marked as assumed"


def year_paid(who: str, end: date, amount: float, currency: str) -> Mapping[str, str]:
    """A year's dividends a share as one payment, whose day is assumed."""
    return {
        **owner(who),
        "ex_date": end.isoformat(),
        "amount": plain_number(amount),
        "currency": currency,
        "payments_per_year": "1",
        "assumed": "ex_date",
    }
