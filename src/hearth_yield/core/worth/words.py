"""What the models say together, in sentences, and what is marked on their axis."""

from __future__ import annotations

from ..figures.figure import Figure
from ..figures.measure import Sentence, Size
from ..figures.ties import same
from ..record.history import Record
from .worth import Worth


def marks(price: Figure, worth: Worth) -> list[tuple[str, Figure, str]]:
    """Name, figure and kind of each mark; the price leads, the rest are values."""
    return [
        ("price", price, "price"),
        ("combined", worth.combined, "value"),
        ("buy below", worth.buy_below, "bound"),
    ]


def in_words(worth: Worth, record: Record) -> list[Sentence]:
    """From the combined value to the buy-below price; what today's price takes for granted; how far
    the models lie apart."""
    said = [_to_buy_below(worth), _implied(worth, record)]
    if worth.implied_return.known:
        said.append(_offered(worth))
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
    return (*said, ", and the price is ", Size(figure=gap), f" {side} it.")


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
