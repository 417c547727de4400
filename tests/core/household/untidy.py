"""Ledgers as they really are: fractions, twins, several trades a day, splits between them, sold to
nil and bought anew, transfers to and fro, more sold than held."""

from __future__ import annotations

from datetime import date, timedelta
from decimal import Decimal
from fractions import Fraction
from itertools import count
from random import Random
from typing import Any

from msgspec.structs import replace

from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind, PayerKey
from hearth_yield.core.household.ledger import Known

from .build import HOME

FIRST = date(2006, 1, 2)
USUAL = (
    (EntryKind.BUY, 30),
    (EntryKind.DIVIDEND, 40),
    (EntryKind.REINVESTMENT, 10),
    (EntryKind.SELL, 12),
    (EntryKind.TRANSFER, 3),
    (EntryKind.RETURN_OF_CAPITAL, 3),
    (EntryKind.CONVERSION, 1),
    (EntryKind.OPENING, 1),
)


def accounts(of: int) -> list[Account]:
    methods = (CostMethod.FIFO, CostMethod.AVERAGE)
    return [
        Account(id=n, name=f"Account {n}", currency=HOME, method=methods[n % 2], keeps_cash=n == 1)
        for n in range(1, of + 1)
    ]


def payers(of: int) -> list[PayerKey]:
    return [("ELV", f"U{n:03d}") for n in range(of)]


def known(held: list[PayerKey], seed: int) -> Known:
    """Every third payer splits, some of them backwards; every tenth is counted in another
    currency."""
    random = Random(f"{seed}:splits")
    splits = {
        p: sorted(
            (FIRST + timedelta(days=random.randrange(7000)), random.choice(RATIOS))
            for _ in range(random.randrange(1, 4))
        )
        for p in held[::3]
    }
    currencies = {p: "THK" if n % 10 == 9 else HOME for n, p in enumerate(held)}
    return Known(currencies=currencies, splits=splits)


RATIOS = (Fraction(2), Fraction(3), Fraction(3, 2), Fraction(1, 10))


class Untidy:
    """Entries one after the other; more is sold than held now and then."""

    def __init__(self, seed: int, of: int = 3, payers_held: int = 200) -> None:
        self.random = Random(f"{seed}:untidy")
        self.accounts = accounts(of)
        self.payers = payers(payers_held)
        self.known = known(self.payers, seed)
        self.ids = count(1)

    def entries(self, number: int) -> list[Entry]:
        found: list[Entry] = []
        while len(found) < number:
            made = self._entry(number)
            found.append(made)
            if self.random.random() < 0.02:
                found.append(replace(made, id=next(self.ids)))
        return found[:number]

    def _entry(self, number: int) -> Entry:
        random = self.random
        kind = random.choices([k for k, _ in USUAL], [n for _, n in USUAL])[0]
        account = random.choice(self.accounts)
        payer = random.choice(self.payers)
        terms = getattr(self, f"_{kind.value}", self._plain)
        return Entry(
            id=next(self.ids),
            account=account.id,
            kind=kind,
            day=FIRST + timedelta(days=random.randrange(7300)),
            payer=payer,
            currency=self.known.currencies[payer],
            **terms(account, payer),
        )

    def _shares(self, most: int = 300) -> int:
        random = self.random
        if random.random() < 0.2:
            return random.randrange(1, most * 10**8)
        return random.randrange(1, most) * 10**8

    def _price(self) -> Decimal:
        return Decimal(self.random.randrange(100, 9000)).scaleb(-2)

    def _plain(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        return {"amount": self.random.randrange(1, 50_000)}

    def _buy(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        return {
            "shares": self._shares(),
            "price": self._price(),
            "fee": self.random.randrange(1500),
        }

    _sell = _buy

    def _reinvestment(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        gross = self.random.randrange(500, 50_000)
        return {"shares": self._shares(8), "amount": gross, "spent": gross - 7}

    def _opening(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        cost = self.random.choice((None, self.random.randrange(1, 10**6)))
        return {"shares": self._shares(), "amount": cost}

    def _transfer(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        others = [a.id for a in self.accounts if a is not account]
        to = self.random.choice([*others, None])
        comes = self.random.choice((1, -1)) if to is None else 1
        return {"shares": comes * self._shares(100), "to": to}

    def _conversion(self, account: Account, payer: PayerKey) -> dict[str, Any]:
        into = self.random.choice([p for p in self.payers if p != payer])
        return {
            "into": self.random.choice((into, into, None)),
            "new": Decimal(self.random.randrange(1, 5)),
            "old": Decimal(self.random.randrange(1, 5)),
            "cash": Decimal(self.random.choice((0, 0, 1))),
            "moves": self.random.choice((Decimal(1), Decimal("0.2"))),
        }
