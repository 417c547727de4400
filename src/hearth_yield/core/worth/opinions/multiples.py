"""What others have usually paid for it: its own multiples, now and on next year's estimate."""

from __future__ import annotations

from dataclasses import replace

from ...cover.bases import BASES
from ...estimates.newest import ESTIMATE_OF, newest_estimate, year_ahead
from ...figures.figure import Figure, Unit, Unknown, unknown
from ...figures.inputs import Case, Default, Inputs, InputSpec
from ...range.multiples import MULTIPLES, SUITS
from ...range.quantity import Quantity
from ..declare import Ground, ModelSpec
from ..own_past import past_of, too_few_weeks, usual_of
from ..staged import next_year_multiple_value
from ..trace import Trace, Value
from .common import multiple_spec, touched

PER_SHARE_ESTIMATES = ("eps", "ffo", "affo")
NOT_TAKEN = "no multiple of its peers is taken; choose them under Peers"


def _id(quantity: Quantity) -> str:
    """Of the model, and of the multiple it takes."""
    return f"own_{quantity.id}"


def _unsuited(ground: Ground, quantity: Quantity) -> str | None:
    kind = ground.file.payer.kind
    if quantity not in SUITS[kind]:
        return f"not used for a {kind.words}"
    return too_few_weeks(ground, quantity)


def _own(quantity: Quantity) -> ModelSpec:
    def reads(ground: Ground, case: Case) -> list[Figure]:
        past = past_of(ground, quantity)
        return [past.base, case[_id(quantity)], *past.beside]

    def worth(_: Trace, base: Value, multiple: Value, beside: Value = 0.0) -> Value:
        return quantity.price(base, multiple, beside)

    def refuses(base: float, multiple: float, beside: float = 0.0) -> Unknown | None:
        if base <= 0:
            return Unknown(quantity.nothing)
        left = quantity.price(base, multiple, beside)
        return None if left > 0 else Unknown("debt takes all of it at that multiple")

    return ModelSpec(
        id=_id(quantity),
        name=f"Its usual {quantity.name}",
        question=f"What would it cost at the {quantity.name} others have usually paid for it?",
        answers="past",
        leads=[kind for kind, bases in BASES.items() if bases[0].value == quantity.id],
        takes=(_id(quantity),),
        reads=reads,
        worth=worth,
        refuses=refuses,
        formula=quantity.price_formula.format(f"typical {quantity.name}"),
        unsuited=lambda ground, _: _unsuited(ground, quantity),
        touch=touched,
    )


def peers_id(quantity: Quantity) -> str:
    """Of the model, and of the multiple it takes."""
    return f"peers_{quantity.id}"


def _own_spec(quantity: Quantity) -> InputSpec:
    """What others have usually paid for it, over the weeks that count."""
    spec = multiple_spec(_id(quantity), f"Typical {quantity.name}", quantity.id)
    return replace(spec, default=lambda ground, _: usual_of(ground, quantity))


def _peers_spec(quantity: Quantity) -> InputSpec:
    """What others pay for its peers; taken from them by the person, who chooses among them."""
    label = f"Peers’ {quantity.name}"
    none = unknown(label, Unit.MULTIPLE, NOT_TAKEN)
    spec = multiple_spec(peers_id(quantity), label, quantity.id)
    return replace(spec, default=lambda *_: Default(none, "its peers"))


def _peers(quantity: Quantity) -> ModelSpec:
    own = _own(quantity)

    def unsuited(ground: Ground, _: Inputs) -> str | None:
        kind = ground.file.payer.kind
        if quantity not in SUITS[kind]:
            return f"not used for a {kind.words}"
        return None if peers_id(quantity) in ground.choices.inputs else NOT_TAKEN

    def reads(ground: Ground, case: Case) -> list[Figure]:
        past = past_of(ground, quantity)
        return [past.base, case[peers_id(quantity)], *past.beside]

    return replace(
        own,
        id=peers_id(quantity),
        answers="others",
        leads=(),
        name=f"Its peers’ {quantity.name}",
        question=f"What would it cost at the {quantity.name} others pay for its peers?",
        takes=(peers_id(quantity),),
        reads=reads,
        formula=quantity.price_formula.format(f"peers’ {quantity.name}"),
        unsuited=unsuited,
    )


def _next(quantity: Quantity) -> ModelSpec:
    def expected(ground: Ground) -> Figure:
        return newest_estimate(ground.file, ESTIMATE_OF[quantity.id], year_ahead(ground.file))

    def unsuited(ground: Ground, _: Inputs) -> str | None:
        return _unsuited(ground, quantity) or expected(ground).reason

    return ModelSpec(
        id=f"next_{quantity.id}",
        name=f"Its usual {quantity.name}, next year",
        question=f"What is it worth now if next year’s {quantity.short} fetch the usual multiple?",
        answers="past",
        takes=(_id(quantity), "required_return"),
        reads=lambda ground, case: [
            case[_id(quantity)],
            expected(ground),
            ground.record.declared_rate,
            case["required_return"],
        ],
        worth=lambda _, *x: next_year_multiple_value(*x),
        refuses=lambda _, x, *__: (
            None if x > 0 else Unknown(f"the estimate of {quantity.short} is not positive")
        ),
        formula="(typical multiple × estimate of the year ahead + declared rate) ÷ "
        "(1 + required return)",
        unsuited=unsuited,
        touch=touched,
    )


INPUTS = (*map(_own_spec, MULTIPLES), *map(_peers_spec, MULTIPLES))
MODELS = (
    *map(_own, MULTIPLES),
    *(_next(q) for q in MULTIPLES if ESTIMATE_OF.get(q.id) in PER_SHARE_ESTIMATES),
    *map(_peers, MULTIPLES),
)
