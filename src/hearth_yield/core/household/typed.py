"""What is typed of an entry, in the units that the ledger counts in. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from ..errors import InvalidInput
from .amounts import SHARE_DIGITS, in_units, minor_digits
from .kinds import FIELDS

MONEY = ("amount", "fee", "tax", "withheld", "returned", "spent")
AS_TYPED = ("price", "new", "old", "cash", "moves")
MOST_UNITS = 10**17


def in_ledger_units(
    said: Mapping[str, Decimal | None], *, currency: str, own: str, into: str = ""
) -> dict[str, Any]:
    """The numbers of an entry that were said, as the ledger holds them.

    currency: what its money is in; own: the account's, in which it was settled; into: of an
    exchange, what it brought.
    Raises: InvalidInput for more decimals than are kept, or a number that is too large.
    """
    found: dict[str, Any] = {n: said[n] for n in AS_TYPED if said.get(n) is not None}
    for name, digits in (
        *((n, minor_digits(currency)) for n in MONEY),
        ("shares", SHARE_DIGITS),
        ("settled", minor_digits(own)),
        ("into_amount", minor_digits(into)),
    ):
        value = said.get(name)
        if value is not None:
            found[name] = units_of(name, value, digits)
    return found


def units_of(name: str, value: Decimal, digits: int) -> int:
    """Raises InvalidInput as `in_ledger_units` does."""
    said = FIELDS[name].name.lower()
    try:
        units = in_units(value, digits)
    except ValueError as error:
        raise InvalidInput(
            f"{said} has more decimals than are kept",
            field=name,
            value=str(value),
            rule=f"at most {digits} decimals",
        ) from error
    if abs(units) > MOST_UNITS:
        raise InvalidInput(f"{said} is too large", field=name, value=str(value), rule="less")
    return units
