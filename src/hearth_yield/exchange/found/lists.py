"""Lists as they are found: a row for each dividend, price, year, estimate, point or payer."""

from __future__ import annotations

import calendar
import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from datetime import date, timedelta
from itertools import compress
from operator import itemgetter
from typing import Any

from hearth_yield.core.facts.isin import is_isin
from hearth_yield.core.facts.statements import fiscal_year_of
from hearth_yield.exchange.cells import Cell as Told
from hearth_yield.exchange.exact import product
from hearth_yield.rows import Rows

from .dates import date_of, numbered_day, period_of
from .headings import measure_of, plain
from .made import Made, cell_name, owner
from .months import grid_of, year_of
from .numbers import bare, is_nil, is_small
from .patience import tick
from .payers import Known, Payers
from .settings import Answers
from .sheets import Cell
from .statements import A_SHARE, YEARLY, year_paid
from .strangers import Key, keys_of, told_by
from .table import Found
from .units import FACTOR, currency_code

SPECIAL = ("special", "extra", "sonder", "exceptionnel", "extraordin", "straordinar")
RETURNED = ("return of capital", "kapitalrück", "remboursement")
KIND_WORDS = (
    ("other", ("fund", "etf", "bond", "fonds", "anleihe", "obligation", "fondo")),
    ("property_trust", ("trust", "reit", "property", "immobilien", "foncière")),
    ("partnership", ("partnership", "mlp", "limited partner")),
    ("financial", ("bank", "insur", "financ", "versicher", "assurance")),
)
MOST_FRACTION = 0.3
"""A yield above it is told in per cent."""
KNOWN_AFTER = timedelta(days=10)
"""A price index is taken to be published so long after its day where nothing says when."""


def prices(found: Found, made: Made, payers: Payers) -> None:
    columns = _columns(found)
    place = columns.get("close", columns.get("adjusted_close", -1))
    day, marks = columns.get("day", -1), "currency" in columns or bool(found.receipts)
    others: Sequence[int] = found.rows
    if not marks and found.lie == "down" and min(day, place) >= 0:
        others = _plain_prices(found, columns, place, payers, made)
    _price(found, made, columns, place, payers, others)
    if any("split" in plain(x.heading) for x in found.lines):
        made.notes.append(
            "a column of splits stands beside the closes; if they are adjusted for splits, yields "
            "of the past come out too high"
        )
    if "close" not in columns:
        made.notes.append("adjusted closes are read as closes, as you said")


def _price(
    found: Found,
    made: Made,
    columns: Mapping[str, int],
    place: int,
    payers: Payers,
    rows: Sequence[int],
) -> None:
    """The closes of some rows of a list, and whatever is said of them."""
    scale, volumes = float(found.answer("per_share", "1")), columns.get("volume", -1)
    for n, on, value, who in _dated(found, made, payers, columns.get("day", -1), place, rows):
        _, part = _currency_at(found, n, columns, "", place)
        if value == 0:
            made.leave(f"row {n + 1}: a close of 0")
            continue
        price = product(found.a_share(n, value), min(scale, part))
        row: dict[str, Told] = {**owner(who.key), "day": on, "close": price}
        volume = _volume(found.value(found.cell(n, volumes)))
        if volume is not None:
            row["volume"] = volume
        made.add("prices", row, n)


def _plain_prices(
    found: Found, columns: Mapping[str, int], place: int, payers: Payers, made: Made
) -> Sequence[int]:
    """Takes the closes with nothing unusual about them, column by column: what each of the cells
    says is found once, as long lists say the same again and again. Returns the other rows."""
    day, volumes = columns["day"], columns.get("volume", -1)
    sheet, rows, scale = found.sheet, found.rows, float(found.answer("per_share", "1"))
    days, amounts = sheet.column(day, rows), sheet.column(place, rows)
    on = {c: known for c in _each_once(days) if (known := date_of(c, found.order))}
    closes = {c: product(v, scale) for c in _each_once(amounts) if (v := found.value(c))}
    sound = [c in on and a in closes for c, a in zip(days, amounts, strict=True)]
    keys, whose = _keyed(found, payers, made)
    whom = {k: who for k in dict.fromkeys(compress(keys, sound)) if (who := whose(k))}
    held: dict[str, list[Any]] = {
        "exchange": list(map({k: w.exchange for k, w in whom.items()}.get, keys)),
        "symbol": list(map({k: w.symbol for k, w in whom.items()}.get, keys)),
        "day": list(map(on.get, days)),
        "close": list(map(closes.get, amounts)),
    }
    if volumes >= 0:
        told = sheet.column(volumes, rows)
        counts = {c: _volume(found.value(c)) for c in _each_once(told)}
        if any(v is not None for v in counts.values()):
            held["volume"] = [counts.get(c) for c in told]
    others: list[int] = []
    taken: Sequence[int] = rows
    if not all(sound) or None in held["symbol"]:
        sound = [s and k in whom for s, k in zip(sound, keys, strict=True)]
        taken = list(compress(rows, sound))
        others = [n for n, s in zip(rows, sound, strict=True) if not s]
        held = {name: list(compress(column, sound)) for name, column in held.items()}
    if taken:
        made.add_many("prices", Rows(list(held), list(held.values())), taken)
    return others


def _each_once(cells: Sequence[Cell]) -> Iterator[Cell]:
    """Cells that hold something, looking at the time that they take."""
    for n, cell in enumerate(dict.fromkeys(cells)):
        if n % 512 == 0:
            tick()
        if cell is not None:
            yield cell


def _volume(value: float | None) -> float | None:
    return value if value is not None and value >= 0 else None


def wide_prices(found: Found, made: Made, payers: Payers) -> None:
    """A column of closes for each payer."""
    named = {x.place: payers.named(x.heading) for x in found.lines[1:]}
    strangers = [x.heading for x in found.lines[1:] if named[x.place] is None]
    scale = float(found.answer("per_share", "1"))
    for n in found.rows:
        cell = found.cell(n, 0)
        on = None if cell is None else date_of(cell, found.order)
        if on is None:
            _passed(made, found, n, 0, -1, None, cell, None)
            continue
        for place, who in named.items():
            held = found.cell(n, place)
            value = found.value(held)
            if who is None or held is None or (isinstance(held, str) and is_nil(held)):
                continue
            if value is None:
                made.refuse(f"{cell_name(n, place)} holds “{held}”, which is no number")
                continue
            if value == 0:
                made.leave(f"cell {cell_name(n, place)}: a close of 0")
                continue
            price = product(found.a_share(n, value), scale)
            made.add("prices", {**owner(who.key), "day": on, "close": price}, (n, place))
    if strangers:
        made.left_out.append("payers that are not stored: " + ", ".join(strangers[:20]))


def dividends(found: Found, made: Made, payers: Payers) -> None:
    columns = _columns(found)
    if "day" in columns:
        columns.setdefault(found.answer("day", "ex_date"), columns["day"])
    if "ex_date" not in columns:
        columns["ex_date"] = columns.get("pay_date", -1)
        if found.lie != "months":
            made.notes.append("no ex-date is told: the pay date stands for it")
    scale = float(found.answer("per_share", "1"))
    amounts = columns.get("amount", -1)
    for n, on, value, who in _dated(found, made, payers, columns["ex_date"], amounts):
        otherwise = found.answer("currency") or who.currency
        currency, part = _currency_at(found, n, columns, otherwise, amounts)
        row: dict[str, Told] = {
            **owner(who.key),
            "ex_date": on,
            "amount": product(found.a_share(n, value), min(scale, part)),
            "currency": currency,
        }
        for name in ("declared_on", "pay_date"):
            cell = found.cell(n, columns[name]) if name in columns else None
            told = None if cell is None else date_of(cell, found.order)
            if told is not None:
                row[name] = told
        if found.lie == "months" and value == 0:
            continue
        row["kind"] = _dividend_kind(str(found.cell(n, columns.get("kind", -1)) or ""))
        made.add("dividends", row, n)


def _currency_at(
    found: Found, n: int, columns: Mapping[str, int], otherwise: str, amount: int
) -> tuple[str, float]:
    """In which currency a row is, where a column says so, and what its amount is to be times: a
    hundredth of it where neither headings nor the cell say that they are in pence."""
    if "currency" not in columns:
        return otherwise, 1.0
    currency, part = currency_code(found.cell(n, columns["currency"])) or (otherwise, 1.0)
    cell = found.cell(n, amount)
    return currency, 1.0 if isinstance(cell, str) and is_small(cell) else part


def _dividend_kind(told: str) -> str:
    folded = told.casefold()
    if any(w in folded for w in RETURNED):
        return "return_of_capital"
    return "special" if any(w in folded for w in SPECIAL) else "regular"


def yearly(found: Found, made: Made, payers: Payers, paid: frozenset[int]) -> None:
    """What each year paid a share. paid: years whose payments are stored."""
    columns = _columns(found)
    scale = float(found.answer("per_share", "1"))
    whose = _whose(found, payers, made)
    for n in found.rows:
        cell, amount = found.cell(n, columns.get("year", -1)), found.cell(n, columns["amount"])
        if cell is None and amount is None:
            continue
        who = whose(n)
        period = (
            None if cell is None else period_of(cell, found.order, who.year_ends if who else 12)
        )
        value = found.value(amount)
        if period is None or value is None:
            on = period.end if period else None
            _passed(made, found, n, columns.get("year", -1), columns["amount"], on, cell, amount)
            continue
        if who is None:
            continue
        if period.dated and (months := found.answer("months")):
            paid_then = product(found.a_share(n, value), scale)
            if months == "leave":
                made.left_out.append(f"row {n + 1}: “{cell}”, which is no year")
            elif value > 0:
                row: dict[str, Told] = {
                    **owner(who.key),
                    "ex_date": period.end,
                    "amount": paid_then,
                    "currency": found.answer("currency") or who.currency,
                }
                made.add("dividends", row, n)
            continue
        if period.end.year in paid:
            made.left_out.append(f"row {n + 1}: “{cell}”, whose payments are stored")
            continue
        if period.estimated or value <= 0:
            made.left_out.append(f"row {n + 1}: “{cell}”, which is not paid")
            continue
        end = period.end
        if period.dated:
            end = date(end.year, end.month, calendar.monthrange(end.year, end.month)[1])
        currency = found.answer("currency") or who.currency
        paid_a_share = product(found.a_share(n, value), scale)
        made.add("dividends", year_paid(who.key, end, paid_a_share, currency), n)
    if "assumed" in made.columns:
        made.notes.append(YEARLY)


def estimates(found: Found, made: Made, payers: Payers, today: date) -> None:
    columns = _columns(found)
    scales = dict.fromkeys(A_SHARE, float(found.answer("per_share", "1")))
    unit = FACTOR[found.answer("unit", "1")]
    whose = _whose(found, payers, made)
    for n in found.rows:
        cell = found.cell(n, columns.get("fiscal_year", -1))
        year = _year_in(cell, found)
        mean = found.value(found.cell(n, columns.get("mean", -1)))
        if year is None or mean is None:
            if cell is not None:
                made.leave(f"row {n + 1}: “{cell}”")
            continue
        who = whose(n)
        told = str(found.cell(n, columns.get("measure", -1)) or "").casefold()
        measure = found.answer("measure") or measure_of(told)
        if who is None or measure is None:
            if who is not None:
                made.left_out.append(f"row {n + 1}: “{told}”, which is no measure of an estimate")
            continue
        on = (
            date_of(found.cell(n, columns["published_on"]) or "", found.order)
            if ("published_on" in columns)
            else None
        )
        row: dict[str, Told] = {
            **owner(who.key),
            "fiscal_year": year,
            "measure": measure,
            "published_on": on or today,
            "mean": product(mean, scales.get(measure, unit)),
        }
        for name in ("low", "high", "analysts"):
            value = found.value(found.cell(n, columns[name])) if name in columns else None
            if value is not None:
                factor = 1.0 if name == "analysts" else scales.get(measure, unit)
                row[name] = product(value, factor)
        made.add("estimates", row, n)
    if "published_on" not in columns and made.counts:
        made.notes.append("estimates count as known from today, as nothing says since when")


def _year_in(cell: Cell, found: Found) -> int | None:
    """The fiscal year that a cell names: 2027, "12/2027", "FY27"."""
    text = f"{cell:.0f}" if isinstance(cell, float) else str(cell or "")
    told = re.search(r"(?<!\d)((?:19|20|21)\d\d)(?!\d)", text)
    if told:
        return int(told[1])
    period = period_of(cell, found.order, found.year_ends) if isinstance(cell, str) else None
    return fiscal_year_of(period.end) if period else None


def series(found: Found, made: Made, answers: Answers) -> None:
    """A price index month by month, or another series."""
    kind = found.answer("series_kind", "price_index")
    columns = _columns(found)
    name = answers.own(found.id, "series") or found.sheet.name
    code = "".join(c if c.isalnum() else "-" for c in name.upper())[:30]
    day, number = columns.get("day", -1), columns.get("value", -1)
    after = KNOWN_AFTER if kind == "price_index" else timedelta(0)
    points = list(_points(found, made, day, number))
    per_cent = kind.endswith("_yield") and any(abs(v) > MOST_FRACTION for _, _, v in points)
    scale = 0.01 if per_cent else 1.0
    for n, on, value in points:
        cells: dict[str, Told] = {
            "code": code,
            "kind": kind,
            "name": name,
            "currency": found.answer("currency"),
            "day": on,
            "published_on": on + after,
            "value": product(value, scale),
        }
        made.add("series", cells, n)
    if made.counts and after:
        made.notes.append("when it was published is assumed: 10 days after each day")
    if per_cent:
        made.notes.append("its yields are read as per cent")


def payer_list(found: Found, made: Made, payers: Payers, today: date) -> None:
    """A list of payers; sector and industry become notes of today. Those that are held, under
    another exchange or symbol, stay as they are."""
    columns = _columns(found)
    text = found.text
    held, twins = [], dict(found.twins(payers)) if found.answer("twins") == "same" else {}
    for n in found.rows:
        symbol, name = text(n, "symbol"), text(n, "name")
        if not (symbol and name):
            continue
        exchange = text(n, "exchange") or found.answer("exchange")
        told = text(n, "kind")
        isin = text(n, "isin").upper()
        if isin and not is_isin(isin):
            made.leave(f"row {n + 1}: “{isin}”, which is no ISIN")
            isin = ""
        if n in twins:
            exchange, symbol = twins[n].exchange, twins[n].symbol
            held.append(twins[n].name)
        cells = {
            "exchange": exchange,
            "symbol": symbol,
            "name": name,
            "isin": isin,
            "kind": kind_of(told) if told else found.answer("payer_kind", "company"),
            "country": text(n, "country") or found.answer("country"),
            "currency": text(n, "currency").upper() or found.answer("currency"),
            "fiscal_year_end_month": text(n, "fiscal_year_end_month") or "12",
        }
        if n not in twins:
            made.add("payers", cells, n)
        for field in ("sector", "industry"):
            if text(n, field):
                note = {
                    "exchange": exchange,
                    "symbol": symbol,
                    "field": field,
                    "published_on": today,
                    "value": text(n, field),
                }
                made.add("payer_notes", note, n)
    if held:
        made.notes.append(f"held already, and left as they are: {', '.join(held[:20])}")
    if made.counts and "fiscal_year_end_month" not in columns:
        made.notes.append("fiscal years are taken to end with December")


def kind_of(told: str) -> str:
    folded = told.casefold()
    for kind, words in KIND_WORDS:
        if kind == folded.replace(" ", "_") or any(w in folded for w in words):
            return kind
    return "company"


def _columns(found: Found) -> dict[str, int]:
    return {x.target: x.place for x in found.lines if x.target}


def _dated(
    found: Found,
    made: Made,
    payers: Payers,
    day: int,
    number: int,
    rows: Sequence[int] | None = None,
) -> Iterator[tuple[int, date, float, Known]]:
    """The rows that have a day, a number and a payer; what else stands there is said."""
    whose = _whose(found, payers, made)
    for n, on, value in _points(found, made, day, number, rows):
        who = whose(n)
        if who is not None:
            yield n, on, value, who


def _points(
    found: Found, made: Made, day: int, number: int, rows: Sequence[int] | None = None
) -> Iterator[tuple[int, date, float]]:
    """The rows that have a day and a number; of a table of months, its cells. What else stands
    there is said. rows: only some of them."""
    if found.lie == "months":
        yield from _months(found, made)
        return
    held, order, last, value_of = found.sheet.rows, found.order, max(day, number), found.reader()
    for n in found.rows if rows is None else rows:
        if n % 512 == 0:
            tick()
        row = held[n]
        whole = len(row) > last and day >= 0 and number >= 0
        cell = row[day] if whole else found.cell(n, day)
        amount = row[number] if whole else found.cell(n, number)
        if cell is None and amount is None:
            continue
        on = None if cell is None else date_of(cell, order)
        if on is None and found.year_at is not None:
            on = found.day(n, day)
        if on is None and found.numbered:
            on = numbered_day(cell, found.numbered)
        value = value_of(amount)
        if on is None or value is None:
            _passed(made, found, n, day, number, on, cell, amount)
        else:
            yield n, on, value


def _months(found: Found, made: Made) -> Iterator[tuple[int, date, float]]:
    """The months of a table of years by months that hold a value."""
    for row, column, end in sorted(grid_of(found.sheet, found.head, found.rows), key=itemgetter(2)):
        held = found.cell(row, column)
        value = found.value(held)
        if value is not None:
            yield row, end, value
        elif held is not None and not (isinstance(held, str) and is_nil(held)):
            made.refuse(f"{cell_name(row, column)} holds “{held}”, which is no number")


def _passed(
    made: Made,
    found: Found,
    n: int,
    day: int,
    number: int,
    on: date | None,
    cell: Cell,
    amount: Cell,
) -> None:
    """A row that is none of the list: a total or a note is left out, a broken value is wrong."""
    if on is not None and amount is not None and not (isinstance(amount, str) and is_nil(amount)):
        made.refuse(f"{cell_name(n, number)} holds “{amount}”, which is no number")
    elif on is None and year_of(cell):
        made.leave(f"row {n + 1}: “{year_of(cell)}”, a year among days")
    elif on is None and isinstance(cell, str) and bare(cell.replace("/", "").replace("-", "")):
        made.refuse(f"{cell_name(n, day)} holds “{cell}”, which is no date")
    elif cell is not None and found.sheet.rows[n]:
        made.leave(f"row {n + 1}: “{cell}”")


def _whose(found: Found, payers: Payers, made: Made) -> Callable[[int], Known | None]:
    """Whose a row is; a payer that is not stored is said once."""
    keys, whose = _keyed(found, payers, made)
    first = found.rows.start
    return lambda n: whose(keys[n - first])


def _keyed(
    found: Found, payers: Payers, made: Made
) -> tuple[Sequence[Key], Callable[[Key], Known | None]]:
    """What names the payer of each row, and who that is."""
    if found.payer or not found.columns_of:
        only = payers.of(found.payer)
        return [None] * len(found.rows), lambda _: only
    known: dict[Key, Known | None] = {}
    told_at = told_by(found)

    def whose(key: Key) -> Known | None:
        if key not in known:
            told = told_at(key)
            known[key] = who = payers.told(*told)
            words = f"payer that is not stored: {told[0] or told[2] or '?'}"
            if who is None and words not in made.left_out and len(made.left_out) < 200:
                made.left_out.append(words)
        return known[key]

    return keys_of(found), whose
