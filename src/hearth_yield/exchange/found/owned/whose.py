"""Whose the rows of a list are: payers that are stored, and others by what they are called."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field

from rapidfuzz import fuzz

from hearth_yield.core.facts.isin import is_isin
from hearth_yield.core.household.entries import PayerKey

from ..headings import plain
from ..payers import LIKE_A_TWIN, Known, Payers
from ..strangers import COLUMNS
from ..table import Found, text_of
from .words import without_kinds, without_numbers

LONGEST = 60
_FILLING = re.compile(
    r"[@#*;,:()\[\]=|]|(?<!\w)[-+–−/&](?!\w)|(?<!\w)[-+−]?[\d.,'%]+(?!\w)"
    r"|\b(?:x|on|at|of|from|for|to|the|your|shares?|units?|ord|ordinary|per|share|a|an|and|gross|net"
    r"|order|trade|no|nr|ref|wertpapier|security|aktien?|von|für|stk|stück|je|aktien?|cash|payment|paid|less|ex|isin|less)\b",
    re.IGNORECASE,
)
_CODE = re.compile(r"\b[A-Z]{2}[A-Z0-9]{9}\d\b")


@dataclass(frozen=True, slots=True, kw_only=True)
class Whose:
    """A payer as entries name it. exchange: empty for one that is not stored. currency: of one
    that is."""

    exchange: str
    symbol: str
    currency: str = ""

    @property
    def key(self) -> PayerKey:
        return (self.exchange, self.symbol)


def _stored(known: Known) -> Whose:
    return Whose(exchange=known.exchange, symbol=known.symbol, currency=known.currency)


@dataclass(slots=True)
class Names:
    """Who is meant by the texts of a file. liked: names that are no payer's own, and whose they are
    taken for. doubtful: symbols of payers that the file calls something else altogether; another:
    the person said that they are someone else's."""

    payers: Payers
    another: bool = False
    liked: dict[str, Known] = field(default_factory=dict)
    doubtful: dict[str, tuple[str, Known]] = field(default_factory=dict)
    _words: dict[str, list[Known]] = field(default_factory=dict)
    _of_notes: dict[str, Whose | None] = field(default_factory=dict)
    _rests: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for p in self.payers.known:
            for word in {p.key, p.symbol.upper(), p.isin or p.key}:
                self._words.setdefault(word, []).append(p)

    def told(self, texts: Mapping[str, str]) -> Whose | None:
        """By what stands in columns of a symbol, an exchange, a name and an ISIN."""
        symbol, exchange = texts.get("symbol", ""), texts.get("exchange", "")
        name, isin = texts.get("name", ""), texts.get("isin", "").upper()
        if is_isin(symbol.upper()):
            symbol, isin = "", isin or symbol.upper()
        if not (symbol or name or isin):
            return None
        for word in (isin, *_written(symbol, exchange)):
            there = self._words.get(word, []) if word else []
            if len(there) == 1:
                another = word != isin and self._is_another(there[0], symbol, name)
                return self._other(name) if another else _stored(there[0])
            if len(there) > 1:
                return Whose(exchange="", symbol=there[0].symbol)
        by_name = self._by_name(name) if name or not symbol else None
        return by_name or self._other(symbol or isin or name)

    def _is_another(self, known: Known, symbol: str, name: str) -> bool:
        """Whether a symbol is someone else's, as the person said of one that the file calls
        otherwise."""
        if not name or known.symbol == name.upper():
            return False
        if fuzz.partial_token_set_ratio(plain(known.name), plain(name)) >= LIKE_A_TWIN:
            return False
        self.doubtful[symbol] = (name, known)
        return self.another

    def _by_name(self, name: str) -> Whose | None:
        known = self.payers.named(name) if name else None
        if known is None:
            return None
        if plain(known.name) != plain(name) and known.symbol != name:
            self.liked[name] = known
        return _stored(known)

    def _other(self, text: str) -> Whose:
        called = " ".join(text.split())[:LONGEST]
        return Whose(exchange="", symbol=called)

    def in_note(self, note: str) -> Whose | None:
        """Whom a text names beside other words: a payer that is stored, else what is left of it."""
        if note not in self._of_notes:
            self._of_notes[note] = self._in_note(note)
        return self._of_notes[note]

    def _in_note(self, note: str) -> Whose | None:
        codes = [c for c in _CODE.findall(note) if is_isin(c)]
        words = [*codes, *re.findall(r"[A-Z0-9][A-Z0-9.&/-]*", note)]
        exact = {
            p.key: p for w in words if not w.isdigit() for p in self._words.get(w.strip(".-/"), ())
        }
        if len(exact) == 1:
            return _stored(next(iter(exact.values())))
        left = without_numbers(_CODE.sub(" ", note))
        if left not in self._rests:
            self._rests[left] = " ".join(_FILLING.sub(" ", without_kinds(left)).split())
        left = self._rests[left]
        known = self._by_name(left) if len(left) > 3 else None
        if known is not None:
            return known
        if codes or len(left) > 1:
            return self._other(left if len(left) > 1 else codes[0])
        return None


def _written(symbol: str, exchange: str) -> Iterable[str]:
    """A symbol as it is written, and without a market before or behind it."""
    told = symbol.upper()
    if exchange:
        yield f"{exchange.upper()}/{told}"
    yield told
    for part in (told.rsplit(":", 1)[-1], told.split(".", 1)[0], told.split(" ", 1)[0]):
        if part and part != told:
            yield part.strip()


def payers_among(found: Found, names: Names) -> list[Whose]:
    """The payers that the columns of a list name, each once; none where no column names one."""
    columns = [c for c in COLUMNS if c in found.columns_of]
    cells = [found.sheet.column(found.columns_of[c], found.rows) for c in columns]
    keys = dict.fromkeys(zip(*cells, strict=True))
    told = (names.told(dict(zip(columns, map(text_of, key), strict=True))) for key in keys)
    return list({w.key: w for w in told if w is not None}.values())


def payer_of_rows(found: Found, names: Names, only: Whose | None) -> Callable[[int], Whose | None]:
    """The payer of each row of a list, by its place from the first; None where no column names
    one."""
    columns = [c for c in COLUMNS if c in found.columns_of]
    cells = [found.sheet.column(found.columns_of[c], found.rows) for c in columns]
    known: dict[tuple[object, ...], Whose | None] = {}

    def whose(at: int) -> Whose | None:
        key = tuple(c[at] for c in cells)
        if key not in known:
            known[key] = names.told(dict(zip(columns, map(text_of, key), strict=True)))
        return known[key]

    return whose if columns else lambda _: only
