"""Measures are figures of the review under their own paths; what is kept reads back the same."""

import json
import re
from datetime import date
from pathlib import Path

import pytest

from hearth_yield.core.catalogue import CHOICES, MEASURES, path_of
from hearth_yield.core.facts import Kind, PayerFile
from hearth_yield.core.measures import from_text, made_with, measure, to_text
from hearth_yield.core.review import Review, build_review, figure_at, named_figures
from hearth_yield.core.rules import HouseRules
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database

DAY = date(2026, 6, 30)


@pytest.fixture(scope="module")
def reviews(demo_file: Path) -> list[Review]:
    database = Database(demo_file)
    with database.read() as connection:
        files = [payer_files.load(connection, *key) for key in payer_files.keys(connection)]
    database.close()
    return [build_review(f.cut(DAY), HouseRules()) for f in files]


@pytest.mark.parametrize("kind", list(Kind))
def test_every_measure_leads_to_a_figure_the_drawer_can_open(
    reviews: list[Review], kind: Kind
) -> None:
    review = next(r for r in reviews if r.payer.kind is kind)
    figures, found = named_figures(review), measure(review)
    for m in MEASURES.values():
        path = path_of(m, kind)
        if m.path and figure_at(review, path) is not None:
            assert found.cells[m.id].value == figures[path].value, m.id
            assert figures[path].unit is m.unit, m.id


NO_MEASURES = re.compile(
    r"\.(19|20)\d\d[-\d]*\.|paces|^inflation\.real_years|\.quarters\.|^range\.|^aim|^tests|^first_to_give"
    r"|\.(low|high|dividend_per_share|driver|dividends)$|\.trailing\.(?!payout)|\.latest\.(driver|dividends)"
    r"|worth\.(mean_yield|required_return|margin_of_safety|lasting_growth|later_growth)$"
)
"""Figures that are one of many (a year, a quarter), the other end of a measure, or an input."""


@pytest.mark.parametrize("kind", list(Kind))
def test_every_figure_of_the_core_can_be_searched_by(reviews: list[Review], kind: Kind) -> None:
    review = next(r for r in reviews if r.payer.kind is kind)
    measured = {path_of(m, kind) for m in MEASURES.values()}
    left = [n for n in named_figures(review) if n not in measured and not NO_MEASURES.search(n)]
    assert left == []


def test_names_and_words_are_told_apart() -> None:
    names = [m.name for m in (*MEASURES.values(), *CHOICES.values())]
    assert len(set(names)) == len(names)
    assert len({m.words for m in MEASURES.values()}) == len(MEASURES)
    assert all(m.words.count("{}") == 1 for m in MEASURES.values())


def test_a_measure_a_kind_does_not_use_says_so(reviews: list[Review]) -> None:
    trust = next(r for r in reviews if r.payer.kind is Kind.PROPERTY_TRUST)
    assert measure(trust).cells["earnings_payout"].reason == "not used for a property trust"


def test_what_is_kept_reads_back_the_same(reviews: list[Review]) -> None:
    for review in reviews:
        found = measure(review)
        assert from_text(to_text(found)) == found
        json.loads(to_text(found))


def test_every_unknown_has_its_reason(reviews: list[Review]) -> None:
    for review in reviews:
        for id, cell in measure(review).cells.items():
            assert (cell.value is None) == (cell.reason is not None), (review.payer.symbol, id)


def test_a_condition_reads_as_words() -> None:
    for m in MEASURES.values():
        assert m.words.count("{}") == 1
        assert m.id not in CHOICES


def test_other_rules_and_other_versions_make_other_measures() -> None:
    plain = made_with(HouseRules(), "1")
    assert made_with(HouseRules(), "1") == plain
    assert made_with(HouseRules(margin_of_safety=0.25), "1") != plain
    assert made_with(HouseRules(), "2") != plain


def test_a_payer_without_facts_is_measured_too() -> None:
    from .build import payer

    found = measure(build_review(PayerFile(payer=payer()).cut(DAY), HouseRules()))
    assert found.cells["yield"].reason
    assert found.dividends == ()
