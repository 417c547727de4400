"""The shapes that cross the wire. What fills them is in views.py."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

StateName = Literal["covered", "thin", "uncovered", "unknown"]
StageName = Literal["record", "cover", "footing", "range", "worth", "decision"]
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
Verdict = Literal["buy", "hold", "wait", "trim", "avoid"]
WindowName = Literal["3", "5", "10", "all"]


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


@dataclass(slots=True)
class FigureOut:
    """value is null when unknown, and reason then says why. key opens its working. cautions: what
    should be known before relying on it. was: its value when its newest input was current.

    A dataclass, as a review holds hundreds of them: built in a fifth of a model's time.
    """

    key: str
    label: str
    unit: UnitName
    value: float | None
    reason: str | None = None
    breach: str | None = None
    currency: str | None = None
    period: str | None = None
    known_on: date | None = None
    notes: tuple[str, ...] = ()
    touch: Literal["entered", "adjusted"] | None = None
    cautions: tuple[str, ...] = ()
    was: float | None = None


class PartOut(BaseModel):
    """One piece of a finding's sentence. size: shown without its sign."""

    text: str | None = None
    day: date | None = None
    figure: FigureOut | None = None
    size: bool = False


class FindingOut(BaseModel):
    stage: StageName
    state: StateName | None
    parts: list[PartOut]


TouchName = Literal["entered", "adjusted"]


class NoteOut(BaseModel):
    """What was said of a payer, from the day it was published."""

    value: str
    published_on: date
    touch: TouchName | None


class PayerOut(BaseModel):
    """touch: its own line (name, kind, rhythm) was entered by hand."""

    symbol: str
    exchange: str
    name: str
    kind: str
    currency: str
    country: str
    description: str
    sector: NoteOut | None
    industry: NoteOut | None
    credit_rating: NoteOut | None
    listed_on: date | None
    delisted_on: date | None
    touch: TouchName | None


class LeftOutOut(BaseModel):
    """A fact the person left out: note says what, when and why."""

    table: str
    note: str


@dataclass(slots=True, kw_only=True)
class PaymentOut:
    ex_date: date
    pay_date: date | None
    declared_on: date | None
    amount: float


@dataclass(slots=True, kw_only=True)
class GrowthOut:
    years: int
    nominal: FigureOut
    real: FigureOut


@dataclass(slots=True, kw_only=True)
class YearOut:
    year: int
    outcome: str
    complete: bool
    total: FigureOut
    real: FigureOut | None
    part: str | None
    pending: FigureOut | None
    special: FigureOut | None
    payments: list[PaymentOut]


@dataclass(slots=True, kw_only=True)
class PaceOut:
    base_year: int
    needed: FigureOut
    ahead: FigureOut


class RecordOut(BaseModel):
    declared_rate: FigureOut
    trailing_rate: FigureOut
    trailing_gap: FigureOut
    gap_called_out: bool
    rhythm: FigureOut
    uneven: bool
    growth: list[GrowthOut]
    raises_in_a_row: FigureOut
    years_without_reduction: FigureOut
    latest_raise: FigureOut
    years_ahead: FigureOut
    next_payment: PaymentOut | None
    last_cut: date | None
    years: list[YearOut]
    paces: list[PaceOut]


@dataclass(slots=True, kw_only=True)
class CoverPeriodOut:
    """year: the fiscal year's name."""

    label: str
    year: int
    end: date
    freak: bool
    set_aside: str | None
    driver: FigureOut
    dividends: FigureOut
    payout: FigureOut
    left: FigureOut
    left_after_buybacks: FigureOut
    per_share: FigureOut
    dividend_per_share: FigureOut


class BasisOut(BaseModel):
    basis: str
    name: str
    years: list[CoverPeriodOut]
    trailing: CoverPeriodOut | None
    latest: CoverPeriodOut | None
    declared: FigureOut
    through_cycle: FigureOut
    through_cycle_paid: FigureOut
    worst_of_ten: FigureOut
    per_share_trend: FigureOut
    overpaid: FigureOut
    swings: bool


class CoverOut(BaseModel):
    bases: list[BasisOut]
    trailing_note: str | None


class TestOut(BaseModel):
    id: str
    short: str
    stage: StageName
    measure: FigureOut
    limit: float
    direction: Literal["cap", "floor", "pass"]
    required: bool
    cushion: FigureOut
    state: StateName
    falls: str | None


@dataclass(slots=True, kw_only=True)
class QuarterEndOut:
    day: date
    fraction: FigureOut
    against_mean: FigureOut


class WeeksOut(BaseModel):
    """Parallel lists, oldest first."""

    days: list[date]
    yields: list[float]


@dataclass(slots=True, kw_only=True)
class PriceMarkOut:
    """A height on the ruler, read as a yield and as a price."""

    fraction: float
    price: float


class RangeOut(BaseModel):
    window: WindowName
    now: FigureOut
    count: FigureOut
    mean: FigureOut
    median: FigureOut
    lower_quartile: FigureOut
    upper_quartile: FigureOut
    highest: FigureOut
    lowest: FigureOut
    deviation: FigureOut
    percentile: FigureOut
    share_of_weeks: FigureOut
    longest_above: FigureOut
    fair_price: FigureOut
    premium: FigureOut
    low_52: FigureOut
    high_52: FigureOut
    quarters: list[QuarterEndOut]
    weeks: WeeksOut
    price_scale: list[PriceMarkOut]


class AimOut(BaseModel):
    target_yield: FigureOut
    target_price: FigureOut
    against_price: FigureOut
    weeks_offered: FigureOut
    weeks_in_sample: int
    last_offered: date | None
    closes_52: FigureOut


class ModelOut(BaseModel):
    id: str
    name: str
    low: FigureOut
    middle: FigureOut
    high: FigureOut
    on: bool
    suits: bool
    why_off: str | None


class BoundsOut(BaseModel):
    low: float
    high: float


class WorthOut(BaseModel):
    """origins: where each input comes from; bounds: what it must lie between."""

    growth: FigureOut
    lasting_growth: FigureOut
    later_growth: FigureOut
    required_return: FigureOut
    mean_yield: FigureOut
    margin_of_safety: FigureOut
    models: list[ModelOut]
    blend: FigureOut
    spread: FigureOut
    spread_called_out: bool
    moves_most: str | None
    buy_below: FigureOut
    price_against_buy_below: FigureOut
    price_against_blend: FigureOut
    implied_growth: FigureOut
    origins: dict[str, str]
    bounds: dict[str, BoundsOut]
    finding: FindingOut


class SlumpOut(BaseModel):
    """ends: null while it lasts, as far as was known on the day."""

    name: str
    begins: date
    ends: date | None


class ReviewOut(BaseModel):
    payer: PayerOut
    as_of: date
    state: StateName | None
    first_to_give: TestOut | None
    price: FigureOut
    findings: list[FindingOut]
    tests: list[TestOut]
    record: RecordOut
    cover: CoverOut
    range: RangeOut
    aim: AimOut | None
    worth: WorthOut
    slumps: list[SlumpOut]
    left_out: list[LeftOutOut]


class ExportIn(BaseModel):
    """payers: EXCHANGE/SYMBOL of each; none: all."""

    payers: Annotated[list[str], Field(max_length=100_000)] = []


class PayerNameOut(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    symbol: str
    exchange: str
    name: str
    kind: str


class SourceOut(BaseModel):
    id: int
    kind: str
    file_name: str
    sha256: str | None
    added_at: str
    rows_added: int
    rows_changed: int
    undone_at: str | None


class SampleRowOut(BaseModel):
    """since: the day from which what the day's own fact was held against was known."""

    day: date
    values: list[float]
    since: date | None


class SampleOut(BaseModel):
    columns: list[str]
    units: list[UnitName]
    rows: list[SampleRowOut]
    sources: list[SourceOut]


@dataclass(slots=True, kw_only=True)
class InputOut(FigureOut):
    """path: where to ask for this input's own working; opens: whether there is more below."""

    path: str
    opens: bool


class WorkingOut(BaseModel):
    """How a figure came about: the formula in words and what went in."""

    figure: FigureOut
    path: str
    trail: list[str]
    formula: str | None
    inputs: list[InputOut]
    source: SourceOut | None
    sample: SampleOut | None
    fact: FactOut | None


class FactOut(BaseModel):
    """Where a figure is held, so that it can be adjusted. raw: as held, in single units and the
    shares of its own day, which is how an adjustment is given too."""

    table: str
    key: dict[str, str]
    field: str
    raw: float | None
    adjustment: int | None


class StatusOut(BaseModel):
    """today: the day the product stands on; pinned when a demo holds it."""

    today: date
    pinned: bool
    newest_price: date | None
    payers: int
    version: str


class DecisionIn(BaseModel):
    """buy_below in the payer's currency, per share, at most six decimals. intention: a key made
    once for what the person means to do; said again, it is done once."""

    verdict: str
    words: str = Field(max_length=10_000)
    buy_below: Decimal | None = Field(default=None, max_digits=16, decimal_places=6)
    as_of: date
    intention: Annotated[str, Field(min_length=8, max_length=64)] | None = None
    window: WindowName = "5"
    growth: float | None = None
    later_growth: float | None = None
    required_return: float | None = None
    mean_yield: float | None = None
    margin_of_safety: float | None = None
    on: str = ""
    off: str = ""


class DecisionMade(BaseModel):
    id: int


class ChangeOut(BaseModel):
    key: str
    label: str
    unit: UnitName
    then: float | None
    then_reason: str | None
    now: FigureOut | None
    moved: bool


class DecisionOut(BaseModel):
    id: int
    as_of: date
    recorded_at: str
    verdict: Verdict
    words: str
    buy_below: float | None
    buy_below_written: str | None
    currency: str
    state: StateName | None
    first_to_give: str | None
    changes: list[ChangeOut]
    dividends_since: list[PaymentOut]


class FaultOut(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str
    warning: bool


class CountsOut(BaseModel):
    table: str
    added: int
    changed: int
    same: int


class PreviewOut(BaseModel):
    """token commits exactly the bytes that were previewed."""

    token: str
    file_name: str
    tables: list[CountsOut]
    faults: list[FaultOut]
    refused: bool
    held_already: str | None


class CommitIn(BaseModel):
    """accepted: places of the preview's warnings that are accepted."""

    token: str
    accepted: list[int] = []


class JobOut(BaseModel):
    id: str
    state: Literal["running", "done", "failed", "cancelled"]
    step: str
    done: int
    total: int
    source: int | None
    problem: Problem | None


Problem.model_rebuild()
