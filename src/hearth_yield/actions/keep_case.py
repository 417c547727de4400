"""Name a set of inputs of Worth and keep it on a payer; what those kept come to now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.question_parts import Of
from hearth_yield.core.review import Review
from hearth_yield.core.worth.declare import Choices
from hearth_yield.store import named_questions
from hearth_yield.store.database import Edition
from hearth_yield.store.named_questions import CASES, NamedQuestion

from .review_cache import ReviewCache

MAX_NAME = 60
MAX_CASES = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Case:
    """review: the payer under the case's inputs, None where these are refused now and why says
    so."""

    kept: NamedQuestion
    review: Review | None
    refused: str | None = None


def keep_case(
    cache: ReviewCache,
    exchange: str,
    symbol: str,
    as_of: date,
    *,
    name: str,
    question: Question,
    at: str,
) -> None:
    """Raises InvalidInput without a name, without any input of one's own, for inputs that are
    refused, and beyond as many cases as a payer can have."""
    if not name.strip() or len(name) > MAX_NAME:
        raise InvalidInput(
            "give the case a name", field="name", value=name, rule=f"1 to {MAX_NAME} characters"
        )
    if question.choices == Choices():
        raise InvalidInput(
            "nothing is typed or switched that a case could keep",
            field="inputs",
            value=None,
            rule="at least one input of your own",
        )
    asked = question.only(Of.WORTH)
    cache.review(exchange, symbol, as_of, asked)
    with cache.database.write(facts=False) as connection:
        if named_questions.count(connection, CASES, exchange, symbol, name.strip()) >= MAX_CASES:
            raise InvalidInput(
                "there are as many cases as a payer can have",
                field="name",
                value=name,
                rule=f"at most {MAX_CASES} cases",
            )
        named_questions.put(
            connection,
            CASES,
            exchange,
            symbol,
            name=name.strip(),
            question=write_question(asked),
            at=at,
        )


def forget_case(cache: ReviewCache, id: int) -> None:
    """Raises NotFound."""
    with cache.database.write(facts=False) as connection:
        named_questions.remove(connection, CASES, id)


def cases_of(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition
) -> Sequence[Case]:
    """Those of a payer by name, each with what it comes to on the day."""
    with cache.database.read() as connection:
        held = named_questions.of_payer(connection, CASES, exchange, symbol)
    return [_case(cache, exchange, symbol, as_of, at, k) for k in held]


def _case(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition, kept: NamedQuestion
) -> Case:
    try:
        review = cache.review(exchange, symbol, as_of, read_question(kept.question), at)
    except InvalidInput as refused:
        return Case(kept=kept, review=None, refused=str(refused))
    return Case(kept=kept, review=review)
