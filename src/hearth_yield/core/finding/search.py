"""Finding payers by rule: conditions on measures, combined by all and any, over a universe.

A universe is every payer's measures on one day as columns. Conditions are elementwise over it; an
unknown value meets no condition but the one that asks for it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal

import numpy as np
import numpy.typing as npt

from ..errors import InvalidInput
from ..facts.robust import quantile
from ..figures.arrays import Floats
from ..figures.figure import Unit
from ..figures.ties import all_at_least, all_at_most
from ..household.measures import HOUSEHOLD, NOT_HELD, Held, Part
from ..judging.judge import WORST_FIRST, State
from ..names import NUMBERS
from .catalogue import CHOICES, HELD
from .measured import Cell, Measured, cell_of_figure

Mask = npt.NDArray[np.bool_]
Codes = npt.NDArray[np.int64]
QUARTILES = (0.25, 0.5, 0.75)


@dataclass(frozen=True, slots=True, kw_only=True)
class Condition:
    """A measure at least or at most a number, a choice that is or is not one of some words, or
    either known or unknown."""

    id: str
    op: Literal["at_least", "at_most", "is", "is_not", "known", "unknown"]
    value: float | None = None
    words: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Group:
    """All of its parts, or any of them. Without parts everything fits."""

    join: Literal["all", "any"]
    parts: tuple[Condition | Group, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Candidate:
    """One payer of the universe. measured: None while its measures are still to be made; stale:
    made from older facts or rules; delisted: by the day."""

    exchange: str
    symbol: str
    name: str
    measured: Measured | None
    stale: bool = False
    delisted: bool = False
    isin: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Owned:
    """What the household has of a payer. cells: by measure of the household."""

    word: Held
    cells: Mapping[str, Cell]

    def cell(self, id: str) -> Cell:
        return self.cells.get(id, _NOT_HELD)

    @classmethod
    def of(cls, part: Part) -> Owned:
        figures = {m.id: m.read(part) for m in HOUSEHOLD.values()}
        cells = {id: cell_of_figure(f) for id, f in figures.items() if f is not None}
        return cls(word="held", cells=cells)


_NOT_HELD = Cell(value=None, reason=NOT_HELD)
NOTHING, ENDED = Owned(word="not held", cells={}), Owned(word="held before", cells={})


@dataclass(frozen=True, slots=True, kw_only=True)
class Summary:
    """One group of payers on one measure. n: payers whose value is known and has a size."""

    n: int
    lower: float | None
    median: float | None
    upper: float | None


@dataclass(frozen=True, kw_only=True)
class Universe:
    """Every payer listed on a day, by name. owned: what the household has or had of those it
    ever held."""

    candidates: Sequence[Candidate]
    owned: Mapping[tuple[str, str], Owned] = field(default_factory=dict)

    def owned_of(self, entry: Candidate) -> Owned:
        return self.owned.get((entry.exchange, entry.symbol), NOTHING)

    def __len__(self) -> int:
        return len(self.candidates)

    @cached_property
    def _values(self) -> dict[str, Floats]:
        return {}

    @cached_property
    def _words(self) -> dict[str, tuple[Codes, tuple[str, ...]]]:
        return {}

    @cached_property
    def texts(self) -> list[str]:
        """What a search by words looks through, of every payer."""
        return [_text_of(e) for e in self.candidates]

    @cached_property
    def pending(self) -> Mask:
        """Payers without measures, or with stale ones."""
        return np.array([e.measured is None or e.stale for e in self.candidates], dtype=bool)

    @cached_property
    def listed(self) -> Mask:
        """Payers that are not delisted."""
        return np.array([not e.delisted for e in self.candidates], dtype=bool)

    def values(self, id: str) -> Floats:
        """A measure as a column: nan where unknown; a breach without size beyond all numbers,
        what is spared beyond them the other way."""
        if id not in self._values:
            beyond = {"above": np.inf, "below": -np.inf, None: np.nan}[NUMBERS[id].breach]
            held = [self.cell(e, id) for e in self.candidates]
            self._values[id] = np.array([_number(c, beyond) for c in held], dtype=np.float64)
        return self._values[id]

    def cell(self, entry: Candidate, id: str) -> Cell | None:
        """What a measure says of a payer; None while its measures are still to be made."""
        if id in HOUSEHOLD:
            return self.owned_of(entry).cell(id)
        return entry.measured.cell(id) if entry.measured else None

    def words(self, id: str) -> tuple[Codes, tuple[str, ...]]:
        """A choice as a column of places in its words, which are sorted; −1 where unknown."""
        if id not in self._words:
            held = [self.word(e, id) for e in self.candidates]
            names = tuple(sorted({w for w in held if w is not None}))
            places = {w: i for i, w in enumerate(names)}
            codes = np.array([-1 if w is None else places[w] for w in held], dtype=np.int64)
            self._words[id] = (codes, names)
        return self._words[id]

    def word(self, entry: Candidate, id: str) -> str | None:
        if id == HELD:
            return self.owned_of(entry).word
        return entry.measured.words[id] if entry.measured else None


def _number(cell: Cell | None, beyond: float) -> float:
    if cell is None:
        return np.nan
    if cell.value is None:
        return beyond if cell.breach else -beyond if cell.spared else np.nan
    return cell.value


def _text_of(entry: Candidate) -> str:
    words = entry.measured.words if entry.measured else {}
    found = (
        entry.name,
        entry.symbol,
        entry.isin,
        words.get("kind"),
        words.get("sector"),
        words.get("industry"),
    )
    return " ".join(w for w in found if w).replace("_", " ").casefold()


def with_words(universe: Universe, typed: str) -> Mask:
    """Payers whose name, symbol, ISIN, kind, sector or industry holds every word."""
    wanted = typed.casefold().split()
    if not wanted:
        return np.ones(len(universe), dtype=bool)
    return np.array([all(w in text for w in wanted) for text in universe.texts], dtype=bool)


def matches(universe: Universe, part: Condition | Group) -> Mask:
    """Which payers fit. Raises InvalidInput for a measure or choice that is not known."""
    if isinstance(part, Condition):
        return _meets(universe, part)
    if not part.parts:
        return np.ones(len(universe), dtype=bool)
    masks = np.array([matches(universe, p) for p in part.parts])
    return np.asarray(masks.all(axis=0) if part.join == "all" else masks.any(axis=0))


def conditions(part: Condition | Group) -> list[Condition]:
    """The conditions of a group in reading order."""
    if isinstance(part, Condition):
        return [part]
    return [c for p in part.parts for c in conditions(p)]


def _meets(universe: Universe, condition: Condition) -> Mask:
    if condition.id in NUMBERS:
        return _number_meets(universe.values(condition.id), condition)
    if condition.id in CHOICES:
        return _word_meets(*universe.words(condition.id), condition)
    raise InvalidInput(
        f"there is no measure “{condition.id}”",
        field="where",
        value=condition.id,
        rule=f"one of {', '.join((*NUMBERS, *CHOICES))}",
    )


def _number_meets(values: Floats, condition: Condition) -> Mask:
    match condition.op, condition.value:
        case "at_least", float() | int() as limit:
            return all_at_least(values, limit)
        case "at_most", float() | int() as limit:
            return all_at_most(values, limit)
        case "known", _:
            return np.asarray(~np.isnan(values))
        case "unknown", _:
            return np.isnan(values)
    raise InvalidInput(
        f"“{condition.id}” is a number",
        field="where",
        value=condition.op,
        rule="at_least or at_most with a value, known or unknown",
    )


def _word_meets(codes: Codes, names: tuple[str, ...], condition: Condition) -> Mask:
    there = codes >= 0
    asked = np.array([name in condition.words for name in (*names, None)], dtype=bool)
    match condition.op:
        case "is":
            return np.asarray(asked[codes])
        case "is_not":
            return np.asarray(~asked[codes] & there)
        case "known":
            return np.asarray(there)
        case "unknown":
            return np.asarray(~there)
    raise InvalidInput(
        f"“{condition.id}” is a word",
        field="where",
        value=condition.op,
        rule="is or is_not with words, known or unknown",
    )


def ordered(universe: Universe, mask: Mask, sort: str, descending: bool) -> npt.NDArray[np.int64]:
    """Places of the payers that fit, ordered by a measure, a choice or the name; unknown last
    whichever way, ties by name. Amounts are ordered within their currency, the commonest first:
    between two of them bare numbers say nothing. Raises InvalidInput."""
    places = np.flatnonzero(mask)
    if sort == "name":
        return places[::-1] if descending else places
    keys = _sort_keys(universe, sort)[places]
    known = ~np.isnan(keys)
    ranks = keys[known]
    order = np.argsort(-ranks if descending else ranks, kind="stable")
    if sort in NUMBERS and NUMBERS[sort].unit in (Unit.MONEY, Unit.PER_SHARE):
        order = order[np.argsort(_currency_ranks(universe, places[known])[order], kind="stable")]
    return np.concatenate([places[known][order], places[~known]])


def _currency_ranks(universe: Universe, places: npt.NDArray[np.int64]) -> Codes:
    """0 for payers of the commonest currency among these, 1 for those of the next, and so on."""
    codes = universe.words("currency")[0][places]
    kinds, counts = np.unique(codes, return_counts=True)
    rank = {int(kinds[i]): n for n, i in enumerate(np.argsort(-counts, kind="stable"))}
    return np.array([rank[int(c)] for c in codes], dtype=np.int64)


def _sort_keys(universe: Universe, sort: str) -> Floats:
    if sort in NUMBERS:
        return universe.values(sort)
    if sort == "state":
        codes, names = universe.words("state")
        ranks = np.array([*(float(WORST_FIRST.index(State(n))) for n in names), np.nan])
        room = np.clip(np.nan_to_num(universe.values("cushion"), nan=0.0), -1e5, 1e5)
        return np.asarray(ranks[codes] * 1e6 + room)
    if sort in CHOICES:
        codes, _ = universe.words(sort)
        return np.where(codes >= 0, codes.astype(np.float64), np.nan)
    raise InvalidInput(
        "no such column",
        field="sort",
        value=sort,
        rule=f"name or one of {', '.join((*NUMBERS, *CHOICES))}",
    )


def summarise(values: Floats) -> Summary:
    """Median and quartiles (linear between neighbours) of the values that are known and sized."""
    sized = np.sort(values[np.isfinite(values)])
    if not len(sized):
        return Summary(n=0, lower=None, median=None, upper=None)
    lower, median, upper = (quantile(sized, q) for q in QUARTILES)
    return Summary(n=len(sized), lower=lower, median=median, upper=upper)


@dataclass(frozen=True, slots=True, kw_only=True)
class SummedGroup:
    """Payers that share a word (None: those without one), how many, and each measure summed up."""

    word: str | None
    payers: int
    summaries: Mapping[str, Summary]


def groups(universe: Universe, mask: Mask, by: str, measures: Sequence[str]) -> list[SummedGroup]:
    """The payers that fit, by the words of a choice: how many, and each measure summed up.

    Raises: InvalidInput for a choice or measure that is not known.
    """
    if by not in CHOICES:
        raise InvalidInput(
            "no such grouping", field="by", value=by, rule=f"one of {', '.join(CHOICES)}"
        )
    _known_measures(measures)
    codes, names = universe.words(by)
    found: list[SummedGroup] = []
    for place, name in (*enumerate(names), (-1, None)):
        inside = mask & (codes == place)
        if inside.any():
            parts = {m: summarise(universe.values(m)[inside]) for m in measures}
            found.append(SummedGroup(word=name, payers=int(inside.sum()), summaries=parts))
    return found


def _known_measures(measures: Sequence[str]) -> None:
    for m in measures:
        if m not in NUMBERS:
            raise InvalidInput(
                f"there is no measure “{m}”", field="columns", value=m, rule=", ".join(NUMBERS)
            )
