"""What must hold for every payer: no look-ahead, splits change no ratio, cash helps cover."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, PriceHistory, SeriesPoint
from hearth_yield.core.facts.statements import Statement
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.names import named_figures
from hearth_yield.core.review import Review, build_review
from tests.conftest import sample

from .build import plain_years, split, steady, year_statement

DAY = date(2024, 3, 1)
FILE = steady()


def review(file: PayerFile, day: date = DAY) -> Review:
    return build_review(file.cut(day), HouseRules())


def values(found: Review) -> dict[str, float | None]:
    return {k: f.value for k, f in named_figures(found).items()}


BEFORE = values(review(FILE))
later = st.dates(min_value=DAY + timedelta(days=1), max_value=date(2030, 1, 1))


@settings(max_examples=sample(12, 25), deadline=None)
@given(day=later, amount=st.floats(0.001, 50), ex_before=st.integers(-300, 60))
def test_a_dividend_declared_later_changes_no_earlier_day(
    day: date, amount: float, ex_before: int
) -> None:
    extra = Dividend(
        ex_date=day + timedelta(days=ex_before), amount=amount, currency="TLL", declared_on=day
    )
    assert values(review(replace(FILE, dividends=(*FILE.dividends, extra)))) == BEFORE


@settings(max_examples=sample(12, 25), deadline=None)
@given(day=later, year=st.integers(2010, 2025), cash=st.floats(-1e6, 1e6))
def test_a_restatement_published_later_changes_no_earlier_day(
    day: date, year: int, cash: float
) -> None:
    restated = replace(
        year_statement(year, operating_cash_flow=cash, net_income=cash), published_on=day
    )
    assert values(review(replace(FILE, statements=(*FILE.statements, restated)))) == BEFORE


@settings(max_examples=sample(10, 20), deadline=None)
@given(day=later, ratio=st.floats(0.1, 20), value=st.floats(1, 1e4))
def test_later_splits_prices_and_index_points_change_no_earlier_day(
    day: date, ratio: float, value: float
) -> None:
    index = FILE.price_index
    assert index is not None
    point = SeriesPoint(day=date(2023, 5, 1), published_on=day, value=value)
    rows = [*zip(FILE.prices.days.astype(date), FILE.prices.closes, strict=True)]
    changed = replace(
        FILE,
        splits=(split(day, ratio),),
        prices=PriceHistory.of(sorted([*rows, (max(day, date(2026, 7, 1)), value)]), source=3),
        price_index=replace(index, points=(*index.points, point)),
    )
    assert values(review(changed)) == BEFORE


def resplit(file: PayerFile, day: date, ratio: float) -> PayerFile:
    """The same payer, had it split `ratio` for 1 on `day`: old per-share facts are larger."""

    def statement(s: Statement) -> Statement:
        if s.published_on >= day:
            return s
        lines = dict(s.lines)
        lines["diluted_shares"] = lines["diluted_shares"] / ratio
        return replace(s, lines=lines)

    rows = [
        (d, c * ratio if d < day else c)
        for d, c in zip(file.prices.days.astype(date), file.prices.closes.tolist(), strict=True)
    ]
    return replace(
        file,
        splits=(split(day, ratio),),
        dividends=tuple(
            replace(d, amount=d.amount * ratio) if d.ex_date < day else d for d in file.dividends
        ),
        prices=PriceHistory.of(rows, source=3),
        statements=tuple(statement(s) for s in file.statements),
    )


RATIOS = {
    Unit.FRACTION,
    Unit.YIELD,
    Unit.YEARS,
    Unit.WEEKS,
    Unit.COUNT,
    Unit.PER_SHARE,
    Unit.MULTIPLE,
}


@settings(max_examples=sample(10, 20), deadline=None)
@given(
    day=st.dates(date(2003, 1, 1), date(2024, 2, 20)),
    ratio=st.sampled_from([2.0, 3.0, 1.5, 0.1, 10.0]),
)
def test_a_split_changes_no_ratio_and_nothing_per_share_of_today(day: date, ratio: float) -> None:
    plain, divided = named_figures(review(FILE)), named_figures(review(resplit(FILE, day, ratio)))
    for key, figure in plain.items():
        if figure.unit in RATIOS and not key.startswith("range.quarters"):
            same = divided[key].value
            assert (same is None) == (figure.value is None), key
            assert same is None or same == pytest.approx(figure.value, rel=1e-9), key


@settings(max_examples=sample(20, 40), deadline=None)
@given(cash=st.floats(1, 1e6), more=st.floats(0.01, 1e6), paid=st.floats(0.01, 1e6))
def test_payouts_fall_when_cash_rises(cash: float, more: float, paid: float) -> None:
    def lead(x: float):
        file = replace(FILE, statements=plain_years(2018, 2023, cash=x, paid=paid))
        return review(file)

    a, b = lead(cash), lead(cash + more)
    assert a.cover.leading.latest is not None
    assert b.cover.leading.latest is not None
    for worse, better in (
        (a.cover.leading.latest.payout, b.cover.leading.latest.payout),
        (a.cover.leading.through_cycle, b.cover.leading.through_cycle),
    ):
        assert (better.value or 0) <= (worse.value or 0)


def leaves(figure: Figure) -> list[Figure]:
    return [figure] if not figure.inputs else [x for i in figure.inputs for x in leaves(i)]


def test_every_known_figure_leads_down_to_facts_or_choices() -> None:
    for key, figure in named_figures(review(FILE)).items():
        if figure.known:
            for leaf in leaves(figure):
                traced = leaf.source is not None or leaf.notes or leaf.sample or leaf.formula
                assert traced or not leaf.known, (key, leaf.label)


def test_unknown_always_has_a_reason_and_known_never_has_one() -> None:
    empty = PayerFile(payer=FILE.payer)
    for file in (FILE, empty, replace(FILE, dividends=()), replace(FILE, statements=())):
        for key, figure in named_figures(review(file)).items():
            assert (figure.value is None) == bool(figure.reason), key
