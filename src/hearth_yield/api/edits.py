"""Adjusting a figure with a reason, leaving a fact or a fiscal year out, and the way back."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions import edit_facts
from hearth_yield.core.facts.statements import unit_of
from hearth_yield.core.figures.figure import Unit

from .answer import wire
from .context import Here, Id
from .schemas import Problem
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"


@wire
class EditOut:
    """basis: set where a fiscal year is excluded on it. excluded: the whole fact is."""

    id: int
    exchange: str
    symbol: str
    table: str
    key: dict[str, str]
    field: str
    basis: str | None
    excluded: bool
    original: float | None
    value: float
    scale: float
    reason: str
    made_at: str
    withdrawn_at: str | None


def scale_of(table: str, field: str) -> float:
    """What a fact is shown and typed in: lines of money and of shares by the million."""
    in_millions = table == "statements" and unit_of(field) in (Unit.MONEY, Unit.SHARES)
    return 1e6 if in_millions else 1.0


def edit_out(a: edit_facts.Edit) -> EditOut:
    return fill(
        EditOut,
        a,
        id=a.id or 0,
        table=a.table_name,
        key=dict(a.row_key),
        excluded=a.leaves_out,
        scale=scale_of(a.table_name, a.field),
    )


class EditIn(BaseModel):
    """key: of the row within its payer. value: as the fact is held, in single units."""

    table: str
    key: dict[str, str]
    field: str
    value: Annotated[float, Field(allow_inf_nan=False)]
    reason: str


class ExclusionIn(BaseModel):
    """key: of the row within its payer."""

    table: str
    key: dict[str, str]
    reason: str


class ExcludedYearIn(BaseModel):
    period_end: date
    basis: str
    reason: str


@wire
class EditMade:
    id: int


@router.get("/edits")
def list_edits(here: Here) -> list[EditOut]:
    """The newest first, those taken back among them."""
    return [edit_out(a) for a in edit_facts.all_edits(here.database)]


@router.post(ONE_PAYER + "/edits", status_code=201)
def edit_value(here: Here, exchange: str, symbol: str, made: EditIn) -> EditMade:
    id = edit_facts.edit_value(
        here.database,
        exchange,
        symbol,
        table=made.table,
        key=made.key,
        field=made.field,
        value=made.value,
        reason=made.reason,
        at=here.now(),
    )
    return EditMade(id=id)


@router.post(ONE_PAYER + "/exclusions", status_code=201)
def exclude(here: Here, exchange: str, symbol: str, made: ExclusionIn) -> EditMade:
    id = edit_facts.exclude(
        here.database,
        exchange,
        symbol,
        table=made.table,
        key=made.key,
        reason=made.reason,
        at=here.now(),
    )
    return EditMade(id=id)


@router.post(ONE_PAYER + "/excluded-years", status_code=201)
def exclude_year(here: Here, exchange: str, symbol: str, made: ExcludedYearIn) -> EditMade:
    id = edit_facts.exclude_year(
        here.database,
        exchange,
        symbol,
        period_end=made.period_end,
        basis=made.basis,
        reason=made.reason,
        at=here.now(),
    )
    return EditMade(id=id)


@router.delete("/edits/{id}", status_code=204)
def take_back(here: Here, id: Id) -> None:
    """The original counts again."""
    edit_facts.withdraw(here.database, id, at=here.now())


@router.post("/edits/{id}/restore", status_code=204)
def edit_again(here: Here, id: Id) -> None:
    edit_facts.restore(here.database, id, at=here.now())
