"""Multiples against a payer's own past: by hand, and as every past day knew them."""

from dataclasses import replace
from datetime import date

import numpy as np
import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import PriceHistory, Split, split_factor
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.facts.steps import steps_of
from hearth_yield.core.kinds import Kind
from hearth_yield.core.question import Question
from hearth_yield.core.range.multiples import (
    EV_TO_EBITDA,
    MULTIPLES,
    PRICE_TO_EARNINGS,
    SUITS,
    PerShare,
    suiting,
)
from hearth_yield.core.range.quantity import Quantity
from hearth_yield.core.range.ruler import ruler_of
from hearth_yield.core.range.weekly import weekly_values
from hearth_yield.core.record.history import build_record
from hearth_yield.core.worth.justified import justified_multiple
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database

from ..build import TODAY, payer, review, steady, weekly_prices, year_statement

LINES = {
    "revenue": 1000.0,
    "net_income": 120.0,
    "diluted_shares": 40.0,
    "operating_cash_flow": 180.0,
    "capital_expenditure": 60.0,
    "dividends_paid": 48.0,
    "ebit": 170.0,
    "interest_expense": 10.0,
    "depreciation_amortization": 50.0,
    "cash": 30.0,
    "short_term_debt": 20.0,
    "long_term_debt": 230.0,
    "total_assets": 900.0,
    "total_liabilities": 400.0,
    "minority_interest": 20.0,
    "preferred_equity": 80.0,
    "preferred_dividends": 4.0,
}


def company(price: float = 36.0, **lines: float) -> PayerFile:
    return PayerFile(
        payer=payer(),
        statements=(year_statement(2025, **(LINES | lines)),),
        prices=PriceHistory.of([(date(2026, 6, 26), price)], source=3),
    ).cut(TODAY)


def today(file: PayerFile, quantity: Quantity) -> float | None:
    return ruler_of(file, build_record(file), "5", quantity).now.value


@pytest.mark.parametrize(
    ("id", "by_hand"),
    [
        ("earnings", 36 / ((120 - 4) / 40)),
        ("free_cash_flow", 36 / ((180 - 60 - 4) / 40)),
        ("operating_cash_flow", 36 / ((180 - 4) / 40)),
        ("sales", 36 / (1000 / 40)),
        ("book", 36 / ((900 - 400 - 20 - 80) / 40)),
        ("ev_ebitda", (36 * 40 + 20 + 230 - 30 + 20 + 80) / (170 + 50)),
    ],
)
def test_a_multiple_by_hand(id: str, by_hand: float) -> None:
    quantity = next(q for q in MULTIPLES if q.id == id)
    assert today(company(), quantity) == pytest.approx(by_hand)


FLOWS = {
    "revenue",
    "net_income",
    "operating_cash_flow",
    "capital_expenditure",
    "dividends_paid",
    "ebit",
    "interest_expense",
    "depreciation_amortization",
    "preferred_dividends",
}


def test_enterprise_value_counts_the_newest_shares() -> None:
    """Four quarters on 40 shares, the newest on 50: 36 × 50, not 36 × 42.5."""
    apiece = {k: v / 4 if k in FLOWS else v for k, v in LINES.items()}
    quarters = tuple(
        replace(
            year_statement(2025, **(apiece | {"diluted_shares": shares})),
            period_end=date(2025, month, day),
            span=Span.QUARTER,
        )
        for month, day, shares in ((3, 31, 40.0), (6, 30, 40.0), (9, 30, 40.0), (12, 31, 50.0))
    )
    file = replace(company(), statements=quarters).cut(TODAY)
    claims = 20 + 230 - 30 + 20 + 80
    assert today(file, EV_TO_EBITDA) == pytest.approx((36 * 50 + claims) / (170 + 50))


def test_preferred_dividends_that_nothing_tells_leave_no_multiple_beside_preferred_equity() -> None:
    silent = {
        k: v for k, v in LINES.items() if k not in ("operating_cash_flow", "preferred_dividends")
    }
    file = replace(company(), statements=(year_statement(2025, **silent),)).cut(TODAY)
    assert today(file, PRICE_TO_EARNINGS) is None
    none = silent | {"preferred_equity": 0.0}
    file = replace(company(), statements=(year_statement(2025, **none),)).cut(TODAY)
    assert today(file, PRICE_TO_EARNINGS) == pytest.approx(36 * 40 / LINES["net_income"])


def test_a_loss_has_no_multiple_and_says_why() -> None:
    ruler = ruler_of(company(net_income=-5.0), build_record(company()), "5", PRICE_TO_EARNINGS)
    assert ruler.now.value is None
    assert ruler.now.reason == "earnings per share is not positive"


def test_the_price_of_a_multiple_gives_the_multiple_back() -> None:
    """At 8 × EBITDA of 220: 1,760, less 320 of claims, on 40 shares: 36.00."""
    file = company()
    found = ruler_of(file, build_record(file), "5", EV_TO_EBITDA)
    assert found.beside is not None
    assert EV_TO_EBITDA.price(5.5, 8.0, found.beside.value) == pytest.approx(36.0)
    assert EV_TO_EBITDA.value(5.5, 36.0, found.beside.value) == pytest.approx(8.0)


def _statements(**more: float) -> list[Statement]:
    return [
        year_statement(y, **(LINES | {"net_income": 100.0 + y - 2015} | more))
        for y in range(2015, 2026)
    ]


def test_a_multiple_of_the_past_knows_only_what_was_published() -> None:
    """Earnings of 2024 come out on 20 February 2025 and are corrected a year later: on the Friday
    before, 2023 counts; until the correction, what was first said."""
    first = _statements()
    wrong = [
        replace(s, lines={**s.lines, "net_income": 200.0}) if s.period_end.year == 2024 else s
        for s in first
    ]
    right = [replace(s, published_on=date(2026, 1, 15)) for s in first if s.period_end.year == 2024]
    file = PayerFile(
        payer=payer(),
        statements=(*wrong, *right),
        prices=weekly_prices(date(2020, 1, 3), date(2026, 6, 26), close=36.0),
    ).cut(TODAY)
    weekly = weekly_values(file, PRICE_TO_EARNINGS)
    found = dict(zip(weekly.days.astype(date).tolist(), weekly.values.tolist(), strict=True))
    assert found[date(2025, 2, 14)] == pytest.approx(36 / ((108 - 4) / 40))
    assert found[date(2025, 2, 21)] == pytest.approx(36 / ((200 - 4) / 40))
    assert found[date(2026, 1, 16)] == pytest.approx(36 / ((109 - 4) / 40))
    assert found[date(2026, 2, 27)] == pytest.approx(36 / ((110 - 4) / 40))


def test_what_is_old_is_a_gap_and_not_a_multiple() -> None:
    held = [s for s in _statements() if s.period_end.year in (2018, 2022)]
    file = PayerFile(
        payer=payer(),
        statements=tuple(held),
        prices=weekly_prices(date(2018, 1, 5), date(2026, 6, 26), close=36.0),
    ).cut(TODAY)
    weekly = weekly_values(file, PRICE_TO_EARNINGS)
    known = weekly.days[~np.isnan(weekly.values)].astype(date)
    assert date(2019, 2, 22) in known
    assert not [d for d in known if date(2020, 8, 23) < d < date(2023, 2, 20)]
    assert max(known) < date(2024, 8, 25)


def test_a_split_changes_no_multiple() -> None:
    plain = PayerFile(
        payer=payer(),
        statements=tuple(_statements()),
        prices=weekly_prices(date(2020, 1, 3), date(2026, 6, 26), close=36.0),
    )
    split = Split(effective_on=date(2023, 5, 2), new_shares=3.0, old_shares=1.0)
    closes = np.where(plain.prices.days < np.datetime64("2023-05-02"), 36.0, 12.0)
    rows = list(zip(plain.prices.days.astype(date).tolist(), closes.tolist(), strict=True))
    tripled = tuple(
        replace(s, lines={**s.lines, "diluted_shares": 120.0})
        if s.published_on >= split.effective_on
        else s
        for s in plain.statements
    )
    other = replace(
        plain, statements=tripled, splits=(split,), prices=PriceHistory.of(rows, source=3)
    )
    for quantity in MULTIPLES:
        one, two = (weekly_values(f.cut(TODAY), quantity).values for f in (plain, other))
        assert np.allclose(one, two, equal_nan=True), quantity.id


MEASURES = {
    q.id: q.steps.__self__  # type: ignore[attr-defined]
    for q in MULTIPLES
}


@pytest.mark.parametrize(
    "symbol", ["TRS", "LRT", "WPP", "PLG", "SLTM", "OPT", "PKRC", "NWO", "ZPHM", "CRF"]
)
def test_every_past_day_says_what_its_own_file_says(demo: Database, symbol: str) -> None:
    """The numbers read over all days at once are the figures that a file cut to each would show."""
    with demo.read() as connection:
        keys = {s: e for e, s in payer_files.keys(connection)}
        whole = payer_files.load(connection, keys[symbol], symbol)
    file = whole.cut(TODAY)
    for id, measure in MEASURES.items():
        assert isinstance(measure, PerShare)
        days, values = measure.steps(file)
        checked = 0
        for n in range(0, len(days), 5):
            day = days[n].astype(date)
            own = measure.now(whole.cut(day))
            told = None if np.isnan(values[n]) else values[n]
            assert own.known == (told is not None), (id, day, own.reason)
            if own.value is not None:
                in_todays = own.value / split_factor(file.splits, day)
                assert told == pytest.approx(in_todays, rel=1e-9), (id, day)
                checked += 1
        if id in {q.id for q in SUITS[file.payer.kind]}:
            assert checked >= (1 if symbol == "NWO" else 5), id


def test_statements_in_another_currency_give_no_multiple() -> None:
    file = company()
    other = replace(file, payer=payer(currency="THK")).cut(TODAY)
    assert np.isnan(steps_of(other).line("revenue")).all()
    found = ruler_of(other, build_record(other), "5", PRICE_TO_EARNINGS).now
    assert "not converted" in (found.reason or "")


def test_each_kind_has_its_multiples() -> None:
    assert [q.id for q in suiting(Kind.FINANCIAL)] == ["yield", "earnings", "book"]
    assert "affo" in [q.id for q in suiting(Kind.PROPERTY_TRUST)]


def test_the_justified_multiple_of_the_worked_case() -> None:
    """Half of earnings paid out, 4 % growth, 8 % asked: 0.5 × 1.04 ÷ 0.04 = 13.0. Growth is held to
    two points under what is asked, unless it is typed so near."""
    found = review(steady(), question=Question(quantity="earnings"))
    rate, base = found.record.declared_rate, found.range.base
    assert rate.value is not None
    half = replace(found.range, base=base.but(value=rate.value * 2))
    growth, required = rate.but(value=0.04), rate.but(value=0.08)
    said = justified_multiple(half, rate, growth, required)
    assert said.value == pytest.approx(13.0)
    third = replace(found.range, base=base.but(value=rate.value / 0.552))
    assert justified_multiple(third, rate, growth, required).value == pytest.approx(14.352)
    near = growth.but(value=0.07)
    assert justified_multiple(half, rate, near, required).value == pytest.approx(0.5 * 1.06 / 0.02)
    typed = near.but(notes=("yours",))
    assert justified_multiple(half, rate, typed, required).value is None
    assert found.worth.justified is not None


def test_the_typical_multiple_is_the_median_unless_the_mean_is_asked() -> None:
    file = steady(prices=weekly_prices(date(2012, 1, 6), date(2026, 6, 26), 20.0, 0.001))
    by_median = review(file, question=Question(quantity="earnings")).range
    by_mean = review(file, question=Question(quantity="earnings", typical="mean")).range
    assert by_median.typical.value == by_median.median.value
    assert by_mean.typical.value == by_mean.mean.value != by_median.median.value
    assert by_mean.fair_price.value != by_median.fair_price.value
    assert review(file).range.typical.value == review(file).range.mean.value
