"""Tables as a workbook (XLSX): a sheet each, numbers and days as such, texts never as formulas."""

from __future__ import annotations

import io
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, datetime
from decimal import Decimal

import xlsxwriter
from xlsxwriter.utility import xl_range

from hearth_yield.core.errors import TooLarge

MOST_ROWS = 1_000_000
MOST_TEXT = 32_000
SHEET_NAME = 31


@dataclass(frozen=True, slots=True)
class SumAbove:
    """The sum of a column from its second row to the one above, as a formula that an office program
    computes anew."""

    value: Decimal

    def __str__(self) -> str:
        return str(self.value)


def write_book(sheets: Mapping[str, Iterable[Iterable[object]]]) -> bytes:
    """Sheets by name. A cell may be a text, a number, a day, a sum or nothing. The same cells give
    the same bytes.

    Raises: TooLarge for more rows than a sheet holds.
    """
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out, {"in_memory": True})
    book.set_properties({"created": datetime(1980, 1, 1)})
    day = book.add_format({"num_format": "yyyy-mm-dd"})
    for name, rows in sheets.items():
        sheet = book.add_worksheet(_sheet_name(name))
        widths: dict[int, int] = {}
        for n, row in enumerate(rows):
            if n > MOST_ROWS:
                raise TooLarge(
                    "too many rows for a sheet", field=name, value=n, rule="CSV holds any number"
                )
            for m, cell in enumerate(row):
                match cell:
                    case None | "":
                        continue
                    case bool():
                        sheet.write_boolean(n, m, cell)
                    case Decimal() if Decimal(repr(float(cell))) == cell:
                        sheet.write_number(n, m, float(cell))
                    case SumAbove():
                        above = xl_range(1, m, n - 1, m)
                        sheet.write_formula(n, m, f"=SUM({above})", None, float(cell.value))
                    case int() | float():
                        sheet.write_number(n, m, cell)
                    case date():
                        sheet.write_datetime(n, m, datetime(cell.year, cell.month, cell.day), day)
                    case _:
                        sheet.write_string(n, m, str(cell)[:MOST_TEXT])
                widths[m] = min(60, max(widths.get(m, 8), len(str(cell)) + 1))
        for m, width in widths.items():
            sheet.set_column(m, m, width)
    book.close()
    return out.getvalue()


def _sheet_name(name: str) -> str:
    """Without what a sheet's name must not hold, and no longer than it may be as it is counted
    there: a letter beyond the first 65,536 counts twice."""
    held = "".join("-" if c in "[]:*?/\\'" else c for c in name)[:SHEET_NAME]
    while len(held.encode("utf-16-le")) > 2 * SHEET_NAME:
        held = held[:-1]
    return held or "sheet"
