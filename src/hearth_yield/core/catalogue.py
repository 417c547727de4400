"""What payers are searched, sorted and summed up by: every measure of the review, and its words.

A measure names a figure of the review by its path; nothing is computed here.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from typing import Literal

from .cover import BASES, Basis
from .facts import Kind
from .figure import Unit
from .rules import Stage
from .statements import words

LEAD = "{lead}"


@dataclass(frozen=True, slots=True, kw_only=True)
class Measure:
    """A number of every review.

    stage: None for what belongs to the payer itself. path: where in the review it stands; {lead}
    is the leading basis of the payer's kind. words: how a condition on it reads, {} standing for
    "at least 10 %"; turned: how it reads for values under 0, where that is otherwise; under: what
    its minus means. breach: how a breach without size compares with every number. group: the basis
    it is taken on, where there are several.
    """

    id: str
    name: str
    stage: Stage | None
    unit: Unit
    path: str
    words: str
    turned: str | None = None
    under: str | None = None
    breach: Literal["above", "below"] | None = None
    signed: bool = False
    group: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """A word of every review: its kind, its state and the like."""

    id: str
    name: str
    stage: Stage | None


_SIDES = re.compile(r"\[(\w+)\|(\w+)\]")
"""In the words below: of [above|below] the first is read for values from 0."""


def _measure(
    id: str,
    name: str,
    stage: Stage | None,
    unit: Unit,
    path: str,
    words: str | None = None,
    breach: Literal["above", "below"] | None = None,
    signed: bool = False,
    group: str | None = None,
) -> Measure:
    said = words or name[0].lower() + name[1:]
    said = said if "{}" in said else f"{said} {{}}"
    sides = _SIDES.search(said)
    return Measure(
        id=id,
        name=name,
        stage=stage,
        unit=unit,
        path=path,
        breach=breach,
        words=_SIDES.sub(r"\1", said),
        turned=_SIDES.sub(r"\2", said) if sides else None,
        under=sides[2] if sides else None,
        signed=signed or sides is not None,
        group=group,
    )


_FRACTION, _YIELD, _PER_SHARE, _YEARS = Unit.FRACTION, Unit.YIELD, Unit.PER_SHARE, Unit.YEARS


def _growths() -> list[Measure]:
    found = []
    for n in (1, 3, 5, 10, 20):
        span = f"{n} year{'s' if n > 1 else ''}"
        found.append(
            _measure(
                f"growth_{n}",
                f"Dividend growth, {span}",
                Stage.RECORD,
                _FRACTION,
                f"record.growth.{n}",
                f"dividend growth over {span}",
                signed=True,
            )
        )
    for n in (1, 3, 5, 10, 20):
        found.append(
            _measure(
                f"real_growth_{n}",
                f"Real dividend growth, {n} year{'s' if n > 1 else ''}",
                Stage.RECORD,
                _FRACTION,
                f"inflation.real_growth.{n}",
                f"real growth over {n} year{'s' if n > 1 else ''}",
                signed=True,
            )
        )
    return found


BASIS_NAMES = {
    Basis.FREE_CASH_FLOW: "FCF",
    Basis.EARNINGS: "Earnings",
    Basis.OPERATING_CASH_FLOW: "Operating cash",
    Basis.AFFO: "AFFO",
    Basis.FFO: "FFO",
    Basis.DISTRIBUTABLE_CASH: "Distributable cash",
}


def _on_basis(id: str, name: str, basis: str, group: str) -> list[Measure]:
    """Every measure of Cover on one basis. id: what their ids begin with."""
    at = f"cover.bases.{basis}"
    stem = f"{id}_" if id else ""

    def one(end: str, words: str, unit: Unit, path: str, *, payout: bool = False) -> Measure:
        return _measure(
            f"{stem}{end}",
            f"{name}{words}",
            Stage.COVER,
            unit,
            f"{at}.{path}",
            breach="above" if payout else None,
            signed=not payout,
            group=group,
        )

    return [
        one("payout", " payout", _FRACTION, "declared", payout=True),
        one("paid", " payout, as paid", _FRACTION, "latest.payout", payout=True),
        one("cycle", " payout, cycle", _FRACTION, "through_cycle", payout=True),
        one("cycle_paid", " payout, cycle, as paid", _FRACTION, "through_cycle_paid", payout=True),
        one("trailing", " payout, 12 months", _FRACTION, "trailing.payout", payout=True),
        one("worst", " payout, worst of ten", _FRACTION, "worst_of_ten", payout=True),
        one("left", " left after the dividend", Unit.MONEY, "latest.left"),
        one(
            "left_after_buybacks",
            " left after buybacks too",
            Unit.MONEY,
            "latest.left_after_buybacks",
        ),
        one("per_share", " per share", _PER_SHARE, "latest.per_share"),
        one("trend", " per share, trend", _FRACTION, "per_share_trend"),
        one("overpaid", ", years overpaid", Unit.COUNT, "overpaid"),
    ]


def _leading() -> list[Measure]:
    """On the leading basis of whatever kind a payer is."""
    ids = {
        "lead_payout": "payout",
        "lead_paid": "payout_paid",
        "lead_cycle": "payout_cycle",
        "lead_cycle_paid": "payout_cycle_paid",
        "lead_trailing": "payout_trailing",
        "lead_worst": "payout_worst",
        "lead_left": "left",
        "lead_left_after_buybacks": "left_after_buybacks",
        "lead_per_share": "cash_per_share",
        "lead_trend": "per_share_trend",
        "lead_overpaid": "overpaid",
    }
    names = {
        "payout": "Payout, leading basis",
        "payout_paid": "Payout, as paid",
        "payout_cycle": "Payout, cycle",
        "payout_cycle_paid": "Payout, cycle, as paid",
        "payout_trailing": "Payout, 12 months",
        "payout_worst": "Payout, worst of ten",
        "left": "Left after the dividend",
        "left_after_buybacks": "Left after buybacks too",
        "cash_per_share": "Leading basis per share",
        "per_share_trend": "Cash per share, trend",
        "overpaid": "Years overpaid, of ten",
    }
    return [
        replace(
            m,
            id=ids[m.id],
            name=(name := names[ids[m.id]]),
            group=None,
            words=f"{name[0].lower()}{name[1:]} {{}}",
        )
        for m in _on_basis("lead", "", LEAD, "")
    ]


def _yields_of_five_years() -> list[Measure]:
    told = (
        ("mean_yield", "5-year mean yield", "mean"),
        ("median_yield", "5-year median yield", "median"),
        ("lower_quartile", "5-year lower quartile of the yield", "lower_quartile"),
        ("upper_quartile", "5-year upper quartile of the yield", "upper_quartile"),
        ("lowest_yield", "5-year lowest yield", "lowest"),
        ("highest_yield", "5-year highest yield", "highest"),
    )
    return [
        _measure(id, name, Stage.RANGE, _YIELD, f"worth_range.{path}") for id, name, path in told
    ]


MEASURES: dict[str, Measure] = {
    m.id: m
    for m in (
        _measure("price", "Price", None, _PER_SHARE, "price"),
        _measure(
            "declared_rate", "Declared rate", Stage.RECORD, _PER_SHARE, "record.declared_rate"
        ),
        _measure(
            "trailing_rate", "Trailing rate", Stage.RECORD, _PER_SHARE, "record.trailing_rate"
        ),
        _measure(
            "trailing_gap",
            "Trailing vs declared",
            Stage.RECORD,
            _FRACTION,
            "record.trailing_gap",
            "trailing rate [above|below] the declared by {}",
        ),
        _measure(
            "rhythm",
            "Payments a year",
            Stage.RECORD,
            Unit.COUNT,
            "record.rhythm",
            "pays {} times a year",
        ),
        _measure(
            "raises", "Raises", Stage.RECORD, _YEARS, "record.raises_in_a_row", "raised {} running"
        ),
        _measure(
            "no_reduction",
            "No reduction",
            Stage.RECORD,
            _YEARS,
            "record.years_without_reduction",
            "no reduction for {}",
        ),
        _measure("latest_raise", "Latest raise", Stage.RECORD, _FRACTION, "record.latest_raise"),
        *_growths(),
        _measure(
            "years_ahead",
            "Years ahead of prices, of ten",
            Stage.RECORD,
            Unit.COUNT,
            "inflation.years_ahead",
            "raises beat prices in {} of ten years",
        ),
        *_leading(),
        *(
            m
            for basis, name in BASIS_NAMES.items()
            for m in _on_basis(basis.value, name, basis.value, words(basis.value))
        ),
        _measure("net_income", "Net income", Stage.COVER, Unit.MONEY, "cover.net_income"),
        _measure("yield", "Yield", Stage.RANGE, _YIELD, "worth_range.now"),
        *_yields_of_five_years(),
        _measure(
            "deviation",
            "Yield vs its 5-year mean",
            Stage.RANGE,
            _FRACTION,
            "worth_range.deviation",
            "yield [above|below] its 5-year average by {}",
        ),
        _measure(
            "percentile",
            "Yield percentile",
            Stage.RANGE,
            _FRACTION,
            "worth_range.percentile",
            "percentile of the yield in its 5 years",
        ),
        _measure(
            "share_of_weeks",
            "Weeks as high",
            Stage.RANGE,
            _FRACTION,
            "worth_range.share_of_weeks",
            "share of weeks with as high a yield",
        ),
        _measure(
            "longest_above",
            "Longest stretch above the mean",
            Stage.RANGE,
            Unit.WEEKS,
            "worth_range.longest_above",
        ),
        _measure("weeks", "Weeks in the sample", Stage.RANGE, Unit.WEEKS, "worth_range.count"),
        _measure(
            "low_52", "Lowest close of 52 weeks", Stage.RANGE, _PER_SHARE, "worth_range.low_52"
        ),
        _measure(
            "high_52", "Highest close of 52 weeks", Stage.RANGE, _PER_SHARE, "worth_range.high_52"
        ),
        _measure(
            "fair_price",
            "Price at the mean yield",
            Stage.RANGE,
            _PER_SHARE,
            "worth_range.fair_price",
        ),
        _measure(
            "premium",
            "Price vs price at the mean yield",
            Stage.RANGE,
            _FRACTION,
            "worth_range.premium",
            "price [above|below] that of its mean yield by {}",
        ),
        _measure(
            "constant_growth",
            "Worth by constant growth",
            Stage.WORTH,
            _PER_SHARE,
            "worth.models.constant_growth.middle",
        ),
        _measure(
            "two_stage",
            "Worth by two stages",
            Stage.WORTH,
            _PER_SHARE,
            "worth.models.two_stage.middle",
        ),
        _measure(
            "fading",
            "Worth by fading growth",
            Stage.WORTH,
            _PER_SHARE,
            "worth.models.fading.middle",
        ),
        _measure(
            "yield_reversion",
            "Worth by yield reversion",
            Stage.WORTH,
            _PER_SHARE,
            "worth.models.yield_reversion.middle",
        ),
        _measure("blend", "Worth, blend", Stage.WORTH, _PER_SHARE, "worth.blend"),
        _measure("buy_below", "Buy-below price", Stage.WORTH, _PER_SHARE, "worth.buy_below"),
        _measure(
            "price_against_buy_below",
            "Price vs buy-below",
            Stage.WORTH,
            _FRACTION,
            "worth.price_against_buy_below",
            "price [over|under] your buy-below by {}",
        ),
        _measure(
            "price_against_blend",
            "Price vs worth",
            Stage.WORTH,
            _FRACTION,
            "worth.price_against_blend",
            "price [over|under] its worth by {}",
        ),
        _measure(
            "implied_growth",
            "Implied growth",
            Stage.WORTH,
            _FRACTION,
            "worth.implied_growth",
            "growth that the price implies",
        ),
        _measure("growth_used", "Growth used", Stage.WORTH, _FRACTION, "worth.growth"),
        _measure(
            "spread",
            "Models apart",
            Stage.WORTH,
            _FRACTION,
            "worth.spread",
            "spread between the models",
        ),
        _measure(
            "cushion",
            "Cushion of the first to give",
            None,
            _FRACTION,
            "",
            "smallest cushion",
            breach="below",
        ),
    )
}

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
