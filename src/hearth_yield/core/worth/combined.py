"""The combined value: one vote for each question, not for each model. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ..cover.bases import NOTHING_PAID
from ..cover.measures import PAYOUT
from ..figures.figure import Figure, Touch, Unit, Unknown, derive, given, percent, touch_of, unknown
from ..figures.parts import HoldsFigures
from .declare import QUESTIONS, Answers, Ground
from .dividends import pays_nothing
from .models import Model

COMBINED = "combined value"
YOURS = "weight set by you"
ALONE = "fewer than two questions count"


@dataclass(frozen=True, slots=True, kw_only=True)
class Answer(HoldsFigures):
    """What one question says of a payer's worth: the mean of its models that are on, by theirs.

    weighted: by the chances of the cases. weight: between the questions; share: the part that it
    has of the combined value; without: the combined value had it not counted. why: its weight in
    words; typed: the person set it. models: how many are on.
    """

    id: Answers
    name: str
    low: Figure
    middle: Figure
    high: Figure
    weighted: Figure
    weight: Figure
    share: Figure
    without: Figure
    why: str
    typed: bool
    models: int

    @property
    def key(self) -> str:
        return self.id

    @property
    def counts(self) -> bool:
        return bool(self.share.value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Combined(HoldsFigures):
    """answers: of the questions that have a model on. value: the combined value; low, high: with
    every model at its low, and at its high; weighted: by the chances of the cases. spread: how far
    the answers that count lie apart; leaving_out: how far leaving one out moves the value at most.
    touch: that a person had a hand in what counts, and how much. parts: what each model has of the
    combined value, by id; empty where there is none."""

    answers: tuple[Answer, ...]
    value: Figure
    low: Figure
    high: Figure
    weighted: Figure
    spread: Figure
    leaving_out: Figure
    touch: Touch | None = None
    parts: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class _Weight:
    figure: Figure
    why: str
    typed: bool = False


@dataclass(frozen=True, slots=True)
class _Case:
    """The answers in one case, with their weights."""

    values: Sequence[Figure]
    weights: Sequence[Figure]
    currency: str

    def mean(self, label: str) -> Figure:
        """Σ weight × answer ÷ Σ weights."""
        held = [(v, w) for v, w in zip(self.values, self.weights, strict=True) if w.value != 0]
        n = len(held)

        def compute(*x: float) -> float:
            return sum(w * v for v, w in zip(x[:n], x[n:], strict=True)) / sum(x[n:])

        formula = "Σ weight × answer ÷ Σ weights"
        if not held:
            why = "no question that has an answer has a weight"
            return unknown(label, Unit.PER_SHARE, why, currency=self.currency)
        parts = [*(v for v, _ in held), *(w for _, w in held)]
        return derive(label, Unit.PER_SHARE, formula, parts, compute, currency=self.currency)


def combine(ground: Ground, models: Sequence[Model]) -> Combined:
    """The answers of the questions, and what they come to together.

    Source: docs/method.md, Worth. Dividends 45.00 at 0.4775, own past 58.80, cash 52.00 → 53.7288.
    """
    currency, touch = ground.file.payer.currency, _chosen_by(ground, models)
    by_question = {q: [m for m in models if m.on and m.answers == q] for q in QUESTIONS}
    on = {q: held for q, held in by_question.items() if held}
    if not on:
        return _none(_why_none(models), currency, touch)
    weights = weights_of(ground, on)
    cases = {
        case: _Case(
            [_answer(q, held, case, currency) for q, held in on.items()],
            [w.figure for w in weights.values()],
            currency,
        )
        for case in ("low", "middle", "high", "weighted")
    }
    value = cases["middle"].mean(COMBINED).with_touch(touch)
    answers = tuple(
        Answer(
            id=q,
            name=QUESTIONS[q],
            **{case: found.values[i].with_touch(touch) for case, found in cases.items()},
            weight=weights[q].figure.with_touch(touch),
            share=_share(q, i, cases["middle"]).with_touch(touch),
            without=_without(q, i, cases["middle"]).with_touch(value.touch),
            why=weights[q].why,
            typed=weights[q].typed,
            models=len(on[q]),
        )
        for i, q in enumerate(on)
    )
    return Combined(
        answers=answers,
        value=value,
        low=cases["low"].mean(f"{COMBINED}, all low").with_touch(touch),
        high=cases["high"].mean(f"{COMBINED}, all high").with_touch(touch),
        weighted=cases["weighted"].mean(f"{COMBINED}, by chances").with_touch(touch),
        spread=_spread(answers, value, touch),
        leaving_out=_leaving_out(answers, value).with_touch(value.touch),
        touch=touch,
        parts=_parts(answers, on) if value.known else {},
    )


def _none(why: str, currency: str, touch: Touch | None) -> Combined:
    none = unknown(COMBINED, Unit.PER_SHARE, why, currency=currency).with_touch(touch)
    return Combined(
        answers=(),
        value=none,
        low=none,
        high=none,
        weighted=none,
        spread=_spread((), none, touch),
        leaving_out=_leaving_out((), none).with_touch(touch),
    )


def _why_none(models: Sequence[Model]) -> str:
    """Of each question why none of its models is on, each reason once."""
    found: dict[str, str] = {}
    for m in models:
        if m.why_off:
            found.setdefault(m.why_off, QUESTIONS[m.answers].lower())
    return "no model is on: " + "; ".join(f"{name}: {why}" for why, name in found.items())


def _chosen_by(ground: Ground, models: Sequence[Model]) -> Touch | None:
    """That a person had a hand in which models are on, in one that has no answer, or in what the
    questions weigh."""
    chosen = [t for m in models for t in (m.suited_by, None if m.on else m.middle.touch)]
    return touch_of([*chosen, ground.cover.leading.declared.touch])


def _answer(question: Answers, models: Sequence[Model], case: str, currency: str) -> Figure:
    """The mean of its models, by their weights; one model's own answer where it stands alone."""
    label = QUESTIONS[question].lower() + ("" if case == "middle" else f", {case}")
    weights = [m.weight for m in models]
    alike = len(set(weights)) == 1
    told = "weights: " + ", ".join(f"{m.name.lower()} {m.weight:g}" for m in models)
    formula = "mean of its models that are on" + ("" if alike else ", by your weights")
    return derive(
        label,
        Unit.PER_SHARE,
        formula if len(models) > 1 else models[0].name.lower(),
        [getattr(m, case) for m in models],
        lambda *v: sum(w * x for w, x in zip(weights, v, strict=True)) / sum(weights),
        currency=currency,
        notes=() if alike else (told,),
    )


def weights_of(ground: Ground, on: Mapping[Answers, object]) -> dict[Answers, _Weight]:
    """Of every question that has a model on. Its own past weighs as much as dividends and cash
    together; which of these two counts for more, the payout decides.

    w of dividends = (p − L/3) ÷ (2L/3), within 0 … 1. Source: docs/method.md, Worth. 39.1 % of a
    limit of 60 % → 0.4775; 70 of 85 → 0.7353; 66 of 90 → 0.6000.
    """
    both = "dividends" in on and "cash" in on
    of_dividends = _of_dividends(ground, both)
    left = (
        derive(
            "weight of its cash",
            Unit.FRACTION,
            "1 − that of its dividends",
            [of_dividends.figure],
            lambda w: 1 - w,
        )
        if both
        else of_dividends.figure
    )
    typed = ground.choices.weights
    alone = set(on) == {"past"}
    half = "alone: neither its dividends nor its cash can be valued" if alone else "always half"
    ruled = {
        "dividends": of_dividends,
        "past": _Weight(
            _given("its own past", 1.0),
            "weighs 1 against the weights you set" if typed.keys() & on.keys() else half,
        ),
        "cash": _Weight(
            left.but(label="weight of its cash"),
            "what its dividends leave of that half"
            if both
            else "all of that half: its dividends cannot be valued",
        ),
        "others": _Weight(_given("other opinions", 0.0), "no weight until you give it one"),
    }
    return {
        q: _Weight(_given(QUESTIONS[q].lower(), typed[q], YOURS), YOURS, True)
        if q in typed
        else ruled[q]
        for q in on
    }


def _given(name: str, value: float, note: str = "") -> Figure:
    return given(f"weight of {name}", Unit.FRACTION, value, note or "as the method has it")


def _of_dividends(ground: Ground, both: bool) -> _Weight:
    """What dividends or, where only that can be valued, cash weighs."""
    label, payout = "weight of its dividends", ground.cover.leading.declared
    if pays_nothing(ground):
        return _Weight(_given("its dividends", 0.0 if both else 1.0), NOTHING_PAID)
    if payout.value is None and not payout.breach:
        why = f"{payout.label} unknown: {payout.reason}"
        return _Weight(unknown(label, Unit.FRACTION, why, inputs=(payout,)), why)
    if not both:
        return _Weight(_given("its dividends", 1.0), "all of that half: no model of its cash suits")
    test = next((t for t in ground.tests if t.id == PAYOUT.id), None)
    if payout.value is None or test is None:
        why = payout.breach or "no limit of yours to hold its payout against"
        return _Weight(_given("its dividends", 1.0, why), f"all of that half: {why}")
    limit = given("your payout limit", Unit.FRACTION, test.limit, "house rule")
    found = derive(
        label,
        Unit.FRACTION,
        "(payout − a third of your limit) ÷ two thirds of your limit, between 0 and 1",
        [payout, limit],
        lambda p, most: min(1.0, max(0.0, (p - most / 3) / (most * 2 / 3))),
    )
    told = f"pays out {percent(payout.value, 1)}; your limit is {percent(test.limit)}"
    return _Weight(found, told)


def _share(question: Answers, at: int, case: _Case) -> Figure:
    """The part it has of the combined value."""

    def compute(*weights: float) -> float | Unknown:
        total = sum(weights)
        return weights[at] / total if total > 0 else Unknown("no question has a weight")

    name = QUESTIONS[question].lower()
    return derive(
        f"share of {name}", Unit.FRACTION, "its weight ÷ Σ weights", case.weights, compute
    )


def _without(question: Answers, at: int, case: _Case) -> Figure:
    """The combined value had it not counted."""
    label = f"{COMBINED} without {QUESTIONS[question].lower()}"
    rest = _Case(
        [x for i, x in enumerate(case.values) if i != at],
        [x for i, x in enumerate(case.weights) if i != at],
        case.currency,
    )
    if not rest.values:
        why = "nothing else counts"
        return unknown(label, Unit.PER_SHARE, why, currency=case.currency)
    return rest.mean(label)


def _spread(answers: Sequence[Answer], value: Figure, touch: Touch | None) -> Figure:
    """(highest − lowest) ÷ combined value of the answers that count; unknown with one."""
    label = "spread of the answers"
    held = [a.middle for a in answers if a.counts]
    if len(held) < 2:
        none = unknown(label, Unit.FRACTION, ALONE)
        return none.with_touch(touch)
    return derive(
        label,
        Unit.FRACTION,
        "(highest − lowest) ÷ combined value",
        [*held, value],
        lambda *v: (max(v[:-1]) - min(v[:-1])) / v[-1] if v[-1] else Unknown("it is nil"),
    )


def _leaving_out(answers: Sequence[Answer], value: Figure) -> Figure:
    label, held = "most that leaving one out moves it", [a.without for a in answers if a.counts]
    if len(held) < 2:
        return unknown(label, Unit.PER_SHARE, ALONE, currency=value.currency)
    return derive(
        label,
        Unit.PER_SHARE,
        "the largest of |value without each − combined value|",
        [*held, value],
        lambda *v: max(abs(x - v[-1]) for x in v[:-1]),
        currency=value.currency,
    )


def _parts(answers: Sequence[Answer], on: Mapping[Answers, Sequence[Model]]) -> dict[str, float]:
    return {
        m.id: (a.share.value or 0.0) * m.weight / sum(x.weight for x in on[a.id])
        for a in answers
        for m in on[a.id]
    }
