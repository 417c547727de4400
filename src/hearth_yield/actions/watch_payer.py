"""Watch a payer with a note or in a group, or no more."""

from __future__ import annotations

from datetime import date

from hearth_yield.core.errors import InvalidInput
from hearth_yield.store import watched
from hearth_yield.store.database import Edition
from hearth_yield.store.watched import WatchNote as WatchNote

from .overtaken import unless_overtaken
from .review_cache import ReviewCache

MOST_WORDS, MOST_GROUP = 2000, 60


def watch_payer(
    cache: ReviewCache,
    exchange: str,
    symbol: str,
    said: WatchNote,
    as_of: date,
    edition: Edition,
    *,
    at: str,
    begun: WatchNote | None = None,
) -> None:
    """begun: what stood there when this was begun. Raises NotFound without such a payer;
    InvalidInput for words that are too long; Conflict where others came meanwhile."""
    cache.cut_file(edition, exchange, symbol, as_of)
    note, group = said.note.strip(), said.group.strip()
    for field, text, most in (("note", note, MOST_WORDS), ("group", group, MOST_GROUP)):
        if len(text) > most:
            raise InvalidInput(
                f"the {field} is too long",
                field=field,
                value=len(text),
                rule=f"at most {most} letters",
            )
    with cache.database.write(facts=False) as connection:
        standing = watched.of_payer(connection, exchange, symbol) or WatchNote("", "")
        if begun is not None:
            unless_overtaken("note", standing.note, begun.note)
            unless_overtaken("group", standing.group, begun.group)
        watched.put(connection, exchange, symbol, WatchNote(note, group), at)


def unwatch_payer(cache: ReviewCache, exchange: str, symbol: str) -> None:
    """Its note and group go; what a decision or an entry step waits for stays."""
    with cache.database.write(facts=False) as connection:
        watched.remove(connection, exchange, symbol)
