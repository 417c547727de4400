"""Find payers by words and conditions, in order, as known on a day."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date

import numpy as np

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.finding.catalogue import CHOICES, HELD
from hearth_yield.core.finding.search import (
    ENDED,
    Candidate,
    Condition,
    Group,
    Mask,
    Owned,
    Summary,
    SummedGroup,
    Universe,
    conditions,
    groups,
    matches,
    ordered,
    summarise,
    with_words,
)
from hearth_yield.core.household.measures import HOUSEHOLD
from hearth_yield.core.kinds import Kind
from hearth_yield.core.names import NUMBERS

from .ensure_measures import standing, universe
from .read_holdings import read_holdings
from .review_cache import ReviewCache

EVERYTHING = Group(join="all")
MAX_CONDITIONS = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class Search:
    """words: each must be in the name, symbol, kind, sector or industry; where: conditions;
    delisted: whether payers that are delisted by the day count too."""

    words: str = ""
    where: Group = field(default_factory=lambda: EVERYTHING)
    sort: str = "name"
    descending: bool = False
    delisted: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Found:
    """What a search found: the payers asked for, and what is true of all that it found.

    universe: that was searched. counts: for each condition in reading order, how many payers meet
    it by itself. held: payers of the universe that are listed; delisted: those that are not.
    pending: payers of the universe whose measures are missing or stale. currency: that of most of
    them.
    """

    universe: Universe
    rows: Sequence[Candidate]
    found: int
    held: int
    delisted: int
    pending: int
    counts: Sequence[int]
    currency: str | None
    states: Mapping[str, int]
    summaries: Mapping[str, Summary]


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundGroup:
    """One group of the payers found, and the whole of that group."""

    found: SummedGroup
    whole: SummedGroup


def _mask(universe: Universe, search: Search) -> Mask:
    """Raises InvalidInput for too many conditions or one that asks for what is not known."""
    asked = conditions(search.where)
    if len(asked) > MAX_CONDITIONS:
        raise InvalidInput(
            "too many conditions", field="where", value=len(asked), rule=f"at most {MAX_CONDITIONS}"
        )
    there = universe.listed | search.delisted
    return there & with_words(universe, search.words) & matches(universe, search.where)


def owned_universe(cache: ReviewCache, as_of: date) -> Universe:
    """Every payer listed on a day, with what the household has of it."""
    at, kept = stands = standing(cache)
    here = universe(cache, as_of, stands)

    def make() -> Universe:
        found = read_holdings(cache, as_of, at)
        owned = {p.quote.payer: ENDED for p in found.ended} | {
            key: Owned.of(part) for key, part in found.parts.items()
        }
        return replace(here, owned=owned)

    return cache.universes.get(("owned", at, kept, as_of), make)


def _universe(
    cache: ReviewCache, as_of: date, search: Search, columns: Sequence[str] = ()
) -> Universe:
    """With what the household has where that is asked for: a search by other measures rests on no
    ledger."""
    asked = {search.sort, *columns, *(c.id for c in conditions(search.where))}
    whole = HELD in asked or not HOUSEHOLD.keys().isdisjoint(asked)
    return owned_universe(cache, as_of) if whole else universe(cache, as_of)


def check_search(search: Search) -> None:
    """Raises InvalidInput for a search that no universe could answer."""
    nobody = Universe(candidates=())
    ordered(nobody, _mask(nobody, search), search.sort, search.descending)


def find_payers(
    cache: ReviewCache, as_of: date, search: Search, columns: Sequence[str], first: int, count: int
) -> Found:
    """One window of the payers found. columns: measures, which are summed up over all found, and
    choices."""
    here = _universe(cache, as_of, search, columns)
    mask = _mask(here, search)
    places = ordered(here, mask, search.sort, search.descending)
    there = here.listed | search.delisted
    states = _tally(here, mask, "state")
    currencies = _tally(here, mask, "currency")
    return Found(
        universe=here,
        rows=[here.candidates[i] for i in places[first : first + count]],
        found=len(places),
        held=int(here.listed.sum()),
        delisted=int((~here.listed).sum()),
        pending=int(here.pending.sum()),
        counts=[int((there & matches(here, c)).sum()) for c in conditions(search.where)],
        currency=max(currencies, key=lambda c: currencies[c], default=None),
        states=states,
        summaries={m: summarise(here.values(m)[mask]) for m in columns if m in NUMBERS},
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class PayersStanding:
    """How all payers stand on a day. states: how many are in each; above: how many yield more than
    their usual; unjudged: those of a kind that is not judged; pending: those not yet measured."""

    held: int
    pending: int
    states: Mapping[str, int]
    unjudged: int
    above: int


ABOVE = Group(join="all", parts=(Condition(id="deviation", op="at_least", value=0.0),))
"""Who yields more than its own five-year mean."""


def payers_standing(cache: ReviewCache, as_of: date) -> PayersStanding:
    here = universe(cache, as_of)
    return PayersStanding(
        held=int(here.listed.sum()),
        pending=int(here.pending.sum()),
        states=_tally(here, here.listed, "state"),
        unjudged=_tally(here, here.listed, "kind").get(Kind.OTHER.value, 0),
        above=int((here.listed & matches(here, ABOVE)).sum()),
    )


def _tally(universe: Universe, mask: Mask, choice: str) -> dict[str, int]:
    """The words of a choice that masked payers take, with how many of them do."""
    codes, names = universe.words(choice)
    counts = np.bincount(codes[mask & (codes >= 0)], minlength=len(names))
    return {w: int(n) for w, n in zip(names, counts, strict=True) if n}


def found_keys(cache: ReviewCache, as_of: date, search: Search) -> list[tuple[str, str]]:
    """Exchange and symbol of every payer found, in order."""
    here = _universe(cache, as_of, search)
    places = ordered(here, _mask(here, search), search.sort, search.descending)
    return [(here.candidates[i].exchange, here.candidates[i].symbol) for i in places]


def found_groups(
    cache: ReviewCache, as_of: date, search: Search, by: str, measures: Sequence[str]
) -> Sequence[FoundGroup]:
    """The payers found, grouped by a choice, each measure summed up; and all payers of the same
    groups, whatever is searched for."""
    here = _universe(cache, as_of, search, [by, *measures])
    found = groups(here, _mask(here, search), by, measures)
    whole = {g.word: g for g in groups(here, here.listed, by, measures)}
    return [FoundGroup(found=g, whole=whole.get(g.word, g)) for g in found]


def words_in_use(cache: ReviewCache, as_of: date) -> Mapping[str, Mapping[str, int]]:
    """Of every choice the words it takes among the payers, with how many take each."""
    here = owned_universe(cache, as_of)
    return {choice: _tally(here, here.listed, choice) for choice in CHOICES}
