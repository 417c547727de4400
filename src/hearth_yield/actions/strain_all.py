"""One strain on every payer held: who would stand within limits, and whose cash still covers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import HearthError, InvalidInput
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.judging.judge import State
from hearth_yield.core.question import Question, write_question
from hearth_yield.core.review import Review, review_of
from hearth_yield.core.strain.inputs import Strain
from hearth_yield.progress import Progress
from hearth_yield.store import payer_files
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainedPayer:
    """One payer before and under the strain. payout: on the leading basis, at the declared rate;
    first: the required test that gives first, gives_at: the fall of revenue at which it does;
    reason: why nothing can be said."""

    exchange: str
    symbol: str
    name: str
    before: State | None = None
    after: State | None = None
    payout: Figure | None = None
    covered: bool | None = None
    first: str | None = None
    gives_at: float | None = None
    reason: str | None = None


@dataclass(frozen=True, slots=True)
class StrainedPayers:
    rows: Sequence[StrainedPayer]


def strain_all(
    cache: ReviewCache, as_of: date, at: Edition, strain: Strain, progress: Progress
) -> int:
    """Kept until facts or rules change. Returns how many payers there are.

    progress: called with step, payers done and payers in all; raising from it stops, and nothing
    is kept. Raises InvalidInput for a part of one payer's revenue.
    """
    if strain.part is not None:
        raise InvalidInput(
            "a part is one payer’s own; only all revenue can fall for every payer",
            field="strain_part",
            value=strain.part,
            rule="all",
        )
    rules, question = cache.house_rules(at), Question(strain=strain)

    def make() -> StrainedPayers:
        with cache.database.read() as connection:
            keys, shared, found = payer_files.keys(connection), payer_files.Shared(), []
            for done, (exchange, symbol) in enumerate(keys):
                progress("payers", done, len(keys))
                whole = payer_files.load(connection, exchange, symbol, shared)
                if whole.payer.until(as_of).delisted_on is not None:
                    continue
                try:
                    with at_rest():
                        found.append(_row(review_of(whole, as_of, rules, question)))
                except HearthError as error:
                    row = StrainedPayer(exchange=exchange, symbol=symbol, name=whole.payer.name)
                    found.append(replace(row, reason=str(error)))
        return StrainedPayers(found)

    return len(cache.strained.get(_key(at, as_of, strain), make).rows)


def strained_payers(
    cache: ReviewCache, as_of: date, at: Edition, strain: Strain
) -> Sequence[StrainedPayer] | None:
    """What is held already; None before it was made."""
    found = cache.strained.peek(_key(at, as_of, strain))
    return found.rows if isinstance(found, StrainedPayers) else None


def strain_text(strain: Strain) -> str:
    """One text for each strain, whatever the order it was typed in."""
    return repr(sorted(write_question(Question(strain=strain)).items()))


def _key(at: Edition, as_of: date, strain: Strain) -> tuple[tuple[int, int], date, str]:
    return (at.judged, as_of, strain_text(strain))


def _row(review: Review) -> StrainedPayer:
    payer, strained = review.payer, review.strained
    plain = StrainedPayer(
        exchange=payer.exchange, symbol=payer.symbol, name=payer.name, before=review.state
    )
    if strained is None:
        return replace(plain, reason="no statement is held")
    covered = strained.covered
    known = covered is not None and covered.after.state is not State.UNKNOWN
    return replace(
        plain,
        after=strained.state,
        payout=covered.measure if covered else None,
        covered=not covered.gave if covered and known else None,
        first=strained.first.before.short if strained.first else None,
        gives_at=strained.chosen.gives_at.value,
    )
