"""A frozen copy of all that a memo shows, in plain values: findings, tests, the ruler, models,
inputs, entry steps, sources."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date
from typing import Any

from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.figures.measure import Part, Size
from hearth_yield.core.judging.judge import Test
from hearth_yield.core.range.entry_steps import PricedStep
from hearth_yield.core.range.ruler import Ruler
from hearth_yield.core.review import Review, StageReview
from hearth_yield.core.stages import MEASURES, STAGES
from hearth_yield.core.worth.combined import Answer
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import Model
from hearth_yield.core.worth.outlay import Outlay

Plain = dict[str, Any]


def kept_of(
    review: Review,
    entries: Iterable[PricedStep],
    sources: Mapping[int, str],
    rules_version: int,
    figures: Iterable[Figure],
) -> Plain:
    """What a decision keeps of a review beside the figures it rests on. sources: every source's
    name; figures: those of the decision, whose sources are named."""
    ruler, worth = review.range, review.worth
    return {
        "payer": {
            "name": review.payer.name,
            "kind": review.payer.kind.value,
            "sector": review.sector.value if review.sector else None,
        },
        "price": value_of(review.price),
        "price_of": review.price.known_on.isoformat() if review.price.known_on else None,
        "rules_version": rules_version,
        "stages": [_stage(held) for held in review.stages.values()],
        "tests": [_test(t, review.payer.currency) for t in review.tests],
        "ruler": _ruler(ruler),
        "models": [_model(m) for m in worth.models if m.on or m.suits],
        "answers": [_answer(a) for a in worth.answers],
        "worth": {
            name: value_of(getattr(worth, name)) for name in ("combined", "buy_below", "trim_above")
        },
        "inputs": [
            {
                "label": INPUTS[i.id].label,
                "value": value_of(i.figure),
                "origin": i.origin,
                "typed": i.typed,
            }
            for i in worth.inputs.values()
            if INPUTS[i.id].bounds
        ],
        "entries": [
            {
                "name": e.quantity.name,
                "target": [e.step.target, e.quantity.unit.value, None],
                "amount": float(e.step.amount),
                "price": value_of(e.price),
            }
            for e in entries
        ],
        "outlay": _outlay(review.outlay),
        "sources": _sources([*figures, review.price], sources),
    }


def _stage(held: StageReview) -> Plain:
    return {
        "id": held.stage.value,
        "name": STAGES[held.stage].name,
        "state": held.state.value if held.state else None,
        "said": [part_of(p) for p in held.finding],
    }


MARKS = ("now", "lowest", "lower_quartile", "median", "mean", "upper_quartile", "highest")


def _ruler(ruler: Ruler) -> Plain:
    named = {"name": ruler.quantity.name, "unit": ruler.quantity.unit.value, "window": ruler.window}
    return named | {mark: getattr(ruler, mark).value for mark in MARKS}


def _model(model: Model) -> Plain:
    cases = {case: value_of(getattr(model, case)) for case in ("low", "middle", "high")}
    return {"name": model.name, "on": model.on, "answers": model.answers} | cases


def _answer(answer: Answer) -> Plain:
    """What a question said; a decision of before three questions were asked keeps none."""
    cases = {case: value_of(getattr(answer, case)) for case in ("low", "middle", "high")}
    return {"id": answer.id, "name": answer.name, "share": value_of(answer.share)} | cases


def _outlay(outlay: Outlay | None) -> Plain | None:
    """What the sum asked about would buy and earn."""
    if outlay is None:
        return None
    names = ("price", "shares", "spent", "year", "quarter", "month")
    taxed = ("year_after_tax", "quarter_after_tax", "month_after_tax")
    return {"amount": value_of(outlay.amount)} | {
        place: {n: value_of(getattr(bought, n)) for n in (*names, *taxed)}
        for place, bought in (("now", outlay.now), ("below", outlay.below))
    }


def value_of(figure: Figure) -> Plain:
    return {
        "value": figure.value,
        "unit": figure.unit.value,
        "currency": figure.currency,
        "reason": figure.reason,
    }


def part_of(part: Part) -> Any:
    """A part of a sentence: words, a day, or a value."""
    match part:
        case Size():
            plain = value_of(part.figure)
            return plain | {"value": None if plain["value"] is None else abs(plain["value"])}
        case Figure():
            return value_of(part)
        case date():
            return {"day": part.isoformat()}
    return part


def _test(test: Test, currency: str) -> Plain:
    return {
        "name": MEASURES[test.id].name,
        "stage": test.stage.value,
        "measure": value_of(test.measure) | {"currency": currency},
        "limit": test.limit,
        "direction": test.direction.value,
        "strict": test.strict,
        "required": test.required,
        "cushion": test.cushion.value,
        "falls": test.falls,
        "state": test.state.value,
        "exempt": test.exempt,
    }


def _sources(figures: Iterable[Figure], names: Mapping[int, str]) -> list[str]:
    """Every source that something in the workings of the figures came from."""
    found: set[int] = set()
    seen: set[int] = set()
    waiting = list(figures)
    while waiting:
        figure = waiting.pop()
        if id(figure) in seen:
            continue
        seen.add(id(figure))
        if figure.source is not None:
            found.add(figure.source)
        waiting.extend(figure.inputs)
    return [names[i] for i in sorted(found) if i in names]
