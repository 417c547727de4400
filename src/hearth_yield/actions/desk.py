"""The desk: what is open, kept ready until the facts behind it change."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from dataclasses import dataclass, field, replace
from datetime import date
from typing import TypeVar

from hearth_yield.core.facts import PayerFile
from hearth_yield.core.review import Question, Review, build_review, computing, rework
from hearth_yield.core.rules import HouseRules
from hearth_yield.core.worth.inputs import WorthInputs
from hearth_yield.store import payer_files
from hearth_yield.store.database import Database, revision

T = TypeVar("T")


class Kept:
    """The most recent results by key; safe from several threads, and each made once however many
    ask for it at the same time."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._held: OrderedDict[Hashable, Future[object]] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        with self._lock:
            held = self._held.get(key)
            mine = held is None
            future = held if held is not None else Future()
            self._held[key] = future
            self._held.move_to_end(key)
            while len(self._held) > self._size:
                self._held.popitem(last=False)
        if mine:
            try:
                future.set_result(make())
            except BaseException as error:
                future.set_exception(error)
                with self._lock:
                    if self._held.get(key) is future:
                        del self._held[key]
        return future.result()  # type: ignore[return-value]


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
        with computing(whole.payer):
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
        with computing(file.payer):
            review = self.reviews.get(key, lambda: build_review(file, self.rules, plain))
            return review if question == plain else rework(review, file, self.rules, question)
