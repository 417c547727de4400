"""Facts and the cut: what a day knew, in today's shares."""

from dataclasses import fields, replace
from datetime import date

import pytest

from hearth_yield.core.errors import MethodError
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import (
    Dividend,
    DividendKind,
    PayerNote,
    PriceHistory,
    SeriesPoint,
    Slump,
    split_factor,
    without_sums,
)
from hearth_yield.core.facts.statements import Span
from hearth_yield.core.figures.figure import Unit

from ..build import notice, payer, price_index, split, steady, year_statement

DAY = date(2026, 6, 30)


def test_of_restated_statements_the_newest_known_counts() -> None:
    first = year_statement(2024, revenue=100.0)
    again = replace(first, published_on=date(2026, 2, 1), lines={"revenue": 90.0})
    file = PayerFile(payer=payer(), statements=(again, first))
    (before,) = file.cut(date(2026, 1, 31)).statements
    (after,) = file.cut(date(2026, 2, 1)).statements
    assert before.lines["revenue"] == 100.0
    assert after.lines["revenue"] == 90.0


def test_nothing_later_than_the_day_is_left() -> None:
    day = date(2019, 5, 3)
    cut = steady(notices=(notice(date(2020, 1, 1)),), splits=(split(date(2021, 1, 1), 2),)).cut(day)
    assert max(d.known_on for d in cut.dividends) <= day
    assert max(s.published_on for s in cut.statements) <= day
    assert cut.prices.days[-1].astype(date) <= day
    assert cut.notices == cut.splits == ()
    assert cut.price_index is not None
    assert max(p.published_on for p in cut.price_index.points) <= day


def test_a_slump_is_known_from_its_first_day_and_its_end_from_its_last() -> None:
    slump = Slump(name="s", begins=date(2020, 3, 1), ends=date(2020, 9, 1))
    assert slump.until(date(2020, 2, 29)) is None
    assert slump.until(date(2020, 8, 31)) == Slump(name="s", begins=date(2020, 3, 1), ends=None)
    assert slump.until(date(2020, 9, 1)) == slump


def test_of_notes_on_one_field_the_newest_known_counts() -> None:
    notes = tuple(
        PayerNote(field="sector", value=v, published_on=date(y, 1, 1))
        for y, v in ((2020, "Tools"), (2010, "Ropes"))
    )
    file = PayerFile(payer=payer(), notes=notes)
    before, now = file.cut(date(2015, 1, 1)).note("sector"), file.cut(DAY).note("sector")
    assert before is not None
    assert now is not None
    assert (before.value, now.value) == ("Ropes", "Tools")
    assert file.cut(DAY).note("industry") is None


def test_an_uncut_file_is_refused() -> None:
    with pytest.raises(MethodError) as caught:
        _ = steady().day
    assert caught.value.field == "as_of"


@pytest.mark.parametrize(
    ("after", "factor"), [("2010-01-01", 6.0), ("2012-05-14", 3.0), ("2015-01-01", 1.0)]
)
def test_split_factor_multiplies_what_came_later(after: str, factor: float) -> None:
    splits = (split(date(2012, 5, 14), 2), split(date(2014, 1, 6), 3))
    assert split_factor(splits, date.fromisoformat(after)) == factor


def test_a_reverse_split_makes_old_amounts_larger() -> None:
    assert split_factor((split(date(2020, 1, 1), 1, 10),), date(2019, 1, 1)) == 0.1


def test_statement_lines_stand_in_todays_shares() -> None:
    statement = year_statement(2010, diluted_shares=10.0, diluted_eps=6.0, net_income=60.0)
    file = PayerFile(payer=payer(), statements=(statement,), splits=(split(date(2015, 1, 1), 3),))
    (cut,) = file.cut(DAY).statements
    assert cut.line("diluted_shares").value == 30.0
    assert cut.line("diluted_eps").value == 2.0
    assert cut.line("net_income").value == 60.0
    assert "3 for 1" in cut.line("diluted_eps").notes[0]


def test_a_statement_published_after_the_split_is_in_its_shares_already() -> None:
    statement = year_statement(2014, diluted_shares=30.0)
    file = PayerFile(payer=payer(), statements=(statement,), splits=(split(date(2015, 1, 15), 3),))
    assert statement.published_on > date(2015, 1, 15)
    assert file.cut(DAY).statements[0].line("diluted_shares").value == 30.0


@pytest.mark.parametrize(
    ("line", "total"),
    [
        ("impairments", "net_income"),
        ("gains_on_property_sales", "net_income"),
        ("straight_line_rent", "net_income"),
        ("preferred_dividends", "operating_cash_flow"),
        ("buybacks", "operating_cash_flow"),
        ("share_issuance", "operating_cash_flow"),
        ("preferred_equity", "total_assets"),
        ("minority_interest", "total_assets"),
        ("short_term_debt", "total_assets"),
    ],
)
def test_optional_lines_are_nil_only_beside_their_sections_total(line: str, total: str) -> None:
    with_total = year_statement(2025, **{total: 5.0}).line(line)
    assert with_total.value == 0.0
    assert "not reported" in with_total.notes[0]
    assert year_statement(2025).line(line).value is None


@pytest.mark.parametrize("line", ["revenue", "cash", "capital_expenditure", "ebit", "equity"])
def test_a_missing_core_line_is_unknown_never_nil(line: str) -> None:
    full = year_statement(2025, net_income=1.0, operating_cash_flow=1.0, total_assets=1.0)
    figure = full.line(line)
    assert figure.value is None
    assert figure.reason == "not reported for fiscal 2025"


def test_lines_carry_unit_currency_period_date_and_source() -> None:
    figure = year_statement(2025, occupancy=0.96).line("occupancy")
    assert figure.unit is Unit.FRACTION
    assert (figure.currency, figure.period) == ("TLL", "fiscal 2025")
    assert (figure.known_on, figure.source) == (date(2026, 2, 20), 2)


def test_prices_until_a_day_include_that_day() -> None:
    history = PriceHistory.of([(date(2026, 1, d), float(d)) for d in (2, 9, 16)])
    assert history.until(date(2026, 1, 9)).closes.tolist() == [2.0, 9.0]
    assert len(history.until(date(2025, 1, 1))) == 0


def test_adjusted_closes_follow_every_split() -> None:
    rows = [(date(2020, 1, 3), 60.0), (date(2020, 2, 7), 21.0), (date(2020, 3, 6), 10.0)]
    file = PayerFile(
        payer=payer(),
        prices=PriceHistory.of(rows),
        splits=(split(date(2020, 2, 3), 3), split(date(2020, 3, 2), 2)),
    )
    assert file.cut(DAY).adjusted_closes.tolist() == [10.0, 10.5, 10.0]
    assert file.cut(date(2020, 2, 10)).adjusted_closes.tolist() == [20.0, 21.0]


def test_a_series_shows_the_newest_version_of_each_point() -> None:
    index = price_index(2020, date(2020, 3, 1))
    first = index.points[0]
    revised = SeriesPoint(day=first.day, published_on=date(2020, 6, 1), value=7.0)
    index = replace(index, points=(*index.points, revised))
    assert index.until(date(2020, 5, 31)).points[0].value == pytest.approx(100.0)
    assert index.until(date(2020, 6, 1)).points[0].value == 7.0


def test_spans_count_months() -> None:
    assert [s.months for s in Span] == [12, 6, 3]


@pytest.mark.parametrize("year", [2010, 2018, 2024])
def test_no_record_of_a_cut_file_was_published_later(year: int) -> None:
    """Of every table there is: also of the versions that past days are read from."""
    day = date(year, 6, 30)
    cut = steady(price_index=price_index(2002, date(2026, 6, 1))).cut(day)
    looked_at = set()
    for field in fields(cut):
        held = getattr(cut, field.name)
        for record in held if isinstance(held, tuple) else ():
            for known in ("known_on", "published_on", "declared_on", "effective_on"):
                when = getattr(record, known, None)
                if when is not None:
                    looked_at.add(field.name)
                    assert when <= day, (field.name, record)
    assert {"dividends", "statements", "versions"} <= looked_at
    assert cut.price_index is not None
    assert all(p.published_on <= day for p in cut.price_index.points)


@pytest.mark.parametrize("turned", [False, True])
def test_what_a_year_paid_gives_way_to_its_payments(turned: bool) -> None:
    """2.40 for 2025, of which four payments of 0.60 are held; 2.20 for 2024 stands alone."""
    sums = [
        Dividend(ex_date=date(y, 12, 31), amount=a, currency="TLL", assumed=True)
        for y, a in ((2024, 2.20), (2025, 2.40))
    ]
    paid = [Dividend(ex_date=date(2025, m, 10), amount=0.6, currency="TLL") for m in (1, 4, 7, 10)]
    special = Dividend(
        ex_date=date(2024, 6, 1), amount=1.0, currency="TLL", kind=DividendKind.SPECIAL
    )
    held = [*paid, *sums, special] if turned else [*sums, special, *paid]
    kept = without_sums(held)
    assert [d for d in held if d not in kept] == [sums[1]]
    first = Dividend(ex_date=date(2024, 10, 10), amount=0.6, currency="TLL")
    kept = without_sums([*held, first])
    assert sums[0] in kept
    assert sums[1] not in kept
    assert first not in kept
