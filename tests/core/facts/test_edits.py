"""A person's hand in figures: the stronger mark wins, notes say why, and days bound it."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import product

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hearth_yield.core.facts.edits import Exclusion
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.figures.figure import Figure, Touch, Unit, derive, touch_of
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.names import named_figures
from hearth_yield.core.record.declared_rate import manual_edits_between
from hearth_yield.core.review import build_review

from ..build import notice, split, steady

DAY = date(2026, 6, 30)
touches = st.sampled_from([None, Touch.ENTERED, Touch.EDITED])


def figure(touch: Touch | None = None) -> Figure:
    return Figure(label="x", unit=Unit.COUNT, value=1.0, touch=touch)


def left(table: str, day: date, kind: str = "regular", known: date | None = None) -> Exclusion:
    return Exclusion(
        table=table,
        kind=kind,
        name=f"{kind} {table} {day}",
        day=day,
        known_on=known or day,
        reason="twice",
        made_on=DAY,
    )


@given(found=st.lists(touches, max_size=5))
def test_adjusted_is_the_stronger_word(found: list[Touch | None]) -> None:
    strongest = max(found, key=[None, Touch.ENTERED, Touch.EDITED].index, default=None)
    assert touch_of(found) is strongest
    made = derive("y", Unit.COUNT, "sum", [figure(t) for t in found], lambda *v: sum(v))
    assert made.touch is strongest


@pytest.mark.parametrize(("own", "more"), list(product((None, *Touch), (None, *Touch))))
def test_a_figure_takes_on_how_it_was_read(own: Touch | None, more: Touch | None) -> None:
    found = figure(own).with_touch(more, "read by hand")
    assert found.touch is touch_of([own, more])
    assert ("read by hand" in found.notes) == (more is not None and own is not Touch.EDITED)


def test_what_a_choice_left_out_is_said() -> None:
    assert figure().with_exclusions(()) == figure()
    found = figure(Touch.ENTERED).with_exclusions(("fiscal 2020 left out",))
    assert (found.touch, found.notes) == (Touch.EDITED, ("fiscal 2020 left out",))


def test_only_what_was_known_by_the_day_is_named() -> None:
    known, later = (
        left("dividends", date(2026, 6, 9), known=d) for d in (date(2026, 5, 12), date(2026, 7, 1))
    )
    file = steady(exclusions=(known, later))
    assert file.cut(DAY).exclusions == (known,)
    assert file.cut(date(2026, 5, 11)).exclusions == ()


@pytest.mark.parametrize(
    ("first", "last", "kind", "found"),
    [
        (date(2026, 6, 9), date(2026, 6, 9), None, 1),
        (date(2026, 6, 10), DAY, None, 0),
        (date(2026, 1, 1), date(2026, 6, 8), None, 0),
        (date(2026, 1, 1), DAY, "special", 0),
        (date(2026, 1, 1), DAY, "regular", 1),
    ],
)
def test_both_ends_of_a_span_belong_to_it(
    first: date, last: date, kind: str | None, found: int
) -> None:
    file = steady(exclusions=(left("dividends", date(2026, 6, 9)),)).cut(DAY)
    assert len(file.exclusions_within("dividends", first, last, kind)) == found
    assert file.exclusions_within("prices", first, last) == ()


def test_a_hand_is_found_by_the_days_it_touched() -> None:
    paid = list(steady().dividends)
    paid[40] = replace(paid[40], entered=True)
    at = paid[40].ex_date
    file = steady(dividends=tuple(paid)).cut(DAY)
    assert manual_edits_between(file, at, at) is Touch.ENTERED
    assert manual_edits_between(file, at + timedelta(days=1)) is None
    assert manual_edits_between(file, date.min, at - timedelta(days=1)) is None
    assert manual_edits_between(steady().cut(DAY), date.min) is None


def test_a_split_by_hand_touches_what_lies_before_it() -> None:
    made = replace(split(date(2015, 6, 1), 2), entered=True)
    file = steady(splits=(made,)).cut(DAY)
    assert manual_edits_between(file, date.min, date(2015, 5, 31)) is Touch.ENTERED
    assert manual_edits_between(file, date(2015, 6, 1)) is None
    assert file.closes_touch(date(2015, 5, 1), date(2016, 1, 1)) is Touch.ENTERED
    assert file.closes_touch(date(2015, 6, 1), date(2016, 1, 1)) is None


def test_a_split_excluded_touches_what_it_would_have_adjusted() -> None:
    file = steady(exclusions=(left("splits", date(2015, 6, 1), kind=""),)).cut(DAY)
    assert file.split_touch(date(2015, 5, 31)) is Touch.EDITED
    assert file.split_touch(date(2015, 6, 1)) is None
    old, new = (s for s in file.statements if s.period_end.year in (2010, 2020))
    assert (old.split_touch, new.split_touch) == (Touch.EDITED, None)


def touched(file: PayerFile) -> set[str]:
    found = named_figures(build_review(file.cut(DAY), HouseRules()))
    return {name for name, f in found.items() if f.touch is not None}


def test_a_notice_by_hand_reaches_the_rate_and_all_that_rests_on_it() -> None:
    stop = replace(notice(date(2026, 5, 1)), entered=True)
    marked = touched(steady(notices=(stop,)))
    assert {"record.declared_rate", "record.raises", "range.yield"} <= marked
    assert "worth.combined" in marked
    assert "cover.bases.earnings.latest.payout" not in marked
    assert "price" not in marked


def test_nothing_is_marked_where_nothing_was_touched() -> None:
    assert touched(steady(splits=(split(date(2015, 6, 1), 2),))) == set()
