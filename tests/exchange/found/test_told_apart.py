"""What a file counts in and what its amounts are for: told, asked, never mixed in silence."""

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.found.owned.accounts import Accounts
from hearth_yield.exchange.found.payers import Payers
from hearth_yield.exchange.found.reading import (
    Around,
    FoundFile,
    made_tables,
    profile_tables,
    read_found,
)
from hearth_yield.exchange.found.units import own_unit
from hearth_yield.exchange.package import read_files

from .files import PAYERS, WIDE, AsFound
from .test_found import read, rows_of

OF_RECEIPTS = "Ex-date,Amount,Shares per ADS\n2026-05-12,1.32,4\n2026-02-10,1.20,4\n"


@pytest.mark.parametrize(
    ("told", "amounts"),
    [("divided", ["0.33", "0.3"]), ("times", ["5.28", "4.8"]), ("as told", ["1.32", "1.2"])],
)
def test_amounts_beside_shares_per_receipt_are_asked(told: str, amounts: list[str]) -> None:
    file = AsFound(name="PNL.csv", text=OF_RECEIPTS, facts={})
    (asked,) = read(file).tables[0].questions
    assert "stands for 4 shares" in asked.asks
    found = read(file, {asked.id: told})
    assert [r["amount"] for r in rows_of(found)["dividends"]] == amounts
    notes = " ".join(found.made["0"].notes) if found.made else ""
    assert ("4 shares a receipt" in notes) == (told != "as told")


def test_each_row_has_its_own_receipt_and_a_share_is_none() -> None:
    text = "Symbol,Date,Close,ADR ratio\nPNL,2026-06-30,12,1:4\nTRS,2026-06-30,62.5,\n"
    file = AsFound(name="closes.csv", text=text, facts={})
    (asked,) = read(file).tables[0].questions
    rows = rows_of(read(file, {asked.id: "divided"}))["prices"]
    assert {r["symbol"]: r["close"] for r in rows} == {"PNL": "3", "TRS": "62.5"}
    plain = AsFound(name="PNL.csv", text=OF_RECEIPTS.replace(",4\n", ",1\n"), facts={})
    assert read(plain).tables[0].questions == []


def test_statements_of_receipts_keep_what_belongs_together() -> None:
    """Per-share figures are multiplied and share counts divided, so that income is theirs."""
    book = [
        ["EUR million; each ADS represents 5 ordinary shares"],
        ["", "FY2024", "FY2025"],
        ["Net income", 100.0, 120.0],
        ["Diluted EPS", 0.5, 0.6],
        ["Diluted shares", 200.0, 200.0],
        ["Dividends per share", 0.2, 0.25],
    ]
    file = AsFound(name="PNL.xlsx", book={"S": book}, facts={})
    asked = {q.name: q.id for q in read(file).tables[0].questions}
    assert set(asked) == {"receipts", "currency"}
    answers = {asked["receipts"]: "times", asked["currency"]: "EUR"}
    rows = rows_of(read(file, answers))
    assert [(r["diluted_eps"], r["diluted_shares"]) for r in rows["statements"]] == [
        ("2.5", "40"),
        ("3", "40"),
    ]
    assert [r["amount"] for r in rows["dividends"]] == ["1", "1.25"]


@pytest.mark.parametrize(
    "above", ["EUR million", "In EUR thousands", "€ million", "Currency: EUR, in millions"]
)
def test_a_currency_that_is_not_the_payers_is_asked(above: str) -> None:
    file = AsFound(name="PNL.xlsx", book={"S": [[above], *WIDE]}, facts={})
    (asked,) = read(file).tables[0].questions
    assert asked.asks.startswith("It says EUR, and Pennant Lamps is held in TLL")
    assert {v for v, _ in asked.options} == {"EUR", "TLL"}
    for code in ("EUR", "TLL"):
        rows = rows_of(read(file, {asked.id: code}))["statements"]
        assert {r["currency"] for r in rows} == {code}


def test_the_currency_in_which_a_payer_reported_so_far_is_its_own() -> None:
    around = replace(EMPTY, payers=Payers(PAYERS, lambda _: "USD"))
    for above, asks in (("USD million", False), ("EUR million", True), ("Consolidated", False)):
        file = AsFound(name="PNL.xlsx", book={"S": [[f"{above}, in millions"], *WIDE]}, facts={})
        (found,) = read_found([(file.name, file.raw)], around, {})
        assert bool(found.tables[0].questions) == asks
        if not asks:
            assert {r["currency"] for r in rows_of(found)["statements"]} == {"USD"}


def test_what_rests_on_whose_facts_they_are_is_asked_of_the_next_file_too() -> None:
    text = "Date,Close,Currency,ADR ratio\n2026-06-30,12.5,EUR,4\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    answers = {q.id: q.options[0][0] for q in read(file).tables[0].questions}
    assert {q.split(".")[-1] for q in answers} == {"other_currency", "receipts"}
    (kept,) = profile_tables([read(file, answers)])
    assert "receipts" in kept.settled
    assert "other_currency" not in kept.settled


def test_closes_of_several_payers_in_another_currency_are_asked() -> None:
    text = "Ticker,Date,Close,Currency\nPNL,2026-06-30,12,TLL\nBRNF,2026-06-30,5,EUR\n"
    (asked,) = read(AsFound(name="closes.csv", text=text, facts={})).tables[0].questions
    assert "in EUR, and Barnfield Orchards is counted in THK" in asked.asks
    wide = "Closes in EUR\nDate,PNL,TRS\n2026-06-30,12,62\n2026-06-29,12,62\n"
    (asked,) = read(AsFound(name="closes.csv", text=wide, facts={})).tables[0].questions
    assert "Pennant Lamps is counted in TLL" in asked.asks


def test_estimates_are_of_the_size_that_is_said() -> None:
    pence = "Fiscal year,Measure,Mean (pence),Low,High\n2027,EPS,125,110,140\n"
    rows = rows_of(read(AsFound(name="PNL.csv", text=pence, facts={})))["estimates"]
    assert [(r["mean"], r["low"], r["high"]) for r in rows] == [("1.25", "1.1", "1.4")]
    money = "In millions\nFiscal year,Measure,Mean,Low,High\n2027,Revenue,1250,1200,1300\n"
    rows = rows_of(read(AsFound(name="PNL.csv", text=money, facts={})))["estimates"]
    assert rows[0]["mean"] == "1250000000"
    unsaid = AsFound(name="PNL.csv", text=money.split("\n", 1)[1], facts={})
    assert {q.name for q in read(unsaid).tables[0].questions} == {"unit"}


YEARS = ["", "FY2024", "FY2025"]
SALES, CAPEX = ["Revenue", 400_000.0, 410_000.0], [40.0, 41.0]


@pytest.mark.parametrize(
    "lines",
    [
        [["USD thousands, $m on some lines"], YEARS, SALES, ["Capex, $m", *CAPEX]],
        [["Thousands"], YEARS, SALES, ["Capex (TLL m)", *CAPEX]],
        [["Thousands"], YEARS, ["Capex $m", *CAPEX], SALES],
        [["Thousands"], YEARS, SALES, ["Capex in TLL millions", *CAPEX]],
        [["Thousands"], YEARS, SALES, ["Cash flow ($m)"], ["Capex", *CAPEX]],
        [
            ["", "Unit", *YEARS[1:]],
            ["Revenue", "TLL k", *SALES[1:]],
            ["Capex", "TLL m", *CAPEX],
            ["Diluted EPS", "pence", 50.0, 60.0],
        ],
        [["", "", *YEARS[1:]], ["Revenue", "'000", *SALES[1:]], ["Capex", "million", *CAPEX]],
    ],
)
def test_a_line_is_read_in_the_unit_that_it_says(lines: list[list[object]]) -> None:
    file = AsFound(name="PNL.xlsx", book={"S": lines}, facts={})
    told = {q.id: "TLL" for q in read(file).tables[0].questions if q.name == "currency"}
    found = read(file, told)
    assert found.tables[0].questions == []
    for row, sales, capex in zip(rows_of(found)["statements"], SALES[1:], CAPEX, strict=True):
        size = {"thousand": 1e3, "million": 1e6, "1": 1.0}[row["unit"]]
        assert float(row["revenue"]) * size == float(str(sales)) * 1e3
        assert float(row["capital_expenditure"]) * size == capex * 1e6
        assert row.get("diluted_eps") in (None, "0.5", "0.6")
    assert "as they say" in " ".join(found.made["0"].notes) if found.made else False


def test_pence_are_of_the_line_that_says_so() -> None:
    lines = [
        ["TLL million", "FY2023", "FY2024 (restated)", "FY2024", "FY2025"],
        ["Net income", 90.0, 101.0, 100.0, 120.0],
        ["EPS (pence)", 90.0, "101p", 100.0, "125p"],
        ["Dividends per share", 0.4, 0.5, 0.5, 0.54],
    ]
    found = read(AsFound(name="PNL.xlsx", book={"S": lines}, facts={}))
    rows = rows_of(found)
    assert [(r["net_income"], r["diluted_eps"]) for r in rows["statements"]] == [
        ("90", "0.9"),
        ("101", "1.01"),
        ("120", "1.25"),
    ]
    assert [r["amount"] for r in rows["dividends"]] == ["0.4", "0.5", "0.54"]
    (made,) = (found.made or {}).values()
    assert "read as hundredths, as they say: EPS (pence)" in made.notes
    assert any("FY2024" in told and "told again" in told for told in made.left_out)


def test_a_close_of_nothing_is_left_out_by_name() -> None:
    text = "Date,Close\n2026-06-30,12.6\n2026-06-29,0\n"
    (made,) = (read(AsFound(name="PNL.csv", text=text, facts={})).made or {}).values()
    assert made.tables["prices"].rows.column("close") == [12.6]
    assert made.left_out == ["row 3: a close of 0"]


def test_one_line_does_not_speak_for_the_others() -> None:
    lines = [YEARS, ["Revenue ($m)", 400.0, 410.0], ["Net income", 4e7, 4.1e7], ["Cash", 9e6, 8e6]]
    file = AsFound(name="PNL.xlsx", book={"S": lines}, facts={})
    asked = {q.name: q.id for q in read(file).tables[0].questions}
    assert set(asked) == {"unit", "currency"}
    answers = {asked["unit"]: "1", asked["currency"]: "TLL"}
    rows = rows_of(read(file, answers))["statements"]
    assert [(r["revenue"], r["net_income"]) for r in rows] == [
        ("400000000", "40000000"),
        ("410000000", "41000000"),
    ]


@pytest.mark.parametrize(
    ("heading", "unit"),
    [
        ("Net income", None),
        ("Total assets", None),
        ("Dividends paid in cash", None),
        ("Diluted EPS", None),
        ("Profit from operations", None),
        ("Umsatz in Mio.", "million"),
        ("Revenue, EUR thousands", "thousand"),
        ("Capital expenditure - bn", "billion"),
    ],
)
def test_what_a_heading_says_of_its_unit(heading: str, unit: str | None) -> None:
    assert own_unit(heading) == unit


def _block(title: object, *, of: float, beside: str = "TLL million") -> list[list[object]]:
    head = [beside, "FY2024", "FY2025"]
    return [[title], head, ["Revenue", of, of + 5], ["Net income", of / 10, of / 9], []]


def test_blocks_of_several_payers_are_asked_one_by_one_with_their_titles() -> None:
    """Whatever the file or the first of them is called."""
    new = [*_block("Alder Mills", of=400.0), *_block("Birch Works plc", of=90.0)]
    for name in ("book.xlsx", "PNL.xlsx"):
        tables = read(AsFound(name=name, book={"Watchlist": new}, facts={})).tables
        asked = [q for t in tables for q in t.questions if q.name == "payer"]
        if name.startswith("PNL"):
            assert [t.payer for t in tables] == ["ELV/PNL", None]
        assert [q.guess for q in asked][-1] == "Birch Works plc"
        assert len({q.id for q in asked}) == len(asked) == (1 if name.startswith("PNL") else 2)
    answers = {q.id: k for q, k in zip(asked, ["RKM/BRNF"], strict=True)}
    found = read(AsFound(name="PNL.xlsx", book={"Watchlist": new}, facts={}), answers)
    (other,) = [q.id for t in found.tables for q in t.questions]
    rows = rows_of(
        read(AsFound(name="PNL.xlsx", book={"Watchlist": new}, facts={}), answers | {other: "THK"})
    )["statements"]
    assert {(r["symbol"], r["revenue"]) for r in rows if r["period_end"] > "2025-01-01"} == {
        ("PNL", "405"),
        ("BRNF", "95"),
    }


def test_a_title_may_stand_in_the_row_of_headings() -> None:
    new = [
        *_block(None, of=400.0, beside="Alder Mills (TLL m)"),
        *_block(None, of=90.0, beside="Birch Works (TLL m)"),
    ]
    tables = read(AsFound(name="book.xlsx", book={"Sheet1": new}, facts={})).tables
    asked = [q for t in tables for q in t.questions if q.name == "payer"]
    assert [q.guess for q in asked] == ["Alder Mills", "Birch Works"]


def test_parts_of_one_payers_statements_are_asked_once_and_share_what_is_said() -> None:
    head: list[object] = ["", "FY2024", "FY2025"]
    sheet = [
        ["Alder Mills, TLL million"],
        ["Income statement"],
        head,
        ["Revenue", 400.0, 410.0],
        ["Depreciation", 30.0, 31.0],
        ["Net income", 40.0, 41.0],
        [],
        ["Cash flow statement"],
        head,
        ["Net income", 40.0, 41.0],
        ["Depreciation", 30.0, 31.0],
        ["Operating cash flow", 50.0, 51.0],
        ["Capex", -20.0, -21.0],
        ["Dividends paid", -10.0, -11.0],
        [],
        ["Balance sheet"],
        head,
        ["Total assets", 900.0, 910.0],
        ["Cash", 90.0, 91.0],
    ]
    tables = read(AsFound(name="book.xlsx", book={"Sheet1": sheet}, facts={})).tables
    assert len(tables) == 3
    asked = {q.id: q for t in tables for q in t.questions}
    assert [q.guess for q in asked.values() if q.name == "payer"] == ["Alder Mills"]
    assert {q.name for q in asked.values()} == {"payer"}
    assert [t.answer("unit") for t in tables] == ["million"] * 3


def test_lists_of_several_payers_beneath_each_other() -> None:
    text = (
        "Alder Mills\nDate,Close\n2026-06-30,12\n2026-06-29,12.1\n\n"
        "Pennant Lamps\nDate,Close\n2026-06-30,40\n2026-06-29,41\n\n"
        "Birch Works\nDate,Close\n2026-06-30,70\n2026-06-29,71\n"
    )
    tables = read(AsFound(name="closes.csv", text=text, facts={})).tables
    asked = [q for t in tables for q in t.questions if q.name == "payer"]
    assert [t.payer for t in tables] == [None, "ELV/PNL", None]
    assert [q.guess for q in asked] == ["Alder Mills", "Birch Works"]


EMPTY = Around(payers=Payers(()), accounts=Accounts(today=date(2026, 6, 30)))
NEW = {"strangers": "new", "country": "Sundrey Isles", "payer_kind": "company", "currency": "TLL"}


@pytest.mark.parametrize(
    ("text", "table", "amount", "symbols"),
    [
        (
            "Date,ALD,BIR-B,C9\n2026-06-30,12,40,7\n2026-06-29,12.1,41,8\n",
            "prices",
            "close",
            {"ALD", "BIR-B", "C9"},
        ),
        (
            "Ticker,Company,Ex-date,Dividend\nALD,Alder Mills,2026-05-02,0.4\n"
            "BIR,Birch Works,2026-05-09,0.1\nALD,Alder Mills,2026-02-02,0.4\n",
            "dividends",
            "amount",
            {"ALD", "BIR"},
        ),
        (
            "Company,Year,Revenue (m),Net income (m)\nAlder Mills,2024,400,40\n"
            "Alder Mills,2025,410,41\nBirch Works,2025,90,9\n",
            "statements",
            "revenue",
            {"ALDER-MILLS", "BIRCH-WORKS"},
        ),
    ],
)
def test_payers_that_are_not_held_are_added_from_a_list_or_a_matrix(
    text: str, table: str, amount: str, symbols: set[str]
) -> None:
    def reading(answers: dict[str, str]) -> FoundFile:
        (found,) = read_found([("list.csv", text.encode())], EMPTY, answers)
        return found

    (first,) = reading({}).tables[0].questions[:1]
    assert first.name in ("strangers", "currency")
    answers = {f"0.{name}": value for name, value in (NEW | {"exchange": "ELV"}).items()}
    found = reading(answers)
    assert found.tables[0].questions == []
    rows = rows_of(found)
    assert {(r["exchange"], r["symbol"]) for r in rows["payers"]} == {("ELV", s) for s in symbols}
    assert {r["symbol"] for r in rows[table] if r[amount]} == symbols
    checked = read_files((), NothingStored(), made=made_tables([found]))
    assert not checked.refused
    left = reading(answers | {"0.strangers": "leave"})
    assert not left.made or not left.made["0"].tables


def test_a_matrix_that_is_not_known_again_can_be_said_to_be_one() -> None:
    text = "When seen,Alder Mills,Birch Works\n2026-06-30,12,40\n2026-06-29,12.1,41\n"
    (found,) = read_found([("list.csv", text.encode())], EMPTY, {})
    (asked,) = found.tables[0].questions
    assert ("wide", "closes, a column for each payer") in asked.options
    answers = NEW | {"exchange": "ELV"}
    told = {f"0.{k}": v for k, v in answers.items()} | {"0.0.kind": "wide"}
    (found,) = read_found([("list.csv", text.encode())], EMPTY, told)
    rows = rows_of(found)
    assert [(p["symbol"], p["name"]) for p in rows["payers"]] == [
        ("ALDER-MILLS", "Alder Mills"),
        ("BIRCH-WORKS", "Birch Works"),
    ]
    assert [r["close"] for r in rows["prices"]] == ["12", "40", "12.1", "41"]


def test_some_that_are_not_held_are_left_out_and_can_be_added() -> None:
    text = "Date,PNL,TRS,ZZZ\n2026-06-30,12,62,7\n2026-06-29,12,62,8\n"
    file = AsFound(name="closes.csv", text=text, facts={})
    found = read(file)
    assert found.tables[0].questions == []
    assert {r["symbol"] for r in rows_of(found)["prices"]} == {"PNL", "TRS"}
    answers = {f"0.{k}" if k == "strangers" else k: v for k, v in NEW.items()}
    rows = rows_of(read(file, answers | {"exchange": "ELV"}))
    assert {r["symbol"] for r in rows["prices"]} == {"PNL", "TRS", "ZZZ"}
    assert [p["symbol"] for p in rows["payers"]] == ["ZZZ"]


def test_new_payers_of_like_names_stay_apart() -> None:
    text = "Date,Alder Mills North,Alder Mills South\n2026-06-30,12,40\n2026-06-29,12,41\n"
    told = {f"0.{k}": v for k, v in (NEW | {"exchange": "ELV"}).items()} | {"0.0.kind": "wide"}
    (found,) = read_found([("list.csv", text.encode())], EMPTY, told)
    rows = rows_of(found)
    assert [p["symbol"] for p in rows["payers"]] == ["ALDER-MILLS", "ALDER-MILLS-2"]
    assert [r["close"] for r in rows["prices"] if r["symbol"] == "ALDER-MILLS"] == ["12", "12"]


def test_a_column_that_the_person_chose_is_not_taken_back() -> None:
    text = "Ex-Date,Amount (USD),Amount (TLL)\n2026-05-14,0.21,0.30\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    assert rows_of(read(file))["dividends"][0]["amount"] == "0.3"
    chosen = {"0.line.1": "amount", "0.line.2": "none", "0.currency": "USD"}
    (row,) = rows_of(read(file, chosen))["dividends"]
    assert (row["amount"], row["currency"]) == ("0.21", "USD")
