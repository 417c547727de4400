"""Measures are figures of the review under their own paths; what is kept reads back the same."""

import json
from datetime import date
from pathlib import Path

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.finding.catalogue import CHOICES
from hearth_yield.core.finding.measured import made_with, measure
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.kinds import JUDGED, Kind
from hearth_yield.core.names import figure_at, name_of, named_figures
from hearth_yield.core.review import Review, build_review
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database
from hearth_yield.store.measured_text import from_text, to_text

DAY = date(2026, 6, 30)


@pytest.fixture(scope="module")
def reviews(twenty_file: Path) -> list[Review]:
    database = Database(twenty_file)
    with database.read() as connection:
        files = [payer_files.load(connection, *key) for key in payer_files.keys(connection)]
    database.close()
    return [build_review(f.cut(DAY), HouseRules()) for f in files]


@pytest.mark.parametrize("kind", JUDGED)
def test_every_measure_leads_to_a_figure_the_drawer_can_open(
    reviews: list[Review], kind: Kind
) -> None:
    review = next(r for r in reviews if r.payer.kind is kind)
    figures, found = named_figures(review), measure(review)
    for m in MEASURES.values():
        figure = figure_at(review, name_of(m.id))
        if figure is not None:
            assert found.cells[m.id].value == figures[name_of(m.id)].value, m.id
            assert figure.unit is m.unit, m.id


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
    from ..build import payer

    found = measure(build_review(PayerFile(payer=payer()).cut(DAY), HouseRules()))
    assert found.cells["yield"].reason
    assert found.dividends == ()
