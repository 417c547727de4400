"""A payer's dividends: amounts on a schedule, with its cuts, stops, specials and splits."""

from __future__ import annotations

from datetime import date, timedelta
from random import Random
from typing import Any

from .script import FIRST_YEAR, Script

Record = dict[str, Any]
DECLARED_DAYS = 28
PAY_DAYS = 14


def owner(script: Script) -> Record:
    return {"exchange": script.land.exchange, "symbol": script.symbol}


def split_ratio_after(script: Script, day: date) -> float:
    """Today's shares for one share of `day`."""
    ratio = 1.0
    for effective, new, old in script.splits:
        if effective > day:
            ratio *= new / old
    return ratio


def weekday(day: date) -> date:
    return day + timedelta(days={5: 2, 6: 1}.get(day.weekday(), 0))


def dividends(script: Script, first_year: int, random: Random) -> list[Record]:
    """Payments declared by the day the story is told to, in the shares of their ex-date."""
    rows = []
    for year in range(first_year, script.until.year + 1):
        for month, weight in zip(script.months, script.weights, strict=True):
            ex = weekday(date(year, month, 8 + random.randrange(6)))
            cut = script.cut
            if cut is not None and (year, month) == (cut[1].year, cut[1].month):
                ex = cut[1]
            declared = ex - timedelta(days=DECLARED_DAYS + random.randrange(5))
            amount = script.rate[year] * weight
            if cut is not None and ex >= cut[1]:
                declared, amount = max(cut[0], declared), amount * (1 - cut[2])
                if ex == cut[1]:
                    declared = cut[0]
            if script.pays and declared <= script.until and _is_paying(script, declared, ex):
                rows.append(_payment(script, ex, declared, "regular", amount))
        rows += _extras(script, year)
    return rows


def _extras(script: Script, year: int) -> list[Record]:
    """Specials in autumn, returns of capital in spring."""
    found = []
    for kind, amounts, month in (
        ("special", script.specials, 10),
        ("return_of_capital", script.capital_returns, 4),
    ):
        ex = weekday(date(year, month, 20))
        declared = ex - timedelta(days=35)
        if year in amounts and declared <= script.until:
            found.append(_payment(script, ex, declared, kind, amounts[year]))
    return found


def _payment(script: Script, ex: date, declared: date, kind: str, amount: float) -> Record:
    credit = script.credit or (None, None)
    stated = script.stated_rhythm and kind == "regular"
    return owner(script) | {
        "ex_date": ex,
        "kind": kind,
        "declared_on": declared,
        "pay_date": weekday(ex + timedelta(days=PAY_DAYS)),
        "amount": round(amount * split_ratio_after(script, ex), 4),
        "currency": script.land.currency,
        "payments_per_year": len(script.months) if stated else None,
        "credited_fraction": credit[0],
        "credit_tax_rate": credit[1],
    }


def _is_paying(script: Script, declared: date, ex: date) -> bool:
    if script.listed is not None and declared <= script.listed + timedelta(days=90):
        return False
    if script.delisted is not None and ex >= script.delisted - timedelta(days=20):
        return False
    if script.suspended is not None:
        stopped, resumed = script.suspended
        return not (declared > stopped - timedelta(days=5) and declared < resumed)
    return ex.year >= FIRST_YEAR


def notices(script: Script) -> list[Record]:
    if script.suspended is None:
        return []
    stopped, resumed = script.suspended
    return [
        owner(script) | {"declared_on": stopped, "kind": "suspended"},
        owner(script) | {"declared_on": resumed, "kind": "resumed"},
    ]


ANNOUNCED_BEFORE = timedelta(days=45)


def splits(script: Script) -> list[Record]:
    return [
        owner(script)
        | {
            "effective_on": day,
            "new_shares": float(new),
            "old_shares": float(old),
            "announced_on": day - ANNOUNCED_BEFORE,
        }
        for day, new, old in script.splits
    ]
