"""What a payer's own past says of its worth: the weeks of five years since it last cut or resumed.

(docs/method.md, Worth)
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from ..figures.figure import Figure
from ..figures.inputs import Default
from ..range.quantity import Quantity
from ..range.ruler import beside_of
from ..range.sample import Statistics
from ..range.weekly import weekly_values
from ..record.payments import READ_BACK, Outcome, manual_edits_between
from .declare import Ground

LEAST_WEEKS = 156
LEAST_AFTER_CUT = 52
WEEKS = 260
WEEKS_BACK = timedelta(weeks=WEEKS)
COUNTED = "weeks that count"


def counted_from(ground: Ground) -> date | None:
    """The last day within five years on which the dividend was cut, stopped or taken up again: what
    was paid for it before says little. None where there was none."""
    file, record = ground.file, ground.record
    if COUNTED not in file.made:
        resumed = [p.known_on for p, outcome in record.compared if outcome is Outcome.RESUMED]
        last = max([d for d in (*record.cuts, *resumed) if d <= file.day], default=date.min)
        file.made[COUNTED] = last if last > file.day - WEEKS_BACK else None
    found: date | None = file.made[COUNTED]
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Past:
    """A quantity over the weeks that count. base: what it is a multiple of, now; beside: what its
    value takes besides; usual: the mean of a yield, the median of a multiple."""

    base: Figure
    beside: Sequence[Figure]
    count: Figure
    usual: Figure

    @property
    def weeks(self) -> int:
        return round(self.count.value or 0)


def past_of(ground: Ground, quantity: Quantity) -> Past:
    """Over the weeks that count."""
    return past_over(ground, quantity, counted_from(ground))


def past_over(ground: Ground, quantity: Quantity, since: date | None = None) -> Past:
    """Over five years, or since a day; made once for each file."""
    file, record = ground.file, ground.record
    key = f"past {quantity.id} {since or ''}"
    if key not in file.made:
        weekly = weekly_values(file, quantity)
        chosen = weekly.last(WEEKS) if since is None else weekly.between(since, file.day)
        known = chosen.known()
        stats = Statistics(file, quantity, known, len(chosen.days) - len(known.days))
        label = f"{_told(since, quantity.typical)} {quantity.name}"
        mean = quantity.typical == "mean"
        file.made[key] = Past(
            base=quantity.base(file, record),
            beside=beside_of(file, quantity),
            count=stats.count,
            usual=stats.mean(label) if mean else stats.quantile(label, 0.5),
        )
    found: Past = file.made[key]
    return found


def usual_of(ground: Ground, quantity: Quantity) -> Default:
    """The usual value over the weeks that count, as an input of a model. A person who edits
    dividends has a hand in which weeks those are."""
    usual, origin = past_of(ground, quantity).usual, told_since(ground, quantity.typical)
    touch = manual_edits_between(ground.file, ground.file.day - WEEKS_BACK - READ_BACK)
    figure = usual.but(notes=(*usual.notes, f"house default: the {origin}"))
    return Default(figure.with_touch(touch), origin)


def told_since(ground: Ground, usual: str) -> str:
    """Where a usual value comes from, in a few words."""
    return _told(counted_from(ground), usual)


def _told(since: date | None, usual: str) -> str:
    return f"{usual} since {since.isoformat()}" if since else f"5-year {usual}"


def too_few_weeks(ground: Ground, quantity: Quantity) -> str | None:
    """Why the weeks that count are too few to lean on; None where they suffice."""
    since, weeks = counted_from(ground), past_of(ground, quantity).weeks
    least = LEAST_AFTER_CUT if since else LEAST_WEEKS
    if weeks >= least:
        return None
    after = f" since the dividend was cut or resumed on {since.isoformat()}" if since else ""
    held = "1 week" if weeks == 1 else f"{weeks} weeks"
    return f"{held} with a known {quantity.name}{after}; {least} are needed"


def paid_for(ground: Ground, growth: Figure) -> tuple[Figure, Figure] | None:
    """The growth that the usual values were paid for, and the latest raise, where that is a point
    or more slower: dividend growth over the years that count, or what is taken, if faster."""
    raised = ground.record.latest_raise
    over = ground.record.growth[5] if counted_from(ground) is None else growth
    fastest = max((f for f in (growth, over) if f.value is not None), key=_value, default=None)
    if fastest is None or raised.value is None or _value(fastest) < raised.value + 0.01 - 1e-12:
        return None
    return fastest, raised


def _value(figure: Figure) -> float:
    return figure.value or 0.0
