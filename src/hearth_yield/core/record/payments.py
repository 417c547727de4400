"""Regular payments in today's shares, how often they come, and what each is compared with.

docs/method.md, Record. A history falls into **eras**: one begins after a suspension, and where the
rhythm changes. Within an era a payer is level, or uneven by slot (interim and final).
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from itertools import pairwise
from typing import Literal

from msgspec import Struct

from ..facts.edits import BY_HAND
from ..facts.records import (
    Dividend,
    DividendKind,
    Notice,
    NoticeKind,
    Payer,
    PayerFile,
    pending_factor,
    split_factor,
)
from ..figures.figure import Figure, Touch, Unit, Unknown, touch_of

SLOT_DAYS = 45
"""The furthest that a payment may slide from its slot; half the interval between payments where
that is less."""
RHYTHM_DAYS = 345
STOPS = (NoticeKind.OMITTED, NoticeKind.SUSPENDED)


class Payment(Struct, frozen=True, kw_only=True):
    """A dividend in today's shares. ordinal: of its ex-date."""

    ex_date: date
    ordinal: int
    known_on: date
    amount: float
    per_year: int | None
    fact: Dividend
    split_touch: Touch | None = None

    def figure(self, currency: str) -> Figure:
        raw = self.fact.amount
        notes: tuple[str, ...] = ()
        if raw != self.amount:
            notes += (f"{raw:g} in the shares of its ex-date",)
        if self.fact.edited:
            notes += (self.fact.edited.note,)
        elif self.fact.entered:
            notes += (BY_HAND,)
        if self.fact.assumed:
            notes += ("the day is assumed: what a year paid, as one payment at its end",)
        kind = self.fact.kind.value.replace("_", " ")
        foreign = in_another_currency([self], currency)
        return Figure(
            label=f"{kind} dividend, ex {self.ex_date.isoformat()}",
            unit=Unit.PER_SHARE,
            value=None if foreign else self.amount,
            reason=foreign,
            currency=currency,
            known_on=self.known_on,
            source=self.fact.source,
            notes=notes,
            touch=touch_of([self.fact.touch, self.split_touch]),
            fact=self.fact.at,
        )


def payments_of(file: PayerFile, kind: DividendKind = DividendKind.REGULAR) -> list[Payment]:
    """The file's dividends of one kind by ex-date, in today's shares; made once for each file."""
    held: list[Payment] | None = file.made.get(kind)
    if held is None:
        held = file.made[kind] = _payments(file, kind)
    return held


def _payments(file: PayerFile, kind: DividendKind) -> list[Payment]:
    """An amount is in the shares of its ex-date: those of before an effective split are divided by
    it, and those that go ex after one still to come are multiplied by it."""
    return [
        Payment(
            ex_date=d.ex_date,
            ordinal=d.ex_date.toordinal(),
            known_on=d.known_on,
            amount=d.amount
            * pending_factor(file.pending_splits, d.ex_date)
            / split_factor(file.splits, d.ex_date),
            per_year=d.payments_per_year,
            fact=d,
            split_touch=file.split_touch(d.ex_date),
        )
        for d in file.dividends
        if d.kind is kind
    ]


def in_another_currency(payments: Sequence[Payment], currency: str) -> str | None:
    """Why payments cannot be added up or held against a price; None where nothing stands in the
    way. An amount in another currency is never taken for one in the payer's."""
    other = next((p.fact.currency for p in payments if p.fact.currency != currency), None)
    return other and f"paid in {other}, which is not converted to {currency}"


def manual_edits_between(file: PayerFile, first: date, last: date = date.max) -> Touch | None:
    """Whether a person had a hand in the payments and notices between two days, both included: a
    rhythm, a streak or a cut is read from all of them, also from those that are not there."""
    if "hand" not in file.made:
        file.made["hand"] = _touched_days(file)
    found: list[tuple[date, Touch]] = file.made["hand"]
    return touch_of([touch for day, touch in found if first <= day <= last]) if found else None


def _touched_days(file: PayerFile) -> list[tuple[date, Touch]]:
    touches = [
        *((p.ex_date, touch_of([p.fact.touch, p.split_touch])) for p in payments_of(file)),
        *((n.declared_on, Touch.ENTERED if n.entered else None) for n in file.notices),
        *(
            (x.day, Touch.EDITED)
            for x in file.exclusions
            if x.table == "dividend_notices" or x.kind == DividendKind.REGULAR
        ),
    ]
    return [(day, touch) for day, touch in touches if touch is not None]


READ_BACK = timedelta(days=1100)
"""How far a reading of the rate looks back: two years of slots, and until it lapses."""
READ_BY_HAND = "read from payments of which some were entered or edited"


def ordinals_of(payments: Sequence[Payment]) -> list[int]:
    """Ex-dates as numbers of days, which counting goes by."""
    return [p.ordinal for p in payments]


def _count_to(days: Sequence[int], last: int) -> int:
    """Payments with ex-dates in the 345 days up to and including `last`."""
    return bisect_right(days, last) - bisect_left(days, last - RHYTHM_DAYS + 1)


def _count_from(days: Sequence[int], i: int) -> int | None:
    """Payments in the 345 days from the one at i on; None where they are not all over yet."""
    until = days[i] + RHYTHM_DAYS
    return None if days[-1] < until else bisect_left(days, until) - i


def year_before(days: Sequence[int], i: int) -> int | None:
    """Index of the payment nearest to a year before the one at i, within the reach of a slide: 45
    days, or half the interval to the payment before where that is less."""
    if i == 0:
        return None
    target = days[i] - 365
    reach = min(SLOT_DAYS, (days[i] - days[i - 1]) / 2)
    after = bisect_left(days, target, hi=i)
    best = after if after < i else after - 1
    if 0 < after < i and target - days[after - 1] <= days[after] - target:
        best = after - 1
    return best if abs(days[best] - target) <= reach else None


def _counts(days: Sequence[int], i: int) -> tuple[int, int]:
    """Payments in the 345 days to the one at i, and in those to the one a year before it."""
    before = year_before(days, i)
    year_ago = days[i] - 365 if before is None else days[before]
    return _count_to(days, days[i]), _count_to(days, year_ago)


def read_rhythm(
    payments: Sequence[Payment], payer: Payer, days: Sequence[int] | None = None
) -> int | Unknown:
    """Payments a year: stated with the dividend, known of the payer, or counted.

    The count is compared with the one ending at the payment nearest to a year earlier, so that
    an ex-date that slides by a few days does not look like a change of rhythm. days: the payments'
    `ordinals_of`, where the caller has them.
    Source: docs/method.md, Record.
    """
    stated = payments[-1].per_year or payer.rhythm
    if stated:
        return stated
    newest = payments[-1].ex_date
    now, then = _counts(days or ordinals_of(payments), len(payments) - 1)
    if then == 0 and payments[0].ordinal > newest.toordinal() - 2 * 365:
        return Unknown(
            f"rhythm not settled: {now} payment{'s' if now != 1 else ''} in the {RHYTHM_DAYS} days "
            f"to {newest.isoformat()}, none a year earlier"
        )
    if now != then:
        return Unknown(
            f"rhythm changing: {now} payments in the {RHYTHM_DAYS} days to "
            f"{newest.isoformat()}, {then} a year earlier"
        )
    return now


def is_uneven(payments: Sequence[Payment], rhythm: int, payer: Payer) -> bool:
    """Whether payments differ by slot (interim and final), the same way two years running."""
    if payer.evenness is not None:
        return payer.evenness == "uneven"
    if rhythm < 2 or len(payments) < 2 * rhythm + 1:
        return False
    amounts = [p.amount for p in payments[-(2 * rhythm + 1) :]]
    if min(amounts) <= 0 or not _falls(amounts):
        return False
    steps = [b / a - 1 for a, b in pairwise(amounts)]
    pairs = list(zip(steps[:rhythm], steps[rhythm:], strict=True))
    fell = any(a < -0.02 and b < -0.02 for a, b in pairs)
    rose = any(a > 0.02 and b > 0.02 for a, b in pairs)
    return fell and rose


def _falls(amounts: Sequence[float]) -> bool:
    """Whether one is more than 2 % below the one before. Asked for each day a rate became known,
    hence no generator."""
    before = amounts[0]
    for amount in amounts:
        if amount < 0.98 * before:
            return True
        before = amount
    return False


def is_unsettled_pair(payments: Sequence[Payment], rhythm: int, payer: Payer) -> bool:
    """Two payments a year, fewer than five on record and nothing stated: whether they are interim
    and final cannot be told yet, so each is compared with its own slot only."""
    return payer.evenness is None and rhythm == 2 and len(payments) < 2 * rhythm + 1


class Outcome(StrEnum):
    """What happened to a payment, and to a year of them."""

    STARTED = "started"
    RAISED = "raised"
    HELD = "held"
    CUT = "cut"
    SUSPENDED = "suspended"
    RESUMED = "resumed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Era:
    """Payments from first to last, both included, of one rhythm; None: it cannot be counted yet.

    slots: how many payments back a payment's own predecessor lies: 1 for a level payer, a year's
    payments for an uneven one. follows: what came before it.
    """

    first: int
    last: int
    rhythm: int | None
    slots: int
    follows: Literal["nothing", "stop", "change"]


def eras_of(
    payments: Sequence[Payment], notices: Sequence[Notice], payer: Payer
) -> tuple[Era, ...]:
    """The eras of a history, the oldest first. Source: docs/method.md, Record."""
    found: list[Era] = []
    for begin, end in _between_stops(payments, notices):
        held = payments[begin:end]
        rhythms = _rhythms(held, payer)
        starts = [j for j in range(len(held)) if j == 0 or rhythms[j] != rhythms[j - 1]]
        for j, after in zip(starts, [*starts[1:], len(held)], strict=True):
            mine, f = held[j:after], rhythms[j]
            apart = f and (is_uneven(mine, f, payer) or is_unsettled_pair(mine, f, payer))
            follows: Literal["nothing", "stop", "change"] = (
                "change" if j else "stop" if begin else "nothing"
            )
            found.append(
                Era(
                    first=begin + j,
                    last=begin + after - 1,
                    rhythm=f,
                    slots=f if f and apart else 1,
                    follows=follows,
                )
            )
    return tuple(found)


def eras_in(file: PayerFile) -> tuple[Era, ...]:
    """Those of a file's regular payments; made once for each file."""
    held: tuple[Era, ...] | None = file.made.get("eras")
    if held is None:
        held = file.made["eras"] = eras_of(payments_of(file), file.notices, file.payer)
    return held


def _between_stops(payments: Sequence[Payment], notices: Sequence[Notice]) -> list[tuple[int, int]]:
    """Ranges of payments, each up to a notice of omission or suspension."""
    stops = [n.declared_on for n in notices if n.kind in STOPS]
    cuts = [
        i
        for i in range(1, len(payments))
        if any(payments[i - 1].known_on <= s < payments[i].known_on for s in stops)
    ]
    edges = [0, *cuts, len(payments)]
    return [(a, b) for a, b in pairwise(edges) if b > a]


def _rhythms(payments: Sequence[Payment], payer: Payer) -> list[int | None]:
    """The rhythm of each payment: stated, or counted as soon as two years agree; then also for the
    payments in between, from the first that begins a year of the new rhythm."""
    found: list[int | None] = []
    days = ordinals_of(payments)
    for i, p in enumerate(payments):
        now, then = _counts(days, i)
        found.append(p.per_year or (now if now == then else None))
    known = [i for i, f in enumerate(found) if f is not None]
    if not known:
        return [payer.rhythm] * len(payments)
    found[: known[0]] = [found[known[0]]] * known[0]
    for before, after in pairwise(known):
        _settle(payments, days, found, before, after)
    _settle_newest(payments, days, found, known[-1], payer)
    return found


def _settle_newest(
    payments: Sequence[Payment],
    days: Sequence[int],
    found: list[int | None],
    last: int,
    payer: Payer,
) -> None:
    """Rhythms after the last known one; unknown where a year from a payment on is not over."""
    for i in range(last + 1, len(payments)):
        found[i] = payer.rhythm or _count_from(days, i)
    following = found[last + 1] if last + 1 < len(payments) else found[last]
    if following is None and not payments[last].per_year and last:
        often, before = _counts(days, last + 1)
        looks_cut = outcome_of(payments[last].amount, payments[last - 1].amount) is Outcome.CUT
        if often > before and looks_cut:
            found[last] = None


def _settle(
    payments: Sequence[Payment],
    days: Sequence[int],
    found: list[int | None],
    before: int,
    after: int,
) -> None:
    """Rhythms between two known ones, the indexes of which are given."""
    old, new = found[before], found[after]
    if old == new:
        found[before + 1 : after] = [old] * (after - before - 1)
        return
    turn = next((i for i in range(before + 1, after) if _count_from(days, i) == new), after)
    if turn == before + 1 and _belongs_to_the_new(payments, before, old or 1, new or 1):
        turn = before
    found[before + 1 : turn] = [old] * max(0, turn - before - 1)
    found[turn:after] = [new] * (after - turn)


def _belongs_to_the_new(payments: Sequence[Payment], i: int, old: int, new: int) -> bool:
    """The first payment of a new rhythm often comes on a day of the old one, and only its amount
    tells: at the old rhythm it would be a cut, at the new one it is none."""
    if i == 0 or payments[i].per_year:
        return False
    rate = payments[i - 1].amount * old
    return outcome_of(payments[i].amount * old, rate) is Outcome.CUT and (
        outcome_of(payments[i].amount * new, rate) is not Outcome.CUT
    )


TOLERANCE = 0.0005


def outcome_of(now: float, then: float) -> Outcome:
    """Raised or cut when above or below by more than 0.05 %, else held."""
    if now < then * (1 - TOLERANCE):
        return Outcome.CUT
    return Outcome.RAISED if now > then * (1 + TOLERANCE) else Outcome.HELD


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
    if into < era.slots and era.follows == "nothing":
        return Comparison(outcome=Outcome.STARTED)
    if into == 0 and old is not None and era.rhythm and old.rhythm:
        return _across(payments, old, era)
    if into and into < era.slots:
        return Comparison(outcome=Outcome.HELD)
    back = i - 1
    if era.slots > 1:
        slot = year_before(days, i)
        back = slot if slot is not None and slot >= era.first else i - era.slots
    changing = None
    if era.rhythm is None and old is not None:
        changing = _counts(days, era.last)
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
