"""What every measure says of one payer on one day, read off its review and kept.

`to_text` and `from_text` write and read it; catalogue.py says what there is to measure.
"""

from __future__ import annotations

import json
import math
from array import array
from collections.abc import Iterator, Mapping
from dataclasses import asdict, dataclass, replace
from hashlib import sha256
from sys import intern

from .catalogue import CHOICES, MEASURES, path_of
from .facts import Kind, Payer, PayerNote
from .figure import Figure, Touch
from .review import Review, figure_at
from .rules import HouseRules, Test

DIVIDEND_YEARS = 12


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """A measure's answer: a value, or the reason there is none and the breach, if it is one.
    touch: it rests on a fact that a person entered or adjusted. cautions: as of a figure."""

    value: float | None
    reason: str | None = None
    breach: str | None = None
    touch: Touch | None = None
    cautions: tuple[str, ...] = ()


class Cells(Mapping[str, Cell]):
    """Kept answers of one payer: numbers in the order of MEASURES, nan where there is none, and
    beside them why, and which a person had a hand in. Thousands of payers are held at once."""

    __slots__ = ("_cautions", "_numbers", "_touched", "_why")

    def __init__(
        self,
        numbers: array[float],
        why: Mapping[int, tuple[str | None, str | None]],
        touched: Mapping[int, Touch],
        cautions: Mapping[int, tuple[str, ...]],
    ) -> None:
        self._numbers, self._why, self._touched = numbers, why, touched
        self._cautions = cautions

    def __getitem__(self, id: str) -> Cell:
        place = _PLACES[id]
        value, touch = self._numbers[place], self._touched.get(place)
        if value == value:
            return Cell(value=value, touch=touch, cautions=self._cautions.get(place, ()))
        reason, breach = self._why[place]
        return Cell(value=None, reason=reason, breach=breach, touch=touch)

    def __iter__(self) -> Iterator[str]:
        return iter(MEASURES)

    def __len__(self) -> int:
        return len(MEASURES)


_PLACES = {id: place for place, id in enumerate(MEASURES)}


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


def measure(review: Review) -> Measured:
    """Reads every measure off a review."""
    complete = [y for y in review.record.years if y.complete][-DIVIDEND_YEARS:]
    first = _first(review.first_to_give)
    cells = {
        m.id: _cell(figure_at(review, path_of(m, review.payer.kind)), review.payer.kind)
        for m in MEASURES.values()
        if m.path
    }
    cells["cushion"] = first.cushion if first else Cell(value=None, reason="no test has an answer")
    return Measured(
        cells=cells,
        words=_words(review),
        word_touches={n: x.touch for n, x in _noted(review).items() if x and x.touch},
        first=first,
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


def _cell(figure: Figure | None, kind: Kind) -> Cell:
    if figure is None:
        return Cell(value=None, reason=f"not used for a {kind.value.replace('_', ' ')}")
    return _of(figure)


def _of(figure: Figure) -> Cell:
    return Cell(
        value=figure.value,
        reason=figure.reason,
        breach=figure.breach,
        touch=figure.touch,
        cautions=figure.cautions,
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
        cushion=_of(test.cushion),
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
    """A fingerprint of what measures are made with: rules, their list, and the method itself.

    Measures kept under another fingerprint are stale.
    """
    ground = [method, str(asdict(rules)), str(list(MEASURES.values())), str(list(CHOICES))]
    return sha256("\n".join(ground).encode()).hexdigest()[:16]


def to_text(measured: Measured) -> str:
    """Values in the order of MEASURES; reasons by place. `from_text` reads it back."""
    cells = [measured.cells[m] for m in MEASURES]
    why = {i: [c.reason, c.breach] for i, c in enumerate(cells) if c.value is None}
    return json.dumps(
        {
            "values": [c.value for c in cells],
            "why": why,
            "touched": {i: c.touch for i, c in enumerate(cells) if c.touch},
            "cautions": {i: c.cautions for i, c in enumerate(cells) if c.cautions},
            "words": [measured.words[c] for c in CHOICES],
            "touched_words": measured.word_touches,
            "first": asdict(measured.first) if measured.first else None,
            "dividends": measured.dividends,
            "last_year": measured.last_year,
        },
        separators=(",", ":"),
        ensure_ascii=False,
        allow_nan=False,
    )


def from_text(text: str) -> Measured:
    """Texts repeat from payer to payer and are shared, as thousands are held at once."""
    held = json.loads(text)
    first, why = held["first"], held["why"]
    cells = Cells(
        array("d", (math.nan if v is None else v for v in held["values"])),
        {int(i): (_shared(reason), _shared(breach)) for i, (reason, breach) in why.items()},
        {int(i): Touch(touch) for i, touch in held["touched"].items()},
        {int(i): tuple(map(intern, said)) for i, said in held["cautions"].items()},
    )
    if first:
        cushion = Cell(**first["cushion"])
        touch = Touch(cushion.touch) if cushion.touch else None
        cushion = replace(cushion, touch=touch, cautions=tuple(cushion.cautions))
        first = FirstToGive(**{**first, "cushion": cushion})
    return Measured(
        cells=cells,
        words={c: intern(w) if w else None for c, w in zip(CHOICES, held["words"], strict=True)},
        word_touches={c: Touch(x) for c, x in held["touched_words"].items()},
        first=first,
        dividends=tuple(held["dividends"]),
        last_year=held["last_year"],
    )


def _shared(text: str | None) -> str | None:
    return intern(text) if text else None
