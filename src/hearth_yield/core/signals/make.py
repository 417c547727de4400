"""All signals of a payer between two days: the same whether the days are taken one by one or
together. (docs/method.md, Signals)"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import date
from functools import cache

from ..facts.payer_file import PayerFile
from ..judging.house_rules import HouseRules
from ..review import Review, computing, review_of
from .announced import dividends, estimates_cut, ex_soon, guidance_changed, notices
from .changed import changed, expectations, grown_old, looks, looks_due
from .prices import far_from_mean, reached
from .signal import UNFOLLOWED, Followed, Signal, SignalKind, Whose, whose


def signals_of(
    whole: PayerFile,
    rules: HouseRules,
    since: date,
    until: date,
    followed: Followed = UNFOLLOWED,
    reviewed: Callable[[date], Review] | None = None,
) -> list[Signal]:
    """What could be known from the day after `since` to `until`, the oldest first.

    whole: all facts of the payer; none that is known later than `until` counts. reviewed: its
    review on a day under the house's question, where the caller holds some.
    Raises: Uncomputable.
    """
    with computing(whole.payer):
        file = whole.cut(until)
        found = {
            (s.kind, s.event): s
            for s in _made(whole, file, rules, since, until, followed, reviewed)
            if since < s.day <= until and _asked(rules, s, followed)
        }
    return sorted(found.values(), key=lambda s: (s.day, s.kind, s.event))


def _asked(rules: HouseRules, signal: Signal, followed: Followed) -> bool:
    of = whose(rules, signal.kind)
    return of is Whose.ALL or (of is Whose.FOLLOWED and followed.on(signal.day))


def _made(
    whole: PayerFile,
    file: PayerFile,
    rules: HouseRules,
    since: date,
    until: date,
    followed: Followed,
    reviewed: Callable[[date], Review] | None,
) -> Iterator[Signal]:
    def wanted(*kinds: SignalKind) -> bool:
        most = {whose(rules, k) for k in kinds}
        follows = bool(followed.waits or followed.steps)
        return Whose.ALL in most or (follows and Whose.FOLLOWED in most)

    ask = cache(reviewed or (lambda day: review_of(whole, day, rules)))
    if followed.waits or followed.steps:
        yield from reached(file, followed, rules)
        yield from looks_due(followed)
    if wanted(SignalKind.DECLARED, SignalKind.RAISED, SignalKind.CUT, SignalKind.RESUMED):
        yield from dividends(file, since, until)
    yield from notices(file)
    if wanted(SignalKind.EX_SOON):
        yield from ex_soon(file, rules)
    if wanted(SignalKind.ESTIMATE_CUT):
        yield from estimates_cut(file, rules)
    if wanted(SignalKind.GUIDANCE_CHANGED):
        yield from guidance_changed(file)
    if wanted(SignalKind.MEAN_CROSSED):
        yield from far_from_mean(file, rules)
    if wanted(SignalKind.DATA_OLD):
        yield from grown_old(file, until)
    if wanted(SignalKind.TEST_CHANGED, SignalKind.FINDING_CHANGED):
        days = looks(file, since, until)
        if len(days) > 1:
            yield from changed(days, ask)
    if wanted(SignalKind.EXPECTATION):
        yield from expectations(file, followed, since, until, ask)
