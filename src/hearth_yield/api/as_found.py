"""What was understood of files as people have them, and what they still have to say."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hearth_yield.actions.read_found import Understood
from hearth_yield.core.household.entries import EntryKind
from hearth_yield.core.household.kinds import KINDS as KINDS_OF_ENTRIES
from hearth_yield.exchange.faults import Fault
from hearth_yield.exchange.found.headings import synonyms
from hearth_yield.exchange.found.made import Made
from hearth_yield.exchange.found.owned.forms import Form
from hearth_yield.exchange.found.owned.settle import form_of_found
from hearth_yield.exchange.found.settings import Setting
from hearth_yield.exchange.found.sheets import Cell
from hearth_yield.exchange.found.strangers import COLUMNS
from hearth_yield.exchange.found.table import Found
from hearth_yield.exchange.found.tables import KINDS
from hearth_yield.exchange.found.understand import names_payers
from hearth_yield.exchange.found.units import FACTOR, NAMES

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
    isin: Annotated[str, Field(max_length=12)] = ""
    fiscal_year_end_month: Annotated[int, Field(ge=1, le=12)] = 12


class SettledIn(BaseModel):
    """answers: by question; payers: made on the spot, as rows of the payers table; profile: the
    import profile to read by, "none" for not any."""

    answers: Annotated[dict[Text, Text], Field(max_length=2000)] = {}
    payers: Annotated[list[NewPayerIn], Field(max_length=200)] = []
    profile: Text = ""


def found_out(understood: Understood) -> list[s.FoundFileOut]:
    """Each file with its tables; ids of questions are told apart by the file's place. What is asked
    of several tables alike is asked once."""
    found = []
    for n, file in enumerate(understood.found):
        asked: set[str] = set()
        found.append(
            s.FoundFileOut(
                name=file.name,
                unreadable=file.unreadable,
                own=[
                    f"{sheet}: {sum(made.counts.values()):,} rows"
                    for sheet, made in file.own.items()
                ],
                left_out=list(file.left_out),
                tables=[_table(n, t, (file.made or {}).get(t.id), asked) for t in file.tables],
            )
        )
    return found


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
        payers=[],
        replaced=[],
    )


def _table(n: int, table: Found, made: Made | None, asked: set[str]) -> s.FoundTableOut:
    first = max(0, table.head - 2)
    rows = table.sheet.rows[first : min(first + SHOWN_ROWS, table.rows.stop)]
    settings = [x for x in table.settings if not (x.open and x.id in asked)]
    asked |= {x.id for x in table.settings if x.open}
    whose = {place: name for name, place in table.columns_of.items()}
    return s.FoundTableOut(
        id=f"{n}.{table.id}",
        sheet=table.sheet.name,
        name=_called(table),
        kind="" if table.unknown else table.kind,
        kinds=list(KINDS) if table.lie == "down" else [table.kind],
        lie=table.lie,
        payer=table.payer,
        payer_name=table.payer_name,
        profile=table.profile,
        skipped=table.skipped,
        lines=[
            s.FoundLineOut(
                id=f"{n}.{table.id}.line.{x.place}",
                heading=x.heading,
                target=x.target or whose.get(x.place),
                sure=x.sure,
            )
            for x in table.lines
        ],
        targets=[]
        if table.unknown or table.lie in ("wide", "months")
        else sorted({*synonyms()[table.kind].values(), *(COLUMNS if names_payers(table) else ())}),
        periods=[
            f"{label} → {p.span.value} to {p.end.isoformat()}" for _, label, p in table.periods
        ],
        settings=[_setting(n, x) for x in settings],
        rows=dict(made.counts) if made else {},
        notes=list(made.notes) if made else [],
        left_out=list(made.left_out[:40]) if made else [],
        cells=[["" if c is None else _shown(c) for c in r[:SHOWN_COLUMNS]] for r in rows],
        first_row=first + 1,
    )


def _called(table: Found) -> str:
    """What a table of entries is of, by its section or its form."""
    if table.kind != "entries":
        return ""
    told = table.answer("section")
    section = KINDS_OF_ENTRIES[EntryKind(told)] if told else None
    if section is not None:
        return section.name
    return NAMES_OF_FORMS[form_of_found(table)]


NAMES_OF_FORMS = {
    Form.POSITIONS: "Positions",
    Form.DIVIDENDS: "Dividends received",
    Form.TRADES: "Trades",
    Form.MIXED: "What you own",
}


def _shown(cell: Cell) -> str:
    """A cell as a spreadsheet shows it."""
    return f"{cell:.12g}" if isinstance(cell, float) else str(cell)[:60]


KIND_OF_SETTING: dict[str, Literal["payer", "account", "days", "choice"]] = {
    "payer": "payer",
    "account": "account",
    "columns": "choice",
    "after_year": "days",
    "after_quarter": "days",
}


def _setting(n: int, x: Setting) -> s.FoundSettingOut:
    return s.FoundSettingOut(
        id=f"{n}.{x.id}",
        name=x.name,
        asks=x.asks,
        kind=KIND_OF_SETTING.get(x.name.split("-")[0]) or ("choice" if x.options else "text"),
        options=[s.FoundOptionOut(value=v, name=t) for v, t in x.options],
        answer=x.answer,
        asked=x.asked,
        guess=x.guess,
    )


MENDS = {"shares": "Read share counts in {}", "per_share": "Read the amounts as hundredths"}


def with_mend(out: s.FaultOut, fault: Fault, understood: Understood) -> s.FaultOut:
    """A warning of a likely slip with the setting that would mend it, where the slip is one of how
    a table was read."""
    if fault.slip is None:
        return out
    what, _, factor = fault.slip.partition(":")
    for n, file in enumerate(understood.found):
        for table in file.tables:
            now = table.answer(what)
            if not now or table.skipped or (table.payer or fault.of) != fault.of:
                continue
            value = _factored(now, float(factor)) if what == "shares" else "0.01"
            if value is not None and value != now:
                id = f"{n}.{table.id}.{what}"
                name = MENDS[what].format(NAMES.get(value, ""))
                return replace(out, mend=s.MendOut(id=id, value=value, name=name))
    return out


def _factored(unit: str, factor: float) -> str | None:
    """The unit so many times as large."""
    size = FACTOR[unit] * factor
    return next((name for name, f in FACTOR.items() if f == size), None)
