"""Facts typed or pasted into a grid: read, previewed, kept."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field, FiniteFloat

from hearth_yield.actions import enter_facts as by_hand
from hearth_yield.actions.read_pasted import MAX_PASTED, read_pasted
from hearth_yield.actions.show_held import usual_payer
from hearth_yield.exchange.book import write_book

from . import schemas as s
from .answer import wire
from .context import Here, When
from .sources import XLSX, preview_out
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})


class TypedFactsIn(BaseModel):
    """Rows as typed: cells by column, as text. unit: what money is counted in. accepted: places of
    the warnings that are accepted."""

    table: str
    rows: Annotated[list[dict[str, str]], Field(min_length=1, max_length=2000)]
    unit: str = "1"
    decimal: str = "."
    accepted: list[int] = []

    def typed(self) -> by_hand.Typed:
        return by_hand.Typed(table=self.table, rows=self.rows, unit=self.unit, decimal=self.decimal)


@wire
class TypedFactsOut:
    source: int


@router.post("/typed-facts/preview")
def preview_typed(here: Here, typed: TypedFactsIn) -> s.PreviewOut:
    found = by_hand.preview_typed(here.database, typed.typed(), today=here.moment().today)
    return preview_out(found, "")


@router.post("/typed-facts", status_code=201, responses={409: {"model": s.Problem}})
def enter(here: Here, typed: TypedFactsIn) -> TypedFactsOut:
    id = by_hand.enter_facts(
        here.database,
        typed.typed(),
        at=here.now(),
        accepted=frozenset(typed.accepted),
        today=here.moment().today,
    )
    return TypedFactsOut(source=id)


class PastedIn(BaseModel):
    """Cells as the clipboard has them. payer: EXCHANGE/SYMBOL, or empty; unit: what money is
    counted in where the cells do not say."""

    table: Annotated[str, Field(max_length=40)]
    payer: Annotated[str, Field(max_length=400)] = ""
    text: Annotated[str, Field(max_length=MAX_PASTED)] = ""
    html: Annotated[str, Field(max_length=MAX_PASTED)] = ""
    unit: Annotated[str, Field(pattern="^(1|thousand|million)$")] = "1"


@wire
class PastedOut:
    """rows: facts of the table, as they are typed; none where the cells have no headings that tell
    them. asks: what would have to be settled."""

    rows: list[dict[str, str]]
    notes: list[str]
    left_out: list[str]
    asks: list[str]


@router.post("/typed-facts/read", responses={413: {"model": s.Problem}})
def read(here: Here, when: When, pasted: PastedIn) -> PastedOut:
    found = read_pasted(here.database, **pasted.model_dump(), today=when.today)
    return fill(PastedOut, found)


@wire
class UsualPayerOut:
    """What most payers that are stored have; empty while there is none."""

    exchange: str = ""
    country: str = ""
    currency: str = ""


@router.get("/payers-usual")
def usual(here: Here) -> UsualPayerOut:
    return UsualPayerOut(**usual_payer(here.database))


Text = Annotated[str, Field(max_length=2000)]


class TableIn(BaseModel):
    """A table of the page as it is shown: texts, and numbers where a cell is one."""

    name: Annotated[str, Field(max_length=100)]
    rows: Annotated[
        list[Annotated[list[FiniteFloat | Text], Field(max_length=400)]], Field(max_length=100_000)
    ]


@router.post("/tables/xlsx", response_class=Response)
def table_as_workbook(table: TableIn) -> Response:
    """The table as a workbook of one sheet; no text of it is a formula."""
    headers = {"content-disposition": 'attachment; filename="table.xlsx"'}
    return Response(write_book({table.name: table.rows}), media_type=XLSX, headers=headers)
