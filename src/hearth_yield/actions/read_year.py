"""One calendar year of the household, to look at and as a file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from hearth_yield.core.facts.records import Payer
from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Account, PayerKey
from hearth_yield.core.household.income.year import Year, year_of
from hearth_yield.core.household.kinds import KINDS
from hearth_yield.exchange.book import SumAbove, write_book
from hearth_yield.exchange.writing import disarm
from hearth_yield.store.database import Edition

from .read_holdings import kept_ground, kept_walk
from .read_income import tax_rules
from .review_cache import ReviewCache


@dataclass(frozen=True, slots=True, kw_only=True)
class YearRead:
    """years: in which anything was entered, the newest first."""

    home: str
    found: Year
    years: tuple[int, ...]
    accounts: Mapping[int, Account]
    payers: Mapping[PayerKey, Payer]

    def name_of(self, key: PayerKey | None) -> str:
        if key is None:
            return ""
        payer = self.payers.get(key)
        return payer.name if payer else key[1]


def read_year(cache: ReviewCache, year: int, as_of: date, at: Edition) -> YearRead:
    """Up to the day that is viewed."""
    ground = kept_ground(cache, as_of, at)
    book, receipts = kept_walk(cache, as_of, at)
    payers = {k: f.payer for k, f in ground.followed.items() if f.payer is not None}
    first = min((e.day.year for e in ground.entries), default=as_of.year)
    return YearRead(
        home=ground.home,
        found=year_of(
            year,
            book,
            ground.entries,
            receipts,
            {k: p.country for k, p in payers.items()},
            ground.known.currencies,
            ground.rates,
            tax_rules(cache.house_rules(at)),
            ground.home,
        ),
        years=tuple(range(as_of.year, first - 1, -1)),
        accounts={a.id: a for a in ground.accounts},
        payers=payers,
    )


def year_sheets(read: YearRead) -> dict[str, list[list[Any]]]:
    """The year as tables: a row each, amounts exact."""
    home = read.home

    def money(units: int | None, currency: str) -> Any:
        return None if units is None else as_decimal(units, minor_digits(currency))

    def account(id: int) -> str:
        return disarm(read.accounts[id].name)

    def payer(key: PayerKey | None) -> str:
        return disarm(read.name_of(key))

    return {
        "Dividends": _with_sums(
            [
                ["Payer", "Country", "Account", "Currency", "Payments", "Of them from the record",
                 "Gross", "Withheld", "Withheld above the rate", "Net", f"Gross, {home}",
                 f"Net, {home}"],
                *(
                    [payer(d.place[1]), disarm(d.country or ""), account(d.place[0]), d.currency,
                     d.payments, d.on_record, money(d.gross, d.currency),
                     money(d.withheld, d.currency), money(d.beyond, d.currency),
                     money(d.net, d.currency), money(d.gross_at_home, home),
                     money(d.at_home, home)]
                    for d in read.found.dividends
                ),
            ],
            2,
        ),
        "By country": _with_sums(
            [
                ["Country", "Currency", "Payments", "Gross", "Withheld", "Withheld above the rate",
                 "Net", f"Gross, {home}", f"Net, {home}"],
                *(
                    [disarm(c.country or ""), c.currency, c.payments, money(c.gross, c.currency),
                     money(c.withheld, c.currency), money(c.beyond, c.currency),
                     money(c.net, c.currency), money(c.gross_at_home, home),
                     money(c.at_home, home)]
                    for c in read.found.countries
                ),
            ],
            2,
        ),
        "Sales": _with_sums(
            [
                ["Day", "Payer", "Account", "What", "Bought", "Days held", "Shares", "Currency",
                 "Proceeds", "Cost", "Gain", f"Gain, {home}"],
                *(
                    [s.day, payer(s.place[1]), account(s.place[0]), KINDS[s.kind].name,
                     s.bought if s.dated else None, s.held if s.dated else None,
                     as_decimal(s.shares, SHARE_DIGITS), s.currency, money(s.proceeds, s.currency),
                     money(s.cost, s.currency), money(s.gain, s.currency),
                     money(s.gain_at_home, home)]
                    for s in read.found.sales
                ),
            ],
            1,
        ),
        "Others": [
            ["What", "Account", "Payer", "Currency", "Amount", f"Amount, {home}"],
            *(
                [KINDS[o.kind].name, account(o.account), payer(o.payer), o.currency,
                 money(o.amount, o.currency), money(o.at_home, home)]
                for o in read.found.others
            ),
        ],
        "Unresolved": [
            ["Payer", "Account"],
            *([payer(key), account(id)] for id, key in read.found.unresolved),
        ],
    }  # fmt: skip


def _with_sums(rows: list[list[Any]], columns: int) -> list[list[Any]]:
    """With the sums of the last columns beneath, of what is known."""
    if len(rows) < 2:
        return rows
    first = len(rows[0]) - columns
    sums = [
        SumAbove(sum((row[at] for row in rows[1:] if row[at] is not None), Decimal(0)))
        for at in range(first, len(rows[0]))
    ]
    return [*rows, ["In all", *[None] * (first - 1), *sums]]


def year_book(read: YearRead) -> bytes:
    """As a workbook, a sheet a table."""
    return write_book(year_sheets(read))
