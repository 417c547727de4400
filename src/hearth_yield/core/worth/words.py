"""What the models say together, in sentences, and what is marked on their axis."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.figure import Figure
from ..figures.measure import Sentence, Size
from ..figures.ties import same
from ..record.history import Record
from .inputs import CHANCES
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


def in_words(worth: Worth, record: Record) -> list[Sentence]:
    """From the combined value to the buy-below price; what today's price takes for granted; how far
    the models lie apart."""
    said = [_to_buy_below(worth), _implied(worth, record)]
    if worth.implied_return.known:
        said.append(_offered(worth))
    if worth.weighted.known and any(worth.inputs[id].typed for id in CHANCES):
        said.insert(1, _chances(worth))
    return [*said, _apart(worth)] if worth.spread.known else said


def _to_buy_below(worth: Worth) -> Sentence:
    if worth.combined.value is None:
        return (f"Combined value unknown: {worth.combined.reason}.",)
    gap = worth.price_against_buy_below
    said: Sentence = (
        "The combined value is ",
        worth.combined,
        "; less a margin of safety of ",
        worth.input("margin_of_safety"),
        " that is a buy-below price of ",
        worth.buy_below,
    )
    if gap.value is None:
        return (*said, ".")
    side = "over" if gap.value > 0 else "under"
    said = (*said, ", and the price is ", Size(figure=gap), f" {side} it.")
    if worth.second_buy_below.known:
        margin = worth.input("second_margin")
        said = (*said, " At a margin of ", margin, " it is ", worth.second_buy_below, ".")
    if worth.trim_above.known:
        premium = worth.input("trim_premium")
        said = (*said, " You would trim above ", worth.trim_above, ", ", premium, " over it.")
    return said


def _chances(worth: Worth) -> Sentence:
    """The cases by the chances that the person gave them."""
    return (
        "With low, middle and high at chances of ",
        *_listed([worth.input(id) for id in CHANCES]),
        " the combined value is ",
        worth.weighted,
        ".",
    )


def _listed(figures: Sequence[Figure]) -> Sentence:
    first, second, third = figures
    return (first, ", ", second, " and ", third)


def _implied(worth: Worth, record: Record) -> Sentence:
    if worth.implied_growth.value is None:
        return (f"Implied growth unknown: {worth.implied_growth.reason}.",)
    grown = record.growth[10]
    past: Sentence = ("; over ten years they have grown ", grown) if grown.known else ()
    return (
        "At today's price the market counts on dividends growing ",
        worth.implied_growth,
        " a year for ever, at a return of ",
        worth.input("required_return"),
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
    taxed: Sentence = (
        () if same(offered.value or 0.0, after.value or 0.0) else (" (", after, " after your tax)")
    )
    return (
        "Yield and growth together offer ",
        offered,
        " a year",
        *taxed,
        ", against ",
        market,
        " that you take the market to return.",
    )


def _apart(worth: Worth) -> Sentence:
    warned = ", more than 60 %: do not lean on their mean" if worth.spread_called_out else ""
    moves = f"; {worth.moves_most} moves the combined value most" if worth.moves_most else ""
    return ("The models lie ", worth.spread, f" apart{warned}{moves}.")
