"""Whatever is asked, the answer is an answer or a refusal that names the rule, never a crash."""

from collections.abc import Iterator
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.databases import client_of, copy_of

SYMBOLS = ("TRS", "GWK", "QLN", "NWO", "CRF", "LRT", "NONE", "../x", "%00")
text = st.text(max_size=12)
number = st.one_of(
    st.floats(allow_nan=True, allow_infinity=True), st.integers(-(10**9), 10**9), text
)
day = st.one_of(st.dates(date(1990, 1, 1), date(2030, 1, 1)), text)
question = st.fixed_dictionaries(
    {},
    optional={
        "as_of": day,
        "window": st.one_of(st.sampled_from(["3", "5", "10", "all"]), text),
        "base_years": number,
        "aim": number,
        "aim_price": number,
        "quantity": st.one_of(st.just("yield"), text),
        "inputs": st.one_of(
            st.tuples(
                st.sampled_from(["growth", "required_return", "mean_yield", "lasting_growth"]),
                number,
            ).map(lambda pair: f"{pair[0]}:{pair[1]}"),
            text,
        ),
        "on": st.one_of(st.just("constant_growth"), text),
        "off": st.one_of(st.just("yield_reversion"), text),
    },
)


@pytest.fixture(scope="module")
def shared(twenty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    database = copy_of(twenty_file, tmp_path_factory.mktemp("fuzzed") / "demo.sqlite")
    with client_of(database) as client:
        yield client
    database.close()


def checked(client: TestClient, path: str, query: dict[str, Any]) -> None:
    got = client.get(path, params=query)
    assert got.status_code in (200, 404, 422), got.text
    if got.status_code == 200:
        got.json()
    else:
        assert got.headers["content-type"] == "application/problem+json"
        assert got.json()["detail"]


KEYS = ("payer.price", "worth.combined", "range.weeks")
slow = settings(
    max_examples=60,
    deadline=None,
    suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow],
)


@slow
@given(symbol=st.sampled_from(SYMBOLS), query=question)
def test_reviews(shared: TestClient, symbol: str, query: dict[str, Any]) -> None:
    checked(shared, f"/api/payers/ELV/{symbol}/review", query)


@slow
@given(query=question, part=st.sampled_from(["worth", "aim", "decisions"]))
def test_parts(shared: TestClient, query: dict[str, Any], part: str) -> None:
    checked(shared, f"/api/payers/ELV/TRS/{part}", query)


@slow
@given(key=st.one_of(st.sampled_from(KEYS), text), path=text)
def test_workings(shared: TestClient, key: str, path: str) -> None:
    checked(shared, "/api/payers/ELV/TRS/working", {"key": key, "path": path})


@slow
@given(q=text, sort=st.one_of(st.sampled_from(["name", "state"]), text), down=st.booleans())
def test_lists(shared: TestClient, q: str, sort: str, down: bool) -> None:
    checked(shared, "/api/payers", {"q": q, "sort": sort, "descending": down})
    checked(shared, "/api/names", {"q": q})


@slow
@given(
    body=st.dictionaries(
        st.sampled_from(["verdict", "words", "buy_below", "as_of", "question"]),
        st.one_of(
            st.none(),
            st.booleans(),
            st.integers(),
            st.floats(allow_nan=False, allow_infinity=False),
            text,
        ),
    )
)
def test_decisions_of_any_shape_are_taken_or_refused(
    shared: TestClient, body: dict[str, Any]
) -> None:
    got = shared.post("/api/payers/ELV/TRS/decisions", json=body)
    assert got.status_code in (201, 409, 422), got.text
