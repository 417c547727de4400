"""The Payers place: searching, sorting and summing up the universe; saved searches and columns."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Query, Response
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from hearth_yield.actions.find_payers import Search, find_payers, found_groups, found_keys
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.finding.catalogue import CHOICES
from hearth_yield.core.finding.measured import FirstToGive
from hearth_yield.core.finding.search import Candidate, Condition, Group, Universe
from hearth_yield.core.judging.judge import OLD_STATES
from hearth_yield.core.names import NUMBERS, name_of

from .answer import wire, written
from .context import Here, When
from .schemas import DirectionName, JobOut, Problem, StateName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
MAX_WHERE = 16_000
MAX_ROWS = 500
EXAMPLE = 'such as {"join":"all","parts":[{"id":"yield","op":"at_least","value":0.04}]}'


class ConditionIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    id: str
    op: Literal["at_least", "at_most", "is", "is_not", "known", "unknown"]
    value: Annotated[float | None, Field(allow_inf_nan=False)] = None
    words: list[str] = []


class GroupIn(BaseModel):
    model_config = ConfigDict(extra="forbid")
    join: Literal["all", "any"]
    parts: list[ConditionIn | GroupIn] = []


_GROUP = TypeAdapter(GroupIn)


def read_where(text: str) -> Group:
    """Conditions as the URL holds them: a group as JSON. Raises InvalidInput."""
    if not text:
        return Group(join="all")
    try:
        if len(text) > MAX_WHERE:
            raise ValueError("too long")
        return group_of(_GROUP.validate_json(text))
    except (ValidationError, ValueError, RecursionError):
        raise InvalidInput(
            "the conditions cannot be read", field="where", value=text[:120], rule=EXAMPLE
        ) from None


def group_of(part: GroupIn) -> Group:
    return Group(
        join=part.join,
        parts=tuple(
            group_of(p)
            if isinstance(p, GroupIn)
            else Condition(id=p.id, op=p.op, value=p.value, words=_words(p))
            for p in part.parts
        ),
    )


def _words(part: ConditionIn) -> tuple[str, ...]:
    """Words of a condition; an address of before may hold a state by its old name."""
    if part.id != "state":
        return tuple(part.words)
    return tuple(OLD_STATES.get(w, w) for w in part.words)


def search_asked(
    q: str = "",
    where: str = "",
    sort: str = "name",
    descending: bool = False,
    delisted: bool = False,
) -> Search:
    return Search(
        words=q, where=read_where(where), sort=sort, descending=descending, delisted=delisted
    )


SearchAsked = Annotated[Search, Depends(search_asked)]
Columns = Annotated[str, Query(description="measure ids, comma-separated")]


def known_ids(columns: str) -> list[str]:
    """Raises InvalidInput for a measure that is not known."""
    ids = [c for c in columns.split(",") if c]
    for id in ids:
        if id not in NUMBERS and id not in CHOICES:
            raise InvalidInput(
                f"there is no measure “{id}”", field="columns", value=id, rule=", ".join(NUMBERS)
            )
    return ids


@dataclass(slots=True)
class CellOut:
    """A measure's answer; key opens its working, and is null for words. touch: it rests on a fact
    that a person entered or edited.

    A dataclass, as a window of the table holds hundreds of them.
    """

    value: float | None = None
    word: str | None = None
    reason: str | None = None
    breach: str | None = None
    spared: str | None = None
    key: str | None = None
    touch: Literal["entered", "edited"] | None = None
    cautions: tuple[str, ...] = ()


@dataclass(slots=True)
class FirstOut:
    id: str
    short: str
    state: StateName
    direction: DirectionName
    falls: str | None
    cushion: CellOut


@dataclass(slots=True)
class RowOut:
    """One payer. cells: by column. ready: its measures are made and not stale."""

    exchange: str
    symbol: str
    name: str
    kind: str | None
    currency: str | None
    state: StateName | None
    first: FirstOut | None
    cells: dict[str, CellOut]
    dividends: list[float | None]
    last_year: int | None
    ready: bool
    stale: bool


@wire
class SummaryOut:
    n: int
    lower: float | None
    median: float | None
    upper: float | None


@wire
class PayersOut:
    """held: payers that are listed; delisted: those that are not, shown only when asked for.
    counts: payers that meet each condition by itself, in reading order. pending: payers whose
    measures are being made; job: the task that makes them. currency: that of most payers found."""

    rows: list[RowOut]
    first: int
    found: int
    held: int
    delisted: int
    pending: int
    job: JobOut | None
    counts: list[int]
    currency: str | None
    states: dict[str, int]
    summaries: dict[str, SummaryOut]


def _row(here: Universe, entry: Candidate, columns: list[str]) -> RowOut:
    held = entry.measured
    if held is None:
        nothing: dict[str, Any] = dict.fromkeys(("kind", "currency", "state", "first", "last_year"))
        return fill(RowOut, entry, **nothing, cells={}, dividends=[], ready=False, stale=False)
    return fill(
        RowOut,
        entry,
        kind=held.words["kind"],
        currency=held.words["currency"],
        state=held.words["state"],
        first=_first(held.first) if held.first else None,
        cells={c: _cell(here, entry, c) for c in columns},
        dividends=list(held.dividends),
        last_year=held.last_year,
        ready=not entry.stale,
    )


def _first(first: FirstToGive) -> FirstOut:
    key = f"tests.{first.id}.cushion"
    return fill(FirstOut, first, cushion=fill(CellOut, first.cushion, key=key))


def _cell(here: Universe, entry: Candidate, column: str) -> CellOut:
    held = entry.measured
    assert held is not None  # noqa: S101 - asked only of measured rows
    if column in CHOICES:
        by = held.word_touches.get(column)
        return CellOut(word=here.word(entry, column), touch=by.value if by else None)
    cell = here.cell(entry, column)
    return fill(CellOut, cell, key=name_of(column))


@router.get("/payers", response_model=PayersOut)
def payers(
    here: Here,
    when: When,
    search: SearchAsked,
    columns: Columns = "",
    first: int = 0,
    count: int = 100,
) -> Response:
    """A window of the payers found: rows first to first + count."""
    ids = known_ids(columns)
    start, size = max(first, 0), max(0, min(count, MAX_ROWS))
    job = here.keeping(when)
    found = find_payers(here.cache, when.as_of, search, ids, start, size)
    return written(
        fill(
            PayersOut,
            found,
            rows=[_row(found.universe, e, ids) for e in found.rows],
            first=start,
            job=job if found.pending else None,
        )
    )


@wire
class KeyOut:
    exchange: str
    symbol: str


@router.get("/payers/keys")
def keys(here: Here, when: When, search: SearchAsked) -> list[KeyOut]:
    """Every payer found, in order: what n and p step through, and what "mark all" marks."""
    return [
        KeyOut(exchange=exchange, symbol=symbol)
        for exchange, symbol in found_keys(here.cache, when.as_of, search)
    ]


@wire
class GroupOut:
    """word: null for payers without one. payers, summaries: of those found; whole: of all payers
    of the group, whatever is searched for."""

    word: str | None
    payers: int
    summaries: dict[str, SummaryOut]
    whole: WholeGroupOut


@wire
class WholeGroupOut:
    payers: int
    summaries: dict[str, SummaryOut]


@router.get("/payers/groups")
def groups(
    here: Here, when: When, search: SearchAsked, by: str = "sector", columns: Columns = ""
) -> list[GroupOut]:
    numbers = [c for c in known_ids(columns) if c in NUMBERS]
    return [
        fill(GroupOut, g.found, whole=fill(WholeGroupOut, g.whole))
        for g in found_groups(here.cache, when.as_of, search, by, numbers)
    ]


@router.post("/measures", status_code=202)
def make(here: Here, when: When, again: bool = False) -> JobOut | None:
    """See to it that measures that are missing or stale are being made. again: also after it was
    cancelled or failed."""
    job = here.ensure_measures(when, 1, again=again)
    return job.out() if job else None
