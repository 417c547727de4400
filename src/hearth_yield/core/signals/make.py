"""All signals of a payer between two days: the same whether the days are taken one by one or
together. (docs/method.md, Signals)"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import cache

from ..facts.payer_file import PayerFile
from ..judging.house_rules import HouseRules
from ..review import Review, computing, review_of
from .announced import DIVIDENDS, ESTIMATES, GOES_EX, GUIDED
from .changed import EXPECTATIONS, GROWN_OLD, LOOKS_DUE, STATES
from .held import HELD
from .prices import FAR_FROM_MEAN, REACHED
from .signal import UNFOLLOWED, Followed, Signal, SignalGround, SignalKind, SignalMaker, Whose

MAKERS: tuple[SignalMaker, ...] = (
    REACHED,
    DIVIDENDS,
    GOES_EX,
    STATES,
    FAR_FROM_MEAN,
    ESTIMATES,
    GUIDED,
    EXPECTATIONS,
    LOOKS_DUE,
    GROWN_OLD,
)
KINDS: dict[str, SignalKind] = {
    kind.id: kind for kind in (*HELD, *(kind for maker in MAKERS for kind in maker.kinds))
}
"""Every kind there is by id, in the order they are told."""


def whose(rules: HouseRules, kind: SignalKind) -> Whose:
    """Of whom a kind is asked for."""
    said = rules.signals.get(kind.id)
    return kind.whose if said is None else Whose(said)


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
        ground = SignalGround(
            file=whole.cut(until),
            rules=rules,
            since=since,
            until=until,
            followed=followed,
            reviewed=cache(reviewed or (lambda day: review_of(whole, day, rules))),
        )
        found = {
            (s.kind.id, s.event): s
            for maker in MAKERS
            if any(_wanted(rules, kind, followed) for kind in maker.kinds)
            for s in maker.make(ground)
            if since < s.day <= until and _asked(rules, s, followed)
        }
    return sorted(found.values(), key=lambda s: (s.day, s.kind.id, s.event))


def _wanted(rules: HouseRules, kind: SignalKind, followed: Followed) -> bool:
    of = whose(rules, kind)
    follows = bool(followed.waits or followed.steps)
    return of is Whose.ALL or (of is Whose.FOLLOWED and follows)


def _asked(rules: HouseRules, signal: Signal, followed: Followed) -> bool:
    of = whose(rules, signal.kind)
    return of is Whose.ALL or (of is Whose.FOLLOWED and followed.on(signal.day))
