"""The shapes that several places send and take. Each place has its own beside its routes."""

from __future__ import annotations

from datetime import date
from typing import Annotated, Any, Literal

from pydantic import BaseModel, Field

from .answer import wire

StateName = Literal["within", "close", "outside", "unknown", "paying_nothing"]
StageName = Literal[
    "payer", "record", "cover", "footing", "range", "worth", "decision", "household"
]
UnitName = Literal[
    "fraction",
    "yield",
    "multiple",
    "money",
    "per_share",
    "shares",
    "years",
    "weeks",
    "count",
    "index",
]
TouchName = Literal["entered", "edited"]
KindName = Literal["company", "property_trust", "partnership", "financial", "other"]
DirectionName = Literal["cap", "floor", "pass"]


class Problem(BaseModel):
    """RFC 9457. field, value and rule name what was refused; faults come with an import."""

    type: str
    title: str
    status: int
    detail: str
    field: str | None = None
    value: Any = None
    rule: str | None = None
    faults: list[FaultOut] | None = None


@wire
class SlumpOut:
    """ends: null while it lasts, as far as was known on the day."""

    name: str
    begins: date
    ends: date | None


class ExportIn(BaseModel):
    """payers: EXCHANGE/SYMBOL of each; none: all."""

    payers: Annotated[list[str], Field(max_length=100_000)] = []


@wire
class PayerNameOut:
    symbol: str
    exchange: str
    name: str
    kind: str
    currency: str
    isin: str | None


@wire
class SourceOut:
    id: int
    kind: str
    file_name: str
    sha256: str | None
    added_at: str
    rows_added: int
    rows_changed: int
    undone_at: str | None


@wire
class StatusOut:
    """today: the day the product stands on; pinned when a demo holds it. feed: there is one to
    ask. unseen: signals that are new."""

    today: date
    pinned: bool
    newest_price: date | None
    payers: int
    feed: bool
    unseen: int
    version: str


@wire
class MendOut:
    """What would mend a likely slip: the setting to change, and to what."""

    id: str
    value: str
    name: str


@wire
class FaultOut:
    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str
    warning: bool
    grave: bool = False
    mend: MendOut | None = None


@wire
class CountsOut:
    table: str
    added: int
    changed: int
    same: int


@wire
class FoundOptionOut:
    value: str
    name: str


@wire
class FoundSettingOut:
    """One thing that decides how a table is read. kind: a payer, an account (one that is there, or
    a new one by its name), one of several, a text or a number of days. answer: null is open.
    asked: the file does not say it itself. guess: a text to begin from."""

    id: str
    name: str
    asks: str
    kind: Literal["payer", "account", "choice", "text", "days"]
    options: list[FoundOptionOut]
    answer: str | None
    asked: bool
    guess: str


@wire
class FoundLineOut:
    """A column or a line, and what it is taken for; null: left out. sure: by its very words."""

    id: str
    heading: str
    target: str | None
    sure: bool


@wire
class FoundTableOut:
    """One table of a sheet as it was understood. name: what it is of, where its kind does not say.
    kinds: what it may be taken for, and targets what
    a line may; profile: by which it was read; rows: how many it gives, by table; cells: its first
    ones as they stand, from `first_row` of the sheet."""

    id: str
    sheet: str
    name: str
    kind: str
    kinds: list[str]
    lie: Literal["across", "down", "wide", "months"]
    payer: str | None
    payer_name: str | None
    profile: str | None
    skipped: bool
    lines: list[FoundLineOut]
    targets: list[str]
    periods: list[str]
    settings: list[FoundSettingOut]
    rows: dict[str, int]
    notes: list[str]
    left_out: list[str]
    cells: list[list[str]]
    first_row: int


@wire
class FoundFileOut:
    """unreadable: why it gives nothing. own: sheets that are tables of the product's own and are
    read as they are; left_out: sheets that are not read, each with why."""

    name: str
    unreadable: str | None
    own: list[str]
    left_out: list[str]
    tables: list[FoundTableOut]


@wire
class NamedPayerOut:
    exchange: str
    symbol: str
    name: str


@wire
class ReplacedOut:
    """A value that is held, and what would take its place. row: its key in words; apart: how far
    they are from each other, as a part of the larger, where both are numbers."""

    table: str
    whose: str
    row: str
    field: str
    before: str
    after: str
    apart: float | None


@wire
class PreviewOut:
    """token commits exactly the bytes that were previewed; empty while something is open. found:
    what was understood of files that are none of the product's own. payers: those whose facts are
    among them, the first thirty. replaced: the values held that differ most from what would take
    their place, of all replaced_in_all."""

    token: str
    file_name: str
    tables: list[CountsOut]
    faults: list[FaultOut]
    refused: bool
    held_already: str | None
    found: list[FoundFileOut]
    payers: list[NamedPayerOut]
    replaced: list[ReplacedOut]
    replaced_in_all: int = 0


class CommitIn(BaseModel):
    """accepted: places of the preview's warnings that are accepted. profile: a name to keep what
    was settled under, for the next files of the sort."""

    token: str
    accepted: list[int] = []
    profile: Annotated[str, Field(max_length=200)] = ""


@wire
class JobOut:
    """told: what the person has to know when it is done."""

    id: str
    state: Literal["running", "done", "failed", "cancelled"]
    step: str
    done: int
    total: int
    source: int | None
    problem: Problem | None
    told: list[str]


Problem.model_rebuild()
