"""What Cover found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..facts.statements import words
from ..figures.figure import Figure
from ..figures.measure import Part, Sentence
from ..figures.ties import above, at_least
from ..judging.judge import Test
from .bases import Basis
from .cover import BasisCover, Cover
from .measures import PAYOUT

AS_PAID_CALLED_OUT = 0.10


def finding(cover: Cover, tests: Sequence[Test]) -> Sentence:
    lead = cover.leading
    name, now = words(lead.basis), lead.declared
    parts: list[Part]
    if not cover.ground.file.payer.kind.is_judged and now.value is None:
        return ("Not judged: what a fund, bond or other pays is held against no earnings.",)
    if cover.declared_rate.value == 0:
        parts = ["Nothing is being paid", *_last_payout(lead, name)]
    elif now.breach:
        parts = [f"{now.breach.capitalize()} in {now.period}: {name} does not pay for the dividend"]
    elif now.value is None:
        parts = [f"Payout from {name} unknown: {now.reason}"]
    else:
        parts = ["Pays out ", now, f" of {name} at the declared rate"]
        if lead.through_cycle.known:
            parts += [", ", lead.through_cycle, " through the cycle"]
        parts += _as_paid(lead)
    ahead = _ahead(cover)
    return (*parts, *_tightest(tests, name), ".", *_not_covered(lead, name), *ahead)


def _tightest(tests: Sequence[Test], name: str) -> Sentence:
    """How far the required test with the smallest cushion is from its limit."""
    tightest = next((t for t in tests if t.required), None)
    if tightest is None or tightest.cushion.value is None:
        return ()
    room = tightest.cushion
    if at_least(1 + (room.value or 0.0), 1.0):
        return (f"; {tightest.falls or name} can fall ", room)
    which = "" if tightest.id == PAYOUT.id else f"{tightest.short} "
    return (f"; {which}{tightest.beyond}",)


def _not_covered(lead: BasisCover, name: str) -> Sentence:
    """That the basis was less than the dividend, whatever the person's limit is."""
    paid = lead.latest.payout if lead.latest else None
    if lead.latest is None or paid is None or paid.value is None or not above(paid.value, 1.0):
        return ()
    return (f" {name[:1].upper()}{name[1:]} did not cover the dividend in {lead.latest.label}.",)


def _ahead(cover: Cover) -> Sentence:
    """That what is expected of the year ahead would not cover the dividend: of the leading basis,
    of companies else of earnings."""
    lead = cover.leading.basis
    asked = (lead, Basis.EARNINGS) if lead is Basis.FREE_CASH_FLOW else (lead,)
    held = sorted((b for b in cover.bases if b.basis in asked), key=lambda b: b.basis is not lead)
    found = next((b for b in held if b.forward is not None and _uncovered(b.forward)), None)
    if found is None or found.forward is None:
        return ()
    expected, of = found.forward, f"{words(found.basis)} expected of {found.forward.period}"
    if expected.breach:
        return (f" {of[:1].upper()}{of[1:]} would not cover it: {expected.breach}.",)
    return (f" {of[:1].upper()}{of[1:]} would not cover it: payout ", expected, ".")


def _uncovered(payout: Figure) -> bool:
    return bool(payout.breach) or (payout.value is not None and above(payout.value, 1.0))


def _last_payout(lead: BasisCover, name: str) -> Sentence:
    """Of the newest fiscal year in which something was paid."""
    paid = [y for y in lead.years if y.payout.known or y.payout.breach]
    if not paid:
        return ()
    last = paid[-1]
    if last.payout.breach:
        return (f"; last paid in {last.label}, out of a {last.payout.breach}",)
    return ("; the last payout was ", last.payout, f" of {name}, in {last.label}")


def _as_paid(lead: BasisCover) -> Sentence:
    """Last year's payout as it was paid, where a cut or a leap of the basis sets it far apart."""
    if lead.latest is None:
        return ()
    paid, now = lead.latest.payout, lead.declared.value
    if paid.breach:
        return (f" ({paid.breach} in {lead.latest.label})",) if now is not None else ()
    if paid.value is None or now is None or abs(paid.value - now) <= AS_PAID_CALLED_OUT:
        return ()
    return (" (", paid, f" was paid in {lead.latest.label})")
