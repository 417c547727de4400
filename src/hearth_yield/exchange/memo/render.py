"""Writes a kept decision as HTML with its drawings inside."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from functools import cache
from typing import Any

from jinja2 import Environment, PackageLoader, StrictUndefined, Template

from . import words


@dataclass(frozen=True, slots=True, kw_only=True)
class Memo:
    """A decision to be written. expectations: each in words. kept: as `freeze` made it; empty for
    one that was made before memos were kept. figures: by name, as the decision froze them."""

    exchange: str
    symbol: str
    made: date
    verdict: str
    words: str
    currency: str
    buy_below: float | None
    trim_above: float | None
    next_look: date | None
    pros: str = ""
    cons: str = ""
    risks: str = ""
    expectations: Sequence[str] = ()
    strains: Sequence[str] = ()
    disagreements: Mapping[str, str] = field(default_factory=dict)
    looked_back: str = ""
    kept: Mapping[str, Any] = field(default_factory=dict)
    figures: Mapping[str, Mapping[str, Any]] = field(default_factory=dict)

    @property
    def name(self) -> str:
        return str(self.kept["payer"]["name"]) if self.kept else self.symbol

    @property
    def target_yield(self) -> float | None:
        """The declared rate of the day at the buy-below price."""
        rate = self.figures.get("record.declared_rate", {}).get("value")
        return None if not rate or not self.buy_below else float(rate) / self.buy_below


@cache
def _template() -> Template:
    env = Environment(
        loader=PackageLoader("hearth_yield.exchange.memo", "."),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    env.filters |= {
        "number": words.number,
        "told": words.told,
        "sentence": words.sentence,
        "day": words.day,
    }
    env.globals |= {"show": words.show, "ruled": ruled}
    return env.get_template("memo.html.j2")


def render(memo: Memo) -> str:
    """The whole page. The same memo gives the same bytes."""
    return _template().render(m=memo, kept=memo.kept)


WIDE = 640.0
MARKS = ("lowest", "lower_quartile", "median", "mean", "upper_quartile", "highest", "now")


def ruled(ruler: Mapping[str, Any]) -> dict[str, float] | None:
    """Where the marks of a ruler stand between its lowest and highest, over 640; None where some
    are not known."""
    values = {name: ruler.get(name) for name in MARKS}
    if any(v is None for v in values.values()):
        return None
    known = {name: float(v) for name, v in values.items() if v is not None}
    low = min(known["lowest"], known["now"])
    wide = max(known["highest"], known["now"]) - low
    if wide <= 0:
        return None
    return {name: round((v - low) / wide * WIDE, 1) for name, v in known.items()}
