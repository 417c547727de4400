"""One calendar year for the tax office: dividends, returned capital, sales, interest, fees, tax.
(docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from ..entries import Entry, EntryKind, PayerKey
from ..ledger import Book, Place, Rates
from ..lots import total
from ..receipts import Receipt
from .tax import TaxRules

OTHERS = (EntryKind.INTEREST, EntryKind.FEE, EntryKind.TAX)


@dataclass(frozen=True, slots=True, kw_only=True)
class YearDividends:
    """Of one payer in one account and currency, in minor units. beyond: of what was withheld, above
    the house rules' rate of the country. at_home: net, at the rates of the days; None without one.
    on_record: how many of the payments the record told."""

    place: Place
    country: str | None
    currency: str
    payments: int
    gross: int
    withheld: int
    beyond: int
    at_home: int | None
    gross_at_home: int | None
    on_record: int

    @property
    def net(self) -> int:
        return self.gross - self.withheld


@dataclass(frozen=True, slots=True, kw_only=True)
class YearCountry:
    """Dividends of one country in one currency, in minor units, as those of its payers. unknown:
    how many of their lines are in no sum at home."""

    country: str | None
    currency: str
    payments: int
    gross: int
    withheld: int
    beyond: int
    gross_at_home: int
    at_home: int
    unknown: int

    @property
    def net(self) -> int:
        return self.gross - self.withheld


@dataclass(frozen=True, slots=True, kw_only=True)
class YearSale:
    """One lot of what went in the year. bought: its day; dated: whether that is known. held: days.
    proceeds, cost, gain in the payer's currency, gain also at home; None where not known."""

    place: Place
    day: date
    kind: EntryKind
    bought: date
    dated: bool
    shares: int
    currency: str
    proceeds: int | None
    cost: int | None
    gain: int | None
    gain_at_home: int | None

    @property
    def held(self) -> int:
        return (self.day - self.bought).days


@dataclass(frozen=True, slots=True, kw_only=True)
class YearOther:
    """Interest, fees, taxes and returned capital, by account, payer and currency."""

    account: int
    payer: PayerKey | None
    kind: EntryKind
    currency: str
    amount: int
    at_home: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Year:
    year: int
    dividends: tuple[YearDividends, ...]
    sales: tuple[YearSale, ...]
    others: tuple[YearOther, ...]
    unresolved: tuple[Place, ...]

    @property
    def countries(self) -> list[YearCountry]:
        """Its dividends by country and currency, the largest at home first."""
        held: dict[tuple[str | None, str], list[YearDividends]] = {}
        for d in self.dividends:
            held.setdefault((d.country, d.currency), []).append(d)
        found = [
            YearCountry(
                country=country,
                currency=currency,
                payments=sum(d.payments for d in some),
                gross=sum(d.gross for d in some),
                withheld=sum(d.withheld for d in some),
                beyond=sum(d.beyond for d in some),
                gross_at_home=sum(d.gross_at_home or 0 for d in some),
                at_home=sum(d.at_home or 0 for d in some),
                unknown=sum(d.at_home is None for d in some),
            )
            for (country, currency), some in held.items()
        ]
        return sorted(found, key=lambda c: (-c.gross_at_home, c.country or "", c.currency))

    @property
    def gross(self) -> int:
        """Of dividends, at home, of what is known there."""
        return sum(d.gross_at_home or 0 for d in self.dividends)

    @property
    def net(self) -> int:
        return sum(d.at_home or 0 for d in self.dividends)

    @property
    def gain(self) -> int:
        """Of sales, at home, of what is known there."""
        return sum(s.gain_at_home or 0 for s in self.sales)

    @property
    def unknown(self) -> int:
        """How many lines are in no sum."""
        known = (*(d.at_home for d in self.dividends), *(s.gain_at_home for s in self.sales))
        return sum(n is None for n in known)


def year_of(
    year: int,
    book: Book,
    entries: Sequence[Entry],
    receipts: Mapping[Place, Sequence[Receipt]],
    countries: Mapping[PayerKey, str | None],
    currencies: Mapping[PayerKey, str],
    rates: Rates,
    rules: TaxRules,
    home: str,
) -> Year:
    """What happened from its first day to its last, or to the day that the book stands on."""

    def within(day: date) -> bool:
        return day.year == year

    return Year(
        year=year,
        dividends=_dividends(receipts, within, countries, rates, rules, home),
        sales=_sales(book, within, currencies),
        others=_others(entries, within, rates, home),
        unresolved=tuple(sorted(p for p, held in book.held.items() if held.unresolved is not None)),
    )


def _dividends(
    receipts: Mapping[Place, Sequence[Receipt]],
    within: Callable[[date], bool],
    countries: Mapping[PayerKey, str | None],
    rates: Rates,
    rules: TaxRules,
    home: str,
) -> tuple[YearDividends, ...]:
    found = []
    for place, came in sorted(receipts.items()):
        mine = [r for r in came if within(r.day)]
        for currency in sorted({r.currency for r in mine}):
            some = [r for r in mine if r.currency == currency]
            country = countries.get(place[1])
            rate = rules.withheld_by(country)
            found.append(
                YearDividends(
                    place=place,
                    country=country,
                    currency=currency,
                    payments=len(some),
                    gross=sum(r.gross for r in some),
                    withheld=sum(r.gross - r.net for r in some),
                    beyond=sum(_beyond(r, rate) for r in some),
                    at_home=total(r.at_home for r in some),
                    gross_at_home=total(
                        rates.convert(r.gross, currency, home, r.day) for r in some
                    ),
                    on_record=sum(r.on_record for r in some),
                )
            )
    return tuple(found)


def _beyond(came: Receipt, rate: float) -> int:
    """Of what was withheld, what is above a rate; nothing where no rate is set."""
    if rate <= 0:
        return 0
    return max(0, came.gross - came.net - round(came.gross * rate))


def _sales(
    book: Book, within: Callable[[date], bool], currencies: Mapping[PayerKey, str]
) -> tuple[YearSale, ...]:
    return tuple(
        YearSale(
            place=(sale.account, sale.payer),
            day=sale.day,
            kind=sale.kind,
            bought=sold.lot.day,
            dated=sold.lot.dated,
            shares=sold.lot.shares,
            currency=currencies[sale.payer],
            proceeds=sold.proceeds,
            cost=sold.lot.cost,
            gain=sold.gain,
            gain_at_home=sold.gain_at_home,
        )
        for sale in sorted(book.sales, key=lambda s: (s.day, s.account, s.payer))
        if within(sale.day) and sale.kind is not EntryKind.TRANSFER
        for sold in sale.lots
    )


def _others(
    entries: Sequence[Entry], within: Callable[[date], bool], rates: Rates, home: str
) -> tuple[YearOther, ...]:
    sums: dict[tuple[int, PayerKey | None, EntryKind, str], list[Entry]] = {}
    for e in entries:
        if not within(e.day):
            continue
        if e.kind in OTHERS:
            sums.setdefault((e.account, e.payer, e.kind, e.currency), []).append(e)
        elif e.kind is not EntryKind.OPENING and e.capital_back:
            back = EntryKind.RETURN_OF_CAPITAL
            sums.setdefault((e.account, e.payer, back, e.currency), []).append(e)
    found = []
    for (account, payer, kind, currency), some in sums.items():
        own = [(e.amount or 0) if kind in OTHERS else e.capital_back for e in some]
        there = [rates.convert(n, e.currency, home, e.day) for n, e in zip(own, some, strict=True)]
        found.append(
            YearOther(
                account=account,
                payer=payer,
                kind=kind,
                currency=currency,
                amount=sum(own),
                at_home=total(there),
            )
        )
    return tuple(sorted(found, key=lambda o: (o.kind.value, o.account, o.payer or ("", ""))))
