"""The measures a table of payers is searched, sorted and summed up by.

A measure names a figure of the review by its path; nothing is computed here. What a measure says
for one payer on one day is kept as `Measured`, which `to_text` and `from_text` write and read.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from hashlib import sha256
from sys import intern
from typing import Literal

from .cover import BASES, Basis
from .facts import Kind, PayerNote
from .figure import Figure, Touch, Unit
from .review import Review, figure_at
from .rules import HouseRules, Stage, Test

DIVIDEND_YEARS = 12
LEAD = "{lead}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A number of every review.

    stage: None for what belongs to the payer itself. path: where in the review it stands; {lead}
    is the leading basis of the payer's kind. words: how a condition on it reads, {} standing for
    "at least 10 %"; of [above|below] the first word is read for values from 0, the second for
    those under it. breach: how a breach without size compares with every number.
    """

    id: str
    name: str
    stage: Stage | None
    unit: Unit
    path: str
    words: str
    breach: Literal["above", "below"] | None = None
    signed: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A word of every review: its kind, its state and the like."""

    id: str
    name: str
    stage: Stage | None


def _measure(
    id: str,
    name: str,
    stage: Stage | None,
    unit: Unit,
    path: str,
    words: str | None = None,
    breach: Literal["above", "below"] | None = None,
    signed: bool = False,
) -> Measure:
    said = words or name[0].lower() + name[1:]
    said = said if "{}" in said else f"{said} {{}}"
    return Measure(
        id=id, name=name, stage=stage, unit=unit, path=path, words=said, breach=breach,
        signed=signed or "|" in said,
    )  # fmt: skip


_FRACTION, _YIELD, _PER_SHARE, _YEARS = Unit.FRACTION, Unit.YIELD, Unit.PER_SHARE, Unit.YEARS
_LEAD_BASIS = f"cover.bases.{LEAD}"


def _payout(id: str, name: str, path: str) -> Measure:
    return _measure(id, name, Stage.COVER, _FRACTION, path, breach="above")


def _growths() -> list[Measure]:
    found = []
    for n in (1, 3, 5, 10, 20):
        span = f"{n} year{'s' if n > 1 else ''}"
        found.append(
            _measure(f"growth_{n}", f"Dividend growth, {span}", Stage.RECORD, _FRACTION,
                     f"record.growth.{n}", f"dividend growth over {span}", signed=True)
        )  # fmt: skip
    for n in (5, 10, 20):
        found.append(
            _measure(f"real_growth_{n}", f"Real dividend growth, {n} years", Stage.RECORD,
                     _FRACTION, f"inflation.real_growth.{n}", f"real growth over {n} years",
                     signed=True)
        )  # fmt: skip
    return found


def _basis_measures() -> list[Measure]:
    named = {
        Basis.EARNINGS: "Earnings", Basis.FREE_CASH_FLOW: "FCF",
        Basis.OPERATING_CASH_FLOW: "Operating cash",
    }  # fmt: skip
    found = []
    for basis, name in named.items():
        path = f"cover.bases.{basis.value}"
        found += [
            _payout(f"{basis.value}_payout", f"{name} payout", f"{path}.latest.payout"),
            _payout(f"{basis.value}_cycle", f"{name} payout, cycle", f"{path}.through_cycle"),
        ]
    return found


MEASURES: dict[str, Measure] = {
    m.id: m
    for m in (
        _measure("price", "Price", None, _PER_SHARE, "price"),
        _measure("declared_rate", "Declared rate", Stage.RECORD, _PER_SHARE,
                 "record.declared_rate"),
        _measure("trailing_rate", "Trailing rate", Stage.RECORD, _PER_SHARE,
                 "record.trailing_rate"),
        _measure("trailing_gap", "Trailing vs declared", Stage.RECORD, _FRACTION,
                 "record.trailing_gap", "trailing rate [above|below] the declared by {}"),
        _measure("rhythm", "Payments a year", Stage.RECORD, Unit.COUNT, "record.rhythm",
                 "pays {} times a year"),
        _measure("raises", "Raises", Stage.RECORD, _YEARS, "record.raises_in_a_row",
                 "raised {} running"),
        _measure("no_reduction", "No reduction", Stage.RECORD, _YEARS,
                 "record.years_without_reduction",
                 "no reduction for {}"),
        _measure("latest_raise", "Latest raise", Stage.RECORD, _FRACTION, "record.latest_raise"),
        *_growths(),
        _measure("years_ahead", "Years ahead of prices, of ten", Stage.RECORD, Unit.COUNT,
                 "inflation.years_ahead",
                 "raises beat prices in {} of ten years"),
        _payout("payout", "Payout, leading basis", f"{_LEAD_BASIS}.latest.payout"),
        _payout("payout_cycle", "Payout, cycle", f"{_LEAD_BASIS}.through_cycle"),
        _payout("payout_trailing", "Payout, 12 months", f"{_LEAD_BASIS}.trailing.payout"),
        _payout("payout_worst", "Payout, worst of ten", f"{_LEAD_BASIS}.worst_of_ten"),
        *_basis_measures(),
        _measure("per_share_trend", "Cash per share, trend", Stage.COVER, _FRACTION,
                 f"{_LEAD_BASIS}.per_share_trend", "trend of cash per share", signed=True),
        _measure("left", "Left after the dividend", Stage.COVER, Unit.MONEY,
                 f"{_LEAD_BASIS}.latest.left"),
        _measure("net_income", "Net income", Stage.COVER, Unit.MONEY, "cover.net_income"),
        _measure("yield", "Yield", Stage.RANGE, _YIELD, "worth_range.now"),
        _measure("mean_yield", "5-year mean yield", Stage.RANGE, _YIELD, "worth_range.mean"),
        _measure("deviation", "Yield vs its 5-year mean", Stage.RANGE, _FRACTION,
                 "worth_range.deviation",
                 "yield [above|below] its 5-year average by {}"),
        _measure("percentile", "Yield percentile", Stage.RANGE, _FRACTION,
                 "worth_range.percentile", "percentile of the yield in its 5 years"),
        _measure("share_of_weeks", "Weeks as high", Stage.RANGE, _FRACTION,
                 "worth_range.share_of_weeks", "share of weeks with as high a yield"),
        _measure("fair_price", "Price at the mean yield", Stage.RANGE, _PER_SHARE,
                 "worth_range.fair_price"),
        _measure("premium", "Price vs price at the mean yield", Stage.RANGE, _FRACTION,
                 "worth_range.premium",
                 "price [above|below] that of its mean yield by {}"),
        _measure("blend", "Worth, blend", Stage.WORTH, _PER_SHARE, "worth.blend"),
        _measure("buy_below", "Buy-below price", Stage.WORTH, _PER_SHARE, "worth.buy_below"),
        _measure("price_against_buy_below", "Price vs buy-below", Stage.WORTH, _FRACTION,
                 "worth.price_against_buy_below", "price [over|under] your buy-below by {}"),
        _measure("price_against_blend", "Price vs worth", Stage.WORTH, _FRACTION,
                 "worth.price_against_blend", "price [over|under] its worth by {}"),
        _measure("implied_growth", "Implied growth", Stage.WORTH, _FRACTION,
                 "worth.implied_growth", "growth that the price implies"),
        _measure("growth_used", "Growth used", Stage.WORTH, _FRACTION, "worth.growth"),
        _measure("spread", "Models apart", Stage.WORTH, _FRACTION, "worth.spread",
                 "spread between the models"),
        _measure("cushion", "Cushion of the first to give", None, _FRACTION, "", "smallest cushion",
                 breach="below"),
    )
}  # fmt: skip

CHOICES: dict[str, Choice] = {
    c.id: c
    for c in (
        Choice(id="state", name="State", stage=None),
        Choice(id="kind", name="Kind", stage=None),
        Choice(id="sector", name="Sector", stage=None),
        Choice(id="industry", name="Industry", stage=None),
        Choice(id="country", name="Country", stage=None),
        Choice(id="currency", name="Currency", stage=None),
        Choice(id="exchange", name="Exchange", stage=None),
        Choice(id="credit_rating", name="Credit rating", stage=None),
        Choice(id="first_to_give", name="First to give", stage=None),
        Choice(id="last_year", name="Dividend, last complete year", stage=Stage.RECORD),
        Choice(id="this_year", name="Dividend, this year", stage=Stage.RECORD),
    )
}


def path_of(measure: Measure, kind: Kind) -> str:
    """Where a review of this kind holds the measure's figure."""
    return measure.path.replace(LEAD, BASES[kind][0].value)


@dataclass(frozen=True, slots=True, kw_only=True)
class Cell:
    """A measure's answer: a value, or the reason there is none and the breach, if it is one.
    touch: it rests on a fact that a person entered or adjusted."""

    value: float | None
    reason: str | None = None
    breach: str | None = None
    touch: Touch | None = None


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
    regular, per share, of the complete years up to last_year, at most twelve, the oldest first.
    """

    cells: Mapping[str, Cell]
    words: Mapping[str, str | None]
    word_touches: Mapping[str, Touch]
    first: FirstToGive | None
    dividends: tuple[float, ...]
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
        dividends=tuple(y.total.value or 0.0 for y in complete),
        last_year=complete[-1].year if complete else None,
    )


def _cell(figure: Figure | None, kind: Kind) -> Cell:
    if figure is None:
        return Cell(value=None, reason=f"not used for a {kind.value.replace('_', ' ')}")
    return _of(figure)


def _of(figure: Figure) -> Cell:
    return Cell(value=figure.value, reason=figure.reason, breach=figure.breach, touch=figure.touch)


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
    cells = {
        m: Cell(value=value) if value is not None else _unknown(*why[str(i)])
        for i, (m, value) in enumerate(zip(MEASURES, held["values"], strict=True))
    }
    names = list(MEASURES)
    for i, touch in held["touched"].items():
        name = names[int(i)]
        cells[name] = replace(cells[name], touch=Touch(touch))
    if first:
        cushion = Cell(**first["cushion"])
        touch = Touch(cushion.touch) if cushion.touch else None
        first = FirstToGive(**{**first, "cushion": replace(cushion, touch=touch)})
    return Measured(
        cells=cells,
        words={c: intern(w) if w else None for c, w in zip(CHOICES, held["words"], strict=True)},
        word_touches={c: Touch(x) for c, x in held["touched_words"].items()},
        first=first,
        dividends=tuple(held["dividends"]),
        last_year=held["last_year"],
    )


def _unknown(reason: str | None, breach: str | None) -> Cell:
    return Cell(value=None, reason=intern(reason) if reason else None, breach=breach)
