"""Months and years in one list, years by months, and dates that do not say which they are."""

import pytest

from .files import AsFound
from .test_found import read, rows_of

MONTHS = "Jan,Feb,Mar,Apr,May,Jun,Jul,Aug,Sep,Oct,Nov,Dec"


def series(text: str) -> dict[str, str]:
    file = AsFound(name="prices of things.csv", text=text, facts={})
    rows = rows_of(read(file, {"currency": "TLL"})).get("series", [])
    return {r["day"]: r["value"] for r in rows}


@pytest.mark.parametrize(
    "text",
    [
        f"CPI 2015 = 100\nYear,{MONTHS},Annual\n"
        "2023,97,98,99,,,,,,,,,,98\n2024,100,101,102,,,,,,,,,,\n",
        "Inflation index\nMonth,2023,2024\n"
        + "".join(
            f"{m},{97 + n if n < 3 else ''},{100 + n if n < 3 else ''}\n"
            for n, m in enumerate(MONTHS.split(","))
        ),
        "Year,Month,CPI\n2023,1,97\n,2,98\n,3,99\n2024,1,100\n,2,101\n,3,102\n",
        "Year;Month;CPI\n2023;January;97\n2023;February;98\n2023;Mar;99\n"
        "2024;January;100\n2024;February;101\n2024;Mar;102\n",
        "Month,CPI\n2022,96\n2023-01,97\n2023-02,98\n2023-03,99\n2023,98\n"
        "2024-01,100\n2024-02,101\n2024-03,102\n",
    ],
)
def test_a_price_index_by_month_however_it_is_laid_out(text: str) -> None:
    assert series(text) == {
        "2023-01-31": "97",
        "2023-02-28": "98",
        "2023-03-31": "99",
        "2024-01-31": "100",
        "2024-02-29": "101",
        "2024-03-31": "102",
    }


def test_years_among_months_are_left_out_by_name() -> None:
    file = AsFound(name="cpi.csv", text="Month,CPI\n2023,97\n2024-01,98\n", facts={})
    (made,) = (read(file, {"currency": "TLL"}).made or {}).values()
    assert made.left_out == ["row 2: “2023”, a year among days"]
    assert made.wrong == []


def test_months_of_dividends_are_payments_and_of_closes_closes() -> None:
    paid = f"Dividends a share\nYear,{MONTHS}\n2025,,0.2,,,0.2,,,0.2,,,0.25,\n"
    rows = rows_of(read(AsFound(name="PNL.csv", text=paid, facts={})))["dividends"]
    assert [(r["ex_date"], r["amount"]) for r in rows] == [
        ("2025-02-28", "0.2"),
        ("2025-05-31", "0.2"),
        ("2025-08-31", "0.2"),
        ("2025-11-30", "0.25"),
    ]
    closes = f"Closing prices\nYear,{MONTHS}\n2025,{','.join(['12'] * 12)}\n"
    assert len(rows_of(read(AsFound(name="PNL.csv", text=closes, facts={})))["prices"]) == 12


def test_years_by_months_that_say_nothing_of_themselves_are_asked() -> None:
    file = AsFound(name="x.csv", text=f"Year,{MONTHS}\n2025,{','.join(['12'] * 12)}\n", facts={})
    (asked,) = read(file).tables[0].questions
    assert asked.asks == "What is this table?"
    answers = {"0.kind": "prices", "0.payer": "ELV/PNL"}
    assert len(rows_of(read(file, answers))["prices"]) == 12


@pytest.mark.parametrize("heading", ["Date", "Month", "Datum"])
def test_a_date_beside_dividends_is_asked_which_it_is(heading: str) -> None:
    text = f"{heading},Dividend\n2026-05-02,0.4\n2026-02-02,0.4\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    (asked,) = read(file).tables[0].questions
    assert {v for v, _ in asked.options} == {"ex_date", "pay_date"}
    of_ex = rows_of(read(file, {asked.id: "ex_date"}))["dividends"]
    paid = read(file, {asked.id: "pay_date"})
    assert [r["ex_date"] for r in of_ex] == ["2026-05-02", "2026-02-02"]
    assert [r["pay_date"] for r in rows_of(paid)["dividends"]] == ["2026-05-02", "2026-02-02"]
    assert "the pay date stands for it" in " ".join((paid.made or {})["0"].notes)


def test_closes_beside_dividends_and_a_date_are_closes() -> None:
    text = "Date,Close,Dividends\n2026-06-30,12.5,0\n2026-06-29,12.4,0.2\n"
    assert [t.kind for t in read(AsFound(name="PNL.csv", text=text, facts={})).tables] == ["prices"]


def test_months_among_what_years_paid_are_asked() -> None:
    text = "Year;Dividend\n2024;0.5\n2025;0.6\n2026-03;0.15\n2026-06;0.15\n"
    file = AsFound(name="PNL.csv", text=text, facts={})
    (asked,) = read(file).tables[0].questions
    paid = rows_of(read(file, {asked.id: "paid"}))["dividends"]
    assert [(r["ex_date"], r.get("assumed") or None) for r in paid] == [
        ("2024-12-31", "ex_date"),
        ("2025-12-31", "ex_date"),
        ("2026-03-31", None),
        ("2026-06-30", None),
    ]
    left = read(file, {asked.id: "leave"})
    assert len(rows_of(left)["dividends"]) == 2
    assert "row 4: “2026-03”, which is no year" in (left.made or {})["0"].left_out
    ends = "Year;Dividend\n31.12.2024;0.5\n31.12.2025;0.6\n"
    assert read(AsFound(name="PNL.csv", text=ends, facts={})).tables[0].questions == []
