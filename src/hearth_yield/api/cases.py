"""Cases of Worth: sets of inputs kept under a name, and what they come to side by side."""

from __future__ import annotations

from collections.abc import Callable

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions.keep_case import Case, cases_of, forget_case, keep_case
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.review import Review
from hearth_yield.core.worth.inputs import INPUTS
from hearth_yield.core.worth.models import MODELS

from .answer import wire
from .context import Here, Id, QuestionAsked, Reviewed, When
from .schemas import Problem, UnitName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


class CaseIn(BaseModel):
    name: str = Field(max_length=200)


@wire
class CellOut:
    """A value of one case, or why it has none; own: the person typed it."""

    value: float | None = None
    reason: str | None = None
    own: bool = False


@wire
class CaseOut:
    """id: None for what is shown now, which is not kept. question: in names and texts, as the
    address has it."""

    id: int | None
    name: str
    kept_at: str | None
    question: dict[str, str]
    refused: str | None


@wire
class CaseRowOut:
    """One line, with a cell a case. kind: an input, a model that is on in some case, or a sum."""

    id: str
    name: str
    kind: str
    unit: UnitName
    cells: list[CellOut]


@wire
class CasesOut:
    """The first case is what is shown now."""

    cases: list[CaseOut]
    rows: list[CaseRowOut]


TOGETHER: tuple[tuple[str, str, UnitName, Callable[[Review], Figure]], ...] = (
    ("combined", "Combined value", "per_share", lambda r: r.worth.combined),
    ("weighted", "Combined value, by chances", "per_share", lambda r: r.worth.weighted),
    ("buy_below", "Buy-below price", "per_share", lambda r: r.worth.buy_below),
    (
        "price_against_buy_below",
        "Price vs buy-below, % (− = under)",
        "fraction",
        lambda r: r.worth.price_against_buy_below,
    ),
    ("path", "Yearly return of the path", "fraction", lambda r: r.worth.path.yearly["middle"]),
)
"""What the cases come to: id, name, unit, and where it is read."""


@router.get(ONE_PAYER + "/worth/cases")
def cases(here: Here, exchange: str, symbol: str, when: When, found: Reviewed) -> CasesOut:
    """What is shown now and the cases kept, each with what it comes to on the day."""
    held = cases_of(here.cache, exchange, symbol, when.as_of, when.edition)
    reviews = [found, *(c.review for c in held)]
    now = CaseOut(id=None, name="as shown now", kept_at=None, question={}, refused=None)
    return CasesOut(cases=[now, *map(_case, held)], rows=_rows(reviews))


@router.put(ONE_PAYER + "/worth/cases", status_code=204)
def keep(
    here: Here, exchange: str, symbol: str, when: When, question: QuestionAsked, named: CaseIn
) -> None:
    """Keeps the inputs of the address under a name; what stood under it is replaced."""
    keep_case(
        here.cache, exchange, symbol, when.as_of, name=named.name, question=question, at=here.now()
    )


@router.delete("/worth/cases/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    forget_case(here.cache, id)


def _case(case: Case) -> CaseOut:
    return fill(CaseOut, case.kept, refused=case.refused)


def _rows(reviews: list[Review | None]) -> list[CaseRowOut]:
    """Inputs typed in any case, models that are on in any, and what they come to."""
    known = [r for r in reviews if r is not None]
    typed = {id.partition(".")[0] for r in known for id in r.worth.choices.inputs}
    on = {m.id for r in known for m in r.worth.on}
    rows = [
        CaseRowOut(
            id=id,
            name=INPUTS[id].label,
            kind="input",
            unit=INPUTS[id].unit.value,
            cells=[_input(r, id) for r in reviews],
        )
        for id in INPUTS
        if id in typed
    ]
    rows += [
        CaseRowOut(
            id=id,
            name=MODELS[id].name,
            kind="model",
            unit="per_share",
            cells=[_model(r, id) for r in reviews],
        )
        for id in MODELS
        if id in on
    ]
    rows += [
        CaseRowOut(
            id=id,
            name=name,
            kind="sum",
            unit=unit,
            cells=[_cell(read(r) if r else None) for r in reviews],
        )
        for id, name, unit, read in TOGETHER
    ]
    return rows


def _input(review: Review | None, id: str) -> CellOut:
    if review is None:
        return CellOut()
    held = review.worth.inputs.get(id) or review.worth.path.inputs.get(id)
    held = held or review.worth.others.inputs.get(id)
    return _cell(held.figure if held else None, own=bool(held and held.typed))


def _model(review: Review | None, id: str) -> CellOut:
    if review is None:
        return CellOut()
    model = next((m for m in review.worth.models if m.id == id), None)
    if model is None or not model.on:
        return CellOut(reason=model.why_off if model else "not counted")
    return _cell(model.middle)


def _cell(figure: Figure | None, *, own: bool = False) -> CellOut:
    if figure is None:
        return CellOut()
    return CellOut(value=figure.value, reason=figure.reason, own=own)
