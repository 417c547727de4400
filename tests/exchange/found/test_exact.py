"""What a ledger counts is read to the last digit, in whatever way it is written."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.exchange.found.numbers import Style, exact_of, number_of

POINT, COMMA = Style("."), Style(",")


@pytest.mark.parametrize(
    ("text", "style", "exact"),
    [
        ("1,234.50", POINT, "1234.50"),
        ("1234567890.12345678", POINT, "1234567890.12345678"),
        ("€1.234.567.890,12345678", COMMA, "1234567890.12345678"),
        ("12,34,567.891", POINT, "1234567.891"),
        ("(0.10)", POINT, "-0.10"),
        ("1'000 TLL", POINT, "1000"),
        ("7.10 %", POINT, "0.0710"),
        (".5", POINT, "0.5"),
    ],
)
def test_each_digit_is_kept(text: str, style: Style, exact: str) -> None:
    found = exact_of(text, style)
    assert str(found) == str(Decimal(exact))


@pytest.mark.parametrize("text", ["", "1.2.3", "12 34", "n/a", "much", "1,23.4"])
def test_what_is_no_number_is_none(text: str) -> None:
    assert exact_of(text, POINT) is None


@given(st.decimals(-(10**15), 10**15, places=8))
def test_it_reads_back_and_agrees_with_the_number(value: Decimal) -> None:
    text = format(value, "f")
    found = exact_of(text, POINT)
    assert found == value
    assert float(value) == pytest.approx(number_of(text, POINT), rel=1e-15)
