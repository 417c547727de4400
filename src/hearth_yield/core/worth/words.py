"""What the answers say together, in sentences, and what is marked on their axis."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.figure import Figure
from ..figures.measure import Sentence
from ..figures.saying import beside, is_told, moved
from ..figures.ties import at_least, same
from ..record.history import Record
from .combined import Answer
from .inputs import CHANCES
from .own_past import paid_for
from .worth import Worth


def marks(price: Figure, worth: Worth) -> list[tuple[str, Figure, str]]:
    """Name, figure and kind of each mark; the price leads, the rest are values."""
    found = [
        ("price", price, "price"),
        ("combined", worth.combined, "value"),
        ("buy below", worth.buy_below, "bound"),
    ]
    if worth.second_buy_below.known:
        found.append(("second buy below", worth.second_buy_below, "bound"))
    if worth.trim_above.known:
        found.append(("trim above", worth.trim_above, "bound"))
    return found


def answered(worth: Worth, price: Figure, record: Record) -> Sentence:
    """What it is worth, what the price takes for granted, what it offers: read before all else."""
    said = (*_worth(worth, price), *_granted(worth, record))
    return (*said, *_offered(worth)) if worth.implied_return.known else said


def in_words(worth: Worth, price: Figure) -> list[Sentence]:
    """How the answers stand to each other, and what they rest on; then what the person set."""
    said = [_apart(worth), _leans(worth), _paid_for(worth), _margins(worth), _chances(worth)]
    only = [_only_with(worth, a, price) for a in worth.counting]
    return [sentence for sentence in (*said[:2], *only, *said[2:]) if sentence]


def told(answers: Sequence[Answer]) -> Sentence:
    """The answers one after the other: "its dividends 60.12, its own past 65.19"."""
    found: list[str | Figure] = []
    for i, a in enumerate(answers):
        found += [f"{', ' if i else ''}{a.name[:1].lower()}{a.name[1:]} ", a.middle]
    return tuple(found)


def no_value(worth: Worth) -> Sentence:
    """Why there is no combined value, with the answers that there are."""
    if worth.answers:
        return (
            f"No combined value: {worth.combined.reason}. They say: ",
            *told(worth.answers),
            ".",
        )
    growth, price = worth.input("growth"), worth.trials.ground.file.price
    if price.value is None:
        return (f"Worth unknown: {price.reason}.",)
    if growth.value is None:
        return (f"Worth unknown: {growth.reason}. Type how fast its dividend may grow.",)
    return (f"Worth unknown: {worth.combined.reason}.",)


def _worth(worth: Worth, price: Figure) -> Sentence:
    if worth.combined.value is None:
        return no_value(worth)
    said: Sentence = ("Worth ", worth.combined, " a share")
    gap = worth.price_against_combined
    if gap.known and not is_told(gap):
        said = (*said, ", today’s price")
    elif gap.known:
        said = (*said, "; today’s price of ", price, " is ", *beside(gap, "it"))
    margin = worth.input("margin_of_safety")
    return (*said, ". Your margin of ", margin, " asks for ", worth.buy_below, " or less.")


def _granted(worth: Worth, record: Record) -> Sentence:
    """The growth at which the price would be right, against what is assumed and what was."""
    staged, growth = worth.trials.granted, worth.input("growth")
    if staged is not None and staged.known:
        years = worth.trials.ground.rules.early_years
        how: Sentence = (f" a year for {years} years, then ", worth.input("later_growth"))
    elif worth.implied_growth.known:
        staged, how = worth.implied_growth, (" a year for ever",)
    else:
        return ()
    assumed: Sentence = ("; you assume ", growth) if growth.known else ()
    grown = record.growth[10]
    past: Sentence = ("; over ten years it ", *moved(grown)) if grown.known else ()
    return (
        " The price takes for granted that the dividend ",
        *moved(staged, "grows", "falls", "does not move"),
        *how,
        *assumed,
        *past,
        ".",
    )


def _offered(worth: Worth) -> Sentence:
    """What yield and growth for ever come to at the price, against the market's return."""
    offered, after, market = (
        worth.implied_return,
        worth.implied_return_after_tax,
        worth.market_return,
    )
    how = " after your tax and its credit)" if worth.credited else " after your tax)"
    taxed: Sentence = () if same(offered.value or 0.0, after.value or 0.0) else (" (", after, how)
    return (
        " Yield and growth together offer ",
        offered,
        " a year",
        *taxed,
        ", against ",
        market,
        " that you take the market to return.",
    )


COUNTED = {2: "two", 3: "three", 4: "four"}


def _apart(worth: Worth) -> Sentence:
    if not worth.spread.known:
        return ()
    warned = ", more than 60 %: do not lean on their mean" if worth.spread_called_out else ""
    return (
        f"The {COUNTED[len(worth.counting)]} answers lie ",
        worth.spread,
        f" apart{warned}; leaving any one out moves the value by ",
        worth.leaving_out,
        " at most.",
    )


def moves_most(worth: Worth) -> Sentence:
    """The input that moves the combined value most: looked at on demand, as every input is tried
    for it."""
    most = worth.moves_most
    return (f"{most[:1].upper()}{most[1:]} moves the combined value most.",) if most else ()


def _leans(worth: Worth) -> Sentence:
    if len(worth.counting) != 1:
        return ()
    (only,) = worth.counting
    return (f"It rests on {only.name[:1].lower()}{only.name[1:]} alone.",)


def _only_with(worth: Worth, answer: Answer, price: Figure) -> Sentence:
    """One answer alone brings the price under buy-below."""
    below, margin, without = (
        worth.buy_below.value,
        worth.input("margin_of_safety").value,
        answer.without.value,
    )
    if below is None or margin is None or without is None or price.value is None:
        return ()
    if not at_least(below, price.value) or at_least(without * (1 - margin), price.value):
        return ()
    name = f"{answer.name[:1].lower()}{answer.name[1:]}"
    return (
        f"The price is under buy-below only with {name}: without it the combined value is ",
        answer.without,
        ".",
    )


def _paid_for(worth: Worth) -> Sentence:
    """The growth that its own past was paid for, where it has slowed since."""
    slowed = paid_for(worth.trials.ground, worth.input("growth"))
    if slowed is None or all(a.id != "past" for a in worth.answers):
        return ()
    before, raised = slowed
    return ("Its own past was paid for growth of ", before, "; the latest raise was ", raised, ".")


def _margins(worth: Worth) -> Sentence:
    said: list[str | Figure] = []
    if worth.second_buy_below.known:
        margin = worth.input("second_margin")
        said += ["At a margin of ", margin, " it asks for ", worth.second_buy_below, " or less."]
    if worth.trim_above.known:
        premium = worth.input("trim_premium")
        said += [" " if said else "", "You would trim above ", worth.trim_above, ", ", premium]
        said.append(" over it.")
    return tuple(said)


def _chances(worth: Worth) -> Sentence:
    """The cases by the chances that the person gave them."""
    if not worth.weighted.known or not any(worth.inputs[id].typed for id in CHANCES):
        return ()
    first, second, third = (worth.input(id) for id in CHANCES)
    return (
        "With low, middle and high at chances of ",
        first,
        ", ",
        second,
        " and ",
        third,
        " the combined value is ",
        worth.weighted,
        ".",
    )
