"""Where the tables of a sheet are: rows of headings, of what kind, and which way they lie."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from hearth_yield.core.errors import TooLarge
from hearth_yield.core.facts.statements import STATEMENT_LINES, Span

from .dates import Order, Period, date_of, period_of
from .headings import meaning, plain
from .months import grid_of
from .owned.forms import form_of, is_of_cash, may_be_declared
from .patience import tick
from .sheets import Cell, Sheet

Kind = Literal[
    "statements",
    "dividends",
    "prices",
    "yearly_dividends",
    "estimates",
    "series",
    "payers",
    "entries",
]
Lie = Literal["across", "down", "wide", "months"]
"""Periods across, a row each, a column for each payer, or years by months."""
ESSENTIAL: dict[Kind, tuple[set[str], ...]] = {
    "dividends": ({"ex_date", "amount"}, {"pay_date", "amount"}, {"day", "amount"}),
    "estimates": ({"fiscal_year", "mean", "low"}, {"fiscal_year", "mean", "analysts"}),
    "statements": ({"period_end", "revenue"}, {"period_end", "net_income"}, {"period_end", "cash"}),
    "prices": ({"day", "close"}, {"day", "adjusted_close"}),
    "yearly_dividends": ({"year", "amount"},),
    "series": ({"day", "value"},),
    "payers": ({"symbol", "name"},),
    "entries": ({"day", "amount"}, {"shares"}),
}
"""What a list must have to be of a kind, those that say most first."""
KINDS: tuple[Kind, ...] = tuple(ESSENTIAL)
LEAST_LINES = 2
"""So many lines of a statement make one."""
LOOKED_AHEAD = 60
LOOKED_DOWN = 2000
"""So many rows of a sheet are looked at for its first headings."""
MOST_TABLES = 500
MANY = 4096
FEW = 5
"""So many rows tell which column holds figures."""
_FIGURE = re.compile(r"[(+\-−€$£¥]*\d")
"""How a figure or a day begins."""
_PART = re.compile(r"(?:Q[1-4]|[1-4]Q|H[12]|[12]H)", re.IGNORECASE)
_YEAR = re.compile(r"(?:FY|GJ)?\s*'?(\d{4})", re.IGNORECASE)


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A table of a sheet: the row of its headings, and the rows beneath."""

    kind: Kind
    lie: Lie
    head: int
    rows: range


def tables_of(sheet: Sheet, order: Order, names_a_payer: Callable[[str], bool]) -> Iterator[Place]:
    """Rows of headings, each with the rows down to the next one."""
    heads: list[tuple[int, Kind, Lie]] = []
    at: int | None = 0
    figures: int | None = None
    while at is not None and (heads or at < LOOKED_DOWN):
        tick()
        again = bool(heads) and _is_said_again(sheet.rows, heads[-1], at)
        found = None if again else _head(sheet, at, sheet.rows[at], order, names_a_payer)
        if found is not None:
            heads.append((at, *found))
            figures = _figures(sheet.rows, at)
            if len(heads) > MOST_TABLES:
                raise TooLarge(
                    "a sheet has too many tables",
                    field=f"{sheet.file}, {sheet.name}",
                    value=f"more than {MOST_TABLES}",
                    rule=f"at most {MOST_TABLES} a sheet",
                )
        at = _next_likely(sheet.rows, at + 1, figures)
    for at, (head, kind, lie) in enumerate(heads):
        end = len(sheet.rows)
        if at + 1 < len(heads):
            end = _last_figures(sheet.rows, head, heads[at + 1][0])
        yield Place(kind=kind, lie=lie, head=head, rows=range(head + 1, end))


def _is_said_again(rows: Sequence[Sequence[Cell]], before: tuple[int, Kind, Lie], at: int) -> bool:
    """Whether a row is that of the headings above once more, as on the pages of a print."""
    head, _, lie = before
    return lie == "down" and rows[at] == rows[head] and any(map(is_figure, rows[at - 1]))


def _last_figures(rows: Sequence[Sequence[Cell]], head: int, following: int) -> int:
    """The end of a table above another: what stands alone above the other's headings is its."""
    for n in range(following - 1, head, -1):
        if sum(c is not None for c in rows[n]) > 1 and any(map(is_figure, rows[n])):
            return n + 1
    return following


def _figures(rows: Sequence[Sequence[Cell]], head: int) -> int | None:
    """The column beneath some headings in which a figure or a day stands in every row that is
    looked at: where one is missing, the rows of the table may be over."""
    beneath = [
        r
        for r in rows[head + 1 : head + LOOKED_AHEAD]
        if sum(c is not None for c in r) > 1 and r != rows[head]
    ]
    for column in range(1, max(map(len, beneath), default=0)):
        if all(len(r) > column and is_figure(r[column]) for r in beneath[:FEW]):
            return column
    return None


def _next_likely(rows: Sequence[Sequence[Cell]], begin: int, figures: int | None) -> int | None:
    """The next row that may hold headings. figures: the column in which rows of the table above
    hold a figure; None: any row may, as nothing says where they would not."""
    many = 1
    while begin < len(rows):
        some = rows[begin : begin + many]
        if not _are_figures(some, figures):
            for n, row in enumerate(some, begin):
                if row and (figures is None or len(row) <= figures or not is_figure(row[figures])):
                    return n
        begin, many = begin + many, min(2 * many, MANY)
    return None


def _are_figures(rows: Sequence[Sequence[Cell]], column: int | None) -> bool:
    """Whether there is a figure in a column of every row."""
    if column is None or min(map(len, rows)) <= column:
        return False
    return all(map(is_figure, {row[column] for row in rows}))


def is_figure(cell: Cell) -> bool:
    """Whether a cell begins as a figure or a day does."""
    if type(cell) is not str:
        return cell is not None
    return cell[0].isdecimal() or _FIGURE.match(cell) is not None


def _head(
    sheet: Sheet, n: int, row: Sequence[Cell], order: Order, names_a_payer: Callable[[str], bool]
) -> tuple[Kind, Lie] | None:
    texts = sheet.texts(n)
    label = meaning("statements", label_of(row))
    is_line = label is not None and label.target != "period_end"
    if not is_line and periods_of(sheet, n, order):
        beneath = sheet.rows[n + 1 : n + LOOKED_AHEAD]
        means = [m.target for r in beneath if (m := meaning("statements", label_of(r)))]
        if len(means) >= LEAST_LINES or "dividends_per_share" in means:
            return ("statements", "across")
    ahead = range(n + 1, min(n + LOOKED_AHEAD, len(sheet.rows)))
    around = f"{sheet.name} {sheet.file} {_said_above(sheet, n)}".replace("_", " ")
    by_month = _KIND_OF_MONTHS.search(around)
    if by_month and by_month.lastgroup and grid_of(sheet, n, ahead):
        return (_KINDS_OF_MONTHS[by_month.lastgroup], "months")
    if len(texts) < 2:
        return None
    kind = _list_kind(texts, around)
    if kind != "statements" and form_of(texts) and not may_be_declared(texts):
        kind = "entries"
    if kind is None and is_of_cash(texts):
        kind = "entries"
    if kind is not None:
        return (kind, "down")
    first = meaning("prices", texts[0])
    if first and first.target == "day" and row[0] == texts[0]:
        payers = sum(names_a_payer(t) for t in texts[1:])
        many = payers >= 2 or _are_tickers(texts[1:])
        if many and n + 1 < len(sheet.rows) and _is_dated(sheet.rows[n + 1], order):
            return ("prices", "wide")
    return None


TICKER = re.compile(r"[A-Z0-9.&/-]{0,11}[A-Z][A-Z0-9.&/-]{0,11}", re.ASCII)
"""The form of a symbol."""
_NOTICKERS = frozenset(
    ("OPEN", "HIGH", "LOW", "NAV", "VOL", "CHG", "CHANGE", "VWAP", "INDEX", "FX")
)


def _are_tickers(texts: Sequence[str]) -> bool:
    """Whether headings have the form of symbols, and mean nothing else."""
    return len(texts) > 1 and all(
        TICKER.fullmatch(t)
        and t not in _NOTICKERS
        and not any(meaning(k, t) for k in KINDS if k != "entries")
        for t in texts
    )


def _is_dated(row: Sequence[Cell], order: Order) -> bool:
    return bool(row) and row[0] is not None and date_of(row[0], order) is not None


_KIND_OF_MONTHS = re.compile(
    r"(?P<dividends>divid|ausschütt|utdelning|distribution)|(?P<prices>\bclos(?:e|es|ing)\b"
    r"|share price|kurse?\b|\bcours\b)|(?P<series>\bindex\b|\bcpi\b|\brpi\b|hicp"
    r"|inflation|consumer price|verbraucherpreis|prix à la consommation|precios|prezzi|indice"
    r"|índice)",
    re.IGNORECASE,
)
_KINDS_OF_MONTHS: dict[str, Kind] = {
    "dividends": "dividends",
    "prices": "prices",
    "series": "series",
}
"""What a table of months holds, by the words around it."""
_DIVIDENDS = re.compile(r"divid|dps|ausschütt|utdelning|distribution|per share", re.IGNORECASE)


def _said_above(sheet: Sheet, head: int) -> str:
    texts = [t[:80] for n in range(max(0, head - 4), head) for t in sheet.texts(n)[:4]]
    return " ".join((*texts, label_of(sheet.rows[head])))


def _are_dividends(texts: Sequence[str]) -> bool:
    """Whether amounts beside a bare date are dividends: one says so, and no close is among them."""
    closes = any((m := meaning("prices", t)) and m.target == "close" for t in texts)
    return not closes and any(_DIVIDENDS.search(t[:80]) for t in texts)


_GENERIC = re.compile(r"(?:obs )?(?:value|wert|valeur|valor|valore|waarde|observation)s?", re.I)
_INDEX = re.compile(
    r"index|\bcpi\b|\brpi\b|hicp|inflation|consumer price|verbraucherpreis|prix|precios|prezzi"
    r"|indice|índice|obs",
    re.IGNORECASE,
)
_LONG = re.compile(r"concept|metric|entity|item|account|line|kennzahl|position|measure", re.I)


def says_index(text: str) -> bool:
    """Whether words are those of a price index."""
    return _INDEX.search(text.replace("_", " ")) is not None


def _is_series(texts: Sequence[str], around: str) -> bool:
    """Whether values beside days are those of an index: a heading or what stands around says so,
    and no column tells that each row is of something else."""
    if any(_LONG.search(t[:80]) for t in texts):
        return False
    values = [t for t in texts if (m := meaning("series", t)) and m.target == "value"]
    said = any(not _GENERIC.fullmatch(plain(t)) for t in values)
    return said or _INDEX.search(f"{around} {' '.join(texts)}") is not None


def _list_kind(texts: Sequence[str], around: str) -> Kind | None:
    """Of what kind a list with these headings is. around: what its sheet is called, and says."""
    for kind in (k for k in KINDS if k != "entries"):
        targets = {m.target for t in texts if (m := meaning(kind, t))}
        if kind == "dividends" and "day" in targets and not _are_dividends(texts):
            continue
        if kind == "yearly_dividends" and not _DIVIDENDS.search(f"{around} {' '.join(texts)}"):
            continue
        if kind == "series" and not _is_series(texts, around):
            continue
        if any(wanted <= targets for wanted in ESSENTIAL[kind]):
            return kind
        lines = targets & set(STATEMENT_LINES)
        if kind == "statements" and "period_end" in targets and len(lines) >= LEAST_LINES:
            return kind
    return None


def periods_of(sheet: Sheet, n: int, order: Order, ends: int = 12) -> list[tuple[int, str, Period]]:
    """The columns of a row that are periods. A quarter without a year has that of the cell above
    it, or of the last one to the left of that (a merged heading)."""
    row = sheet.rows[n]
    above = sheet.rows[n - 1] if n else ()
    found = []
    for at, cell in enumerate(row):
        if at == 0 or cell is None:
            continue
        text = cell
        if isinstance(cell, str) and _PART.fullmatch(cell):
            year = _year_above(above, at)
            text = f"{cell} {year}" if year else cell
        period = period_of(text, order, ends)
        if period is not None:
            found.append((at, str(text), period))
    return found


def _year_above(above: Sequence[Cell], at: int) -> str | None:
    for cell in reversed(above[: at + 1]):
        if cell is not None:
            text = f"{cell:.0f}" if isinstance(cell, float) else str(cell)
            year = _YEAR.fullmatch(text.strip())
            return year[1] if year else None
    return None


def label_of(row: Sequence[Cell]) -> str:
    """The first text of a row."""
    for cell in row[:3]:
        if type(cell) is str:
            return cell
    return ""


def with_span(
    periods: Sequence[tuple[int, str, Period]], span: Span
) -> list[tuple[int, str, Period]]:
    """Periods of which only the last day is told cover what is said of the table."""
    return [(at, text, replace(p, span=span) if p.dated else p) for at, text, p in periods]
