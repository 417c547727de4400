"""The Compare place: a few payers side by side."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query

from hearth_yield.actions.compare_payers import (
    MOST_LINES,
    compare_payers,
    default_line,
    default_lines,
)
from hearth_yield.actions.export_facts import read_keys
from hearth_yield.core.comparing.comparison import Asked, Axis, Comparison
from hearth_yield.core.comparing.scoring import Line
from hearth_yield.core.comparing.sets import compare_sets
from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.names import NUMBERS, name_of
from hearth_yield.core.review import Review

from .answer import wire
from .context import Here, When
from .figures import FigureOut, figure_out
from .schemas import Problem, StageName, StateName, UnitName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
BetterName = Literal["high", "low"]
MAX_WEIGHT = 1000.0


@wire
class ComparedPayerOut:
    """A payer. points, rank: in this comparison; firmness: the share of random weightings in which
    it comes first; null where no measure is won by anyone."""

    exchange: str
    symbol: str
    name: str
    kind: str
    currency: str
    state: StateName | None
    first_to_give: str | None
    points: float
    rank: int
    firmness: float | None


@wire
class CompareCellOut:
    """figure: in the payer's own currency; null where its kind does not use the measure.
    compared: its value in the currency of the comparison, with the reason where there is none."""

    figure: FigureOut | None
    compared: float | None
    reason: str | None
    best: bool
    points: float


@wire
class CompareLineOut:
    """switch_weight: the weight at which another comes first, the other weights as they are;
    switch_to: who then shares the first place, by their place."""

    id: str
    name: str
    stage: StageName
    unit: UnitName
    digits: int | None
    signed: bool
    better: BetterName
    weight: float
    cells: list[CompareCellOut]
    switch_weight: float | None
    switch_to: list[int]


@wire
class AxisPointOut:
    """figure: its key opens its working; empty for what the comparison itself makes. main: what the
    payer is read by."""

    name: str
    figure: FigureOut
    main: bool


@wire
class AxisOut:
    """rows: the points of each payer; none where nothing is known."""

    id: str
    name: str
    unit: UnitName
    rows: list[list[AxisPointOut]]


@wire
class CompareOut:
    """nearest: the line whose weight would change the winner with the smallest step."""

    payers: list[ComparedPayerOut]
    lines: list[CompareLineOut]
    axes: list[AxisOut]
    currency: str
    converted: list[str]
    nearest: str | None


@wire
class CompareSetOut:
    id: str
    name: str
    lines: str


@router.get("/compare/sets")
def sets() -> list[CompareSetOut]:
    """Measures to compare on, by stage; `lines` as the comparison takes them."""
    return [
        CompareSetOut(id=s.id, name=s.name, lines=_text(default_lines(s.id)))
        for s in compare_sets()
    ]


def _text(lines: list[Asked]) -> str:
    return ",".join(f"{x.id}:{x.better}:{x.weight:g}" for x in lines)


@router.get("/compare")
def compare(
    here: Here,
    when: When,
    payer: Annotated[list[str], Query(min_length=1, max_length=6)],
    lines: Annotated[str, Query(max_length=2000)] = "",
) -> CompareOut:
    """payer: EXCHANGE/SYMBOL, once for each. lines: "id:high:1,id:low:2.5"; none: the overview."""
    keys = read_keys(payer) or []
    found = compare_payers(here.cache, keys, read_lines(lines), when.as_of, when.edition)
    return _out(found)


def read_lines(text: str) -> list[Asked]:
    """Raises InvalidInput."""
    if not text.strip():
        return default_lines()
    found = [_line(part) for part in text.split(",") if part.strip()]
    if len(found) > MOST_LINES or len({x.id for x in found}) < len(found):
        raise InvalidInput(
            "too many measures, or one of them twice",
            field="lines",
            value=len(found),
            rule=f"at most {MOST_LINES} measures, each once",
        )
    return found


def _line(part: str) -> Asked:
    id, _, rest = part.strip().partition(":")
    if id not in NUMBERS:
        raise InvalidInput(
            f"there is no measure “{id}”", field="lines", value=id, rule=", ".join(NUMBERS)
        )
    better, _, weight = rest.partition(":")
    usual = default_line(NUMBERS[id])
    if better not in ("", "high", "low"):
        raise InvalidInput("choose a direction", field="lines", value=better, rule="high or low")
    try:
        number = float(weight) if weight else usual.weight
    except ValueError:
        number = -1.0
    if not 0 <= number <= MAX_WEIGHT:
        raise InvalidInput(
            "a weight cannot be this",
            field="lines",
            value=weight,
            rule=f"a number from 0 to {MAX_WEIGHT:g}",
        )
    return Asked(
        id=id,
        better=usual.better if not better else "high" if better == "high" else "low",
        weight=number,
    )


def _out(found: Comparison) -> CompareOut:
    scores = found.scores
    switches = {s.line: s for s in scores.switches}
    lines = []
    for n, line in enumerate(found.lines):
        switch = switches.get(n)
        lines.append(
            _line_out(
                line, switch.weight if switch else None, list(switch.leaders) if switch else []
            )
        )
    nearest = found.lines[scores.switches[0].line].measure.id if scores.switches else None
    return CompareOut(
        payers=[_payer(r, found, i) for i, r in enumerate(found.reviews)],
        lines=lines,
        axes=[_axis(a) for a in found.axes],
        currency=found.currency,
        converted=list(found.converted),
        nearest=nearest,
    )


def _payer(review: Review, found: Comparison, place: int) -> ComparedPayerOut:
    scores, first = found.scores, review.first_to_give
    return fill(
        ComparedPayerOut,
        review.payer,
        state=review.state.value if review.state else None,
        first_to_give=first.measure.label if first else None,
        points=scores.totals[place],
        rank=scores.ranks[place],
        firmness=scores.firmness[place] if scores.firmness else None,
    )


def _line_out(line: Line, weight: float | None, leaders: list[int]) -> CompareLineOut:
    m, shares = line.measure, line.shares
    return fill(
        CompareLineOut,
        m,
        better=line.better,
        weight=line.weight,
        cells=[
            CompareCellOut(
                figure=figure_out(own, name_of(m.id)) if own else None,
                compared=compared.value if compared else None,
                reason=compared.reason if compared else "its kind does not use this measure",
                best=bool(shares[i] > 0),
                points=float(shares[i]) * line.weight,
            )
            for i, (own, compared) in enumerate(zip(line.own, line.figures, strict=True))
        ],
        switch_weight=weight,
        switch_to=leaders,
    )


def _axis(axis: Axis) -> AxisOut:
    return fill(
        AxisOut,
        axis,
        rows=[
            [
                AxisPointOut(name=p.name, figure=figure_out(p.figure, p.key or ""), main=p.main)
                for p in points
                if p.figure.value is not None
            ]
            for points in axis.rows
        ],
    )
