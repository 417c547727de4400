"""What the return path says, in sentences."""

from __future__ import annotations

from ...figures.figure import Figure, percent
from ...figures.measure import Sentence
from ...figures.ties import above, same
from ...range.quantity import YIELD
from .path import ReturnPath


def in_words(path: ReturnPath) -> list[Sentence]:
    """The return and what it comes from; the prices that would give what is asked; what the payout
    does on the way; what new shares take away."""
    yearly = path.yearly["middle"]
    if yearly.value is None:
        return [(f"The return is unknown: {yearly.reason}.",)]
    said = (_returns(path), _range(path), _prices(path), _payout(path), _dilution(path))
    return [sentence for sentence in said if sentence]


def _returns(path: ReturnPath) -> Sentence:
    """Split into its parts, each with its sign."""
    held: list[str | Figure] = []
    for part in path.parts:
        held += [", " if held else ": ", f"{part.name} ", part.figure]
    return (
        "Bought at today’s price and sold after ",
        path.inputs["path_years"].figure,
        " at ",
        _exit(path),
        " it returns ",
        path.yearly["middle"],
        " a year",
        *held,
        ". With dividends put back in it is ",
        path.reinvested,
        ".",
    )


def _exit(path: ReturnPath) -> Figure:
    return path.inputs[path.exit_id].figure


def _range(path: ReturnPath) -> Sentence:
    low, high = path.yearly["low"], path.yearly["high"]
    if low.value is None or high.value is None:
        return ()
    return ("At the low exit it is ", low, " a year, at the high one ", high, ".")


def _prices(path: ReturnPath) -> Sentence:
    asked, market = path.held["required_return"].figure, path.ground.rules.market_return
    return (
        "At or under ",
        path.price_for_required,
        " it returns the ",
        asked,
        " that you ask; at or under ",
        path.price_for_market,
        f" it beats the {percent(market, 1)} that you take the market to return.",
    )


def _payout(path: ReturnPath) -> Sentence:
    year, limit = path.passes_limit, path.payout_limit
    if year is None or limit is None:
        return ()
    return (
        f"The payout of {path.quantity.short} passes your limit of {percent(limit)} "
        f"in year {year}.",
    )


def _dilution(path: ReturnPath) -> Sentence:
    """Per share against in total, where the share count changes."""
    change = path.inputs["path_shares"].figure
    total = path.after_dilution
    if path.quantity is YIELD or total.value is None or change.value is None:
        return ()
    if same(change.value, 0.0) or abs(change.value) < 5e-4:
        return ()
    if path.driven:
        verb = "takes from it" if above(change.value, 0.0) else "adds to it"
        return (
            "Per share that is growth of ",
            total,
            " a year: the share count changes by ",
            change,
            f" a year, which {verb}.",
        )
    return (
        "The share count has changed by ",
        change,
        " a year over five years; growing so per share takes growth of ",
        total,
        " a year in total.",
    )
