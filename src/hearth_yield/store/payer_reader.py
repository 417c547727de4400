"""Reading the facts of one payer as they count, as their tables are declared."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import Enum
from functools import cache
from typing import Any, TypeVar, get_type_hints

import numpy as np
from sqlalchemy import Connection, Select, Text, bindparam, select, type_coerce

from hearth_yield.core.facts.columns import Type
from hearth_yield.core.facts.edits import Exclusion
from hearth_yield.core.facts.fact import Fact
from hearth_yield.core.facts.records import PriceHistory
from hearth_yield.core.facts.statements import Lines
from hearth_yield.core.facts.tables import TABLES, FactTable

from . import tables as t
from .edits import EXCLUDED, Edit, by_row

F = TypeVar("F", bound=Fact)
Cell = Callable[[Any], Any]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Reading:
    """How rows of a table become its records. query: the source of a row, then its cells as the
    database has them. fields: what the first cells are in the record; the rest are gathered. cells:
    by place, what is made of a cell. key: the places of the key."""

    table: FactTable
    query: Select[Any]
    fields: tuple[str, ...]
    cells: tuple[tuple[int, Cell], ...]
    key: tuple[int, ...]


@cache
def _reading(record: Callable[..., Fact]) -> _Reading:
    """Made once, as thousands of payers are loaded. A column that is no field of the record is not
    read."""
    table = next(x for x in TABLES.values() if x.record is record)
    hints = get_type_hints(record)
    plain = [c for c in table.stored if c.name in hints and c.name not in table.gathered]
    cells: list[tuple[int, Cell]] = []
    for place, column in enumerate(plain):
        kind = hints[column.name]
        if column.type is Type.DATE:
            cells.append((place, _day))
        elif column.type is Type.EXACT:
            cells.append((place, _exact(column.places or 0)))
        elif kind is bool:
            cells.append((place, _is_told))
        elif isinstance(kind, type) and issubclass(kind, Enum):
            cells.append((place, {e.value: e for e in kind}.__getitem__))
    names = [c.name for c in plain]
    return _Reading(
        table=table,
        query=_query(table, [*names, *table.gathered]),
        fields=tuple(names),
        cells=tuple(cells),
        key=tuple(names.index(k) for k in table.key),
    )


def _day(text: str | None) -> date | None:
    return None if text is None else date.fromisoformat(text)


def _exact(places: int) -> Cell:
    """Of the integers that numbers of so many decimals are held as, or of the text of others."""
    return lambda cell: None if cell is None else Decimal(cell).scaleb(-places)


def _is_told(cell: object) -> bool:
    return cell is not None


def _query(table: FactTable, names: Sequence[str]) -> Select[Any]:
    """Rows of the payer asked for, by the first day that there is: days as text."""
    held = t.FACTS[table.name].c
    days = {c.name for c in table.stored if c.type is Type.DATE}
    cells = (type_coerce(held[n], Text) if n in days else held[n] for n in names)
    order = next(c.name for c in table.stored if c.name in days)
    mine = held.payer_id == bindparam("payer")
    return select(held.source_id, *cells).where(mine).order_by(held[order])


class PayerReader:
    """Reads the facts of one payer as they count: edited where the person edited them, and
    without those the person excluded, which are named in exclusions."""

    def __init__(
        self, connection: Connection, payer_id: int, by_hand: frozenset[int], edited: Sequence[Edit]
    ) -> None:
        self._connection = connection
        self._payer_id = payer_id
        self._by_hand = by_hand
        self._edited = edited
        self.exclusions: list[Exclusion] = []

    def _rows(self, query: Select[Any], **given: Any) -> Sequence[Any]:
        """Straight from the driver: a row object for each of thousands costs as much."""
        cursor = self._connection.execute(query, {"payer": self._payer_id, **given}).cursor
        return cursor.fetchall() if cursor is not None else []

    def read(self, record: Callable[..., F]) -> tuple[F, ...]:
        """The facts of one kind."""
        reading = _reading(record)
        first = len(reading.fields)
        changes = by_row(self._edited, reading.table.name)
        found = []
        for source, *cells in self._rows(reading.query):
            made = changes.get(tuple(str(cells[k]) for k in reading.key), {}) if changes else {}
            for place, of in reading.cells:
                cells[place] = of(cells[place])
            fields: dict[str, Any] = dict(zip(reading.fields, cells, strict=False))
            if reading.table.gathered:
                fields["lines"] = Lines(cells[first:])
            if made:
                _edit(fields, made)
            fact = record(source=source, entered=source in self._by_hand, **fields)
            if EXCLUDED in made:
                self._exclude(reading.table, fact, made[EXCLUDED])
            else:
                found.append(fact)
        return tuple(found)

    def _exclude(self, table: FactTable, fact: Fact, edit: Edit) -> None:
        self.exclusions.append(
            Exclusion(
                table=table.name,
                kind=fact.sort,
                name=fact.called,
                day=fact.placed_on,
                known_on=fact.known_on,
                reason=edit.reason,
                made_on=edit.edited.made_on,
            )
        )

    def prices(self, newest_by: date | None = None) -> PriceHistory:
        """Days stay text until numpy reads them all at once: ten times faster than date by date.

        newest_by: only the newest closes by a day, one that counts among them where there is one.
        """
        table = TABLES["prices"]
        changes = by_row(self._edited, table.name)
        if newest_by is None:
            rows = self._rows(PRICES)
        else:
            rows = self._rows(NEWEST, by=newest_by, most=1 + len(changes))[::-1]
        sources, texts, closes = zip(*rows, strict=True) if rows else ((), (), ())
        days = np.array(texts, dtype="datetime64[D]")
        values = np.array(closes, dtype=np.float64)
        origins = np.array(sources, dtype=np.int64)
        counts = np.ones(len(days), dtype=np.bool_)
        edited = {}
        for (text,), made in changes.items():
            day, here = date.fromisoformat(text), days == np.datetime64(text)
            if EXCLUDED in made:
                self._exclude(table, _Close(day), made[EXCLUDED])
                counts &= ~here
                continue
            values[here] = made["close"].value
            edited[day] = made["close"].edited
        return PriceHistory(
            days=days[counts],
            closes=values[counts],
            sources=origins[counts],
            entered=self._by_hand & frozenset(sources),
            edited=edited,
        )


PRICES = _query(TABLES["prices"], ("day", "close"))
_PRICE = t.FACTS["prices"].c
NEWEST = (
    PRICES.where(_PRICE.day <= bindparam("by"))
    .order_by(None)
    .order_by(_PRICE.day.desc())
    .limit(bindparam("most"))
)


@dataclass(frozen=True, slots=True)
class _Close(Fact):
    """One of a payer's closes, for as long as it is excluded."""

    day: date

    @property
    def known_on(self) -> date:
        return self.day

    @property
    def called(self) -> str:
        return f"close of {self.day}"


def _edit(fields: dict[str, Any], made: Mapping[str, Edit]) -> None:
    """Puts the values of edits into what a record is made of."""
    values = {name: edit for name, edit in made.items() if name != EXCLUDED}
    if "lines" in fields:
        fields["lines"] = {**fields["lines"], **{n: e.value for n, e in values.items()}}
        fields["edited"] = {n: e.edited for n, e in values.items()}
        return
    for name, edit in values.items():
        fields |= {name: edit.value, "edited": edit.edited}
