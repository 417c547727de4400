"""What a strain shows, in sentences."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence

from ..figures.figure import Figure, percent
from ..figures.inputs import Input
from ..figures.measure import Part, Sentence
from ..figures.saying import is_told
from ..judging.judge import STATES_IN_WORDS, State
from .inputs import A_YEAR, Strain, inputs_of_all
from .strained import PartAtRisk, Strained, StrainedTest

STANDING = (State.WITHIN, State.CLOSE, State.OUTSIDE)


def in_words(strained: Strained) -> list[Sentence]:
    """Where the first required test gives, where cash stops covering the dividend, and how the
    payer would stand under what is asked."""
    part = strained.chosen
    return [
        _gives(strained, part),
        _covers(strained, part),
        *([_capital(strained.capital_at)] if strained.capital_at else []),
        *([_stands(strained)] if strained.state in STANDING else []),
    ]


def described(strain: Strain, of: Mapping[str, Input] | None = None) -> str:
    """What falls, by how much, for how long: "all revenue −20 % for 6 months, margin −2 points".

    of: the inputs of one payer, whose own fall is said; else those of every payer.
    """
    held = inputs_of_all(strain.inputs) if of is None else of
    values = defaultdict(float, {id: x.figure.value or 0.0 for id, x in held.items()})
    own = "falling as each payer’s own did at worst (a tenth at least)"
    fall = f"−{percent(values['fall'])}" if held["fall"].figure.known else own
    part = strain.part.partition("/")[2] if strain.part else "all revenue"
    months, losses = int(values["months"]), values["credit_losses"]
    return "".join(
        (
            f"{part} {fall}",
            f" for {months} month{'s' if months > 1 else ''}" if months != A_YEAR else "",
            f", margin −{values['margin'] * 100:g} points" if values["margin"] else "",
            f", interest +{values['interest'] * 100:g} points" if values["interest"] else "",
            f", credit losses {percent(losses, 2)} of assets" if losses else "",
        )
    )


def _what(part: PartAtRisk) -> str:
    return "all revenue" if part.part.basis is None else f"revenue from {part.part.name}"


def _gives(strained: Strained, part: PartAtRisk) -> Sentence:
    outside = [t.measure.label for t in strained.outside_already]
    already: Sentence = (f"{_listed(outside)} {_is(outside)} outside already. ",) if outside else ()
    first = strained.first
    if first is None:
        return (*already, "No required test that holds today moves with the year’s revenue.")
    if part.gives_at.value is None:
        return (
            *already,
            f"No {'other ' if outside else ''}required test gives, even if {_what(part)} falls "
            "away altogether.",
        )
    if part.gives_at.value == 0:
        return (*already, f"{_upper(first.before.short)} gives before any revenue falls.")
    if not is_told(part.gives_at):
        return (
            *already,
            f"{_upper(first.before.short)} gives first, at the slightest fall of {_what(part)}.",
        )
    return (
        *already,
        f"{_upper(first.before.short)} gives first, when {_what(part)} falls ",
        part.gives_at,
        f"{_how_long(strained)}.",
    )


def _how_long(strained: Strained) -> str:
    months = int(strained.inputs["months"].figure.value or 0)
    if months == A_YEAR:
        return ""
    return " for a month" if months == 1 else f" for {months} months"


def _covers(strained: Strained, part: PartAtRisk) -> Sentence:
    covered = strained.covered
    if strained.state is State.PAYING_NOTHING:
        return ("Nothing is being paid that cash would have to cover.",)
    if covered is None or covered.before.state is State.UNKNOWN:
        return ("Whether cash covers the dividend is unknown.",)
    falls = covered.before.falls or "cash"
    name, many = _upper(falls), falls == "earnings"
    if covered.before.state is State.OUTSIDE:
        return (f"{name} {'do' if many else 'does'} not cover the dividend now.",)
    at = part.uncovered_at
    if at.value is None:
        return (f"{name} {'cover' if many else 'covers'} the dividend whatever falls of it.",)
    stops = f"{name} {'stop' if many else 'stops'} covering the dividend at "
    if not is_told(at):
        return (f"{stops}the slightest fall.",)
    return (f"{stops}a fall of ", at, f"{_how_long(strained)}.")


def _capital(at: Figure) -> Sentence:
    if at.value is None:
        return (f"How much credit loss its capital bears is unknown: {at.reason}.",)
    if not is_told(at):
        return ("Its capital reaches your minimum at the slightest credit loss.",)
    return ("Its capital reaches your minimum at credit losses of ", at, " of all assets.")


def _stands(strained: Strained) -> Sentence:
    gone = [
        t
        for t in strained.tests
        if t.before.required
        and t.before.state is not State.OUTSIDE
        and t.after.state is State.OUTSIDE
    ]
    parts: list[Part] = ["Under this strain it stands "]
    parts.append(STATES_IN_WORDS[strained.state or State.UNKNOWN])
    for n, test in enumerate(gone):
        parts += [": " if n == 0 else "; ", f"{test.before.short} ", *_told(test)]
    return (*parts, ".")


def _told(test: StrainedTest) -> tuple[str | Figure, ...]:
    return (test.measure,) if test.measure.known else (f"without size ({test.measure.breach})",)


def _listed(names: Sequence[str]) -> str:
    joined = ", ".join(names[:-1])
    return _upper(f"{joined} and {names[-1]}" if joined else names[-1])


def _is(names: Sequence[str]) -> str:
    return "is" if len(names) == 1 else "are"


def _upper(text: str) -> str:
    return text[:1].upper() + text[1:]
