"""What has become of a decision by a day: the price and its return since, its expectations.

Many are read at once, so what is made here is small and is kept.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Protocol

from hearth_yield.core.expecting.expectation import (
    DAYS,
    Expectation,
    Judged,
    Side,
    Way,
    answered,
    days_looked_at,
    in_a_sentence,
    judge,
)
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import split_factor
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.finding.measured import Measured
from hearth_yield.core.question import Question
from hearth_yield.core.range.price import Priced
from hearth_yield.core.range.quantity import YIELD
from hearth_yield.core.record.eras import raised_on
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import decisions
from hearth_yield.store.database import Edition
from hearth_yield.store.decisions import Decision

from .ensure_measures import universe
from .review_cache import ReviewCache

Key = tuple[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Since:
    """From the day of a decision to the day viewed, as fractions: the price, the total return, the
    market's and the difference; figures that stand alone, as many are kept.
    offered_a_year: the return that the price of then offered; offered: what that comes to by now.
    """

    first: date
    last: date
    price: Figure
    total: Figure
    market: Figure
    against_market: Figure
    offered_a_year: float | None
    offered: float | None


class Made(Protocol):
    """A decision as far as its expectations are judged."""

    @property
    def exchange(self) -> str: ...
    @property
    def symbol(self) -> str: ...
    @property
    def as_of(self) -> date: ...
    @property
    def expectations(self) -> Sequence[Mapping[str, Any]]: ...


def since_decided(file: PayerFile, made: Decision) -> Since | None:
    """file: cut to the day viewed. None on the very day of the decision.

    offered: (1 + r)^years − 1 of the return kept with the decision, None where it kept none.
    """
    if made.as_of >= file.day:
        return None
    grown = Priced(file=file, quantity=YIELD).over("since", made.as_of, file.day)
    a_year = made.frozen.get("worth.implied_return", {}).get("value")
    if a_year is not None and a_year <= -1:
        a_year = None
    years = (file.day - made.as_of).days / DAYS
    return Since(
        first=made.as_of,
        last=file.day,
        price=grown.price.alone(),
        total=grown.total.alone(),
        market=grown.market_total.alone(),
        against_market=grown.against_market.alone(),
        offered_a_year=a_year,
        offered=None if a_year is None else (1 + a_year) ** years - 1,
    )


def expectation_of(held: Mapping[str, Any]) -> Expectation:
    """As it was kept."""
    return Expectation(
        measure=held["measure"],
        way=Way(held["way"]),
        side=Side(held["side"]),
        value=held["value"],
        until=date.fromisoformat(held["until"]),
        then=held["then"],
    )


def ready_measures(cache: ReviewCache, as_of: date) -> Mapping[Key, Measured]:
    """Of each payer whose measures on a day are made and not stale."""
    return {
        (e.exchange, e.symbol): e.measured
        for e in universe(cache, as_of).candidates
        if e.measured is not None and not e.stale
    }


def judged_now(
    cache: ReviewCache, made: Made, file: PayerFile, at: Edition, ready: Measured | None
) -> tuple[Judged, ...]:
    """Each expectation as known on the day a file is cut to, or on the day it was for.

    ready: the payer's measures on that day, where they are made already.
    """

    def answer(day: date, measure: str) -> Figure:
        if ready is not None and day == file.day:
            spec, cell = MEASURES[measure], ready.cell(measure)
            return Figure(
                label=in_a_sentence(spec.name),
                unit=spec.unit,
                value=cell.value,
                reason=cell.reason,
                currency=file.payer.currency,
                touch=cell.touch,
                cautions=cell.cautions,
            )
        review = cache.review(made.exchange, made.symbol, day, Question(), at)
        return answered(measure, review.figure(measure), review.payer.kind)

    def judged() -> Iterator[Judged]:
        factor = split_factor(file.splits, made.as_of)
        for held in made.expectations:
            expected = expectation_of(held)
            days = days_looked_at(expected, made.as_of, file.day)
            looks = [(day, answer(day, expected.measure)) for day in days]
            raised = [day for day in raised_on(file) if day <= days[-1]]
            yield judge(expected, made.as_of, looks, factor, raised)

    return tuple(judged())


def expected_figure(
    cache: ReviewCache, file: PayerFile, at: Edition, decision_id: int, place: int, member: str
) -> Figure | None:
    """What an expectation of a decision has come to (`value`) or would have to be (`wanted`), with
    its working, as known on the day a file is cut to. None where there is no such decision of this
    payer by then, or it has no such expectation."""
    with cache.database.read() as connection:
        made = decisions.of_payer(connection, file.payer.exchange, file.payer.symbol, file.day)
    decision = next((d for d in made if d.id == decision_id), None)
    if decision is None or not 0 <= place < len(decision.expectations):
        return None
    judged = judged_now(cache, decision, file, at, None)[place]
    return {"value": judged.value, "wanted": judged.wanted}.get(member)
