"""Decisions: recorded on today's review, held against today ever after."""

from __future__ import annotations

import re
from datetime import date
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearth_yield.actions import decide as decisions
from hearth_yield.actions.disagree import disagree, disagreements_of
from hearth_yield.actions.since_decided import Since
from hearth_yield.actions.write_memo import write_memo
from hearth_yield.core.expecting.expectation import Expectation, Judged, Side, Way, often_expected
from hearth_yield.core.question import read_question

from .answer import wire
from .context import Here, Id, Reviewed, When
from .figures import FigureOut, PaymentOut, figure_out, payment_out
from .schemas import Problem, StateName, UnitName
from .strain import StrainSaidOut
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"
Verdict = Literal["buy", "hold", "wait", "trim", "avoid"]


WayName = Literal["level", "throughout", "growth"]
SideName = Literal["at_least", "at_most"]
TrackName = Literal["on", "off", "met", "missed", "unknown"]
Words = Annotated[str, Field(max_length=4000)]


class ExpectationIn(BaseModel):
    """measure: by id. value: in its unit, a fraction a year where it is expected to grow."""

    measure: Annotated[str, Field(max_length=80)]
    way: WayName
    side: SideName
    value: Annotated[float, Field(allow_inf_nan=False)]
    until: date

    def expectation(self) -> Expectation:
        return Expectation(
            measure=self.measure,
            way=Way(self.way),
            side=Side(self.side),
            value=self.value,
            until=self.until,
            then=None,
        )


@wire
class OftenOut:
    """What is often expected, chosen by its name; the rest as an expectation has it."""

    name: str
    measure: str
    way: WayName
    side: SideName
    value: float


class DecisionIn(BaseModel):
    """buy_below in the payer's currency, per share, at most six decimals. question: what was asked
    of the review, as the address holds it. intention: a key made once for what the person means to
    do; said again, it is done once. ask: a verdict that its own prices contradict is refused once,
    so that the person is asked."""

    verdict: str
    words: str = Field(max_length=10_000)
    buy_below: Decimal | None = Field(default=None, max_digits=16, decimal_places=6)
    as_of: date
    question: dict[str, str] = {}
    intention: Annotated[str, Field(min_length=8, max_length=64)] | None = None
    pros: Words = ""
    cons: Words = ""
    risks: Words = ""
    trim_above: Decimal | None = Field(default=None, max_digits=16, decimal_places=6)
    next_look: date | None = None
    expectations: Annotated[list[ExpectationIn], Field(max_length=50)] = []
    ask: bool = False

    def memo(self) -> decisions.Memo:
        return decisions.Memo(
            pros=self.pros,
            cons=self.cons,
            risks=self.risks,
            trim_above=self.trim_above,
            next_look=self.next_look,
            expectations=[e.expectation() for e in self.expectations],
        )


@wire
class BoughtOut:
    """What a price buys, and what that earns at the declared rate."""

    price: FigureOut
    shares: FigureOut
    spent: FigureOut
    year: FigureOut
    quarter: FigureOut
    month: FigureOut
    year_after_tax: FigureOut
    quarter_after_tax: FigureOut
    month_after_tax: FigureOut


@wire
class OutlayOut:
    """now: at today's price; below: at the buy-below price."""

    now: BoughtOut
    below: BoughtOut


@wire
class DecisionMade:
    id: int


@wire
class ChangeOut:
    key: str
    label: str
    unit: UnitName
    currency: str | None
    then: float | None
    then_reason: str | None
    now: FigureOut | None
    moved: bool


@wire
class JudgedOut:
    """An expectation and what has become of it. unit: of value, wanted and what it has come to
    (now); growth is a fraction a year. then: of the measure when it was said. reason: why it cannot
    be told."""

    measure: str
    name: str
    unit: UnitName
    currency: str
    way: WayName
    side: SideName
    value: float
    until: date
    then: float | None
    track: TrackName
    now: FigureOut
    wanted: FigureOut
    reason: str


@wire
class SinceOut:
    """From the day of the decision to the day viewed: the price, the total return, the market's;
    span: its days as a question has them, under which these figures open. offered: what the return
    that the price of then offered comes to by now."""

    span: str
    price: FigureOut
    total: FigureOut
    market: FigureOut
    against_market: FigureOut
    offered_a_year: float | None
    offered: float | None


@wire
class DecisionOut:
    """question: what was asked of the review then, as the address holds it. strains: what those
    kept on the payer said then; disagreements: the person's words by stage, as they were then.
    by_models: its combined value is the mean of models, as the method had it then."""

    id: int
    as_of: date
    recorded_at: str
    verdict: Verdict
    words: str
    buy_below: float | None
    buy_below_written: str | None
    currency: str
    state: StateName | None
    first_to_give: str | None
    question: dict[str, str]
    strains: list[StrainSaidOut]
    disagreements: dict[str, str]
    changes: list[ChangeOut]
    dividends_since: list[PaymentOut]
    pros: str
    cons: str
    risks: str
    trim_above: float | None
    next_look: date | None
    expectations: list[JudgedOut]
    since: SinceOut | None
    looked_back: str
    by_models: bool


EXPECTED_KEY = re.compile(r"expected\.(\d{1,18})\.(\d{1,3})\.(value|wanted)")
"""Names what an expectation has come to: decision, place in it, member."""


def judged_out(judged: Judged, decision_id: int | None, place: int, currency: str) -> JudgedOut:
    """place: of the expectation in its decision."""
    expected, name = judged.expectation, f"expected.{decision_id}.{place}"
    growth = expected.way is Way.GROWTH
    return fill(
        JudgedOut,
        expected,
        name=expected.spec.name,
        unit="fraction" if growth else expected.spec.unit.value,
        currency=currency,
        track=judged.track.value,
        now=figure_out(judged.value, f"{name}.value"),
        wanted=figure_out(judged.wanted, f"{name}.wanted"),
        reason=judged.reason,
    )


def since_out(since: Since) -> SinceOut:
    return fill(
        SinceOut,
        since,
        "span",
        span=f"{since.first.isoformat()}..{since.last.isoformat()}",
        market=figure_out(since.market, "span.market_total"),
    )


def decision_out(past: decisions.PastDecision) -> DecisionOut:
    made = past.made
    return fill(
        DecisionOut,
        made,
        id=made.id or 0,
        buy_below=past.buy_below,
        buy_below_written=None if made.buy_below is None else f"{made.buy_below.normalize():f}",
        question=dict(made.question),
        strains=each(StrainSaidOut, made.strains),
        disagreements=dict(made.disagreements),
        changes=[_change(c, made.currency) for c in past.changes],
        dividends_since=[payment_out(d, d.amount) for d in past.dividends_since],
        trim_above=past.trim_above,
        expectations=[judged_out(j, made.id, n, made.currency) for n, j in enumerate(past.judged)],
        since=since_out(past.since) if past.since else None,
    )


def _change(change: decisions.Change, currency: str) -> ChangeOut:
    return fill(
        ChangeOut,
        change,
        currency=currency if change.unit == "money" else None,
        now=figure_out(change.now, change.key) if change.now else None,
    )


@router.get(ONE_PAYER + "/decisions")
def past_decisions(here: Here, exchange: str, symbol: str, when: When) -> list[DecisionOut]:
    found = decisions.past_decisions(here.cache, exchange, symbol, when.as_of)
    return [decision_out(d) for d in found]


@router.post(ONE_PAYER + "/decisions", status_code=201, responses={409: {"model": Problem}})
def decide(here: Here, exchange: str, symbol: str, made: DecisionIn) -> DecisionMade:
    id = decisions.decide(
        here.cache,
        exchange,
        symbol,
        today=here.moment().today,
        as_of=made.as_of,
        recorded_at=here.now(),
        verdict=made.verdict,
        words=made.words,
        buy_below=made.buy_below,
        intention=made.intention,
        question=read_question(made.question),
        memo=made.memo(),
        ask=made.ask,
    )
    return DecisionMade(id=id)


@router.delete("/decisions/{id}", status_code=204)
def withdraw(here: Here, id: Id) -> None:
    decisions.withdraw(here.cache, id, True)


@router.post("/decisions/{id}/restore", status_code=204)
def put_back(here: Here, id: Id) -> None:
    decisions.withdraw(here.cache, id, False)


class LookedBackIn(BaseModel):
    """begun: the note that stood there when this was begun; without it, it takes its place."""

    words: Words
    begun: Words | None = None


@router.put("/decisions/{id}/looked-back", status_code=204, responses={409: {"model": Problem}})
def look_back(here: Here, id: Id, note: LookedBackIn) -> None:
    """A note on how it turned out."""
    decisions.look_back_on(here.cache, id, note.words, note.begun)


class DisagreementIn(BaseModel):
    """Empty words take it back. begun: the words that stood there when these were begun; without
    it, they take their place."""

    words: str = Field(max_length=2000)
    begun: Words | None = None


@router.get(ONE_PAYER + "/disagreements")
def held(here: Here, exchange: str, symbol: str) -> dict[str, str]:
    """Findings the person disagrees with: their words by stage."""
    return dict(disagreements_of(here.database, exchange, symbol))


@router.put(
    ONE_PAYER + "/disagreements/{stage}", status_code=204, responses={409: {"model": Problem}}
)
def say(here: Here, exchange: str, symbol: str, stage: str, said: DisagreementIn) -> None:
    disagree(
        here.database,
        exchange,
        symbol,
        stage=stage,
        words=said.words,
        at=here.now(),
        begun=said.begun,
    )


@router.get(ONE_PAYER + "/often-expected")
def often(review: Reviewed) -> list[OftenOut]:
    """What is often expected of a payer, at the person's own limits for it."""
    used = {id for stage in review.stages.values() for id in stage.figures}
    return each(OftenOut, often_expected(review.tests, used))


@router.get(ONE_PAYER + "/outlay")
def outlay(found: Reviewed) -> OutlayOut | None:
    """What a sum would buy and earn; null where none is asked about."""
    return fill(OutlayOut, found.outlay, "outlay") if found.outlay else None


@router.get("/decisions/{id}/memo", response_class=Response, responses={404: {"model": Problem}})
def memo(here: Here, id: Id, save: bool = False) -> Response:
    """A decision as one page, to print or, with save, as a file that needs nothing else."""
    name, page = write_memo(here.database, id)
    headers = {"content-disposition": f'attachment; filename="{name}.html"'} if save else {}
    return Response(page, media_type="text/html; charset=utf-8", headers=headers)
