"""What every measure says of one payer on one day, read off its review."""

from __future__ import annotations

from array import array
from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass
from hashlib import sha256

from ..facts.records import Payer, PayerNote
from ..figures.figure import Figure, Touch
from ..judging.house_rules import OF_THE_HOUSEHOLD, HouseRules
from ..judging.judge import Test
from ..kinds import Kind
from ..review import Review
from ..stages import MEASURES
from .catalogue import CHOICES

DIVIDEND_YEARS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """A measure's answer: a value, or the reason there is none and the breach, if it is one, or
    that nothing can cross it.
    touch: it rests on a fact that a person entered or edited. cautions: as of a figure."""

    value: float | None
    reason: str | None = None
    breach: str | None = None
    spared: str | None = None
    touch: Touch | None = None
    cautions: tuple[str, ...] = ()


class Cells(Mapping[str, Cell]):
    """Answers of one payer by measure: numbers in the order of `places`, nan where there is none,
    and beside them why, and which a person had a hand in. Thousands of payers are held at once, and
    share their places."""

    __slots__ = ("_cautions", "_numbers", "_places", "_touched", "_why")

    def __init__(
        self,
        places: Mapping[str, int],
        numbers: array[float],
        why: Mapping[str, tuple[str | None, str | None, str | None]],
        touched: Mapping[str, Touch],
        cautions: Mapping[str, tuple[str, ...]],
    ) -> None:
        self._places, self._numbers, self._why = places, numbers, why
        self._touched, self._cautions = touched, cautions

    def __getitem__(self, id: str) -> Cell:
        value, touch = self._numbers[self._places[id]], self._touched.get(id)
        if value == value:
            return Cell(value=value, touch=touch, cautions=self._cautions.get(id, ()))
        reason, breach, spared = self._why[id]
        return Cell(value=None, reason=reason, breach=breach, spared=spared, touch=touch)

    def __iter__(self) -> Iterator[str]:
        return iter(self._places)

    def __len__(self) -> int:
        return len(self._places)


@dataclass(frozen=True, slots=True, kw_only=True)
class FirstToGive:
    """As much of a test as a row of the table shows."""

    id: str
    short: str
    state: str
    direction: str
    falls: str | None
    cushion: Cell


@dataclass(frozen=True, slots=True, kw_only=True)
class Measured:
    """All measures of one payer on one day.

    cells: by measure id. words: by choice id; word_touches: those a person entered. dividends:
    regular, per share, of the complete years up to last_year, at most twelve, the oldest first;
    None where a year's is unknown.
    """

    cells: Mapping[str, Cell]
    words: Mapping[str, str | None]
    word_touches: Mapping[str, Touch]
    first: FirstToGive | None
    dividends: tuple[float | None, ...]
    last_year: int | None

    def cell(self, id: str) -> Cell:
        """A measure's answer; one that was declared since is unknown until it is made."""
        return self.cells.get(id, NOT_MADE)


NOT_MADE = Cell(value=None, reason="not made yet")


def measure(review: Review) -> Measured:
    """Reads every measure off a review."""
    complete = [y for y in review.record.years if y.complete][-DIVIDEND_YEARS:]
    return Measured(
        cells={id: cell_of(review.figure(id), review.payer.kind) for id in MEASURES},
        words=_words(review),
        word_touches={n: x.touch for n, x in _noted(review).items() if x and x.touch},
        first=_first(review.first_to_give),
        dividends=tuple(y.total.value for y in complete),
        last_year=complete[-1].year if complete else None,
    )


def unmeasured(payer: Payer, why: str) -> Measured:
    """Of a payer that cannot be computed: no measure is known, for this reason."""
    known = {
        "kind": payer.kind.value,
        "country": payer.country,
        "currency": payer.currency,
        "exchange": payer.exchange,
    }
    return Measured(
        cells={m: Cell(value=None, reason=why) for m in MEASURES},
        words={c: known.get(c) for c in CHOICES},
        word_touches={},
        first=None,
        dividends=(),
        last_year=None,
    )


def cell_of(figure: Figure | None, kind: Kind) -> Cell:
    if figure is None:
        return Cell(value=None, reason=f"not used for a {kind.words}")
    return cell_of_figure(figure)


def cell_of_figure(figure: Figure) -> Cell:
    return Cell(
        value=figure.value,
        reason=figure.reason,
        breach=figure.breach,
        spared=figure.spared,
        touch=figure.touch,
        cautions=figure.cautions if figure.value is not None else (),
    )


def _first(test: Test | None) -> FirstToGive | None:
    if test is None:
        return None
    return FirstToGive(
        id=test.id,
        short=test.short,
        state=test.state.value,
        direction=test.direction.value,
        falls=test.falls,
        cushion=cell_of_figure(test.cushion),
    )


def _noted(review: Review) -> dict[str, PayerNote | None]:
    """Choices that are notes on the payer."""
    return {
        "sector": review.sector,
        "industry": review.industry,
        "credit_rating": review.credit_rating,
    }


def _words(review: Review) -> dict[str, str | None]:
    payer, years = review.payer, review.record.years
    complete = [y for y in years if y.complete]
    running = years[-1] if years and not years[-1].complete else None
    return {
        "state": review.state.value if review.state else None,
        "kind": payer.kind.value,
        "country": payer.country,
        "currency": payer.currency,
        "exchange": payer.exchange,
        "first_to_give": review.first_to_give.short if review.first_to_give else None,
        "last_year": complete[-1].outcome.value if complete else None,
        "this_year": running.outcome.value if running else None,
        **{name: note.value if note else None for name, note in _noted(review).items()},
    }


def made_with(rules: HouseRules, method: str) -> str:
    """A fingerprint of what measures are made with: rules and method. What was kept under another
    one is made again before it is shown."""
    held = {name: x for name, x in asdict(rules).items() if name not in OF_THE_HOUSEHOLD}
    return sha256(f"{method}\n{held}".encode()).hexdigest()[:16]
