"""What a payer's own past says of its worth: the weeks of five years since it last cut or resumed.

(docs/method.md, Worth)
"""

from __future__ import annotations

from datetime import date, timedelta

from ..figures.figure import Figure
from ..figures.inputs import Default
from ..range.quantity import YIELD, Quantity
from ..range.ruler import Ruler, ruler_of
from ..range.stage import WORTH_WINDOW
from ..record.payments import READ_BACK, Outcome, manual_edits_between
from .declare import Ground

LEAST_WEEKS = 156
LEAST_AFTER_CUT = 52
WEEKS_BACK = timedelta(weeks=260)


def counted_from(ground: Ground) -> date | None:
    """The last day within five years on which the dividend was cut, stopped or taken up again: what
    was paid for it before says little. None where there was none."""
    file, record = ground.file, ground.record
    resumed = [p.known_on for p, outcome in record.compared if outcome is Outcome.RESUMED]
    last = max([d for d in (*record.cuts, *resumed) if d <= file.day], default=date.min)
    return last if last > file.day - WEEKS_BACK else None


def past_ruler(ground: Ground, quantity: Quantity) -> Ruler:
    """A quantity against the weeks that count; made once for each file."""
    file, since = ground.file, counted_from(ground)
    if quantity is YIELD and since is None:
        return ground.yields
    window = f"{since.isoformat()}..{file.day.isoformat()}" if since else WORTH_WINDOW
    key = f"past {quantity.id} {window}"
    if key not in file.made:
        file.made[key] = ruler_of(file, ground.record, window, quantity)
    found: Ruler = file.made[key]
    return found


def usual_of(ground: Ground, quantity: Quantity) -> Default:
    """The usual value over the weeks that count, as an input of a model: the mean of a yield, the
    median of a multiple. A person who edits dividends has a hand in which weeks those are."""
    ruler, origin = past_ruler(ground, quantity), told_since(ground, quantity.typical)
    usual = ruler.mean if quantity.typical == "mean" else ruler.median
    touch = manual_edits_between(ground.file, ground.file.day - WEEKS_BACK - READ_BACK)
    figure = usual.but(notes=(*usual.notes, f"house default: the {origin}"))
    return Default(figure.with_touch(touch), origin)


def told_since(ground: Ground, usual: str) -> str:
    """Where a usual value comes from, in a few words."""
    since = counted_from(ground)
    return f"{usual} since {since.isoformat()}" if since else f"5-year {usual}"


def too_few_weeks(ground: Ground, quantity: Quantity) -> str | None:
    """Why the weeks that count are too few to lean on; None where they suffice."""
    since, weeks = counted_from(ground), len(past_ruler(ground, quantity).weeks.values)
    least = LEAST_AFTER_CUT if since else LEAST_WEEKS
    if weeks >= least:
        return None
    after = f" since the dividend was cut or resumed on {since.isoformat()}" if since else ""
    return f"{weeks} weeks with a known {quantity.name}{after}; {least} are needed"


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
