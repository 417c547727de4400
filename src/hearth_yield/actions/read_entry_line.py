"""An entry in a line of words: "bought 50 TRS at 21.40 today"."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal, InvalidOperation

from hearth_yield.core.household.entries import EntryKind, PayerKey

from .ensure_measures import universe
from .review_cache import ReviewCache

VERBS = {
    "bought": EntryKind.BUY,
    "buy": EntryKind.BUY,
    "sold": EntryKind.SELL,
    "sell": EntryKind.SELL,
    "held": EntryKind.OPENING,
    "own": EntryKind.OPENING,
}
NUMBER = r"[0-9][0-9,.']{0,30}"
LINE = re.compile(
    rf"(?P<verb>bought|buy|sold|sell|held|own) +(?P<shares>{NUMBER})(?: +shares?)?(?: +of)?"
    r"(?: +(?!(?:at|for|on|today|yesterday)\b)(?P<who>.+?))?"
    rf"(?: +(?:at|for) +(?P<price>{NUMBER})(?P<each> +(?:each|a share))?)?"
    rf"(?: +on)?(?: +(?P<day>today|yesterday|\d{{4}}-\d{{2}}-\d{{2}}))?"
)
MOST = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """What a line says. payers: who may be meant, at most a few; None: nobody was named."""

    kind: EntryKind
    shares: Decimal
    price: Decimal | None
    day: date
    payers: Sequence[PayerKey] | None


def read_entry_line(cache: ReviewCache, text: str, today: date) -> Line | None:
    """None for a line that is no entry."""
    found = LINE.fullmatch(" ".join(text[:MOST].lower().split()))
    if found is None:
        return None
    shares, price = _number(found["shares"]), _number(found["price"])
    day = _day(found["day"], today)
    if shares is None or shares <= 0 or day is None or (found["price"] and price is None):
        return None
    who = found["who"]
    return Line(
        kind=VERBS[found["verb"]],
        shares=shares,
        price=price,
        day=day,
        payers=None if who is None else _payers(cache, who, today),
    )


def _number(text: str | None) -> Decimal | None:
    """A dot is a decimal point, commas and apostrophes part thousands."""
    if text is None:
        return None
    plain = text.rstrip(".,")
    if not re.fullmatch(r"\d{1,3}(?:[,']\d{3})+(?:\.\d+)?|\d+(?:\.\d+)?", plain):
        return None
    try:
        return Decimal(re.sub("[,']", "", plain))
    except InvalidOperation:
        return None


def _day(text: str | None, today: date) -> date | None:
    if text is None or text == "today":
        return today
    if text == "yesterday":
        return today - timedelta(days=1)
    try:
        return date.fromisoformat(text)
    except ValueError:
        return None


def _payers(cache: ReviewCache, who: str, today: date) -> list[PayerKey]:
    """By symbol first, then by a name that begins or holds the words."""
    every = universe(cache, today).candidates
    for fits in (
        lambda c: c.symbol.lower() == who,
        lambda c: c.name.lower() == who,
        lambda c: c.name.lower().startswith(who),
        lambda c: who in c.name.lower(),
    ):
        found = [(c.exchange, c.symbol) for c in every if fits(c)]
        if found:
            return found[:6]
    return []
