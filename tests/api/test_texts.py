"""Whatever text any door takes, a backup holds and a restore gives back."""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import given as over
from hypothesis import strategies as st
from starlette.testclient import TestClient

from hearth_yield.actions.back_up import back_up, restore
from hearth_yield.actions.import_files import import_files
from hearth_yield.store import backup
from hearth_yield.store.database import Database, pin_today
from hearth_yield.texts import all_plain, is_plain, plain
from tests.conftest import example, sample
from tests.databases import client_of, new_database

NOW = "2026-12-01T08:00:00+00:00"
JSON = {"content-type": "application/json"}
PNL = "/api/payers/ELV/PNL"
ODD = st.text(
    st.one_of(
        st.sampled_from(
            "\x00\x01\x07\x08\x0b\x0c\r\n\t\x1b\x1f\x7f\x85\u2028\ufeff\ud800=+'\"„é你"
        ),
        st.characters(),
    ),
    min_size=1,
    max_size=60,
).filter(lambda text: plain(text).strip() != "")


def doors(text: str) -> dict[str, tuple[str, str, Any]]:
    """Every place at which a person's own words come in."""
    dividend = {"table": "dividends", "key": {"ex_date": "2016-03-11", "kind": "regular"}}
    decision = {"verdict": "hold", "as_of": "2026-06-30", "words": text}
    more = {"pros": text, "cons": text, "risks": text}
    return {
        "decision": ("POST", f"{PNL}/decisions", decision | more),
        "looked back": ("PUT", "/api/decisions/1/looked-back", {"words": text}),
        "disagreement": ("PUT", f"{PNL}/disagreements/cover", {"words": text}),
        "strain": ("PUT", f"{PNL}/strains?strain=fall:0.3", {"name": text}),
        "case": ("PUT", f"{PNL}/worth/cases?inputs=growth:0.03", {"name": text}),
        "line": (
            "PUT",
            f"{PNL}/range/lines",
            {
                "name": text,
                "first_day": "2025-01-02",
                "first_price": 10,
                "last_day": "2026-01-02",
                "last_price": 12,
            },
        ),
        "columns": ("PUT", "/api/saved", {"name": text, "columns": {"columns": ["yield"]}}),
        "edit": (
            "POST",
            f"{PNL}/edits",
            dividend | {"field": "amount", "value": 1, "reason": text},
        ),
        "exclusion": ("POST", f"{PNL}/exclusions", dividend | {"reason": text}),
        "year": (
            "POST",
            f"{PNL}/excluded-years",
            {"period_end": "2024-12-31", "basis": "earnings", "reason": text},
        ),
        "watch": ("PUT", "/api/watch/ELV/PNL", {"note": text, "group": text}),
    }


def sent(client: TestClient, text: str) -> list[str]:
    """The doors that took a text; no other fails but in words."""
    taken = []
    for name, (method, path, body) in doors(text).items():
        got = client.request(method, path, content=json.dumps(body), headers=JSON)
        assert got.status_code < 300 or 400 <= got.status_code < 500, (name, got.text)
        if got.status_code < 300:
            taken.append(name)
    return taken


def rows_of(database: Database) -> dict[str, Any]:
    with database.read() as connection:
        found = backup.dump(connection)
    del found["product_state"]
    return found


@pytest.fixture
def lamps(empty: Database) -> Database:
    import_files(empty, example("pennant-lamps"), at=NOW)
    with empty.write() as connection:
        pin_today(connection, date(2026, 6, 30))
    return empty


@settings(
    max_examples=sample(4, 150),
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)
@over(text=ODD)
def test_whatever_a_door_takes_comes_back(lamps: Database, tmp_path: Path, text: str) -> None:
    client = client_of(lamps)
    rules = client.get("/api/house-rules").json()["rules"]
    note = json.dumps({"rules": rules, "note": text})
    client.put("/api/house-rules", content=note, headers=JSON)
    assert "decision" in sent(client, text)
    held = rows_of(lamps)
    other = new_database(tmp_path / "other.sqlite")
    restore(other, back_up(lamps, at=NOW), at=NOW)
    assert rows_of(other) == held
    assert all_plain(held) == held
    other.close()


def test_control_characters_are_left_out_at_each_door_and_words_kept(lamps: Database) -> None:
    """Each door takes what was pasted from a document, without what cannot be seen."""
    client = client_of(lamps)
    assert sorted(sent(client, "Form\x0cfeed, bell\x07 and half \ud83d.")) == sorted(doors(""))
    made = client.get(f"{PNL}/decisions").json()[0]
    assert made["words"] == "Form\nfeed, bell and half \ufffd."
    assert client.get(f"{PNL}/strains").json()[0]["name"].startswith("Form")
    address = f"{PNL}/strains?strain=fall:0.3&strain_part=tenant%2F%07Bell%0D%0A"
    assert client.put(address, json={"name": "bell"}).status_code < 500
    back_up(lamps, at=NOW)


@over(st.text())
def test_plain_texts_stay_and_others_become_plain(text: str) -> None:
    assert is_plain(plain(text))
    assert plain(plain(text)) == plain(text)
    if is_plain(text):
        assert plain(text) == text
    plain(text).encode()
