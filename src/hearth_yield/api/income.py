"""Income: what the household is paid, what is due and what changed it."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Annotated, Literal

from fastapi import APIRouter, Query

from hearth_yield.actions.read_income import Income, figures_of_income, read_income
from hearth_yield.core.figures.figure import Figure
from hearth_yield.core.household.amounts import SHARE, minor_digits
from hearth_yield.core.household.income.ahead import Ahead, Stands
from hearth_yield.core.household.income.change import Why
from hearth_yield.core.household.income.due import Answer, Due
from hearth_yield.core.household.income.paying import YEAR

from .answer import wire
from .context import Here, When
from .figures import FigureOut, figure_out
from .schemas import Problem

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
Tax = Literal["after", "before"]
StandsName = Literal["gone_ex", "declared", "expected"]
WhyName = Literal[
    "reinvested", "bought", "sold", "moved", "raised", "cut", "begun", "ended", "currency"
]
AnswerName = Literal["received", "short", "over", "missing", "unexpected", "to_come"]
KEY = "income"
MEMBERS = ("a_year", "a_month", "before", "change", "linked", "real", "prices")
ASKED = re.compile(rf"{KEY}\.(after|before)\.(\d{{4}}-\d\d-\d\d)\.({'|'.join(MEMBERS)})")
"""How a figure is asked for: by the switch of tax, and the day from which the change counts."""


@wire
class IncomeMonthOut:
    """Home amounts of one month. came: in the same days a year before."""

    month: str
    gone_ex: float
    declared: float
    expected: float
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
    came. last: after it, it is missing. at_home: the net that was due."""

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
    net: float
    at_home: float | None
    came: float | None
    came_in: str
    entries: list[int]
    answer: AnswerName
    on_record: bool


@wire
class MonthDueOut:
    """The month that is viewed: what was due in it until the day, and what came of it, at home,
    after what was withheld."""

    month: str
    due: float
    came: float


@wire
class IncomeOut:
    """taxed: the house rules take something of a dividend. payments: of the next twelve months, by
    the day they come. changes: sums by reason; events: the largest first. dues: what has not come
    as due in the past 400 days, the newest first, and what is due now. without: payers whose income
    is not known, with the reason."""

    home: str
    tax: Tax
    taxed: bool
    since: date
    a_year: FigureOut
    a_month: FigureOut
    before: FigureOut
    change: FigureOut
    linked: FigureOut
    real: FigureOut
    prices: FigureOut
    ahead: float
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
    coming = [(a, _at_home(found, a)) for a in found.ahead]
    return IncomeOut(
        home=found.held.home,
        tax=tax,
        taxed=found.rules.takes,
        since=found.since,
        **{
            name: figure_out(getattr(figures, name), f"{KEY}.{tax}.{found.since}.{name}")
            for name in MEMBERS
        },
        ahead=sum(amount or 0.0 for _, amount in coming),
        came=sum(amount for _, amount in found.came),
        months=_months(found, coming),
        payments=[_payment(found, a, amount) for a, amount in coming],
        changes=_changes(found),
        events=_events(found),
        month=_month(found),
        dues=_dues(found),
        without=list(figures.a_year.notes),
    )


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


def _at_home(found: Income, a: Ahead) -> float | None:
    rate = found.at_home(a.currency, found.day)
    return None if rate is None else a.gross * rate * found.kept(a.place)


def _name(found: Income, key: tuple[str, str]) -> str:
    payer = found.held.payers.get(key)
    return payer.name if payer else key[1]


def _months(found: Income, coming: Sequence[tuple[Ahead, float | None]]) -> list[IncomeMonthOut]:
    """Every month from the day after the one viewed to a year on."""
    months: dict[str, dict[str, float]] = {}
    day = found.day + timedelta(days=1)
    while day <= found.day + YEAR:
        months.setdefault(day.isoformat()[:7], dict.fromkeys([*map(str, Stands), "came"], 0.0))
        day += timedelta(days=1)
    for a, amount in coming:
        months[a.comes.isoformat()[:7]][a.stands.value] += amount or 0.0
    for day, amount in found.came:
        months[(day + YEAR).isoformat()[:7]]["came"] += amount
    return [IncomeMonthOut(month=month, **parts) for month, parts in months.items()]


def _payment(found: Income, a: Ahead, amount: float | None) -> PaymentAheadOut:
    exchange, symbol = a.place[1]
    return PaymentAheadOut(
        exchange=exchange,
        symbol=symbol,
        name=_name(found, a.place[1]),
        account=a.place[0],
        ex_date=a.ex_date,
        comes=a.comes,
        told=a.told,
        each=a.each,
        currency=a.currency,
        shares=a.shares,
        amount=amount,
        stands=a.stands.value,
    )


def _changes(found: Income) -> list[IncomeChangeOut]:
    sums = {
        why: sum(c.by for c in found.changed.changes if c.why is why)
        for why in Why
        if any(c.why is why for c in found.changed.changes)
    }
    return [IncomeChangeOut(why=why.value, by=by) for why, by in sums.items()]


def _events(found: Income) -> list[IncomeEventOut]:
    """By payer and reason on a day; currency of all days together."""
    rows: dict[tuple[object, ...], IncomeEventOut] = {}
    for c in found.changed.changes:
        at = None if c.why is Why.CURRENCY else c.day
        key = (c.place[1], c.why, at)
        before = rows.get(key)
        exchange, symbol = c.place[1]
        rows[key] = IncomeEventOut(
            day=c.day,
            exchange=exchange,
            symbol=symbol,
            name=_name(found, c.place[1]),
            why=c.why.value,
            by=c.by + (before.by if before else 0.0),
            before=before.before if before else c.before,
            after=c.after,
        )
    return sorted(rows.values(), key=lambda r: -abs(r.by))


def _month(found: Income) -> MonthDueOut:
    first = found.day.replace(day=1)
    mine = [d for d in found.dues if first <= d.comes <= found.day and d.ex_date is not None]
    wanted = [_home_of(found, d, d.net, d.currency) for d in mine]
    came = [
        _home_of(found, d, d.net if d.on_record else (d.came or 0), d.came_in or d.currency)
        for d in mine
    ]
    return MonthDueOut(
        month=first.isoformat()[:7],
        due=sum(n or 0.0 for n in wanted),
        came=sum(n or 0.0 for n in came),
    )


def _home_of(found: Income, due: Due, units: int, currency: str) -> float | None:
    rate = found.at_home(currency, due.comes)
    return None if rate is None else units / 10 ** minor_digits(currency) * rate


def _dues(found: Income) -> list[DueOut]:
    told = [
        d
        for d in found.dues
        if d.answer is not Answer.RECEIVED
        and (d.answer is not Answer.TO_COME or d.comes <= found.day)
    ]
    return [_due(found, d) for d in reversed(told)]


def _due(found: Income, d: Due) -> DueOut:
    exchange, symbol = d.place[1]
    unit = 10 ** minor_digits(d.currency)
    return DueOut(
        exchange=exchange,
        symbol=symbol,
        name=_name(found, d.place[1]),
        account=d.place[0],
        ex_date=d.ex_date,
        comes=d.comes,
        told=d.told,
        last=d.last,
        shares=d.shares / SHARE,
        each=d.each,
        currency=d.currency,
        gross=d.gross / unit,
        withheld=d.withheld / unit,
        net=d.net / unit,
        at_home=_home_of(found, d, d.net, d.currency),
        came=None if d.came is None else d.came / 10 ** minor_digits(d.came_in),
        came_in=d.came_in,
        entries=list(d.entries),
        answer=d.answer.value,
        on_record=d.on_record,
    )
