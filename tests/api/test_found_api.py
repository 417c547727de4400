"""Files as people have them over HTTP: understood, settled, previewed, imported."""

import io
import json
import zipfile
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.exchange.found import apart
from tests.conftest import get
from tests.exchange.found.files import WIDE, workbook
from tests.patience import ended

BOOK = workbook({"Lanterns": [["Brass Lanterns"], *WIDE]})
NEW = {
    "exchange": "ELV",
    "symbol": "BRL",
    "name": "Brass Lanterns",
    "kind": "company",
    "country": "Sundrey",
    "currency": "TLL",
    "fiscal_year_end_month": "12",
}


def preview(client: TestClient, name: str, raw: bytes, **settled: Any) -> Any:
    files = {"files": (name, raw)}
    got = client.post("/api/imports/preview", files=files, data={"settled": json.dumps(settled)})
    assert got.status_code == 200, got.text
    return got.json()


def open_of(found: Any) -> list[str]:
    return [
        x["id"]
        for file in found["found"]
        for table in file["tables"]
        for x in table["settings"]
        if x["answer"] is None
    ]


def test_a_spreadsheet_is_settled_and_imported_to_a_review(client: TestClient) -> None:
    first = preview(client, "lanterns.xlsx", BOOK)
    assert first["token"] == ""
    asked = open_of(first)
    assert asked == ["0.0.payer", "0.currency", "0.unit"]
    answers = {"0.0.payer": "ELV/BRL", "0.unit": "million"}
    second = preview(client, "lanterns.xlsx", BOOK, answers=answers, payers=[NEW])
    assert {t["table"]: t["added"] for t in second["tables"]} == {"payers": 1, "statements": 3}
    assert any("turned" in note for note in second["found"][0]["tables"][0]["notes"])
    job = client.post("/api/imports", json={"token": second["token"], "accepted": []}).json()
    assert ended(client, job["id"])["state"] == "done"
    review = get(client, "/api/payers/ELV/BRL/review")
    assert review["payer"]["name"] == "Brass Lanterns"
    assert get(client, "/api/sources")[0]["file_name"] == "lanterns.xlsx"


def test_mixed_signs_are_asked_with_the_line_named(client: TestClient) -> None:
    mixed = [["TRS", "TLL in millions"], *(r for r in WIDE if r[0] != "Capital expenditures")]
    mixed.append(["Capital expenditures", -50, 55, -60])
    found = preview(client, "TRS.xlsx", workbook({"TRS": mixed}))
    assert found["token"] == ""
    assert open_of(found) == ["0.0.sign-6"]
    told = preview(client, "TRS.xlsx", workbook({"TRS": mixed}), answers={"0.0.sign-6": "out"})
    assert told["token"]


def test_our_own_files_pass_as_they_are(client: TestClient) -> None:
    own = b"exchange,symbol,day,close\nELV,TRS,2026-06-30,61.9\n"
    found = preview(client, "prices.csv", own)
    assert found["found"] == []
    assert found["token"]


def test_what_was_settled_is_bounded_and_read_strictly(client: TestClient) -> None:
    files = {"files": ("lanterns.xlsx", BOOK)}
    for text in ("[1", '{"payers":[{"symbol":"X"}]}', '{"answers":{"0.unit":7}}'):
        got = client.post("/api/imports/preview", files=files, data={"settled": text})
        assert (got.status_code, got.json()["field"]) == (422, "settled")


def done(client: TestClient, found: Any, **more: Any) -> None:
    """Imports what was previewed, with all its warnings."""
    places = [n for n, f in enumerate(found["faults"]) if f["warning"]]
    body = {"token": found["token"], "accepted": places, **more}
    job = client.post("/api/imports", json=body).json()
    state = ended(client, job["id"])
    assert state["state"] == "done", state["problem"]


TRS = workbook({"TRS": WIDE})


def test_what_was_settled_is_kept_with_the_import_and_read_by_the_next_time(
    client: TestClient,
) -> None:
    found = preview(client, "first.xlsx", TRS, answers={"0.unit": "million"})
    done(client, found, profile="my sheets")
    (kept,) = get(client, "/api/import-profiles")
    assert (kept["name"], kept["kinds"]) == ("my sheets", ["statements"])
    again = preview(client, "second.xlsx", workbook({"TRS": [*WIDE, ["Total assets", 1, 2, 3]]}))
    (table,) = again["found"][0]["tables"]
    assert table["profile"] == "my sheets"
    assert open_of(again) == []
    without = preview(client, "second.xlsx", TRS, answers={"0.0.profile": "none"})
    assert open_of(without) == ["0.unit"]
    other = workbook({"TRS": [WIDE[0], ["Sales", 1, 2, 3], ["Total assets", 5, 5, 5]]})
    assert "0.unit" in open_of(preview(client, "other.xlsx", other))


def test_a_profile_is_renamed_exported_deleted_and_imported(client: TestClient) -> None:
    done(
        client,
        preview(client, "first.xlsx", TRS, answers={"0.unit": "million"}),
        profile=" my   sheets ",
    )
    (kept,) = get(client, "/api/import-profiles")
    address = f"/api/import-profiles/{kept['id']}"
    assert client.put(address, json={"name": ""}).status_code == 422
    assert client.put(address, json={"name": "theirs"}).status_code == 204
    document = client.get(f"{address}/export")
    assert document.json()["name"] == "theirs"
    assert "theirs.json" in document.headers["content-disposition"]
    assert client.delete(address).status_code == 204
    assert client.delete(address).status_code == 404
    assert get(client, "/api/import-profiles") == []
    back = client.post("/api/import-profiles", files={"file": ("t.json", document.content)})
    assert back.json() == {"name": "theirs"}
    bad = client.post("/api/import-profiles", files={"file": ("t.json", b'{"format":"x"}')})
    assert (bad.status_code, bad.json()["field"]) == (422, "profile")


def test_a_likely_slip_offers_its_mend_and_the_mend_holds(client: TestClient) -> None:
    """Share counts in thousands that say nothing of it, far off from net income ÷ EPS."""
    rows = [["TRS", "TLL in millions"], *WIDE, ["Diluted EPS", 3, 3, 3]]
    rows.append(["Diluted shares", 40_000, 40_000, 40_000])
    told = {"0.0.shares": "1"}
    found = preview(client, "TRS.xlsx", workbook({"TRS": rows}), answers=told)
    (slip,) = [f for f in found["faults"] if f["mend"]]
    assert slip["warning"]
    assert slip["file"].startswith("TRS.xlsx, cell ")
    assert slip["mend"] == {
        "id": "0.0.shares",
        "value": "thousand",
        "name": "Read share counts in thousands",
    }


def test_amounts_in_pence_are_mended_by_one_answer(client: TestClient) -> None:
    pence = b"Ex-date,Dividend\n2026-06-12,49.58\n"
    found = preview(client, "TRS.csv", pence)
    (mend,) = [f["mend"] for f in found["faults"] if f["mend"]]
    assert (mend["id"], mend["value"]) == ("0.0.per_share", "0.01")
    again = preview(client, "TRS.csv", pence, answers={mend["id"]: mend["value"]})
    assert [f for f in again["faults"] if f["mend"]] == []


def test_templates_are_read_as_they_are(empty_client: TestClient) -> None:
    """By who has none of their payers: the list of payers first, then the rest."""
    listed = get(empty_client, "/api/templates")
    book = empty_client.get("/api/templates/all.xlsx").content
    names = {t["id"]: empty_client.get(f"/api/templates/{t['id']}.csv").content for t in listed}
    payers = preview(empty_client, "payers.csv", names["payers"])
    assert open_of(payers) == []
    done(empty_client, payers)
    for id, raw in names.items():
        found = preview(empty_client, f"{id}.csv", raw)
        if id in ("trades", "positions"):
            assert open_of(found) == ["0.account"]
            found = preview(empty_client, f"{id}.csv", raw, answers={"0.account": "Mine"})
        assert open_of(found) == [], id
        assert found["token"], id
    found = preview(empty_client, "templates.xlsx", book)
    assert set(open_of(found)) == {"0.account"}
    assert len(found["found"][0]["tables"]) == len(listed)
    assert get(empty_client, "/api/templates/nothing.csv", 404)["field"] == "id"


def test_pasted_cells_are_read_by_their_headings_in_the_unit_of_the_grid(
    client: TestClient,
) -> None:
    text = "TLL in thousands\t\n\t2025\nRevenue\t910,500.0\nCapex\t-50,000.0\n"
    body = {"table": "statements", "payer": "ELV/TRS", "text": text, "unit": "million"}
    found = client.post("/api/typed-facts/read", json=body).json()
    (row,) = found["rows"]
    assert (row["revenue"], row["capital_expenditure"]) == ("910.5", "50")
    assert "published_on" not in row
    assert any("turned" in n for n in found["notes"])
    plain = client.post("/api/typed-facts/read", json=body | {"text": "1\t2\n3\t4"}).json()
    assert plain == {"rows": [], "notes": [], "left_out": [], "asks": []}


def test_a_year_and_a_rule_are_enough_to_type_a_statement(client: TestClient) -> None:
    row = {"exchange": "ELV", "symbol": "TRS", "period_end": "2026", "currency": "TLL"}
    row |= {"revenue": "950", "unit": "million"}
    typed = {"table": "statements", "rows": [row]}
    assert client.post("/api/typed-facts", json=typed).status_code == 422, "2026 is not over"
    kept = client.post("/api/typed-facts", json=typed | {"accepted": [0, 1]})
    assert kept.status_code == 201, kept.text
    facts = get(client, "/api/payers/ELV/TRS/facts/statements", span="year")
    newest = facts["rows"][0]
    assert newest["key"] == {
        "period_end": "2026-12-31",
        "span": "year",
        "published_on": "2027-03-01",
    }
    assert newest["cells"]["assumed"] == "published_on"


def test_a_year_of_dividends_is_typed_as_one_payment(client: TestClient) -> None:
    row = {"exchange": "ELV", "symbol": "TRS", "ex_date": "1990", "amount": "1", "currency": "TLL"}
    assert (
        client.post("/api/typed-facts", json={"table": "dividends", "rows": [row]}).status_code
        == 201
    )
    oldest = get(client, "/api/payers/ELV/TRS/facts/dividends", count=400)["rows"][-1]
    assert oldest["key"]["ex_date"] == "1990-12-31"
    assert (oldest["cells"]["assumed"], oldest["cells"]["payments_per_year"]) == ("ex_date", 1)


def test_a_day_that_can_be_read_in_two_ways_is_refused_as_typed(client: TestClient) -> None:
    row = {"exchange": "ELV", "symbol": "TRS", "day": "03/04/2026", "close": "60"}
    found = client.post("/api/typed-facts/preview", json={"table": "prices", "rows": [row]}).json()
    (fault,) = found["faults"]
    assert (fault["column"], fault["value"], fault["line"]) == ("day", "03/04/2026", 1)


def test_a_reading_is_looked_at_and_cancelled_while_it_goes_on(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: dict[str, Any] = {}

    def read_on(rows: list[list[str]]) -> Iterator[list[Any]]:
        yield ["sheet", "S", False]
        yield ["rows", rows, []]
        asked["job"] = get(client, "/api/jobs/reading-1")
        client.delete("/api/jobs/reading-1")
        yield ["end"]

    monkeypatch.setattr(apart, "_frames", lambda _: read_on([["Date", "Close"]]))
    files = {"files": ("PNL.csv", b"Date,Close\n2026-06-30,12\n")}
    got = client.post("/api/imports/preview", files=files, data={"task": "reading-1"})
    assert (got.status_code, got.json()["title"]) == (409, "Cancelled")
    assert (asked["job"]["state"], asked["job"]["step"]) == ("running", "reading rows")
    assert client.get("/api/jobs/reading-1").status_code == 404
    bad = client.post("/api/imports/preview", files=files, data={"task": "../x"})
    assert bad.status_code == 422


def test_an_assumed_day_is_kept_with_the_fact(client: TestClient) -> None:
    found = preview(client, "BRNH.xlsx", workbook({"BRNH": [["TLL in millions"], *WIDE]}))
    assert found["token"]
    done(client, found)
    stored = get(client, "/api/payers/ELV/BRNH/facts/statements", span="year", count=400)
    assert sum(r["cells"]["assumed"] == "published_on" for r in stored["rows"]) == 3


def test_a_table_of_the_page_becomes_a_workbook_without_formulas(client: TestClient) -> None:
    body = {"name": "Payers", "rows": [["Name", "Yield"], ["=cmd|' /C'!A1", 0.05]]}
    book = client.post("/api/tables/xlsx", json=body)
    with zipfile.ZipFile(io.BytesIO(book.content)) as archive:
        sheet = archive.read("xl/worksheets/sheet1.xml").decode()
    assert "<f>" not in sheet
    assert "0.05" in sheet


def test_the_usual_payer_is_what_most_are(client: TestClient) -> None:
    usual = get(client, "/api/payers-usual")
    assert usual == {"exchange": "ELV", "country": "Sundrey Isles", "currency": "TLL"}


def test_where_there_is_none_nothing_is_usual(empty_client: TestClient) -> None:
    assert get(empty_client, "/api/payers-usual")["currency"] == ""
