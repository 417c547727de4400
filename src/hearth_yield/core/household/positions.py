"""What is held, what it cost, is worth and pays. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import cached_property

from ..figures.figure import Figure, Sample, SampleRow, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures
from .amounts import SHARE, minor_digits
from .entries import PayerKey
from .ledger import Book, Place, Sale, gain_by_price
from .lots import Lot, Unresolved, total
from .receipts import Receipt


@dataclass(frozen=True, slots=True, kw_only=True)
class Quote:
    """What is known of a payer that is held: its last close, what it declares a year for a share,
    what one unit of its currency costs at home, and the prices to buy below and to trim above."""

    payer: PayerKey
    name: str
    currency: str
    price: Figure
    rate: Figure
    at_home: Figure
    buy_below: Figure
    trim_above: Figure


@dataclass(frozen=True, kw_only=True)
class Position(HoldsFigures):
    """Shares of one payer, in one account or in several. money at home, where not said; unresolved:
    why nothing of it is known. sales, received: what came of it by then."""

    quote: Quote
    places: tuple[Place, ...]
    home: str
    lots: tuple[Lot, ...]
    unresolved: Unresolved | None
    sales: tuple[Sale, ...]
    receipts: tuple[Receipt, ...]

    @property
    def key(self) -> str:
        exchange, symbol = self.quote.payer
        accounts = "+".join(str(a) for a, _ in self.places)
        return f"{exchange}/{symbol}@{accounts}"

    @property
    def ended(self) -> bool:
        return not self.lots and self.unresolved is None

    @property
    def bought(self) -> tuple[date, date] | None:
        """The days of the first and of the last lot."""
        days = [lot.day for lot in self.lots]
        return (min(days), max(days)) if days else None

    def _sum(
        self, label: str, unit: Unit, amount: int | None, digits: int, why: str, **meta: object
    ) -> Figure:
        """A sum of the ledger, with its lots behind it."""
        if self.unresolved is not None:
            since = self.unresolved.since.isoformat()
            return unknown(label, unit, f"{self.unresolved.reason} on {since}", **meta)
        if amount is None:
            return unknown(label, unit, why, **meta)
        return Figure(label=label, unit=unit, value=amount / 10**digits, **meta)  # type: ignore[arg-type]

    @cached_property
    def shares(self) -> Figure:
        return self._sum(
            "shares",
            Unit.COUNT,
            sum(lot.shares for lot in self.lots),
            8,
            "",
            formula="shares of all lots",
            sample=self._lots_sample(lambda lot: lot.cost, self.quote.currency),
        )

    @cached_property
    def cost(self) -> Figure:
        """In the payer's currency."""
        currency = self.quote.currency
        return self._sum(
            "cost",
            Unit.INDEX,
            total(lot.cost for lot in self.lots),
            minor_digits(currency),
            "the cost of an opening is not entered",
            formula="cost of all lots, with fees",
            currency=currency,
            sample=self._lots_sample(lambda lot: lot.cost, currency),
        )

    @cached_property
    def cost_at_home(self) -> Figure:
        if self.quote.currency == self.home:
            return self.cost
        known = self.cost.known
        return self._sum(
            f"cost, {self.home}",
            Unit.INDEX,
            total(lot.home for lot in self.lots),
            minor_digits(self.home),
            f"no rate of {self.quote.currency} on a day of buying"
            if known
            else "the cost of an opening is not entered",
            formula="cost of all lots, at the rates of their days",
            currency=self.home,
            sample=self._lots_sample(lambda lot: lot.home, self.home),
        )

    def _lots_sample(self, of: Callable[[Lot], int | None], currency: str) -> Sample:
        """Where the cost of a lot is not known, the sample has its shares alone."""
        costs = [of(lot) for lot in self.lots]
        known = [c / 10 ** minor_digits(currency) for c in costs if c is not None]
        whole = len(known) == len(costs)

        def rows() -> Sequence[SampleRow]:
            counts = [lot.shares / SHARE for lot in self.lots]
            lines = zip(counts, known, strict=True) if whole else ((n,) for n in counts)
            return [
                SampleRow(day=lot.day, values=values, source=None)
                for lot, values in zip(self.lots, lines, strict=True)
            ]

        columns = (("shares", Unit.COUNT), ("cost", Unit.INDEX))
        return Sample(columns=columns if whole else columns[:1], rows=rows)

    @cached_property
    def value(self) -> Figure:
        """In the payer's currency."""
        return derive(
            "value",
            Unit.INDEX,
            "shares × price",
            [self.shares, self.quote.price],
            lambda n, p: n * p,
            currency=self.quote.currency,
        )

    def _home(self, figure: Figure) -> Figure:
        if self.quote.currency == self.home:
            return figure
        return derive(
            f"{figure.label}, {self.home}",
            Unit.INDEX,
            f"{figure.label} × {self.home} for one {self.quote.currency}",
            [figure, self.quote.at_home],
            lambda amount, rate: amount * rate,
            currency=self.home,
        )

    @cached_property
    def value_at_home(self) -> Figure:
        return self._home(self.value)

    @cached_property
    def income(self) -> Figure:
        """A year, in the payer's currency, before tax."""
        return derive(
            "declared income a year",
            Unit.INDEX,
            "shares × declared rate",
            [self.shares, self.quote.rate],
            lambda n, r: n * r,
            currency=self.quote.currency,
        )

    @cached_property
    def income_at_home(self) -> Figure:
        return self._home(self.income)

    @cached_property
    def current_yield(self) -> Figure:
        return derive(
            "yield",
            Unit.YIELD,
            "declared rate ÷ price",
            [self.quote.rate, self.quote.price],
            lambda r, p: r / p,
        )

    @cached_property
    def yield_on_cost(self) -> Figure:
        return derive(
            "yield on cost",
            Unit.YIELD,
            "declared income a year ÷ cost",
            [self.income, self.cost],
            lambda income, cost: (
                income / cost if cost > 0 else Unknown("nothing of the cost is left")
            ),
        )

    @cached_property
    def own_cost(self) -> Figure:
        """Without the lots that dividends bought; in the payer's currency."""
        own = total(lot.cost for lot in self.lots if not lot.by_dividend)
        return self._sum(
            "own money in it",
            Unit.INDEX,
            own,
            minor_digits(self.quote.currency),
            "the cost of an opening is not entered",
            formula="cost of the lots that no dividend bought",
            currency=self.quote.currency,
        )

    @cached_property
    def yield_on_own_money(self) -> Figure:
        return derive(
            "yield on own money",
            Unit.YIELD,
            "declared income a year ÷ own money in it",
            [self.income, self.own_cost],
            lambda income, cost: (
                income / cost if cost > 0 else Unknown("dividends bought all of it")
            ),
        )

    @cached_property
    def gain_held(self) -> Figure:
        return derive(
            "gain on what is held",
            Unit.INDEX,
            "value − cost",
            [self.value_at_home, self.cost_at_home],
            lambda value, cost: value - cost,
            currency=self.home,
        )

    @cached_property
    def gain_by_price(self) -> Figure:
        """Of the gain on what is held; the rest is the currency's."""

        def compute(price: float, _gain: float) -> float | Unknown:
            digits: int = 10 ** minor_digits(self.quote.currency)
            found = 0
            for lot in self.lots:
                worth = round(lot.shares / SHARE * price * digits)
                gain = gain_by_price(None if lot.cost is None else worth - lot.cost, lot)
                if gain is None:
                    return Unknown("the cost of a lot is nil or not known")
                found += gain
            return found / float(10 ** minor_digits(self.home))

        return derive(
            "gain by price",
            Unit.INDEX,
            "for each lot (value − cost) at the rate it was bought at",
            [self.quote.price, self.gain_held],
            compute,
            currency=self.home,
        )

    @cached_property
    def gain_by_currency(self) -> Figure:
        return derive(
            "gain by currency",
            Unit.INDEX,
            "gain on what is held − gain by price",
            [self.gain_held, self.gain_by_price],
            lambda gain, price: gain - price,
            currency=self.home,
        )

    @cached_property
    def realised(self) -> Figure:
        """Of what was sold, came back or was taken over, at home."""
        rows = [(sale.day, total(o.gain_at_home for o in sale.lots)) for sale in self.sales]
        return self._made_of(
            "realised gain",
            "what sales brought − what they had cost",
            rows,
            "a sale has no known cost or rate",
        )

    @cached_property
    def received(self) -> Figure:
        """Dividends net of what was withheld, at home."""
        rows = [(r.day, r.at_home) for r in self.receipts]
        found = self._made_of(
            "dividends received",
            "dividends that came, after what was withheld",
            rows,
            f"no rate of {self.quote.currency} on a pay date",
        )
        if not any(r.on_record for r in self.receipts):
            return found
        return found.but(notes=("those of the record count in full, as nobody entered them",))

    def _made_of(
        self, label: str, formula: str, rows: Sequence[tuple[date, int | None]], why: str
    ) -> Figure:
        digits = 10 ** minor_digits(self.home)
        amount = total(a for _, a in rows)
        if amount is None:
            return unknown(label, Unit.INDEX, why, currency=self.home)

        def lines() -> Sequence[SampleRow]:
            return [SampleRow(day=day, values=((a or 0) / digits,), source=None) for day, a in rows]

        return Figure(
            label=label,
            unit=Unit.INDEX,
            value=amount / digits,
            formula=formula,
            currency=self.home,
            sample=Sample(columns=(("amount", Unit.INDEX),), rows=lines) if rows else None,
        )

    @cached_property
    def gain(self) -> Figure:
        return derive(
            "gain since bought",
            Unit.INDEX,
            "gain on what is held + realised gain + dividends received",
            [self.gain_held, self.realised, self.received],
            lambda held, realised, received: held + realised + received,
            currency=self.home,
        )

    @cached_property
    def against_buy_below(self) -> Figure:
        return derive(
            "price vs buy-below",
            Unit.FRACTION,
            "price ÷ buy-below price − 1",
            [self.quote.price, self.quote.buy_below],
            lambda price, below: price / below - 1,
        )

    @cached_property
    def against_trim_above(self) -> Figure:
        return derive(
            "price vs trim-above",
            Unit.FRACTION,
            "price ÷ trim-above price − 1",
            [self.quote.price, self.quote.trim_above],
            lambda price, above: price / above - 1,
        )


def _on(without: str) -> Callable[[float, float], float | Unknown]:
    """A yield on money; why there is none where no money is in it."""
    return lambda income, cost: income / cost if cost > 0 else Unknown(without)


def positions(
    book: Book,
    quotes: Mapping[PayerKey, Quote],
    receipts: Mapping[Place, Sequence[Receipt]],
    home: str,
    by_account: bool = False,
) -> tuple[Position, ...]:
    """Of every payer that is or was held: in all accounts together, or in each apart."""
    places: dict[object, list[Place]] = {}
    for place in sorted(book.held):
        places.setdefault(place if by_account else place[1], []).append(place)
    sales: dict[Place, list[Sale]] = {}
    for sale in book.sales:
        sales.setdefault((sale.account, sale.payer), []).append(sale)
    return tuple(_position(book, quotes, receipts, sales, home, mine) for mine in places.values())


def _position(
    book: Book,
    quotes: Mapping[PayerKey, Quote],
    receipts: Mapping[Place, Sequence[Receipt]],
    sales: Mapping[Place, Sequence[Sale]],
    home: str,
    places: Sequence[Place],
) -> Position:
    held = [book.held[p] for p in places]
    return Position(
        quote=quotes[places[0][1]],
        places=tuple(places),
        home=home,
        lots=tuple(lot for h in held for lot in h.lots),
        unresolved=next((h.unresolved for h in held if h.unresolved is not None), None),
        sales=tuple(s for p in places for s in sales.get(p, ())),
        receipts=tuple(r for p in places for r in receipts.get(p, ())),
    )
