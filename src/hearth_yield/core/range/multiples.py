"""The multiples whose own past a price is held against: price to earnings, to cash, to sales, to
book, and enterprise value to EBITDA. (docs/method.md, Range)

Each is declared once, by its total over twelve months twice said: as a figure that carries its
working, and as plain numbers over all past days. A property holds the two against each other.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial

import numpy as np

from ..cover.bases import Basis, driver, not_converted
from ..facts.derived import book_value, ebitda, net_debt, per_share_of
from ..facts.payer_file import PayerFile
from ..facts.periods import Period, trailing_age, trailing_period
from ..facts.steps import Steps, steps_of
from ..figures.arrays import Days, Floats
from ..figures.figure import Figure, Touch, Unit, derive, touch_of, unknown
from ..kinds import Kind
from .quantity import YIELD, Quantity


def _or(published: Floats, derived: Floats) -> Floats:
    """Elementwise: what was published, else what follows from other lines."""
    return np.where(np.isnan(published), derived, published)


def _preferred(steps: Steps) -> Floats:
    """Preferred dividends; none where nothing is said of them and no preferred equity stands."""
    told = steps.line("preferred_dividends")
    return np.where(np.isnan(told) & ~(steps.at_end("preferred_equity") > 0), 0.0, told)


def _free_cash_flow(steps: Steps) -> Floats:
    return steps.line("operating_cash_flow") - steps.line("capital_expenditure")


def _ffo(steps: Steps) -> Floats:
    return _or(
        steps.line("ffo"),
        steps.line("net_income")
        + steps.line("property_depreciation")
        + steps.line("impairments")
        - steps.line("gains_on_property_sales")
        - steps.line("preferred_dividends"),
    )


def _affo(steps: Steps) -> Floats:
    own = _ffo(steps) - steps.line("recurring_capex") - steps.line("straight_line_rent")
    return _or(steps.line("affo"), own)


def _ebitda(steps: Steps) -> Floats:
    own = steps.line("ebit") + steps.line("depreciation_amortization")
    return _or(steps.line("ebitda"), own)


def _net_debt(steps: Steps) -> Floats:
    debt = steps.at_end("short_term_debt") + steps.at_end("long_term_debt")
    return debt - steps.at_end("cash")


def _book(steps: Steps) -> Floats:
    return (
        steps.at_end("total_assets")
        - steps.at_end("total_liabilities")
        - steps.at_end("minority_interest")
        - steps.at_end("preferred_equity")
    )


def statements_left(file: PayerFile, period: Period | None) -> tuple[str, ...]:
    """Statements a person left out, so that the newest twelve months are those that they are."""
    since = period.end - timedelta(days=400) if period else date.min
    return file.exclusions_within("statements", since, date.max)


@dataclass(frozen=True, slots=True, kw_only=True)
class PerShare:
    """A measure per diluted share over twelve months. total: as a figure; numbers: the same on
    every past day. at_end: for each share at the period's end, not over it."""

    id: str
    name: str
    total: Callable[[Period], Figure]
    numbers: Callable[[Steps], Floats]
    at_end: bool = False

    def of(self, period: Period) -> Figure:
        shares = period.at_end if self.at_end else period.line
        return per_share_of(f"{self.name} per share", self.total(period), shares("diluted_shares"))

    def now(self, file: PayerFile) -> Figure:
        """Over the newest twelve months; unknown where there are none, once they are old, and in
        another currency than the price."""
        period, label = trailing_period(file), f"{self.name} per share"
        left = statements_left(file, period)
        if period is None:
            none = unknown(label, Unit.PER_SHARE, "no statement is held")
            return none.with_exclusions(left)
        found = self.of(period)
        if found.known and found.currency != file.payer.currency:
            reason = not_converted(found.currency, file.payer.currency)
            found = unknown(label, Unit.PER_SHARE, reason, inputs=found.inputs)
        return trailing_age(file, period).of(found).with_exclusions(left)

    def steps(self, file: PayerFile) -> tuple[Days, Floats]:
        """The days from which each value held, and the values in today's shares."""
        held = steps_of(file)
        shares = held.at_end("diluted_shares") if self.at_end else held.line("diluted_shares")
        with np.errstate(invalid="ignore", divide="ignore"):
            return held.days, np.where(shares > 0, self.numbers(held) / shares, np.nan)


def _basis(basis: Basis) -> Callable[[Period], Figure]:
    return partial(driver, basis)


EARNINGS = PerShare(
    id="earnings",
    name="earnings",
    total=_basis(Basis.EARNINGS),
    numbers=lambda s: s.line("net_income") - _preferred(s),
)
FREE_CASH_FLOW = PerShare(
    id="free_cash_flow",
    name="free cash flow",
    total=_basis(Basis.FREE_CASH_FLOW),
    numbers=lambda s: _free_cash_flow(s) - _preferred(s),
)
OPERATING_CASH_FLOW = PerShare(
    id="operating_cash_flow",
    name="operating cash flow",
    total=_basis(Basis.OPERATING_CASH_FLOW),
    numbers=lambda s: s.line("operating_cash_flow") - _preferred(s),
)
SALES = PerShare(
    id="sales", name="sales", total=lambda p: p.line("revenue"), numbers=lambda s: s.line("revenue")
)
BOOK = PerShare(id="book", name="book value", total=book_value, numbers=_book, at_end=True)
FFO = PerShare(id="ffo", name="FFO", total=_basis(Basis.FFO), numbers=_ffo)
AFFO = PerShare(id="affo", name="AFFO", total=_basis(Basis.AFFO), numbers=_affo)
DISTRIBUTABLE = PerShare(
    id="distributable_cash",
    name="distributable cash",
    total=_basis(Basis.DISTRIBUTABLE_CASH),
    numbers=lambda s: s.line("distributable_cash_flow") - _preferred(s),
)
EBITDA = PerShare(id="ebitda", name="EBITDA", total=ebitda, numbers=_ebitda, at_end=True)
"""For each of the newest shares, as enterprise value is: price × newest shares + claims."""


PER_SHARE: dict[str, PerShare] = {
    m.id: m
    for m in (
        EARNINGS,
        FREE_CASH_FLOW,
        OPERATING_CASH_FLOW,
        SALES,
        BOOK,
        FFO,
        AFFO,
        DISTRIBUTABLE,
        EBITDA,
    )
}
"""By id, which is that of the multiple that is paid for it."""


def claims(period: Period) -> Figure:
    """What stands before the shareholders: net debt + minority interest + preferred equity."""
    return derive(
        "net debt, minority and preferred",
        Unit.MONEY,
        "net debt + minority interest + preferred equity",
        [net_debt(period), period.at_end("minority_interest"), period.at_end("preferred_equity")],
        lambda debt, others, preferred: debt + others + preferred,
        currency=period.statements[-1].currency,
        period=period.label,
    )


CLAIMS = PerShare(
    id="claims",
    name="net debt, minority and preferred",
    total=claims,
    numbers=lambda s: _net_debt(s) + s.at_end("minority_interest") + s.at_end("preferred_equity"),
    at_end=True,
)


STATEMENTS_BACK = timedelta(days=800)
"""How far before a day the statements may have been published that it reads."""


def _by_hand(file: PayerFile, first: date) -> Touch | None:
    """Whether a person had a hand in any statement known, or in a split since those of a day."""
    left = any(x.table == "statements" for x in file.exclusions)
    by_hand = [Touch.EDITED if s.edited else Touch.ENTERED for s in file.versions if s.by_hand]
    by_split = file.split_touch(first - STATEMENTS_BACK)
    return touch_of([*by_hand, by_split, Touch.EDITED if left else None])


def _multiple(measure: PerShare, name: str) -> Quantity:
    called = measure.name
    return Quantity(
        id=measure.id,
        name=name,
        short=called,
        unit=Unit.MULTIPLE,
        base=lambda file, _: measure.now(file),
        base_name=f"{called} per share",
        steps=measure.steps,
        by_hand=_by_hand,
        value=lambda base, price, _: price / base,
        price=lambda base, value, _: value * base,
        formula=f"price ÷ {called} per share",
        price_formula="{}" + f" × {called} per share",
        nothing=f"{called} per share is not positive",
        cheap_when_high=False,
        typical="median",
    )


PRICE_TO_EARNINGS = _multiple(EARNINGS, "price to earnings")
PRICE_TO_FREE_CASH_FLOW = _multiple(FREE_CASH_FLOW, "price to free cash flow")
PRICE_TO_OPERATING_CASH_FLOW = _multiple(OPERATING_CASH_FLOW, "price to operating cash flow")
PRICE_TO_SALES = _multiple(SALES, "price to sales")
PRICE_TO_BOOK = _multiple(BOOK, "price to book")
PRICE_TO_FFO = _multiple(FFO, "price to FFO")
PRICE_TO_AFFO = _multiple(AFFO, "price to AFFO")
PRICE_TO_DISTRIBUTABLE = _multiple(DISTRIBUTABLE, "price to distributable cash")
EV_TO_EBITDA = Quantity(
    id="ev_ebitda",
    name="enterprise value to EBITDA",
    short="EV/EBITDA",
    unit=Unit.MULTIPLE,
    base=lambda file, _: EBITDA.now(file),
    base_name="EBITDA per share",
    steps=EBITDA.steps,
    beside=CLAIMS.now,
    beside_steps=CLAIMS.steps,
    beside_name=f"{CLAIMS.name} per share",
    by_hand=_by_hand,
    value=lambda base, price, claims: (price + claims) / base,
    price=lambda base, value, claims: value * base - claims,
    formula="(price + net debt, minority and preferred per share) ÷ EBITDA per share",
    price_formula="{} × EBITDA per share − net debt, minority and preferred per share",
    nothing="EBITDA per share is not positive",
    cheap_when_high=False,
    typical="median",
)
MULTIPLES = (
    PRICE_TO_EARNINGS,
    PRICE_TO_FREE_CASH_FLOW,
    PRICE_TO_OPERATING_CASH_FLOW,
    PRICE_TO_SALES,
    PRICE_TO_BOOK,
    PRICE_TO_FFO,
    PRICE_TO_AFFO,
    PRICE_TO_DISTRIBUTABLE,
    EV_TO_EBITDA,
)
SUITS: dict[Kind, tuple[Quantity, ...]] = {
    Kind.COMPANY: (
        PRICE_TO_EARNINGS,
        PRICE_TO_FREE_CASH_FLOW,
        PRICE_TO_OPERATING_CASH_FLOW,
        PRICE_TO_SALES,
        PRICE_TO_BOOK,
        EV_TO_EBITDA,
    ),
    Kind.PROPERTY_TRUST: (
        PRICE_TO_AFFO,
        PRICE_TO_FFO,
        PRICE_TO_OPERATING_CASH_FLOW,
        PRICE_TO_SALES,
        PRICE_TO_BOOK,
        EV_TO_EBITDA,
    ),
    Kind.PARTNERSHIP: (
        PRICE_TO_DISTRIBUTABLE,
        PRICE_TO_FREE_CASH_FLOW,
        PRICE_TO_OPERATING_CASH_FLOW,
        PRICE_TO_SALES,
        EV_TO_EBITDA,
    ),
    Kind.FINANCIAL: (PRICE_TO_EARNINGS, PRICE_TO_BOOK),
    Kind.OTHER: (),
}
"""Multiples that suit a kind, the leading one first."""
QUANTITIES: dict[str, Quantity] = {q.id: q for q in (YIELD, *MULTIPLES)}
"""In the order they are offered; the first is the one shown."""


def suiting(kind: Kind) -> tuple[Quantity, ...]:
    """What a payer of a kind is read by: its yield, and the multiples that suit it."""
    return (YIELD, *SUITS[kind])
