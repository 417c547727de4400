"""Record a decision with a frozen copy of what it rests on, and hold it against today."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from hearth_yield.core.errors import Conflict, InvalidInput
from hearth_yield.core.facts.records import Dividend, DividendKind, PayerFile, split_factor
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.names import name_of
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.review import Review
from hearth_yield.core.stages import MEASURES
from hearth_yield.store import decisions
from hearth_yield.store.database import edition
from hearth_yield.store.decisions import Decision

from .disagree import disagreements_of
from .keep_strain import frozen_strains
from .review_cache import ReviewCache

VERDICTS = ("buy", "hold", "wait", "trim", "avoid")
MOVED = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class Change:
    """One figure a decision rested on, then and now; per-share figures in today's shares."""

    key: str
    label: str
    unit: str
    then: float | None
    then_reason: str | None
    now: Figure | None
    moved: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PastDecision:
    """buy_below is in today's shares; the decision keeps what was written."""

    made: Decision
    buy_below: float | None
    changes: Sequence[Change]
    dividends_since: Sequence[Dividend]


def decide(
    cache: ReviewCache,
    exchange: str,
    symbol: str,
    *,
    today: date,
    as_of: date,
    recorded_at: str,
    verdict: str,
    words: str,
    buy_below: Decimal | None,
    question: Question,
    intention: str | None = None,
) -> int:
    """Save a decision made today on today's review; said twice with the same intention, once.

    Raises: InvalidInput for a verdict, words or price out of bounds; Conflict while standing on
    a past day, where a decision would know its own outcome.
    """
    _check(today, as_of, verdict, words, buy_below)
    review = cache.review(exchange, symbol, as_of, question)
    first = review.first_to_give
    made = Decision(
        symbol=symbol,
        exchange=exchange,
        as_of=as_of,
        recorded_at=recorded_at,
        verdict=verdict,
        words=words.strip(),
        buy_below=None if buy_below is None else round(buy_below, 6),
        currency=review.payer.currency,
        state=review.state.value if review.state else None,
        first_to_give=first.measure.label if first else None,
        question=write_question(question),
        frozen={k: _frozen(f) for k, f in rested_on(review).items()},
        intention=intention,
        disagreements=dict(disagreements_of(cache.database, exchange, symbol)),
        strains=frozen_strains(cache, exchange, symbol, as_of, cache.edition()),
    )
    with cache.database.write(facts=False) as connection:
        return decisions.add(connection, made)


def _check(today: date, as_of: date, verdict: str, words: str, buy_below: Decimal | None) -> None:
    """Raises as `decide` does."""
    if as_of != today:
        raise Conflict(
            f"decisions are made today; you are standing on {as_of.isoformat()}",
            field="as_of",
            value=as_of.isoformat(),
            rule=f"as-of is today, {today.isoformat()}",
        )
    if verdict not in VERDICTS:
        raise InvalidInput(
            "choose a verdict", field="verdict", value=verdict, rule=f"one of {', '.join(VERDICTS)}"
        )
    if not words.strip():
        raise InvalidInput(
            "say in your own words why", field="words", value=words, rule="at least one word"
        )
    if buy_below is not None and not Decimal("0.0001") <= buy_below <= Decimal("1e9"):
        raise InvalidInput(
            "the buy-below price must be above 0",
            field="buy_below",
            value=str(buy_below),
            rule="0.0001 ≤ price ≤ 1,000,000,000",
        )


def rested_on(review: Review) -> dict[str, Figure]:
    """What a decision keeps, by name: measures declared to be kept, every tested one, and the
    second opinions that count."""
    tested = {t.id for t in review.tests}
    held = {id: review.figure(id) for id, m in MEASURES.items() if m.frozen or id in tested}
    found = {name_of(id): figure for id, figure in held.items() if figure is not None}
    counted = (m for m in review.worth.on if m.id not in MEASURES)
    return found | {f"worth.models.{m.key}.middle": m.middle for m in counted}


def _frozen(figure: Figure) -> dict[str, Any]:
    return {
        "label": figure.label,
        "unit": figure.unit.value,
        "value": figure.value,
        "reason": figure.reason,
        "breach": figure.breach,
        "spared": figure.spared,
        "period": figure.period,
    }


def withdraw(cache: ReviewCache, decision_id: int, withdrawn: bool) -> None:
    """Take a decision back, or put it back: nothing is deleted."""
    with cache.database.write(facts=False) as connection:
        decisions.set_withdrawn(connection, decision_id, withdrawn)


def past_decisions(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date
) -> Sequence[PastDecision]:
    """Decisions made by a day, newest first, each with what has changed since: the same question
    is asked again."""
    with cache.database.read() as connection:
        made = decisions.of_payer(connection, exchange, symbol, as_of)
        at = edition(connection)
    if not made:
        return []
    file = cache.cut_file(at, exchange, symbol, as_of)

    def now(made: Decision) -> Mapping[str, Figure]:
        question = read_question(made.question)
        return rested_on(cache.review(exchange, symbol, as_of, question, at))

    return [_since(d, file, now(d)) for d in made]


def _since(made: Decision, file: PayerFile, now: Mapping[str, Figure]) -> PastDecision:
    factor = split_factor(file.splits, made.as_of)
    return PastDecision(
        made=made,
        buy_below=None if made.buy_below is None else float(made.buy_below) / factor,
        changes=[_change(k, f, now.get(k), factor) for k, f in made.frozen.items()],
        dividends_since=[
            d
            for d in file.dividends
            if d.kind is DividendKind.REGULAR and made.as_of < d.ex_date <= file.day
        ],
    )


def _change(key: str, frozen: Mapping[str, Any], now: Figure | None, factor: float) -> Change:
    then = frozen["value"]
    if then is not None and frozen["unit"] == Unit.PER_SHARE.value:
        then = then / factor
    current = now.value if now is not None else None
    if then is None or current is None:
        moved = then is not current
    else:
        moved = abs(current - then) > MOVED * max(abs(then), 1e-9)
    return Change(
        key=key,
        label=frozen["label"],
        unit=frozen["unit"],
        then=then,
        then_reason=frozen["reason"],
        now=now,
        moved=moved,
    )
