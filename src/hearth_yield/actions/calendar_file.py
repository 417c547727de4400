"""Ex-dates, pay dates and next looks as an iCalendar file (RFC 5545), and the secret address under
which a calendar program may ask for it."""

from __future__ import annotations

import secrets
from collections.abc import Iterator, Mapping, Sequence
from datetime import UTC, date, datetime, time, timedelta

from icalendar import Calendar, Event

from hearth_yield.core.errors import NotFound
from hearth_yield.core.household.entries import PayerKey
from hearth_yield.core.household.income.ahead import Ahead, Stands
from hearth_yield.store import calendar
from hearth_yield.store.calendar import DeclaredPayment
from hearth_yield.store.database import Database, Edition

from .make_signals import followed_by_payer
from .read_income import Income, read_income
from .review_cache import ReviewCache

BEFORE, AHEAD = timedelta(days=60), timedelta(days=400)
MOST = 5000
MAKER = "-//Hearth Yield//EN"


def calendar_file(
    cache: ReviewCache, today: date, at: Edition, *, everyone: bool = False, owned: bool = True
) -> bytes:
    """The days of the past two months and of the year to come, as known today.

    everyone: of all payers; else of those that are followed or held. owned: what each payment
    brings the person is in it.
    """
    income = read_income(cache, today, at, after_tax=False)
    with cache.database.read() as connection:
        payments = calendar.declared_between(
            connection, today - BEFORE, today + AHEAD, MOST, known_on=today
        )
        followed = followed_by_payer(connection)
        names = calendar.names(connection)
    found = Calendar()
    found.add("prodid", MAKER)
    found.add("version", "2.0")
    found.add("x-wr-calname", "Hearth Yield")
    mine = _own_payments(income) if owned else {}
    held = income.held.parts
    for p in payments:
        key = (p.exchange, p.symbol)
        if everyone or key in followed or key in held:
            for event in _of_payment(p, pays=(key, p.pay_date) not in mine):
                found.add_component(event)
    for event in _of_own(mine, names):
        found.add_component(event)
    for (exchange, symbol), of in sorted(followed.items()):
        for wait in of.waits:
            if wait.next_look is not None and wait.until is None:
                name = names.get((exchange, symbol), symbol)
                uid = f"look-{exchange}-{symbol}-{wait.made.isoformat()}"
                words = f"Your decision is of {wait.made.isoformat()}."
                found.add_component(
                    _event(uid, wait.next_look, f"Look at {name} again", words, wait.made)
                )
    return bytes(found.to_ical())


OwnPayments = Mapping[tuple[PayerKey, date], Sequence[Ahead]]
"""What comes to the person, by payer and day, in all accounts."""


def _own_payments(income: Income) -> OwnPayments:
    found: dict[tuple[PayerKey, date], list[Ahead]] = {}
    for one in income.ahead:
        found.setdefault((one.place[1], one.comes), []).append(one)
    return found


def _of_own(mine: OwnPayments, names: Mapping[PayerKey, str]) -> Iterator[Event]:
    for ((exchange, symbol), day), some in sorted(mine.items()):
        first, name = some[0], names.get((exchange, symbol), symbol)
        gross, shares = sum(a.gross for a in some), sum(a.shares for a in some)
        expected = first.stands is Stands.EXPECTED
        may = "may pay" if expected else "pays"
        words = (
            f"{shares:,.10g} shares at {first.each:g} {first.currency}, before tax; "
            f"{'expected, not declared' if expected else 'declared'}"
            f"{'' if first.told else '; the day is not told'}"
        )
        uid = f"own-{exchange}-{symbol}-{first.ex_date.isoformat()}"
        yield _event(
            uid, day, f"{name} {may} you {gross:,.2f} {first.currency}", words, first.ex_date
        )


def _of_payment(p: DeclaredPayment, *, pays: bool) -> Iterator[Event]:
    kind = "" if p.kind == "regular" else f" ({p.kind.replace('_', ' ')})"
    words = f"{p.amount:g} {p.currency} a share{kind}"
    key = f"{p.exchange}-{p.symbol}-{p.kind}-{p.ex_date.isoformat()}"
    yield _event(f"ex-{key}", p.ex_date, f"{p.name} goes ex", words, p.ex_date)
    if p.pay_date is not None and pays:
        yield _event(f"pay-{key}", p.pay_date, f"{p.name} pays", words, p.ex_date)


def _event(uid: str, day: date, summary: str, words: str, made: date) -> Event:
    event = Event()
    event.add("uid", f"{uid}@hearth-yield")
    event.add("dtstamp", datetime.combine(made, time(), UTC))
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("summary", summary)
    event.add("description", words)
    event.add("transp", "TRANSPARENT")
    return event


def calendar_secret(database: Database) -> str | None:
    with database.read() as connection:
        return calendar.secret(connection)


def new_secret(database: Database) -> str:
    """Another address; the one before answers no more."""
    made = secrets.token_urlsafe(24)
    with database.write(facts=False) as connection:
        calendar.set_secret(connection, made)
    return made


def no_secret(database: Database) -> None:
    with database.write(facts=False) as connection:
        calendar.set_secret(connection, None)


def subscribed(cache: ReviewCache, secret: str, today: date, at: Edition) -> bytes:
    """What a calendar program gets. Raises NotFound for another secret than the one that counts."""
    held = calendar_secret(cache.database)
    if held is None or not secrets.compare_digest(held.encode(), secret.encode()):
        raise NotFound("there is no such calendar", field="secret")
    return calendar_file(cache, today, at)
