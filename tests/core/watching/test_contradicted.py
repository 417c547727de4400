"""A decision whose verdict and prices do not go together is asked about once."""

import pytest

from hearth_yield.core.watching.contradicted import Priced, contradictions


def said(verdict: str, price: float, below: float | None = None, above: float | None = None) -> str:
    found = contradictions(Priced(verdict=verdict, price=price, buy_below=below, trim_above=above))
    return "; ".join(found)


@pytest.mark.parametrize("verdict", ["buy", "hold", "wait", "trim", "avoid"])
def test_without_prices_nothing_contradicts(verdict: str) -> None:
    assert said(verdict, 19.15) == ""


def test_to_buy_above_the_price_one_would_buy_below_is_to_wait() -> None:
    assert said("buy", 19.15, below=17.78).startswith(
        "you would buy below 17.78 and the price is 19.15"
    )
    assert said("buy", 17.78, below=17.78) == said("wait", 19.15, below=17.78) == ""


def test_to_wait_for_what_is_there_is_to_wait_for_nothing() -> None:
    assert "not above the 17.78 you wait for" in said("wait", 17.78, below=17.78)


def test_to_trim_under_the_price_one_would_trim_above() -> None:
    assert "is under the 25.00" in said("trim", 24.99, above=25)
    assert said("trim", 25, above=25) == said("hold", 24.99, above=25) == ""


def test_prices_that_cross_contradict_whatever_the_verdict() -> None:
    assert said("avoid", 20, below=30, above=25) == "you would buy below 30.00 and trim above 25.00"
    assert said("avoid", 20, below=24, above=25) == ""
