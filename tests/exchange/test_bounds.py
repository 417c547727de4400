"""Files made to take too much: time, memory, or an answer nobody can read."""

from __future__ import annotations

import io
import json
import struct
import zipfile

import pytest

from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.faults import LISTED, MOST
from hearth_yield.exchange.package import MAX_MEMBERS, PackageRead, read_files
from tests.conftest import zipped

from .test_packages import described, read

HELD = NothingStored({("ELV", "TRS"): "TLL"})
PRICES = "exchange,symbol,day,close\n"
STATEMENT = "exchange,symbol,period_end,span,published_on,currency,unit,revenue\n"


def csv(name: str, text: str) -> PackageRead:
    return read_files([(name, text.encode())], HELD)


def expected(reading: PackageRead) -> list[str]:
    return [f.expected for f in reading.faults]


def test_a_header_that_lies_about_its_size_expands_no_further_than_allowed() -> None:
    """30 MB of nothing in a few kilobytes, which the zip's own directory calls 10 bytes."""
    raw = bytearray(described({"prices.csv": b"0" * 30_000_000}))
    for mark, at in ((b"PK\x01\x02", 24), (b"PK\x03\x04", 22)):
        place = -1
        while (place := raw.find(mark, place + 1)) >= 0:
            raw[place + at : place + at + 4] = struct.pack("<I", 10)
    found = read(bytes(raw))
    assert found.refused
    assert not found.tables


def test_what_expands_too_far_is_stopped_while_it_expands() -> None:
    with pytest.raises(TooLarge, match="expands too far"):
        read(described({"prices.csv": b"0" * 30_000_000}))


@pytest.mark.parametrize("method", [zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_only_the_usual_ways_of_packing_are_read(method: int) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as archive:
        archive.writestr("datapackage.json", "{}")
    assert any("stored or deflated" in e for e in expected(read(out.getvalue())))


@pytest.mark.filterwarnings("ignore:Duplicate name")
def test_a_name_that_stands_twice_in_a_zip_is_refused() -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for text in ("{}", "[]"):
            archive.writestr("datapackage.json", text)
    assert "each file once in the zip" in expected(read(out.getvalue()))


def package(resources: list[dict[str, object]], text: str = PRICES) -> PackageRead:
    descriptor = json.dumps({"name": "x", "resources": resources}).encode()
    return read(zipped({"datapackage.json": descriptor, "prices.csv": text.encode()}))


def test_a_file_named_many_times_is_read_once() -> None:
    found = package([{"name": "prices", "path": "prices.csv"}] * MAX_MEMBERS)
    assert expected(found).count("each file once in datapackage.json") == MAX_MEMBERS - 1


def test_a_descriptor_of_a_million_resources_is_refused_at_once() -> None:
    found = package([{"name": f"p{i}", "path": f"p{i * 7919 % 60_000}"} for i in range(60_000)])
    assert found.refused
    assert len(found.faults) == 1


def test_a_descriptor_that_is_too_long_is_not_parsed() -> None:
    long = json.dumps({"x": list(range(0, 3_000_000, 7))}).encode()
    found = read(zipped({"datapackage.json": long}))
    assert expected(found) == ["at most 2 MB of description"]


def test_the_first_hundred_of_each_cause_are_listed_and_the_rest_counted() -> None:
    rows = "".join(f"ELV,NOBODY,2020-01-{i % 28 + 1:02},x\n" for i in range(50_000))
    bad = csv("prices.csv", PRICES + rows)
    assert len(bad.faults) == LISTED + 1
    assert bad.faults[-1].expected == f"{50_000 - LISTED:,} more like this: a number above 0"
    strange = PRICES + "".join(f"ELV,N{i},2020-01-01,5\n" for i in range(30_000))
    assert len(csv("prices.csv", strange).faults) == LISTED + 1


def test_unknown_and_repeated_columns_are_counted_not_listed() -> None:
    many = ",".join(f"c{i}" for i in range(80_000))
    assert len(csv("prices.csv", f"{PRICES.strip()},{many}\n").faults) == LISTED + 1
    again = ",".join(["day"] * 80_000)
    found = csv("prices.csv", f"{PRICES.strip()},{again}\n")
    assert len(found.faults) == LISTED + 1
    assert found.faults[-1].expected == f"{80_000 - LISTED:,} more like this: each column once"


def test_however_many_causes_there_are_the_answer_stays_short() -> None:
    files = [(f"{i}/prices.csv", (PRICES + "ELV,TRS,x,y\n" * 150).encode()) for i in range(30)]
    found = read_files(files, HELD)
    assert len(found.faults) == MOST + 1
    assert "further lines of faults" in found.faults[-1].expected


def test_a_key_in_two_files_of_one_import_is_a_fault() -> None:
    row = (PRICES + "ELV,TRS,2020-01-03,5\n").encode()
    found = read_files([("a/prices.csv", row), ("b/prices.csv", row)], HELD)
    (fault,) = found.faults
    assert (fault.line, fault.expected) == (2, "each key once; prices.csv has it too")


@pytest.mark.parametrize(
    ("unit", "value", "told"),
    [
        ("million", "1e15", "at most 1,000,000,000,000,000,000"),
        ("thousand", "2e15", "at most 1,000,000,000,000,000,000"),
    ],
)
def test_an_amount_is_bounded_once_it_is_in_single_units(unit: str, value: str, told: str) -> None:
    row = f"ELV,TRS,2025-12-31,year,2026-02-01,TLL,{unit},{value}\n"
    (fault,) = csv("statements.csv", STATEMENT + row).faults
    assert (fault.line, fault.column, fault.value) == (2, "revenue", f"{float(value):g} {unit}")
    assert told in fault.expected


@pytest.mark.parametrize(
    ("table", "row", "column"),
    [
        ("splits", "ELV,TRS,2020-01-03,1e-308,1e308", "new_shares"),
        ("splits", "ELV,TRS,9999-12-31,2,1", "effective_on"),
        ("prices", "ELV,TRS,0001-01-01,5", "day"),
        ("prices", "ELV,TRS,2020-01-03,1e300", "close"),
        ("prices", "ELV,TRS,2020-01-03,1e-300", "close"),
    ],
)
def test_what_no_payer_can_have_is_refused(table: str, row: str, column: str) -> None:
    headers = {"splits": "exchange,symbol,effective_on,new_shares,old_shares\n", "prices": PRICES}
    assert column in {f.column for f in csv(f"{table}.csv", headers[table] + row + "\n").faults}


@pytest.mark.parametrize("encoding", ["rot13", "base64", "unicode_escape", "idna", "x\0y", "zip"])
def test_an_encoding_that_is_none_of_text_is_a_fault(encoding: str) -> None:
    raw = described({"prices.csv": PRICES.encode()}, encoding=encoding)
    assert any("encoding" in e for e in expected(read(raw)))


@pytest.mark.parametrize("delimiter", ["", "ab", "\n", '"', "é", "1"])
def test_a_delimiter_that_is_none_is_a_fault(delimiter: str) -> None:
    raw = described({"prices.csv": PRICES.encode()}, dialect={"delimiter": delimiter})
    assert any("delimiter" in e for e in expected(read(raw)))


@pytest.mark.parametrize("symbol", ["BRX/B", "BRX.B", "BRX B", "BRX,B"])
def test_share_classes_may_hold_signs(symbol: str) -> None:
    header = "exchange,symbol,name,kind,country,currency,fiscal_year_end_month\n"
    row = f'ELV,"{symbol}",Brix,company,Sundrey Isles,TLL,12\n'
    assert not csv("payers.csv", header + row).faults
    assert csv("payers.csv", header + row.replace("ELV", "E/V")).faults
    assert csv("payers.csv", header + row.replace(symbol, "..")).faults
