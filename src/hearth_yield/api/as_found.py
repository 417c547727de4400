"""What was understood of files as people have them, and what they still have to say."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hearth_yield.actions.read_found import Understood
from hearth_yield.exchange.found.headings import synonyms
from hearth_yield.exchange.found.understand import Found, Question

from . import schemas as s

Text = Annotated[str, Field(max_length=400)]
SHOWN_ROWS, SHOWN_COLUMNS = 14, 12


class NewPayerIn(BaseModel):
    """A payer made on the spot; what it is made of is checked as any row of payers."""

    exchange: Text
    symbol: Text
    name: Text
    kind: Text
    country: Text
    currency: Text
    fiscal_year_end_month: Annotated[int, Field(ge=1, le=12)] = 12


class SettledIn(BaseModel):
    """answers: by question; payers: made on the spot, as rows of the payers table."""

    answers: Annotated[dict[Text, Text], Field(max_length=2000)] = {}
    payers: Annotated[list[NewPayerIn], Field(max_length=50)] = []


def found_out(understood: Understood) -> list[s.FoundFileOut]:
    """Each file with its tables; ids of questions are told apart by the file's place."""
    return [
        s.FoundFileOut(
            name=file.name,
            unreadable=file.unreadable,
            tables=[_table(n, t, (file.made or {}).get(t.id)) for t in file.tables],
        )
        for n, file in enumerate(understood.found)
    ]


def waiting_out(understood: Understood, name: str) -> s.PreviewOut:
    """A preview of nothing yet: something is open or wrong."""
    faults = [
        s.FaultOut(file=file, line=None, column=None, value=None, expected=text, warning=False)
        for file, text in [
            *((f.name, f.unreadable) for f in understood.found if f.unreadable),
            *understood.wrong,
        ][:500]
    ]
    return s.PreviewOut(
        token="",
        file_name=name,
        tables=[],
        faults=faults,
        refused=bool(faults),
        held_already=None,
        found=found_out(understood),
    )


def _table(n: int, table: Found, made: object) -> s.FoundTableOut:
    first = max(0, table.head - 2)
    rows = table.sheet.rows[first : first + SHOWN_ROWS]
    return s.FoundTableOut(
        id=f"{n}.{table.id}",
        sheet=table.sheet.name,
        kind=table.kind,
        across=table.across,
        payer=table.payer,
        currency=table.currency,
        unit=table.unit,
        lines=[
            s.FoundLineOut(
                id=f"{n}.{table.id}.line.{x.place}", heading=x.heading, target=x.target, sure=x.sure
            )
            for x in table.lines
        ],
        targets=sorted(set(synonyms()[table.kind].values())),
        periods=[
            f"{label} → {p.span.value} to {p.end.isoformat()}" for _, label, p in table.periods
        ],
        questions=[_question(n, q) for q in table.questions],
        rows=len(getattr(made, "rows", ())),
        notes=list(getattr(made, "notes", ())),
        left_out=list(getattr(made, "left_out", ()))[:40],
        cells=[["" if c is None else str(c)[:60] for c in r[:SHOWN_COLUMNS]] for r in rows],
    )


def _question(n: int, q: Question) -> s.FoundQuestionOut:
    kind: Literal["payer", "choice", "text"] = (
        "payer" if q.id.endswith("payer") else "choice" if q.options else "text"
    )
    return s.FoundQuestionOut(
        id=f"{n}.{q.id}",
        asks=q.asks,
        kind=kind,
        options=[s.FoundOptionOut(value=v, name=t) for v, t in q.options],
    )
