"""How often a payer pays: by the days between its payments; their size only asks.

docs/method.md, Record. Payments are followed one after the other, as they became known.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from msgspec import Struct

from ..facts.payer_file import PayerFile
from ..facts.records import Notice, Payer
from .payments import (
    RHYTHM_DAYS,
    Payment,
    between_stops,
    counts_at,
    is_uneven,
    payments_of,
    reach_of,
    year_before,
)

RHYTHMS = (12, 4, 2, 1)
MUCH_MORE = 4 / 3
"""So much more at once may be a slower rhythm."""
FITS = (2 / 3, 3 / 2)
"""A year at another rhythm must come to so much of a year at the one before."""
AS_BEFORE = 0.10
CLOSE = 8
"""A payment is close to its slot within an eighth of the interval."""
LITTLE_LESS = 3 / 4
TIMES = {1: "once", 2: "twice", 4: "four times", 12: "twelve times"}


def times(rhythm: int) -> str:
    return TIMES.get(rhythm, f"{rhythm} times")


class Rhythm(Struct, frozen=True, kw_only=True):
    """How often a payer pays as one day would have read it. value: payments a year; None: reason
    says why it is not known. holds_to: the last day on which this holds if nothing more is paid.
    counted: two years agree on it. unless: how often it would have to pay from now on for the
    newest payment to be no cut."""

    value: int | None
    reason: str = ""
    holds_to: date | None = None
    counted: bool = False
    unless: int | None = None


class Follower:
    """Follows the payments between two stops. rhythms: of each payment, as all of them read it;
    starts: where the current one begins; odd: payments that were one of a kind; before: whether the
    payer was uneven before the current rhythm, where that is known."""

    def __init__(self, payer: Payer, before: bool | None = None) -> None:
        self.payer = payer
        self.before = before
        self.payments: list[Payment] = []
        self.days: list[int] = []
        self.rhythms: list[int | None] = []
        self.odd: set[int] = set()
        self.starts = 0
        self._settled: int | None = None
        self._yearly = 0.0
        self._asked: tuple[int, ...] = ()
        self._lowered: tuple[int, ...] = ()
        self._open: int | None = None

    def push(self, payment: Payment) -> None:
        """The next payment by ex-date."""
        i = len(self.payments)
        self.payments.append(payment)
        self.days.append(payment.ordinal)
        self.rhythms.append(None)
        if payment.per_year:
            self._settle(payment.per_year, self._first_open())
            return
        if self._settled is None:
            now, then = counts_at(self.days, i)
            if now == then:
                self._settle(now, self._first_open())
            return
        if self._ordinary(i):
            self.rhythms[i] = self._settled
        elif self._open is not None:
            self._after_open(i)
        elif self._asked:
            self._after_asked(i)
        elif self._lowered:
            self._after_lowered(i)
        else:
            self._follow(i)
        self._count(i)

    def _ordinary(self, i: int) -> bool:
        """Whether it asks nothing: close to its slot, and about as large as the one before."""
        if self._open is not None or self._asked or self._lowered:
            return False
        apiece = 365 / (self._settled or 1)
        if abs(self.days[i] - self.days[i - 1] - apiece) > apiece / CLOSE:
            return False
        before, now = self.payments[i - 1].amount, self.payments[i].amount
        return LITTLE_LESS * before < now < MUCH_MORE * before

    def _first_open(self) -> int:
        """The first payment from which on no rhythm is known."""
        i = len(self.rhythms)
        while i and self.rhythms[i - 1] is None:
            i -= 1
        return i

    def _settle(self, rhythm: int, first: int) -> None:
        """From a payment on it pays so often."""
        if self._settled is not None and rhythm != self._settled:
            first = self._reach_back(first, rhythm, self._settled)
            held = self.payments[self.starts : first]
            self.before = handed_on(pattern_of(held, self._settled, self.payer, self.before))
            self.starts = first
        for i in range(first, len(self.rhythms)):
            self.rhythms[i] = rhythm
        self._settled = rhythm
        self._asked = self._lowered = ()
        self._open = None

    def _reach_back(self, first: int, new: int, old: int) -> int:
        """The first payment of a new rhythm: those before it that already came at it and never at
        the old one, of about the same amount, were its own."""
        while first > self.starts + 1:
            before, after = self.payments[first - 1].amount, self.payments[first].amount
            alike = after < MUCH_MORE * before and before < MUCH_MORE * after
            if not alike or not self._at(first, new) or self._at(first - 1, old):
                break
            first -= 1
        return first

    def newest(self, count: int, first: int = -1) -> Sequence[Payment]:
        """So many of the newest payments of the current rhythm, or of those from the first on."""
        begin = self.starts if first < 0 else first
        return self.payments[max(begin, len(self.payments) - count) :]

    @property
    def pattern(self) -> bool | None:
        """Whether they are uneven; None where that cannot be told."""
        if self._settled is None:
            return self.before
        held = self.newest(2 * self._settled + 1)
        return pattern_of(held, self._settled, self.payer, self.before)

    def _follow(self, i: int) -> None:
        """A payment after one of a settled rhythm."""
        settled = self._settled or 1
        by_slot = self._apart(settled, i)
        slot = year_before(self.days, i)
        regular = self._at(i, settled) or slot == i - settled or (by_slot and slot is not None)
        before = slot if by_slot else self._before(i)
        self._yearly = self._year(i, settled, by_slot)
        self.rhythms[i] = settled
        if not regular:
            new = self._spacing(i, settled)
            if new and self._fits(i, new):
                self._settle(new, i)
            else:
                self._open_at(i)
            return
        self._asked = self._lowered = ()
        then = None if before is None else self.payments[before]
        if then is None or then.amount <= 0 or self._foreign(i):
            return
        ratio = self.payments[i].amount / then.amount
        if ratio >= MUCH_MORE * (1 - 1e-12):
            self._asked = tuple(s for s in RHYTHMS if s < settled and self._fits(i, s))
        elif ratio < 1:
            self._lowered = tuple(s for s in RHYTHMS if s > settled and self._fits(i, s))
        if self._asked:
            self.rhythms[i] = None

    def _apart(self, rhythm: int, i: int) -> bool:
        """Whether payments before i are each compared with their own slot."""
        held = self.payments[max(self.starts, i - 2 * rhythm - 1) : i]
        return apart(pattern_of(held, rhythm, self.payer, self.before), rhythm)

    def _before(self, i: int) -> int | None:
        """The payment before, but for those that were one of a kind."""
        return next((j for j in range(i - 1, -1, -1) if j not in self.odd), None)

    def _foreign(self, i: int) -> bool:
        """Whether a payment is in another currency than the one before it."""
        return self.payments[i].fact.currency != self.payments[i - 1].fact.currency

    def _year(self, i: int, rhythm: int, by_slot: bool) -> float:
        """What a year came to before a payment."""
        if by_slot:
            return sum(p.amount for p in self.payments[max(self.starts, i - rhythm) : i])
        before = self._before(i)
        return 0.0 if before is None else self.payments[before].amount * rhythm

    def _at(self, i: int, rhythm: int) -> bool:
        """Whether a payment comes in the slot of a rhythm, after the one before it."""
        return abs(self.days[i] - self.days[i - 1] - 365 / rhythm) <= reach_of(rhythm)

    def _spacing(self, i: int, but: int) -> int | None:
        return next((s for s in RHYTHMS if s != but and self._at(i, s)), None)

    def _fits(self, i: int, rhythm: int) -> bool:
        """Whether a year at a rhythm comes to about what a year came to before."""
        year = self.payments[i].amount * rhythm
        low, high = (x * self._yearly for x in FITS)
        if self._foreign(i):
            return False
        return low * (1 - 1e-9) <= year <= high * (1 + 1e-9)

    def _open_at(self, first: int) -> None:
        self._open = first
        self._asked = self._lowered = ()
        for i in range(first, len(self.rhythms)):
            self.rhythms[i] = None

    def _after_open(self, i: int) -> None:
        """The spacing that is seen now holds for both."""
        settled, first = self._settled or 1, self._open or 0
        seen = settled if self._at(i, settled) else self._spacing(i, settled)
        if seen is not None:
            self._settle(seen, first)

    def _after_asked(self, i: int) -> None:
        """The payment before was much more: a slower rhythm, a raise, or one of a kind."""
        settled = self._settled or 1
        if self._at(i, settled) or year_before(self.days, i) == i - settled:
            large = i - 1
            self.rhythms[large] = settled
            was = self._before(large)
            again = self.payments[i].amount
            if was is not None and not self._apart(settled, i):
                amount = self.payments[was].amount
                if abs(again - amount) <= AS_BEFORE * amount * (1 + 1e-9):
                    self.odd.add(large)
            self._asked = ()
            self._follow(i)
            return
        new = self._spacing(i, settled)
        if new and self._fits(i, new):
            self._settle(new, i - 1)
        else:
            self._open_at(i - 1)

    def _after_lowered(self, i: int) -> None:
        """Less at once was no cut where the payment of a faster rhythm follows."""
        settled = self._settled or 1
        new = None if self._at(i, settled) else self._spacing(i, settled)
        if new in self._lowered and self._fits(i, new or 1):
            self._settle(new or 1, i - 1)
        else:
            self._lowered = ()
            self._follow(i)

    def _count(self, i: int) -> None:
        """What two years agree on rules, where every gap of the last one bears it out."""
        apiece = 365 / (self._settled or 1)
        if self._asked or abs(self.days[i] - self.days[i - 1] - apiece) <= apiece / CLOSE:
            return
        now, then = counts_at(self.days, i)
        if now != then or now < 1 or now == self._settled or i < now:
            return
        reach = 365 / now / CLOSE
        gaps = (self.days[j] - self.days[j - 1] for j in range(i - now + 1, i + 1))
        if all(abs(gap - 365 / now) <= reach for gap in gaps):
            self._settle(now, i - now + 1)

    @property
    def asked(self) -> bool:
        """Whether the newest payment may be of a slower rhythm."""
        return bool(self._asked)

    def read(self, day: date) -> Rhythm:
        """As a day reads it that knows no more payments."""
        last = self.payments[-1]
        if self._settled is None or self._open is not None:
            return Rhythm(value=None, reason=self._why_not())
        if not self._asked:
            unless = self._lowered[0] if self._lowered else None
            now, then = counts_at(self.days, len(self.days) - 1)
            counted = now == then == self._settled
            return Rhythm(value=self._settled, counted=counted, unless=unless)
        *sooner, slowest = (self._settled, *self._asked)
        for n, s in enumerate(sooner):
            due = last.ex_date + timedelta(days=round(365 / s + reach_of(s)))
            if day <= due:
                if n:
                    return Rhythm(value=s, holds_to=due)
                return Rhythm(value=None, reason=self._asking(), holds_to=due)
        return Rhythm(value=slowest)

    def _asking(self) -> str:
        amount, settled = self.payments[-1].amount, self._settled or 1
        by_slot = self._apart(settled, len(self.payments) - 1)
        as_before = sum(p.amount for p in self.payments[-settled:]) if by_slot else amount * settled
        readings = [f"{_money(amount * s)} {times(s)}" for s in reversed(self._asked)]
        readings.append(f"{_money(as_before)} {times(settled)}")
        return f"how often it pays now is open: {', '.join(readings)} a year"

    def _why_not(self) -> str:
        now, then = counts_at(self.days, len(self.days) - 1)
        newest, first = self.days[-1], self.days[0]
        to = self.payments[-1].ex_date.isoformat()
        if self._settled is None and then == 0 and first > newest - 2 * 365:
            return (
                f"rhythm not settled: {now} payment{'s' if now != 1 else ''} in the {RHYTHM_DAYS} "
                f"days to {to}, none a year earlier"
            )
        return (
            f"rhythm changing: {now} payments in the {RHYTHM_DAYS} days to {to}, {then} a year "
            "earlier"
        )

    def rhythms_on(self, day: date) -> list[int | None]:
        """Of each payment, as a day reads them all; the first known one for those before it."""
        found = list(self.rhythms)
        if found and self._asked:
            found[-1] = self.read(day).value
        first = next((f for f in found if f is not None), None)
        if first is None:
            return [self.payer.rhythm] * len(found)
        place = found.index(first)
        found[:place] = [first] * place
        if found[-1] is None and self.payer.rhythm:
            found = [self.payer.rhythm if f is None else f for f in found]
        return found


def pattern_of(
    held: Sequence[Payment], rhythm: int, payer: Payer, before: bool | None
) -> bool | None:
    """Whether payments of one rhythm are uneven; None where that cannot be told. Too few are what
    the payer was before."""
    if payer.evenness is not None:
        return payer.evenness == "uneven"
    if rhythm < 2:
        return None
    return before if len(held) < 2 * rhythm + 1 else is_uneven(held, rhythm, payer)


def handed_on(pattern: bool | None) -> bool | None:
    """What a pattern says of the payments of another rhythm: who was level stays so."""
    return False if pattern is False else None


def apart(pattern: bool | None, rhythm: int) -> bool:
    """Whether payments are each compared with their own slot: of an uneven payer, and of two a year
    of which it cannot be told yet."""
    return rhythm > 1 and (rhythm == 2 if pattern is None else pattern)


def _money(amount: float) -> str:
    return f"{amount:.2f}" if amount >= 0.1 else f"{amount:.4g}"


def follow(
    payments: Sequence[Payment], notices: Sequence[Notice], payer: Payer
) -> list[tuple[int, Follower]]:
    """The payments between each two stops, with the index of their first."""
    found: list[tuple[int, Follower]] = []
    for begin, end in between_stops(payments, notices):
        follower = Follower(payer, found[-1][1].pattern if found else None)
        for p in payments[begin:end]:
            follower.push(p)
        found.append((begin, follower))
    return found


def followed_in(file: PayerFile) -> list[tuple[int, Follower]]:
    """The same of a file's regular payments; made once for each file."""
    held: list[tuple[int, Follower]] | None = file.made.get("followed")
    if held is None:
        held = file.made["followed"] = follow(payments_of(file), file.notices, file.payer)
    return held
