"""Figures printed in docs/method.md, calculated outside this code."""

import json
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.judging.judge import cap_cushion, floor_cushion
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.range.ruler import price_at
from hearth_yield.core.range.sample import percentile_of, share_above
from hearth_yield.core.record.declared_rate import payments_of, read_rate
from hearth_yield.core.record.inflation import keeping_pace, real_rate
from hearth_yield.core.worth.dividend_discount import (
    constant_growth_value,
    fading_value,
    two_stage_value,
)
from hearth_yield.core.worth.implied import implied_constant_growth

from .build import PayerFile, dividends, payer

CASES: dict[str, Any] = json.loads(
    (Path(__file__).parent.parent / "data" / "worked_cases.json").read_text()
)


def near(want: float) -> Any:
    """Within 1e-4 of the figure, or half of the last of four printed decimals."""
    return pytest.approx(want, rel=CASES["tolerance"], abs=CASES["half_of_last_decimal"])


@pytest.mark.parametrize("case", CASES["declared_rate"], ids=lambda c: c["name"])
def test_declared_rate(case: dict[str, Any]) -> None:
    paid = dividends(case["paid"], case["per_year"], date(2026, 5, 10), stated=True)
    file = PayerFile(payer=payer(), dividends=paid).cut(date(2026, 6, 1))
    assert read_rate(payments_of(file), (), file.payer, file.day).rate == near(case["want"])


@pytest.mark.parametrize("case", CASES["keeping_pace"])
def test_keeping_pace(case: dict[str, Any]) -> None:
    base, now, then = (
        Figure(label="x", unit=Unit.INDEX, value=case[k]) for k in ("base", "now", "then")
    )
    assert keeping_pace(base, then, now, 2003).value == near(case["want"])


@pytest.mark.parametrize("case", CASES["real_rate"])
def test_real_rate(case: dict[str, Any]) -> None:
    assert real_rate(case["nominal"], case["inflation"]) == near(case["want"])


@pytest.mark.parametrize("case", CASES["cushion"])
def test_cushion(case: dict[str, Any]) -> None:
    rule = {"cap": cap_cushion, "floor": floor_cushion}[case["rule"]]
    assert rule(case["measure"], case["limit"]) == near(case["want"])


@pytest.mark.parametrize("case", CASES["percentile"])
def test_percentile(case: dict[str, Any]) -> None:
    sample = np.array(case["sample"])
    assert percentile_of(sample, case["today"]) == near(case["percentile"])
    assert share_above(sample, case["today"]) == near(case["share_above"])


@pytest.mark.parametrize("case", CASES["price_at_yield"])
def test_price_at_yield(case: dict[str, Any]) -> None:
    assert price_at(YIELD, case["rate"], case["yield"]) == near(case["want"])


@pytest.mark.parametrize("case", CASES["constant_growth"])
def test_constant_growth(case: dict[str, Any]) -> None:
    value = constant_growth_value(case["dividend"], case["growth"], case["required"])
    assert value == near(case["want"])


@pytest.mark.parametrize(
    ("name", "value"), [("two_stage", two_stage_value), ("fading", fading_value)]
)
def test_growth_that_does_not_last(name: str, value: Callable[..., float]) -> None:
    for case in CASES[name]:
        found = value(
            case["dividend"], case["growth"], case["years"], case["later"], case["required"]
        )
        assert found == near(case["want"])


@pytest.mark.parametrize("case", CASES["implied_growth"])
def test_implied_growth(case: dict[str, Any]) -> None:
    growth = implied_constant_growth(case["price"], case["dividend"], case["required"])
    assert growth == near(case["want"])
