"""Income: what the household is paid, what is due and what changed it."""

from __future__ import annotations

import re
from datetime import date
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from hearth_yield.actions.explain_payment import explain_payment
from hearth_yield.actions.read_income import Income, figures_of_income, read_income
from hearth_yield.actions.read_paid import read_paid
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.household.amounts import SHARE, minor_digits
from hearth_yield.core.household.income.due import Due
from hearth_yield.core.household.income.figures import IncomeFigures
from hearth_yield.core.household.income.overview import (
    Coming,
    by_reason,
    by_shares,
    coming_of,
    events_of,
    month_due,
    months_of,
    not_as_due,
)
from hearth_yield.core.household.income.paid import by_month, by_year

from .answer import wire
from .context import Here, When
from .figures import FigureOut, figure_out
from .schemas import Problem
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
Tax = Literal["after", "before"]
StandsName = Literal["gone_ex", "declared", "expected"]
WhyName = Literal[
    "reinvested", "bought", "sold", "moved", "raised", "cut", "begun", "ended", "currency"
]
AnswerName = Literal["received", "short", "over", "missing", "unexpected", "to_come"]
KEY = "income"
MEMBERS = ("a_year", "a_month", "before", "change", "growth", "linked", "real", "prices")
ASKED = re.compile(rf"{KEY}\.(after|before)\.(\d{{4}}-\d\d-\d\d)\.({'|'.join(MEMBERS)})")
"""How a figure is asked for: by the switch of tax, and the day from which the change counts."""


@wire
class IncomeMonthOut:
    """Home amounts of one month. came: in the same days a year before."""

    month: str
    gone_ex: float
    declared: float
    expected: float
    sure: float
    total: float
    came: float


@wire
class PaymentAheadOut:
    """A payment to come. each: for a share; amount: at home, by the switch of tax."""

    exchange: str
    symbol: str
    name: str
    account: int
    ex_date: date
    comes: date
    told: bool
    each: float
    currency: str
    shares: float
    amount: float | None
    stands: StandsName


@wire
class IncomeChangeOut:
    why: WhyName
    by: float


@wire
class IncomeEventOut:
    """One event: how much the income a year changed by it."""

    day: date
    exchange: str
    symbol: str
    name: str
    why: WhyName
    by: float
    before: float | None
    after: float | None


@wire
class DueOut:
    """What was due in a place, in its currency, against what came; came_in: the currency of what
    came. last: after it, it is missing. withheld_part: of the gross; apart: how much more came than
    was due, in the same currency. why: what the person said of it."""

    exchange: str
    symbol: str
    name: str
    account: int
    ex_date: date | None
    comes: date
    told: bool
    last: date
    shares: float
    each: float | None
    currency: str
    gross: float
    withheld: float
    withheld_part: float
    net: float
    came: float | None
    apart: float | None
    came_in: str
    entries: list[int]
    answer: AnswerName
    on_record: bool
    why: str | None


@wire
class MonthDueOut:
    """The month that is viewed, at home. due, came: until the day, after what was withheld and
    before tax at home; brought: all that came in it, by the switch of tax."""

    month: str
    brought: float
    due: float
    came: float
    left: float


@wire
class IncomeOut:
    """taxed: the house rules take something of a dividend. by_shares, by_rates: of the change.
    payments: of the next twelve months, by the day they come. changes: sums by reason; events: the
    largest first. dues: what has not come as due in the past 400 days, the newest first, and what
    is due now. without: payers whose income is not known, with the reason."""

    home: str
    tax: Tax
    taxed: bool
    since: date
    a_year: FigureOut
    a_month: FigureOut
    before: FigureOut
    change: FigureOut
    growth: FigureOut
    linked: FigureOut
    real: FigureOut
    prices: FigureOut
    by_shares: float
    by_rates: float
    ahead: float
    sure: float
    came: float
    months: list[IncomeMonthOut]
    payments: list[PaymentAheadOut]
    changes: list[IncomeChangeOut]
    events: list[IncomeEventOut]
    month: MonthDueOut
    dues: list[DueOut]
    without: list[str]


@router.get("/holdings/income")
def income(
    here: Here,
    when: When,
    tax: Tax = "after",
    since: Annotated[date | None, Query(description="from which day the change counts")] = None,
) -> IncomeOut:
    found = read_income(here.cache, when.as_of, when.edition, since, after_tax=tax == "after")
    figures = figures_of_income(found)
    at_home, changes = found.ground.at_home, found.changed.changes
    coming = coming_of(found.ahead, at_home, found.kept, found.day)
    months = months_of(coming, found.came, found.day)
    shares = by_shares(changes)
    return IncomeOut(
        home=found.held.home,
        tax=tax,
        taxed=found.rules.takes,
        since=found.since,
        **{
            name: figure_out(getattr(figures, name), f"{KEY}.{tax}.{found.since}.{name}")
            for name in MEMBERS
        },
        by_shares=shares,
        by_rates=found.changed.last - found.changed.first - shares,
        ahead=sum(m.total for m in months),
        sure=sum(m.sure for m in months),
        came=sum(m.came for m in months),
        months=each(IncomeMonthOut, months),
        payments=[_payment(found, c) for c in coming],
        changes=[IncomeChangeOut(why=w.value, by=by) for w, by in by_reason(changes).items()],
        events=[fill(IncomeEventOut, e, **_named(found, e.payer)) for e in events_of(changes)],
        month=fill(MonthDueOut, month_due(found.dues, found.came, at_home, found.day)),
        dues=[_due(found, d) for d in not_as_due(found.dues, found.day)],
        without=_without(found, figures),
    )


@wire
class IncomePaidByOut:
    """What a payer pays in each of the months."""

    exchange: str
    symbol: str
    name: str
    months: list[float]
    total: float


@wire
class IncomePaidYearOut:
    year: int
    total: float


@wire
class IncomePaidOut:
    """By month and payer, at home. year: the one shown; null: the next twelve months. real: in
    today's money. years: what each year brought. without: how many receipts no exchange rate, or no
    price index, is known for."""

    home: str
    year: int | None
    real: bool
    months: list[str]
    rows: list[IncomePaidByOut]
    sums: list[float]
    total: float
    years: list[IncomePaidYearOut]
    without: int


@router.get("/holdings/income/paid")
def paid(
    here: Here,
    when: When,
    tax: Tax = "after",
    year: Annotated[int | None, Query(ge=1900, le=2200)] = None,
    real: bool = False,
) -> IncomePaidOut:
    """What came in a year, or comes in the next twelve months, by month and payer."""
    found = read_paid(here.cache, when.as_of, when.edition, after_tax=tax == "after", real=real)
    income = found.income
    if year is None:
        months = [m.month for m in months_of((), (), income.day)]
    else:
        months = [f"{year}-{n:02d}" for n in range(1, 13)]
    rows = by_month(found.ahead if year is None else found.came, months)
    sums = [sum(of) for of in zip(*(r.months for r in rows), strict=True)] or [0.0] * len(months)
    return IncomePaidOut(
        home=income.held.home,
        year=year,
        real=real,
        months=months,
        rows=[
            fill(IncomePaidByOut, r, **_named(income, r.payer), months=list(r.months)) for r in rows
        ],
        sums=sums,
        total=sum(r.total for r in rows),
        years=[IncomePaidYearOut(year=y, total=n) for y, n in by_year(found.came).items()],
        without=found.without,
    )


class ExplainIn(BaseModel):
    """Why a payment did not come as due; empty words take it back."""

    account: int
    exchange: Annotated[str, Field(max_length=200)]
    symbol: Annotated[str, Field(min_length=1, max_length=200)]
    ex_date: date
    words: Annotated[str, Field(max_length=1000)]


@router.put("/holdings/due", status_code=204)
def explain(here: Here, asked: ExplainIn) -> None:
    payment = ((asked.account, (asked.exchange, asked.symbol)), asked.ex_date)
    explain_payment(here.database, payment, asked.words, at=here.now())


def income_figure(here: Here, when: When, key: str) -> Figure | None:
    """One of the income's figures as it was asked for, with its working."""
    named = ASKED.fullmatch(key)
    if named is None:
        return None
    tax, since, name = named.groups()
    try:
        first = date.fromisoformat(since)
    except ValueError:
        return None
    found = read_income(here.cache, when.as_of, when.edition, first, after_tax=tax == "after")
    figure = getattr(figures_of_income(found), name)
    return figure if isinstance(figure, Figure) else None


def _named(found: Income, key: tuple[str, str]) -> dict[str, Any]:
    payer = found.held.payers.get(key)
    return {"exchange": key[0], "symbol": key[1], "name": payer.name if payer else key[1]}


def _payment(found: Income, c: Coming) -> PaymentAheadOut:
    a = c.ahead
    return fill(
        PaymentAheadOut, a, **_named(found, a.place[1]), account=a.place[0], amount=c.amount
    )


def _without(found: Income, figures: IncomeFigures) -> list[str]:
    """What is in no sum, or only not in the change."""
    names = [_named(found, key)["name"] for key in found.changed.without]
    return [
        *figures.a_year.notes,
        *(f"{name} is not in the change: no exchange rate over all of it" for name in names),
    ]


def _due(found: Income, d: Due) -> DueOut:
    unit = float(10 ** minor_digits(d.currency))
    apart = d.apart
    return fill(
        DueOut,
        d,
        **_named(found, d.place[1]),
        account=d.place[0],
        shares=d.shares / SHARE,
        gross=d.gross / unit,
        withheld=d.withheld / unit,
        withheld_part=d.withheld / d.gross if d.gross else 0.0,
        net=d.net / unit,
        apart=None if apart is None else apart / unit,
        came=None if d.came is None else d.came / float(10 ** minor_digits(d.came_in)),
        entries=list(d.entries),
        why=None if d.ex_date is None else found.explained.get((d.place, d.ex_date)),
    )
