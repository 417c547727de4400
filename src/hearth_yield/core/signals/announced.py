"""What a payer and those who follow it announced: dividends, stops, estimates, guidance."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date, timedelta
from itertools import pairwise

from ..estimates.newest import NAMES, unit_of
from ..facts.payer_file import PayerFile
from ..facts.records import DividendKind, Estimate, Guidance, NoticeKind, split_factor
from ..figures.figure import Unit
from ..figures.measure import Stage
from ..figures.ties import same
from ..record.eras import compare_payments, eras_in
from ..record.payments import Outcome, payments_of
from .signal import Said, Signal, SignalGround, SignalKind, SignalMaker, Value, Whose

DECLARED = SignalKind(
    id="declared",
    name="Dividend declared",
    means="A regular dividend as high as its predecessor, or a special one, was declared.",
)
RAISED = SignalKind(
    id="raised", name="Dividend raised", means="A dividend above its predecessor was declared."
)
CUT = SignalKind(
    id="cut",
    name="Dividend cut",
    means="A dividend under its predecessor was declared.",
    whose=Whose.ALL,
    asks=True,
)
SUSPENDED = SignalKind(
    id="suspended",
    name="Dividend suspended or left out",
    means="The payer said that it pays no dividend for now.",
    whose=Whose.ALL,
    asks=True,
)
RESUMED = SignalKind(
    id="resumed", name="Dividend resumed", means="The payer said that it pays again."
)
EX_SOON = SignalKind(
    id="ex_soon", name="Goes ex soon", means="A declared dividend goes ex within the days you set."
)
ESTIMATE_CUT = SignalKind(
    id="estimate_cut",
    name="Estimate cut",
    means="An estimate came in further below the one before it than you set.",
)
GUIDANCE_CHANGED = SignalKind(
    id="guidance_changed",
    name="Guidance changed",
    means="The payer said something new about a year it had spoken of.",
)

OUTCOMES = {Outcome.RAISED: RAISED, Outcome.CUT: CUT, Outcome.RESUMED: RESUMED}
NOTICES = {
    NoticeKind.OMITTED: (SUSPENDED, "said that it leaves out a dividend"),
    NoticeKind.SUSPENDED: (SUSPENDED, "suspended its dividend"),
    NoticeKind.RESUMED: (RESUMED, "said that it pays again"),
}


def _said_of_dividends(ground: SignalGround) -> Iterator[Signal]:
    yield from _dividends(ground)
    yield from _notices(ground)


def _dividends(ground: SignalGround) -> Iterator[Signal]:
    """Each dividend declared between two days, held against its predecessor as the day knew it."""
    file, since, until = ground.file, ground.since, ground.until
    days = sorted({d.known_on for d in file.dividends if since < d.known_on <= until})
    for day in days:
        yield from _declared_on(file.cut(day), day)


def _declared_on(file: PayerFile, day: date) -> Iterator[Signal]:
    payments = payments_of(file)
    compared = compare_payments(payments, eras_in(file))
    for n, payment in enumerate(payments):
        if payment.known_on != day:
            continue
        outcome = compared[n]
        then = [payments[i] for i in outcome.then]
        moved = outcome.outcome in (Outcome.RAISED, Outcome.CUT) and len(then) == 1
        paid, currency = payment.amount, payment.fact.currency
        apart = _digits(paid, then[0].amount) if moved else 2
        said: tuple[Said, ...] = (
            "declared ",
            _share(paid, currency, apart),
            " a share, ex ",
            payment.ex_date,
        )
        if moved and len(outcome.now) == 1:
            year, before = paid * outcome.now_times, then[0].amount * outcome.then_times
            word = "up" if year > before else "down"
            said = (*said, f", {word} ", Value(abs(year / before - 1), Unit.FRACTION))
            if outcome.now_times == outcome.then_times:
                said = (*said, " from ", _share(then[0].amount, then[0].fact.currency, apart))
            else:
                said = (*said, " a year from ", _share(before, then[0].fact.currency), " a year")
        kind = OUTCOMES.get(outcome.outcome, DECLARED)
        yield _record(kind, day, f"regular/{payment.ex_date.isoformat()}", said)
    for d in file.dividends:
        if d.kind is not DividendKind.REGULAR and d.known_on == day:
            amount = _share(d.amount, d.currency)
            what = d.kind.value.replace("_", " ")
            said = (f"declared a {what} of ", amount, " a share, ex ", d.ex_date)
            yield _record(DECLARED, day, f"{d.kind.value}/{d.ex_date.isoformat()}", said)


def _notices(ground: SignalGround) -> Iterator[Signal]:
    for n in ground.file.notices:
        kind, words = NOTICES[n.kind]
        event = f"{n.kind.value}/{n.declared_on.isoformat()}"
        yield _record(kind, n.declared_on, event, (words,))


def _ex_soon(ground: SignalGround) -> Iterator[Signal]:
    """Each dividend so many days before it goes ex, or when it is declared, if that is later."""
    before = timedelta(days=int(ground.rules.signal_ex_days))
    for d in ground.file.dividends:
        day = max(d.known_on, d.ex_date - before)
        if day < d.ex_date:
            said = ("goes ex on ", d.ex_date, " with ", _share(d.amount, d.currency))
            event = f"{d.kind.value}/{d.ex_date.isoformat()}"
            yield _record(EX_SOON, day, event, said)


def _estimates_cut(ground: SignalGround) -> Iterator[Signal]:
    """Each estimate of a year that is further below the one before it than the house asks."""
    file, rules = ground.file, ground.rules
    held: dict[tuple[str, int], list[Estimate]] = {}
    for x in sorted(file.estimates, key=lambda x: x.published_on):
        held.setdefault((x.measure, x.fiscal_year), []).append(x)
    for (measure, year), row in held.items():
        for before, now in pairwise(row):
            then = before.mean / _apart(file, before, now)
            if then <= 0 or 1 - now.mean / then <= rules.signal_estimate:
                continue
            yield Signal(
                kind=ESTIMATE_CUT,
                day=now.published_on,
                event=f"{measure}/{year}/{now.published_on.isoformat()}",
                stage=Stage.COVER,
                said=(
                    f"estimate of {NAMES.get(measure, measure)} for fiscal {year} down ",
                    Value(1 - now.mean / then, Unit.FRACTION),
                    " to ",
                    Value(now.mean, unit_of(measure), file.payer.currency),
                ),
            )


def _guidance_changed(ground: SignalGround) -> Iterator[Signal]:
    """Each word on a year that the payer had spoken of in other numbers."""
    file = ground.file
    held: dict[tuple[str, int], list[Guidance]] = {}
    for x in sorted(file.guidance, key=lambda x: x.published_on):
        held.setdefault((x.measure, x.fiscal_year), []).append(x)
    for (measure, year), row in held.items():
        for before, now in pairwise(row):
            apart = _apart(file, before, now)
            then = (before.low / apart, before.high / apart)
            if all(same(a, b) for a, b in zip(then, (now.low, now.high), strict=True)):
                continue
            name = NAMES.get(measure, measure)
            yield Signal(
                kind=GUIDANCE_CHANGED,
                day=now.published_on,
                event=f"{measure}/{year}/{now.published_on.isoformat()}",
                stage=Stage.COVER,
                said=(f"guidance on {name} for fiscal {year} ", *_range(file, sum(then), now)),
            )


def _apart(file: PayerFile, before: Estimate | Guidance, now: Estimate | Guidance) -> float:
    """The splits between two words on one figure, where it is per share."""
    if unit_of(now.measure) is not Unit.PER_SHARE:
        return 1.0
    then = split_factor(file.splits, before.published_on)
    return then / split_factor(file.splits, now.published_on)


def _range(file: PayerFile, before: float, now: Guidance) -> Sequence[Said]:
    """before: low and high of the former word together, in the shares of the new one."""
    both = now.low + now.high
    word = "changed" if same(both, before) else "raised" if both > before else "lowered"
    unit, currency = unit_of(now.measure), file.payer.currency
    low, high = Value(now.low, unit, currency), Value(now.high, unit, currency)
    if same(now.low, now.high):
        return (f"{word} to ", low)
    return (f"{word} to between ", low, " and ", high)


def _digits(a: float, b: float) -> int:
    """Places at which two amounts that differ are told apart."""
    return next((n for n in range(2, 6) if round(a, n) != round(b, n)), 6)


def _share(amount: float, currency: str, digits: int = 2) -> Said:
    if digits > 2:
        return f"{amount:.{digits}f} {currency}"
    return Value(amount, Unit.PER_SHARE, currency)


def _record(kind: SignalKind, day: date, event: str, said: tuple[Said, ...]) -> Signal:
    return Signal(kind=kind, day=day, event=event, stage=Stage.RECORD, said=said)


DIVIDENDS = SignalMaker(kinds=(DECLARED, RAISED, CUT, SUSPENDED, RESUMED), make=_said_of_dividends)
GOES_EX = SignalMaker(kinds=(EX_SOON,), make=_ex_soon)
ESTIMATES = SignalMaker(kinds=(ESTIMATE_CUT,), make=_estimates_cut)
GUIDED = SignalMaker(kinds=(GUIDANCE_CHANGED,), make=_guidance_changed)
