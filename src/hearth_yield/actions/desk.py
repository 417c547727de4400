"""The desk: what is open, kept ready until the facts behind it change."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field, replace
from datetime import date
from typing import TypeVar

from hearth_yield.core.facts import PayerFile
from hearth_yield.core.review import Question, Review, build_review, rework
from hearth_yield.core.rules import HouseRules
from hearth_yield.core.worth.inputs import WorthInputs
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database, revision

T = TypeVar("T")


class Kept:
    """The most recent results by key; safe from several threads."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._held: OrderedDict[Hashable, object] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        with self._lock:
            if key in self._held:
                self._held.move_to_end(key)
                return self._held[key]  # type: ignore[return-value]
        made = make()
        with self._lock:
            self._held[key] = made
            while len(self._held) > self._size:
                self._held.popitem(last=False)
        return made


@dataclass(frozen=True, slots=True)
class Desk:
    """One database and what was computed from it. Everything kept is keyed by its revision."""

    database: Database
    rules: HouseRules = field(default_factory=HouseRules)
    files: Kept = field(default_factory=lambda: Kept(16))
    reviews: Kept = field(default_factory=lambda: Kept(32))
    universes: Kept = field(default_factory=lambda: Kept(2))

    def revision(self) -> int:
        """Of the facts as they stand; everything kept from an older one is not used again."""
        with self.database.read() as connection:
            return revision(connection)

    def cut_file(self, at: int, exchange: str, symbol: str, as_of: date) -> PayerFile:
        """A payer's facts cut to a day; its whole history is loaded once per revision."""

        def load() -> PayerFile:
            with self.database.read() as connection:
                return payer_files.load(connection, exchange, symbol)

        whole = self.files.get((at, exchange, symbol), load)
        return self.files.get((at, exchange, symbol, as_of), lambda: whole.cut(as_of))

    def review(
        self, exchange: str, symbol: str, as_of: date, question: Question, at: int | None = None
    ) -> Review:
        """One payer on one date. An aim or an input of Worth moves only its own stage.

        at: the revision of the facts, where the caller has it.
        """
        at = self.revision() if at is None else at
        file = self.cut_file(at, exchange, symbol, as_of)
        plain = replace(question, aim=None, aim_price=None, inputs=WorthInputs())
        key = (at, exchange, symbol, as_of, plain.window, plain.base_year)
        review = self.reviews.get(key, lambda: build_review(file, self.rules, plain))
        return review if question == plain else rework(review, file, self.rules, question)
