"""The routes through which a person's data comes in, asked anything at all: an answer or a refusal
that names the rule, never a crash, and the household still whole afterwards."""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from urllib.parse import quote

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hearth_yield.core.finding.catalogue import CHOICES
from hearth_yield.core.stages import MEASURES
from hearth_yield.exchange.columns import IN_FILES
from tests.databases import client_of, copy_of

text = st.text(max_size=16)
scalar = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(2**70), 2**70),
    text,
    st.floats(allow_nan=False, allow_infinity=False),
)
anything = st.recursive(
    scalar,
    lambda inner: st.one_of(st.lists(inner, max_size=3), st.dictionaries(text, inner, max_size=3)),
    max_leaves=6,
)
as_json = anything.map(lambda x: json.dumps(x).encode())
table = st.one_of(st.sampled_from(sorted(IN_FILES)), text)
cell = st.one_of(
    st.sampled_from(
        [
            "ELV",
            "TRS",
            "2026-06-30",
            "2026-02-30",
            "1",
            "-1",
            "1e308",
            "1,5",
            "TLL",
            "regular",
            "year",
            "=1+1",
            "(5)",
            "million",
            "",
        ]
    ),
    text,
)


@pytest.fixture(scope="module")
def shared(twenty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    database = copy_of(twenty_file, tmp_path_factory.mktemp("fuzzed") / "demo.sqlite")
    with client_of(database) as client:
        yield client
    assert database.engine.raw_connection().execute("PRAGMA integrity_check").fetchone() == ("ok",)
    assert database.engine.raw_connection().execute("PRAGMA foreign_key_check").fetchall() == []
    database.close()


slow = settings(
    max_examples=60,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)


def told(got: Any, *good: int) -> None:
    assert got.status_code in (*good, 404, 409, 422), got.text
    if got.status_code not in good:
        assert got.headers["content-type"] == "application/problem+json"
        assert got.json()["detail"]


@slow
@given(name=table, data=st.data(), unit=st.sampled_from(["1", "million", "dozen"]))
def test_entries(shared: TestClient, name: str, data: st.DataObject, unit: str) -> None:
    known = [c.name for c in IN_FILES[name].columns] if name in IN_FILES else ["x"]
    column = st.one_of(st.sampled_from(known), text)
    rows = data.draw(st.lists(st.dictionaries(column, cell, max_size=8), max_size=3))
    body = {"table": name, "rows": rows, "unit": unit, "accepted": [0, 1]}
    told(shared.post("/api/typed-facts/preview", json=body), 200)
    told(shared.post("/api/typed-facts", json=body), 201)


@slow
@given(
    body=st.dictionaries(
        st.sampled_from(["table", "key", "field", "value", "reason", "period_end", "basis"]),
        st.one_of(anything, st.just({"day": "2026-06-30"}), st.just("prices"), st.just("close")),
    )
)
@pytest.mark.parametrize("route", ["edits", "exclusions", "excluded-years"])
def test_a_persons_hand(shared: TestClient, route: str, body: dict[str, Any]) -> None:
    told(shared.post(f"/api/payers/ELV/TRS/{route}", json=body), 201)


condition = st.fixed_dictionaries(
    {
        "id": st.one_of(st.sampled_from([*MEASURES, *CHOICES]), text),
        "op": st.one_of(st.sampled_from(["at_least", "at_most", "is", "is_not", "known"]), text),
    },
    optional={"value": scalar, "words": st.one_of(st.lists(text, max_size=3), scalar)},
)
group = st.recursive(
    st.fixed_dictionaries(
        {"join": st.sampled_from(["all", "any", "none"]), "parts": st.lists(condition, max_size=3)}
    ),
    lambda inner: st.fixed_dictionaries(
        {"join": st.sampled_from(["all", "any"]), "parts": st.lists(inner, max_size=3)}
    ),
    max_leaves=4,
)


@slow
@given(
    where=st.one_of(group.map(json.dumps), text),
    by=text,
    columns=text,
    first=st.integers(-(10**6), 10**6),
    count=st.integers(-5, 10**6),
)
def test_searches(
    shared: TestClient, where: str, by: str, columns: str, first: int, count: int
) -> None:
    asked: dict[str, Any] = {"where": where, "first": first, "count": count}
    told(shared.get("/api/payers", params=asked | {"columns": columns}), 200)
    told(shared.get("/api/payers", params=asked | {"columns": "yield,kind"}), 200)
    told(shared.get("/api/payers/keys", params={"where": where}), 200)
    told(shared.get("/api/payers/groups", params={"where": where, "by": by}), 200)
    told(shared.get("/api/payers/groups", params={"where": where, "by": "kind"}), 200)


@slow
@given(
    body=st.one_of(
        anything,
        st.fixed_dictionaries(
            {"name": text},
            optional={
                "search": st.fixed_dictionaries({"where": group}),
                "columns": st.fixed_dictionaries({"columns": st.lists(text)}),
            },
        ),
    )
)
def test_saved_views(shared: TestClient, body: Any) -> None:
    told(shared.put("/api/saved", json=body), 204)
    assert shared.get("/api/saved").status_code == 200


@slow
@given(name=table, code=text, first=st.integers(-9, 10**7), count=st.integers(-9, 10**7), span=text)
def test_what_is_held(
    shared: TestClient, name: str, code: str, first: int, count: int, span: str
) -> None:
    window = {"first": first, "count": count}
    told(shared.get("/api/coverage", params={"q": code, **window}), 200)
    path = f"/api/payers/ELV/TRS/facts/{quote(name, safe='') or '_'}"
    told(shared.get(path, params={"span": span, **window}), 200)
    told(shared.get("/api/export", params={"payer": code or "?"}), 200)


@slow
@given(
    name=text,
    raw=st.one_of(st.binary(max_size=200), anything.map(lambda x: json.dumps(x).encode())),
)
def test_dropped_files(shared: TestClient, name: str, raw: bytes) -> None:
    file = (name or "x", raw)
    told(shared.post("/api/imports/preview", files=[("files", file)]), 200)
    got = shared.post("/api/restore", files={"file": file})
    assert got.status_code in (202, 422)
