"""One payer on one date: the review, and what a moved input or aim changes of it."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Query, Response

from hearth_yield.actions import edit_facts
from hearth_yield.actions.since_decided import expected_figure
from hearth_yield.core.facts.records import PayerNote
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.figures.measure import Stage
from hearth_yield.core.judging.judge import passed
from hearth_yield.core.names import figure_at
from hearth_yield.core.record.ahead import Coming
from hearth_yield.core.review import Review

from .answer import wire, written
from .context import Context, Here, QuestionAsked, Reviewed, When, review_asked
from .cover import BridgeSeries, CoverSeries, UsesSeries, bridge_series, cover_series, uses_series
from .decisions import EXPECTED_KEY
from .figures import FigureOut, HeadOut, Shown, StageOut, TestOut
from .holdings import held_figure
from .range import AimOut, RangeSeries, aim_out, range_series
from .record import PaymentsSeries, RecordSeries, payments_series, record_series
from .schemas import Problem, SlumpOut, StateName, TouchName
from .sources import sources_of
from .wire import each, fill
from .working import WorkingOut, working_out
from .worth import OpinionsSeries, WorthAnswer, opinions_series, worth_answer

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


@wire
class NoteOut:
    """What was said of a payer, from the day it was published."""

    value: str
    published_on: date
    touch: TouchName | None


@wire
class PayerOut:
    """touch: its own line (name, kind, rhythm) was entered by hand."""

    symbol: str
    exchange: str
    name: str
    kind: str
    currency: str
    country: str
    description: str
    sector: NoteOut | None
    industry: NoteOut | None
    credit_rating: NoteOut | None
    listed_on: date | None
    delisted_on: date | None
    touch: TouchName | None


@wire
class ExclusionOut:
    """A fact the person excluded: note says what, when and why."""

    table: str
    note: str


@wire
class ComingOut:
    """The next payment. projected: nothing of it is declared yet."""

    ex_date: date
    pay_date: date | None
    declared_on: date | None
    amount: FigureOut
    projected: bool


@wire
class ReviewOut:
    """Every figure, finding and test; what a stage draws has an address of its own. stages: in the
    order of the job. tests: of all stages, the required first, each group by the smallest
    cushion."""

    payer: PayerOut
    as_of: date
    state: StateName | None
    head: list[HeadOut]
    first_to_give: TestOut | None
    coming: ComingOut | None
    stages: list[StageOut]
    tests: list[TestOut]
    passed: int
    aim: AimOut | None
    slumps: list[SlumpOut]
    exclusions: list[ExclusionOut]


@router.get(ONE_PAYER + "/review", response_model=ReviewOut)
def review(found: Reviewed) -> Response:
    return written(review_out(found))


def review_out(review: Review) -> ReviewOut:
    shown = Shown(review)
    first, coming = review.first_to_give, review.coming
    return ReviewOut(
        payer=_payer(review),
        as_of=review.as_of,
        state=review.state.value if review.state else None,
        head=shown.head(),
        first_to_give=shown.test(first) if first else None,
        coming=_coming(coming) if coming else None,
        stages=[shown.stage(stage) for stage in review.stages],
        tests=[shown.test(t) for t in review.tests],
        passed=passed(review.tests),
        aim=aim_out(review.aim, review.range),
        slumps=each(SlumpOut, review.slumps),
        exclusions=each(ExclusionOut, review.exclusions),
    )


def _coming(coming: Coming) -> ComingOut:
    return fill(ComingOut, coming, "record.coming")


def _payer(review: Review) -> PayerOut:
    return fill(
        PayerOut,
        review.payer,
        sector=_note(review.sector),
        industry=_note(review.industry),
        credit_rating=_note(review.credit_rating),
    )


def _note(note: PayerNote | None) -> NoteOut | None:
    return fill(NoteOut, note) if note else None


@router.get(ONE_PAYER + "/record")
def record(found: Reviewed) -> RecordSeries:
    return record_series(found.stages[Stage.RECORD].result)


@router.get(ONE_PAYER + "/record/payments", response_model=PaymentsSeries)
def payments(found: Reviewed) -> Response:
    """Every payment there was, and those declared."""
    return written(payments_series(found.record))


@router.get(ONE_PAYER + "/cover", response_model=CoverSeries)
def cover(found: Reviewed) -> Response:
    return written(cover_series(found.cover))


@router.get(ONE_PAYER + "/cover/uses")
def uses(found: Reviewed) -> UsesSeries:
    """Where operating cash flow went, year by year and together."""
    return uses_series(found.cover)


@router.get(ONE_PAYER + "/cover/bridge", response_model=BridgeSeries)
def bridge(found: Reviewed) -> Response:
    """From what was earned to what pays the dividend, step by step."""
    return written(bridge_series(found.cover))


@router.get(ONE_PAYER + "/range")
def range_(found: Reviewed) -> RangeSeries:
    return range_series(Shown(found), found)


@router.get(ONE_PAYER + "/worth", response_model=WorthAnswer)
def worth(
    here: Here,
    exchange: str,
    symbol: str,
    question: QuestionAsked,
    as_of: Annotated[date | None, Query()] = None,
) -> Response:
    """Reads the review itself: an input that moves waits for no second change of thread."""
    found = review_asked(here, exchange, symbol, question, as_of)
    return written(worth_answer(Shown(found)))


@router.get(ONE_PAYER + "/worth/opinions", response_model=OpinionsSeries)
def opinions(found: Reviewed) -> Response:
    """The models that stand beside those that count."""
    return written(opinions_series(Shown(found)))


@router.get(ONE_PAYER + "/aim")
def aim(found: Reviewed) -> AimOut | None:
    return aim_out(found.aim, found.range)


@router.get(ONE_PAYER + "/working")
def working(
    here: Here, when: When, exchange: str, symbol: str, found: Reviewed, key: str, path: str = ""
) -> WorkingOut:
    standing = edit_facts.standing(here.database, exchange, symbol)
    if key.startswith("held"):
        figure = held_figure(here, found, when, key)
    elif key.startswith("expected."):
        figure = _expected(here, found, key)
    else:
        figure = figure_at(found, key)
    return working_out(figure, key, path, {x.id: x for x in sources_of(here)}, standing)


def _expected(here: Context, found: Review, key: str) -> Figure | None:
    """A figure of what a decision on this payer expected."""
    named = EXPECTED_KEY.fullmatch(key)
    if named is None:
        return None
    at, payer = here.moment().edition, found.payer
    file = here.cache.cut_file(at, payer.exchange, payer.symbol, found.as_of)
    id, place, member = named.groups()
    return expected_figure(here.cache, file, at, int(id), int(place), member)
