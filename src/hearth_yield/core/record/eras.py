"""Eras of a history, and what each payment is compared with.

docs/method.md, Record. An era begins after a suspension, and where the rhythm changes. Within one a
payer is level, or uneven by slot (interim and final).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from ..facts.payer_file import PayerFile
from ..facts.records import Payer
from .payments import Outcome, Payment, counts_at, ordinals_of, outcome_of, payments_of, year_before
from .rhythm import Follower, apart, followed_in, handed_on, pattern_of


@dataclass(frozen=True, slots=True, kw_only=True)
class Era:
    """Payments from first to last, both included, of one rhythm; None: it cannot be told yet.

    slots: how many payments back a payment's own predecessor lies: 1 for a level payer, a year's
    payments for an uneven one. follows: what came before it. odd: payments that were one of a kind.
    """

    first: int
    last: int
    rhythm: int | None
    slots: int
    follows: Literal["nothing", "stop", "change"]
    odd: frozenset[int] = frozenset()


def eras_of(followed: Sequence[tuple[int, Follower]], payer: Payer, day: date) -> tuple[Era, ...]:
    """The eras of a history as a day reads it, the oldest first. Source: docs/method.md, Record."""
    found: list[Era] = []
    pattern: bool | None = None
    for begin, held in followed:
        rhythms = held.rhythms_on(day)
        starts = [j for j in range(len(rhythms)) if j == 0 or rhythms[j] != rhythms[j - 1]]
        for j, after in zip(starts, [*starts[1:], len(rhythms)], strict=True):
            f = rhythms[j]
            if f is not None:
                before = handed_on(pattern) if j else pattern
                pattern = pattern_of(held.payments[j:after], f, payer, before)
            follows: Literal["nothing", "stop", "change"] = (
                "change" if j else "stop" if begin else "nothing"
            )
            found.append(
                Era(
                    first=begin + j,
                    last=begin + after - 1,
                    rhythm=f,
                    slots=f if f and apart(pattern, f) else 1,
                    follows=follows,
                    odd=frozenset(begin + x for x in held.odd if j <= x < after),
                )
            )
    return tuple(found)


def eras_in(file: PayerFile) -> tuple[Era, ...]:
    """Those of a file's regular payments; made once for each file."""
    held: tuple[Era, ...] | None = file.made.get("eras")
    if held is None:
        held = file.made["eras"] = eras_of(followed_in(file), file.payer, file.day)
    return held


def raised_on(file: PayerFile) -> list[date]:
    """The days on which raises became known."""
    payments = payments_of(file)
    compared = compare_payments(payments, eras_in(file))
    pairs = zip(payments, compared, strict=True)
    return [p.known_on for p, c in pairs if c.outcome is Outcome.RAISED]


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    """What happened to a payment: indexes of the payments that were held against each other, and
    what each side was multiplied by to be of a year, where the rhythm changed in between."""

    outcome: Outcome
    now: tuple[int, ...] = ()
    then: tuple[int, ...] = ()
    now_times: int = 1
    then_times: int = 1


def compare_payments(payments: Sequence[Payment], eras: Sequence[Era]) -> list[Comparison]:
    """Each payment against its predecessor: the previous one, or for an uneven payer the same slot
    of the year before; where a new rhythm begins, yearly amounts against each other.

    One in another currency than its predecessor starts anew. Source: docs/method.md, Record.
    """
    found: list[Comparison] = []
    days = ordinals_of(payments)
    for place, era in enumerate(eras):
        old = eras[place - 1] if era.follows == "change" else None
        found += [_compared(payments, days, old, era, i) for i in range(era.first, era.last + 1)]
    return found


def _compared(
    payments: Sequence[Payment], days: Sequence[int], old: Era | None, era: Era, i: int
) -> Comparison:
    into = i - era.first
    if into == 0 and era.follows == "stop":
        return Comparison(outcome=Outcome.RESUMED)
    if into == 0 and era.follows == "nothing":
        return Comparison(outcome=Outcome.STARTED)
    if i in era.odd:
        return Comparison(outcome=Outcome.HELD)
    if into == 0 and old is not None and era.rhythm and old.rhythm:
        return _across(payments, old, era)
    if into and into < era.slots:
        return Comparison(outcome=Outcome.HELD)
    back = i - 1 if i - 1 not in era.odd else i - 2
    if era.slots > 1:
        slot = year_before(days, i)
        if slot is None or slot < era.first:
            return Comparison(outcome=Outcome.HELD)
        back = slot
    changing = None
    if era.rhythm is None and old is not None:
        changing = counts_at(days, era.last)
    return _between(payments, (i,), (back,), changing=changing)


def _across(payments: Sequence[Payment], old: Era, era: Era) -> Comparison:
    """The first payment of a new rhythm: its year against the year before."""
    now = tuple(range(era.first, era.first + era.slots))
    if now[-1] > era.last:
        return Comparison(outcome=Outcome.HELD)
    then = tuple(range(max(old.first, old.last - old.slots + 1), old.last + 1))
    return _between(
        payments,
        now,
        then,
        1 if era.slots > 1 else era.rhythm or 1,
        1 if old.slots > 1 else old.rhythm or 1,
    )


def _between(
    payments: Sequence[Payment],
    now: tuple[int, ...],
    then: tuple[int, ...],
    now_times: int = 1,
    then_times: int = 1,
    *,
    changing: tuple[int, int] | None = None,
) -> Comparison:
    """changing: the counts of payments now and a year earlier, where the rhythm cannot be told yet:
    less at once is then no cut while payments come more often, nor more at once a raise while they
    come less often."""
    if payments[now[0]].fact.currency != payments[then[-1]].fact.currency:
        return Comparison(outcome=Outcome.STARTED)
    outcome = outcome_of(
        now_times * sum(payments[i].amount for i in now),
        then_times * sum(payments[i].amount for i in then),
    )
    if changing is not None:
        explained = Outcome.CUT if changing[0] > changing[1] else Outcome.RAISED
        outcome = Outcome.HELD if outcome is explained else outcome
    return Comparison(
        outcome=outcome, now=now, then=then, now_times=now_times, then_times=then_times
    )
