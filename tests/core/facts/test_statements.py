"""One statement: the lines it reports, what is silent and counts as nil, whose hand was in it."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.edits import Edited, Exclusion
from hearth_yield.core.facts.statements import (
    BALANCE_LINES,
    CASH_LINES,
    INCOME_LINES,
    STATEMENT_LINES,
    Lines,
    Span,
    Statement,
    words,
)
from hearth_yield.core.figures.figure import Touch, Unit

from ..build import year_statement

rows = st.lists(
    st.one_of(st.none(), st.floats(-1e9, 1e9)),
    min_size=len(STATEMENT_LINES),
    max_size=len(STATEMENT_LINES),
)


@given(row=rows, name=st.sampled_from((*STATEMENT_LINES, "goodwill")))
def test_lines_read_like_a_dict_of_what_is_reported(row: list[float | None], name: str) -> None:
    plain = {n: v for n, v in zip(STATEMENT_LINES, row, strict=True) if v is not None}
    lines = Lines(row)
    assert dict(lines) == plain
    assert (len(lines), list(lines)) == (len(plain), list(plain))
    assert lines.get(name) == plain.get(name)
    assert (name in lines) == (name in plain)
    if name in plain:
        assert lines[name] == plain[name]
    else:
        with pytest.raises(KeyError):
            lines[name]


def test_every_line_belongs_to_one_section() -> None:
    assert len(set(STATEMENT_LINES)) == len(STATEMENT_LINES)
    assert set(STATEMENT_LINES) == {*INCOME_LINES, *CASH_LINES, *BALANCE_LINES}


@pytest.mark.parametrize(
    ("silent", "total"),
    [
        ("impairments", "net_income"),
        ("straight_line_rent", "net_income"),
        ("gains_on_property_sales", "net_income"),
        ("buybacks", "operating_cash_flow"),
        ("preferred_dividends", "operating_cash_flow"),
        ("share_issuance", "operating_cash_flow"),
        ("minority_interest", "total_assets"),
        ("preferred_equity", "total_assets"),
        ("short_term_debt", "total_assets"),
    ],
)
def test_an_optional_line_is_nil_only_beside_its_sections_total(silent: str, total: str) -> None:
    beside = year_statement(2024, **{total: 7.0}).line(silent)
    assert (beside.value, beside.notes) == (0.0, ("not reported; counted as nil",))
    alone = year_statement(2024, revenue=7.0).line(silent)
    assert alone.value is None
    assert alone.reason == "not reported for fiscal 2024"


@pytest.mark.parametrize("core", ["revenue", "net_income", "cash", "interest_expense", "ebit"])
def test_a_missing_core_line_is_never_nil(core: str) -> None:
    every = {n: 1.0 for n in STATEMENT_LINES if n != core}
    assert year_statement(2024, **every).line(core).value is None


def test_units_follow_from_the_line() -> None:
    found = year_statement(2024, **dict.fromkeys(STATEMENT_LINES, 1.0))
    assert found.line("diluted_eps").unit is Unit.PER_SHARE
    assert found.line("shares_outstanding").unit is Unit.SHARES
    assert found.line("occupancy").unit is Unit.FRACTION
    assert found.line("revenue").unit is Unit.MONEY


def test_per_share_lines_and_counts_move_with_later_splits_and_money_does_not() -> None:
    found = Statement(
        period_end=date(2020, 12, 31),
        span=Span.YEAR,
        published_on=date(2021, 2, 1),
        currency="TLL",
        split_factor=4.0,
        split_touch=Touch.ENTERED,
        lines={"diluted_eps": 8.0, "diluted_shares": 10.0, "net_income": 80.0},
    )
    eps, shares, income = (found.line(n) for n in ("diluted_eps", "diluted_shares", "net_income"))
    assert (eps.value, shares.value, income.value) == (2.0, 40.0, 80.0)
    assert (eps.touch, shares.touch, income.touch) == (Touch.ENTERED, Touch.ENTERED, None)
    assert eps.fact is not None
    assert eps.fact.raw == 8.0
    assert "adjusted for later splits (4 for 1)" in eps.notes


def test_an_adjusted_line_keeps_what_was_held_beside_its_reason() -> None:
    made = Edited(original=90.0, reason="harbour dues", made_on=date(2026, 6, 30))
    found = Statement(
        period_end=date(2024, 12, 31),
        span=Span.YEAR,
        published_on=date(2025, 2, 1),
        currency="TLL",
        lines={"net_income": 70.0, "revenue": 500.0},
        edited={"net_income": made},
        entered=True,
    )
    income = found.line("net_income")
    assert (income.value, income.touch) == (70.0, Touch.EDITED)
    assert income.fact is not None
    assert income.fact.raw == 90.0
    assert income.notes == ("edited by you on 2026-06-30, was 90: harbour dues",)
    assert found.line("revenue").touch is Touch.ENTERED


def test_a_line_adjusted_where_nothing_was_reported_says_so() -> None:
    made = Edited(original=None, reason="from the notes", made_on=date(2026, 6, 30))
    assert "was not reported" in made.note


def test_an_older_version_knows_what_it_stands_for() -> None:
    def left(day: date, kind: str, known: date) -> Exclusion:
        return Exclusion(
            table="statements",
            kind=kind,
            name="x",
            day=day,
            known_on=known,
            reason="misprint",
            made_on=date(2026, 6, 30),
        )

    first = year_statement(2022)  # published 20 February 2023
    assert first.older_than(left(date(2022, 12, 31), "year", date(2024, 2, 1)))
    assert not first.older_than(left(date(2022, 12, 31), "year", date(2023, 2, 20)))
    assert not first.older_than(left(date(2022, 12, 31), "quarter", date(2024, 2, 1)))
    assert not first.older_than(left(date(2021, 12, 31), "year", date(2024, 2, 1)))


@pytest.mark.parametrize(
    ("line", "said"),
    [
        ("free_cash_flow", "free cash flow"),
        ("ebitda", "EBITDA"),
        ("diluted_eps", "diluted EPS"),
        ("affo", "AFFO"),
    ],
)
def test_lines_are_named_in_words(line: str, said: str) -> None:
    assert words(line) == said


def test_periods_are_named_by_span() -> None:
    half = Statement(
        period_end=date(2025, 6, 30),
        span=Span.HALF,
        published_on=date(2025, 8, 1),
        currency="TLL",
        lines={},
    )
    assert (year_statement(2024).period, half.period) == ("fiscal 2024", "half to 2025-06-30")
    assert [s.months for s in (Span.YEAR, Span.HALF, Span.QUARTER)] == [12, 6, 3]


def test_an_assumed_day_of_publication_is_told_with_every_figure() -> None:
    assumed = Statement(
        period_end=date(2025, 12, 31),
        span=Span.YEAR,
        published_on=date(2026, 3, 1),
        currency="TLL",
        lines={"revenue": 140.0},
        assumed=True,
    )
    assert "assumed" in assumed.line("revenue").notes[0]
    plain = year_statement(2025, revenue=140.0)
    assert not any("assumed" in n for n in plain.line("revenue").notes)
