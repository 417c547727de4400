"""Files as people have them over HTTP: understood, settled, previewed, imported."""

import json
import time
from typing import Any

from fastapi.testclient import TestClient

from tests.conftest import get
from tests.exchange.found.files import WIDE, workbook

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
    for _ in range(100):
        if get(client, f"/api/jobs/{job['id']}")["state"] == "done":
            break
        time.sleep(0.1)
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
