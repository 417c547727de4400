"""Templates: files as people may have them, with example rows of a made-up payer."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.exchange.book import write_book

Cell = str | float | date | None
Rows = Sequence[Sequence[Cell]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Template:
    """note: what else such a table may look like."""

    id: str
    name: str
    rows: Rows
    note: str


TEMPLATES: tuple[Template, ...] = (
    Template(
        id="years-across",
        name="Statements, years across",
        rows=(
            ("Pennant Lamps", None, None, None),
            ("TLL in millions", "FY2023", "FY2024", "FY2025"),
            ("Revenue", 133.0, 140.0, 147.5),
            ("Net income", 20.1, 21.3, 22.8),
            ("Diluted EPS", 0.96, 1.02, 1.1),
            ("Cash from operations", 30.2, 31.0, 33.4),
            ("Capital expenditure", 8.8, 9.1, 9.6),
            ("Dividends paid", 10.4, 11.2, 12.0),
            ("Dividend per share", 0.5, 0.54, 0.58),
        ),
        note="A sheet for each payer, or a file for each. Quarters as Q1 2025; 2026E is an "
        "estimate. Costs may be negative: they are turned, and that is said.",
    ),
    Template(
        id="years-down",
        name="Statements, years down",
        rows=(
            ("Ticker", "Year", "Revenue (TLL m)", "Net income (m)", "Total assets (m)"),
            ("PNL", "FY2024", 140.0, 21.3, 310.0),
            ("PNL", "FY2025", 147.5, 22.8, 322.0),
        ),
        note="With a column of tickers it is a table of many payers; without, of one.",
    ),
    Template(
        id="dividends",
        name="Dividends",
        rows=(
            ("Ticker", "Ex-date", "Payment date", "Dividend", "Type"),
            ("PNL", date(2026, 3, 12), date(2026, 3, 26), 0.14, "Ordinary"),
            ("PNL", date(2026, 6, 11), date(2026, 6, 25), 0.15, "Ordinary"),
        ),
        note="Without dates, a column Year and a column Dividend will do: each year comes in as "
        "one payment on an assumed day.",
    ),
    Template(
        id="prices",
        name="Prices",
        rows=(
            ("Ticker", "Date", "Close"),
            ("PNL", date(2026, 6, 29), 12.4),
            ("PNL", date(2026, 6, 30), 12.5),
        ),
        note="Or a column of closes for each payer. Closes as they were traded, not adjusted.",
    ),
    Template(
        id="payers",
        name="A list of payers",
        rows=(
            ("Ticker", "Company", "Exchange", "Kind", "Country", "Currency", "Sector"),
            ("PNL", "Pennant Lamps", "ELV", "company", "Sundrey Isles", "TLL", "Household goods"),
        ),
        note="What the list does not say (exchange, country, kind) is asked once for all.",
    ),
    Template(
        id="trades",
        name="What you own: trades, dividends, cash",
        rows=(
            ("Date", "Type", "Ticker", "Quantity", "Price", "Commission", "Tax", "Net amount"),
            (date(2026, 1, 5), "Buy", "PNL", 100, 11.5, 9.9, None, -1159.9),
            (date(2026, 3, 26), "Dividend", "PNL", None, None, None, 2.1, 11.9),
            (date(2026, 3, 31), "Custody fee", None, None, None, None, None, -3.0),
        ),
        note="As your bank or broker exports it; only the account is asked. Statements in OFX or "
        "QFX come in as they are.",
    ),
    Template(
        id="positions",
        name="What you own: positions",
        rows=(
            ("Ticker", "Company", "Quantity", "Average cost", "Market value"),
            ("PNL", "Pennant Lamps", 100, 11.6, 1250.0),
        ),
        note="What you hold and what it cost is enough to begin. In an account that has entries "
        "already it is held against them.",
    ),
)


def template_csv(template: Template) -> bytes:
    out = io.StringIO()
    width = max(len(r) for r in template.rows)
    writer = csv.writer(out, lineterminator="\n")
    for row in template.rows:
        cells = ["" if c is None else str(c) for c in row]
        writer.writerow(cells + [""] * (width - len(row)))
    return out.getvalue().encode()


def template_book() -> bytes:
    """All of them, a sheet each."""
    return write_book({t.name: t.rows for t in TEMPLATES})
