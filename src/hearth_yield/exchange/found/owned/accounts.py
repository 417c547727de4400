"""The accounts that a file's entries may be of, and whose account its rows are."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date

from hearth_yield.core.household.entries import Account, PayerKey
from hearth_yield.core.household.kinds import MOST_NAME

from ..headings import meaning
from ..sheets import Cell, Sheet

LOOKED_UP = 400
"""So many rows above a list are looked through for the account it is of."""
MOST_CELLS = 6
_LABEL = re.compile(
    r"^(?:account|portfolio|depot|konto|compte|cuenta|conto|rekening)"
    r"(?:\s*(?:name|number|no\.?|nr\.?|id|nummer|n°))?\s*[:#]?\s+(?P<name>\S.*)$",
    re.IGNORECASE,
)
_IN_BRACKETS = re.compile(r"[(\[][A-Z]{3}[)\]]$")
"""The currency behind a name."""
_BARE = re.compile(r"^(?:account|portfolio|depot|konto|compte|cuenta|conto|rekening)\b", re.I)


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownAccount:
    """empty: nothing is entered in it. openings: payers and days of what was held at first."""

    account: Account
    empty: bool = True
    openings: frozenset[tuple[PayerKey, date]] = frozenset()

    @property
    def name(self) -> str:
        return self.account.name

    @property
    def currency(self) -> str:
        return self.account.currency

    @property
    def enters_from(self) -> date | None:
        """The day from which dividends are entered in it; None: those of the record count."""
        return self.account.entered_from


@dataclass(frozen=True, slots=True, kw_only=True)
class Accounts:
    """home: the currency of sums, where one is chosen. paid: of a payer, the days of its payments
    and what each was a share."""

    today: date
    known: Sequence[KnownAccount] = ()
    home: str | None = None
    paid: Callable[[PayerKey], Sequence[tuple[date, float]]] = lambda _: ()

    def of(self, name: str) -> KnownAccount | None:
        folded = name.strip().casefold()
        return next((a for a in self.known if a.name.casefold() == folded), None)


def account_above(sheet: Sheet, head: int) -> str:
    """The account that a line above a list names: "Account: 4711", or a cell beside "Account";
    empty where none does."""
    for n in range(head - 1, max(-1, head - LOOKED_UP), -1):
        cells = [c for c in sheet.rows[n] if c is not None]
        if not cells or len(cells) > MOST_CELLS or not isinstance(cells[0], str):
            continue
        told = _LABEL.match(cells[0])
        if told:
            return _tidy(told["name"])
        if len(cells) == 2 and _BARE.match(cells[0]) and meaning("entries", cells[0]):
            return _tidy(_text(cells[1]))
    return ""


def _tidy(name: str) -> str:
    return " ".join(_IN_BRACKETS.sub("", name).split())[:MOST_NAME].strip(" ,;:")


def _text(cell: Cell) -> str:
    return f"{cell:.0f}" if isinstance(cell, float) else str(cell)
