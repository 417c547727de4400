"""Disagree with what a stage found, in one's own words, or take that back."""

from __future__ import annotations

from collections.abc import Mapping

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.stages import STAGES
from hearth_yield.store import disagreements
from hearth_yield.store.database import Database

from .overtaken import unless_overtaken

MAX_WORDS = 1000


def disagreements_of(database: Database, exchange: str, symbol: str) -> Mapping[str, str]:
    """The person's words by stage, of one payer."""
    with database.read() as connection:
        return disagreements.of_payer(connection, exchange, symbol)


def disagree(
    database: Database,
    exchange: str,
    symbol: str,
    *,
    stage: str,
    words: str,
    at: str,
    begun: str | None = None,
) -> None:
    """begun: the words that stood there when these were begun. Empty words take it back. Raises
    InvalidInput for a stage that finds nothing, Conflict where other words came meanwhile."""
    if stage not in {s.value for s in STAGES}:
        raise InvalidInput(
            "no such stage",
            field="stage",
            value=stage,
            rule=f"one of {', '.join(s.value for s in STAGES)}",
        )
    if len(words) > MAX_WORDS:
        raise InvalidInput(
            "that is too long",
            field="words",
            value=len(words),
            rule=f"at most {MAX_WORDS} characters",
        )
    with database.write(facts=False) as connection:
        standing = disagreements.of_payer(connection, exchange, symbol).get(stage, "")
        unless_overtaken("words", standing, begun)
        if words.strip():
            disagreements.put(connection, exchange, symbol, stage=stage, words=words.strip(), at=at)
        else:
            disagreements.remove(connection, exchange, symbol, stage)
