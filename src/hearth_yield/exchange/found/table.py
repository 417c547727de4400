"""One table as it is understood: its lines, its periods, and what is settled of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date
from typing import TYPE_CHECKING

from hearth_yield.exchange.exact import product, quotient

from .dates import Order, Period, date_of
from .headings import plain
from .made import InSheet
from .months import end_of, month_of, year_of
from .numbers import Style, is_small, number_of
from .payers import Known, Payers
from .settings import Setting
from .sheets import Cell, Sheet
from .tables import Kind, Lie

if TYPE_CHECKING:
    from .owned.whose import Names


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A column of a list, or a line of a statement. place: its column or row in the sheet, from 0.
    target: the column it fills; None: it is left out. sure: by its very words. unit: what it says
    for itself that it is counted in; beside: the cell that says so, where its heading does not."""

    place: int
    heading: str
    target: str | None
    sure: bool = True
    unit: str | None = None
    beside: str = ""


TOTAL_DEBT = frozenset(
    (
        *("total debt", "debt", "gross debt", "borrowings", "total borrowings", "financial debt"),
        *("finanzverbindlichkeiten", "finanzschulden", "dette totale", "dette financière"),
        *("deuda total", "deuda financiera", "debito totale", "indebitamento", "totale schuld"),
    )
)


def is_all_debt(line: Line) -> bool:
    """Whether a heading of all debt is taken for the debt of one term."""
    return line.target == "long_term_debt" and plain(line.heading) in TOTAL_DEBT


def text_of(cell: Cell) -> str:
    """A cell as a text; empty where nothing stands."""
    return f"{cell:.0f}" if isinstance(cell, float) else str(cell or "").strip()


@dataclass(slots=True, kw_only=True)
class Found:
    """One table of a sheet. head: the row of its headings; rows: those beneath. periods: columns
    that are one. columns_of: columns that name the payer row by row. profile: by which it is
    read. receipts: how many shares a receipt stands for, by row or period. new: payers that are
    added, by the texts that name them. year_at: the column of years
    beside one of months. numbered: by which
    count days are written as numbers. skipped: it is left out
    as the person said. unknown: nobody has said yet what it is. names: of a list of what a person
    owns, who is meant by its texts; settled_in: the currency of what was settled in it."""

    id: str
    sheet: Sheet
    kind: Kind
    lie: Lie
    head: int
    rows: range
    lines: list[Line]
    style: Style
    order: Order
    periods: list[tuple[int, str, Period]] = field(default_factory=list)
    payer: str | None = None
    payer_name: str | None = None
    year_ends: int = 12
    columns_of: dict[str, int] = field(default_factory=dict)
    settings: list[Setting] = field(default_factory=list)
    profile: str | None = None
    receipts: dict[int, float] = field(default_factory=dict)
    new: dict[str, Known] = field(default_factory=dict)
    year_at: int | None = None
    numbered: str = ""
    skipped: bool = False
    unknown: bool = False
    names: Names | None = None
    settled_in: str = ""

    @property
    def across(self) -> bool:
        return self.lie == "across"

    @property
    def questions(self) -> list[Setting]:
        """What is open."""
        return [s for s in self.settings if s.open]

    @property
    def ready(self) -> bool:
        return self.skipped or not self.questions

    def answer(self, name: str, otherwise: str = "") -> str:
        """What is settled, by its name."""
        for setting in self.settings:
            if setting.name == name:
                return otherwise if setting.answer is None else setting.answer
        return otherwise

    def place_of(self, target: str) -> int | None:
        return next((x.place for x in self.lines if x.target == target), None)

    def cell(self, row: int, column: int) -> Cell:
        held = self.sheet.rows[row]
        return held[column] if 0 <= column < len(held) else None

    def text(self, row: int, target: str) -> str:
        """What stands in a column of a list, as a text; empty where nothing does."""
        place = self.place_of(target)
        return "" if place is None else self.text_at(row, place)

    def text_at(self, row: int, column: int) -> str:
        """A cell as a text; empty where nothing stands."""
        return text_of(self.cell(row, column))

    def day(self, row: int, column: int) -> date | None:
        """A cell as a day; a month beside a column of years is its last."""
        cell = self.cell(row, column)
        if cell is None:
            return None
        day, month = date_of(cell, self.order), month_of(cell)
        if day is not None or self.year_at is None or month is None:
            return day
        above = (year_of(self.cell(n, self.year_at)) for n in range(row, self.head, -1))
        year = next((y for y in above if y), None)
        return end_of(year, month) if year else None

    def twins(self, payers: Payers) -> list[tuple[int, Known]]:
        """Rows of a list of payers that are likely one that is held under another exchange or
        symbol."""
        found = []
        for n in self.rows:
            symbol, name = self.text(n, "symbol"), self.text(n, "name")
            exchange = self.text(n, "exchange") or self.answer("exchange")
            twin = payers.twin(exchange, symbol, name) if symbol and name else None
            if twin is not None:
                found.append((n, twin))
        return found

    def value(self, cell: Cell) -> float | None:
        """A cell as a number; None where it holds none. Where all amounts are in pence, one that
        says so of itself is in pence once, not twice."""
        if isinstance(cell, float) or not isinstance(cell, str):
            return cell if isinstance(cell, float) else None
        value = number_of(cell, self.style)
        twice = value is not None and is_small(cell)
        return 100 * value if twice and value and self.answer("per_share") == "0.01" else value

    def a_share(self, at: int, value: float) -> float:
        """An amount a share of a row or period, for what the payer is held by."""
        return self._of_receipts(at, value, dividing="divided") if self.receipts else value

    def shares(self, at: int, value: float) -> float:
        """A count of shares, of what the payer is held by."""
        return self._of_receipts(at, value, dividing="times") if self.receipts else value

    def _of_receipts(self, at: int, value: float, *, dividing: str) -> float:
        told = self.answer("receipts")
        if told not in ("divided", "times"):
            return value
        each = self.receipts.get(at, 1.0)
        return quotient(value, each) if told == dividing else product(value, each)

    def reader(self) -> Callable[[Cell], float | None]:
        """Cells as numbers, each text once: for when all is settled."""
        known: dict[str, float | None] = {}

        def value(cell: Cell) -> float | None:
            if type(cell) is not str:
                return cell if type(cell) is float else None
            if cell not in known:
                known[cell] = self.value(cell)
            return known[cell]

        return value

    @property
    def spelling(self) -> InSheet:
        """Says where in the sheet a row that is made of it comes from."""
        cells = {x.target: x.place for x in self.lines if x.target}
        return InSheet(self.columns_of | cells, self.across)

    @property
    def headings(self) -> frozenset[str]:
        """What tells a table of this sort again."""
        return frozenset(plain(x.heading) for x in self.lines) - {""}
