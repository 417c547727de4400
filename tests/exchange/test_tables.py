"""PackageRead one CSV: the ways a cell may be written, and what is refused."""

from datetime import date

import pytest

from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.faults import Fault
from hearth_yield.exchange.package import PackageRead, read_files

HELD = {("ELV", "A"): "TLL"}


def read(name: str, content: str | bytes) -> PackageRead:
    raw = content.encode() if isinstance(content, str) else content
    return read_files([(name, raw)], NothingStored(HELD))


def closes(content: str | bytes) -> list[float]:
    reading = read("prices.csv", content)
    assert reading.faults == []
    return [r["close"] for r in reading.records["prices"]]


HEAD = "exchange,symbol,day,close\n"


@pytest.mark.parametrize(
    ("cell", "value"),
    [("20.5", 20.5), ('"1,234.50"', 1234.5), ("1e2", 100.0), (" 7 ", 7.0), ("+3.25", 3.25)],
)
def test_numbers(cell: str, value: float) -> None:
    assert closes(f"{HEAD}ELV,A,2026-01-02,{cell}\n") == [value]


@pytest.mark.parametrize("cell", ["", "abc", "0", "-1", "nan", "inf", "1.2.3", "€", "12 34"])
def test_refused_numbers_name_line_column_value_and_rule(cell: str) -> None:
    fault = read("prices.csv", f"{HEAD}ELV,A,2026-01-02,{cell}\n").faults[0]
    assert (fault.file, fault.line, fault.column) == ("prices.csv", 2, "close")
    assert fault.value == cell.strip('"')
    assert fault.expected == "a number above 0"


@pytest.mark.parametrize(
    ("cell", "value"),
    [
        ("€12.50", 12.5),
        ("12.50 TLL", 12.5),
        ('"12,34"', 12.34),
        ("1'012.40", 1012.4),
        ("1250p", 12.5),
        ("TLL 12.5", 12.5),
    ],
)
def test_a_number_with_what_people_put_around_it_is_read_and_said(cell: str, value: float) -> None:
    reading = read("prices.csv", f"{HEAD}ELV,A,2026-01-02,{cell}\nELV,A,2026-01-03,{cell}\n")
    assert [r["close"] for r in reading.records["prices"]] == [value, value]
    (said,) = reading.faults
    assert said.warning
    assert f"it is read as {value}" in said.expected


@pytest.mark.parametrize(
    ("cell", "day"), [("30.06.2026", 30), ("30 June 2026", 30), ("2026/6/3", 3)]
)
def test_a_day_that_can_be_read_one_way_only_is_read_and_said(cell: str, day: int) -> None:
    reading = read("prices.csv", f"{HEAD}ELV,A,{cell},12\n")
    assert reading.records["prices"][0]["day"] == date(2026, 6, day)
    assert [f.warning for f in reading.faults] == [True]
    assert read("prices.csv", f"{HEAD}ELV,A,03/04/2026,12\n").refused


def test_byte_order_mark_carriage_returns_and_semicolons() -> None:
    text = "\ufeff" + HEAD.replace(",", ";").replace("\n", "\r\n") + "ELV;A;2026-01-02;20.5\r\n"
    assert closes(text) == [20.5]


def test_a_comma_in_a_semicolon_file_is_ambiguous_without_a_descriptor() -> None:
    text = HEAD.replace(",", ";") + "ELV;A;2026-01-02;1,234\n"
    assert read("prices.csv", text).refused


def test_quoted_fields_may_hold_separators_and_line_breaks() -> None:
    text = (
        "exchange,symbol,name,kind,country,currency,fiscal_year_end_month,description\n"
        'ELV,Q,"Quay, Sons",company,S,TLL,12,"two\nlines"\nELV,R,R,company,S,TLL,0,x\n'
    )
    reading = read("payers.csv", text)
    assert [f.line for f in reading.faults] == [4]
    assert reading.tables[0].records[0]["name"] == "Quay, Sons"


@pytest.mark.parametrize("day", ["2026-1-2", "02.01.2026", "2026-02-30", "20260102", "2026-W01-1"])
def test_only_iso_dates(day: str) -> None:
    fault = read("prices.csv", f"{HEAD}ELV,A,{day},1\n").faults[0]
    assert (fault.column, fault.value) == ("day", day)


STATEMENT = (
    "exchange,symbol,period_end,span,published_on,currency,unit,"
    "revenue,diluted_shares,diluted_eps\n"
)


@pytest.mark.parametrize(("unit", "factor"), [("1", 1), ("thousand", 1e3), ("million", 1e6)])
def test_units_scale_money_and_shares_but_nothing_per_share(unit: str, factor: float) -> None:
    row = f"ELV,A,2025-12-31,year,2026-02-01,TLL,{unit},12.5,3,0.75\n"
    record = read("statements.csv", STATEMENT + row).records["statements"][0]
    assert record["revenue"] == 12.5 * factor
    assert record["diluted_shares"] == 3 * factor
    assert record["diluted_eps"] == 0.75


def test_a_file_without_a_unit_is_refused() -> None:
    fault = read(
        "statements.csv", STATEMENT + "ELV,A,2025-12-31,year,2026-02-01,TLL,,1,1,1\n"
    ).faults[0]
    assert (fault.column, fault.line) == ("unit", 2)


def test_a_table_is_recognised_by_its_columns_under_any_name() -> None:
    assert read("export (3).csv", HEAD + "ELV,A,2026-01-02,1\n").tables[0].format.name == "prices"
    assert read("x.csv", "what,is,this\n1,2,3\n").refused


def test_an_empty_file_is_refused() -> None:
    assert read("prices.csv", "").refused


def test_a_missing_number_stays_missing() -> None:
    row = "ELV,A,2025-12-31,year,2026-02-01,TLL,1,,3,\n"
    record = read("statements.csv", STATEMENT + row).records["statements"][0]
    assert record["revenue"] is None
    assert record["diluted_eps"] is None


MANY = [f"ELV,A,{2000 + n // 300}-01-{n % 30 + 1:02d},{n + 1}" for n in range(900)]


def priced(*rows: str) -> list[Fault]:
    return read("prices.csv", HEAD + "\n".join(rows) + "\n").faults


def test_a_fault_far_down_is_found_on_its_line_and_those_after_it_too() -> None:
    faults = priced(*MANY[:700], "ELV,A,2026-13-01,5", *MANY[700:], "ELV,A,2026-01-01,none")
    named = [(f.line, f.column, f.value) for f in faults if f.column in ("day", "close")]
    assert (702, "day", "2026-13-01") in named
    assert (903, "close", "none") in named


def test_lines_are_counted_through_cells_that_break_them() -> None:
    head = "exchange,symbol,field,published_on,value\n"
    broken = 'ELV,A,peers,2020-01-01,"A\r\nB\nC"\n'
    more = "".join(f"ELV,A,sector,{2000 + n % 20}-02-{n % 28 + 1:02d},x\n" for n in range(400))
    faults = read("payer_notes.csv", head + broken + "\n" + more + "ELV,A,sector,x,y\n").faults
    assert [f.line for f in faults if f.column == "published_on" and f.value == "x"] == [406]


def test_a_file_torn_half_way_tells_what_was_wrong_before_the_tear() -> None:
    faults = priced(*MANY[:10], "ELV,A,2026-01-01,zero", 'ELV,A,2026-01-02,"5"6', *MANY[10:])
    assert [(f.line, f.column) for f in faults if f.value == "zero"] == [(12, "close")]
    assert any(f.expected.startswith("well-formed CSV") for f in faults)


def test_a_column_left_out_has_its_default_in_every_row() -> None:
    rows = "".join(f"ELV,A,20{n:02d}-03-01,1,TLL\n" for n in range(20))
    reading = read("dividends.csv", "exchange,symbol,ex_date,amount,currency\n" + rows)
    assert {r["kind"] for r in reading.records["dividends"]} == {"regular"}


def test_tables_of_one_kind_in_several_files_keep_their_own_columns() -> None:
    plain = b"exchange,symbol,day,close\nELV,A,2020-01-01,1\n"
    full = b"exchange,symbol,day,close,volume\nELV,A,2020-01-02,1,7\n"
    reading = read_files([("a.csv", plain), ("b.csv", full)], NothingStored(HELD))
    assert [r.get("volume", "not there") for r in reading.records["prices"]] == ["not there", 7.0]


@pytest.mark.parametrize(
    ("field", "value", "sound"),
    [
        ("ownership", "0.62", True),
        ("ownership", "62 %", False),
        ("ownership", "1.2", False),
        ("ownership", "nan", False),
        ("peers", "ELV/TRS", True),
        ("peers", "ELV/TRS, RKM/BRKR", True),
        ("peers", "TRS and others", False),
        ("peers", "ELV/TRS,,RKM/BRKR", False),
        ("sector", "Anything at all", True),
    ],
)
def test_a_note_fits_its_field(field: str, value: str, sound: bool) -> None:
    head = "exchange,symbol,field,published_on,value\n"
    faults = read("payer_notes.csv", f'{head}ELV,A,{field},2026-01-05,"{value}"\n').faults
    assert [f.column for f in faults] == ([] if sound else ["value"])
