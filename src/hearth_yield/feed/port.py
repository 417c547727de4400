"""What the product asks of a feed, in its own terms: rows of its own tables, each from the day it
is known, in an order that never changes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Protocol

from hearth_yield.progress import Progress


@dataclass(frozen=True, slots=True)
class Item:
    """One row as published: cells by column of the table, as they came. number: its place in the
    feed; what is put right later comes again under a later one."""

    number: int
    known_on: date
    table: str
    cells: Mapping[str, str | float]


@dataclass(frozen=True, slots=True)
class Delivery:
    """last: the number up to which all has come, that of the asking where nothing did. hiccups: by
    what went amiss on the way and was got over, how often. set_aside: what could not be read, in
    words."""

    items: Sequence[Item]
    last: int
    hiccups: Mapping[str, int] = field(default_factory=dict)
    set_aside: Sequence[str] = ()


class Feed(Protocol):
    """Somewhere that publishes facts."""

    @property
    def name(self) -> str:
        """As a person knows it."""

    def published(self, after: int, until: date, progress: Progress | None = None) -> Delivery:
        """Everything under a number above `after` that is known by a day, whole.

        progress: called with step, rows so far and 0; raising from it stops.
        Raises: Unreachable when it cannot be had whole.
        """
