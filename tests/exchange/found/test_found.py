"""Files as people have them: each gives its facts, asks what it must, and is never misread."""

import io
import zipfile
from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given as over
from hypothesis import strategies as st

from hearth_yield.core.errors import HearthError
from hearth_yield.exchange.cells import Dialect, spelt
from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.columns import FORMATS
from hearth_yield.exchange.found.apart import Unreadable, read_apart
from hearth_yield.exchange.found.dates import Order, date_of, order_of, period_of
from hearth_yield.exchange.found.headings import meaning, synonyms
from hearth_yield.exchange.found.numbers import Style, number_of, style_of
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Known, Payers
from hearth_yield.exchange.found.reading import Around, FoundFile, made_tables, read_found
from hearth_yield.exchange.package import read_files
from hearth_yield.exchange.table import read_made

from .files import FILES, PAYERS, WIDE, AsFound, workbook

BY_NAME = {f.name: f for f in FILES}
HELD = NothingStored({(p.exchange, p.symbol): p.currency for p in PAYERS})
AROUND = Around(payers=Payers(PAYERS), accounts=Accounts(today=date(2026, 6, 30)))


def read(file: AsFound, answers: dict[str, str] | None = None) -> FoundFile:
    told = {f"0.{id}": value for id, value in (answers or {}).items()}
    (found,) = read_found([(file.name, file.raw)], AROUND, told)
    return found


def rows_of(found: FoundFile) -> dict[str, list[dict[str, str]]]:
    rows: dict[str, list[dict[str, str]]] = {}
    for made in (found.made or {}).values():
        for name, table in made.tables.items():
            spelled = [{n: spelt(c) for n, c in row.items()} for row in table.rows]
            rows.setdefault(name, []).extend(spelled)
    return rows


@pytest.mark.parametrize("name", BY_NAME)
def test_a_file_gives_its_facts_and_asks_no_more_than_it_must(name: str) -> None:
    file = BY_NAME[name]
    asked = {q.id for t in read(file).tables for q in t.questions}
    assert asked == set(file.choices)
    found = read(file, dict(file.choices))
    assert found.unreadable is None
    assert not any(m.wrong for m in (found.made or {}).values())
    rows = rows_of(found)
    for table, wanted in file.facts.items():
        for fact in wanted:
            assert any(fact.items() <= row.items() for row in rows[table]), (fact, rows[table][:3])
    for table, count in file.count.items():
        assert len(rows[table]) == count


def test_every_fact_of_a_file_passes_every_check_of_an_import() -> None:
    """And what is wrong with one is told by the place in it."""
    for file in FILES:
        found = read(file, dict(file.choices))
        reading = read_files((), HELD, made=made_tables([found]))
        assert not reading.refused, (file.name, reading.faults[:3])
    broken = AsFound(name="PNL.csv", text="Date,Close\n2026-06-30,12\n2026-06-29,-1\n", facts={})
    (fault,) = read_files((), HELD, made=made_tables([read(broken)])).faults
    assert (fault.file, fault.line, fault.column) == ("PNL.csv, cell B3", None, "close")


def test_most_files_need_no_choice_and_none_more_than_two() -> None:
    plain = sum(not f.choices for f in FILES)
    assert plain / len(FILES) >= 0.8
    assert max(len(f.choices) for f in FILES) <= 2


def test_what_it_makes_passes_every_check_of_an_import() -> None:
    found = read(BY_NAME["a sheet each.xlsx"])
    reading = read_files((), HELD, made=made_tables([found]))
    assert not reading.refused
    assert len(reading.records["statements"]) == 6


def test_outflows_are_turned_and_mixed_signs_are_not_taken() -> None:
    notes = next(iter((read(BY_NAME["PNL.xlsx"]).made or {}).values())).notes
    assert any("written as negative, and turned: capital expenditure" in n for n in notes)
    mixed = [r if r[0] != "Capital expenditures" else [r[0], -50, 55, -60] for r in WIDE]
    file = AsFound(name="m PNL.xlsx", book={"S": [["TLL in millions"], *mixed]}, facts={})
    (table,) = read(file).tables
    (asked,) = table.questions
    assert asked.asks == ("“Capital expenditures” is negative in 2 of 3 periods. What are they?")
    out = rows_of(read(file, {asked.id: "out"}))["statements"]
    assert [r["capital_expenditure"] for r in out] == ["50", "55", "60"]
    left = rows_of(read(file, {asked.id: "skip"}))["statements"]
    assert all("capital_expenditure" not in r for r in left)


def test_a_line_is_taken_for_another_or_left_out_as_told() -> None:
    found = read(BY_NAME["PNL.xlsx"])
    (table,) = found.tables
    sales = next(x for x in table.lines if x.heading == "Net sales")
    told = read(BY_NAME["PNL.xlsx"], {f"0.line.{sales.place}": "none"})
    rows = rows_of(told)["statements"]
    assert all("revenue" not in r for r in rows)
    assert any("Net sales" in x for m in (told.made or {}).values() for x in m.left_out)


def test_a_broken_cell_is_named_by_its_place() -> None:
    file = AsFound(
        name="b PNL.csv", text="Date,Close\n2026-06-30,12.5\n2026-06-29,twelve\n", facts={}
    )
    (made,) = (read(file).made or {}).values()
    assert made.wrong == ["B3 holds “twelve”, which is no number"]


@pytest.mark.parametrize(
    ("raw", "why"),
    [
        (b"", "there is nothing in it"),
        (b"PK\x03\x04nonsense", "it is no workbook"),
        (b"hello\nworld\n", "no table of statements"),
        (b"<html><body>none</body></html>", "the page has no table"),
        (b"\xd0\xcf\x11\xe0" + b"x" * 600, "it is no workbook"),
    ],
)
def test_a_file_without_a_table_says_why(raw: bytes, why: str) -> None:
    (found,) = read_found([("x.bin", raw)], AROUND, {})
    assert why in (found.unreadable or "")


@pytest.mark.parametrize(
    ("texts", "decimal", "asked"),
    [
        (["1,234.5"], ".", False),
        (["1.234,5"], ",", False),
        (["12,5"], ",", False),
        (["1 234,50"], ",", False),
        (["1'234.50"], ".", False),
        (["1.234.567"], ",", False),
        (["1,234"], ".", True),
        (["1,234", "5.5"], ".", False),
        (["0,123"], ",", False),
        (["12", "7"], ".", False),
    ],
)
def test_one_number_decides_for_all(texts: list[str], decimal: str, asked: bool) -> None:
    assert style_of(texts) == Style(decimal, asked=asked)


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("(1,234.5)", -1234.5),
        ("−12.5", -12.5),
        ("12.5-", -12.5),
        ("TLL 12.50", 12.5),
        ("12.50 TLL", 12.5),
        ("45.5 %", 0.455),
        ("1,234*", 1234.0),
        ("12 [a]", 12.0),
        ("12,34", None),
        ("twelve", None),
        ("–", None),
    ],
)
def test_numbers_as_they_are_written(text: str, value: float | None) -> None:
    assert number_of(text, Style(".")) == value


@pytest.mark.parametrize(
    ("text", "day"),
    [
        ("2026/06/30", "2026-06-30"),
        ("30.06.2026", "2026-06-30"),
        ("30.6.26", "2026-06-30"),
        ("June 30, 2026", "2026-06-30"),
        ("30. Juni 2026", "2026-06-30"),
        ("30-Jun-26", "2026-06-30"),
        ("30 juin 2026", "2026-06-30"),
        ("2026-06-30T00:00:00", "2026-06-30"),
        ("2026-06-30 17:30", "2026-06-30"),
        ("2026-W26", "2026-06-26"),
        ("20260630", "2026-06-30"),
        ("Dec 2025", "2025-12-31"),
        ("Dec-25", "2025-12-31"),
        ("30 June", None),
        ("June 30", None),
        ("31.02.2026", None),
        ("about June", None),
    ],
)
def test_dates_as_they_are_written(text: str, day: str | None) -> None:
    found = date_of(text, Order(day_first=True))
    assert (found.isoformat() if found else None) == day


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("FY2025", ("2025-12-31", "year", False)),
        ("2025A", ("2025-12-31", "year", False)),
        ("2026E", ("2026-12-31", "year", True)),
        ("Q3 2025", ("2025-09-30", "quarter", False)),
        ("3Q25", ("2025-09-30", "quarter", False)),
        ("H1 2025", ("2025-06-30", "half", False)),
        ("2025-Q1", ("2025-03-31", "quarter", False)),
        ("31.12.2025", ("2025-12-31", "year", False)),
        ("25", None),
        ("Revenue", None),
    ],
)
def test_periods_as_they_are_written(text: str, told: tuple[str, str, bool] | None) -> None:
    found = period_of(text, Order(day_first=True))
    assert (found and (found.end.isoformat(), found.span.value, found.estimated)) == told


def test_quarters_follow_the_fiscal_year() -> None:
    """A year that ends with June has its first quarter in September of the year before."""
    found = period_of("Q1 2025", Order(day_first=True), 6)
    assert found is not None
    assert found.end.isoformat() == "2024-09-30"


def test_a_day_over_twelve_decides_for_all() -> None:
    assert order_of(["03/04/2026", "13/04/2026"]) == Order(day_first=True)
    assert order_of(["03/04/2026", "04/13/2026"]) == Order(day_first=False)
    assert order_of(["03/04/2026"]).asked
    assert order_of(["13/04/2026", "04/13/2026"]).asked


def test_a_heading_is_known_by_its_words_or_by_its_likeness_and_never_by_less() -> None:
    assert meaning("statements", "Net Sales (TLL m)") is not None
    like = meaning("statements", "Operating cash flows")
    assert like is not None
    assert (like.target, like.sure) == ("operating_cash_flow", False)
    assert meaning("statements", "Goodwill") is None
    for kind, words in synonyms().items():
        for word in words:
            found = meaning(kind, word)
            assert found is not None, (kind, word)
            assert found.sure


@over(st.floats(-1e9, 1e9).map(lambda v: round(v, 4)))
def test_a_number_written_either_way_reads_back(value: float) -> None:
    english = f"{value:,.4f}"
    german = english.translate(str.maketrans(",.", ".,"))
    assert number_of(english, Style(".")) == pytest.approx(value)
    assert number_of(german, Style(",")) == pytest.approx(value)


def test_a_sheet_of_our_own_form_says_numbers_in_texts_too() -> None:
    head = ["exchange", "symbol", "period_end", "span", "published_on", "currency", "unit"]
    row = ["ELV", "PNL", date(2025, 12, 31), "year", date(2026, 2, 1), "TLL", "million"]
    book = workbook({"statements": [[*head, "net_income", "equity"], [*row, "-12.5", -3.25]]})
    (found,) = read_found([("own.xlsx", book)], AROUND, {})
    (read,) = [read_made(t, FORMATS[t.name], Dialect()) for t in made_tables([found])]
    (record,) = read.records
    assert (record["net_income"], record["equity"]) == (-12.5e6, -3.25e6)
    assert read.faults.found == 0


def test_cells_are_bounded() -> None:
    wide = [["x"] * 500]
    with pytest.raises(HearthError):
        read_found([("w.xlsx", workbook({"S": wide}))], AROUND, {})


def test_binary_workbooks_are_named() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as book:
        book.writestr("xl/workbook.bin", b"x")
    with pytest.raises(Unreadable, match="save it as XLSX"):
        read_apart("b.xlsb", out.getvalue())


def test_dividends_before_and_after_tax_are_asked_whose_they_are() -> None:
    text = "Ex-date,Pay date,Gross,Tax,Net\n2026-05-02,2026-05-20,0.40,0.06,0.34\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    (asked,) = read(file).tables[0].questions
    assert "column of tax" in asked.asks
    (row,) = rows_of(read(file, {asked.id: "declared"}))["dividends"]
    assert (row["ex_date"], row["pay_date"], row["amount"]) == ("2026-05-02", "2026-05-20", "0.4")
    mine = {asked.id: "received", "account": "Mine", "account_currency": "TLL"}
    (row,) = rows_of(read(file, mine))["entries"]
    told = (row["day"], row["symbol"], row["amount"], row["withheld"])
    assert told == ("2026-05-20", "PNL", "0.40", "0.06")


def test_beside_other_tables_what_is_owned_comes_in_too() -> None:
    trades = [["Date", "Type", "Quantity", "Price"], ["2026-01-05", "Buy", 10, 12.5]]
    closes = [["Date", "Close"], ["2026-06-30", 12.5]]
    file = AsFound(name="PNL.xlsx", book={"Closes": closes, "Mine": trades}, facts={})
    rows = rows_of(read(file, {"account": "Mine"}))
    assert [r["close"] for r in rows["prices"]] == ["12.5"]
    assert [(r["symbol"], r["shares"], r["price"]) for r in rows["entries"]] == [
        ("PNL", "10", "12.5")
    ]


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("€1.62", 1.62),
        ("US$ 1,620.5", 1620.5),
        ("A$2.10", 2.10),
        ("CHF 1'000", 1000),
        ("12.50 kr", 12.5),
        ("9.00p", 0.09),
        ("9.5c", 0.095),
        ("1,38,400", 138400),
        ("Rs. 12,34,56,789", 123456789),
        ("1.5 lakh", 150000),
        ("2 crore", 2e7),
        ("3.4bn", 3.4e9),
        ("131.2m", 131_200_000),
        ("(1,200)", -1200),
        ("1,200-", -1200),
        ("5.5%", 0.055),
        ("1,3,400", None),
        ("p", None),
        ("bn", None),
        ("12 34", None),
        ("1 234", 1234),
    ],
)
def test_a_number_is_read_as_it_is_written(text: str, value: float | None) -> None:
    assert number_of(text, Style(".")) == value


@pytest.mark.parametrize("text", ["2010-01", "2010M01", "01/2010", "01.2010", "Jan 2010"])
def test_a_month_is_its_last_day(text: str) -> None:
    assert date_of(text, Order(day_first=True)) == date(2010, 1, 31)


@pytest.mark.parametrize(
    ("kind", "heading", "target"),
    [
        ("prices", "Close/Last", "close"),
        ("prices", "Price (GBX)", "close"),
        ("dividends", "Ex/Eff Date", "ex_date"),
        ("statements", "Cash dividends per share", "dividends_per_share"),
        ("statements", "Distributions per share", "dividends_per_share"),
        ("statements", "Profit attributable to shareholders", "net_income"),
        ("statements", "Net cash generated from operations", "operating_cash_flow"),
        ("statements", "Dividends paid to shareholders", "dividends_paid"),
        ("statements", "Résultat net part du groupe", "net_income"),
        ("statements", "Langlopende schulden", "long_term_debt"),
        ("statements", "Debiti a lungo termine", "long_term_debt"),
        ("statements", "Umsatzerlöse", "revenue"),
        ("statements", "Flujo de caja operativo", "operating_cash_flow"),
    ],
)
def test_a_heading_of_the_trade_is_known(kind: str, heading: str, target: str) -> None:
    meant = meaning(kind, heading)
    assert meant is not None
    assert meant.target == target


def test_pence_are_said() -> None:
    for name in ("PNL pence.csv", "PNL paid.csv", "PNL a share in pence.xlsx"):
        found = read(BY_NAME[name], dict(BY_NAME[name].choices))
        notes = [n for m in (found.made or {}).values() for n in m.notes]
        assert "amounts a share in pence or cents are read as hundredths" in notes, name


def test_a_figure_in_millions_is_kept_to_the_digit_it_was_written_to() -> None:
    found = read(BY_NAME["PNL a share in pence.xlsx"])
    reading = read_files((), HELD, made=made_tables([found]))
    assert [r["revenue"] for r in reading.records["statements"]] == [131_200_000.0, 140_000_000.0]


def test_a_column_of_currencies_is_read() -> None:
    text = "Ex date,Amount,Currency\n2026-05-12,9,GBX\n2026-02-10,0.10,GBP\n2025-11-10,0.2,TLL\n"
    rows = rows_of(read(AsFound(name="PNL.csv", text=text, facts={})))["dividends"]
    assert [(r["amount"], r["currency"]) for r in rows] == [
        ("0.09", "GBP"),
        ("0.1", "GBP"),
        ("0.2", "TLL"),
    ]


def test_closes_in_another_currency_than_the_payers_are_asked() -> None:
    file = AsFound(name="PNL.csv", text="Date,Close,Currency\n2026-06-30,12.5,THK\n", facts={})
    (asked,) = read(file).tables[0].questions
    assert "closes are in THK, and Pennant Lamps is counted in TLL" in asked.asks
    rows = rows_of(read(file, {asked.id: "yes"}))["prices"]
    assert rows[0]["close"] == "12.5"
    own = AsFound(name="PNL.csv", text="Date,Close,Currency\n2026-06-30,12.5,TLL\n", facts={})
    assert read(own).tables[0].questions == []


def test_likely_twins_of_payers_that_are_held_are_asked() -> None:
    text = (
        "Name,Ticker,Exchange,Country,Currency,Sector\n"
        "Pennant Lamps plc,PNL,Westhaven,Sundrey Isles,TLL,Household\n"
        "Quill & Ink,QIK,ELV,Sundrey Isles,TLL,Paper\n"
        "Pinnacle Nails,PNL,ELV,Sundrey Isles,TLL,Tools\n"
    )
    file = AsFound(name="list.csv", text=text, facts={})
    asked = {q.name: q for t in read(file).tables for q in t.questions}
    assert "Pennant Lamps plc (Pennant Lamps, ELV/PNL)" in asked["twins"].asks
    assert "Pinnacle" not in asked["twins"].asks
    kind = {asked["payer_kind"].id: "company"}
    same = rows_of(read(file, kind | {asked["twins"].id: "same"}))
    assert [r["symbol"] for r in same["payers"]] == ["QIK", "PNL"]
    assert ("ELV", "PNL") in {(r["exchange"], r["symbol"]) for r in same["payer_notes"]}
    others = rows_of(read(file, kind | {asked["twins"].id: "new"}))
    assert len(others["payers"]) == 3


def test_cells_of_a_page_that_reach_over_rows_and_columns_leave_the_others_in_place() -> None:
    page = (
        "<table><tr><th rowspan=2>TLL m</th><th colspan=2>Full year</th></tr>"
        "<tr><th>2024</th><th>2025</th></tr><tr><td>Revenue</td><td>1310.5</td><td>1400.5</td></tr>"
        "<tr><td>Net income</td><td>110</td><td>120</td></tr></table>"
    )
    rows = rows_of(read(AsFound(name="PNL.html", text=page, facts={})))["statements"]
    assert [(r["period_end"], r["revenue"]) for r in rows] == [
        ("2024-12-31", "1310.5"),
        ("2025-12-31", "1400.5"),
    ]


def test_a_heading_under_which_nothing_came_in_is_said() -> None:
    rows = [*WIDE, ["Dividend per share", None, None, None], ["Gross margin", 0.4, 0.4, 0.4]]
    file = AsFound(name="g PNL.xlsx", book={"S": [["TLL in millions"], *rows]}, facts={})
    left = [x for m in (read(file).made or {}).values() for x in m.left_out]
    assert "nothing came of: Dividend per share" in left
    assert any("Gross margin" in x for x in left)


def test_a_column_of_splits_beside_closes_is_said() -> None:
    text = "Date,Close,Stock Splits\n2026-06-30,12.5,0\n2026-06-29,12.4,2\n"
    (made,) = (read(AsFound(name="PNL.csv", text=text, facts={})).made or {}).values()
    assert any("a column of splits stands beside the closes" in n for n in made.notes)


def test_a_table_that_is_not_known_again_is_asked_and_read_by_what_is_said() -> None:
    text = "When,What it cost,Remark\n2026-06-30,12.5,x\n2026-06-29,12.4,y\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    (table,) = read(file).tables
    (asked,) = table.questions
    assert asked.asks == "What is this table?"
    answers = {asked.id: "prices"}
    (lacks,) = read(file, answers).tables[0].questions
    assert lacks.asks == "Choose below which heading is its close and its day."
    answers |= {"0.line.0": "day"}
    assert read(file, answers).tables[0].questions[0].asks.endswith("is its close.")
    answers |= {"0.line.1": "close"}
    rows = rows_of(read(file, answers))["prices"]
    assert [(r["day"], r["close"]) for r in rows] == [
        ("2026-06-30", "12.5"),
        ("2026-06-29", "12.4"),
    ]
    left = read(file, {"0.skip": "yes"})
    assert left.unreadable is None
    assert not left.made


def test_statements_of_unknown_lines_are_read_by_what_is_said() -> None:
    rows = [["All in TLL millions"], ["", "2024", "2025"], ["Sold", 10, 12], ["Kept", 1, 2]]
    file = AsFound(name="PNL.xlsx", book={"S": rows}, facts={})
    (table,) = read(file).tables
    answers = {table.questions[0].id: "statements", "0.line.2": "revenue", "0.line.3": "net_income"}
    out = rows_of(read(file, answers))["statements"]
    assert [(r["period_end"], r["revenue"], r["net_income"]) for r in out] == [
        ("2024-12-31", "10", "1"),
        ("2025-12-31", "12", "2"),
    ]


def test_debt_that_is_not_told_apart_by_its_term_is_long_term_and_said() -> None:
    book = {"S": [["TLL in millions"], *WIDE, ["Total debt", 300, 320, 340]]}
    found = read(AsFound(name="d PNL.xlsx", book=book, facts={}))
    assert [r["long_term_debt"] for r in rows_of(found)["statements"]] == ["300", "320", "340"]
    (made,) = (found.made or {}).values()
    assert "“Total debt” is taken as long-term debt, all of it" in made.notes
    apart = {"S": [*book["S"], ["Long-term debt", 200, 210, 220]]}
    both = read(AsFound(name="d PNL.xlsx", book=apart, facts={}))
    assert [r["long_term_debt"] for r in rows_of(both)["statements"]] == ["200", "210", "220"]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("OFXHEADER:100\nDATA:OFXSGML", "OFX without a transaction"),
        ("<?xml?><OFX><A/>", "OFX without a transaction"),
        ("!Type:Invst\nD1", "save it as OFX or CSV"),
    ],
)
def test_a_statement_of_an_account_without_entries_says_why(text: str, said: str) -> None:
    found = read(AsFound(name="mine.ofx", text=text, facts={}))
    assert said in (found.unreadable or "")


@pytest.mark.parametrize(
    ("title", "unit"),
    [
        ("EUR million", "million"),
        ("$ in thousands", "thousand"),
        ("Amounts in TLL bn", "million"),
        ("(Rs. in crore)", "million"),
        ("TLL'000", "thousand"),
    ],
)
def test_what_the_title_says_is_not_asked(title: str, unit: str) -> None:
    file = AsFound(name="t PNL.xlsx", book={"S": [[title], *WIDE]}, facts={})
    other = any(mark in title for mark in ("EUR", "Rs.", "$"))
    told = {"0.currency": "TLL"} if other else {}
    assert {q.id for t in read(file).tables for q in t.questions} == set(told)
    assert {r["unit"] for r in rows_of(read(file, told))["statements"]} == {unit}


@pytest.mark.parametrize(
    "text",
    [
        "Date,Price (GBX)\n2026-06-30,1250\n",
        "Date,Price (GBX)\n2026-06-30,1250p\n",
        "Date,Price,Currency\n2026-06-30,1250p,GBX\n",
        "Date,Price (GBX),Currency\n2026-06-30,1250,GBX\n",
    ],
)
def test_pence_that_are_told_twice_are_pence_once(text: str) -> None:
    file = AsFound(name="PNL.csv", text=text, facts={})
    asked = {q.id: "yes" for q in read(file).tables[0].questions}
    assert [r["close"] for r in rows_of(read(file, asked))["prices"]] == ["12.5"]


def test_an_amount_that_says_its_own_size_is_of_that_size_in_any_table() -> None:
    book = {"S": [["TLL million"], *WIDE, ["Total assets", "1.2bn", 1500, "1.6bn"]]}
    rows = rows_of(read(AsFound(name="o PNL.xlsx", book=book, facts={})))["statements"]
    assert [(r["total_assets"], r["unit"]) for r in rows] == [
        ("1200", "million"),
        ("1500", "million"),
        ("1600", "million"),
    ]


def test_statements_down_are_no_dividends_received() -> None:
    text = "Year,Revenue,Net income,Tax,Net\n2024,100,10,3,7\n2025,120,12,4,8\n"
    found = read(AsFound(name="PNL.csv", text=text, facts={}))
    assert [t.kind for t in found.tables] == ["statements"]


def test_plain_and_odd_rows_of_one_list_all_come_in_with_their_places() -> None:
    """Most rows are taken column by column, the others one by one; neither is lost, nor moved."""
    days = [f"{n:02d}.06.2026" for n in range(1, 31)]
    lines = [f"{day};{10 + n / 4:.2f};{n or ''}" for n, day in enumerate(days)]
    lines[7] = "8.6.26;1150p;7"
    lines[12] = "13.06.2026;0;12"
    lines[20] = "Total;;"
    found = read(AsFound(name="PNL.csv", text="\n".join(["Date;Close;Volume", *lines]), facts={}))
    (made,) = (found.made or {}).values()
    assert made.counts == {"prices": 28}
    assert [w for w in made.left_out if "row 14" in w or "row 22" in w] == made.left_out
    (table,) = made_tables([found])
    reading = read_files((), HELD, made=[table])
    assert not [f for f in reading.faults if not f.warning]
    by_day = {r["day"].day: (r["close"], r["volume"]) for r in reading.records["prices"]}
    assert by_day[1] == (10.0, None)
    assert by_day[8] == (11.5, 7)
    assert by_day[30] == (17.25, 29)
    rows = {r["day"].day: n for n, r in enumerate(table.rows)}
    place, spell = table.origin_of(rows[30])
    assert spell(place) == "PNL.csv, row 31"
    assert spell(place, "close") == "PNL.csv, cell B31"
    assert table.origin_of(rows[8])[0] == 8


@pytest.mark.parametrize(
    "cell", ["GBX 1150", "GBX1,150", "GBp 1150", "1150 GBX", "1150p", "1150 ¢"]
)
def test_pence_are_told_before_an_amount_and_behind_it(cell: str) -> None:
    known = Payers([Known("ELV", "PNL", "Pennant Lamps", "GBP", 12)])
    text = f'Date,Close\n2026-06-30,"{cell}"\n2026-06-29,"11.40"\n'
    (found,) = read_found([("PNL.csv", text.encode())], replace(AROUND, payers=known), {})
    (made,) = (found.made or {}).values()
    assert made.tables["prices"].rows.column("close") == [11.5, 11.4]
    assert any("hundredths" in note for note in made.notes)
    (asked,) = read(AsFound(name="PNL.csv", text=text, facts={})).tables
    wanted = ["other_currency"] if "GB" in cell else []
    assert [q.name for q in asked.questions] == wanted
