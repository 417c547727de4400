"""A strain: what is asked of it, the tests before and after, and where each gives."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from hearth_yield.actions.keep_strain import forget_strain, keep_strain, kept_strains
from hearth_yield.actions.strain_all import strained_payers
from hearth_yield.core.strain.inputs import ALL, FALL, INPUTS, MARGIN, Strain, inputs_of_all
from hearth_yield.core.strain.strained import PartAtRisk, Strained, StrainedTest, check_strain
from hearth_yield.core.strain.words import described, in_words

from .answer import wire, written
from .context import Here, Id, QuestionAsked, StrainedReview, When
from .figures import FieldOut, FigureOut, PartOut, Shown, TestOut, field_out, figure_out
from .schemas import JobOut, Problem, StateName
from .wire import fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
MARGINS = tuple(n / 200 for n in range(31))
"""Falls of the margin on the map: to 15 points by half points."""


@wire
class StrainedTestOut:
    """before, after: the test now and under the strain. gives_at: the fall of the chosen part at
    which it gives."""

    before: TestOut
    after: TestOut
    gives_at: FigureOut


@wire
class PartAtRiskOut:
    """id: as `strain_part` takes it. gives_at: the fall at which the first required test gives;
    uncovered_at: at which the dividend is not covered any more."""

    id: str
    name: str
    basis: str | None
    share: FigureOut
    gives_at: FigureOut
    uncovered_at: FigureOut


@wire
class StrainMap:
    """fall, margin: the inputs it moves. For each fall of the margin, the fall of the chosen part
    at which the first required test gives, and at which the dividend is not covered; null where
    neither happens however much falls. first: the test that gives first. given, not_covered:
    whether that, and the dividend, has given way under the strain that is asked."""

    fall: str
    margin: str
    margins: list[float]
    gives: list[float | None]
    uncovered: list[float | None]
    first: str | None
    given: bool
    not_covered: bool


@wire
class StrainOut:
    """said: sentence by sentence. fields: what can be typed. tests: those that the year moves."""

    part: str
    said: list[list[PartOut]]
    fields: list[FieldOut]
    parts: list[PartAtRiskOut]
    tests: list[StrainedTestOut]
    state_before: StateName | None
    state: StateName | None
    map: StrainMap


@wire
class NoStrainOut:
    """Why there is nothing to strain."""

    reason: str


class KeptStrainIn(BaseModel):
    name: str = Field(max_length=200)


@wire
class StrainSaidOut:
    """What a kept strain says: the state, the required test that gives first, the falls at which
    that gives and at which cash stops covering the dividend; refused: why it cannot be made.
    question: as the address has it; words: what falls, and by how much."""

    name: str
    question: dict[str, str]
    words: str
    state: StateName | None
    first: str | None
    gives_at: float | None
    uncovered_at: float | None
    refused: str | None


@wire
class KeptStrainOut(StrainSaidOut):
    id: int


@wire
class StrainedPayerOut:
    """before, after: its state. payout: at the declared rate, under the strain. gives_at: the fall
    of all revenue at which its first required test gives. reason: why nothing can be said."""

    exchange: str
    symbol: str
    name: str
    before: StateName | None
    after: StateName | None
    payout: float | None
    breach: str | None
    covered: bool | None
    first: str | None
    gives_at: float | None
    reason: str | None


@wire
class StrainedPayersOut:
    """words: the strain; fields: what can be typed of it for every payer; ready: rows are there;
    job: the task that makes them, or was stopped."""

    words: str
    fields: list[FieldOut]
    ready: bool
    rows: list[StrainedPayerOut]
    job: JobOut | None


ONE_PAYER = "/payers/{exchange}/{symbol:path}"


@router.get("/strained-payers")
def strained(here: Here, when: When, question: QuestionAsked) -> StrainedPayersOut:
    """Every payer under one strain of all revenue, once that was made."""
    asked = question.strain or Strain()
    job = here.straining(when, asked)
    rows = strained_payers(here.cache, when.as_of, when.edition, asked)
    check_strain(asked)
    return StrainedPayersOut(
        words=described(asked),
        fields=[
            field_out(INPUTS[id], held, f"strain.inputs.{id}")
            for id, held in inputs_of_all(asked.inputs).items()
            if INPUTS[id].step < 1
        ],
        ready=rows is not None,
        rows=[
            fill(
                StrainedPayerOut,
                r,
                payout=r.payout.value if r.payout else None,
                breach=r.payout.breach if r.payout else None,
            )
            for r in rows or ()
        ],
        job=job,
    )


@router.post("/strained-payers", status_code=202)
def strain_every_payer(here: Here, when: When, question: QuestionAsked) -> JobOut:
    """Puts every payer under the strain, in the background."""
    asked = question.strain or Strain()
    check_strain(asked)
    return here.strain_all(when, asked).out()


@router.get(ONE_PAYER + "/strains")
def kept(here: Here, exchange: str, symbol: str, when: When) -> list[KeptStrainOut]:
    """The strains kept on a payer, each with what it says on the day."""
    held = kept_strains(here.cache, exchange, symbol, when.as_of, when.edition)
    return [KeptStrainOut(id=k.id, **asdict(said)) for k, said in held]


@router.put(ONE_PAYER + "/strains", status_code=204)
def keep(
    here: Here, exchange: str, symbol: str, when: When, question: QuestionAsked, named: KeptStrainIn
) -> None:
    """Keeps the strain of the address under a name; what stood under it is replaced."""
    keep_strain(
        here.cache, exchange, symbol, when.as_of, name=named.name, question=question, at=here.now()
    )


@router.delete("/strains/{id}", status_code=204)
def forget(here: Here, id: Id) -> None:
    forget_strain(here.cache, id)


@router.get(ONE_PAYER + "/strain", response_model=StrainOut | NoStrainOut)
def strain(found: StrainedReview) -> Response:
    """The tests under a worse year."""
    if found.strained is None:
        return written(NoStrainOut(reason="no statement is held, so that no year can be strained"))
    return written(_strain_out(Shown(found), found.strained))


def _strain_out(shown: Shown, strained: Strained) -> StrainOut:
    shown.know("strain", strained)
    return StrainOut(
        part=strained.strain.part or ALL,
        said=[shown.sentence(s) for s in in_words(strained)],
        fields=[
            field_out(INPUTS[id], held, f"strain.inputs.{id}")
            for id, held in strained.inputs.items()
        ],
        parts=[_part(p) for p in strained.parts],
        tests=[_test(shown, t) for t in strained.tests],
        state_before=strained.state_before.value if strained.state_before else None,
        state=strained.state.value if strained.state else None,
        map=StrainMap(
            fall=FALL,
            margin=MARGIN,
            margins=list(MARGINS),
            gives=strained.line(strained.first, MARGINS),
            uncovered=strained.line(strained.covered, MARGINS),
            first=strained.first.before.short if strained.first else None,
            given=strained.first is not None and strained.first.gave,
            not_covered=strained.covered is not None and strained.covered.gave,
        ),
    )


def _part(part: PartAtRisk) -> PartAtRiskOut:
    told = part.part
    return fill(
        PartAtRiskOut,
        part,
        f"strain.parts.{part.key}",
        id=told.id,
        name=told.name,
        basis=told.basis,
    )


def _test(shown: Shown, test: StrainedTest) -> StrainedTestOut:
    at = f"strain.tests.{test.key}"
    return StrainedTestOut(
        before=shown.test(test.before),
        after=shown.test(test.after, f"{at}.measure", f"{at}.cushion"),
        gives_at=figure_out(test.gives_at, f"{at}.gives_at"),
    )
