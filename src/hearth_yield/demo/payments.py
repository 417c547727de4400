"""A payer's dividends: amounts on a schedule, with its cut, suspension and split."""

from __future__ import annotations

from datetime import date, timedelta
from random import Random
from typing import Any

from .scripts import CURRENCY, EXCHANGE, FIRST_YEAR, TODAY, YEARS, Script

Record = dict[str, Any]
DECLARED_DAYS = 28
PAY_DAYS = 14


def owner(script: Script) -> Record:
    return {"exchange": EXCHANGE, "symbol": script.symbol}


def split_ratio_after(script: Script, day: date) -> float:
    """Today's shares for one share of `day`."""
    if script.split is None or day >= script.split[0]:
        return 1.0
    return float(script.split[1])


def _weekday(day: date) -> date:
    return day + timedelta(days={5: 2, 6: 1}.get(day.weekday(), 0))


def dividends(script: Script, random: Random) -> list[Record]:
    """Regular payments declared by the demo's today, in the shares of their ex-date."""
    if not script.pays:
        return []
    rows = []
    for year in YEARS:
        for month, weight in zip(script.months, script.weights, strict=True):
            ex = _weekday(date(year, month, 8 + random.randrange(6)))
            if script.cut is not None and (year, month) == (
                script.cut[1].year,
                script.cut[1].month,
            ):
                ex = script.cut[1]
            declared = ex - timedelta(days=DECLARED_DAYS + random.randrange(5))
            amount = script.rate[year] * weight
            if script.cut is not None and ex >= script.cut[1]:
                declared, amount = script.cut[0], amount * (1 - script.cut[2])
            if declared > TODAY or not _is_paying(script, declared, ex):
                continue
            rows.append(
                owner(script)
                | {
                    "ex_date": ex,
                    "kind": "regular",
                    "declared_on": declared,
                    "pay_date": _weekday(ex + timedelta(days=PAY_DAYS)),
                    "amount": round(amount * split_ratio_after(script, ex), 4),
                    "currency": CURRENCY,
                    "payments_per_year": len(script.months) if script.stated_rhythm else None,
                    "credited_fraction": None,
                    "credit_tax_rate": None,
                }
            )
    return rows


def _is_paying(script: Script, declared: date, ex: date) -> bool:
    if script.listed is not None and declared <= script.listed + timedelta(days=90):
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


def splits(script: Script) -> list[Record]:
    if script.split is None:
        return []
    day, ratio = script.split
    return [owner(script) | {"effective_on": day, "new_shares": float(ratio), "old_shares": 1.0}]
