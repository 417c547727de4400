"""Files and reviews that were made already, until the facts or house rules behind them change."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from concurrent.futures import Future
from dataclasses import dataclass, field
from datetime import date
from functools import partial
from typing import TypeVar

from hearth_yield.core.facts.payer_file import PayerFile
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.question import Question
from hearth_yield.core.review import Review, build_review, computing, rework
from hearth_yield.store import house_rules, payer_files
from hearth_yield.store.database import Database, Edition, edition

T = TypeVar("T")


class Cache:
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

    def peek(self, key: Hashable) -> object | None:
        """What is held under a key and done; makes nothing and waits for nothing."""
        with self._lock:
            held = self._held.get(key)
        if held is None or not held.done() or held.exception() is not None:
            return None
        return held.result()


@dataclass(frozen=True, slots=True)
class ReviewCache:
    """One database and what was computed from it, under the parts of the
    edition that it rests on.

    followed: the little that Watch and Journal tell of each payer and decision.
    """

    database: Database
    rules: Cache = field(default_factory=lambda: Cache(4))
    files: Cache = field(default_factory=lambda: Cache(16))
    shared: Cache = field(default_factory=lambda: Cache(2))
    reviews: Cache = field(default_factory=lambda: Cache(32))
    universes: Cache = field(default_factory=lambda: Cache(4))
    looked_back: Cache = field(default_factory=lambda: Cache(2))
    breadths: Cache = field(default_factory=lambda: Cache(2))
    strained: Cache = field(default_factory=lambda: Cache(4))
    held_reviews: Cache = field(default_factory=lambda: Cache(2))
    followed: Cache = field(default_factory=lambda: Cache(2048))

    def edition(self) -> Edition:
        """Of what stands now; nothing from an older one is used again."""
        with self.database.read() as connection:
            return edition(connection)

    def house_rules(self, at: Edition) -> HouseRules:
        def load() -> HouseRules:
            with self.database.read() as connection:
                return house_rules.of_version(connection, at.rules)

        return self.rules.get(at.rules, load) if at.rules else HouseRules()

    def whole_file(self, at: Edition, exchange: str, symbol: str) -> PayerFile:
        """All facts of a payer, whatever day they were known; loaded once per edition, and so are
        the series that payers share. Raises NotFound."""
        shared = self.shared.get(at.facts, payer_files.Shared)

        def load() -> PayerFile:
            with self.database.read() as connection:
                return payer_files.load(connection, exchange, symbol, shared)

        return self.files.get((at.facts, exchange, symbol), load)

    def cut_file(self, at: Edition, exchange: str, symbol: str, as_of: date) -> PayerFile:
        """A payer's facts cut to a day. Raises NotFound, Uncomputable."""
        whole = self.whole_file(at, exchange, symbol)
        with computing(whole.payer):
            return self.files.get((at.facts, exchange, symbol, as_of), partial(whole.cut, as_of))

    def review(
        self, exchange: str, symbol: str, as_of: date, question: Question, at: Edition | None = None
    ) -> Review:
        """One payer on one date. An aim, an input of Worth or a strain moves
        only what is its own.

        at: the edition, where the caller has it.
        """
        at = self.edition() if at is None else at
        file, rules = self.cut_file(at, exchange, symbol, as_of), self.house_rules(at)
        plain = question.plain
        key = (at.judged, exchange, symbol, as_of, plain.place)
        with computing(file.payer):
            review = self.reviews.get(key, lambda: build_review(file, rules, plain))
            return review if question == plain else rework(review, file, rules, question)
