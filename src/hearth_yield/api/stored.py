"""What is held: how much of each payer and series and how old, and the facts themselves."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any, Literal

from fastapi import APIRouter

from hearth_yield.actions.show_facts import Shown, show_facts, show_points, show_slumps
from hearth_yield.actions.show_held import Coverage, Span, held_of_payers, held_of_series
from hearth_yield.core.errors import NotFound
from hearth_yield.core.facts.age import PRICE_GAP_DAYS, age_of, missing_periods
from hearth_yield.core.facts.columns import Column
from hearth_yield.core.facts.statements import fiscal_year_of
from hearth_yield.exchange.columns import FORMATS, IN_FILES

from . import schemas as s
from .answer import wire
from .context import First, Here, When
from .edits import EditOut, edit_out
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": s.Problem}})
ONE_PAYER = "/payers/{exchange}/{symbol:path}"
MAX_ROWS = 400
AgeName = Literal["none", "fresh", "ageing", "old"]


@wire
class OriginOut:
    """A source by number and name."""

    id: int
    name: str


@wire
class HeldOut:
    """One kind of fact of one payer. age: by how often such facts come. gaps: what is missing in
    between, in words. origins: the sources it comes from."""

    kind: str
    count: int
    first: date | None
    newest: date | None
    age: AgeName
    gaps: list[str]
    by_hand: bool
    origins: list[OriginOut]


@wire
class PayerCoverageOut:
    exchange: str
    symbol: str
    name: str
    delisted_on: date | None
    edited: int
    kinds: list[HeldOut]


@wire
class CoverageOut:
    rows: list[PayerCoverageOut]
    found: int


@router.get("/coverage")
def coverage(here: Here, when: When, q: str = "", first: First = 0, count: int = 60) -> CoverageOut:
    """What is held of each payer, by kind of fact. Only what came later than the day asked for is
    not told apart: this is about the store, not about a past day."""
    held = held_of_payers(here.database, q, first, max(0, min(count, MAX_ROWS)))
    return CoverageOut(
        rows=[_covered(r, when.today, held.sources) for r in held.rows], found=held.found
    )


KINDS = (
    "prices",
    "dividends",
    "years",
    "quarters",
    "estimates",
    "guidance",
    "exposures",
    "payer_notes",
)


def _covered(row: Coverage, today: date, named: Mapping[int, str]) -> PayerCoverageOut:
    return fill(
        PayerCoverageOut,
        row,
        delisted_on=_ended(row, today),
        kinds=[_held(row, kind, today, named) for kind in KINDS],
    )


def _ended(row: Coverage, today: date) -> date | None:
    """When it was delisted, where that has happened by the day."""
    return row.delisted_on if row.delisted_on and row.delisted_on <= today else None


def _held(row: Coverage, kind: str, today: date, named: Mapping[int, str]) -> HeldOut:
    span = row.spans.get(kind)
    newest = span.newest if span else None
    halves = kind == "quarters" and "quarter" not in row.ends
    return HeldOut(
        kind=kind,
        count=span.count if span else 0,
        first=span.first if span else None,
        newest=newest,
        age=age_of("halves" if halves else kind, newest, today, _ended(row, today)).value,
        gaps=_gaps(row, kind),
        by_hand=span.by_hand if span else False,
        origins=_origins(span, named),
    )


def _origins(span: Span | None, named: Mapping[int, str]) -> list[OriginOut]:
    return [OriginOut(id=i, name=named.get(i, "")) for i in span.sources] if span else []


def _gaps(row: Coverage, kind: str) -> list[str]:
    if kind == "prices":
        wide = row.price_gap > PRICE_GAP_DAYS
        return [f"{row.price_gap} days without a close"] if wide else []
    if kind == "years":
        return [str(fiscal_year_of(d)) for d in missing_periods(row.ends.get("year", ()), 12)]
    if kind == "quarters":
        return [
            d.isoformat()
            for span, months in (("quarter", 3), ("half", 6))
            for d in missing_periods(row.ends.get(span, ()), months)
        ]
    return []


@wire
class ColumnOut:
    """How a cell must be typed. scaled: money in the unit the entry names. seldom: it stands back
    until it is asked for. also: what people head such a column."""

    name: str
    type: str
    required: bool
    choices: list[str]
    expected: str
    scaled: bool
    seldom: bool
    also: list[str]


@wire
class FactRowOut:
    """derived: lines that a statement does not publish and that follow from those it does. aside:
    why it does not count; empty where it does."""

    key: dict[str, str]
    cells: dict[str, Any]
    source: int
    source_name: str
    by_hand: bool
    edited: dict[str, EditOut]
    derived: dict[str, float]
    aside: str


@wire
class FactsOut:
    """name, currency: of the payer or series."""

    name: str
    currency: str
    table: str
    columns: list[ColumnOut]
    rows: list[FactRowOut]
    found: int


def _column(c: Column) -> ColumnOut:
    return fill(ColumnOut, c, required=c.required and c.default is None, also=list(c.also))


@router.get("/formats/{table}")
def columns_of(table: str) -> list[ColumnOut]:
    """How the rows of a table are typed."""
    if table not in IN_FILES:
        raise NotFound(
            "there is no such table", field="table", value=table, rule=", ".join(IN_FILES)
        )
    return [_column(c) for c in IN_FILES[table].columns]


@router.get(ONE_PAYER + "/facts/{table}")
def facts(
    here: Here,
    exchange: str,
    symbol: str,
    table: str,
    first: First = 0,
    count: int = 100,
    span: str = "",
) -> FactsOut:
    """One table of a payer's facts as held, the newest first; edits stand beside. span: of
    statements, the only one to show."""
    size = max(0, min(count, MAX_ROWS))
    shown = show_facts(here.database, exchange, symbol, table, first, size, span)
    return _facts_out(table, shown, ("exchange", "symbol") if table != "payers" else ())


@router.get("/slumps")
def slumps(here: Here) -> FactsOut:
    return _facts_out("slumps", show_slumps(here.database))


def _facts_out(table: str, shown: Shown, without: tuple[str, ...] = ()) -> FactsOut:
    window = shown.window
    return FactsOut(
        name=window.owner_name,
        currency=window.currency,
        table=table,
        columns=[_column(c) for c in FORMATS[table].columns if c.name not in without],
        rows=[
            FactRowOut(
                key=dict(r.key),
                cells=_named(table, r.cells),
                source=r.source_id,
                source_name=r.source_name,
                by_hand=r.source_kind == "manual",
                edited={f: edit_out(a) for f, a in r.edited.items()},
                derived=dict(shown.derived.get(tuple(r.key.values()), {})),
                aside=shown.aside.get(tuple(r.key.values()), ""),
            )
            for r in window.rows
        ],
        found=window.found,
    )


def _named(table: str, cells: Mapping[str, Any]) -> dict[str, Any]:
    """Cells under the names a file gives them."""
    named = FORMATS[table].of[-1].file_names
    return {named.get(k, k): v for k, v in cells.items()}


@wire
class SeriesOut:
    """What is held of one series. published: when its newest point was."""

    code: str
    kind: str
    name: str
    currency: str
    of_currency: str | None
    count: int
    first: date
    newest: date
    published: date
    age: AgeName
    by_hand: bool
    origins: list[OriginOut]


@router.get("/series")
def all_series(here: Here, when: When) -> list[SeriesOut]:
    held = held_of_series(here.database)
    return [
        fill(
            SeriesOut,
            r,
            count=r.span.count,
            first=r.span.first,
            newest=r.span.newest,
            by_hand=r.span.by_hand,
            age=age_of(r.kind, r.span.newest, when.today).value,
            origins=_origins(r.span, held.sources),
        )
        for r in held.rows
    ]


@router.get("/series/{code:path}")
def points(here: Here, code: str, first: First = 0, count: int = 100) -> FactsOut:
    """The points of one series as held, the newest first."""
    size = max(0, min(count, MAX_ROWS))
    return _facts_out("series", show_points(here.database, code, first, size))
