"""Estimates against cases worked by hand; the arithmetic of each stands in the case file."""

import json
from dataclasses import replace
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from hearth_yield.core.cover.bases import Basis
from hearth_yield.core.cover.cover import build_cover
from hearth_yield.core.estimates.outlook import Outlook, outlooks
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Estimate, Guidance
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.figures.figure import Figure, Touch
from hearth_yield.core.record.ahead import growth_with_year_ahead
from hearth_yield.core.record.history import build_record
from tests.core.build import TODAY, paid, payer, split, year_statement

CASES: dict[str, Any] = json.loads(
    (Path(__file__).parents[2] / "data" / "estimates_cases.json").read_text()
)


def named(case: dict[str, Any]) -> str:
    return str(case["arithmetic"])


def file_of(estimates: list[Any] = [], **more: Any) -> PayerFile:  # noqa: B006 - only read
    base: dict[str, Any] = {
        "payer": payer(),
        "statements": (
            year_statement(
                2025,
                net_income=300.0,
                diluted_shares=100.0,
                operating_cash_flow=500.0,
                capital_expenditure=100.0,
            ),
        ),
        "dividends": tuple(
            paid(date(y, 5, 10), 1.60, payments_per_year=1) for y in (2024, 2025, 2026)
        ),
        "estimates": tuple(
            Estimate(fiscal_year=y, measure=m, published_on=date.fromisoformat(d), mean=v)
            for y, m, d, v in estimates
        ),
    }
    return PayerFile(**(base | more)).cut(TODAY)


def outlook(file: PayerFile, measure: str = "eps") -> Outlook:
    return next(o for o in outlooks(file) if o.measure == measure)


def same(figure: Figure, want: float | None) -> None:
    if want is None:
        assert figure.value is None
        assert figure.reason
    else:
        assert figure.value == pytest.approx(want, rel=CASES["tolerance"], abs=1e-6)


@pytest.mark.parametrize("case", CASES["revisions"], ids=named)
def test_a_revision(case: dict[str, Any]) -> None:
    found = outlook(file_of(case["estimates"]))
    for months, want in case["want"].items():
        same(found.revised[int(months)], want)


@pytest.mark.parametrize("case", CASES["track"], ids=named)
def test_the_record_of_estimates(case: dict[str, Any]) -> None:
    track = outlook(file_of(case["estimates"])).track
    for months, want in case["off"].items():
        if want is None:
            assert not track or track[0].off[int(months)].value is None
        else:
            same(track[0].off[int(months)], want)
    for months, turned in case["turned"].items():
        assert (track[0].turned(int(months)) if track else None) == turned


@pytest.mark.parametrize("case", CASES["forward"], ids=named)
def test_a_forward_payout(case: dict[str, Any]) -> None:
    file = file_of(case["estimates"])
    forward = build_cover(file, build_record(file)).of(Basis(case["basis"])).forward  # type: ignore[union-attr]
    assert forward is not None
    if "want" in case:
        same(forward, case["want"])
        return
    assert forward.value is None
    assert forward.breach == case.get("breach")
    assert case.get("unknown", "") in (forward.reason or "")


@pytest.mark.parametrize("case", CASES["growth_ahead"], ids=named)
def test_growth_with_the_year_ahead(case: dict[str, Any]) -> None:
    held = [paid(date(int(y), 5, 10), v, payments_per_year=1) for y, v in case["years"].items()]
    declared = paid(date(2026, 5, 10), case["declared"], payments_per_year=1)
    file = file_of(dividends=(*held, declared))
    growth = growth_with_year_ahead(file, build_record(file), case["n"])
    same(growth, case["want"])
    assert growth.notes == ()
    estimated = file_of([[2026, "dps", "2026-06-01", case["declared"]]], dividends=tuple(held))
    growth = growth_with_year_ahead(estimated, build_record(estimated), case["n"])
    same(growth, case["want"])
    assert growth.notes == ("includes an estimate",)


def test_an_estimate_is_in_todays_shares() -> None:
    file = file_of(
        [[2026, "eps", "2026-06-01", 1.10], [2026, "eps", "2026-03-01", 3.00]],
        splits=(split(date(2026, 5, 1), 3),),
    )
    found = outlook(file)
    same(found.mean, 1.10)
    same(found.revised[3], 0.10)


def test_guidance_from_before_a_split_by_hand_says_that_a_hand_was_in_it() -> None:
    guided = Guidance(
        fiscal_year=2026, measure="eps", published_on=date(2026, 2, 20), low=3.20, high=3.40
    )
    by_hand = replace(split(date(2026, 5, 1), 2), entered=True)
    told = outlook(file_of(guidance=(guided,), splits=(by_hand,)))
    same(told.guided_low, 1.60)
    assert {told.guided_low.touch, told.guided_high.touch} == {Touch.ENTERED}
    plain = outlook(file_of(guidance=(guided,), splits=(split(date(2026, 5, 1), 2),)))
    assert plain.guided_low.touch is None


def quarter(end: date, income: float) -> Statement:
    return Statement(
        period_end=end,
        span=Span.QUARTER,
        published_on=date(2026, 6, 1),
        currency="TLL",
        lines={"net_income": income, "diluted_shares": 100.0},
    )


def test_what_the_rest_of_the_year_must_bring() -> None:
    """90 of 330 earned in the first quarter; guided to 3.20 to 3.40."""
    file = file_of([[2026, "eps", "2026-06-01", 3.30]])
    guided = Guidance(
        fiscal_year=2026, measure="eps", published_on=date(2026, 2, 20), low=3.20, high=3.40
    )
    whole = PayerFile(
        payer=file.payer,
        statements=(*file.statements, quarter(date(2026, 3, 31), 90.0)),
        estimates=file.estimates,
        guidance=(guided,),
    ).cut(TODAY)
    found = outlook(whole)
    same(found.so_far, 0.90)
    same(found.part_of_estimate, 0.90 / 3.30)
    same(found.rest_of_estimate, 2.40)
    same(found.guided_middle, 3.30)
    same(found.rest_of_guidance, 2.40)


def test_a_missing_quarter_is_not_counted_as_nothing() -> None:
    file = file_of([[2026, "eps", "2026-06-01", 3.30]])
    whole = PayerFile(
        payer=file.payer,
        statements=(*file.statements, quarter(date(2026, 6, 30), 90.0)),
        estimates=file.estimates,
    ).cut(TODAY)
    assert "is missing" in (outlook(whole).so_far.reason or "")


def test_nothing_of_a_later_day_is_read() -> None:
    held = [[2026, "eps", "2026-07-01", 9.90], [2026, "eps", "2026-06-01", 3.30]]
    same(outlook(file_of(held)).mean, 3.30)
