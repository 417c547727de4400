"""What the dividend did in each past slump. (docs/method.md, Record)"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from ..facts.payer_file import PayerFile
from ..facts.records import Slump
from ..figures.figure import Figure, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from .declared_rate import declared_rate_figure, read_rate
from .eras import compare_payments, eras_in
from .payments import READ_BACK, STOPS, Outcome, Payment, manual_edits_between, payments_of


@dataclass(frozen=True, slots=True, kw_only=True)
class SlumpPaid(HoldsFigures):
    """One slump. action: the worst that was declared in it, in a word; None before anything was
    paid. before, after: the declared rate on the day it began and on the day it ended."""

    slump: Slump
    place: int
    action: str | None
    before: Figure
    after: Figure
    change: Figure

    @property
    def key(self) -> str:
        return str(self.place)


_WORST = (Outcome.SUSPENDED, Outcome.CUT, Outcome.RAISED, Outcome.RESUMED, Outcome.STARTED)


def slumps_paid(file: PayerFile) -> tuple[SlumpPaid, ...]:
    """The slumps known by the day, the oldest first."""
    payments = payments_of(file)
    compared = compare_payments(payments, eras_in(file))
    outcomes = [c.outcome for c in compared]
    return tuple(
        _in_slump(file, payments, outcomes, slump, place) for place, slump in enumerate(file.slumps)
    )


def _in_slump(
    file: PayerFile,
    payments: Sequence[Payment],
    outcomes: Sequence[Outcome],
    slump: Slump,
    place: int,
) -> SlumpPaid:
    ends = min(slump.ends or file.last_day, file.last_day)
    inside = [
        o for p, o in zip(payments, outcomes, strict=True) if slump.begins <= p.known_on <= ends
    ]
    stopped = any(slump.begins <= n.declared_on <= ends and n.kind in STOPS for n in file.notices)
    before, after = _rate_on(file, payments, slump.begins), _rate_on(file, payments, ends)
    change = derive(
        f"declared rate over {slump.name}",
        Unit.FRACTION,
        "declared rate when it ended ÷ when it began − 1",
        [after, before],
        lambda now, then: now / then - 1 if then > 0 else Unknown("nothing was being paid"),
    )
    begun = any(p.known_on <= ends for p in payments)
    return SlumpPaid(
        slump=slump,
        place=place,
        action=_action(inside, stopped) if begun else None,
        before=before,
        after=after,
        change=change,
    )


def _action(inside: Sequence[Outcome], stopped: bool) -> str:
    if stopped:
        return Outcome.SUSPENDED.value
    for outcome in _WORST:
        if outcome in inside:
            return outcome.value
    return Outcome.HELD.value if inside else "nothing declared"


def _rate_on(file: PayerFile, payments: Sequence[Payment], day: date) -> Figure:
    """The declared rate as that day would have read it, in today's shares."""
    label = f"declared rate on {day.isoformat()}"
    known = [p for p in payments if p.known_on <= day]
    by_hand = manual_edits_between(file, day - READ_BACK if known else date.min)
    if not known:
        why = "nothing had been declared by then"
        return unknown(label, Unit.PER_SHARE, why).with_touch(by_hand)
    notices = [n for n in file.notices if n.declared_on <= day]
    reading = read_rate(known, notices, file.payer, day)
    if reading.lapses_on is not None and day > reading.lapses_on:
        why = "lapsed by then: nothing new had been declared"
        return unknown(label, Unit.PER_SHARE, why).with_touch(by_hand)
    return declared_rate_figure(file, reading).but(label=label).with_touch(by_hand)
