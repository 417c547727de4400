"""What is kept from two tabs: the second is told of the first, and neither undoes the other."""

from __future__ import annotations

from typing import Any

import pytest
from fastapi.testclient import TestClient

from hearth_yield.store.database import Database
from tests.databases import client_of

TRS = "/api/payers/ELV/TRS"
KEPT: dict[str, tuple[str, str]] = {
    "disagreement": (f"{TRS}/disagreements/cover", "words"),
    "watch": ("/api/watch/ELV/TRS", "note"),
    "looked back": ("/api/decisions/1/looked-back", "words"),
}


@pytest.fixture
def client(twenty: Database) -> TestClient:
    client = client_of(twenty)
    made = {"verdict": "hold", "words": "x", "as_of": "2026-06-30"}
    assert client.post(f"{TRS}/decisions", json=made).status_code == 201
    return client


@pytest.mark.parametrize("kind", KEPT)
def test_a_note_that_was_overtaken_is_refused_with_what_stands_there(
    kind: str, client: TestClient
) -> None:
    address, name = KEPT[kind]

    def body(words: str, begun: str) -> dict[str, Any]:
        return {name: words, "begun": {name: begun} if kind == "watch" else begun}

    assert client.put(address, json=body("first tab", "")).status_code == 204
    refused = client.put(address, json=body("second tab", ""))
    assert refused.status_code == 409
    problem = refused.json()
    assert (problem["field"], problem["value"]) == (name, "first tab")
    assert "changed elsewhere" in problem["detail"]
    assert client.put(address, json=body("both", " first tab ")).status_code == 204
    assert client.put(address, json={name: "by a script"}).status_code == 204


def test_house_rules_saved_in_one_tab_are_not_undone_by_another(client: TestClient) -> None:
    def save(limit: float, begun: int | None) -> Any:
        rules = client.get("/api/house-rules").json()["rules"]
        rules["limits"] = {"company": {"payout": {"value": limit, "required": False}}}
        return client.put("/api/house-rules", json={"rules": rules, "begun": begun})

    assert save(0.5, 0).status_code == 201
    refused = save(0.7, 0)
    assert (refused.status_code, refused.json()["value"]) == (409, "1")
    held = client.get("/api/house-rules").json()
    assert held["rules"]["limits"]["company"]["payout"]["value"] == 0.5
    assert save(0.7, held["version"]).status_code == 201
    assert save(0.6, None).status_code == 201
