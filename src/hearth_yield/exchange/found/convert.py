"""Rows of the product's own tables, made of what was understood: then they pass every check of an
import. What was turned, assumed or left out is said."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta

from .dates import Period, date_of, period_of
from .numbers import bare, is_nil, number_of
from .sheets import Cell
from .understand import Found, Known, named_in

OUTFLOWS = (
    "capital_expenditure",
    "maintenance_capex",
    "recurring_capex",
    "dividends_paid",
    "preferred_dividends",
    "buybacks",
    "interest_expense",
    "cost_of_revenue",
    "operating_expenses",
    "depreciation_amortization",
)
"""Lines that are costs or go out: held as positive amounts, and often written as negative ones."""
PUBLISHED_AFTER = {"year": 60, "half": 60, "quarter": 45}
"""Days after a period's end on which it is taken to be published where nothing says when."""
SPECIAL = ("special", "extra", "sonder", "exceptionnel", "extraordin", "straordinar")


@dataclass(slots=True, kw_only=True)
class Converted:
    """rows of one of the product's tables. notes: what was turned or assumed; left_out: what of the
    sheet is not in it, each with why; wrong: cells that are no value."""

    table: str
    rows: list[dict[str, str]] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    left_out: list[str] = field(default_factory=list)
    wrong: list[str] = field(default_factory=list)


def convert(found: Found, payers: Sequence[Known], answers: Mapping[str, str]) -> Converted:
    """What a table gives, once nothing is left to ask of it."""
    made = Converted(table=found.kind)
    match found.kind:
        case "statements":
            _statements(found, made)
        case "series":
            _series(found, made, answers)
        case _:
            _list(found, made, payers)
    lost = [x.heading for x in found.lines if x.target is None and not _names(found, x.place)]
    if lost:
        made.left_out.append("not understood: " + ", ".join(lost[:40]))
    liked = [f"{x.heading} as {x.target}" for x in found.lines if x.target and not x.sure]
    if liked:
        made.notes.append("taken by likeness: " + ", ".join(x.replace("_", " ") for x in liked))
    return made


def _names(found: Found, place: int) -> bool:
    return place in found.columns_of.values()


def as_csv(rows: Sequence[Mapping[str, str]]) -> bytes:
    """Rows as a file of the product's own: dates as ISO text, plain numbers."""
    names = list(dict.fromkeys(name for row in rows for name in row))
    out = io.StringIO()
    writer = csv.DictWriter(out, names, restval="")
    writer.writeheader()
    writer.writerows(rows)
    return out.getvalue().encode()


def _key(payer: str) -> dict[str, str]:
    exchange, _, symbol = payer.partition("/")
    return {"exchange": exchange, "symbol": symbol}


def _value(found: Found, cell: Cell) -> float | None:
    """A cell as a number; None where it holds none."""
    if isinstance(cell, float):
        return cell
    return number_of(cell, found.style) if isinstance(cell, str) else None


def _is_value(cell: Cell) -> bool:
    """Whether something stands there that ought to be one."""
    return cell is not None and not (isinstance(cell, str) and is_nil(cell))


def _plain(value: float) -> str:
    text = f"{value:.10f}".rstrip("0").rstrip(".")
    return "0" if text in ("", "-0") else text


def _cell(found: Found, row: int, column: int) -> Cell:
    held = found.sheet.rows[row]
    return held[column] if column < len(held) else None


def _place(row: int, column: int) -> str:
    """A cell as a spreadsheet names it: B7."""
    letters, n = "", column
    while n >= 0:
        letters, n = chr(65 + n % 26) + letters, n // 26 - 1
    return f"{letters}{row + 1}"


def _statements(found: Found, made: Converted) -> None:
    periods = found.periods if found.across else _periods_down(found, made)
    held: dict[str, dict[Period, float]] = {}
    for line in found.lines:
        if line.target is None or line.target in ("period_end", "published_on"):
            continue
        for place, _, period in periods:
            if period.estimated:
                continue
            at = (line.place, place) if found.across else (place, line.place)
            cell = _cell(found, *at)
            value = _value(found, cell)
            if value is not None:
                held.setdefault(line.target, {})[period] = value
            elif _is_value(cell):
                made.wrong.append(f"{_place(*at)} holds “{cell}”, which is no number")
    expected = [label for _, label, period in periods if period.estimated]
    if expected:
        made.left_out.append("estimates, not reported: " + ", ".join(expected))
    _turn(made, held)
    published = _published(found, periods)
    assumed = False
    for _, _, period in periods:
        lines = {name: by[period] for name, by in held.items() if period in by}
        if not lines or period.estimated:
            continue
        on = published.get(period)
        if on is None:
            after = timedelta(days=PUBLISHED_AFTER[period.span.value])
            on, assumed = period.end + after, True
        made.rows.append(
            {
                **_key(found.payer or ""),
                "period_end": period.end.isoformat(),
                "span": period.span.value,
                "published_on": on.isoformat(),
                "currency": found.currency or "",
                "unit": found.unit or "1",
                **{name: _plain(v) for name, v in _scaled(found, lines).items()},
            }
        )
    if assumed:
        made.notes.append(
            "when they were published is assumed: 60 days after a year’s end, 45 after a quarter’s"
        )


def _scaled(found: Found, lines: Mapping[str, float]) -> dict[str, float]:
    """Share counts are read in the table's unit as money is; ratios written as 55 are 0.55."""
    return {
        name: value / 100 if name in ("occupancy", "capital_ratio") and value > 1 else value
        for name, value in lines.items()
    }


def _periods_down(found: Found, made: Converted) -> list[tuple[int, str, Period]]:
    """The row of each period of a list."""
    column = next((x.place for x in found.lines if x.target == "period_end"), None)
    periods: list[tuple[int, str, Period]] = []
    if column is None:
        return periods
    for n in found.rows:
        cell = _cell(found, n, column)
        period = None if cell is None else period_of(cell, found.order, found.year_ends)
        if period is not None:
            periods.append((n, str(cell), period))
        elif _is_value(cell) and any(_value(found, c) is not None for c in found.sheet.rows[n]):
            made.left_out.append(f"row {n + 1}: “{cell}” is no period")
    return periods


def _published(found: Found, periods: Sequence[tuple[int, str, Period]]) -> dict[Period, date]:
    line = next((x for x in found.lines if x.target == "published_on"), None)
    if line is None:
        return {}
    told = {}
    for place, _, period in periods:
        at = (line.place, place) if found.across else (place, line.place)
        cell = _cell(found, *at)
        day = None if cell is None else date_of(cell, found.order)
        if day is not None:
            told[period] = day
    return told


def _turn(made: Converted, held: dict[str, dict[Period, float]]) -> None:
    """Outflows written as negatives are amounts that went out; mixed ones are not for us to say."""
    turned = []
    for name in OUTFLOWS:
        values = [v for v in held.get(name, {}).values() if v]
        if not values:
            continue
        negative = sum(v < 0 for v in values)
        if negative == len(values):
            held[name] = {p: -v for p, v in held[name].items()}
            turned.append(name.replace("_", " "))
        elif negative:
            made.wrong.append(
                f"{name.replace('_', ' ')} is negative in {negative} of {len(values)} periods: "
                "correct the sign of those, or leave the line out"
            )
    if turned:
        made.notes.append("written as negative, and turned: " + ", ".join(turned))


def _list(found: Found, made: Converted, payers: Sequence[Known]) -> None:
    """Prices and dividends, a row each."""
    columns = {x.target: x.place for x in found.lines if x.target}
    day = "day" if found.kind == "prices" else "ex_date"
    if day not in columns and "pay_date" in columns:
        columns[day] = columns["pay_date"]
        made.notes.append("no ex-date is told: the pay date stands for it")
    number = "close" if found.kind == "prices" else "amount"
    unknown: set[str] = set()
    for n in found.rows:
        cell, amount = _cell(found, n, columns[day]), _cell(found, n, columns[number])
        if cell is None and amount is None:
            continue
        on = None if cell is None else date_of(cell, found.order)
        value = _value(found, amount)
        if on is None or value is None:
            _passed(made, n, columns, found, on, cell, amount)
            continue
        who = _payer_of(found, n, payers, unknown)
        if who is None:
            continue
        row = {**_key(who), day: on.isoformat(), number: _plain(value)}
        row |= _more(found, n, columns, payers, who)
        made.rows.append(row)
    if unknown:
        made.left_out.append("payers that are not held: " + ", ".join(sorted(unknown)[:20]))


def _passed(
    made: Converted,
    n: int,
    columns: Mapping[str, int],
    found: Found,
    on: date | None,
    cell: Cell,
    amount: Cell,
) -> None:
    """A row that is none of the list: a total or a note is left out, a broken value is wrong."""
    if on is not None and _is_value(amount):
        where = _place(n, columns["close" if found.kind == "prices" else "amount"])
        made.wrong.append(f"{where} holds “{amount}”, which is no number")
    elif on is None and isinstance(cell, str) and bare(cell.replace("/", "").replace("-", "")):
        made.wrong.append(f"row {n + 1}: “{cell}” is no date")
    elif cell is not None:
        made.left_out.append(f"row {n + 1}: “{cell}”")


def _payer_of(found: Found, n: int, payers: Sequence[Known], unknown: set[str]) -> str | None:
    """Whose the row is."""
    if not found.columns_of:
        return found.payer
    told = {name: str(_cell(found, n, at) or "") for name, at in found.columns_of.items()}
    fits = [
        p
        for p in payers
        if ("symbol" not in told or p.symbol == told["symbol"])
        and ("exchange" not in told or p.exchange == told["exchange"])
        and ("name" not in told or "symbol" in told or named_in(told["name"], [p]))
    ]
    if len(fits) == 1:
        return fits[0].key
    unknown.add(told.get("symbol") or told.get("name") or "?")
    return None


def _more(
    found: Found, n: int, columns: Mapping[str, int], payers: Sequence[Known], who: str
) -> dict[str, str]:
    """What else a row says."""
    row: dict[str, str] = {}
    if found.kind == "prices":
        volume = _value(found, _cell(found, n, columns["volume"])) if "volume" in columns else None
        return {"volume": _plain(volume)} if volume is not None else {}
    own = next((p.currency for p in payers if p.key == who), "")
    row["currency"] = found.currency or own
    for name in ("declared_on", "pay_date"):
        cell = _cell(found, n, columns[name]) if name in columns else None
        on = None if cell is None else date_of(cell, found.order)
        if on is not None:
            row[name] = on.isoformat()
    if "kind" in columns:
        told = str(_cell(found, n, columns["kind"]) or "").casefold()
        row["kind"] = "special" if any(w in told for w in SPECIAL) else "regular"
    return row


def _series(found: Found, made: Converted, answers: Mapping[str, str]) -> None:
    """A price index, month by month, known ten days after the month's end where nothing says
    when."""
    columns = {x.target: x.place for x in found.lines if x.target}
    name = answers.get(f"{found.id}.series") or found.sheet.name
    code = "".join(c if c.isalnum() else "-" for c in name.upper())[:30]
    for n in found.rows:
        cell = _cell(found, n, columns["day"])
        on = None if cell is None else date_of(cell, found.order)
        value = _value(found, _cell(found, n, columns["value"]))
        if on is None or value is None:
            continue
        made.rows.append(
            {
                "code": code,
                "kind": "price_index",
                "name": name,
                "currency": found.currency or "",
                "day": on.isoformat(),
                "published_on": (on + timedelta(days=10)).isoformat(),
                "value": _plain(value),
            }
        )
    if made.rows:
        made.notes.append("when it was published is assumed: 10 days after each day")
