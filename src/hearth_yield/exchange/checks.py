"""Checks on the way in: relations between cells, rows and tables. (docs/data-formats.md)"""

from __future__ import annotations

import re
from bisect import bisect_left
from collections import Counter, defaultdict
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import pairwise
from operator import itemgetter
from typing import Any, Protocol

from hearth_yield.core.household.entries import Account
from hearth_yield.core.kinds import Kind
from hearth_yield.rows import Row, keys_of

from .slips import warn_of_slips
from .table import Table

BALANCE_TOLERANCE = 0.005
QUARTERS_TOLERANCE = 0.02
LARGE_DIVIDEND = 5.0
PRICE_JUMP = 0.60
Key = tuple[str, str]
Dated = Sequence[tuple[date, float]]
"""Numbers with their days, by day."""


class Stored(Protocol):
    """What is stored already and stands beside what comes in."""

    @property
    def today(self) -> date | None:
        """The day it comes in on; None where that is not known."""

    @property
    def currencies(self) -> Mapping[Key, str]:
        """Of every payer, by exchange and symbol."""

    def regular_dividends(self, payers: Collection[Key]) -> Mapping[Key, Dated]:
        """Regular dividends by ex-date."""

    def sums_of_years(self, payers: Collection[Key]) -> Mapping[Key, Dated]:
        """What years paid in all, by the day it is assumed to be paid on."""

    def closes_near(self, ends: Mapping[Key, tuple[date, date]]) -> Mapping[Key, Dated]:
        """Of each payer the closes within a week of either of two days."""

    def splits(self, payers: Collection[Key]) -> Mapping[Key, Sequence[date]]: ...

    def statements(self, payers: Collection[Key]) -> Mapping[Key, Sequence[Row]]:
        """Every version: period_end, span, published_on and the lines that sum."""

    @property
    def accounts(self) -> Sequence[Account]:
        """Of the household."""


@dataclass(frozen=True, slots=True)
class NothingStored:
    """A store without facts; it may know payers and their currencies."""

    currencies: Mapping[Key, str] = field(default_factory=dict)
    today: date | None = None
    accounts: Sequence[Account] = ()

    def regular_dividends(self, payers: Collection[Key]) -> Mapping[Key, Dated]:
        return {}

    def sums_of_years(self, payers: Collection[Key]) -> Mapping[Key, Dated]:
        return {}

    def closes_near(self, ends: Mapping[Key, tuple[date, date]]) -> Mapping[Key, Dated]:
        return {}

    def splits(self, payers: Collection[Key]) -> Mapping[Key, Sequence[date]]:
        return {}

    def statements(self, payers: Collection[Key]) -> Mapping[Key, Sequence[Row]]:
        return {}


SUMMED = ("revenue", "operating_cash_flow")
"""Lines whose quarters are held against their year."""


def payers_with(tables: Sequence[Table], held: Stored) -> dict[Key, str]:
    """Currencies of all payers that are held or come in."""
    payers = dict(held.currencies)
    for table in tables:
        if table.format.name == "payers":
            payers |= {_payer(r): r["currency"] for r in table.records}
    return payers


def check(tables: Sequence[Table], held: Stored) -> None:
    """Run every check of facts; faults and warnings are added to the tables."""
    tables = [t for t in tables if t.format.of]
    payers = payers_with(tables, held)
    currencies = set(payers.values()) | set(held.currencies.values())
    split_days = defaultdict(list)
    for table in tables:
        if table.format.name == "splits":
            for r in table.records:
                split_days[_payer(r)].append(r["effective_on"])
    _across_files(tables)
    for table in tables:
        _duplicates(table)
        if held.today is not None:
            _to_come(table, held.today)
        if "symbol" in table.format.by_name and table.format.name != "payers":
            _known_payer(table, payers)
        match table.format.name:
            case "payers":
                _payers(table)
            case "dividends":
                _dividends(table, currencies, held)
            case "prices":
                _prices(table, split_days, held)
            case "statements":
                _statements(table, currencies, held)
            case "series":
                _series(table)
            case "estimates" | "guidance":
                _ordered_forecast(table)
            case "payer_notes":
                _notes(table)
            case "slumps":
                _in_order(table, "begins", "ends")
    warn_of_slips(tables, held)


_payer: Callable[[Row], Key] = itemgetter("exchange", "symbol")


def _across_files(tables: Sequence[Table]) -> None:
    """A key that stands in two files of one import."""
    seen: dict[str, dict[Any, str]] = {}
    several = Counter(t.format.name for t in tables)
    for table in tables:
        if several[table.format.name] < 2:
            continue
        keys = list(keys_of(table.records, table.format.key))
        before = seen.setdefault(table.format.name, {})
        for line, key in zip(table.lines, keys, strict=True):
            if key in before:
                expected = f"each key once; {before[key]} has it too"
                table.faults.add(line, table.format.key[-1], _shown(key), expected)
        before.update(dict.fromkeys(keys, table.file))


def _duplicates(table: Table) -> None:
    names = table.format.key
    if len(set(keys_of(table.records, names))) == len(table.records):
        return
    seen: dict[Any, int] = {}
    for line, key in zip(table.lines, keys_of(table.records, names), strict=True):
        first = seen.setdefault(key, line)
        if first != line:
            expected = f"each key once; line {first} has it too"
            table.faults.add(line, names[-1], _shown(key), expected, cause="each key once")


def _to_come(table: Table, today: date) -> None:
    """Days that cannot be told before they are over."""
    for column in table.format.columns:
        if not column.past:
            continue
        name = column.name
        days = [r.get(name) for r in table.records]
        if max((d for d in days if d is not None), default=today) <= today:
            continue
        expected = f"a day up to today ({today}): before its day nothing of this is used"
        for line, day in zip(table.lines, days, strict=True):
            if day is not None and day > today:
                table.faults.add(line, name, day, expected, warning=True, cause=f"{name} to come")


def _shown(key: Sequence[Any]) -> str:
    return " · ".join(str(k) for k in key)


def _known_payer(table: Table, payers: Mapping[tuple[str, str], str]) -> None:
    strangers = set(keys_of(table.records, ("exchange", "symbol"))) - set(payers)
    for line, record in zip(table.lines, table.records, strict=True) if strangers else ():
        if _payer(record) in strangers:
            shown = f"{record['symbol']} on {record['exchange']}"
            table.faults.add(line, "symbol", shown, "a payer that is held, or in the payers table")


def _in_order(table: Table, first: str, second: str, *, warning: bool = False) -> None:
    for line, record in zip(table.lines, table.records, strict=True):
        a, b = record.get(first), record.get(second)
        if a is not None and b is not None and a > b:
            expected, cause = f"on or after {first} ({a})", f"{second} after {first}"
            table.faults.add(line, second, b, expected, warning=warning, cause=cause)


def _payers(table: Table) -> None:
    _in_order(table, "listed_on", "delisted_on")
    for line, r in zip(table.lines, table.records, strict=True):
        if r.get("fiscal_year_end_month") is None and Kind(r["kind"]).is_judged:
            expected = "a whole number from 1 to 12; only a payer of kind other has none"
            table.faults.add(line, "fiscal_year_end_month", "", expected)


def _notes(table: Table) -> None:
    """What stands in a note fits its field."""
    for line, r in zip(table.lines, table.records, strict=True):
        if r["field"] == "ownership" and not _is_share(r["value"]):
            table.faults.add(line, "value", r["value"], "a fraction from 0 to 1 (0.62 for 62 %)")
        elif r["field"] == "peers" and not PEERS.fullmatch(r["value"]):
            table.faults.add(line, "value", r["value"], "EXCHANGE/SYMBOL, comma-separated")


_PEER = r'(?:[^/,"]+/[^,"]+|"[^/,"]+/[^"]+")'
PEERS = re.compile(rf"{_PEER}(\s*,\s*{_PEER})*")
"""A symbol that holds a comma stands in quotes with its exchange."""


def _is_share(text: str) -> bool:
    try:
        return 0 <= float(text) <= 1
    except ValueError:
        return False


def _known_currency(table: Table, currencies: set[str]) -> None:
    for line, record in zip(table.lines, table.records, strict=True):
        if record["currency"] not in currencies:
            listed = ", ".join(sorted(currencies)) or "none yet"
            expected = (
                f"a currency of a payer ({listed}); what rests on another is unknown as long as no "
                "exchange rate for it is held"
            )
            table.faults.add(line, "currency", record["currency"], expected, warning=True)


def _dividends(table: Table, currencies: set[str], held: Stored) -> None:
    _known_currency(table, currencies)
    _in_order(table, "ex_date", "pay_date")
    _in_order(table, "declared_on", "ex_date", warning=True)
    rows = sorted(zip(table.records, table.lines, strict=True), key=lambda r: r[0]["ex_date"])
    stored = held.regular_dividends({_payer(r) for r in table.records})
    last: dict[Key, float] = {}
    for record, line in rows:
        if record["kind"] != "regular":
            continue
        payer = _payer(record)
        before = last.get(payer)
        if before is None:
            before = _newest_before(stored.get(payer, ()), record["ex_date"])
        if before is not None and record["amount"] > LARGE_DIVIDEND * before:
            expected = f"at most five times the one before ({before:g}), or kind special"
            table.faults.add(
                line, "amount", record["amount"], expected, warning=True, cause="large dividend"
            )
        last[payer] = record["amount"]


def _newest_before(held: Dated, day: date) -> float | None:
    place = bisect_left(held, day, key=itemgetter(0))
    return held[place - 1][1] if place else None


def _prices(table: Table, split_days: Mapping[Key, list[date]], held: Stored) -> None:
    """A close that jumps by more than 60 % within a week, with no split to explain it; at both
    ends also against what is held."""
    far = 1 + PRICE_JUMP
    by_payer: dict[Key, list[tuple[date, float, int | None]]] = defaultdict(list)
    columns = keys_of(table.records, ("exchange", "symbol", "day", "close"))
    for (exchange, symbol, day, close), line in zip(columns, table.lines, strict=True):
        by_payer[exchange, symbol].append((day, close, line))
    for rows in by_payer.values():
        rows.sort()
    stored = held.closes_near({p: (rows[0][0], rows[-1][0]) for p, rows in by_payer.items()})
    stored_splits = held.splits(by_payer)
    for payer, rows in by_payer.items():
        near = stored.get(payer, ())
        if near:
            new = {d for d, _, _ in rows}
            rows += [(d, c, None) for d, c in near if d not in new]
            rows.sort(key=itemgetter(0))
        splits = [*split_days.get(payer, ()), *stored_splits.get(payer, ())]
        told: set[int] = set()
        for (d0, c0, line0), (d1, c1, line1) in pairwise(rows):
            if (c1 <= c0 * far and c0 <= c1 * far) or d1 - d0 > timedelta(days=8):
                continue
            at = line1 or line0
            if at and at not in told and not any(d0 < s <= d1 for s in splits):
                told.add(at)
                other, shown = ("before", c0) if line1 else ("after", c1)
                expected = f"within 60 % of the close {other} ({shown:g}), or a split between"
                table.faults.add(
                    at, "close", c1 if line1 else c0, expected, warning=True, cause="a jump"
                )


def _statements(table: Table, currencies: set[str], held: Stored) -> None:
    _known_currency(table, currencies)
    _in_order(table, "period_end", "published_on")
    for line, r, unit in zip(table.lines, table.records, table.units, strict=True):
        assets, debts, equity = (r.get(n) for n in ("total_assets", "total_liabilities", "equity"))
        if assets is None or debts is None or equity is None:
            continue
        other = debts + equity + (r.get("minority_interest") or 0.0)
        if abs(assets - other) > BALANCE_TOLERANCE * abs(assets):
            expected = (
                f"liabilities + equity + minority interest ({other / unit:.12g}), within 0.5 %"
            )
            table.faults.add(
                line, "total_assets", f"{assets / unit:.12g}", expected, cause="balance"
            )
    _quarters_sum(table, held)


def _quarters_sum(table: Table, held: Stored) -> None:
    """Four quarters of a fiscal year against the year, for revenue and operating cash flow. What is
    held completes what comes in; a fault stands at the year, or else at the last quarter."""
    came: dict[Key, list[tuple[Row, int, float]]] = defaultdict(list)
    for line, r, unit in zip(table.lines, table.records, table.units, strict=True):
        came[_payer(r)].append((r, line, unit))
    held_statements = held.statements(came)
    for payer, own in came.items():
        newest: dict[tuple[date, str], tuple[Row, int | None, float]] = {}
        stored = ((r, None, 1.0) for r in held_statements.get(payer, ()))
        for row in (*sorted(stored, key=lambda x: x[0]["published_on"]), *own):
            newest[row[0]["period_end"], row[0]["span"]] = row
        for (end, span), (year, own_line, own_unit) in newest.items():
            if span != "year":
                continue
            first = end - timedelta(days=300)
            inside = [q for (d, s), q in newest.items() if s == "quarter" and first < d <= end]
            stands = own_line or max((n for _, n, _ in inside if n), default=None)
            if len(inside) == 4 and stands:
                _hold_against(table, stands, own_unit, year, [q for q, _, _ in inside])


def _hold_against(table: Table, line: int, unit: float, year: Row, quarters: Sequence[Row]) -> None:
    for name in SUMMED:
        parts = [v for q in quarters if (v := q.get(name)) is not None]
        whole = year.get(name)
        if whole is None or len(parts) < 4:
            continue
        if abs(sum(parts) - whole) > QUARTERS_TOLERANCE * abs(whole):
            expected = f"the sum of its quarters ({sum(parts) / unit:.12g}), within 2 %"
            table.faults.add(
                line, name, f"{whole / unit:.12g}", expected, warning=True, cause=f"sum of {name}"
            )


SERIES_FACTS = ("kind", "name", "currency", "of_currency")
YIELD_KINDS = ("risk_free_yield", "aaa_yield")


def _series(table: Table) -> None:
    """A code means one thing; values fit their kind; an exchange rate names its currency."""
    _in_order(table, "day", "published_on")
    first: dict[str, Row] = {}
    for line, r in zip(table.lines, table.records, strict=True):
        before = first.setdefault(r["code"], r)
        for column in SERIES_FACTS:
            if r.get(column) != before.get(column):
                expected = f"one {column} a code ({before.get(column) or 'none'})"
                table.faults.add(
                    line, column, r.get(column), expected, cause=f"one {column} a code"
                )
        if r["kind"] in YIELD_KINDS and not -0.2 < r["value"] < 1:
            table.faults.add(line, "value", r["value"], "a yield as a fraction (0.031 for 3.1 %)")
        elif r["kind"] not in YIELD_KINDS and r["value"] <= 0:
            table.faults.add(line, "value", r["value"], "a number above 0")
        if (r["kind"] == "exchange_rate") != (r.get("of_currency") is not None):
            expected = "the currency one unit of which costs the value, for exchange_rate alone"
            table.faults.add(line, "of_currency", r.get("of_currency") or "", expected)


def _ordered_forecast(table: Table) -> None:
    """low ≤ mean ≤ high."""
    for line, r in zip(table.lines, table.records, strict=True):
        present = [(n, r[n]) for n in ("low", "mean", "high") if r.get(n) is not None]
        for (a, low), (b, high) in pairwise(present):
            if low > high:
                table.faults.add(line, b, high, f"at least {a} ({low:g})", cause=f"{a} under {b}")
