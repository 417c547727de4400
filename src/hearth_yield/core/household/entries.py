"""Accounts, and what is entered in them. (docs/method.md, Household)"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from enum import StrEnum

from msgspec import Struct

from .amounts import worth

PayerKey = tuple[str, str]
"""Exchange and symbol."""


class CostMethod(StrEnum):
    FIFO = "fifo"
    AVERAGE = "average"


class EntryKind(StrEnum):
    """In the order in which a day goes, as far as shares are concerned."""

    CONVERSION = "conversion"
    OPENING = "opening"
    BUY = "buy"
    REINVESTMENT = "reinvestment"
    RETURN_OF_CAPITAL = "return_of_capital"
    SELL = "sell"
    TRANSFER = "transfer"
    DIVIDEND = "dividend"
    DEPOSIT = "deposit"
    WITHDRAWAL = "withdrawal"
    EXCHANGE = "exchange"
    INTEREST = "interest"
    FEE = "fee"
    TAX = "tax"
    STATED = "stated"


@dataclass(frozen=True, slots=True, kw_only=True)
class Account:
    """sheltered: no tax at home. keeps_cash: its cash is told. entered_from: the day from which
    dividends are entered; before it, and where there is none, those of the record count as
    received. closed_on: nothing is entered after it."""

    id: int
    name: str
    currency: str
    sheltered: bool = False
    method: CostMethod = CostMethod.FIFO
    keeps_cash: bool = False
    entered_from: date | None = None
    closed_on: date | None = None


class Entry(Struct, frozen=True, kw_only=True):
    """One line of the ledger: shares in units of 10⁻⁸, money in the minor unit of `currency`.

    amount: by kind, what was paid in all (buy, fee, tax), what came in all (sell, return of
    capital, interest), the cost (opening, from outside; None: not known), the gross (dividend,
    reinvestment), the sum (deposit, withdrawal, exchange: what was given), the cash that is there
    (stated). fee, tax: part of what a buy cost; taken off what a sale brought. withheld, returned:
    of the gross of a dividend. spent: what a reinvestment bought for. settled: the amount in the
    account's currency. bought: the day of an opening's or a transfer's shares. chosen: days of lots
    and shares of each, in place of the first in. to: the account it goes to; None: to or from
    outside, by the sign of shares. into, new, old, cash, moves: a conversion's payer, shares for
    shares, cash for an old share, and the part of the cost that goes over. into_amount,
    into_currency: what an exchange brought. note: own words; reference: what an institution
    calls it.
    """

    id: int
    account: int
    kind: EntryKind
    day: date
    payer: PayerKey | None = None
    shares: int | None = None
    price: Decimal | None = None
    amount: int | None = None
    currency: str = ""
    fee: int = 0
    tax: int = 0
    withheld: int = 0
    returned: int = 0
    spent: int | None = None
    settled: int | None = None
    bought: date | None = None
    chosen: tuple[tuple[date, int], ...] = ()
    to: int | None = None
    into: PayerKey | None = None
    new: Decimal = Decimal(1)
    old: Decimal = Decimal(1)
    cash: Decimal = Decimal(0)
    moves: Decimal = Decimal(1)
    into_amount: int | None = None
    into_currency: str = ""
    note: str = ""
    reference: str | None = None

    def _at_price(self) -> int:
        if self.price is None:
            return 0
        return worth(abs(self.shares or 0), self.price, self.currency)

    @property
    def paid(self) -> int:
        """What a buy cost in all: what was typed, else shares at the price, with fee and tax."""
        if self.amount is not None:
            return self.amount
        return self._at_price() + self.fee + self.tax

    @property
    def cost(self) -> int | None:
        """Of shares that come from before or from outside: what was typed, else from the price they
        were bought at; None where neither is known."""
        if self.amount is not None or self.price is None:
            return self.amount
        return self._at_price()

    @property
    def brought(self) -> int:
        """What a sale brought after fee and tax: what was typed, else from shares at the price."""
        if self.amount is not None:
            return self.amount
        return self._at_price() - self.fee - self.tax

    @property
    def proceeds(self) -> int:
        """What a sale brought before the tax on it."""
        return self.brought + self.tax

    @property
    def net(self) -> int:
        """What a dividend brought after what was withheld and the fee."""
        return (self.amount or 0) - self.withheld - self.fee

    @property
    def spent_on_shares(self) -> int:
        """What a reinvestment bought for."""
        return self._at_price() if self.spent is None else self.spent

    @property
    def capital_back(self) -> int:
        """What of it is the payer's capital that came back."""
        if self.kind is EntryKind.RETURN_OF_CAPITAL:
            return self.amount or 0
        return self.returned

    @property
    def arrives(self) -> bool:
        """Of a transfer: that it comes from outside."""
        return self.to is None and (self.shares or 0) > 0

    @property
    def moved(self) -> int:
        """The sum that `settled` stands for in the account's currency."""
        if self.kind is EntryKind.BUY:
            return self.paid
        if self.kind is EntryKind.SELL:
            return self.brought
        if self.kind in (EntryKind.DIVIDEND, EntryKind.REINVESTMENT):
            return self.net
        return self.amount or 0
