"""Everything payers can be searched and shown by, as it was declared."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, cast

from fastapi import APIRouter

from hearth_yield.actions.find_payers import words_in_use
from hearth_yield.actions.read_holdings import read_holdings
from hearth_yield.core.expecting.expectation import GROWING
from hearth_yield.core.facts.statements import words
from hearth_yield.core.figures.measure import Measure, Stage
from hearth_yield.core.finding.catalogue import CHOICES, MARKS, Choice, Mark, column_sets
from hearth_yield.core.household.measures import is_at_home
from hearth_yield.core.names import NUMBERS

from .answer import wire
from .context import Here, When
from .schemas import Problem, StageName, UnitName
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})


Drawn = Literal["deviation", "state", "dividends", "first"]


@wire
class WordOut:
    word: str
    payers: int


@wire
class MeasureOut:
    """What can be searched by and shown. unit: null for words, whose choices are then listed, and
    for marks, which every row carries.

    words: how a condition reads; {} stands for "at least 10 %". turned: how it reads for values
    under 0; under: what its minus means. group: the basis it is taken on. drawn: how a cell is
    drawn, where that is not as a number or a word. sort: what it is ordered by; null: by nothing.
    foot: its median stands at the foot of the table. column: it can be a column.
    currency: the one its amounts are in, where that is one for all. grows: it can be
    expected to grow by so much a year.
    """

    id: str
    name: str
    stage: StageName
    group: str | None
    unit: UnitName | None
    words: str
    turned: str | None
    under: str | None
    signed: bool
    digits: int | None
    drawn: Drawn | None
    sort: str | None
    foot: bool
    column: bool
    currency: str | None
    grows: bool
    choices: list[WordOut] | None


@wire
class ColumnSetOut:
    id: str
    name: str
    columns: list[str]


@wire
class CatalogueOut:
    """measures: in the order of the job, words first. sets: of columns."""

    measures: list[MeasureOut]
    sets: list[ColumnSetOut]


@router.get("/catalogue")
def catalogue(here: Here, when: When) -> CatalogueOut:
    home = read_holdings(here.cache, when.as_of, when.edition).home or None
    in_use = words_in_use(here.cache, when.as_of)
    return CatalogueOut(
        measures=[
            *(_mark(m) for m in MARKS.values()),
            *(_choice(c, in_use[c.id]) for c in CHOICES.values()),
            *(_number(m, home if is_at_home(m) else None) for m in NUMBERS.values()),
        ],
        sets=each(ColumnSetOut, column_sets()),
    )


def _number(m: Measure, home: str | None) -> MeasureOut:
    return fill(
        MeasureOut,
        m,
        group=words(m.group) if m.group else None,
        sort=m.id,
        column=True,
        currency=home,
        grows=m.unit in GROWING,
        choices=None,
    )


def _choice(c: Choice, in_use: Mapping[str, int]) -> MeasureOut:
    return _word(c.id, c.name, c.stage, c.drawn, c.id, in_use, c.column)


def _mark(m: Mark) -> MeasureOut:
    return _word(m.id, m.name, Stage.PAYER, m.id, m.sort, None)


def _word(
    id: str,
    name: str,
    stage: Stage,
    drawn: str | None,
    sort: str | None,
    in_use: Mapping[str, int] | None,
    column: bool = True,
) -> MeasureOut:
    return MeasureOut(
        id=id,
        name=name,
        stage=stage.value,
        group=None,
        unit=None,
        words=f"{name[0].lower()}{name[1:]} {{}}",
        turned=None,
        under=None,
        signed=False,
        digits=None,
        drawn=cast("Drawn | None", drawn),
        sort=sort,
        foot=False,
        column=column,
        currency=None,
        grows=False,
        choices=None if in_use is None else [WordOut(word=w, payers=n) for w, n in in_use.items()],
    )
