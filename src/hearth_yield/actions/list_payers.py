"""The payers at a glance, as known on a day."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.figure import Figure
from hearth_yield.core.review import Question, Review
from hearth_yield.core.rules import WORST_FIRST
from hearth_yield.store import payer_files
from hearth_yield.store.database import revision

from .desk import Desk

SortKey = tuple[bool, float | str]


@dataclass(frozen=True, slots=True)
class Listing:
    rows: Sequence[Review]
    held: int

    @property
    def median_yield(self) -> float | None:
        """Of the rows whose yield is known."""
        known = [r.worth_range.now.value for r in self.rows]
        values = [v for v in known if v is not None]
        return median(values) if values else None

    @property
    def above_mean(self) -> tuple[int, int]:
        """How many rows yield more than their own 5-year mean, of those whose mean is known."""
        known = [r.worth_range.deviation.value for r in self.rows]
        values = [v for v in known if v is not None]
        return sum(v > 0 for v in values), len(values)


def _number(figure: Figure | None) -> SortKey:
    missing = figure is None or figure.value is None
    return (missing, 0.0 if missing else figure.value)  # type: ignore[union-attr,return-value]


def leading_payout(review: Review) -> Figure:
    lead = review.cover.leading
    return lead.latest.payout if lead.latest else lead.through_cycle


def _state(review: Review) -> SortKey:
    """By state, worst first, then by the cushion of the first to give."""
    if review.state is None:
        return (True, 0.0)
    first = review.first_to_give
    room = first.cushion.value if first is not None else None
    crossed = -1e6 if first is not None and room is None else 0.0
    return (False, WORST_FIRST.index(review.state) * 1e9 + (room if room is not None else crossed))


SORTS: dict[str, Callable[[Review], SortKey]] = {
    "name": lambda r: (False, r.payer.name.casefold()),
    "kind": lambda r: (False, r.payer.kind.value),
    "yield": lambda r: _number(r.worth_range.now),
    "deviation": lambda r: _number(r.worth_range.deviation),
    "payout": lambda r: _number(leading_payout(r)),
    "state": _state,
    "raises": lambda r: _number(r.record.raises_in_a_row),
    "buy_below": lambda r: _number(r.worth.price_against_buy_below),
}
"""Columns a listing can be ordered by. Unknown always comes last, whichever way."""


def list_payers(desk: Desk, as_of: date, words: str, sort: str, descending: bool) -> Listing:
    """Payers listed by then whose name, symbol, kind or sector holds every word.

    Raises: InvalidInput for a column that cannot be sorted by.
    """
    if sort not in SORTS:
        raise InvalidInput(
            "no such column", field="sort", value=sort, rule=f"one of {', '.join(SORTS)}"
        )
    with desk.database.read() as connection:
        at = revision(connection)
        keys = payer_files.keys(connection)
    reviews = [desk.review(exchange, symbol, as_of, Question(), at) for exchange, symbol in keys]
    listed = [r for r in reviews if r.payer.listed_on is None or r.payer.listed_on <= as_of]
    wanted = words.casefold().split()
    found = [r for r in listed if all(w in _words_of(r) for w in wanted)]
    known = [r for r in found if not SORTS[sort](r)[0]]
    unknown = [r for r in found if SORTS[sort](r)[0]]
    known.sort(key=SORTS[sort], reverse=descending)
    return Listing(rows=[*known, *unknown], held=len(listed))


def _words_of(review: Review) -> str:
    payer = review.payer
    return " ".join(
        (payer.name, payer.symbol, payer.kind.value.replace("_", " "), review.sector or "")
    ).casefold()
