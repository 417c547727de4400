"""Files as people have them, made into files of the product's own."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from pathlib import PurePosixPath

from hearth_yield.collector import at_rest
from hearth_yield.exchange.cells import Cell
from hearth_yield.exchange.table import MadeTable
from hearth_yield.progress import Progress, unwatched

from .apart import FileRead, Unreadable, read_apart
from .convert import convert
from .encodings import NAMES
from .headings import plain
from .made import InSheet, Made, in_file
from .own import own_table
from .owned.accounts import Accounts
from .owned.positions import POSITIONS, settle_positions
from .patience import within
from .payers import Payers
from .profiles import Profile, ProfileTable
from .settings import Answers, Setting
from .statements import ask_of_signs
from .table import Found
from .understand import understand

EACH_TIME = (*("payer", "encoding", "other_currency", "twins", "strangers"), *("as_of", "called"))
"""What is asked of each file anew, as the answer rests on whose facts are in it."""
ORDER = (
    "payers",
    "accounts",
    "entries",
    "payer_notes",
    "statements",
    "dividends",
    "prices",
    "estimates",
    "series",
)


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundFile:
    """A file and what is in it. unreadable: why it gives nothing. left_out: sheets that are not
    read, each with why. made: of each table that has nothing left to ask, by its id. own: sheets
    that are tables of the product's own, by name."""

    name: str
    tables: Sequence[Found] = ()
    made: Mapping[str, Made] | None = None
    own: Mapping[str, Made] = field(default_factory=dict)
    left_out: Sequence[str] = ()
    unreadable: str | None = None
    answers: Answers | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Around:
    """What files are read among. paid_years: of one payer, the years whose payments are stored."""

    payers: Payers
    accounts: Accounts
    profiles: Sequence[Profile] = ()
    paid_years: Callable[[str], frozenset[int]] = lambda _: frozenset()
    progress: Progress = unwatched


def read_found(
    files: Sequence[tuple[str, bytes]], around: Around, told: Mapping[str, str]
) -> list[FoundFile]:
    """What is understood of each file. Ids of questions are told apart by the file's place."""
    with at_rest(), within():
        return [_read(n, name, raw, around, told) for n, (name, raw) in enumerate(files)]


def _read(n: int, name: str, raw: bytes, around: Around, told: Mapping[str, str]) -> FoundFile:
    encoding, called = told.get(f"{n}.encoding", ""), PurePosixPath(name).name
    try:
        held = read_apart(called, raw, encoding, around.progress)
    except Unreadable as why:
        return FoundFile(name=name, unreadable=str(why))
    answers = _answers(n, told)
    own = {s.name: m for s in held.sheets if not s.hidden and (m := own_table(s))}
    others = [s for s in held.sheets if s.name not in own]
    around.progress("understanding sheets", 0, len(others))
    tables = understand(others, around.payers, around.accounts, answers, around.profiles)
    if not tables and not own:
        names = ", ".join(s.name for s in held.sheets[:5])
        none = f"no table of statements, dividends, prices, payers or an index is in it ({names})"
        return FoundFile(name=name, unreadable=none)
    if held.choices and tables:
        tables[0].settings.insert(0, _encoding(held))
    made = _made_of(tables, around, answers)
    left = _left_out(held, {t.sheet.name for t in tables} | set(own))
    return FoundFile(name=name, tables=tables, made=made, own=own, left_out=left, answers=answers)


def _answers(n: int, told: Mapping[str, str]) -> Answers:
    """What was told of one file, and of all."""
    own = {k.removeprefix(f"{n}."): v for k, v in told.items() if k.startswith(f"{n}.")}
    whole = {k: v for k, v in told.items() if not k[:1].isdigit()}
    return Answers(whole | own)


def _left_out(held: FileRead, read: set[str]) -> list[str]:
    """What of a file is in no table. read: names of sheets."""
    return [
        *(
            f"the hidden sheet “{s.name}”"
            if s.hidden
            else f"the sheet “{s.name}”, as no table is in it"
            for s in held.sheets
            if s.name not in read
        ),
        *held.left,
    ]


def _encoding(read: FileRead) -> Setting:
    """In which encoding a text is read; asked where it reads like words in several."""
    return Setting(
        id="encoding",
        name="encoding",
        asks="Which of these reads right?",
        options=[(e, f"“{sample}” · {NAMES[e]}") for e, sample in read.choices],
        answer=read.encoding if read.sure else None,
        asked=not read.sure or read.told,
    )


def _made_of(tables: Sequence[Found], around: Around, told: Answers) -> dict[str, Made]:
    """What tables give that have nothing left to ask, by their ids."""
    made = {}
    for table in tables:
        if table.skipped:
            continue
        if table.kind == "statements":
            ask_of_signs(table, told)
        if table.ready:
            around.progress("taking rows", 0, len(table.rows))
            paid: frozenset[int] = frozenset()
            if table.payer and table.kind in ("statements", "yearly_dividends"):
                paid = around.paid_years(table.payer)
            made[table.id] = convert(table, around.payers, around.accounts, paid, told)
    return made


def profile_tables(found: Sequence[FoundFile]) -> list[ProfileTable]:
    """What was settled of files, so that the next ones of their sort need not be asked."""
    return [_settled(t, f.answers) for f in found if f.answers for t in f.tables]


def _settled(table: Found, told: Answers) -> ProfileTable:
    settled = {
        s.name: s.answer
        for s in table.settings
        if s.asked and s.answer is not None and s.name not in EACH_TIME
    }
    signs = {k: v for k, v in settled.items() if k.startswith("sign-")}
    for line in table.lines:
        if f"sign-{line.place}" in signs:
            settled[f"sign.{line.target}"] = settled.pop(f"sign-{line.place}")
        if told.own(table.id, f"line.{line.place}") is not None or not line.sure:
            settled[f"line.{plain(line.heading)}"] = line.target or "none"
    if table.payer and any(s.name == "payer" and s.asked for s in table.settings):
        settled[f"payer.{plain(table.sheet.name)}"] = table.payer
    return ProfileTable(kind=table.kind, headings=table.headings, settled=settled)


def made_tables(
    found: Sequence[FoundFile], new_payers: Sequence[Mapping[str, Cell]] = ()
) -> list[MadeTable]:
    """One table of the product's own for each kind, of all files; a payer that several of them tell
    of is in it once."""
    whole = {name: MadeTable(name) for name in ORDER}
    for payer in new_payers:
        whole["payers"].add(payer, "the new payers", InSheet())
    with at_rest():
        for file in found:
            made = file.made or {}
            of_sheets = [(t.sheet.name, made[t.id]) for t in file.tables if t.id in made]
            for sheet, of_sheet in (*of_sheets, *file.own.items()):
                where = file.name if file.name.startswith(sheet) else f"{file.name}, {sheet}"
                for name, table in of_sheet.tables.items():
                    into = whole.setdefault(name, MadeTable(name))
                    into.take(table.rows, in_file(where, table.origins))
        settle_positions(whole["entries"], whole.pop(POSITIONS, MadeTable(POSITIONS)))
        whole["payers"] = _each_once(whole["payers"])
        whole["accounts"] = _accounts_once(whole["accounts"])
    return [table for table in whole.values() if table.rows]


def _accounts_once(made: MadeTable) -> MadeTable:
    """An account that several tables name, once: its dividends are entered from the earliest day
    that any of them says."""
    rows: dict[str, tuple[int, dict[str, Cell]]] = {}
    for n, row in enumerate(made.rows):
        name = str(row["name"]).casefold()
        first, before = rows.setdefault(name, (n, dict(row)))
        days = [d for r in (before, row) if isinstance(d := r.get("entered_from"), date)]
        rows[name] = (first, before | {"entered_from": min(days, default=None)})
    once = MadeTable(made.name)
    for n, row in rows.values():
        once.add(row, *made.origin_of(n))
    return once


def _each_once(made: MadeTable) -> MadeTable:
    """Rows that say the same as one before are left out."""
    kept = MadeTable(made.name)
    before = set[tuple[Cell, ...]]()
    for n, row in enumerate(made.rows):
        told = tuple(row.values())
        if told not in before:
            before.add(told)
            kept.add(row, *made.origin_of(n))
    return kept
