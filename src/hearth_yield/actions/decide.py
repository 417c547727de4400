"""Record a decision with a frozen copy of what it rests on, and hold it against today."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from hearth_yield.core.errors import Conflict, InvalidInput, Unsure
from hearth_yield.core.expecting.expectation import Expectation, Judged, check_expectation
from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.facts.records import Dividend, DividendKind, split_factor
from hearth_yield.core.figures.figure import Figure, Unit
from hearth_yield.core.names import name_of
from hearth_yield.core.question import Question, read_question, write_question
from hearth_yield.core.review import Review
from hearth_yield.core.stages import MEASURES
from hearth_yield.core.watching.contradicted import Priced, contradictions
from hearth_yield.store import decisions, sources
from hearth_yield.store.database import Edition, edition
from hearth_yield.store.decisions import Decision

from .disagree import disagreements_of
from .freeze import kept_of
from .keep_entry_step import steps_of
from .keep_strain import frozen_strains
from .overtaken import unless_overtaken
from .review_cache import ReviewCache
from .since_decided import Since, judged_now, since_decided

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
class Memo:
    """What a decision says beside its verdict. expectations: without what their measures are,
    which is read off the review."""

    pros: str = ""
    cons: str = ""
    risks: str = ""
    trim_above: Decimal | None = None
    next_look: date | None = None
    expectations: Sequence[Expectation] = ()


NO_MEMO = Memo()


@dataclass(frozen=True, slots=True, kw_only=True)
class PastDecision:
    """buy_below, trim_above are in today's shares; the decision keeps what was written. judged: its
    expectations."""

    made: Decision
    buy_below: float | None
    trim_above: float | None
    changes: Sequence[Change]
    dividends_since: Sequence[Dividend]
    since: Since | None
    judged: Sequence[Judged]


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
    memo: Memo = NO_MEMO,
    ask: bool = False,
) -> int:
    """Save a decision made today on today's review; said twice with the same intention, once.
    ask: whether the person is asked about a verdict that its own prices contradict.

    Raises: InvalidInput for a verdict, words or price out of bounds; Conflict while standing on
    a past day, where a decision would know its own outcome; Unsure where it is asked.
    """
    _check(today, as_of, verdict, words, buy_below)
    _check_memo(memo, today)
    at = cache.edition()
    review = cache.review(exchange, symbol, as_of, question, at)
    if ask:
        _check_prices(review, verdict, buy_below, memo.trim_above)
    rests_on = rested_on(review)
    with cache.database.read() as connection:
        named = sources.names(connection)
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
        frozen={k: _frozen(f) for k, f in rests_on.items()},
        intention=intention,
        disagreements=dict(disagreements_of(cache.database, exchange, symbol)),
        strains=frozen_strains(cache, exchange, symbol, as_of, at),
        pros=memo.pros.strip(),
        cons=memo.cons.strip(),
        risks=memo.risks.strip(),
        trim_above=None if memo.trim_above is None else round(memo.trim_above, 6),
        next_look=memo.next_look,
        expectations=[_said(e, review) for e in memo.expectations],
        kept=kept_of(
            review, steps_of(cache, exchange, symbol, as_of, at), named, at.rules, rests_on.values()
        ),
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


def _check_prices(
    review: Review, verdict: str, buy_below: Decimal | None, trim_above: Decimal | None
) -> None:
    """Raises Unsure where the verdict and its prices do not go together."""
    price = review.price.value
    if price is None:
        return
    below, above = (None if p is None else float(p) for p in (buy_below, trim_above))
    found = contradictions(Priced(verdict=verdict, price=price, buy_below=below, trim_above=above))
    if found:
        raise Unsure(
            f"you say {verdict}, but {', and '.join(found)}",
            field="verdict",
            value=verdict,
            rule="a verdict that its own prices bear out, or one that is meant all the same",
        )


MOST_EXPECTED = 12
MOST_WORDS = 4000


def _check_memo(memo: Memo, today: date) -> None:
    """Raises InvalidInput."""
    for name in ("pros", "cons", "risks"):
        words = getattr(memo, name)
        if len(words) > MOST_WORDS:
            raise InvalidInput(
                f"the {name} are too long",
                field=name,
                value=len(words),
                rule=f"{MOST_WORDS} letters",
            )
    if memo.trim_above is not None and not Decimal("0.0001") <= memo.trim_above <= Decimal("1e9"):
        raise InvalidInput(
            "the trim-above price must be above 0",
            field="trim_above",
            value=str(memo.trim_above),
            rule="0.0001 ≤ price ≤ 1,000,000,000",
        )
    if memo.next_look is not None and not today < memo.next_look:
        raise InvalidInput(
            "the next look is on a day to come",
            field="next_look",
            value=memo.next_look.isoformat(),
            rule=f"after {today.isoformat()}",
        )
    if len(memo.expectations) > MOST_EXPECTED:
        raise InvalidInput(
            "too many expectations",
            field="expectations",
            value=len(memo.expectations),
            rule=f"at most {MOST_EXPECTED}",
        )
    for expected in memo.expectations:
        check_expectation(expected, today)


def _said(expected: Expectation, review: Review) -> dict[str, Any]:
    """An expectation as it is kept, with what its measure is now."""
    figure = review.figure(expected.measure)
    return {
        "measure": expected.measure,
        "way": expected.way.value,
        "side": expected.side.value,
        "value": expected.value,
        "until": expected.until.isoformat(),
        "then": None if figure is None else figure.value,
    }


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

    return [_since(cache, d, file, now(d), as_of, at) for d in made]


def _since(
    cache: ReviewCache,
    made: Decision,
    file: PayerFile,
    now: Mapping[str, Figure],
    as_of: date,
    at: Edition,
) -> PastDecision:
    factor = split_factor(file.splits, made.as_of)

    def today(price: Decimal | None) -> float | None:
        return None if price is None else float(price) / factor

    return PastDecision(
        made=made,
        buy_below=today(made.buy_below),
        trim_above=today(made.trim_above),
        since=since_decided(file, made),
        judged=judged_now(cache, made, file, at, None),
        changes=[_change(k, f, now.get(k), factor) for k, f in made.frozen.items()],
        dividends_since=[
            d
            for d in file.dividends
            if d.kind is DividendKind.REGULAR and made.as_of < d.ex_date <= file.day
        ],
    )


def look_back_on(
    cache: ReviewCache, decision_id: int, words: str, begun: str | None = None
) -> None:
    """A note on how it turned out; nothing else of a decision changes. begun: what stood there
    when it was begun. Raises InvalidInput, NotFound, Conflict."""
    if len(words) > MOST_WORDS:
        raise InvalidInput(
            "the note is too long", field="words", value=len(words), rule=f"{MOST_WORDS} letters"
        )
    with cache.database.write(facts=False) as connection:
        unless_overtaken("words", decisions.looked_back(connection, decision_id), begun)
        decisions.look_back(connection, decision_id, words.strip())


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
