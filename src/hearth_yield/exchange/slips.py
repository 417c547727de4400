"""Likely slips: figures that are each possible and together are not, as when share counts in
thousands are read as units. Each is a warning that says what was probably meant.
(docs/data-formats.md)"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from operator import itemgetter
from statistics import median
from typing import Protocol

from hearth_yield.core.facts.records import A_YEAR
from hearth_yield.rows import Row, keys_of

from .table import Table

Key = tuple[str, str]
Dated = Sequence[tuple[date, float]]
FAR = 30.0
"""Two ways to the same amount that differ by more than this are a slip, not a difference."""
PAID_FAR = 5.0
"""The same for dividends paid against what was paid a share, where rounding is coarser."""
EQUITY_FAR = 300.0
LARGE_YIELD = 0.5
AGAINST_ASSETS = ("revenue", "net_income", "operating_cash_flow", "long_term_debt", "cash")
LEAST_YEARS = 3
YEAR = timedelta(days=365)
WEEK = timedelta(days=8)


class Stored(Protocol):
    """What is stored already."""

    def regular_dividends(self, payers: Collection[Key]) -> Mapping[Key, Dated]: ...

    def sums_of_years(self, payers: Collection[Key]) -> Mapping[Key, Dated]: ...

    def closes_near(self, ends: Mapping[Key, tuple[date, date]]) -> Mapping[Key, Dated]: ...

    def splits(self, payers: Collection[Key]) -> Mapping[Key, Sequence[date]]: ...


@dataclass(slots=True)
class _Of:
    """The rows of one payer that come in, each with the table and line it stands on."""

    years: list[tuple[Row, Table, int]]
    dividends: list[tuple[Row, Table, int]]


def warn_of_slips(tables: Sequence[Table], held: Stored) -> None:
    """Adds the warnings to the tables whose rows they are about."""
    came: dict[Key, _Of] = defaultdict(lambda: _Of([], []))
    for table in tables:
        kind = table.format.name
        if kind not in ("statements", "dividends"):
            continue
        for record, line in zip(table.records, table.lines, strict=True):
            of = came[record["exchange"], record["symbol"]]
            if kind == "dividends":
                if record["kind"] == "regular":
                    of.dividends.append((record, table, line))
            elif record["span"] == "year":
                of.years.append((record, table, line))
    if not came:
        return
    closes = _closes(tables, came, held)
    paid = held.regular_dividends(came)
    sums = held.sums_of_years(came)
    splits = held.splits(came)
    new_splits = _new_splits(tables)
    for payer, of in came.items():
        of.years.sort(key=lambda x: x[0]["period_end"])
        near = closes.get(payer, ())
        _capex(of)
        _sizes(of)
        if not _per_share(of):
            amounts = dict(paid.get(payer, ()))
            amounts |= {r["ex_date"]: r["amount"] for r, _, _ in of.dividends}
            last = max((*splits.get(payer, ()), *new_splits.get(payer, ())), default=date.min)
            if not _paid(of, sorted(amounts.items()), last):
                _equity(of, near)
        _yields(of, near)
        _sums(of, sums.get(payer, ()), paid.get(payer, ()))


def _new_splits(tables: Sequence[Table]) -> Mapping[Key, Sequence[date]]:
    found = defaultdict(list)
    for table in tables:
        if table.format.name == "splits":
            for r in table.records:
                found[r["exchange"], r["symbol"]].append(r["effective_on"])
    return found


def _closes(tables: Sequence[Table], came: Mapping[Key, _Of], held: Stored) -> Mapping[Key, Dated]:
    """Closes of the payers: those that come in, and the held ones near their newest year's end and
    newest dividend."""
    ends = {}
    for payer, of in came.items():
        days = [of.years[-1][0]["period_end"]] if of.years else []
        days += [of.dividends[-1][0]["ex_date"]] if of.dividends else []
        if days:
            ends[payer] = (days[0], days[-1])
    found = {payer: list(rows) for payer, rows in held.closes_near(ends).items()}
    for table in tables:
        if table.format.name == "prices":
            names = ("exchange", "symbol", "day", "close")
            for exchange, symbol, day, close in keys_of(table.records, names):
                if (exchange, symbol) in came:
                    found.setdefault((exchange, symbol), []).append((day, close))
    return {payer: sorted(rows) for payer, rows in found.items()}


def _capex(of: _Of) -> None:
    """Capital expenditure above operating cash flow in every year."""
    both = [
        (x, r["capital_expenditure"], r["operating_cash_flow"])
        for x in of.years
        if (r := x[0]).get("capital_expenditure") is not None
        and r.get("operating_cash_flow") is not None
    ]
    if len(both) >= LEAST_YEARS and all(out > made > 0 for _, out, made in both):
        (_, table, line), out, made = both[-1]
        expected = (
            f"below operating cash flow ({made:,.0f}) in at least one year; it is above it in all "
            f"{len(both)}. Is it another line, as all investing, or counted in another unit?"
        )
        table.faults.add(
            line, "capital_expenditure", f"{out:,.0f}", expected, warning=True, cause="capex"
        )


def _sums(of: _Of, held_sums: Dated, paid: Dated) -> None:
    """What a year paid, beside payments of the same year, whichever of them is held already."""
    sums = [x for x in of.dividends if x[0].get("assumed")]
    payments = [x for x in of.dividends if not x[0].get("assumed")]
    known = {*(day for day, _ in paid)} - {*(day for day, _ in held_sums)}
    days = sorted(known | {r["ex_date"] for r, _, _ in payments})
    for record, table, line in sums:
        end = record["ex_date"]
        if bisect_right(days, end - A_YEAR) < bisect_right(days, end):
            _gives_way(table, line, record["amount"], end, "they came too, or are held")
    came = {r["ex_date"] for r, _, _ in sums}
    for end, amount in held_sums:
        of_year = (x for x in payments if end - A_YEAR < x[0]["ex_date"] <= end)
        if end not in came and (first := next(of_year, None)):
            _gives_way(first[1], first[2], amount, end, "they come in now, and the sum is held")


def _gives_way(table: Table, line: int, amount: float, end: date, why: str) -> None:
    expected = f"its payments alone: {why}; they count in the place of the year's sum"
    value = f"{amount:g} for the year to {end}"
    table.faults.add(line, "amount", value, expected, warning=True, cause="sums")


def _sizes(of: _Of) -> None:
    """Flows of a year, and debt, many times all that the payer has: they are in two units."""
    for record, table, line in of.years:
        assets = record.get("total_assets") or 0.0
        if assets <= 0:
            continue
        far = [n for n in AGAINST_ASSETS if abs(record.get(n) or 0.0) > FAR * assets]
        for name in far[:1]:
            value = record[name]
            expected = (
                f"an amount of the size of total assets ({assets:,.0f}); this is "
                f"{abs(value) / assets:,.0f} times as much. Are the two in different units?"
            )
            table.faults.add(
                line,
                name,
                f"{value:,.0f}",
                expected,
                warning=True,
                cause="against assets",
                of=_owner(record),
                grave=True,
            )


def _per_share(of: _Of) -> bool:
    """Earnings a share × shares against net income. Returns whether that is far off."""
    rows = [
        (x, r["net_income"] / (r["diluted_eps"] * r["diluted_shares"]))
        for x in of.years
        if (r := x[0]).get("net_income") and r.get("diluted_eps") and r.get("diluted_shares")
    ]
    if not rows:
        return False
    off = median(abs(q) for _, q in rows)
    if 1 / FAR < off < FAR:
        return False
    (record, table, line), _ = rows[-1]
    expected = (
        f"about net income ÷ diluted EPS ({record['net_income'] / record['diluted_eps']:,.0f}); "
        f"it is {_times(off)}. {_meant(off)}"
    )
    table.faults.add(
        line,
        "diluted_shares",
        f"{record['diluted_shares']:,.0f}",
        expected,
        warning=True,
        cause="shares against EPS",
        slip=f"shares:{_power(off):g}",
        of=_owner(record),
    )
    return True


def _paid(of: _Of, amounts: Dated, last_split: date) -> bool:
    """Dividends paid against the dividend a share × shares, since the last split."""
    days = [d for d, _ in amounts]
    rows = []
    for x in of.years:
        r, end = x[0], x[0]["period_end"]
        shares = r.get("diluted_shares") or r.get("shares_outstanding")
        if not (r.get("dividends_paid") and shares) or end - YEAR < last_split:
            continue
        inside = amounts[bisect_right(days, end - YEAR) : bisect_right(days, end)]
        a_share = sum(a for _, a in inside)
        if a_share:
            rows.append((x, r["dividends_paid"] / (a_share * shares), a_share * shares))
    if not rows:
        return False
    off = median(q for _, q, _ in rows)
    if 1 / PAID_FAR < off < PAID_FAR:
        return False
    (record, table, line), _, other = rows[-1]
    hundredths = 0.004 < off < 0.025
    meant = "Are the dividends a share in hundredths (pence, cents)?" if hundredths else _meant(off)
    expected = (
        f"about dividends a share × shares ({other:,.0f}); that is {_times(1 / off)}. {meant}"
    )
    slip = None
    if hundredths:
        slip = "per_share:0.01"
    elif off > FAR or off < 1 / FAR:
        slip = f"shares:{_power(off):g}"
    table.faults.add(
        line,
        "dividends_paid",
        f"{record['dividends_paid']:,.0f}",
        expected,
        warning=True,
        cause="paid against a share",
        slip=slip,
        of=_owner(record),
    )
    return True


def _equity(of: _Of, closes: Dated) -> None:
    """Price × shares against equity."""
    for record, table, line in reversed(of.years):
        shares = record.get("shares_outstanding") or record.get("diluted_shares")
        equity = record.get("equity")
        close = _close_near(closes, record["period_end"])
        if not shares or close is None or not equity or equity < 0:
            continue
        off = equity / (close * shares)
        if off > EQUITY_FAR or off < 1 / EQUITY_FAR:
            column = "shares_outstanding" if record.get("shares_outstanding") else "diluted_shares"
            expected = (
                f"a count that makes the shares' price ({close * shares:,.0f}) of the size of "
                f"equity ({equity:,.0f}). {_meant(off)}"
            )
            table.faults.add(
                line,
                column,
                f"{shares:,.0f}",
                expected,
                warning=True,
                cause="price against equity",
                slip=f"shares:{_power(off):g}",
                of=_owner(record),
            )
        return


def _yields(of: _Of, closes: Dated) -> None:
    """A year's dividends of more than half the price."""
    rows = sorted(of.dividends, key=lambda x: x[0]["ex_date"])
    for n, (record, table, line) in enumerate(rows):
        day = record["ex_date"]
        close = _close_near(closes, day)
        if close is None:
            continue
        year = sum(r["amount"] for r, _, _ in rows[: n + 1] if r["ex_date"] > day - YEAR)
        if year > LARGE_YIELD * close:
            expected = (
                f"a year's dividends ({year:g}) of less than half the close ({close:g}), or kind "
                "special. Are they in hundredths (pence, cents), or is the price?"
            )
            table.faults.add(
                line,
                "amount",
                record["amount"],
                expected,
                warning=True,
                cause="a yield above 50 %",
                slip="per_share:0.01",
                of=_owner(record),
            )


def _owner(record: Row) -> str:
    return f"{record['exchange']}/{record['symbol']}"


def _close_near(closes: Dated, day: date) -> float | None:
    """The last close of the week that ends on a day."""
    place = bisect_left(closes, day + timedelta(days=1), key=itemgetter(0))
    found = closes[place - 1] if place else None
    return found[1] if found and day - found[0] <= WEEK else None


def _power(off: float) -> float:
    """The power of a thousand that is nearest; at least one."""
    power = 3 * round(math.log10(off) / 3)
    return 10.0 ** (power or math.copysign(3, off - 1))


def _times(off: float) -> str:
    return f"{off:,.0f} times too small" if off > 1 else f"{1 / off:,.0f} times too large"


def _meant(off: float) -> str:
    if off > 1:
        word = "millions" if _power(off) >= 1e6 else "thousands"
        return f"Are share counts in {word}, or is the unit of the amounts wrong?"
    return "Are share counts in single units already, or is the unit of the amounts wrong?"
