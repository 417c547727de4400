"""What the person of the demo owns: fifteen years of one account, another on the mainland, and old
shares without a history. Nothing here is drawn by lot: it follows from the made-up world.

Stories: dividends of two payers are put back; one payment of three never came and one came short
(MISSING, SHORT); a holding was sold too early (IVBR) and one after its cut (BRDM); GWK is held into
its cut; a spin-off (DNTE, NWO); split shares (PKRC, ORVN); one opening has no cost.
"""

from __future__ import annotations

from bisect import bisect_right
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import ROUND_DOWN, Decimal
from functools import partial
from typing import Any

from msgspec.structs import replace

from hearth_yield.core.household.amounts import SHARE, exact_ratio, whole, worth
from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind

from .payments import Record
from .script import ISLES, THORNMARK, TODAY, Land

BEGAN = date(2011, 7, 1)
HARBOUR = Account(
    id=1, name="Harbour account", currency=ISLES.currency, keeps_cash=True, entered_from=BEGAN
)
OVERSEAS = Account(id=2, name="Overseas", currency=THORNMARK.currency, method=CostMethod.AVERAGE)
OLD = Account(id=3, name="Old shares", currency=ISLES.currency, sheltered=True)
ACCOUNTS = (HARBOUR, OVERSEAS, OLD)
FIRST_DEPOSIT, DEPOSIT = 24_000_00, 2_700_00
FEE, MOST = 9_90, 6_500_00
BOUGHT = (
    *("TRS", "GLNW", "PKRC", "LRT", "AMLH", "MPWK", "STNB", "GWK", "ORCF", "KLNS", "CRDW"),
    *("IVBR", "WPP", "SBRC", "BRDM", "ORVN"),
)
"""Of these one after the other is bought, every quarter."""
ABROAD = (
    ("ADRP", date(2013, 3, 4), 120),
    ("CVHD", date(2014, 9, 1), 300),
    ("RKLC", date(2016, 5, 2), 400),
    ("ELDB", date(2017, 3, 14), 600),
    ("ADRP", date(2019, 10, 7), 80),
    ("ELDB", date(2020, 11, 3), 400),
    ("RKLC", date(2023, 2, 6), 250),
)
OPENED = date(2020, 1, 2)
OPENINGS = (
    ("DNTE", 150, 3_940_50, date(2009, 5, 4)),
    ("TNSY", 400, 6_212_00, date(2011, 2, 7)),
    ("HVSV", 900, 7_425_00, None),
    ("ASHC", 220, None, None),
)
"""Symbol, shares, cost and day bought, as far as they are known."""
PUT_BACK, PUT_BACK_FROM = ("KLNS", "LRT"), date(2018, 1, 1)
TOO_EARLY = ("IVBR", date(2016, 2, 8))
AFTER_THE_CUT = ("BRDM", date(2023, 11, 6))
MISSING = ("AMLH", 2025, 9)
SHORT = ("GLNW", 2026, 3)
"""Of a payer the payment that comes in or after a month of a year."""
SPUN_OFF = ("DNTE", "NWO", date(2025, 3, 17))
LANDS = {ISLES.exchange: ISLES, THORNMARK.exchange: THORNMARK}
HELD = frozenset(
    (*BOUGHT, *(s for s, _, _ in ABROAD), *(s for s, _, _, _ in OPENINGS), SPUN_OFF[1])
)


@dataclass(slots=True)
class Seen:
    """What is needed of the world, gathered as its payers go by."""

    closes: dict[str, list[tuple[date, float]]] = field(default_factory=dict)
    dividends: dict[str, list[Record]] = field(default_factory=dict)
    splits: dict[str, list[Record]] = field(default_factory=dict)
    lands: dict[str, Land] = field(default_factory=dict)

    def look(self, records: Mapping[str, Sequence[Record]]) -> None:
        for row in records.get("prices", ()):
            if row["symbol"] in HELD:
                self.lands[row["symbol"]] = LANDS[row["exchange"]]
                self.closes.setdefault(row["symbol"], []).append((row["day"], row["close"]))
        for name, held in (("dividends", self.dividends), ("splits", self.splits)):
            for row in records.get(name, ()):
                if row["symbol"] in HELD:
                    held.setdefault(row["symbol"], []).append(row)

    def close(self, symbol: str, on: date) -> Decimal:
        """The last close by a day."""
        closes = self.closes[symbol]
        at = bisect_right(closes, on, key=lambda c: c[0])
        return Decimal(repr(closes[at - 1][1]))


def entries(seen: Seen) -> list[Entry]:
    """Numbered in order of days."""
    made = [*_Harbour(seen).entries(), *_abroad(seen), *_old(seen)]
    ordered = sorted(made, key=lambda e: e.day)
    return [replace(e, id=n) for n, e in enumerate(ordered, 1)]


def _entry(
    seen: Seen, account: Account, kind: EntryKind, day: date, symbol: str | None = None, **more: Any
) -> Entry:
    land = seen.lands[symbol] if symbol else None
    return Entry(
        id=0,
        account=account.id,
        kind=kind,
        day=day,
        payer=(land.exchange, symbol) if land and symbol else None,
        currency=land.currency if land else account.currency,
        **more,
    )


class _Harbour:
    """Day by day with the cash that is there: nothing is bought that cannot be paid."""

    def __init__(self, seen: Seen) -> None:
        self.seen = seen
        self.cash = 0
        self.shares: dict[str, int] = defaultdict(int)
        self.entitled: dict[tuple[str, date], int] = {}

    def entries(self) -> list[Entry]:
        found = []
        for _, _, _, happen in sorted(self._days(), key=lambda d: d[:3]):
            made = happen()
            if made is not None:
                found.append(made)
        return found

    def _days(self) -> Iterator[tuple[date, int, str, Callable[[], Entry | None]]]:
        """What happens on which day, and in which order on that day."""
        for n, day in enumerate(_quarters()):
            yield day, 3, "", partial(self._deposit, day, DEPOSIT if n else FIRST_DEPOSIT)
            symbol, later = BOUGHT[n % len(BOUGHT)], day + timedelta(days=4)
            yield later, 5, symbol, partial(self._buy, later, symbol)
        for symbol, day in (TOO_EARLY, AFTER_THE_CUT):
            yield day, 6, symbol, partial(self._sell, day, symbol)
        for symbol in BOUGHT:
            for split in self.seen.splits.get(symbol, ()):
                yield split["effective_on"], 1, symbol, partial(self._split, symbol, split)
            for paid in self.seen.dividends.get(symbol, ()):
                ex_date, day = paid["ex_date"], paid["pay_date"]
                if ex_date >= BEGAN and day and day <= TODAY:
                    yield ex_date, 2, symbol, partial(self._entitle, symbol, ex_date)
                    yield day, 4, symbol, partial(self._receive, day, symbol, paid)

    def _deposit(self, day: date, amount: int) -> Entry:
        self.cash += amount
        return _entry(self.seen, HARBOUR, EntryKind.DEPOSIT, day, amount=amount)

    def _split(self, symbol: str, split: Record) -> None:
        ratio = exact_ratio(split["new_shares"]) / exact_ratio(split["old_shares"])
        self.shares[symbol] = whole(self.shares[symbol] * ratio)

    def _entitle(self, symbol: str, ex_date: date) -> None:
        self.entitled[symbol, ex_date] = self.shares[symbol]

    def _buy(self, day: date, symbol: str) -> Entry | None:
        price = self.seen.close(symbol, day)
        most = min(self.cash - FEE, MOST)
        tens = int(Decimal(most) / 100 / price / 10)
        if tens < 1:
            return None
        shares = 10 * tens * SHARE
        self.cash -= worth(shares, price, HARBOUR.currency) + FEE
        self.shares[symbol] += shares
        told: dict[str, Any] = {"shares": shares, "price": price, "fee": FEE}
        return _entry(self.seen, HARBOUR, EntryKind.BUY, day, symbol, **told)

    def _sell(self, day: date, symbol: str) -> Entry | None:
        shares, price = self.shares[symbol], self.seen.close(symbol, day)
        if not shares:
            return None
        self.cash += worth(shares, price, HARBOUR.currency) - FEE
        self.shares[symbol] = 0
        told: dict[str, Any] = {"shares": shares, "price": price, "fee": FEE}
        return _entry(self.seen, HARBOUR, EntryKind.SELL, day, symbol, **told)

    def _receive(self, day: date, symbol: str, paid: Record) -> Entry | None:
        shares = self.entitled.get((symbol, paid["ex_date"]), 0)
        gross = worth(shares, Decimal(repr(paid["amount"])), HARBOUR.currency)
        if not gross or _comes(MISSING, symbol, day):
            return None
        if _comes(SHORT, symbol, day):
            gross -= gross // 8
        if symbol in PUT_BACK and day > PUT_BACK_FROM:
            return self._put_back(day, symbol, gross)
        self.cash += gross
        back = paid["kind"] == "return_of_capital"
        kind = EntryKind.RETURN_OF_CAPITAL if back else EntryKind.DIVIDEND
        return _entry(self.seen, HARBOUR, kind, day, symbol, amount=gross)

    def _put_back(self, day: date, symbol: str, gross: int) -> Entry:
        """In shares to a thousandth; the rest stays."""
        price = self.seen.close(symbol, day)
        count = (Decimal(gross) / 100 / price).quantize(Decimal("0.001"), ROUND_DOWN)
        shares = int(count * SHARE)
        spent = worth(shares, price, HARBOUR.currency)
        self.cash += gross - spent
        self.shares[symbol] += shares
        return _entry(
            self.seen,
            HARBOUR,
            EntryKind.REINVESTMENT,
            day,
            symbol,
            shares=shares,
            price=price,
            amount=gross,
            spent=spent,
        )


def _comes(told: tuple[str, int, int], symbol: str, day: date) -> bool:
    """Whether a payment is the one that is told of: the first of its payer from that month on."""
    own, year, month = told
    return symbol == own and day.year == year and month <= day.month < month + 3


def _quarters() -> Iterable[date]:
    return (
        date(year, month, 1)
        for year in range(BEGAN.year, TODAY.year + 1)
        for month in (1, 4, 7, 10)
        if BEGAN <= date(year, month, 1) <= TODAY
    )


def _abroad(seen: Seen) -> Iterator[Entry]:
    for symbol, day, count in ABROAD:
        price = seen.close(symbol, day)
        yield _entry(
            seen, OVERSEAS, EntryKind.BUY, day, symbol, shares=count * SHARE, price=price, fee=14_50
        )


def _old(seen: Seen) -> Iterator[Entry]:
    for symbol, count, cost, bought in OPENINGS:
        yield _entry(
            seen,
            OLD,
            EntryKind.OPENING,
            OPENED,
            symbol,
            shares=count * SHARE,
            amount=cost,
            bought=bought,
        )
    parent, young, day = SPUN_OFF
    land = seen.lands[young]
    yield _entry(
        seen,
        OLD,
        EntryKind.CONVERSION,
        day,
        parent,
        into=(land.exchange, young),
        new=Decimal(1),
        old=Decimal(10),
        moves=Decimal("0.14"),
        note="Spun off",
    )
