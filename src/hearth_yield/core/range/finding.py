"""What Range found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.measure import Sentence
from ..figures.saying import beside
from ..judging.judge import Test
from .ruler import WINDOWS, Ruler, window_told
from .stage import RangeStage


def finding(stage: RangeStage, _: Sequence[Test]) -> Sentence:
    return sentence_of(stage.yields)


def sentence_of(ruler: Ruler) -> Sentence:
    """Where a quantity stands among its own weeks."""
    name = ruler.quantity.name
    now, deviation, share = ruler.now, ruler.deviation, ruler.share_higher
    if now.value is None:
        why = now.reason or ""
        named = " unknown: " in why
        return (
            f"{why[:1].upper()}{why[1:]}."
            if named
            else f"{name[:1].upper()}{name[1:]} unknown: {why}.",
        )
    if deviation.value is None:
        return (_start(name), now, f"; its {ruler.usual} is unknown: {ruler.typical.reason}.")
    usual = f"its {_usual(ruler)}"
    said = (_start(name), now, ", ", *beside(deviation, usual, "above", "below"), "; ")
    if share.value == 0:
        return (*said, "no week of it was higher.")
    return (*said, "higher than today in ", share, " of weeks.")


def _usual(ruler: Ruler) -> str:
    if ruler.window == "all":
        return f"whole record's {ruler.usual}"
    if ruler.window in WINDOWS:
        return f"{window_told(ruler.window)} {ruler.usual}"
    return f"{ruler.usual} of {window_told(ruler.window)}"


def _start(name: str) -> str:
    return "Yields " if name == "yield" else f"{name[:1].upper()}{name[1:]} is "
