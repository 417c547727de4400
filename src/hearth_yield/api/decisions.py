"""Decisions: recorded on today's review, held against today ever after."""

from __future__ import annotations

from datetime import date
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions import decide as decisions
from hearth_yield.actions.disagree import disagree, disagreements_of
from hearth_yield.core.question import read_question

from .context import Here, Id, When
from .figures import FigureOut, PaymentOut, figure_out, payment_out
from .schemas import Problem, StateName, UnitName
from .strain import StrainSaidOut

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"
Verdict = Literal["buy", "hold", "wait", "trim", "avoid"]


class DecisionIn(BaseModel):
    """buy_below in the payer's currency, per share, at most six decimals. question: what was asked
    of the review, as the address holds it. intention: a key made once for what the person means to
    do; said again, it is done once."""

    verdict: str
    words: str = Field(max_length=10_000)
    buy_below: Decimal | None = Field(default=None, max_digits=16, decimal_places=6)
    as_of: date
    question: dict[str, str] = {}
    intention: Annotated[str, Field(min_length=8, max_length=64)] | None = None


class DecisionMade(BaseModel):
    id: int


class ChangeOut(BaseModel):
    key: str
    label: str
    unit: UnitName
    currency: str | None
    then: float | None
    then_reason: str | None
    now: FigureOut | None
    moved: bool


class DecisionOut(BaseModel):
    """question: what was asked of the review then, as the address holds it. strains: what those
    kept on the payer said then; disagreements: the person's words by stage, as they were then."""

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


def decision_out(past: decisions.PastDecision) -> DecisionOut:
    made = past.made
    return DecisionOut.model_validate(
        {
            "id": made.id or 0,
            "as_of": made.as_of,
            "recorded_at": made.recorded_at,
            "verdict": made.verdict,
            "words": made.words,
            "buy_below": past.buy_below,
            "buy_below_written": None
            if made.buy_below is None
            else f"{made.buy_below.normalize():f}",
            "currency": made.currency,
            "state": made.state,
            "first_to_give": made.first_to_give,
            "question": dict(made.question),
            "strains": made.strains,
            "disagreements": dict(made.disagreements),
            "changes": [_change(c, made.currency) for c in past.changes],
            "dividends_since": [payment_out(d, d.amount) for d in past.dividends_since],
        }
    )


def _change(change: decisions.Change, currency: str) -> ChangeOut:
    return ChangeOut.model_validate(
        {
            "key": change.key,
            "label": change.label,
            "unit": change.unit,
            "currency": currency if change.unit == "money" else None,
            "then": change.then,
            "then_reason": change.then_reason,
            "now": figure_out(change.now, change.key) if change.now else None,
            "moved": change.moved,
        }
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
    )
    return DecisionMade(id=id)


@router.delete("/decisions/{id}", status_code=204)
def withdraw(here: Here, id: Id) -> None:
    decisions.withdraw(here.cache, id, True)


@router.post("/decisions/{id}/restore", status_code=204)
def put_back(here: Here, id: Id) -> None:
    decisions.withdraw(here.cache, id, False)


class DisagreementIn(BaseModel):
    """Empty words take it back."""

    words: str = Field(max_length=2000)


@router.get(ONE_PAYER + "/disagreements")
def held(here: Here, exchange: str, symbol: str) -> dict[str, str]:
    """Findings the person disagrees with: their words by stage."""
    return dict(disagreements_of(here.database, exchange, symbol))


@router.put(ONE_PAYER + "/disagreements/{stage}", status_code=204)
def say(here: Here, exchange: str, symbol: str, stage: str, said: DisagreementIn) -> None:
    disagree(here.database, exchange, symbol, stage=stage, words=said.words, at=here.now())
