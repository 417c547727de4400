"""Signals of what is held: made anew from the ledger whenever they are asked for, and seen once."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from hearth_yield.core.signals.held import (
    HELD,
    MISSING,
    SAME,
    SHORT,
    signals_of_dues,
    signals_of_rates,
)
from hearth_yield.core.signals.make import whose
from hearth_yield.core.signals.signal import Whose
from hearth_yield.store import signals
from hearth_yield.store.database import Edition
from hearth_yield.store.signals import KeptSignal

from .make_signals import LOOKED_BACK, unseen_signals
from .make_signals import newest_signals as newest_of_payers
from .read_income import read_income
from .review_cache import ReviewCache


def signals_of_holdings(cache: ReviewCache, as_of: date, at: Edition) -> list[KeptSignal]:
    """Those that could be known by a day, the newest first."""
    rules = cache.house_rules(at)
    asked = {kind.id for kind in HELD if whose(rules, kind) is Whose.HELD}
    with cache.database.read() as connection:
        first = signals.first_source(connection)
        seen = signals.seen_of(connection, [kind.id for kind in HELD])
    if first is None or not asked:
        return []
    income = read_income(cache, as_of, at, after_tax=False)
    days = {e.id: e.day for e in income.ground.entries}
    names = {a.id: a.name for a in income.ground.accounts}
    told = income.explained
    dues = [d for d in income.dues if d.ex_date is None or (d.place, d.ex_date) not in told]
    made = [
        *signals_of_dues(dues, days.__getitem__, names),
        *signals_of_rates(income.changed.changes, income.ground.home),
    ]
    begins = first - LOOKED_BACK
    found = []
    for (exchange, symbol), signal in made:
        payer = income.held.payers.get((exchange, symbol))
        begun = signal.kind in (MISSING, SHORT) or begins < signal.day
        if signal.kind.id in asked and begun and signal.day <= as_of:
            event = (exchange, symbol, signal.kind.id, signal.event)
            found.append(
                KeptSignal(
                    exchange=exchange,
                    symbol=symbol,
                    name=payer.name if payer else symbol,
                    currency=payer.currency if payer else "",
                    signal=signal,
                    seen=event in seen,
                )
            )
    return sorted(found, key=lambda k: (-k.signal.day.toordinal(), k.name, k.signal.event))


def newest_signals(
    cache: ReviewCache, as_of: date, at: Edition, *, unseen: bool = False, limit: int = 500
) -> Sequence[KeptSignal]:
    """All that could be known by a day, the newest first; one event is told once."""
    mine = signals_of_holdings(cache, as_of, at)
    others = newest_of_payers(cache.database, as_of, unseen=unseen, limit=limit)
    told = _told(mine)
    both = [k for k in mine if not (unseen and k.seen)]
    both += [k for k in others if _event(k) not in told]
    newest = sorted(both, key=lambda k: (-k.signal.day.toordinal(), k.name))
    return newest[:limit]


def unseen_in_all(cache: ReviewCache, as_of: date, at: Edition) -> int:
    """How many are new."""
    mine = signals_of_holdings(cache, as_of, at)
    told = _told(mine)
    count = unseen_signals(cache.database, as_of)
    if count and told:
        others = newest_of_payers(cache.database, as_of, unseen=True)
        count -= sum(_event(k) in told for k in others)
    return count + sum(not k.seen for k in mine)


def _told(mine: Sequence[KeptSignal]) -> set[tuple[str, str, str, date]]:
    """What of other kinds tells the same event."""
    return {
        (k.exchange, k.symbol, kind, k.signal.day)
        for k in mine
        for kind in SAME.get(k.signal.kind, ())
    }


def _event(kept: KeptSignal) -> tuple[str, str, str, date]:
    return (kept.exchange, kept.symbol, kept.signal.kind.id, kept.signal.day)
