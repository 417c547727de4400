"""Payers as awkward as files make them, on which what must always hold holds.

Rhythms that change, years in part, gaps, fiscal years of 52 and 53 weeks, splits to come, stops,
uneven, young and falling payers, catching up, issuing and buying back, two currencies, missing
lines and quarters.
"""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import (
    Dividend,
    DividendKind,
    Notice,
    NoticeKind,
    PriceHistory,
    Split,
)
from hearth_yield.core.facts.statements import Span, Statement
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import Kind
from hearth_yield.core.names import named_figures
from hearth_yield.core.record.payments import Outcome
from hearth_yield.core.review import Review, build_review
from tests.conftest import sample

from .build import payer, price_index

TODAY = date(2026, 6, 30)
WHOLE = {"diluted_shares", "total_assets"}
"""Lines that a quarter does not have a part of."""
FIRST = 2006
RULES = HouseRules()


def _dates(chance: random.Random, begin: date, until: date, per_year: int) -> list[date]:
    """Ex-dates of one rhythm, sliding by a few days; some slots are left out."""
    step, slide = 365.25 / per_year, min(6, 365.25 / per_year / 8)
    found, at = [], 0.0
    while (day := begin + timedelta(days=round(at))) < until:
        if chance.random() > 0.01:
            found.append(day + timedelta(days=round(chance.uniform(-slide, slide))))
        at += step
    return found


def _dividends(chance: random.Random) -> list[Dividend]:
    begin = date(
        FIRST + chance.randrange(12), chance.choice((1, 1, 2, 5, 11)), chance.randint(1, 28)
    )
    amount, found = chance.uniform(0.5, 4.0), []
    raises = chance.choice(((1.03, 1.08, 1.0, 0.6), (0.97, 0.94, 1.0), (1.1, 1.2), (1.0,)))
    while begin < TODAY:
        per_year = chance.choice((1, 2, 2, 4, 4, 12))
        until = min(TODAY + timedelta(days=40), begin + timedelta(days=chance.randint(500, 6000)))
        apart = chance.choice((1.0, 1.0, 0.4)) if per_year == 2 else 1.0
        stated = chance.random() < 0.4
        for n, ex in enumerate(_dates(chance, begin, until, per_year)):
            if n % per_year == 0 and chance.random() < 0.6:
                amount *= chance.choice(raises)
            share = amount / per_year * (apart if n % 2 else 2 - apart)
            found.append(
                Dividend(
                    ex_date=ex,
                    amount=round(share, 4),
                    currency="TLL",
                    declared_on=ex - timedelta(days=chance.randint(10, 50)),
                    payments_per_year=per_year if stated else None,
                    source=1,
                )
            )
        begin = until + timedelta(days=chance.randint(20, 400))
    for special in chance.sample(found, min(2, len(found))):
        other = chance.choice(("TLL", "THK"))
        found.append(replace(special, kind=DividendKind.SPECIAL, currency=other))
    return found


def _statements(chance: random.Random) -> list[Statement]:
    weeks = chance.random() < 0.3
    end = date(FIRST, *chance.choice(((12, 31), (3, 31), (6, 30), (12, 28))))
    shares, cash, found = 100.0, chance.uniform(50, 400), []
    issued = chance.choice((1.0, 0.96, 1.05, 1.2))
    while end < TODAY:
        shares *= chance.choice((1.0, issued))
        cash *= chance.uniform(0.7, 1.35)
        lines = {
            "revenue": cash * 8,
            "net_income": cash * chance.uniform(-0.3, 1.2),
            "operating_cash_flow": cash,
            "capital_expenditure": cash * chance.uniform(0, 1.1),
            "dividends_paid": chance.choice((0.0, cash * 0.4)),
            "diluted_shares": shares,
            "preferred_dividends": chance.choice((0.0, 5.0)),
            "distributable_cash_flow": cash,
            "property_depreciation": 5.0,
            "recurring_capex": 2.0,
            "total_assets": 900.0,
        }
        for gone in chance.sample(sorted(lines), chance.choice((0, 0, 0, 2))):
            del lines[gone]
        if chance.random() > 0.08:
            found.append(
                Statement(
                    period_end=end,
                    span=Span.YEAR,
                    lines=lines,
                    source=2,
                    published_on=end + timedelta(days=chance.randint(30, 100)),
                    currency="THK" if chance.random() < 0.02 else "TLL",
                )
            )
        end = _next_end(end, chance.choice((364, 364, 371)) if weeks else None)
    return found + (_quarters(chance, found[-2:]) if chance.random() < 0.4 else [])


def _quarters(chance: random.Random, years: list[Statement]) -> list[Statement]:
    """Of the newest years, and of the one that runs; some are missing."""
    found = []
    for year in years:
        for n in range(1, 5):
            end = year.period_end + timedelta(days=91 * n)
            if end < TODAY - timedelta(days=30) and chance.random() > 0.15:
                quarter = {k: v if k in WHOLE else v / 4 for k, v in year.lines.items()}
                found.append(
                    replace(
                        year,
                        period_end=end,
                        span=Span.QUARTER,
                        lines=quarter,
                        published_on=end + timedelta(days=25),
                    )
                )
    return found


def _next_end(end: date, days: int | None) -> date:
    if days is not None:
        return end + timedelta(days=days)
    return end.replace(year=end.year + 1)


def _prices(chance: random.Random) -> PriceHistory:
    rows, close, day = [], chance.uniform(10, 90), date(FIRST, 1, 6)
    stop = TODAY - timedelta(days=chance.choice((1, 1, 1, 12, 200)))
    while day < stop:
        close *= chance.uniform(0.97, 1.031)
        if chance.random() > 0.02:
            rows.append((day, round(close, 2)))
        day += timedelta(days=7)
    return PriceHistory.of(rows, source=3)


def awkward(seed: int) -> PayerFile:
    chance = random.Random(seed)
    paid = _dividends(chance)
    notices = [
        Notice(declared_on=d.ex_date - timedelta(days=60), kind=NoticeKind.SUSPENDED, source=1)
        for d in chance.sample(paid, min(len(paid), chance.choice((0, 0, 1))))
    ]
    splits = [
        Split(
            effective_on=day,
            new_shares=chance.choice((2.0, 3.0, 1.0)),
            source=1,
            old_shares=chance.choice((1.0, 4.0)),
            announced_on=chance.choice((None, day - timedelta(days=40))),
        )
        for day in (date(2012, 5, 14), TODAY + timedelta(days=8))
        if chance.random() < 0.4
    ]
    return PayerFile(
        payer=payer(chance.choice(list(Kind)), rhythm=chance.choice((None, None, 4))),
        dividends=tuple(sorted(paid, key=lambda d: (d.ex_date, d.kind))),
        notices=tuple(sorted(notices, key=lambda n: n.declared_on)),
        splits=tuple(splits),
        prices=_prices(chance),
        statements=tuple(_statements(chance)),
        price_index=price_index(2000, date(2026, 5, 1)),
    )


def review(file: PayerFile, day: date = TODAY) -> Review:
    return build_review(file.cut(day), RULES)


def said(figures: dict[str, Figure]) -> dict[str, object]:
    """Values, or why there are none, to nine digits."""
    return {k: f.reason if f.value is None else float(f"{f.value:.9g}") for k, f in figures.items()}


seeds = st.integers(0, 10**6)
few = settings(max_examples=sample(8, 1000), deadline=None)


@few
@given(seed=seeds)
def test_a_year_is_the_sum_of_its_payments_and_every_payment_has_one(seed: int) -> None:
    record = review(awkward(seed)).record
    regular = [d for d in awkward(seed).cut(TODAY).dividends if d.kind is DividendKind.REGULAR]
    held = [p for y in record.years for p in y.payments]
    assert len(held) == len(regular)
    for year in record.years:
        assert year.total.value == pytest.approx(sum(p.amount for p in year.payments))
        assert all(abs((p.ex_date - date(year.year, 7, 1)).days) <= 184 + 45 for p in year.payments)


@few
@given(seed=seeds)
def test_no_two_figures_share_a_name_and_every_unknown_has_its_reason(seed: int) -> None:
    for figure in named_figures(review(awkward(seed))).values():
        assert (figure.value is None) == (figure.reason is not None)
        assert figure.value is None or abs(figure.value) < 1e18


@few
@given(seed=seeds)
def test_the_order_of_facts_means_nothing(seed: int) -> None:
    file, chance = awkward(seed), random.Random(seed)

    def mixed(rows: tuple) -> tuple:
        return tuple(chance.sample(rows, len(rows)))

    other = replace(
        file,
        dividends=mixed(file.dividends),
        statements=mixed(file.statements),
        splits=mixed(file.splits),
        notices=mixed(file.notices),
    )
    assert said(named_figures(review(other))) == said(named_figures(review(file)))


SAME = {Unit.FRACTION, Unit.YIELD, Unit.MULTIPLE, Unit.COUNT, Unit.YEARS, Unit.WEEKS}
"""Units that no change of currency touches."""


@few
@given(seed=seeds, power=st.sampled_from([-3, 2, 5]))
def test_all_money_twice_as_large_changes_no_ratio(seed: int, power: int) -> None:
    """A power of two, so that no rounding differs."""
    file, by = awkward(seed), 2.0**power
    money = {"diluted_shares"}
    other = replace(
        file,
        dividends=tuple(replace(d, amount=d.amount * by) for d in file.dividends),
        prices=replace(file.prices, closes=file.prices.closes * by),
        statements=tuple(
            replace(s, lines={k: v if k in money else v * by for k, v in s.lines.items()})
            for s in file.statements
        ),
    )
    plain, scaled = named_figures(review(file)), named_figures(review(other))
    assert set(plain) == set(scaled)
    for name, figure in plain.items():
        now = scaled[name]
        if figure.value is None or now.value is None:
            assert figure.value is now.value, name
        elif figure.unit in SAME:
            assert now.value == pytest.approx(figure.value, rel=1e-6, abs=1e-9), name
        elif figure.unit in (Unit.PER_SHARE, Unit.MONEY):
            assert now.value == pytest.approx(figure.value * by, rel=1e-6, abs=1e-9), name


@few
@given(seed=seeds, ratio=st.sampled_from([2.0, 4.0, 0.5]))
def test_a_split_of_all_that_was_changes_no_ratio(seed: int, ratio: float) -> None:
    """Everything up to yesterday in old shares, and a split today: nothing but the shares moves."""
    file = replace(awkward(seed), splits=())
    day = file.prices.days[-1].astype(date) + timedelta(days=2)
    known = replace(
        file.cut(day - timedelta(days=1)),
        as_of=None,
        dividends=tuple(d for d in file.dividends if d.ex_date < day and d.known_on < day),
    )
    cut = Split(effective_on=day, new_shares=ratio, old_shares=1.0, source=1)
    before = named_figures(review(known, day))
    after = named_figures(review(replace(known, splits=(cut,)), day))
    assert set(before) == set(after)
    for name, figure in before.items():
        if figure.unit in SAME and figure.value is not None:
            assert after[name].value == pytest.approx(figure.value, rel=1e-6, abs=1e-9), name


@few
@given(seed=seeds, back=st.integers(30, 5000))
def test_what_came_later_is_not_known(seed: int, back: int) -> None:
    """A past day says the same whether or not later facts are in the file."""
    file, day = awkward(seed), TODAY - timedelta(days=back)
    known = replace(
        file,
        dividends=tuple(d for d in file.dividends if d.known_on <= day),
        statements=tuple(s for s in file.statements if s.published_on <= day),
        notices=tuple(n for n in file.notices if n.declared_on <= day),
        prices=file.prices.until(day),
    )
    assert said(named_figures(review(known, day))) == said(named_figures(review(file, day)))


@few
@given(seed=seeds)
def test_growth_is_measured_between_full_years_only(seed: int) -> None:
    record = review(awkward(seed)).record
    full = {y.year for y in record.years if y.full}
    last = max((y.year for y in record.years if y.complete), default=0)
    for n, growth in record.growth.items():
        if growth.value is not None:
            assert {last, last - n} <= full


@few
@given(seed=seeds)
def test_streaks_agree_with_the_years_they_count(seed: int) -> None:
    record = review(awkward(seed)).record
    complete = [y for y in record.years if y.complete]
    n = int(record.years_without_reduction.value or 0)
    assert all(y.outcome in (Outcome.RAISED, Outcome.HELD) for y in complete[len(complete) - n :])
    assert (record.raises_in_a_row.value or 0) <= n
    assert all(b.year - a.year == 1 for a, b in pairwise(record.years))


@pytest.mark.parametrize("part", range(sample(2, 4)))
def test_payouts_hang_together(part: int) -> None:
    for seed in range(part * 40, part * 40 + 40):
        for basis in review(awkward(seed)).cover.bases:
            cycle, paid = basis.through_cycle.value, basis.through_cycle_paid.value
            if cycle is not None and paid is not None:
                assert cycle <= paid * (1 + 1e-9)
            known = [y.payout.value for y in basis.years[-10:] if y.payout.value is not None]
            worst = basis.worst_of_ten
            if worst.value is not None and known:
                assert worst.value <= max(known) * (1 + 1e-9)
            assert not basis.swings or not any(y.freak for y in basis.years)


@few
@given(seeds)
def test_funds_grow_for_each_unit_alike_in_worth_and_in_the_return_path(seed: int) -> None:
    found = review(replace(awkward(seed), payer=payer(Kind.PROPERTY_TRUST)))
    inputs, path = found.worth.inputs, found.worth.path.inputs
    total, diluted = (inputs[id].figure.value for id in ("funds_growth", "dilution"))
    if total is None or diluted is None or "trend" not in path["path_growth"].origin:
        return
    apiece = (1 + total) / (1 + max(diluted, 0.0)) - 1
    assert path["path_growth"].figure.value == pytest.approx(apiece, abs=1e-12)
