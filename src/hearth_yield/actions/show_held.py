"""How much is held and since when: in all, of each payer, of each series, from each source."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any, Generic, TypeVar

from hearth_yield.store import coverage, payer_files, sources
from hearth_yield.store.coverage import Coverage as Coverage
from hearth_yield.store.coverage import SeriesCoverage
from hearth_yield.store.coverage import Span as Span
from hearth_yield.store.database import Database
from hearth_yield.store.payer_files import PayerName
from hearth_yield.store.sources import Report

T = TypeVar("T")


@dataclass(frozen=True, slots=True, kw_only=True)
class Extent:
    """newest_price: the newest close known on the day asked for."""

    payers: int
    newest_price: date | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Held(Generic[T]):
    """found: all there are, not only those shown. sources: names by number."""

    rows: Sequence[T]
    found: int
    sources: Mapping[int, str]


def extent(database: Database, as_of: date) -> Extent:
    with database.read() as connection:
        return Extent(
            payers=coverage.count(connection, ""),
            newest_price=payer_files.newest_price_day(connection, as_of),
        )


def find_names(database: Database, words: str, limit: int) -> Sequence[PayerName]:
    """Payers of which every word is in the name, the symbol or the kind, by name."""
    with database.read() as connection:
        return payer_files.find_names(connection, words, limit)


def usual_payer(database: Database) -> Mapping[str, str]:
    """The exchange, country and currency that most payers have together; empty without any."""
    with database.read() as connection:
        return coverage.usual_payer(connection)


def held_of_payers(database: Database, words: str, first: int, size: int) -> Held[Coverage]:
    """A window of the payers that hold every word, by name."""
    with database.read() as connection:
        return Held(
            rows=coverage.of_payers(connection, words, first, size),
            found=coverage.count(connection, words),
            sources=sources.names(connection),
        )


def held_of_series(database: Database) -> Held[SeriesCoverage]:
    with database.read() as connection:
        rows = coverage.of_series(connection)
        return Held(rows=rows, found=len(rows), sources=sources.names(connection))


def all_sources(database: Database) -> Sequence[Mapping[str, Any]]:
    """The newest first."""
    with database.read() as connection:
        return sources.newest_first(connection)


def report_of(database: Database, source_id: int) -> Report:
    """What a source brought, and the warnings accepted with it. Raises NotFound."""
    with database.read() as connection:
        return sources.report(connection, source_id)
