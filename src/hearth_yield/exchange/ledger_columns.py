"""The columns of accounts and entries in a file, as the fields of an entry are declared."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hearth_yield.core.facts.columns import Column, Type
from hearth_yield.core.household.amounts import SHARE_DIGITS
from hearth_yield.core.household.entries import CostMethod, EntryKind
from hearth_yield.core.household.kinds import FIELDS, FieldType

TAXED = ("taxed", "sheltered")
CASH = ("not kept", "kept")


ALSO: Mapping[str, tuple[str, ...]] = {
    "day": ("date", "trade date", "transaction date", "datum"),
    "kind": ("type", "action", "transaction", "transaction type", "side", "activity"),
    "symbol": ("ticker", "ticker symbol", "stock"),
    "shares": ("quantity", "qty", "units", "no of shares", "number of shares", "anzahl"),
    "price": ("unit price", "price a share", "price per share", "share price", "trade price"),
    "amount": ("total", "total amount", "net amount", "consideration", "proceeds", "betrag"),
    "fee": ("fees", "commission", "costs", "charges"),
    "withheld": ("tax withheld", "withholding tax", "withholding"),
    "note": ("notes", "memo", "description", "comment"),
    "reference": ("transaction id", "trade id", "order id"),
}
USUAL = {
    *("account", "kind", "day", "symbol", "shares", "price", "amount"),
    *("fee", "tax", "withheld", "currency", "note", "name"),
}
"""What most entries say; the rest stands back where they are typed."""


def _column(name: str, type: Type = Type.TEXT, required: bool = False, **more: Any) -> Column:
    return Column(
        name=name,
        type=type,
        required=required,
        free=type is Type.TEXT,
        seldom=name not in USUAL,
        also=ALSO.get(name, ()),
        **more,
    )


def _choice(name: str, choices: tuple[str, ...], default: str | None = None) -> Column:
    return _column(name, Type.CHOICE, required=True, choices=choices, default=default)


ACCOUNT_COLUMNS = (
    _column("name", required=True),
    _column("currency", Type.CURRENCY, required=True),
    _choice("tax", TAXED, TAXED[0]),
    _choice("cost_method", tuple(CostMethod), CostMethod.FIFO.value),
    _choice("cash", CASH, CASH[0]),
    _column("entered_from", Type.DATE),
    _column("closed_on", Type.DATE),
)
TYPES: Mapping[FieldType, Type] = {
    "shares": Type.EXACT,
    "price": Type.EXACT,
    "money": Type.EXACT,
    "ratio": Type.EXACT,
    "day": Type.DATE,
    "account": Type.TEXT,
    "currency": Type.CURRENCY,
}


def _columns_of(id: str, type: FieldType) -> list[Column]:
    """A payer is named by its exchange and symbol."""
    if type == "payer":
        before = "" if id == "payer" else f"{id}_"
        return [_column(f"{before}exchange"), _column(f"{before}symbol")]
    places = SHARE_DIGITS if type == "shares" else None
    return [_column(id, TYPES[type], places=places)]


ENTRY_COLUMNS = (
    _column("account", required=True),
    _choice("kind", tuple(k.value for k in EntryKind)),
    _column("day", Type.DATE, required=True),
    *(c for f in FIELDS.values() for c in _columns_of(f.id, f.type)),
    _column("currency", Type.CURRENCY),
    _column("chosen"),
    _column("note"),
    _column("reference"),
)
"""chosen: lots of a sale or a transfer as "2018-01-31 7.5; 2019-02-28 3"."""
