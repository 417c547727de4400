"""Footing against cases worked by hand; the arithmetic of each stands in the case file."""

import json
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.footing.stage import build_footing
from hearth_yield.core.judging.judge import run_test
from hearth_yield.core.kinds import Kind
from hearth_yield.core.stages import MEASURES
from tests.core.build import TODAY, payer, year_statement

CASES: dict[str, Any] = json.loads(
    (Path(__file__).parents[2] / "data" / "footing_cases.json").read_text()
)


def named(case: dict[str, Any]) -> str:
    return f"{case['id']}: {case['arithmetic']}"


def file_of(years: list[dict[str, float]], kind: Kind = Kind.COMPANY) -> PayerFile:
    """Fiscal years up to 2025, the last the newest."""
    first = 2026 - len(years)
    held = tuple(year_statement(first + n, **lines) for n, lines in enumerate(years) if lines)
    return PayerFile(payer=payer(kind), statements=held).cut(TODAY)


def hold(figure: Figure | None, case: dict[str, Any]) -> None:
    if case.get("absent"):
        assert figure is None
        return
    assert figure is not None
    if "want" in case:
        rel = case.get("rel", CASES["tolerance"])
        assert figure.value == pytest.approx(case["want"], rel=rel, abs=1e-9)
        return
    assert figure.value is None
    assert figure.breach == case.get("breach")
    assert figure.spared == case.get("spared")
    assert case.get("unknown", "") in (figure.reason or "")


@pytest.mark.parametrize("case", CASES["measures"], ids=named)
def test_a_measure(case: dict[str, Any]) -> None:
    file = file_of([case.get("then", {}), case["now"]], Kind(case.get("kind", "company")))
    hold(MEASURES[case["id"]].read(build_footing(file)), case)


@pytest.mark.parametrize("case", CASES["over_years"], ids=named)
def test_a_measure_over_years(case: dict[str, Any]) -> None:
    years = case.get("lines") or [
        {case["line"]: v, "net_operating_income": 1.0} for v in case["values"]
    ]
    file = file_of(years, Kind(case.get("kind", "company")))
    hold(MEASURES[case["id"]].read(build_footing(file)), case)


@pytest.mark.parametrize("case", CASES["cushions"], ids=named)
def test_a_cushion(case: dict[str, Any]) -> None:
    spec = MEASURES[case["id"]]
    figure = Figure(label=spec.name, unit=spec.unit, value=case["measure"])
    test = run_test(spec, figure, Limit(value=case["limit"], required=True), None, 0.10)
    assert test.cushion.value == pytest.approx(case["want"], rel=CASES["tolerance"])


def test_what_spares_a_test_passes_it_with_all_to_spare() -> None:
    file = file_of([{"ebit": 90.0, "interest_expense": 0.0}])
    figure = MEASURES["interest_cover"].read(build_footing(file))
    test = run_test(MEASURES["interest_cover"], figure, Limit(value=4, required=True), None, 0.10)  # type: ignore[arg-type]
    assert (test.state.value, test.cushion.value) == ("within", 1.0)
    assert test.cushion.notes == ("no interest to pay",)


def test_an_old_statement_gives_no_current_footing() -> None:
    years = [{"ebit": 360.0, "interest_expense": 50.0}]
    file = replace(file_of(years), as_of=TODAY.replace(year=2028))
    figure = MEASURES["interest_cover"].read(build_footing(file))
    assert figure is not None
    assert (figure.value, figure.was) == (None, pytest.approx(7.2))
