"""The ledger as tables of a file: accounts and entries, in and out. (docs/data-formats.md)"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from dataclasses import replace as replace_account
from datetime import date
from decimal import Decimal
from typing import Any

from msgspec.structs import astuple, replace

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.facts.columns import LAST_DAY
from hearth_yield.core.household.amounts import SHARE_DIGITS, as_decimal, minor_digits
from hearth_yield.core.household.entries import Account, CostMethod, Entry, EntryKind, PayerKey
from hearth_yield.core.household.kinds import check_account, check_entry, total_apart
from hearth_yield.core.household.receipts import CAME
from hearth_yield.core.household.typed import AS_TYPED, MONEY, in_ledger_units, units_of
from hearth_yield.rows import Row

from .ledger_columns import CASH, TAXED
from .table import Table


@dataclass(slots=True)
class LedgerRead:
    """Accounts and entries of files. A new account has an id below nil, by which its entries name
    it; the ids of entries do not count. entered: from which day dividends are entered in accounts
    that are there, by their ids, where that is before the day that they say."""

    accounts: list[Account] = field(default_factory=list)
    entries: list[Entry] = field(default_factory=list)
    entered: dict[int, date] = field(default_factory=dict)


def read_ledger(
    tables: Sequence[Table],
    stored: Sequence[Account],
    currencies: Mapping[PayerKey, str],
    today: date | None,
) -> LedgerRead:
    """What the tables of accounts and entries among these hold; faults are added to them.

    stored: the accounts that there are. currencies: of every payer that is stored or comes in.
    """
    found = LedgerRead()
    by_name = {a.name.casefold(): a for a in stored}
    for table in tables:
        if table.format.name == "accounts":
            _read_accounts(table, by_name, found)
    accounts = {a.id: a for a in by_name.values()}
    said = _Said()
    for table in tables:
        if table.format.name == "entries":
            reader = _EntryReader(table, by_name, accounts, currencies, today or LAST_DAY, said)
            found.entries += reader.read()
    return found


def _read_accounts(table: Table, by_name: dict[str, Account], found: LedgerRead) -> None:
    mine: set[str] = set()
    for line, row in zip(table.lines, table.records, strict=True):
        made = Account(
            id=-1 - len(found.accounts),
            name=row["name"].strip(),
            currency=row["currency"],
            sheltered=row.get("tax") == TAXED[1],
            method=CostMethod(row.get("cost_method") or CostMethod.FIFO.value),
            keeps_cash=row.get("cash") == CASH[1],
            entered_from=row.get("entered_from"),
            closed_on=row.get("closed_on"),
        )
        name = made.name.casefold()
        there = by_name.get(name)
        if name in mine:
            table.faults.add(line, "name", made.name, "each account once")
        elif there is None:
            try:
                check_account(made, ())
            except InvalidInput as error:
                table.faults.add(line, error.field, error.value, error.rule or error.message)
                continue
            by_name[name] = made
            found.accounts.append(made)
        elif there.currency != made.currency:
            expected = f"{there.currency}, as the account of this name that is there"
            table.faults.add(line, "currency", made.currency, expected)
        else:
            _held_against(table, line, there, made, by_name, found)
        mine.add(name)


def _held_against(
    table: Table,
    line: int,
    there: Account,
    made: Account,
    by_name: dict[str, Account],
    found: LedgerRead,
) -> None:
    """Of an account that is there: its settings stay; dividends are entered from the earlier
    day."""
    earlier = made.entered_from
    if earlier is not None and (there.entered_from is None or earlier < there.entered_from):
        found.entered[there.id] = earlier
        by_name[made.name.casefold()] = replace_account(there, entered_from=earlier)
        expected = (
            f"its dividends are entered from {earlier.isoformat()} on, those of the record count "
            "before that"
        )
        table.faults.add(line, "entered_from", earlier, expected, warning=True)
    if _settings(there) != _settings(made):
        expected = "the settings of the account that is there; they are kept as they are"
        table.faults.add(line, "name", made.name, expected, warning=True)


def _settings(account: Account) -> tuple[object, ...]:
    a = account
    return (a.sheltered, a.method, a.keeps_cash, a.closed_on)


class _Bad(Exception):
    def __init__(self, column: str, value: object, expected: str) -> None:
        super().__init__(expected)
        self.column, self.value, self.expected = column, value, expected


@dataclass(slots=True)
class _Said:
    """What the lines of all files say: how often, and under which name of an institution."""

    counts: Counter[tuple[object, ...]] = field(default_factory=Counter)
    named: dict[tuple[int, str], tuple[object, ...]] = field(default_factory=dict)


class _EntryReader:
    def __init__(
        self,
        table: Table,
        by_name: Mapping[str, Account],
        accounts: Mapping[int, Account],
        currencies: Mapping[PayerKey, str],
        today: date,
        said: _Said,
    ) -> None:
        self._table, self._by_name, self._accounts = table, by_name, accounts
        self._currencies, self._today, self._said = currencies, today, said
        self._exchanges: dict[str, list[str]] = {}
        for exchange, symbol in sorted(currencies):
            self._exchanges.setdefault(symbol, []).append(exchange)

    def read(self) -> list[Entry]:
        found: list[Entry] = []
        faults = self._table.faults
        for line, row in zip(self._table.lines, self._table.records, strict=True):
            try:
                entry = self._entry(row)
                check_entry(entry, self._accounts, self._today)
                self._check_said_before(line, entry)
            except _Bad as bad:
                faults.add(line, bad.column, bad.value, bad.expected)
                continue
            except InvalidInput as error:
                faults.add(line, error.field, error.value, error.rule or error.message)
                continue
            found.append(entry)
            self._warn(line, entry)
        return found

    def _check_said_before(self, line: int, entry: Entry) -> None:
        """Warns of a line that says what another does. Raises _Bad for two that an institution
        calls alike and that differ: one of them would be lost."""
        same, counts = astuple(replace(entry, note="")), self._said.counts
        counts[same] += 1
        if entry.reference is not None:
            before = self._said.named.setdefault((entry.account, entry.reference), same)
            if before != same:
                raise _Bad(
                    "reference", entry.reference, "another reference: another line has this one"
                )
        if counts[same] > 1:
            both = "it is entered once" if entry.reference else "both are entered"
            expected = f"another line says the same; {both}"
            self._table.faults.add(line, None, None, expected, warning=True)

    def _warn(self, line: int, entry: Entry) -> None:
        faults = self._table.faults
        account = self._accounts[entry.account]
        if entry.kind in CAME and (
            account.entered_from is None or entry.day < account.entered_from
        ):
            faults.add(
                line,
                "day",
                entry.day,
                f"no dividend before the day from which {account.name} enters them: the record's "
                "count there, and this one beside them",
                warning=True,
                cause="dividends beside the record's",
            )
        expected_total = total_apart(entry)
        if expected_total is not None:
            digits = minor_digits(entry.currency)
            faults.add(
                line,
                "amount",
                as_decimal(entry.amount or 0, digits),
                f"{as_decimal(expected_total, digits):f}, by shares, price, fee and tax; the "
                "amount counts",
                warning=True,
                cause="the amount by shares, price, fee and tax",
            )
        if entry.payer is not None and entry.payer not in self._currencies:
            faults.add(
                line,
                "symbol",
                "/".join(entry.payer),
                "a payer that is stored; it has no price and no value until it is",
                warning=True,
                cause="a payer that is stored",
            )

    def _entry(self, row: Row) -> Entry:
        account = self._account("account", row["account"])
        kind, payer, into = EntryKind(row["kind"]), self._payer(row), self._payer(row, "into_")
        to = row.get("to")
        usual = self._currencies.get(payer, account.currency) if payer else account.currency
        currency, into_currency = row.get("currency") or usual, row.get("into_currency") or ""
        numbers: dict[str, Decimal | None] = {
            n: row.get(n) for n in (*MONEY, *AS_TYPED, "shares", "settled", "into_amount")
        }
        held = in_ledger_units(numbers, currency=currency, own=account.currency, into=into_currency)
        return Entry(
            id=0,
            account=account.id,
            kind=kind,
            day=row["day"],
            payer=payer,
            currency=currency,
            bought=row.get("bought"),
            chosen=_chosen(row.get("chosen")),
            to=self._account("to", to).id if to else None,
            into=into,
            into_currency=into_currency,
            note=row.get("note") or "",
            reference=row.get("reference"),
            **held,
        )

    def _payer(self, row: Row, before: str = "") -> PayerKey | None:
        """A symbol alone is that of the one payer who has it."""
        symbol, exchange = row.get(f"{before}symbol"), row.get(f"{before}exchange")
        if exchange and not symbol:
            raise _Bad(f"{before}symbol", None, "the symbol of the payer on this exchange")
        if not symbol or exchange:
            return (exchange, symbol) if symbol and exchange else None
        there = self._exchanges.get(symbol, [])
        if len(there) > 1:
            listed = " or ".join(there)
            raise _Bad(f"{before}exchange", None, f"{listed}: this symbol is on each of them")
        return (there[0] if there else "", symbol)

    def _account(self, column: str, name: str) -> Account:
        found = self._by_name.get(name.strip().casefold())
        if found is None:
            raise _Bad(column, name, "an account that is there, or stands in accounts.csv")
        return found


def _chosen(text: str | None) -> tuple[tuple[date, int], ...]:
    found = []
    for part in (text or "").split(";"):
        if not part.strip():
            continue
        day, _, shares = part.strip().partition(" ")
        try:
            held = date.fromisoformat(day), Decimal(shares.strip())
        except (ValueError, ArithmeticError):
            raise _Bad("chosen", text, 'lots as "2018-01-31 7.5; 2019-02-28 3"') from None
        found.append((held[0], units_of("shares", held[1], SHARE_DIGITS)))
    return tuple(found)


def account_row(account: Account) -> dict[str, Any]:
    """As the table of accounts holds it."""
    return {
        "name": account.name,
        "currency": account.currency,
        "tax": TAXED[account.sheltered],
        "cost_method": account.method.value,
        "cash": CASH[account.keeps_cash],
        "entered_from": account.entered_from,
        "closed_on": account.closed_on,
    }


def entry_row(entry: Entry, accounts: Mapping[int, Account]) -> dict[str, Any]:
    """As the table of entries holds it, to the last digit."""
    own = accounts[entry.account]
    exchange, symbol = entry.payer or (None, None)
    into_exchange, into_symbol = entry.into or (None, None)
    digits = minor_digits(entry.currency)
    money = {n: _amount(getattr(entry, n), digits) for n in MONEY}
    converts = entry.kind is EntryKind.CONVERSION
    return {
        "account": own.name,
        "kind": entry.kind.value,
        "day": entry.day,
        "exchange": exchange or None,
        "symbol": symbol,
        "shares": None if entry.shares is None else _shares(entry.shares),
        "price": entry.price,
        **{n: value if n in ("amount", "spent") else value or None for n, value in money.items()},
        "settled": _amount(entry.settled, minor_digits(own.currency)),
        "bought": entry.bought,
        "to": None if entry.to is None else accounts[entry.to].name,
        "into_exchange": into_exchange or None,
        "into_symbol": into_symbol,
        **{n: getattr(entry, n) if converts else None for n in ("new", "old", "cash", "moves")},
        "into_amount": _amount(entry.into_amount, minor_digits(entry.into_currency)),
        "into_currency": entry.into_currency or None,
        "currency": entry.currency,
        "chosen": "; ".join(f"{d} {_shares(n):f}" for d, n in entry.chosen) or None,
        "note": entry.note or None,
        "reference": entry.reference,
    }


def _shares(units: int) -> Decimal:
    held = as_decimal(units, SHARE_DIGITS)
    return Decimal(int(held)) if held == int(held) else held.normalize()


def _amount(units: int | None, digits: int) -> Decimal | None:
    return None if units is None else as_decimal(units, digits)
