"""What a sheet holds: its tables, which way they lie, what each heading means, and what has to be
asked before it can be read."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field

from rapidfuzz import fuzz

from .dates import Order, Period, date_of, order_of, period_of
from .headings import Meant, meaning, plain, synonyms
from .numbers import Style, bare, number_of, style_of
from .sheets import Cell, Sheet

ESSENTIAL = {
    "prices": ({"day", "close"},),
    "dividends": ({"ex_date", "amount"}, {"pay_date", "amount"}),
    "statements": ({"period_end", "revenue"}, {"period_end", "net_income"}, {"period_end", "cash"}),
    "series": ({"day", "value"},),
}
"""What a list must have to be of a kind; dividends before prices, as both have dates."""
KINDS = ("dividends", "statements", "prices", "series")
LEAST_LINES = 2
"""So many lines of a statement make one."""
LIKE_A_NAME = 90.0
UNITS = (
    (
        re.compile(r"\b(?:millions?|mio|mill|mln|millionen|millones|milioni|miljoen|m)\b\.?", re.I),
        "million",
    ),
    (
        re.compile(
            r"\b(?:thousands?|tsd|tausend|miles|migliaia|duizend|milliers|k|t[A-Z]{3})\b|000s?\b",
            re.I,
        ),
        "thousand",
    ),
)
_UNIT_AT = re.compile(r"(?:\bin\b|\ben\b|\(|,|:)\s*[^()\n]*|^[^()\n]{0,40}$", re.IGNORECASE)
_CODE = re.compile(r"\b([A-Z]{3})\b")


@dataclass(frozen=True, slots=True)
class Known:
    """A payer that is held."""

    exchange: str
    symbol: str
    name: str
    currency: str
    year_ends: int

    @property
    def key(self) -> str:
        return f"{self.exchange}/{self.symbol}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """Something that the sheet does not say. options: values and how each is told; none: a text is
    asked for. answer: what was chosen, or what is most likely and need only be looked at."""

    id: str
    asks: str
    options: Sequence[tuple[str, str]] = ()
    answer: str | None = None

    @property
    def open(self) -> bool:
        return self.answer is None


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A column of a list, or a line of a statement. place: its column or row in the sheet, from 0.
    target: the column it fills; None: it is left out. sure: by its very words."""

    place: int
    heading: str
    target: str | None
    sure: bool = True


@dataclass(slots=True, kw_only=True)
class Found:
    """One table of a sheet. across: periods lie across, lines down. head: the row of its headings;
    rows: those beneath. periods: columns that are one."""

    id: str
    sheet: Sheet
    kind: str
    across: bool
    head: int
    rows: range
    lines: list[Line]
    style: Style
    order: Order
    periods: list[tuple[int, str, Period]] = field(default_factory=list)
    unit: str | None = None
    currency: str | None = None
    payer: str | None = None
    year_ends: int = 12
    columns_of: Mapping[str, int] = field(default_factory=dict)
    """Columns that name the payer row by row."""
    questions: list[Question] = field(default_factory=list)

    @property
    def ready(self) -> bool:
        return not any(q.open for q in self.questions)


def understand(
    sheets: Sequence[Sheet], payers: Sequence[Known], answers: Mapping[str, str]
) -> list[Found]:
    """The tables of all sheets that can be read, each with what has still to be answered."""
    found: list[Found] = []
    for sheet in sheets:
        if sheet.hidden:
            continue
        texts = [c for row in sheet.rows for c in row if isinstance(c, str)]
        order = _order(texts, answers)
        for head, rows in _tables(sheet, order):
            table = _read(sheet, head, rows, order, payers, answers, str(len(found)))
            if table is not None:
                found.append(table)
    return found


def _order(texts: Sequence[str], answers: Mapping[str, str]) -> Order:
    order = order_of(texts)
    told = answers.get("dates")
    return Order(day_first=told == "day") if told in ("day", "month") else order


def _tables(sheet: Sheet, order: Order) -> Iterator[tuple[int, range]]:
    """Rows of headings, each with the rows down to the next one."""
    heads = [n for n, row in enumerate(sheet.rows) if _is_head(sheet, n, row, order)]
    for n, head in enumerate(heads):
        end = heads[n + 1] if n + 1 < len(heads) else len(sheet.rows)
        yield head, range(head + 1, end)


def _is_head(sheet: Sheet, n: int, row: Sequence[Cell], order: Order) -> bool:
    if len(_periods(row, order)) >= LEAST_LINES:
        beneath = sheet.rows[n + 1 : n + 60]
        lines = sum(bool(_label(r) and meaning("statements", _label(r))) for r in beneath)
        if lines >= LEAST_LINES:
            return True
    return _list_kind(row) is not None


def _periods(row: Sequence[Cell], order: Order, ends: int = 12) -> list[tuple[int, str, Period]]:
    found = []
    for n, cell in enumerate(row):
        if n == 0 or cell is None:
            continue
        period = period_of(cell, order, ends)
        if period is not None:
            found.append((n, str(cell), period))
    return found


def _label(row: Sequence[Cell]) -> str:
    """The first text of a row."""
    return next((c for c in row[:3] if isinstance(c, str)), "")


def _list_kind(row: Sequence[Cell]) -> str | None:
    """Of what kind a list with these headings is."""
    texts = [c for c in row if isinstance(c, str)]
    if len(texts) < 2:
        return None
    for kind in KINDS:
        targets = {m.target for t in texts if (m := meaning(kind, t))}
        if any(wanted <= targets for wanted in ESSENTIAL[kind]):
            return kind
    return None


def _read(
    sheet: Sheet,
    head: int,
    rows: range,
    order: Order,
    payers: Sequence[Known],
    answers: Mapping[str, str],
    id: str,
) -> Found | None:
    row = sheet.rows[head]
    kind = _list_kind(row)
    across = kind is None
    kind = answers.get(f"{id}.kind") or kind or "statements"
    body = [sheet.rows[n] for n in rows]
    numbers = [c for r in body for c in r if isinstance(c, str)]
    found = Found(
        id=id,
        sheet=sheet,
        kind=kind,
        across=across,
        head=head,
        rows=rows,
        lines=[],
        style=style_of(t for t in numbers if bare(t) and not _a_date(t, order)),
        order=order,
    )
    above = _words(sheet.rows[max(0, head - 8) : head + 1])
    _payer(found, above, payers, answers)
    found.year_ends = next((p.year_ends for p in payers if p.key == found.payer), 12)
    if across:
        found.periods = _periods(row, order, found.year_ends)
        found.lines = _lines_down(found, answers)
    else:
        found.lines = _lines_across(found, row, answers)
    if not any(x.target for x in found.lines):
        return None
    _ask(found, " \n".join((above, _words(sheet.rows[head + 1 : head + 3]))), payers, answers)
    return found


def _words(rows: Sequence[Sequence[Cell]]) -> str:
    """The texts of some rows, a line each."""
    return " \n".join(c for r in rows for c in r if isinstance(c, str))


def _a_date(text: str, order: Order) -> bool:
    return date_of(text, order) is not None


def _lines_down(found: Found, answers: Mapping[str, str]) -> list[Line]:
    """Lines of a statement that lies with its periods across; the first of a target counts."""
    lines: list[Line] = []
    taken: set[str] = set()
    for n in found.rows:
        label = _label(found.sheet.rows[n])
        if not label:
            continue
        target, sure = _target(found, n, label, answers)
        if target in taken:
            target = None
        if target:
            taken.add(target)
        lines.append(Line(place=n, heading=label, target=target, sure=sure))
    return lines


def _lines_across(found: Found, row: Sequence[Cell], answers: Mapping[str, str]) -> list[Line]:
    lines: list[Line] = []
    taken: set[str] = set()
    naming: dict[str, int] = {}
    for n, cell in enumerate(row):
        if not isinstance(cell, str):
            continue
        who = meaning("payer", cell)
        target, sure = _target(found, n, cell, answers)
        if target is None and who is not None and who.target not in naming:
            naming[who.target] = n
        if target in taken:
            target = None
        if target:
            taken.add(target)
        lines.append(Line(place=n, heading=cell, target=target, sure=sure))
    found.columns_of = naming
    return lines


def _target(
    found: Found, place: int, heading: str, answers: Mapping[str, str]
) -> tuple[str | None, bool]:
    told = answers.get(f"{found.id}.line.{place}")
    if told is not None:
        return (told if told in synonyms()[found.kind].values() else None), True
    meant: Meant | None = meaning(found.kind, heading)
    return (meant.target, meant.sure) if meant else (None, True)


def _payer(found: Found, above: str, payers: Sequence[Known], answers: Mapping[str, str]) -> None:
    """Whose the table is: told, or named by the sheet, the file or what stands above."""
    if found.kind == "series":
        return
    told = answers.get(f"{found.id}.payer") or answers.get("payer")
    if told:
        found.payer = told
        return
    stem = found.sheet.file.rsplit(".", 1)[0]
    for text in (found.sheet.name, *above.split("\n"), stem):
        who = named_in(text, payers)
        if who:
            found.payer = who.key
            return


def named_in(text: str, payers: Sequence[Known]) -> Known | None:
    """The one payer that a text names: by exchange and symbol, by its symbol, or by its name."""
    words = set(re.split(r"[^\w/.&]+|_", text))
    upper = {w for w in words if w and w == w.upper()}
    exact = [p for p in payers if p.key in words or p.symbol in upper]
    if len(exact) == 1:
        return exact[0]
    folded = plain(text.replace("_", " "))
    if len(folded) < 4:
        return None
    like = [(fuzz.partial_ratio(plain(p.name), folded), p) for p in payers]
    close = [
        p for score, p in like if score >= LIKE_A_NAME and len(plain(p.name)) <= len(folded) + 2
    ]
    return close[0] if len(close) == 1 else None


def _ask(found: Found, above: str, payers: Sequence[Known], answers: Mapping[str, str]) -> None:
    """What the sheet itself does not say."""
    ask = found.questions.append
    rowwise = "symbol" in found.columns_of or "name" in found.columns_of
    if found.kind != "series" and found.payer is None and not rowwise:
        ask(Question(id=f"{found.id}.payer", asks="Whose is it?"))
    if found.style.asked:
        told = answers.get("decimal")
        if told in (".", ","):
            found.style = Style(told)
        else:
            sample = _ambiguous(found)
            ask(
                Question(
                    id="decimal",
                    asks=f"“{sample}” can be read two ways. What is it?",
                    options=[(".", _spelt(sample, Style("."))), (",", _spelt(sample, Style(",")))],
                )
            )
    if found.order.asked:
        sample = _either_day(found)
        ask(
            Question(
                id="dates",
                asks=f"“{sample}” can be read two ways. Which day is it?",
                options=[
                    (name, date_of(sample, Order(day_first=first)).isoformat())  # type: ignore[union-attr]
                    for name, first in (("day", True), ("month", False))
                    if date_of(sample, Order(day_first=first))
                ],
            )
        )
    known = next((p for p in payers if p.key == found.payer), None)
    found.currency = answers.get("currency") or _currency(above, payers)
    found.currency = found.currency or (known.currency if known else None)
    if (
        found.currency is None
        and found.kind in ("statements", "dividends", "series")
        and not rowwise
    ):
        ask(Question(id="currency", asks="In which currency, as three letters?"))
    if found.kind == "statements":
        labels = " \n".join(x.heading for x in found.lines)
        found.unit = answers.get("unit") or _unit(above) or _unit_of_labels(labels)
        if found.unit is None:
            ask(
                Question(
                    id="unit",
                    asks="What are its amounts counted in?",
                    options=[
                        ("1", "single units"),
                        ("thousand", "thousands"),
                        ("million", "millions"),
                    ],
                )
            )


def _spelt(sample: str, style: Style) -> str:
    value = number_of(sample, style)
    return "no number" if value is None else f"{value:,.3f}".rstrip("0").rstrip(".")


def _ambiguous(found: Found) -> str:
    for n in found.rows:
        for cell in found.sheet.rows[n]:
            if isinstance(cell, str) and bare(cell) and style_of([cell]).asked:
                return cell
    return ""


def _either_day(found: Found) -> str:
    for row in found.sheet.rows:
        for cell in row:
            if isinstance(cell, str) and order_of([cell]).asked:
                return cell
    return ""


def _unit(text: str) -> str | None:
    """ "in millions", "(TLL m)", "Mio. TLL" among what stands above a table."""
    for line in text.split("\n"):
        for part in _UNIT_AT.findall(line.strip()):
            for pattern, unit in UNITS:
                if pattern.search(part):
                    return unit
    return None


def _unit_of_labels(labels: str) -> str | None:
    """A unit that every label with brackets names alike."""
    held = {_unit(f"({inner})") for inner in re.findall(r"\(([^()]*)\)", labels)}
    held.discard(None)
    return held.pop() if len(held) == 1 else None


def _currency(text: str, payers: Sequence[Known]) -> str | None:
    """The one code above a table that some payer is counted in, or that is said to be one."""
    known = {p.currency for p in payers}
    codes = {c for c in _CODE.findall(text) if c in known}
    told = set(re.findall(r"(?:currency|währung|devise|moneda|valuta)\W+([A-Z]{3})\b", text, re.I))
    found = told or codes
    return found.pop() if len(found) == 1 else None
