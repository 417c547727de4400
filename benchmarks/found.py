"""What reading files as people have them costs, against reading their cells alone; and opening the
data of a large store."""

from __future__ import annotations

import io
import random
from datetime import date, timedelta
from pathlib import Path

import httpx
import xlsxwriter
from python_calamine import CalamineWorkbook

from hearth_yield.actions.import_files import import_files, preview_import
from hearth_yield.actions.read_found import Settled, understand_files
from hearth_yield.exchange.found import dates
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Known, Payers
from hearth_yield.exchange.found.reading import Around, read_found
from hearth_yield.store.database import Database

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
        around = Around(payers=Payers(payers), accounts=Accounts(today=date(2026, 6, 30)))
        (found,) = read_found([("book.xlsx", raw)], around, {})
        rows = sum(sum(m.counts.values()) for m in (found.made or {}).values())
        assert rows == SHEETS * YEARS, rows

    def theirs() -> None:
        book = CalamineWorkbook.from_filelike(io.BytesIO(raw))
        for name in book.sheet_names:
            book.get_sheet_by_name(name).to_python()

    return medians_ms(ours, theirs, 7)


CLOSES = 100_000


def closes(folder: Path) -> tuple[float, float]:
    """From the drop of a file to its preview: closes of four payers as another program writes
    them, and in the product's own form. What starts the reader's process is taken off."""
    database = Database(folder / "closes.sqlite")
    database.migrate()
    who = [f"X{n}" for n in range(4)]
    payers = "exchange,symbol,name,kind,country,currency,fiscal_year_end_month\n" + "".join(
        f"ELV,{symbol},Payer {symbol},company,Sundrey,TLL,12\n" for symbol in who
    )
    import_files(database, [("payers.csv", payers.encode())], at="2026-06-30T00:00:00+00:00")
    chance = random.Random("closes")
    rows = [
        (who[n % 4], date(1950, 1, 2) + timedelta(days=n // 4), chance.gauss(60, 1))
        for n in range(CLOSES)
    ]
    own = "exchange,symbol,day,close,volume\n" + "".join(
        f"ELV,{symbol},{day},{close:.2f},{1000 + n % 977}\n"
        for n, (symbol, day, close) in enumerate(rows)
    )
    other = "Ticker;Datum;Schlusskurs;Volumen\n" + "".join(
        f"{symbol};{day:%d.%m.%Y};{f'{close:.2f}'.replace('.', ',')};{1000 + n % 977}\n"
        for n, (symbol, day, close) in enumerate(rows)
    )

    def previewed(name: str, raw: bytes) -> int:
        understood = understand_files(database, [(name, raw)], Settled(), today=date(2026, 6, 30))
        found = preview_import(database, understood.upload)
        return found.tables["prices"].added

    def ours() -> None:
        for remembered in (dates.date_of, dates._order_mark):
            remembered.cache_clear()  # a file is dropped once
        assert previewed("kurse.csv", other.encode()) == CLOSES

    def theirs() -> None:
        assert previewed("prices.csv", own.encode()) == CLOSES

    def started() -> None:
        assert previewed("kurse.csv", b"Ticker;Datum;Schlusskurs\nX1;02.01.1950;12\n") == 1

    start, _ = medians_ms(started, lambda: None, 5)
    whole, plain = medians_ms(ours, theirs, 9)
    return whole - start, plain


def opened(client: httpx.Client) -> tuple[float, float]:
    """The first window of Data by payer in milliseconds, and what it may take."""

    def ours() -> None:
        client.get("/api/coverage", params={"count": 28}).raise_for_status()

    return medians_ms(ours, lambda: None, 9)[0], 400.0
