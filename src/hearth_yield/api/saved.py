"""Searches, sets of columns and comparisons that a person named."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from hearth_yield.actions.export_facts import read_keys
from hearth_yield.actions.find_payers import Search, check_search
from hearth_yield.actions.save_views import SavedKind, all_saved, forget_view, save_view
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.finding.catalogue import MARKS

from .compare import read_lines
from .context import Here, Id
from .payers import GroupIn, group_of, known_ids
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


class SearchBody(BaseModel):
    model_config = ConfigDict(extra="forbid")
    q: str = ""
    where: GroupIn = GroupIn(join="all")
    sort: str = "name"
    descending: bool = False
    delisted: bool = False


class ColumnsBody(BaseModel):
    model_config = ConfigDict(extra="forbid")
    columns: Annotated[list[str], Field(min_length=1, max_length=20)]


class ComparisonBody(BaseModel):
    """lines: as the comparison takes them."""

    model_config = ConfigDict(extra="forbid")
    payers: Annotated[list[Annotated[str, Field(max_length=400)]], Field(max_length=6)] = []
    lines: Annotated[str, Field(max_length=2000)]


class SavedIn(BaseModel):
    """A search, a set of columns or a comparison under a name; the same name again replaces it."""

    name: Annotated[str, Field(min_length=1, max_length=60, pattern=r"\S")]
    search: SearchBody | None = None
    columns: ColumnsBody | None = None
    comparison: ComparisonBody | None = None


class SavedOut(BaseModel):
    id: int
    name: str
    search: SearchBody | None = None
    columns: ColumnsBody | None = None
    comparison: ComparisonBody | None = None


@router.get("/saved")
def saved(here: Here) -> list[SavedOut]:
    return [
        SavedOut(id=r["id"], name=r["name"], **{r["kind"]: r["body"]})
        for r in all_saved(here.database)
    ]


@router.put("/saved", status_code=204)
def save(here: Here, view: SavedIn) -> None:
    given: dict[SavedKind, BaseModel | None] = {
        "search": view.search,
        "columns": view.columns,
        "comparison": view.comparison,
    }
    held = [(kind, body) for kind, body in given.items() if body is not None]
    if len(held) != 1:
        raise InvalidInput(
            "name one search, set of columns or comparison",
            field="search",
            value=None,
            rule="one of search, columns and comparison",
        )
    ((kind, body),) = held
    if view.comparison:
        read_lines(view.comparison.lines)
        read_keys(view.comparison.payers)
    if view.columns:
        known_ids(",".join(c for c in view.columns.columns if c not in MARKS))
    elif view.search:
        check_search(
            Search(
                words=view.search.q,
                where=group_of(view.search.where),
                sort=view.search.sort,
                descending=view.search.descending,
            )
        )
    save_view(here.database, kind, view.name, body.model_dump())


@router.delete("/saved/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    forget_view(here.database, id)
