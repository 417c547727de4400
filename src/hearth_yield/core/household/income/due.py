"""What was due of a payment, against what came. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum
from fractions import Fraction

from ...facts.records import DividendKind
from ..amounts import SHARE, exact_rate, minor_digits, whole
from ..entries import Account, Entry, EntryKind
from ..ledger import Book, Known, Place, Rates
from ..receipts import shares_before
from .paying import OnRecord, Paying
from .tax import TaxRules

EARLY, LATE = timedelta(days=3), timedelta(days=20)
"""So long before and after its pay date a payment may come."""
WITHIN, WITHIN_ABROAD = Fraction(1, 100), Fraction(3, 100)
"""By so little of what was due it may differ; in another currency by its own rate."""
ANSWERS = (EntryKind.DIVIDEND, EntryKind.REINVESTMENT, EntryKind.RETURN_OF_CAPITAL)


class Answer(StrEnum):
    RECEIVED = "received"
    SHORT = "short"
    OVER = "over"
    MISSING = "missing"
    UNEXPECTED = "unexpected"
    TO_COME = "to_come"


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """A payment in one place, or what came and no payment explains (ex_date None). comes: its pay
    date, else by the usual lag, and then told is False; last: the day after which it is missing.
    shares: in units of 10⁻⁸, of the ex-date. gross, withheld, came: in minor units of currency;
    came after what was withheld, None where nothing did; in another currency (came_in) at home.
    on_record: of an account that takes its dividends from the record."""

    place: Place
    ex_date: date | None
    comes: date
    told: bool
    last: date
    shares: int
    each: float | None
    currency: str
    gross: int
    withheld: int
    came: int | None
    came_in: str
    entries: tuple[int, ...]
    answer: Answer
    on_record: bool

    @property
    def net(self) -> int:
        return self.gross - self.withheld

    @property
    def apart(self) -> int | None:
        """How much more came than was due; None where nothing came, or in another currency."""
        return None if self.came is None or self.came_in != self.currency else self.came - self.net


def dues(
    book: Book,
    accounts: Iterable[Account],
    entries: Iterable[Entry],
    paying: Mapping[tuple[str, str], Paying],
    known: Known,
    rates: Rates,
    rules: TaxRules,
    home: str,
    day: date,
    since: date = date.min,
) -> list[Due]:
    """Of every place, by the day they come: what went ex by the day, and what came of it. since:
    the first day of coming that is looked at."""
    by_id = {a.id: a for a in accounts}
    # What answers a payment of just before stands after the first day.
    first = since - 3 * LATE if since - date.min > 3 * LATE else date.min
    came: dict[Place, list[Entry]] = {}
    for entry in entries:
        if entry.kind in ANSWERS and entry.payer is not None and first <= entry.day <= day:
            came.setdefault((entry.account, entry.payer), []).append(entry)
    found: list[Due] = []
    for place in sorted({*book.held, *came}):
        of = paying.get(place[1])
        withheld = exact_rate(rules.withheld_by(of.country)) if of else Fraction(0)
        payments = of.payments if of else ()
        owed = [
            _owed(place, p, shares, withheld)
            for p in payments
            if p.ex_date <= day
            and p.comes >= first
            and (shares := shares_before(book, known, place, p.ex_date))
        ]
        mine = sorted(came.get(place, ()), key=lambda e: (e.day, e.id))
        found += _answered(owed, mine, by_id[place[0]], rates, home, day)
    found = [d for d in found if d.comes >= since]
    return sorted(found, key=lambda d: (d.comes, d.place, d.ex_date or d.comes))


def _owed(place: Place, p: OnRecord, shares: int, withheld: Fraction) -> Due:
    each = exact_rate(p.each) * 10 ** minor_digits(p.currency)
    gross = whole(Fraction(shares, SHARE) * each)
    taxed = p.kind is not DividendKind.RETURN_OF_CAPITAL
    return Due(
        place=place,
        ex_date=p.ex_date,
        comes=p.comes,
        told=p.told,
        last=p.comes + LATE,
        shares=shares,
        each=p.each,
        currency=p.currency,
        gross=gross,
        withheld=whole(gross * withheld) if taxed else 0,
        came=None,
        came_in="",
        entries=(),
        answer=Answer.TO_COME,
        on_record=False,
    )


def _answered(
    owed: Sequence[Due], mine: Sequence[Entry], account: Account, rates: Rates, home: str, day: date
) -> list[Due]:
    """Payments of one day stand together; what is nearest to its pay date answers it."""
    days = sorted({d.comes for d in owed})
    windows = {d: _window(days, n) for n, d in enumerate(days)}
    answers: dict[date, list[Entry]] = {}
    found = []
    for entry in mine:
        near = [d for d, (first, last) in windows.items() if first <= entry.day <= last]
        if near:
            answers.setdefault(min(near, key=lambda d: abs(d - entry.day)), []).append(entry)
        elif account.entered_from is not None and entry.day >= account.entered_from:
            found.append(_unexpected(entry, account))
    for comes in days:
        together = [d for d in owed if d.comes == comes]
        on_record = account.entered_from is None or comes < account.entered_from
        last = windows[comes][1]
        if on_record:
            answer = Answer.RECEIVED if comes <= day else Answer.TO_COME
            found += [replace(d, answer=answer, last=last, on_record=True) for d in together]
        else:
            found += _of_a_day(together, answers.get(comes, ()), last, rates, home, day)
    return found


def _window(days: Sequence[date], n: int) -> tuple[date, date]:
    first, last = days[n] - EARLY, days[n] + LATE
    if n:
        first = max(first, days[n - 1] + (days[n] - days[n - 1]) / 2 + timedelta(days=1))
    if n + 1 < len(days):
        last = min(last, days[n] + (days[n + 1] - days[n]) / 2)
    return min(first, days[n]), max(last, days[n])


def _of_a_day(
    together: Sequence[Due], came: Sequence[Entry], last: date, rates: Rates, home: str, day: date
) -> list[Due]:
    """Payments that come on one day, against all that came of them; of several the first carries
    it."""
    if not came:
        answer = Answer.MISSING if day > last else Answer.TO_COME
        return [replace(d, answer=answer, last=last) for d in together]
    wanted = sum(d.net for d in together)
    currency, sums = together[0].currency, sum(_net(e) for e in came)
    own = {e.currency for e in came} == {currency} == {d.currency for d in together}
    came_in, close = currency, max(WITHIN * abs(wanted), Fraction(1))
    if not own:
        known = [rates.convert(d.net, d.currency, home, d.comes) for d in together]
        there = [rates.convert(_net(e), e.currency, home, e.day) for e in came]
        came_in = home
        wanted = sum(n or 0 for n in known)
        sums = sum(n or 0 for n in there)
        close = max(WITHIN_ABROAD * abs(wanted), Fraction(1))
        if None in known or None in there:
            close = Fraction(abs(sums - wanted))
    apart = sums - wanted
    answer = Answer.RECEIVED if abs(apart) <= close else Answer.SHORT if apart < 0 else Answer.OVER
    ids = tuple(e.id for e in came)
    first, *rest = (replace(d, answer=answer, last=last, entries=ids) for d in together)
    return [replace(first, came=sums, came_in=came_in), *rest]


def _net(entry: Entry) -> int:
    """What came after what was withheld; a fee of the institution makes nothing short."""
    return (entry.amount or 0) - entry.withheld


def _unexpected(entry: Entry, account: Account) -> Due:
    assert entry.payer is not None  # noqa: S101 - only such are looked at
    return Due(
        place=(account.id, entry.payer),
        ex_date=None,
        comes=entry.day,
        told=True,
        last=entry.day,
        shares=0,
        each=None,
        currency=entry.currency,
        gross=0,
        withheld=0,
        came=_net(entry),
        came_in=entry.currency,
        entries=(entry.id,),
        answer=Answer.UNEXPECTED,
        on_record=False,
    )
