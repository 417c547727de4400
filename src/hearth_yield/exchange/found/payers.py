"""The payers that a file may be about, and which of them a text names."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache

from rapidfuzz import fuzz

from .headings import plain

LIKE_A_NAME = 90.0
LIKE_A_TWIN = 50.0
"""So alike names must be (of 100) for the same symbol elsewhere to be the same payer."""
LONGEST = 200
"""Characters of a text in which a payer is looked for."""


@dataclass(frozen=True, slots=True)
class Known:
    """A payer that is stored, or made on the spot."""

    exchange: str
    symbol: str
    name: str
    currency: str
    year_ends: int
    isin: str | None = None

    @property
    def key(self) -> str:
        return f"{self.exchange}/{self.symbol}"


@dataclass(slots=True)
class Payers:
    """The payers that are stored or were made on the spot, found by what a text calls them.
    reports_in: of one, the currency of the newest of its statements that are stored."""

    known: Sequence[Known]
    reports_in: Callable[[str], str | None] = lambda _: None
    _found: dict[str, Known | None] = field(default_factory=dict)
    _words: dict[str, list[Known]] = field(default_factory=dict)
    _names: list[tuple[str, Known]] = field(default_factory=list)

    def of(self, key: str | None) -> Known | None:
        return next((p for p in self.known if p.key == key), None)

    def twin(self, exchange: str, symbol: str, name: str) -> Known | None:
        """The payer that is likely meant where one of this symbol or name is held, but under
        another exchange or symbol."""
        if self.of(f"{exchange}/{symbol}"):
            return None
        folded = _plain_name(name[:LONGEST])
        for p in self.known:
            alike = fuzz.token_sort_ratio(_plain_name(p.name), folded)
            if alike >= LIKE_A_NAME or (p.symbol == symbol.upper() and alike >= LIKE_A_TWIN):
                return p
        return None

    def told(self, symbol: str, exchange: str, name: str) -> Known | None:
        """Who is meant by a symbol, an exchange and a name, as far as they are told."""
        if symbol and exchange:
            return self.of(f"{exchange}/{symbol}")
        who = self.named(symbol) if symbol else None
        return who or (self.named(name) if name else None)

    def joined(self, new: Mapping[str, Known]) -> Payers:
        """These and new ones, by the texts that name them."""
        if not new:
            return self
        known = {p.key: p for p in (*self.known, *new.values())}
        return Payers([*known.values()], self.reports_in, dict(new))

    def named(self, text: str) -> Known | None:
        """The one payer that a text names: by exchange and symbol, by its symbol or ISIN, or by
        its name."""
        if text not in self._found:
            self._found[text] = self._named_in(text)
        return self._found[text]

    def _named_in(self, text: str) -> Known | None:
        text = text[:LONGEST]
        if not self._words:
            for p in self.known:
                for word in {p.key, p.symbol, p.isin or p.key}:
                    self._words.setdefault(word, []).append(p)
                self._names.append((_plain_name(p.name), p))
        words = dict.fromkeys(re.split(r"[^\w/.&]+|_", text))
        exact = {
            p.key: p
            for word in words
            for p in self._words.get(word, ())
            if word == p.key or word == word.upper()
        }
        if len(exact) == 1:
            return next(iter(exact.values()))
        folded = plain(text.replace("_", " "))
        if len(folded) < 4:
            return None
        most = len(folded) + 2
        close = [
            p
            for name, p in self._names
            if len(name) <= most
            and fuzz.partial_ratio(name, folded, score_cutoff=LIKE_A_NAME) >= LIKE_A_NAME
        ]
        return close[0] if len(close) == 1 else None


@cache
def _plain_name(name: str) -> str:
    return plain(name)
