from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.api import guard
from tests.conftest import example
from tests.patience import ended


def preview(client: TestClient, name: str) -> Any:
    ((file, raw),) = example(name)
    got = client.post("/api/imports/preview", files=[("files", (file, raw))])
    assert got.status_code == 200, got.text
    return got.json()


def finished(client: TestClient, token: str, accepted: list[int] | None = None) -> Any:
    job = client.post("/api/imports", json={"token": token, "accepted": accepted or []}).json()
    return ended(client, job["id"])


def test_preview_commit_review_undo(client: TestClient) -> None:
    found = preview(client, "pennant-lamps")
    assert not found["refused"]
    job = finished(client, found["token"])
    assert (job["state"], job["done"], job["total"]) == ("done", 456, 456)
    assert client.get("/api/payers/ELV/PNL/review").status_code == 200
    assert client.post(f"/api/imports/{job['source']}/undo").status_code == 204
    assert client.get("/api/payers/ELV/PNL/review").status_code == 404
    assert client.post(f"/api/imports/{job['source']}/undo").status_code == 409


def test_a_faulty_package_lists_every_fault_and_cannot_be_committed(client: TestClient) -> None:
    found = preview(client, "faulty")
    assert found["refused"]
    assert len(found["faults"]) == 39
    job = finished(client, found["token"])
    assert job["state"] == "failed"
    assert len(job["problem"]["faults"]) == 34


def test_a_commit_sent_twice_is_carried_out_once(client: TestClient) -> None:
    """The answer to the first may have been lost on the way."""
    token = preview(client, "pennant-lamps")["token"]
    done = finished(client, token)
    again = client.post("/api/imports", json={"token": token})
    assert (again.status_code, again.json()["id"]) == (202, done["id"])
    assert client.post("/api/imports", json={"token": "another"}).status_code == 404


LARGE = b"exchange,symbol,ex_date,amount,currency\nELV,TRS,2026-08-14,9.5,TLL\n"
"""A payment of nineteen times the one before: a warning."""


def test_a_day_to_come_is_asked_of_files_and_by_hand(client: TestClient) -> None:
    row = {"exchange": "ELV", "symbol": "TRS", "day": "2026-07-01", "close": "60"}
    raw = "\n".join(",".join(cells) for cells in (row, row.values())).encode()
    token = client.post("/api/imports/preview", files=[("files", ("prices.csv", raw))]).json()
    assert [(f["column"], f["warning"]) for f in token["faults"]] == [("day", True)]
    assert finished(client, token["token"])["state"] == "failed"
    entry = {"table": "prices", "rows": [row]}
    asked = client.post("/api/typed-facts/preview", json=entry).json()["faults"]
    assert [(f["value"], f["warning"]) for f in asked] == [("2026-07-01", True)]
    assert client.post("/api/typed-facts", json=entry).status_code == 422
    assert client.post("/api/typed-facts", json=entry | {"accepted": [0]}).status_code == 201


def test_a_commit_that_failed_can_be_sent_again(client: TestClient) -> None:
    dropped = [("files", ("dividends.csv", LARGE, "text/csv"))]
    token = client.post("/api/imports/preview", files=dropped).json()["token"]
    assert finished(client, token, accepted=[])["state"] == "failed"
    assert finished(client, token, accepted=[0])["state"] == "done"


@pytest.mark.parametrize(
    ("headers", "field"),
    [
        ({"host": "evil.example"}, "host"),
        ({"host": "127.0.0.1.evil.example"}, "host"),
        ({"origin": "http://evil.example"}, "origin"),
        ({"origin": "null"}, "origin"),
        ({"origin": "http://127.0.0.1:9999"}, "origin"),
    ],
)
def test_foreign_hosts_and_origins_are_refused(
    client: TestClient, headers: dict[str, str], field: str
) -> None:
    got = client.get("/api/status", headers=headers)
    assert (got.status_code, got.json()["field"]) == (403, field)


def test_its_own_pages_are_welcome(client: TestClient) -> None:
    got = client.get("/api/status", headers={"origin": "http://127.0.0.1"})
    assert got.status_code == 200
    assert "default-src 'self'" in got.headers["content-security-policy"]


def test_a_body_beyond_its_bounds_is_refused(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(guard, "MAX_UPLOAD", 1000)
    monkeypatch.setattr(guard, "FRAMING", 500)
    got = client.post("/api/imports/preview", files=[("files", ("a.csv", b"x" * 2000))])
    assert got.status_code == 413
    assert got.json()["rule"].startswith("at most")


def test_a_backup_may_be_larger_than_an_import_but_not_boundless(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(guard, "MAX_UPLOAD", 1000)
    monkeypatch.setattr(guard, "FRAMING", 500)
    file = {"file": ("b.json", b"x" * 2000)}
    assert client.post("/api/restore", files=file).status_code == 202
    monkeypatch.setattr(guard, "MAX_BACKUP", 1000)
    assert client.post("/api/restore", files=file).status_code == 413


def test_what_would_be_replaced_is_shown_the_most_different_first(client: TestClient) -> None:
    held = client.get("/api/payers/ELV/TRS/facts/prices", params={"count": 3}).json()["rows"]
    days = [r["key"]["day"] for r in held]
    closes = [float(r["cells"]["close"]) for r in held]
    new = (closes[0] * 1.01, closes[1] * 2, closes[2])
    text = "exchange,symbol,day,close\n" + "".join(
        f"ELV,TRS,{day},{close:.4f}\n" for day, close in zip(days, new, strict=True)
    )
    dropped = [("files", ("prices.csv", text.encode(), "text/csv"))]
    found = client.post("/api/imports/preview", files=dropped).json()
    assert found["replaced_in_all"] == 2
    assert [r["row"] for r in found["replaced"]] == [days[1], days[0]]
    first = found["replaced"][0]
    assert (first["whose"], first["field"]) == ("ELV/TRS", "close")
    assert first["apart"] == pytest.approx(0.5)
    assert float(first["before"]) == pytest.approx(closes[1])
    assert float(first["after"]) == pytest.approx(2 * closes[1])
    assert client.post("/api/imports/preview", files=dropped).json()["token"]
