"""What happened to the income of what is held: payments that did not come as due, and the income a
year raised or cut by its payers. (docs/method.md, Signals)"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping
from datetime import date, timedelta

from ..figures.figure import Unit
from ..figures.measure import Stage
from ..household.amounts import minor_digits
from ..household.entries import PayerKey
from ..household.income.change import Change, Why
from ..household.income.due import Answer, Due
from .announced import CUT, RAISED, RESUMED, SUSPENDED
from .signal import Said, Signal, SignalKind, Value, Whose

MISSING = SignalKind(
    id="payment_missing",
    name="Payment missing",
    means="A payment of what you hold was due, and nothing of it is entered.",
    whose=Whose.HELD,
    asks=True,
)
SHORT = SignalKind(
    id="payment_short",
    name="Payment short",
    means="Less came of a payment than was due.",
    whose=Whose.HELD,
    asks=True,
)
INCOME_RAISED = SignalKind(
    id="income_raised",
    name="Income raised",
    means="A payer you hold raised what it declares: by how much your income a year grows.",
    whose=Whose.HELD,
)
INCOME_CUT = SignalKind(
    id="income_cut",
    name="Income cut",
    means="A payer you hold cut what it declares: by how much your income a year falls.",
    whose=Whose.HELD,
    asks=True,
)
HELD: tuple[SignalKind, ...] = (MISSING, SHORT, INCOME_CUT, INCOME_RAISED)
OF_RATES = {
    Why.RAISED: INCOME_RAISED,
    Why.BEGUN: INCOME_RAISED,
    Why.CUT: INCOME_CUT,
    Why.ENDED: INCOME_CUT,
}
SAME = {INCOME_RAISED: {RAISED.id, RESUMED.id}, INCOME_CUT: {CUT.id, SUSPENDED.id}}
"""What tells the same event of any payer, without what it does to the income."""
LEAST = 0.005
"""A change of the income that rounds to nothing is none."""


def signals_of_dues(
    dues: Iterable[Due], came_on: Callable[[int], date], accounts: Mapping[int, str]
) -> Iterator[tuple[PayerKey, Signal]]:
    """Of payments that are missing, or of which too little came. came_on: the day of an entry.
    accounts: their names, said where there are several."""
    for due in dues:
        if due.ex_date is None or due.answer not in (Answer.MISSING, Answer.SHORT):
            continue
        account, payer = due.place
        of = f" in {accounts[account]}" if len(accounts) > 1 else ""
        event = f"{account}:{due.ex_date.isoformat()}"
        net = _money(due.net, due.currency)
        if due.answer is Answer.MISSING:
            kind, day = MISSING, due.last + timedelta(days=1)
            said: tuple[Said, ...] = (net, " that was due on ", due.comes, f"{of} is not entered")
        else:
            kind, day = SHORT, max(map(came_on, due.entries))
            came = _money(due.came or 0, due.came_in)
            said = (came, " came of the ", net, " due on ", due.comes, of)
        yield payer, Signal(kind=kind, day=day, event=event, stage=Stage.RECORD, said=said)


def signals_of_rates(changes: Iterable[Change], home: str) -> Iterator[tuple[PayerKey, Signal]]:
    """Of each payer and day on which its rate changed, in all accounts together."""
    sums: dict[tuple[PayerKey, date, SignalKind], float] = defaultdict(float)
    for change in changes:
        kind = OF_RATES.get(change.why)
        if kind is not None:
            sums[change.place[1], change.day, kind] += change.by
    for (payer, day, kind), by in sums.items():
        if abs(by) < LEAST:
            continue
        raised = kind is INCOME_RAISED
        said: tuple[Said, ...] = (
            f"it {'raised' if raised else 'cut'} its dividend: ",
            Value(abs(by), Unit.INDEX, home),
            f" a year {'more' if raised else 'less'} for you",
        )
        event = day.isoformat()
        yield payer, Signal(kind=kind, day=day, event=event, stage=Stage.RECORD, said=said)


def _money(units: int, currency: str) -> Value:
    return Value(units / float(10 ** minor_digits(currency)), Unit.INDEX, currency)
