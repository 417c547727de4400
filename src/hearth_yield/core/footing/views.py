"""The views of Footing, each with its question and its answer in a line. (docs/method.md, Footing)

A view is declared once: the page lists them, and opens the first in which something is amiss.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ..figures.measure import Part, Sentence, Size
from ..figures.saying import moved
from ..judging.judge import State, Test
from .finding import balance_words, creeps
from .lines import Line, Mark
from .newest import Compared
from .stage import Footing

FELL_CALLED_OUT = -0.10
"""Net income down by so much against the same quarter of the year before is amiss."""
LEANS_FROM = 0.20
"""The share from which on a single tenant is amiss."""
NAMED = 3
"""So many lines are named in an answer."""


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """answer: what the view shows, in a line; empty where the view says more itself.
    amiss: something in it asks to be read first."""

    id: str
    name: str
    answer: Callable[[Footing, Sequence[Test]], Sentence]
    amiss: Callable[[Footing, Sequence[Test]], bool]


def _balance(footing: Footing, tests: Sequence[Test]) -> Sentence:
    return (*balance_words(tests), ".")


def _business(footing: Footing, _: Sequence[Test]) -> Sentence:
    course = footing.course
    grown = (
        ("revenue", course.revenue_growth),
        ("costs", course.cost_growth),
        ("the share count", course.share_growth),
    )
    told = [(name, figure) for name, figure in grown if figure.known]
    if not told:
        return ("Fewer than two fiscal years are held.",)
    parts: list[Part] = []
    for n, (name, figure) in enumerate(told):
        parts += [f"; {name} " if n else f"{name[0].upper()}{name[1:]} ", *moved(figure)]
    squeezed: Sentence = (" Squeezed: ", *course.squeeze, ".") if course.squeezed else ()
    return (*parts, f" a year over {len(course.row) - 1} years.", *squeezed)


def _lines(footing: Footing, _: Sequence[Test]) -> Sentence:
    marked = [x for x in footing.lines if x.mark]
    against = [x for x in marked if x.mark is Mark.AGAINST]
    if not marked:
        return ("Fewer than four fiscal years in a row are held, so that no line has a mark.",)
    said = f"Of {len(marked)} lines {len(marked) - len(against)} speak for it"
    if not against:
        return (f"{said}, none against it.",)
    named = ", ".join(x.name for x in _worst(against)[:NAMED])
    more = f" and {len(against) - NAMED} more" if len(against) > NAMED else ""
    return (f"{said}, {len(against)} against it: {named}{more}.",)


def _worst(lines: Sequence[Line]) -> list[Line]:
    """Those furthest from revenue's growth first."""
    return sorted(lines, key=lambda x: -abs(x.against.value or 0.0))


def _newest(footing: Footing, _: Sequence[Test]) -> Sentence:
    if not footing.compared:
        return ("No period is held together with the same one of the year before.",)
    compared = footing.compared[0]
    parts: list[Part] = [f"In the {compared.now}" if "to" in compared.now else f"In {compared.now}"]
    for id, name in (("revenue", " revenue "), ("net_income", " net income ")):
        line = compared.line(id)
        if line and line.change and line.change.known:
            parts += ["," if len(parts) > 1 else "", name, *moved(line.change, "rose")]
    if len(parts) == 1:
        return (*parts, " neither revenue nor net income can be compared.")
    most = compared.lines[0]
    parts.append(f" against the year before; {most.name} moved most")
    if most.change and most.change.known:
        parts += [", by ", most.change]
    return (*parts, ".")


def _fell(compared: Sequence[Compared]) -> bool:
    income = compared[0].line("net_income") if compared else None
    change = income.change.value if income and income.change else None
    return change is not None and change <= FELL_CALLED_OUT


def _over(tests: Sequence[Test]) -> bool:
    return any(t.required and t.state in (State.OUTSIDE, State.CLOSE) for t in tests)


def _parts(footing: Footing, _: Sequence[Test]) -> Sentence:
    if not footing.splits:
        return ("No segment, region or tenant is on record.",)
    parts: list[Part] = []
    for split in footing.splits:
        if not split.largest.known:
            continue
        first = split.parts[0].name
        parts += ["; " if parts else "", f"{first} brings ", split.largest, _of(split.basis)]
    return (*parts, ".") if parts else ("Only a remainder is on record.",)


def _of(basis: str) -> str:
    return {"segment": " of revenue", "region": " by region", "tenant": " of the rent"}[basis]


def _leans_on_one(footing: Footing) -> bool:
    largest = [s.largest.value for s in footing.splits if s.basis == "tenant"]
    return any(v is not None and v >= LEANS_FROM for v in largest)


def _slumps(footing: Footing, _: Sequence[Test]) -> Sentence:
    felt = [s for s in footing.slumps if s.price.known]
    if not felt:
        return ("No past slump is on record that its prices reach back to.",)
    worst = min(felt, key=lambda s: s.price.value or 0.0)
    parts: list[Part] = [f"In {_mid(worst.slump.name)} its price ", *moved(worst.price, "rose")]
    if worst.market.known:
        alike = (worst.market.value or 0.0) * (worst.price.value or 0.0) > 0
        how = (Size(figure=worst.market),) if alike else moved(worst.market, "rose")
        parts += [", the market ", *how]
    actions = [s.paid.action for s in footing.slumps if s.paid.action]
    worse = sum(a in ("cut", "suspended") for a in actions)
    if actions:
        parts.append(
            f"; its dividend was cut in {worse} of {len(actions)} slumps"
            if worse
            else f"; its dividend was not cut in any of {len(actions)}"
        )
    return (*parts, ".")


def _mid(name: str) -> str:
    """A slump's name within a sentence."""
    return name[:1].lower() + name[1:] if name.startswith("The ") else name


VIEWS: tuple[View, ...] = (
    View(id="balance", name="Balance", answer=_balance, amiss=lambda _, tests: _over(tests)),
    View(
        id="business",
        name="Business",
        answer=_business,
        amiss=lambda f, _: f.course.squeezed or creeps(f),
    ),
    View(
        id="lines",
        name="Lines",
        answer=_lines,
        amiss=lambda f, _: (
            2 * sum(x.mark is Mark.AGAINST for x in f.lines)
            > sum(x.mark is not None for x in f.lines)
        ),
    ),
    View(id="newest", name="Newest quarter", answer=_newest, amiss=lambda f, _: _fell(f.compared)),
    View(id="parts", name="Parts", answer=_parts, amiss=lambda f, _: _leans_on_one(f)),
    View(id="peers", name="Peers", answer=lambda *_: (), amiss=lambda *_: False),
    View(id="slumps", name="Slumps", answer=_slumps, amiss=lambda *_: False),
    View(id="strain", name="Strain", answer=lambda *_: (), amiss=lambda *_: False),
)
