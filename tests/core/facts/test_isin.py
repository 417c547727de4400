"""ISO 6166: two letters, nine letters or digits, a check digit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.isin import is_isin, with_check_digit

MARKS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"


def test_a_check_digit_by_hand() -> None:
    """QS000000TRS is 26 28 000000 29 27 28: every second digit from the right doubled, 7 + 2 + 5 +
    2 + 9 + 2 + 7 + 2 + 3 + 2 = 41, and 9 more make a multiple of ten."""
    assert with_check_digit("QS000000TRS") == "QS000000TRS9"


@pytest.mark.parametrize(
    "text",
    [
        "",
        "QS000000TRS8",
        "qs000000trs9",
        "QS00000TRS9",
        "Q1000000TRS9",
        "QS000000TRSX",
        "QS0 000TRS9",
    ],
)
def test_what_is_none(text: str) -> None:
    assert not is_isin(text)


@given(own=st.text(MARKS, min_size=9, max_size=9), at=st.integers(0, 10), by=st.integers(1, 9))
def test_one_wrong_digit_is_seen(own: str, at: int, by: int) -> None:
    isin = with_check_digit(f"QS{own}")
    assert is_isin(isin)
    if isin[at].isdigit():
        wrong = (int(isin[at]) + by) % 10
        assert not is_isin(f"{isin[:at]}{wrong}{isin[at + 1 :]}")
