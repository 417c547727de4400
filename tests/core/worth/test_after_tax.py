"""What is kept of a dividend after tax, with the credit that it carries: worked by hand."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import DividendKind
from hearth_yield.core.figures.figure import Touch
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.core.review import review_of
from hearth_yield.core.worth.after_tax import credit_of, kept_after_tax
from hearth_yield.core.worth.words import answered
from hearth_yield.store.database import Database
from hearth_yield.store.payer_files import load

DAY = date(2026, 6, 30)
QUARTER = HouseRules(dividend_tax=0.25)


def credited(file: PayerFile, part: float | None, rate: float | None) -> PayerFile:
    """As if every regular dividend carried this credit."""
    paid = tuple(
        replace(d, credited_fraction=part, credit_tax_rate=rate)
        if d.kind is DividendKind.REGULAR
        else d
        for d in file.dividends
    )
    return replace(file, dividends=paid)


@pytest.fixture
def plain(demo: Database) -> PayerFile:
    with demo.read() as connection:
        return load(connection, "ELV", "TRS")


@pytest.mark.parametrize(
    ("part", "rate", "kept"),
    [
        (None, None, 0.75),
        (0.0, 0.30, 0.75),
        (1.0, 0.20, 0.9375),  # 0.75 × 1.25
        (0.5, 0.30, 0.75 * (1 + 0.5 * 3 / 7)),
        (1.0, 1.00, 0.75),  # no tax rate can be behind that
        (1.0, None, 0.75),
    ],
)
def test_what_is_kept(
    plain: PayerFile, part: float | None, rate: float | None, kept: float
) -> None:
    found = kept_after_tax(credited(plain, part, rate).cut(DAY), QUARTER)
    assert found.value == pytest.approx(kept, rel=1e-12)


def test_the_newest_dividend_that_is_known_tells_the_credit(plain: PayerFile) -> None:
    days = sorted(d.ex_date for d in plain.dividends if d.kind is DividendKind.REGULAR)
    paid = tuple(
        replace(d, credited_fraction=0.5, credit_tax_rate=0.30) if d.ex_date == days[-1] else d
        for d in plain.dividends
    )
    file = replace(plain, dividends=paid)
    newest = next(d for d in paid if d.ex_date == days[-1])
    assert credit_of(file.cut(newest.known_on)).part.figure.value == 0.5
    earlier = date.fromordinal(newest.known_on.toordinal() - 1)
    assert credit_of(file.cut(earlier)).part.figure.value == 0.0


def test_a_dividend_that_does_not_say_leaves_the_credit_and_a_nought_ends_it(
    plain: PayerFile,
) -> None:
    """Typed by hand, the one is no change and the other is marked."""
    told = credited(plain, 1.0, 0.20)
    newest = max(told.dividends, key=lambda d: d.ex_date)
    later = replace(newest, ex_date=date(2026, 6, 29), declared_on=None, entered=True)
    silent = replace(later, credited_fraction=None, credit_tax_rate=None)
    ended = replace(later, credited_fraction=0.0, credit_tax_rate=None)
    before, same, without = (
        kept_after_tax(replace(told, dividends=(*told.dividends, *more)).cut(DAY), QUARTER)
        for more in ((), (silent,), (ended,))
    )
    assert (same.value, same.touch) == (before.value, None)
    assert without.value == pytest.approx(0.75)
    assert without.touch is Touch.ENTERED


def test_what_the_price_offers_and_a_sum_earns_after_tax_carry_the_credit(plain: PayerFile) -> None:
    question = Question(outlay=10_000.0)
    without, with_it = (
        review_of(file, DAY, QUARTER, question) for file in (plain, credited(plain, 1.0, 0.20))
    )
    growth = without.worth.inputs["lasting_growth"].figure.value
    offered = [r.worth.implied_return_after_tax.value for r in (without, with_it)]
    assert None not in offered
    assert (offered[1] - growth) / (offered[0] - growth) == pytest.approx(1.25)
    earned = [r.outlay.now.year_after_tax.value for r in (without, with_it) if r.outlay]
    assert earned[1] / earned[0] == pytest.approx(1.25)
    said = [str(answered(r.worth, r.price, r.record)) for r in (without, with_it)]
    assert ["its credit" in words for words in said] == [False, True]
    before = [r.worth.implied_return.value for r in (without, with_it)]
    assert before[0] == before[1], "nothing changes before tax"


def test_dividends_to_an_exit_take_the_credit_that_is_told(plain: PayerFile) -> None:
    """With no tax and all of it credited at 20 %, each dividend is worth a quarter more; the sale
    at the exit yield is not."""

    def inputs_of(file: PayerFile) -> dict[str, float | None]:
        found = review_of(file, DAY, HouseRules()).worth.others.inputs
        return {id: found[id].figure.value for id in ("credited", "credit_rate")}

    assert inputs_of(plain) == {"credited": 0.0, "credit_rate": 0.0}
    assert inputs_of(credited(plain, 1.0, 0.20)) == {"credited": 1.0, "credit_rate": 0.20}
