"""A column of a fact: its type, what may stand in it, and the words that say so."""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import StrEnum


class Type(StrEnum):
    TEXT = "text"
    DATE = "date"
    NUMBER = "number"
    EXACT = "exact"
    INTEGER = "integer"
    CHOICE = "choice"
    CURRENCY = "currency"
    ISIN = "isin"


FIRST_DAY, LAST_DAY = date(1800, 1, 1), date(2199, 12, 31)
"""What any date of a fact lies between: the ends of the calendar leave no room to count from."""
MOST_MONEY = 1e18
MOST_SHARES = 1e15
MOST_A_SHARE = 1e12
LEAST = 1e-9
"""Beyond these no company, price or payment can be."""
UNTOLD = 1e9
"""From here on a bound only keeps out what cannot be, and is not told."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """scaled: money in the unit the file names. positive, low, high: what a number must be; most:
    what its size must not exceed, in single units. outflow: what goes out, as a positive amount.
    without: characters that a text must not hold. past: a day that is over before it can be told.
    in_files: what a file calls it, where that is another name. files_only: it says how a file is to
    be read and is not held; ours say this there. guarded: the store itself takes none but its
    choices. sought: rows are looked for by it. empty: what is held where a file says nothing.
    editable: a person may put another value in its place. places: of an exact number, how many
    decimals it has at most; None: as many as were typed, and it is kept as it was. free: of a text,
    that it may be anything. seldom: where rows are typed it stands back until it is asked for.
    also: what people head such a column, where they paste it.
    """

    name: str
    type: Type
    required: bool = False
    choices: tuple[str, ...] = ()
    default: str | None = None
    positive: bool = False
    low: float | None = None
    high: float | None = None
    most: float = MOST_MONEY
    scaled: bool = False
    outflow: bool = False
    without: str = ""
    past: bool = False
    in_files: str | None = None
    files_only: str | None = None
    guarded: bool = False
    sought: bool = False
    empty: str | int | None = None
    editable: bool = False
    places: int | None = None
    free: bool = False
    seldom: bool = False
    also: tuple[str, ...] = ()

    def refuses(self, value: float | Decimal) -> str | None:
        """What a number, in single units, would have to be to stand here; None: it may."""
        low, high, size = self.low, self.high, float(value)
        if not math.isfinite(size) or abs(size) > self.most:
            return f"a number of at most {self.most:,.0f}"
        if isinstance(value, Decimal) and not self._is_held(value):
            return self.expected
        below = (self.positive and size < LEAST) or (low is not None and size < low)
        return self.expected if below or (high is not None and size > high) else None

    def _is_held(self, value: Decimal) -> bool:
        """Whether it has no more decimals than are kept."""
        return self.places is None or value == round(value, self.places)

    def fits(self, text: str) -> bool:
        """Whether a text may stand here."""
        return self.free or (bool(text.strip(".")) and not any(c in text for c in self.without))

    @property
    def expected(self) -> str:
        """What a cell must hold, in words."""
        match self.type:
            case Type.DATE:
                return "a date as YYYY-MM-DD"
            case Type.CHOICE:
                return "one of " + ", ".join(self.choices)
            case Type.TEXT:
                return (
                    f"some text without {' or '.join(self.without)}"
                    if self.without
                    else ("some text")
                )
            case Type.CURRENCY:
                return "a three-letter currency code in capitals"
            case Type.ISIN:
                return "an ISIN: two letters, nine letters or digits, and the check digit they give"
        kind = "a whole number" if self.type is Type.INTEGER else "a number"
        if self.type is Type.EXACT and self.places is not None:
            kind = f"{kind} of at most {self.places} decimals"
        if self.positive:
            return f"{kind} above 0"
        if self.outflow:
            return f"{kind}, 0 or more: a cost or an outflow is written as a positive amount"
        if self.low is not None and self.high is not None:
            if self.high >= UNTOLD:
                return f"{kind}, 0 or more" if self.low == 0 else kind
            return f"{kind} from {self.low:g} to {self.high:g}"
        return f"{kind}, 0 or more" if self.low == 0 else kind
