"""Rows held by column say the same as the dicts they stand for."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.rows import Rows, column_of, keys_of, names_of

DICTS = st.lists(st.fixed_dictionaries({"a": st.integers(), "b": st.text(), "c": st.none()}))


def held(dicts: list[dict[str, object]]) -> Rows:
    rows = Rows(("a", "b", "c"))
    for one in dicts:
        rows.append(one)
    return rows


@given(DICTS, st.slices(20))
def test_they_are_the_sequence_of_their_dicts(dicts: list[dict[str, object]], part: slice) -> None:
    rows = held(dicts)
    assert list(rows) == dicts
    assert [rows[i] for i in range(len(rows))] == dicts
    assert list(rows[part]) == dicts[part]
    rows.extend([[1, 2], ["x", "y"], [None, None]])
    assert list(rows) == [*dicts, {"a": 1, "b": "x", "c": None}, {"a": 2, "b": "y", "c": None}]


@given(DICTS)
def test_columns_and_keys_are_the_same_of_either(dicts: list[dict[str, object]]) -> None:
    rows = held(dicts)
    for name in ("a", "b", "absent"):
        assert list(column_of(rows, name)) == list(column_of(dicts, name))
    assert list(keys_of(rows, ("b", "a"))) == [(d["b"], d["a"]) for d in dicts]


def test_names_of_rows_that_differ_are_those_that_any_has() -> None:
    assert list(names_of([{"a": 1}, {"b": 2, "a": 3}])) == ["a", "b"]
    assert list(names_of(Rows(("x", "y")))) == ["x", "y"]


def test_a_row_handed_out_is_a_copy_and_a_row_that_lacks_a_name_is_refused() -> None:
    rows = held([{"a": 1, "b": "x", "c": None}])
    dict(rows[0])["a"] = 9
    next(iter(rows))["a"] = 9  # type: ignore[index]
    assert rows[0]["a"] == 1
    with pytest.raises(KeyError):
        rows.append({"a": 1, "b": "half of it"})
    assert list(rows) == [{"a": 1, "b": "x", "c": None}]


def test_there_are_none_where_there_are_no_names() -> None:
    assert list(Rows(())) == []
    assert len(Rows(())) == 0
