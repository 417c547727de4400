"""Income in months and by reason: what is drawn and listed of it, at home. (docs/method.md,
Household)"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from ..amounts import minor_digits
from ..entries import PayerKey
from ..ledger import Place
from .ahead import Ahead, Stands
from .change import BY_SHARES, AtHome, Change, Why
from .due import Answer, Due
from .paying import YEAR


@dataclass(frozen=True, slots=True, kw_only=True)
class Coming:
    """A payment to come, and what of it is left at home; None without a rate."""

    ahead: Ahead
    amount: float | None


@dataclass(slots=True, kw_only=True)
class Month:
    """What comes in a month; came: in the same days a year before."""

    month: str
    gone_ex: float = 0.0
    declared: float = 0.0
    expected: float = 0.0
    came: float = 0.0

    @property
    def sure(self) -> float:
        return self.gone_ex + self.declared

    @property
    def total(self) -> float:
        return self.sure + self.expected


@dataclass(frozen=True, slots=True, kw_only=True)
class Event:
    """One change of a payer's, in all accounts; of a currency all days together, the last named."""

    day: date
    payer: PayerKey
    why: Why
    by: float
    before: float | None
    after: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthDue:
    """What was due in a month by a day, and what came of it, at home after what was withheld and
    before tax at home. brought: all that came in it, as income is counted otherwise."""

    month: str
    brought: float
    due: float
    came: float

    @property
    def left(self) -> float:
        return self.due - self.came


def coming_of(
    found: Iterable[Ahead], at_home: AtHome, kept: Callable[[Place], float], day: date
) -> list[Coming]:
    """At the rates of a day. kept: what tax leaves in a place."""
    made = []
    for a in found:
        rate = at_home(a.currency, day)
        amount = None if rate is None else a.gross * rate * kept(a.place)
        made.append(Coming(ahead=a, amount=amount))
    return made


def months_of(
    coming: Iterable[Coming], came: Iterable[tuple[date, float]], day: date
) -> list[Month]:
    """Every month from the day after one to a year on. came: what came in the year before, by
    day."""
    months: dict[str, Month] = {}
    for n in range(1, YEAR.days + 1):
        name = _month(day + timedelta(days=n))
        months.setdefault(name, Month(month=name))
    for c in coming:
        month, amount = months[_month(c.ahead.comes)], c.amount or 0.0
        match c.ahead.stands:
            case Stands.GONE_EX:
                month.gone_ex += amount
            case Stands.DECLARED:
                month.declared += amount
            case Stands.EXPECTED:
                month.expected += amount
    for then, amount in came:
        months[_month(then + YEAR)].came += amount
    return list(months.values())


def _month(day: date) -> str:
    return day.isoformat()[:7]


def by_reason(changes: Sequence[Change]) -> dict[Why, float]:
    """By how much each reason changed the income, in the order of the reasons."""
    return {
        why: sum(c.by for c in changes if c.why is why)
        for why in Why
        if any(c.why is why for c in changes)
    }


def by_shares(changes: Iterable[Change]) -> float:
    """By how much other shares changed it; the rest are rates and currency."""
    return sum(c.by for c in changes if c.why in BY_SHARES)


def events_of(changes: Iterable[Change]) -> list[Event]:
    """The largest first."""
    rows: dict[tuple[PayerKey, Why, date | None], Event] = {}
    for c in changes:
        key = (c.place[1], c.why, None if c.why is Why.CURRENCY else c.day)
        earlier = rows.get(key)
        rows[key] = Event(
            day=c.day,
            payer=c.place[1],
            why=c.why,
            by=c.by + (earlier.by if earlier else 0.0),
            before=earlier.before if earlier else c.before,
            after=c.after,
        )
    return sorted(rows.values(), key=lambda e: -abs(e.by))


def month_due(
    dues: Iterable[Due], came: Iterable[tuple[date, float]], at_home: AtHome, day: date
) -> MonthDue:
    """Of the month of a day, until it. came: what came, by day."""
    first = day.replace(day=1)
    mine = [d for d in dues if first <= d.comes <= day and d.ex_date is not None]
    return MonthDue(
        month=_month(first),
        brought=sum(amount for then, amount in came if first <= then <= day),
        due=sum(net_at_home(d, at_home) or 0.0 for d in mine),
        came=sum(_came_at_home(d, at_home) for d in mine),
    )


def net_at_home(due: Due, at_home: AtHome) -> float | None:
    return _at_home(due.net, due.currency, due.comes, at_home)


def _came_at_home(due: Due, at_home: AtHome) -> float:
    """Of the record all that was due."""
    if due.on_record:
        return net_at_home(due, at_home) or 0.0
    if due.came is None:
        return 0.0
    return _at_home(due.came, due.came_in, due.comes, at_home) or 0.0


def _at_home(units: int, currency: str, day: date, at_home: AtHome) -> float | None:
    rate = at_home(currency, day)
    return None if rate is None else units / float(10 ** minor_digits(currency)) * rate


def not_as_due(dues: Sequence[Due], day: date) -> list[Due]:
    """What has not come as due, and what is due by a day and not entered, the newest first."""
    return [
        d
        for d in reversed(dues)
        if d.answer is not Answer.RECEIVED and (d.answer is not Answer.TO_COME or d.comes <= day)
    ]
