"""See to it that signals are made up to today: when facts came or went, the day moved, or the
person decided something else."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from hashlib import sha256

from sqlalchemy import Connection

from hearth_yield.collector import at_rest
from hearth_yield.core.errors import InvalidInput, Uncomputable
from hearth_yield.core.judging.house_rules import HouseRules
from hearth_yield.core.signals.make import KINDS, signals_of
from hearth_yield.core.signals.signal import UNFOLLOWED, Followed, Signal, Wait
from hearth_yield.faults_log import note_if_ours
from hearth_yield.progress import Progress
from hearth_yield.store import decisions, entry_steps, payer_files, signals
from hearth_yield.store.database import Database
from hearth_yield.store.decisions import Waited
from hearth_yield.store.signals import Event
from hearth_yield.store.signals import KeptSignal as KeptSignal

from .ensure_measures import BATCH, ground
from .since_decided import expectation_of

LOOKED_BACK = timedelta(days=60)
"""So long before the first facts that are held its signals begin."""
MOST_EVENTS = 5000
Key = tuple[str, str]


def ensure_signals(
    database: Database, rules: HouseRules, today: date, progress: Progress | None = None
) -> int:
    """Make all signals that are missing up to a day, and again those that rest on other facts,
    rules or decisions. Returns of how many payers.

    progress: called with step, payers done and payers due; raising from it stops between batches,
    and what was made until then stays.
    """
    with database.read() as connection:
        begins, followed, grounds, plain = _grounds(connection, rules)
        if begins is None:
            return 0
        due = signals.due(connection, today, grounds, plain)
        shared = payer_files.Shared()
    for start in range(0, len(due), BATCH):
        if progress:
            progress("signals", start, len(due))
        made = []
        with database.read() as connection, at_rest():
            for d in due[start : start + BATCH]:
                key = (d.exchange, d.symbol)
                since = begins if d.since is None else max(begins, d.since)
                found: Sequence[Signal] = ()
                if since < today:
                    file = payer_files.load(connection, *key, shared)
                    try:
                        found = signals_of(file, rules, since, today, followed.get(key, UNFOLLOWED))
                    except Uncomputable as error:
                        note_if_ours(error)
                        found = ()
                made.append((d, found, min(since, today)))
        with database.write(facts=False, patient=True) as connection:
            for d, found, since in made:
                on = grounds.get((d.exchange, d.symbol), plain)
                signals.keep(connection, d, found, since, today, on)
    return len(due)


def pending_signals(database: Database, rules: HouseRules, today: date) -> int:
    """Of how many payers signals are to be made."""
    with database.read() as connection:
        begins, _, grounds, plain = _grounds(connection, rules)
        return 0 if begins is None else len(signals.due(connection, today, grounds, plain))


def _grounds(
    connection: Connection, rules: HouseRules
) -> tuple[date | None, Mapping[Key, Followed], Mapping[Key, str], str]:
    """From which day signals are made, what is followed, and what they rest on: of each payer that
    is followed, and of the others."""
    first = signals.first_source(connection)
    begins = None if first is None else first - LOOKED_BACK
    followed = followed_by_payer(connection)
    plain = f"{ground(rules)}/{begins}"
    grounds = {key: sha256(f"{plain}/{of!r}".encode()).hexdigest() for key, of in followed.items()}
    return begins, followed, grounds, plain


def followed_by_payer(connection: Connection) -> dict[Key, Followed]:
    """What the person has on each payer: decisions that stand or stood, and entry steps."""
    made: dict[Key, list[Waited]] = {}
    for decision in decisions.waited(connection):
        made.setdefault((decision.exchange, decision.symbol), []).append(decision)
    steps = entry_steps.everyones(connection)
    return {
        key: Followed(waits=_waits(made.get(key, ())), steps=tuple(steps.get(key, ())))
        for key in {*made, *steps}
    }


def _waits(newest_first: Sequence[Waited]) -> tuple[Wait, ...]:
    """Each decision stands until the next one."""
    found: list[Wait] = []
    until: date | None = None
    for d in newest_first:
        found.append(
            Wait(
                made=d.as_of,
                until=until,
                buy_below=None if d.buy_below is None else float(d.buy_below),
                trim_above=None if d.trim_above is None else float(d.trim_above),
                next_look=d.next_look,
                expectations=tuple(expectation_of(e) for e in d.expectations),
            )
        )
        until = d.as_of
    return tuple(reversed(found))


def newest_signals(
    database: Database, until: date, *, unseen: bool = False, limit: int = 500
) -> Sequence[KeptSignal]:
    """Those that could be known by a day, the newest first, as far as they are made."""
    with database.read() as connection:
        return signals.newest(connection, until, unseen=unseen, limit=limit)


def unseen_signals(database: Database, until: date) -> int:
    """How many are new, as far as they are made."""
    with database.read() as connection:
        return signals.unseen(connection, until)


def mark_signals(database: Database, events: Sequence[Event], *, at: str | None) -> None:
    """at: when they were seen; None: they are unseen again. Raises InvalidInput."""
    if len(events) > MOST_EVENTS:
        raise InvalidInput(
            "too many signals at once",
            field="events",
            value=len(events),
            rule=f"at most {MOST_EVENTS}",
        )
    for _, _, kind, _ in events:
        if kind not in KINDS:
            raise InvalidInput(
                "there is no such kind of signal",
                field="kind",
                value=kind,
                rule=f"one of {', '.join(sorted(KINDS))}",
            )
    with database.write(facts=False) as connection:
        signals.mark(connection, events, at)
