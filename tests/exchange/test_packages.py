"""Zips and descriptors: the example packages, and archives that must not be trusted."""

import json
import zipfile

import pytest

from examples.zip_examples import zip_folder
from hearth_yield.core.errors import TooLarge
from hearth_yield.exchange import package
from hearth_yield.exchange.checks import NothingStored
from hearth_yield.exchange.package import PackageRead, read_files
from tests.conftest import EXAMPLES, example, zipped


def described(files: dict[str, bytes], **resource: object) -> bytes:
    names = [{"name": n.removesuffix(".csv"), "path": n, **resource} for n in files]
    return zipped(files | {"datapackage.json": json.dumps({"resources": names}).encode()})


def read(raw: bytes) -> PackageRead:
    return read_files([("test.zip", raw)], NothingStored({("ELV", "A"): "TLL"}))


PRICES = b"exchange,symbol,day,close\nELV,A,2026-01-02,20\n"


@pytest.mark.parametrize("name", ["pennant-lamps", "faulty"])
def test_the_example_zips_hold_their_folders(name: str, tmp_path) -> None:
    zip_folder(EXAMPLES / name, tmp_path / "again.zip")
    with (
        zipfile.ZipFile(tmp_path / "again.zip") as made,
        zipfile.ZipFile(EXAMPLES / f"{name}.zip") as kept,
    ):
        assert {i.filename: made.read(i) for i in made.infolist()} == {
            i.filename: kept.read(i) for i in kept.infolist()
        }


def test_the_good_example_has_no_fault() -> None:
    reading = read_files(example("pennant-lamps"), NothingStored())
    assert reading.faults == []
    records = reading.records
    assert {n: len(r) for n, r in records.items()} == {
        "payers": 1,
        "payer_notes": 2,
        "dividends": 43,
        "prices": 391,
        "statements": 10,
        "estimates": 4,
        "guidance": 1,
        "exposures": 4,
    }
    assert records["dividends"][0]["amount"] == 0.2
    assert records["statements"][-1]["revenue"] == pytest.approx(259.38e6, rel=1e-3)


def test_the_faulty_example_names_every_fault() -> None:
    found = {
        (f.file, f.line, f.column)
        for f in read_files(example("faulty"), NothingStored()).faults
        if not f.warning
    }
    assert found == {
        ("payers.csv", 3, "kind"),
        ("payers.csv", 4, "currency"),
        ("payers.csv", 4, "fiscal_year_end_month"),
        ("payers.csv", 5, "symbol"),
        ("payers.csv", 6, "delisted_on"),
        ("dividends.csv", 3, "ex_date"),
        ("dividends.csv", 4, "amount"),
        ("dividends.csv", 5, "amount"),
        ("dividends.csv", 6, "pay_date"),
        ("dividends.csv", 7, "kind"),
        ("dividends.csv", 8, "symbol"),
        ("dividends.csv", 9, "kind"),
        ("dividends.csv", 13, None),
        ("prices.csv", 3, "close"),
        ("prices.csv", 6, "day"),
        ("statements.csv", 3, "unit"),
        ("statements.csv", 4, "total_assets"),
        ("statements.csv", 5, "published_on"),
        ("statements.csv", 6, "span"),
        ("splits.csv", 1, "colour"),
        ("dividend_notices.csv", 1, "notice"),
        ("series.csv", 2, "published_on"),
        ("series.csv", 3, "name"),
        ("series.csv", 4, "value"),
        ("series.csv", 5, "of_currency"),
        ("estimates.csv", 2, "mean"),
        ("estimates.csv", 3, "measure"),
        ("estimates.csv", 4, "fiscal_year"),
        ("guidance.csv", 2, "high"),
        ("exposures.csv", 2, "share"),
        ("slumps.csv", 2, "ends"),
        ("slumps.csv", 3, None),
        ("payer_notes.csv", None, None),
        ("faulty.zip", None, None),
    }


def test_the_faulty_example_warns_of_what_may_be_right() -> None:
    found = [
        (f.file, f.line, f.column)
        for f in read_files(example("faulty"), NothingStored()).faults
        if f.warning
    ]
    assert found == [
        ("dividends.csv", 10, "ex_date"),
        ("dividends.csv", 11, "amount"),
        ("dividends.csv", 12, "currency"),
        ("prices.csv", 5, "close"),
        ("statements.csv", 2, "revenue"),
    ]


def test_the_descriptor_says_what_a_comma_means() -> None:
    raw = b"exchange;symbol;day;close\nELV;A;2026-01-02;1.234,5\n"
    schema = {"fields": [{"name": "close", "decimalChar": ",", "groupChar": "."}]}
    reading = read(described({"prices.csv": raw}, dialect={"delimiter": ";"}, schema=schema))
    assert reading.records["prices"][0]["close"] == 1234.5


@pytest.mark.parametrize("path", ["../prices.csv", "/prices.csv", "a/../../b.csv", "C:prices.csv"])
def test_paths_out_of_the_archive_are_refused(path: str) -> None:
    assert read(described({path: PRICES})).refused


def test_a_bomb_is_refused_before_it_expands() -> None:
    with pytest.raises(TooLarge, match="expands too far"):
        read(described({"prices.csv": b"0" * 40_000_000}))


def test_too_many_members_and_too_many_bytes_are_refused(monkeypatch: pytest.MonkeyPatch) -> None:
    with pytest.raises(TooLarge, match="too many files"):
        read(zipped({f"{i}.csv": b"x" for i in range(101)}))
    monkeypatch.setattr(package, "MAX_UPLOAD", 10)
    with pytest.raises(TooLarge) as caught:
        read(described({"prices.csv": PRICES}))
    assert caught.value.rule


@pytest.mark.parametrize(
    "descriptor", [b"{", b"[]", b'{"resources": []}', b'{"resources": [{"name": 3}]}', b"\xff"]
)
def test_a_broken_descriptor_is_a_fault(descriptor: bytes) -> None:
    assert read(zipped({"datapackage.json": descriptor})).refused


def test_a_zip_without_a_descriptor_or_torn_in_two_is_a_fault() -> None:
    assert read(zipped({"prices.csv": PRICES})).refused
    assert read(described({"prices.csv": PRICES})[:60]).refused
