"""What reading files as people have them costs, against reading their cells alone; and opening the
data of a large store."""

from __future__ import annotations

import io
import random
from datetime import date, timedelta

import httpx
import xlsxwriter
from python_calamine import CalamineWorkbook

from hearth_yield.exchange.checks import NothingHeld
from hearth_yield.exchange.found.payers import Known, Payers
from hearth_yield.exchange.found.reading import Around, as_files, read_found
from hearth_yield.exchange.package import read_files

from .timing import medians_ms

SHEETS = 50
YEARS = 20
LINES = (
    "Revenue",
    "Cost of sales",
    "Operating expenses",
    "Operating profit",
    "Depreciation and amortization",
    "Interest expense",
    "Income tax",
    "Net income",
    "Diluted EPS",
    "Diluted shares",
    "Cash from operations",
    "Capital expenditure",
    "Dividends paid",
    "Share buybacks",
    "Cash and cash equivalents",
    "Short-term debt",
    "Long-term debt",
    "Current assets",
    "Current liabilities",
    "Total assets",
    "Total liabilities",
    "Equity",
)


def _book() -> bytes:
    """Fifty payers, twenty years of twenty-two lines each."""
    chance = random.Random("book")
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out, {"in_memory": True})
    for n in range(SHEETS):
        sheet = book.add_worksheet(f"X{n:03d}")
        sheet.write_row(0, 0, [f"Payer {n}", "TLL in millions"])
        sheet.write_row(2, 0, ["", *(f"FY{2026 - y}" for y in range(YEARS))])
        for m, line in enumerate(LINES, 3):
            sheet.write_row(m, 0, [line, *(round(chance.uniform(1, 9e3), 1) for _ in range(YEARS))])
    book.close()
    return out.getvalue()


def reading() -> tuple[float, float]:
    """A workbook of statements made into rows, and its cells alone by the library."""
    raw = _book()
    payers = [Known("ELV", f"X{n:03d}", f"Payer {n}", "TLL", 12) for n in range(SHEETS)]

    def ours() -> None:
        around = Around(payers=Payers(payers), today=date(2026, 6, 30))
        (found,) = read_found([("book.xlsx", raw)], around, {})
        rows = sum(len(m.rows) for m in (found.made or {}).values())
        assert rows == SHEETS * YEARS, rows

    def theirs() -> None:
        book = CalamineWorkbook.from_filelike(io.BytesIO(raw))
        for name in book.sheet_names:
            book.get_sheet_by_name(name).to_python()

    return medians_ms(ours, theirs, 7)


CLOSES = 100_000


def closes() -> tuple[float, float]:
    """Closes of four payers as another program writes them, and in the product's own form: both
    checked, ready to be kept. What starts the reader's process is taken off."""
    payers = [Known("ELV", f"X{n}", f"Payer {n}", "TLL", 12) for n in range(4)]
    around = Around(payers=Payers(payers), today=date(2026, 6, 30))
    held = NothingHeld({(p.exchange, p.symbol): p.currency for p in payers})
    chance = random.Random("closes")
    rows = [
        (payers[n % 4].symbol, date(1950, 1, 2) + timedelta(days=n // 4), chance.gauss(60, 1))
        for n in range(CLOSES)
    ]
    own = "exchange,symbol,day,close,volume\n" + "".join(
        f"ELV,{who},{day},{close:.2f},{1000 + n % 977}\n"
        for n, (who, day, close) in enumerate(rows)
    )
    other = "Ticker;Datum;Schlusskurs;Volumen\n" + "".join(
        f"{who};{day:%d.%m.%Y};{f'{close:.2f}'.replace('.', ',')};{1000 + n % 977}\n"
        for n, (who, day, close) in enumerate(rows)
    )

    def ours() -> None:
        found = read_found([("kurse.csv", other.encode())], around, {})
        files = as_files(found)
        read = read_files([(f.name, f.raw) for f in files], held)
        assert len(read.records["prices"]) == CLOSES

    def theirs() -> None:
        read = read_files([("prices.csv", own.encode())], held)
        assert len(read.records["prices"]) == CLOSES

    def started() -> None:
        read_found([("kurse.csv", b"Ticker;Datum;Schlusskurs\nX1;02.01.1950;12\n")], around, {})

    start, _ = medians_ms(started, lambda: None, 5)
    whole, plain = medians_ms(ours, theirs, 5)
    return whole - start, plain


def opened(client: httpx.Client) -> tuple[float, float]:
    """The first window of Data by payer in milliseconds, and what it may take."""

    def ours() -> None:
        client.get("/api/holdings", params={"count": 28}).raise_for_status()

    return medians_ms(ours, lambda: None, 9)[0], 400.0
