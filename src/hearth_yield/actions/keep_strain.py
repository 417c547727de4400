"""Name a strain and keep it on a payer; what those kept say of it now."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from datetime import date
from typing import Any

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.question_parts import Of
from hearth_yield.core.strain.words import described
from hearth_yield.store import named_questions
from hearth_yield.store.database import Edition
from hearth_yield.store.named_questions import STRAINS, NamedQuestion

from .review_cache import ReviewCache

MAX_NAME = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainSaid:
    """What a strain says of a payer: the state it would stand in, the required test that gives
    first, and the falls of the chosen part at which that gives and cash stops covering the
    dividend. words: what falls, and by how much; refused: why it cannot be made."""

    name: str
    question: dict[str, str]
    words: str = ""
    state: str | None = None
    first: str | None = None
    gives_at: float | None = None
    uncovered_at: float | None = None
    refused: str | None = None


def keep_strain(
    cache: ReviewCache,
    exchange: str,
    symbol: str,
    as_of: date,
    *,
    name: str,
    question: Question,
    at: str,
) -> None:
    """Raises InvalidInput without a name, without a strain, and for one that cannot be made."""
    if not name.strip() or len(name) > MAX_NAME:
        raise InvalidInput(
            "give the strain a name", field="name", value=name, rule=f"1 to {MAX_NAME} characters"
        )
    if question.strain is None:
        raise InvalidInput(
            "there is no strain to keep", field="strain", value=None, rule="a strain"
        )
    cache.review(exchange, symbol, as_of, question)
    with cache.database.write(facts=False) as connection:
        named_questions.put(
            connection,
            STRAINS,
            exchange,
            symbol,
            name=name.strip(),
            question=write_question(question.only(Of.STRAIN)),
            at=at,
        )


def forget_strain(cache: ReviewCache, id: int) -> None:
    """Raises NotFound."""
    with cache.database.write(facts=False) as connection:
        named_questions.remove(connection, STRAINS, id)


def kept_strains(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition
) -> Sequence[tuple[NamedQuestion, StrainSaid]]:
    """Those of a payer by name, each with what it says on the day."""
    with cache.database.read() as connection:
        held = named_questions.of_payer(connection, STRAINS, exchange, symbol)
    return [(k, _said(cache, exchange, symbol, as_of, at, k)) for k in held]


def frozen_strains(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition
) -> list[dict[str, Any]]:
    """What the strains kept on a payer say, as a decision keeps it."""
    return [asdict(said) for _, said in kept_strains(cache, exchange, symbol, as_of, at)]


def _said(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition, kept: NamedQuestion
) -> StrainSaid:
    plain = StrainSaid(name=kept.name, question=dict(kept.question))
    try:
        review = cache.review(exchange, symbol, as_of, read_question(kept.question), at)
    except InvalidInput as refused:
        return replace(plain, refused=str(refused))
    strained = review.strained
    if strained is None:
        return replace(plain, refused="no statement is held")
    return replace(
        plain,
        words=described(strained.strain, strained.inputs),
        state=strained.state.value if strained.state else None,
        first=strained.first.before.short if strained.first else None,
        gives_at=strained.chosen.gives_at.value,
        uncovered_at=strained.chosen.uncovered_at.value,
    )
