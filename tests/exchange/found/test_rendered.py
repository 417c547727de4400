"""The same figures written in many ways: whatever the layout, the language, the unit and the signs,
they are read as they are or something is asked; never as others."""

import csv
import io
from dataclasses import dataclass
from datetime import date

import pytest
from hypothesis import given, note, settings
from hypothesis import strategies as st

from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Payers
from hearth_yield.exchange.found.reading import Around, FoundFile, read_found
from tests.conftest import sample

from .files import PAYERS, workbook

AROUND = Around(payers=Payers(PAYERS), accounts=Accounts(today=date(2026, 6, 30)))
NAMES = {
    "revenue": ("Revenue", "Net sales", "Umsatzerlöse", "Chiffre d'affaires", "Omzet", "Ricavi"),
    "net_income": ("Net income", "Jahresüberschuss", "Résultat net", "Utile netto"),
    "capital_expenditure": ("Capital expenditure", "Capex", "Investitionen"),
    "operating_cash_flow": ("Cash from operations", "Operating cash flow"),
    "total_assets": ("Total assets", "Bilanzsumme", "Totale attivo"),
}
OUTFLOWS = ("capital_expenditure",)
HEADS = ("FY{}", "{}", "{}A", "31.12.{}", "{}-12-31", "Dec {}", "December 31, {}")
MARKS = {"en": (",", "."), "de": (".", ","), "fr": ("\u00a0", ","), "ch": ("'", ".")}
UNITS = {"TLL in millions": 1e6, "in thousands of TLL": 1e3, "Mio. TLL": 1e6, "": 1e6}
FACTOR = {"1": 1.0, "thousand": 1e3, "million": 1e6}


@dataclass(frozen=True)
class Sheet:
    """figures: by line, one for each year, in the unit of the heading."""

    years: tuple[int, ...]
    figures: dict[str, tuple[float, ...]]
    names: dict[str, str]
    head: str
    unit: str
    marks: str
    negative: str
    across: bool
    noise: bool
    book: bool

    def cell(self, line: str, value: float) -> str:
        group, point = MARKS[self.marks]
        text = f"{abs(value):,.1f}".replace(",", "\0").replace(".", point).replace("\0", group)
        gone = line in OUTFLOWS and self.negative != "plain"
        if value < 0 or gone:
            return f"({text})" if self.negative == "brackets" else f"-{text}"
        return text

    def rows(self) -> list[list[str]]:
        head = [self.head.format(y) for y in self.years]
        lines = [
            [self.names[n], *(self.cell(n, v) for v in values)]
            for n, values in self.figures.items()
        ]
        table = [["", *head], *lines]
        if self.noise:
            table.insert(2, [])
            table.append(["Goodwill", *("–" for _ in head)])
            table += [[], ["1) as published"]]
        if not self.across:
            wide = max(len(r) for r in table)
            padded = [r + [""] * (wide - len(r)) for r in table if r and not r[0].startswith("1)")]
            table = [list(r) for r in zip(*padded, strict=True)]
            table[0][0] = "Year"
        return [["Pennant Lamps"], [self.unit], *table]

    def raw(self) -> tuple[str, bytes]:
        if self.book:
            return "file.xlsx", workbook({"PNL": self.rows()})
        out = io.StringIO()
        csv.writer(out, delimiter=";").writerows(self.rows())
        return "PNL.csv", out.getvalue().encode()


@st.composite
def sheets(draw: st.DrawFn) -> Sheet:
    first = draw(st.integers(2005, 2022))
    years = tuple(range(first, first + draw(st.integers(2, 5))))
    lines = draw(st.lists(st.sampled_from(sorted(NAMES)), min_size=2, max_size=5, unique=True))
    low = {"net_income": -9e4, "operating_cash_flow": -9e4}
    figures = {
        n: tuple(round(draw(st.floats(low.get(n, 1.0), 9e4)), 1) or 1.0 for _ in years)
        for n in lines
    }
    return Sheet(
        years=years[::-1] if draw(st.booleans()) else years,
        figures=figures,
        names={n: draw(st.sampled_from(NAMES[n])) for n in lines},
        head=draw(st.sampled_from(HEADS)),
        unit=draw(st.sampled_from(sorted(UNITS))),
        marks=draw(st.sampled_from(sorted(MARKS))),
        negative=draw(st.sampled_from(["plain", "minus", "brackets"])),
        across=draw(st.booleans()),
        noise=draw(st.booleans()),
        book=draw(st.booleans()),
    )


def read(name: str, raw: bytes, sheet: Sheet) -> FoundFile:
    """Once more with the answers that a person would give."""
    (found,) = read_found([(name, raw)], AROUND, {})
    answers = {"currency": "TLL", "unit": "million", "decimal": MARKS[sheet.marks][1]}
    told = {}
    for table in found.tables:
        for asked in table.questions:
            plain = asked.id.rsplit(".", 1)[-1]
            assert plain in answers, asked
            told[f"0.{asked.id}"] = answers[plain]
    (found,) = read_found([(name, raw)], AROUND, told)
    return found


@given(sheets())
@settings(max_examples=sample(40, 2000), deadline=None)
def test_figures_are_read_as_they_are_however_they_are_written(sheet: Sheet) -> None:
    note("\n".join(" | ".join(r) for r in sheet.rows()))
    found = read(*sheet.raw(), sheet)
    rows = [r for m in (found.made or {}).values() for r in m.tables["statements"].rows]
    by_year = {r["period_end"].year: r for r in rows}
    assert set(by_year) == set(sheet.years)
    for n, values in sheet.figures.items():
        for year, value in zip(sheet.years, values, strict=True):
            row = by_year[year]
            told = row[n] * FACTOR[row["unit"]]
            assert told == pytest.approx(value * UNITS[sheet.unit]), (n, year)
