"""Models that answer one question from two ends, with their difference. (docs/method.md, Worth)"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.inputs import Inputs
from ..figures.measure import Sentence, Size
from ..figures.parts import HoldsFigures
from ..figures.saying import is_told
from ..figures.ties import above
from .declare import Ground
from .inputs import INPUTS
from .models import MODELS, Model, cases_of

PAIRS = (
    ("exit", "cash_paid"),
    ("cash_to_equity", "revenue"),
    ("cash_to_multiple", "revenue_to_multiple"),
    ("net_assets", "income_assets"),
)
FAR = 0.25
"""A difference beyond it is called out with the input that explains most of it."""
NUDGE = 0.1


@dataclass(frozen=True, slots=True, kw_only=True)
class Pair(HoldsFigures):
    """first, second: the models, by their names. difference: the second ÷ the first − 1.
    explained_by: what the input is called that only the second takes and that moves it most; None
    where they lie near each other."""

    first: Model
    second: Model
    difference: Figure
    explained_by: str | None

    @property
    def key(self) -> str:
        return self.second.id


def pairs_of(ground: Ground, models: Sequence[Model], inputs: Inputs) -> tuple[Pair, ...]:
    """Of the models that are there and have an answer."""
    held = {m.id: m for m in models if m.middle.known}
    return tuple(
        _pair(ground, held[a], held[b], inputs) for a, b in PAIRS if a in held and b in held
    )


def _pair(ground: Ground, first: Model, second: Model, inputs: Inputs) -> Pair:
    difference = derive(
        f"{second.name.lower()} against {first.name.lower()}",
        Unit.FRACTION,
        f"{second.name.lower()} ÷ {first.name.lower()} − 1",
        [second.middle, first.middle],
        lambda b, a: b / a - 1 if a > 0 else Unknown("it is not positive"),
    )
    far = difference.value is not None and above(abs(difference.value), FAR)
    return Pair(
        first=first,
        second=second,
        difference=difference,
        explained_by=_explained(ground, first, second, inputs) if far else None,
    )


def _explained(ground: Ground, first: Model, second: Model, inputs: Inputs) -> str | None:
    """Each input that only the second takes, raised by a tenth: the one that moves it most."""
    own = [id for id in MODELS[second.id].takes if id not in MODELS[first.id].takes]
    case = cases_of(inputs)["middle"]
    moved: Mapping[str, float] = {
        id: abs((_at(ground, second, case, id, inputs) or 0.0) - (second.middle.value or 0.0))
        for id in own
        if id in inputs and inputs[id].figure.value
    }
    widest = max(moved, key=lambda id: moved[id], default=None)
    return INPUTS[widest].name if widest else None


def _at(
    ground: Ground, model: Model, case: Mapping[str, Figure], id: str, inputs: Inputs
) -> float | None:
    figure = inputs[id].figure
    raised = dict(case) | {id: figure.but(value=(figure.value or 0.0) * (1 + NUDGE))}
    return MODELS[model.id].value(ground, raised, model.name).value


def pair_in_words(pair: Pair) -> Sentence:
    """The difference, named from the second to the first."""
    value = pair.difference.value
    if value is None:
        return ()
    first = f"{pair.first.name[:1].lower()}{pair.first.name[1:]}"
    if not is_told(pair.difference):
        return (f"{pair.second.name} comes to the same as {first}.",)
    side = "over" if value > 0 else "under"
    why = f"; {pair.explained_by} explains most of it" if pair.explained_by else ""
    return (f"{pair.second.name} is ", Size(figure=pair.difference), f" {side} {first}{why}.")
