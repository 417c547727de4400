"""One payer on one date: every stage put together, judged, and what each has found."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from .cover.cover import Cover, build_cover
from .errors import HearthError, Miscomputed, Uncomputable
from .facts.edits import Exclusion
from .facts.payer_file import PayerFile
from .facts.periods import trailing_period
from .facts.records import Payer, PayerNote, Slump
from .figures.figure import Figure, Unit, given
from .figures.measure import Sentence, Stage
from .footing.stage import Footing, build_footing
from .judging.house_rules import HouseRules, Whom
from .judging.judge import (
    State,
    Test,
    first_to_give,
    judge,
    payer_state,
    tightest_first,
    worst_state,
)
from .question import Question
from .range.aim import Aim
from .range.multiples import QUANTITIES
from .range.performance import Grown
from .range.ruler import Ruler
from .range.stage import RangeStage, aim_of, build_range
from .record.ahead import Coming
from .record.history import Record
from .record.inflation import Inflation
from .record.stage import RecordStage, build_record_stage
from .stages import MEASURES, STAGES, Standing, figures_of, measures_of
from .strain.inputs import Strain
from .strain.strained import StrainBase, Strained, strain_review
from .watching.reach import Reach, reach_of
from .worth.declare import Choices, Ground
from .worth.outlay import Outlay, check_outlay, outlay_of
from .worth.worth import Worth, build_worth


@dataclass(frozen=True, slots=True, kw_only=True)
class StageReview:
    """One stage: what the room computed, its measures by id, its tests and what it found."""

    stage: Stage
    result: Any
    figures: Mapping[str, Figure]
    tests: tuple[Test, ...]
    state: State | None
    finding: Sentence


@dataclass(frozen=True, kw_only=True)
class Review:
    """tests: of all stages, the required first, each group by the smallest cushion. made: what
    other questions on it need again."""

    payer: Payer
    sector: PayerNote | None
    industry: PayerNote | None
    credit_rating: PayerNote | None
    exclusions: tuple[Exclusion, ...]
    slumps: tuple[Slump, ...]
    as_of: date
    stages: Mapping[Stage, StageReview]
    aim: Aim | None
    tests: tuple[Test, ...]
    state: State | None
    first_to_give: Test | None
    payer_figures: Mapping[str, Figure]
    strained: Strained | None = None
    span: Grown | None = None
    outlay: Outlay | None = None
    reach: Reach | None = None
    made: dict[Any, Any] = field(default_factory=dict, init=False, repr=False, compare=False)

    @property
    def price(self) -> Figure:
        return self.payer_figures["price"]

    @property
    def record(self) -> Record:
        result: RecordStage = self.stages[Stage.RECORD].result
        return result.record

    @property
    def coming(self) -> Coming | None:
        """The next payment, declared or projected."""
        result: RecordStage = self.stages[Stage.RECORD].result
        return result.coming

    @property
    def inflation(self) -> Inflation:
        result: RecordStage = self.stages[Stage.RECORD].result
        return result.inflation

    @property
    def cover(self) -> Cover:
        result: Cover = self.stages[Stage.COVER].result
        return result

    @property
    def footing(self) -> Footing:
        result: Footing = self.stages[Stage.FOOTING].result
        return result

    @property
    def range(self) -> Ruler:
        """The quantity and window shown."""
        result: RangeStage = self.stages[Stage.RANGE].result
        return result.shown

    @property
    def worth(self) -> Worth:
        result: Worth = self.stages[Stage.WORTH].result
        return result

    def figure(self, id: str) -> Figure | None:
        """A measure's figure; None where the payer's kind does not use it."""
        stage = MEASURES[id].stage
        held = self.payer_figures if stage is Stage.PAYER else self.stages[stage].figures
        return held.get(id)


def review_of(
    whole: PayerFile, as_of: date, rules: HouseRules, question: Question | None = None
) -> Review:
    """One payer as known on a day, from all its facts. Raises Uncomputable where they lie beyond
    what can be counted with."""
    with computing(whole.payer):
        return build_review(whole.cut(as_of), rules, question)


@contextmanager
def computing(payer: Payer) -> Iterator[None]:
    """Facts beyond what can be counted with end in a sentence that names the payer: Uncomputable.
    Whatever else goes wrong is no fault of the facts: Miscomputed."""
    try:
        yield
    except HearthError:
        raise
    except ArithmeticError as error:
        raise Uncomputable(
            f"{payer.name} cannot be computed from the facts held ({error}); look for a fact that "
            "cannot be, such as a split of 1 for 1,000,000,000, and exclude it",
            field="symbol",
            value=payer.symbol,
            rule="facts within the bounds of an import",
        ) from error
    except Exception as error:
        raise Miscomputed(
            f"{payer.name} could not be computed: a fault of the product, not of the facts held",
            field="symbol",
            value=payer.symbol,
        ) from error


BUILDERS: Mapping[Stage, Callable[[PayerFile, RecordStage, Question], Any]] = {
    Stage.COVER: lambda file, held, _: build_cover(file, held.record),
    Stage.FOOTING: lambda file, _, __: build_footing(file),
    Stage.RANGE: lambda file, held, question: build_range(
        file, held.record, QUANTITIES[question.quantity], question.window, question.typical
    ),
}
"""What each stage between Record and Worth is computed by, on the payer's record."""


def build_review(file: PayerFile, rules: HouseRules, question: Question | None = None) -> Review:
    """Every built stage of one payer on the day the file is cut to."""
    question = question or Question()
    record = build_record_stage(file, question.base_years)
    results: dict[Stage, Any] = {Stage.RECORD: record} | {
        stage: build(file, record, question) for stage, build in BUILDERS.items()
    }
    stages = {stage: _judged(file, rules, stage, result) for stage, result in results.items()}
    review = _spanned(_with_worth(file, rules, question, stages), question)
    review = _put_in(review, question)
    review = _waited_for(review, file, question)
    return _under(review, file, rules, question.strain)


def rework(review: Review, file: PayerFile, rules: HouseRules, question: Question) -> Review:
    """A review under another aim, other inputs of Worth and a strain; the other stages stand as
    they are.

    The question's place must be the review's own.
    """
    if question.choices != Choices():
        review = _with_worth(file, rules, question, review.stages)
    elif question.aim is not None or question.aim_price is not None:
        review = replace(review, aim=aim_of(file, review.range, question.aim, question.aim_price))
    review = _put_in(_spanned(review, question), question)
    review = _waited_for(review, file, question)
    return _under(review, file, rules, question.strain)


def _put_in(review: Review, question: Question) -> Review:
    """The review with what the sum asked about would buy and earn."""
    check_outlay(question.outlay, question.outlay_at)
    if question.outlay is None:
        return review
    currency, below = review.payer.currency, review.worth.buy_below
    if question.outlay_at is not None:
        yours = question.outlay_at
        below = given("buy-below price", Unit.PER_SHARE, yours, "yours", currency=currency)
    rate, kept = review.record.declared_rate, review.worth.kept_after_tax
    return replace(
        review, outlay=outlay_of(question.outlay, review.price, below, rate, kept, currency)
    )


def _spanned(review: Review, question: Question) -> Review:
    """The review with what the price did over the span asked for."""
    if question.span is None:
        return review
    held: RangeStage = review.stages[Stage.RANGE].result
    return replace(review, span=held.price.over("span", *question.span))


def _waited_for(review: Review, file: PayerFile, question: Question) -> Review:
    """The review with how far the price is from the one asked about."""
    if question.reach is None:
        return review
    return replace(review, reach=reach_of(file, review.record.declared_rate, *question.reach))


def rejudge(review: Review, file: PayerFile, rules: HouseRules) -> Review:
    """A plain review under other house rules; what its stages computed stands as it is."""
    before = dict(review.stages)
    before.pop(Stage.WORTH, None)
    stages = {stage: _judged(file, rules, stage, held.result) for stage, held in before.items()}
    return _with_worth(file, rules, Question(), stages)


def _under(review: Review, file: PayerFile, rules: HouseRules, strain: Strain | None) -> Review:
    """The review with its tests made again under a strain, where one is asked."""
    if strain is None:
        return review
    base = StrainBase(
        file=file,
        period=trailing_period(file),
        results={stage: held.result for stage, held in review.stages.items()},
        splits=review.footing.splits,
        tests=review.tests,
        rate=review.record.declared_rate,
        whom=_whom(file),
        rules=rules,
        made=review.made,
    )
    return replace(review, strained=strain_review(base, strain))


def _with_worth(
    file: PayerFile, rules: HouseRules, question: Question, before: Mapping[Stage, StageReview]
) -> Review:
    """The review from its judged stages, with Worth built on them."""
    stages = dict(before)
    stages.pop(Stage.WORTH, None)
    tests = tightest_first([t for held in stages.values() for t in held.tests])
    ranges: RangeStage = stages[Stage.RANGE].result
    record: RecordStage = stages[Stage.RECORD].result
    ground = Ground(
        file=file,
        record=record.record,
        cover=stages[Stage.COVER].result,
        shown=ranges.shown,
        rules=rules,
        tests=tests,
        choices=question.choices,
    )
    worth = _judged(file, rules, Stage.WORTH, build_worth(ground))
    stages[Stage.WORTH] = worth
    tests = tightest_first([*tests, *worth.tests]) if worth.tests else tests
    judged = file.payer.delisted_on is None and file.payer.kind.is_judged
    state = payer_state(tests, record.record.declared_rate) if judged else None
    first = None if state in (None, State.PAYING_NOTHING) else first_to_give(tests)
    return Review(
        payer=file.payer,
        sector=file.note("sector"),
        industry=file.note("industry"),
        credit_rating=file.note("credit_rating"),
        exclusions=file.exclusions,
        slumps=file.slumps,
        as_of=file.day,
        stages=stages,
        aim=aim_of(file, ranges.shown, question.aim, question.aim_price),
        tests=tuple(tests),
        state=state,
        first_to_give=first,
        payer_figures=figures_of(
            Stage.PAYER, Standing(file=file, tests=tests, first_to_give=first)
        ),
    )


def _judged(file: PayerFile, rules: HouseRules, stage: Stage, result: object) -> StageReview:
    """One stage with its measures read off, tested, and what it found."""
    figures = figures_of(stage, result)
    tests = tightest_first(judge(result, figures, measures_of(stage), _whom(file), rules))
    return StageReview(
        stage=stage,
        result=result,
        figures=figures,
        tests=tuple(tests),
        state=None if file.payer.delisted_on else worst_state(tests),
        finding=STAGES[stage].find(result, tests),
    )


def _whom(file: PayerFile) -> Whom:
    sector = file.note("sector")
    return Whom(
        kind=file.payer.kind,
        sector=sector.value if sector else None,
        exchange=file.payer.exchange,
        symbol=file.payer.symbol,
    )
