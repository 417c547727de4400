"""Bring in what a feed has published: as a source like any other, all of it or nothing."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import date

from sqlalchemy import Connection

from hearth_yield.core.errors import Conflict, InvalidInput
from hearth_yield.exchange.cells import Cell, spelt
from hearth_yield.exchange.columns import FORMATS, Format
from hearth_yield.exchange.faults import Fault
from hearth_yield.exchange.package import PackageRead, read_files
from hearth_yield.exchange.table import MadeTable
from hearth_yield.feed.port import Delivery, Feed, Item
from hearth_yield.progress import Progress
from hearth_yield.store import facts, sources
from hearth_yield.store.database import Database, edition_and_pinned, pin_today
from hearth_yield.store.stored import StoredFacts
from hearth_yield.texts import plain

from .import_files import ALL, NewSource, Worth, keep

NOTHING = 0
MOST_TOLD = 100
ASIDE = "set aside: "
Tables = Mapping[str, Sequence[Mapping[str, Cell]]]


def pull_feed(
    database: Database, feed: Feed, *, until: date, at: str, progress: Progress | None = None
) -> int:
    """Ask for what came after the newest delivery that stands, and keep it. A demo's day is moved
    on in the same transaction.

    Rows of payers that are not held are left out; rows that cannot be read are set aside and told
    with the source, which is there for that alone where nothing else came.
    Returns: the source, or NOTHING when nothing in it was new.
    Raises: Unreachable, with everything as it was; InvalidInput for a day before the demo's.
    """
    with database.read() as connection:
        after = sources.feed_last(connection)
        held = {(e, s) for e, s, *_ in facts.named_payers(connection)}
        pinned = edition_and_pinned(connection)[1]
    if pinned is not None and until < pinned:
        raise InvalidInput(
            f"the day can only be moved on; it is {pinned.isoformat()}",
            field="to",
            value=until.isoformat(),
            rule=f"{pinned.isoformat()} or later",
        )
    delivery = feed.published(after, until, progress)
    tables, told = _tables(delivery, held, until)

    def move(connection: Connection) -> None:
        if pinned is not None:
            pin_today(connection, until)

    def read(facts_held: StoredFacts) -> PackageRead:
        reading = _readable(name, tables, facts_held, progress)
        reading.faults += [_told(name, t) for t in told]
        return reading

    name = plain(feed.name)
    source = NewSource(
        kind="feed",
        file_name=f"{name}, to {until.isoformat()}",
        sha256=None,
        at=at,
        feed=(after, delivery.last),
    )
    if tables or any(t.startswith(ASIDE) for t in told):
        try:
            worth: Worth = _set_aside if delivery.last > after else lambda _: False
            return keep(database, read, source, ALL, progress, move, worth=worth)
        except Conflict:
            pass  # everything in it is held already
    with database.write(facts=False) as connection:
        move(connection)
    return NOTHING


def _tables(
    delivery: Delivery, held: set[tuple[str, str]], until: date
) -> tuple[Tables, list[str]]:
    """Rows by table, of one key the newest; and what is to be told of the way they came."""
    rows: dict[str, dict[tuple[str, ...], Mapping[str, Cell]]] = defaultdict(dict)
    strangers, unknown = 0, 0
    aside = list(delivery.set_aside)
    for item in delivery.items:
        format = FORMATS.get(item.table)
        if format is None or item.table == "payers":
            unknown += 1
            continue
        owner = (_named(item.cells, "exchange"), _named(item.cells, "symbol"))
        if "symbol" in format.by_name and owner not in held:
            strangers += 1
            continue
        wrong = _wrong_with(item, format, until)
        if wrong:
            aside.append(f"{item.table}: {wrong}")
            continue
        cells: dict[str, Cell] = dict.fromkeys(sorted(format.required)) | dict(item.cells)
        rows[item.table][tuple(_named(item.cells, k) for k in format.key)] = cells
    told = [f"{n} × {what}" for what, n in delivery.hiccups.items()]
    told += [ASIDE + text for text in aside[:MOST_TOLD]]
    if len(aside) > MOST_TOLD:
        told.append(f"{ASIDE}{len(aside) - MOST_TOLD:,} more rows")
    if strangers:
        told.append(f"{strangers} rows of payers that are not held were left out")
    if unknown:
        told.append(f"{unknown} rows of tables that are not known were left out")
    return {name: list(by_key.values()) for name, by_key in rows.items()}, told


def _named(cells: Mapping[str, str | float], column: str) -> str:
    """A part of a key, as it is written."""
    cell = cells.get(column)
    return cell if isinstance(cell, str) else spelt(cell)


def _wrong_with(item: Item, format: Format, until: date) -> str:
    """What keeps a row from being one of its table, before its cells are read."""
    strange = sorted(set(item.cells) - set(format.by_name))
    if strange:
        return f"no column {strange[0][:40]!r} is known"
    lacks = [k for k in format.key if k in format.required and not spelt(item.cells.get(k))]
    if lacks:
        return f"a row without its {lacks[0]}"
    for column in format.columns:
        day = spelt(item.cells.get(column.name)) if column.past else ""
        if day[:4].isdecimal() and day > until.isoformat():
            return f"{column.name} {day[:20]} is still to come on {until.isoformat()}"
    return ""


def _readable(
    name: str, tables: Tables, held: StoredFacts, progress: Progress | None
) -> PackageRead:
    """What can be read of the tables; rows that cannot are set aside as warnings. What is wrong
    with rows among others may show only when those are gone: so until nothing is."""
    aside: list[Fault] = []
    count = 0
    while True:
        made = [_made(table, rows) for table, rows in tables.items() if rows]
        reading = read_files((), held, progress, made) if made else PackageRead()
        wrong = {table.file: table.faults.wrong for table in reading.tables}
        if not any(wrong.values()):
            break
        listed = [f for f in reading.faults if not f.warning and f.line is not None]
        aside += [_told(name, _words(f)) for f in listed[: max(0, MOST_TOLD - count)]]
        count += sum(map(len, wrong.values()))
        tables = {
            table: [r for n, r in enumerate(rows, 2) if n not in wrong.get(f"{table}.csv", ())]
            for table, rows in tables.items()
        }
    if count > len(aside):
        aside.append(_told(name, f"{ASIDE}{count - len(aside):,} more rows"))
    reading.faults += aside
    return reading


def _made(table: str, rows: Sequence[Mapping[str, Cell]]) -> MadeTable:
    made = MadeTable(table)
    for row in rows:
        made.rows.add(row)
    return made


def _set_aside(faults: Sequence[Fault]) -> bool:
    return any(f.expected.startswith(ASIDE) for f in faults)


def _words(fault: Fault) -> str:
    value = "" if fault.value is None else f" “{fault.value}”;"
    return f"{ASIDE}{fault.file}, {fault.column}:{value} expected {fault.expected}"


def _told(name: str, text: str) -> Fault:
    return Fault(file=name, line=None, column=None, value=None, expected=text, warning=True)
