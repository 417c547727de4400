"""One payer on one date: every stage put together, and what each has found."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field, fields, replace
from datetime import date
from functools import cached_property

from .aim import Aim, aim_at, yield_at_price
from .cover import BasisCover, Cover, CoverPeriod, build_cover
from .errors import HearthError, Uncomputable
from .facts import Payer, PayerFile, PayerNote
from .figure import Figure
from .hand import LeftOut
from .inflation import Inflation, Pace, build_inflation
from .payments import STOPS, Outcome
from .ranges import QuarterEnd, YieldRange, range_of_yield
from .record import Record, Year, build_record
from .rules import (
    HouseRules,
    Stage,
    State,
    Test,
    build_tests,
    first_to_give,
    tightest_first,
    worst_state,
)
from .statements import words
from .ties import at_least
from .weekly import weekly_yields
from .worth.blend import TAKEN_FOR_GRANTED, Worth, build_worth
from .worth.inputs import WorthInputs
from .worth.models import Model, ModelId

WORTH_WINDOW = "5"


@dataclass(frozen=True, slots=True)
class Size:
    """A figure told by its size alone, where the words around it say which way it points."""

    figure: Figure


Part = str | date | Figure | Size


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """What a stage says in a sentence: words, dates and figures in reading order."""

    stage: Stage
    parts: tuple[Part, ...]
    state: State | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """What is asked of one payer: the range's window, the year to keep pace since, the yield (or
    the price) aimed at and the inputs of Worth."""

    window: str = WORTH_WINDOW
    base_year: int | None = None
    aim: float | None = None
    aim_price: float | None = None
    inputs: WorthInputs = field(default_factory=WorthInputs)


@dataclass(frozen=True, kw_only=True)
class Review:
    payer: Payer
    sector: PayerNote | None
    industry: PayerNote | None
    credit_rating: PayerNote | None
    left_out: tuple[LeftOut, ...]
    as_of: date
    price: Figure
    record: Record
    inflation: Inflation
    cover: Cover
    range: YieldRange
    worth_range: YieldRange
    aim: Aim | None
    worth: Worth
    tests: tuple[Test, ...]
    state: State | None
    first_to_give: Test | None
    findings: tuple[Finding, ...]


def review_of(
    whole: PayerFile, as_of: date, rules: HouseRules, question: Question | None = None
) -> Review:
    """One payer as known on a day, from all its facts. Raises Uncomputable where they lie beyond
    what can be counted with."""
    with computing(whole.payer):
        return build_review(whole.cut(as_of), rules, question)


@contextmanager
def computing(payer: Payer) -> Iterator[None]:
    """Facts beyond what can be counted with end in a sentence that names the payer."""
    try:
        yield
    except HearthError:
        raise
    except (ArithmeticError, ValueError, TypeError, LookupError) as error:
        raise Uncomputable(
            f"{payer.name} cannot be computed from the facts held ({error}); look for a fact that "
            "cannot be, such as a split of 1 for 1,000,000,000, and exclude it",
            field="symbol",
            value=payer.symbol,
            rule="facts within the bounds of an import",
        ) from error


def build_review(file: PayerFile, rules: HouseRules, question: Question | None = None) -> Review:
    """Every built stage of one payer on the day the file is cut to."""
    question = question or Question()
    record = build_record(file)
    inflation = build_inflation(file, record, question.base_year)
    cover = build_cover(file, record)
    weekly = weekly_yields(file)
    worth_range = range_of_yield(file, record, WORTH_WINDOW, weekly)
    shown = (
        worth_range
        if question.window == WORTH_WINDOW
        else range_of_yield(file, record, question.window, weekly)
    )
    tests = tightest_first(build_tests(file.payer.kind, record, inflation, cover, rules))
    worth = build_worth(file, record, cover, worth_range, rules, tests, question.inputs)
    state = None if file.payer.delisted_on else worst_state(tests)
    return Review(
        payer=file.payer,
        sector=file.note("sector"),
        industry=file.note("industry"),
        credit_rating=file.note("credit_rating"),
        left_out=file.left_out,
        as_of=file.day,
        price=file.price,
        record=record,
        inflation=inflation,
        cover=cover,
        range=shown,
        worth_range=worth_range,
        aim=_aim(file, record, shown, question),
        worth=worth,
        tests=tuple(tests),
        state=state,
        first_to_give=first_to_give(tests),
        findings=(
            _record_finding(file, record, inflation, tests),
            _cover_finding(record, cover, tests),
            _range_finding(shown),
            _worth_finding(worth),
        ),
    )


def rework(review: Review, file: PayerFile, rules: HouseRules, question: Question) -> Review:
    """A review under another aim and other inputs of Worth; the other stages stand as they are.

    The question's window and base year must be the review's own.
    """
    worth = review.worth
    if question.inputs != WorthInputs():
        worth = build_worth(
            file,
            review.record,
            review.cover,
            review.worth_range,
            rules,
            review.tests,
            question.inputs,
        )
    return replace(
        review,
        worth=worth,
        aim=_aim(file, review.record, review.range, question),
        findings=(*review.findings[:-1], _worth_finding(worth)),
    )


def _aim(file: PayerFile, record: Record, span: YieldRange, question: Question) -> Aim | None:
    """The aim asked for; without one, today's own yield."""
    target, touch = question.aim, None
    typed = target is not None or question.aim_price is not None
    if question.aim_price is not None:
        target, touch = yield_at_price(record, question.aim_price), record.declared_rate.touch
    elif target is None:
        target, touch = span.now.value, span.now.touch
    return None if target is None else aim_at(file, record, span, target, touch, typed=typed)


def _stage_state(tests: Sequence[Test], stage: Stage) -> State | None:
    return worst_state([t for t in tests if t.stage is stage])


def _record_finding(
    file: PayerFile, record: Record, inflation: Inflation, tests: Sequence[Test]
) -> Finding:
    parts: list[Part] = []
    notice = next((n for n in reversed(file.notices) if n.kind in STOPS), None)
    rate, growth = record.declared_rate, record.growth[10]
    running = record.years[-1] if record.years else None
    if not record.years:
        parts = ["No regular dividend on record"]
    elif rate.value == 0 and notice is not None:
        parts = [f"Dividend {notice.kind.value} on ", notice.declared_on, "; nothing is being paid"]
    elif not rate.known:
        parts = [f"Declared rate unknown: {rate.reason}"]
    elif running is not None and running.outcome is Outcome.CUT and record.last_cut is not None:
        parts = ["Cut on ", record.last_cut, ": ", rate, " a year is declared"]
        if record.gap_called_out:
            parts += [", while the past 12 months still show ", record.trailing_rate]
    else:
        parts = _streak_words(record)
        if growth.known:
            parts += ["; ", growth, " a year over ten"]
            if inflation.real_growth[10].known:
                parts += [", ", inflation.real_growth[10], " after prices"]
    return Finding(stage=Stage.RECORD, parts=(*parts, "."), state=_stage_state(tests, Stage.RECORD))


def _streak_words(record: Record) -> list[Part]:
    raises, kept = record.raises_in_a_row, record.years_without_reduction
    if raises.value:
        return ["Raised ", raises, " running"]
    if kept.value:
        return ["Held or raised ", kept, " running"]
    last = next((y for y in reversed(record.years) if y.complete), record.years[-1])
    return [f"{last.outcome.value.capitalize()} in {last.year}"]


def _cover_finding(record: Record, cover: Cover, tests: Sequence[Test]) -> Finding:
    lead, name = cover.leading, words(cover.leading.basis)
    now = lead.declared
    state = _stage_state(tests, Stage.COVER)
    parts: list[Part]
    if record.declared_rate.value == 0:
        parts = ["Nothing is being paid", *_last_payout(lead, name)]
    elif now.breach:
        parts = [f"{now.breach.capitalize()} in {now.period}: {name} does not pay for the dividend"]
    elif now.value is None:
        parts = [f"Payout from {name} unknown: {now.reason}"]
    else:
        parts = ["Pays out ", now, f" of {name} at the declared rate"]
        if lead.through_cycle.known:
            parts += [", ", lead.through_cycle, " through the cycle"]
        parts += _as_paid(lead)
    tightest = next((t for t in tests if t.stage is Stage.COVER and t.required), None)
    if tightest is not None and tightest.cushion.value is not None:
        room = tightest.cushion
        if at_least(1 + (room.value or 0.0), 1.0):
            parts += [f"; {tightest.falls or name} can fall ", room]
        else:
            which = "" if tightest.id == "leading_payout" else f"{tightest.short} "
            parts += [f"; {which}over your limit by ", Size(room)]
    return Finding(stage=Stage.COVER, parts=(*parts, "."), state=state)


def _last_payout(lead: BasisCover, name: str) -> list[Part]:
    """Of the newest fiscal year in which something was paid."""
    paid = [y for y in lead.years if y.payout.known or y.payout.breach]
    if not paid:
        return []
    last = paid[-1]
    if last.payout.breach:
        return [f"; last paid in {last.label}, out of a {last.payout.breach}"]
    return ["; the last payout was ", last.payout, f" of {name}, in {last.label}"]


AS_PAID_CALLED_OUT = 0.10


def _as_paid(lead: BasisCover) -> list[Part]:
    """Last year's payout as it was paid, where a cut or a leap of the basis sets it far apart."""
    paid, now = lead.latest.payout if lead.latest else None, lead.declared.value
    if paid is None or now is None:
        return []
    if paid.breach and lead.latest:
        return [f" ({paid.breach} in {lead.latest.label})"]
    if paid.value is None or abs(paid.value - now) <= AS_PAID_CALLED_OUT:
        return []
    return [" (", paid, f" was paid in {lead.latest.label if lead.latest else ''})"]


def _range_finding(span: YieldRange) -> Finding:
    parts: list[Part]
    if span.now.value is None:
        why = span.now.reason or ""
        named = why[:1].upper() + why[1:] if " unknown: " in why else f"Yield unknown: {why}"
        parts = [f"{named}."]
    elif span.deviation.value is None:
        parts = ["Yields ", span.now, f"; its average is unknown: {span.mean.reason}."]
    else:
        side = "above" if span.deviation.value >= 0 else "below"
        name = "whole record's" if span.window == "all" else f"{span.window}-year"
        parts = [span.now, " is ", Size(span.deviation), f" {side} its {name} average; "]
        if span.share_of_weeks.value == 0:
            parts.append("higher than in any week of it.")
        else:
            parts += ["as high or higher in ", span.share_of_weeks, " of weeks."]
    return Finding(stage=Stage.RANGE, parts=tuple(parts), state=None)


def _worth_finding(worth: Worth) -> Finding:
    """Values rest on the dividend going on; where it is over its limit, the finding says so."""
    parts: list[Part]
    on = worth.on
    if worth.blend.value is None:
        parts = ["Worth unknown: no model suits this payer as it stands."]
    elif len(on) == 1:
        parts = [f"{on[0].name} alone: ", worth.blend]
        if on[0].id is ModelId.YIELD_REVERSION:
            parts.append(", which leans on the payer's own price history only")
    else:
        ordered = sorted(on, key=lambda m: m.middle.value or 0.0)
        parts = [
            "Models from ",
            ordered[0].middle,
            " to ",
            ordered[-1].middle,
            "; blend ",
            worth.blend,
        ]
    gap = worth.price_against_buy_below
    if worth.blend.known:
        if gap.value is None:
            parts.append(f"; {gap.reason}.")
        else:
            side = "over" if gap.value > 0 else "under"
            parts += ["; price ", Size(gap), f" {side} buy-below."]
        parts += [f" It {c}." for c in worth.buy_below.cautions if c == TAKEN_FOR_GRANTED]
    return Finding(stage=Stage.WORTH, parts=tuple(parts), state=None)


def named_figures(review: Review, only: str = "") -> dict[str, Figure]:
    """Every figure of a review, or of one part of it, under the path that leads to it.

    A member of a list is named by its year, id, basis, day or end: `record.years.2019.total`,
    `cover.bases.earnings.years.2021-12-31.payout`.
    """
    found: dict[str, Figure] = {}
    _walk(getattr(review, only) if only else review, only, found)
    return found


def figures_in(part: object) -> dict[str, Figure]:
    """The figures that one part of a review holds itself, by the name of its member."""
    held = {n: getattr(part, n) for n in _OPENED[type(part)]}
    return {n: f for n, f in held.items() if isinstance(f, Figure)}


def figure_at(review: Review, path: str) -> Figure | None:
    """The figure that `named_figures` gives this path; None where the review has none there."""
    node: object = review
    for name in path.split("."):
        if isinstance(node, tuple):
            node = next((c for c in node if _name_of(c) == name), None)
        elif isinstance(node, dict):
            node = next((v for k, v in node.items() if str(k) == name), None)
        else:
            node = getattr(node, name, None)
    return node if isinstance(node, Figure) else None


def _walk(node: object, path: str, found: dict[str, Figure]) -> None:
    """Collects figures below a node; it runs for every review shown, hence no generators."""
    if isinstance(node, Figure):
        if path in found:
            raise HearthError(f"two figures of a review are called {path}")
        found[path] = node
    elif opened := _OPENED.get(type(node)):
        stem = f"{path}." if path else ""
        for name in opened:
            child = getattr(node, name)
            if type(child) in _WALKED:
                _walk(child, stem + name, found)
    elif isinstance(node, tuple):
        for child in node:
            if type(child) in _OPENED:
                _walk(child, f"{path}.{_name_of(child)}", found)
    elif isinstance(node, dict):
        for key, child in node.items():
            _walk(child, f"{path}.{key}", found)


def _members(part: type) -> tuple[str, ...]:
    """Fields of a part, and what it builds when asked."""
    built = (n for n, v in vars(part).items() if isinstance(v, cached_property))
    return (*(f.name for f in fields(part)), *built)


_OPENED: dict[type, tuple[str, ...]] = {
    c: _members(c)
    for c in (
        Review,
        Record,
        Year,
        Inflation,
        Pace,
        Cover,
        BasisCover,
        CoverPeriod,
        YieldRange,
        QuarterEnd,
        Aim,
        Worth,
        Model,
        Test,
    )
}
"""The parts of a review that hold figures, with the names of their fields."""
_WALKED = {Figure, tuple, dict, *_OPENED}


def _name_of(child: object) -> str:
    for attribute in ("year", "base_year", "id", "basis", "day"):
        value = getattr(child, attribute, None)
        if value is not None:
            return str(value)
    end = getattr(child, "end", None)
    return end.isoformat() if isinstance(end, date) else ""


KEY_FIGURES = (
    "price",
    "record.declared_rate",
    "record.growth.5",
    "record.growth.10",
    "record.raises_in_a_row",
    "record.years_without_reduction",
    "inflation.real_growth.10",
    "worth_range.now",
    "worth_range.mean",
    "worth_range.deviation",
    "worth.growth",
    "worth.required_return",
    "worth.margin_of_safety",
    "worth.later_growth",
    "worth.models.constant_growth.middle",
    "worth.models.two_stage.middle",
    "worth.models.fading.middle",
    "worth.models.yield_reversion.middle",
    "worth.blend",
    "worth.buy_below",
    "worth.implied_growth",
)
"""The figures a decision rests on; the tests' measures are kept beside them."""


def key_figures(review: Review) -> dict[str, Figure]:
    """What a decision freezes, by key: the figures above and every test's measure."""
    held = named_figures(review)
    keys = [k for k in KEY_FIGURES if k in held]
    return {k: held[k] for k in keys} | {f"tests.{t.id}.measure": t.measure for t in review.tests}
