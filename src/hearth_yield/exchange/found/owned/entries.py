"""Entries of the ledger, made of the rows of lists of what a person owns."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import date
from decimal import ROUND_HALF_UP, Decimal
from functools import cache

from hearth_yield.core.household.amounts import SHARE_DIGITS, minor_digits
from hearth_yield.core.household.entries import Account
from hearth_yield.core.household.kinds import KINDS
from hearth_yield.exchange.cells import Cell
from hearth_yield.exchange.ledger_rows import account_row
from hearth_yield.rows import Rows, column_of

from ..made import Made
from ..table import Found
from .accounts import Accounts, KnownAccount
from .forms import Form
from .joined import comes, with_exchanged, with_moved, with_reinvested, with_tax, without_reversed
from .positions import POSITIONS
from .settle import LEAVE, account_of, currency_of, form_of_found, found_names, only_of
from .signs import direct, near
from .sums import Sums
from .told import Reading, Told

SEEN = Decimal("0.0001")
"""What rounding changes by less is noise of a cell's binary number."""
SHARE = Decimal(1).scaleb(-SHARE_DIGITS)
NEAR_PRICE = Decimal("0.02")
_OF_SHARES = ("buy", "sell", "opening", "transfer", "reinvestment")
_OF_PAYERS = (*_OF_SHARES, "dividend", "return_of_capital")


def entries(found: Found, made: Made, accounts: Accounts) -> None:
    """Adds the entries of a list to what is made of it."""
    _Maker(found, made, accounts).make()


_Make = Callable[[Told, dict[str, Cell]], dict[str, Cell] | None]


class _Maker:
    def __init__(self, found: Found, made: Made, accounts: Accounts) -> None:
        self._found, self._made, self._accounts = found, made, accounts
        self._form = form_of_found(found)
        self._names = found_names(found)
        self._rounded = False
        self._first_paid: dict[str, date] = {}
        self._used: dict[str, None] = {}
        self._unknown: dict[str, None] = {}
        self._sums = Sums()
        self._named: dict[str, str] = {}
        self._own_currency: dict[str, str] = {}
        self._currency_said = found.answer("currency")
        self._by_the_record_said = found.answer("dividends") == LEAVE
        self._rows: list[tuple[dict[str, Cell], int]] = []
        self._makers: Mapping[str, _Make] = {
            "buy": self._trade,
            "sell": self._trade,
            "dividend": self._dividend,
            "reinvestment": self._reinvestment,
            "transfer": self._transfer,
            "opening": self._opening,
            "exchange": self._exchange,
        }

    def make(self) -> None:
        found, made = self._found, self._made
        only = only_of(found)
        as_of = date.fromisoformat(told) if (told := found.answer("as_of")) else None
        reading = Reading(found, self._form, self._names, only)
        rows = list(reading.read(made, as_of, self._usual()))
        if self._form is Form.POSITIONS:
            for row in rows:
                self._position(row)
        else:
            self._flows(rows)
        self._accounts_named()
        self._say()

    def _usual(self) -> str | None:
        """The kind of rows that say none."""
        said = self._found.answer("sides") or self._found.answer("section")
        return said or ("dividend" if self._form is Form.DIVIDENDS else None)

    # trades, dividends and cash

    def _flows(self, rows: list[Told]) -> None:
        for row in rows:
            self._by_sign(row)
        rows = [r for r in rows if r.kind is not None]
        if said := direct(rows):
            self._made.notes.append(said)
        self._sums = Sums.of(rows, self._found.answer("amounts"))
        rows = with_tax(without_reversed(rows, self._made))
        rows = with_reinvested(rows, self._sums.net)
        rows = with_moved(with_exchanged(rows, self._account, self._made), self._account)
        twice = self._names_twice(rows)
        for row in rows:
            entry = self._entry(row)
            if entry is not None:
                if row.reference and (self._account(row), row.reference) not in twice:
                    entry["reference"] = row.reference[:200]
                self._rows.append((entry, row.n))
        self._add()

    def _add(self) -> None:
        """The entries that were made, column by column."""
        names = dict.fromkeys(name for entry, _ in self._rows for name in entry)
        columns = [[entry.get(name) for entry, _ in self._rows] for name in names]
        if columns:
            self._made.add_many("entries", Rows(list(names), columns), [n for _, n in self._rows])

    def _by_sign(self, row: Told) -> None:
        """The kind of a row that says none: shares that come or go, else cash."""
        if row.kind is not None:
            return
        cash = row.sign or (row.moved is not None and ((row.moved > 0) - (row.moved < 0)))
        if row.shares is not None and row.payer is not None:
            if row.shares < 0 or cash > 0:
                row.kind = "sell"
            else:
                row.kind = "buy"
        elif self._found.answer("others") == "cash" and cash:
            row.kind = "deposit" if cash > 0 else "withdrawal"
        else:
            words = row.note[:60] or "it says no kind"
            self._made.leave(f"row {row.n + 1}: “{words}”, which is no kind of entry")

    def _account(self, row: Told) -> str:
        if row.account not in self._named:
            self._named[row.account] = account_of(self._found, row.account)
        return self._named[row.account]

    def _names_twice(self, rows: Sequence[Told]) -> set[tuple[str, str]]:
        """What an institution calls more than one line."""
        names = Counter((self._account(r), r.reference) for r in rows if r.reference)
        return {name for name, times in names.items() if times > 1}

    # one entry

    def _entry(self, row: Told) -> dict[str, Cell] | None:
        kind = row.kind or ""
        if kind in _OF_PAYERS and row.payer is None:
            self._made.leave(f"row {row.n + 1}: {kind.replace('_', ' ')} of whom, it does not say")
            return None
        if kind in _OF_SHARES and not row.shares:
            self._made.leave(
                f"row {row.n + 1}: {kind.replace('_', ' ')} of how many shares, it does not say"
            )
            return None
        self._in_settled(row)
        entry = self._common(row, kind)
        return self._makers.get(kind, self._plain)(row, entry)

    def _in_settled(self, row: Told) -> None:
        """A row that tells only what was settled, or one in that very currency, is in it."""
        own = self._found.settled_in
        if not own or row.settled is None or row.moved is not None:
            return
        if row.currency == own or not (row.shares and row.price is not None):
            row.amount, row.currency, row.settled = row.settled, own, None

    def _common(self, row: Told, kind: str) -> dict[str, Cell]:
        account = self._account(row)
        self._used.setdefault(account)
        entry: dict[str, Cell] = {
            "account": account,
            "kind": kind,
            "day": row.day,
            "currency": self._currency(row),
        }
        if row.payer is not None and kind not in ("deposit", "withdrawal", "interest", "exchange"):
            entry |= {"exchange": row.payer.exchange, "symbol": row.payer.symbol}
            if not row.payer.exchange:
                self._unknown.setdefault(row.payer.symbol)
        if row.note:
            entry["note"] = row.note[:400]
        return entry

    def _currency(self, row: Told) -> str:
        if row.currency:
            return row.currency
        if self._currency_said not in ("", "payer"):
            return self._currency_said
        own = row.payer.currency if row.payer else ""
        return own or self._own(self._account(row))

    def _money(self, value: Decimal, currency: Cell) -> Decimal:
        rounded = value.quantize(_unit(str(currency)), ROUND_HALF_UP)
        if rounded != value and abs(rounded - value) > SEEN:
            self._rounded = True
        return rounded

    def _put(self, entry: dict[str, Cell], **sums: Decimal | None) -> None:
        for name, value in sums.items():
            if value:
                entry[name] = self._money(value, entry["currency"])

    def _trade(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell]:
        price, fee, tax = self._sums.price(row), abs(row.fee), abs(row.tax) + abs(row.withheld)
        if price is not None:
            entry["price"] = price
        entry["shares"] = _shares(row)
        total = self._sums.total(row, fee + tax)
        if not fee + tax and total is not None:
            fee = self._sums.rest(row, total)
        self._put(entry, fee=fee, tax=tax)
        self._settle(row, entry, total, price)
        return entry

    def _settle(
        self, row: Told, entry: dict[str, Cell], total: Decimal | None, price: Decimal | None
    ) -> None:
        """The total, and what was settled in the account's currency where the row says that."""
        own = self._own(self._account(row))
        foreign = entry["currency"] != own
        if foreign and row.settled is not None:
            entry["settled"] = self._money(abs(row.settled), own)
        elif foreign and total and price and row.rate and row.shares:
            base = abs(row.shares) * price
            if not near(base, total) and abs(base / total - 1) > NEAR_PRICE:
                for rate in (1 / row.rate, row.rate):
                    if abs(total * rate / base - 1) < NEAR_PRICE:
                        entry["settled"] = self._money(total, own)
                        self._put(entry, amount=total * rate)
                        for name in ("fee", "tax"):
                            if name in entry:
                                self._put(entry, **{name: abs(getattr(row, name)) * rate})
                        return
        self._put(entry, amount=total)

    def _paid_on(self, row: Told) -> None:
        """Keeps the first day on which the file enters a dividend of an account."""
        account = self._account(row)
        self._first_paid[account] = min(self._first_paid.get(account, row.day), row.day)

    def _by_the_record(self, account: str) -> bool:
        """Whether dividends of an account go on being those of the record, as the person said."""
        known = self._accounts.of(account) if self._by_the_record_said else None
        return known is not None and known.enters_from is None

    def _dividend(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell] | None:
        if self._by_the_record(str(entry["account"])):
            self._made.leave(f"row {row.n + 1}: a dividend, as those of the record count")
            return None
        gross, tax = self._sums.gross(row)
        self._put(entry, amount=gross, withheld=tax, fee=abs(row.fee))
        own = self._own(self._account(row))
        if row.settled is not None and entry["currency"] != own:
            entry["settled"] = self._money(abs(row.settled), own)
        self._paid_on(row)
        return entry

    def _reinvestment(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell]:
        price, spent = self._sums.price(row), abs(row.moved) if row.moved is not None else None
        if spent is None and price is not None and row.shares is not None:
            spent = abs(row.shares) * price
        entry["shares"] = _shares(row)
        if price is not None:
            entry["price"] = price
        if self._by_the_record(str(entry["account"])):
            entry["kind"] = "buy"  # its dividend is the record's
            self._put(entry, amount=spent)
            return entry
        if row.of is not None:
            gross, tax = self._sums.gross(row.of)
            fee = abs(row.of.fee) + abs(row.fee)
        else:
            tax, fee = abs(row.tax) + abs(row.withheld), abs(row.fee)
            gross = abs(row.gross) if row.gross is not None else (spent or Decimal(0)) + tax
            spent = gross - tax - fee if row.gross is not None and row.net is None else spent
        self._put(entry, amount=gross, withheld=tax, fee=fee, spent=spent)
        self._paid_on(row)
        return entry

    def _transfer(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell]:
        shares, coming = _shares(row), comes(row)
        if row.of is not None:
            return entry | {"shares": shares, "to": self._account(row.of)}
        entry["shares"] = shares if coming else -shares
        if coming:
            self._cost(row, entry)
        return entry

    def _cost(self, row: Told, entry: dict[str, Cell]) -> None:
        each = row.cost_a_share
        if row.cost is not None:
            entry["amount"] = self._money(abs(row.cost), entry["currency"])
        elif each is not None and row.shares:
            entry["amount"] = self._money(abs(each * row.shares), entry["currency"])
        elif row.kind == "opening" and self._form is not Form.POSITIONS:
            total = row.moved if row.moved is not None else None
            if total is None and row.price is not None and row.shares:
                total = row.price * row.shares
            if total is not None:
                entry["amount"] = self._money(abs(total), entry["currency"])
        if row.bought is not None and row.bought <= row.day:
            entry["bought"] = row.bought

    def _opening(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell]:
        entry["shares"] = _shares(row)
        self._cost(row, entry)
        return entry

    def _exchange(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell] | None:
        if row.of is None:
            return None
        into = self._currency(row.of)
        entry["into_currency"] = into
        entry["into_amount"] = self._money(abs(row.of.moved or Decimal(0)), into)
        self._put(entry, amount=abs(row.moved or Decimal(0)))
        return entry

    def _plain(self, row: Told, entry: dict[str, Cell]) -> dict[str, Cell] | None:
        amount = row.moved
        if amount is None:
            amount = row.fee or row.tax or row.withheld or None
        if amount is None:
            self._made.leave(f"row {row.n + 1}: it tells no amount")
            return None
        value = abs(amount)
        if row.kind == "interest" and (row.sign or (1 if amount > 0 else -1)) < 0:
            value = -value
        if row.kind == "tax" and (row.sign > 0 or row.back):
            value = -value
        self._put(entry, amount=value)
        return entry

    # positions

    def _position(self, row: Told) -> None:
        """What is held: at first in an empty account, else what the institution states."""
        name = self._account(row)
        known = self._accounts.of(name)
        if row.payer is None:
            if row.shares is None and row.balance is not None:
                self._cash_stated(row, known)
                return
            if row.shares is None and row.moved is None:
                return
            self._made.leave(f"row {row.n + 1}: whose shares they are, it does not say")
            return
        if not row.shares:
            self._made.leave(
                f"row {row.n + 1}: {row.payer.symbol} of how many shares, it does not say"
            )
            return
        if row.shares < 0:
            self._made.leave(f"row {row.n + 1}: fewer than no shares of {row.payer.symbol}")
            return
        row.to_whole(amounts_too=True)
        if row.bought is not None and self._found.answer("lots") == "bought":
            self._lot(row, row.bought)
            return
        row.kind = "opening" if self._begins(known, row) else "stated"
        entry = self._common(row, row.kind)
        entry["shares"] = _shares(row)
        if row.kind == "opening":
            if row.cost is None and row.cost_a_share is None and row.price is not None:
                row.cost_a_share = row.price if self._found.answer("price_is") == "paid" else None
            self._cost(row, entry)
        if row.reference:
            entry["reference"] = row.reference[:200]
        self._made.add(POSITIONS if row.kind == "opening" else "entries", entry, row.n)

    def _cash_stated(self, row: Told, known: KnownAccount | None) -> None:
        """Cash that the institution says is there, where the account keeps cash."""
        if known is None or not known.account.keeps_cash:
            self._made.leave(f"row {row.n + 1}: cash, as the account keeps none")
            return
        entry = self._common(row, "stated")
        entry["amount"] = self._money(row.balance or Decimal(0), entry["currency"])
        self._made.add("entries", entry, row.n)

    def _lot(self, row: Told, day: date) -> None:
        """What is held as it was bought."""
        row.kind, row.day = "buy", day
        entry = self._common(row, "buy")
        entry["shares"] = _shares(row)
        if row.cost_a_share is not None:
            entry["price"] = abs(row.cost_a_share)
        if row.cost is not None:
            entry["amount"] = self._money(abs(row.cost), entry["currency"])
        self._made.add("entries", entry, row.n)

    def _begins(self, known: KnownAccount | None, row: Told) -> bool:
        if known is None or known.empty:
            return True
        return row.payer is not None and (row.payer.key, row.day) in known.openings

    # what is said

    def _accounts_named(self) -> None:
        """Accounts that are new, and those whose dividends are entered from an earlier day, as this
        file brings some."""
        left = self._by_the_record_said
        for name in self._used:
            known, first = self._accounts.of(name), self._first_paid.get(name)
            if known is None:
                made = Account(id=0, name=name, currency=self._own(name), entered_from=first)
            elif first is None or left or (known.enters_from or date.max) <= first:
                continue
            else:
                made = replace(known.account, entered_from=first)
            self._made.add("accounts", account_row(made), f"“{name}”")

    def _own(self, name: str) -> str:
        """The currency of an account."""
        if name not in self._own_currency:
            known = self._accounts.of(name)
            self._own_currency[name] = known.currency if known else currency_of(self._found, name)
        return self._own_currency[name]

    def _say(self) -> None:
        made, names = self._made, self._names
        self._say_what()
        if self._form is not Form.POSITIONS and self._sums.part != 1:
            made.notes.append("its prices are in hundredths of its amounts, and read so")
        if self._sums.rests:
            made.notes.append("what trades cost beyond shares at their price is read as their fee")
        if self._rounded:
            made.notes.append("amounts with more decimals than the currency has are rounded")
        if names.liked:
            pairs = [f"{told} as {known.name}" for told, known in [*names.liked.items()][:12]]
            made.notes.append("read by their names: " + "; ".join(pairs))
        if unknown := self._unknown:
            some = [*unknown][:12]
            more = f" and {len(unknown) - 12} more" if len(unknown) > 12 else ""
            made.notes.append(
                f"not among your payers, and kept under these names: {', '.join(some)}{more}; they "
                "have no value until you add them"
            )

    def _say_what(self) -> None:
        """How many of each kind there are, and from when to when."""
        counts: Counter[str] = Counter()
        days: list[date] = []
        for table in ("entries", POSITIONS):
            rows = self._made.tables[table].rows if table in self._made.tables else Rows(())
            kinds_of = column_of(rows, "kind")
            counts.update(map(str, kinds_of) if table == "entries" else ["position"] * len(rows))
            days += [d for d in column_of(rows, "day") if isinstance(d, date)]
        if not days:
            return
        kinds = [_counted(counts[k], kind.name) for k, kind in KINDS.items() if counts.get(k)]
        if counts["position"]:
            kinds.append(_counted(counts["position"], "position"))
        first, last = min(days).isoformat(), max(days).isoformat()
        when = f"of {first}" if first == last else f"from {first} to {last}"
        self._made.notes.insert(0, f"{', '.join(kinds)}, {when}")


@cache
def _unit(currency: str) -> Decimal:
    return Decimal(1).scaleb(-minor_digits(currency))


def _counted(count: int, name: str) -> str:
    several = "" if count == 1 or name.endswith(("capital", "Interest", "Tax")) else "s"
    return f"{count:,} {name.lower()}{several}"


def _shares(row: Told) -> Decimal:
    held = abs(row.shares or Decimal(0)).quantize(SHARE, ROUND_HALF_UP)
    return Decimal(int(held)) if held == int(held) else held.normalize()
