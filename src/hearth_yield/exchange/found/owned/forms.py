"""Which lists are of what a person owns, by their headings."""

from __future__ import annotations

from collections.abc import Sequence
from collections.abc import Set as AbstractSet
from enum import StrEnum

from ..headings import meaning, plain


class Form(StrEnum):
    """What the rows of a list are. MIXED: each says its kind, or the sign of its amount does."""

    POSITIONS = "positions"
    DIVIDENDS = "dividends"
    TRADES = "trades"
    MIXED = "entries"


_MONEY = {"amount", "gross", "net"}
_COSTS = {"cost", "cost_a_share", "worth"}
_OWN = {"shares", "fee", "tax", "withheld", "net", "gross", "account", "note", "money_in"}
"""What stands beside dividends that somebody received, and not beside those a payer declared."""
_DAYS = {"day", "settle_day", "pay_day"}


def targets_of(headings: Sequence[str]) -> set[str]:
    """What the headings mean in such a list, names of a payer among them."""
    found = set[str]()
    for heading in headings:
        meant = meaning("entries", heading) or meaning("payer", heading)
        if meant is not None:
            found.add(meant.target)
    return found


def pays(headings: Sequence[str]) -> bool:
    """Whether a list tells days on which something was paid, or names dividends."""
    return any(
        "divid" in plain(h) or ((m := meaning("entries", h)) and m.target == "pay_day")
        for h in headings
    )


def may_be_declared(headings: Sequence[str]) -> bool:
    """Whether a list of dividends with tax may be what a payer declared a share, before and after
    tax: it says when shares went without them, and of no shares that somebody holds."""
    targets = targets_of(headings)
    return "ex_day" in targets and "shares" not in targets


def form_of(headings: Sequence[str]) -> Form | None:
    """What a list with these headings is of what a person owns; None for any other list."""
    return form_with(targets_of(headings), pays=pays(headings))


def form_with(t: AbstractSet[str], *, pays: bool) -> Form | None:
    """The same of what its headings are taken for. pays: it is said that it tells of payments."""
    whose = t & {"symbol", "name", "isin"}
    if "shares" in t and not t & {"kind", "fee"} and _is_of_positions(t):
        return Form.POSITIONS
    dated = bool(_DAYS & t)
    moves = bool(t & {"money_in", "money_out"})
    if dated and (moves or (t & _MONEY and "balance" in t)):
        return Form.MIXED
    paid = bool(t & _MONEY) and (pays or "per_share" in t or "tax" in t or "withheld" in t)
    if "shares" in t and dated and t & ({"price"} | _MONEY):
        if "price" not in t and "kind" not in t and paid:
            return Form.DIVIDENDS
        if "kind" in t:
            return Form.MIXED
        return Form.TRADES if whose or t & {"fee", "net", "gross"} else None
    taxed = t & {"tax", "withheld"} and (t & {"gross", "net"} or (whose and "amount" in t))
    if dated and taxed:
        return Form.MIXED if "kind" in t else Form.DIVIDENDS
    if dated and "kind" in t and t & _MONEY and (whose or t & {"note", "fee", "account"}):
        return Form.MIXED if not pays or t & _OWN else None
    if "shares" in t and dated and "kind" in t and (whose or t & {"fee", "price"}):
        return Form.MIXED
    return None


def _is_of_positions(t: AbstractSet[str]) -> bool:
    if not _DAYS & t:
        return bool(t & (_COSTS | _MONEY | {"price"}))
    return bool(t & {"cost", "cost_a_share"}) and not t & {"net", "gross"}


def is_of_cash(headings: Sequence[str]) -> bool:
    """Whether a list that is nothing else tells what came and went: a day, words and an amount."""
    t = targets_of(headings)
    return bool(_DAYS & t) and bool(t & _MONEY) and "note" in t
