"""A payer's dividends as its board sets them: neat amounts, raised when it is used to raise, with
its cuts, stops, specials and splits."""

from __future__ import annotations

import math
from collections.abc import Iterator
from datetime import date, timedelta
from random import Random
from typing import Any

from .script import FIRST_YEAR, SLUMPS, Script

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


TICKS = ((0.02, 0.0001), (0.3, 0.0005), (1.0, 0.0025), (math.inf, 0.005))
"""Boards round a payment to these, by its size."""
STANDS = 0.002
"""A plan that moves by less in a year is a dividend that stands still."""

HOLDS_IN_SLUMPS = 3.5
"""How many times likelier a board holds a raise back in the years of a slump."""


class _Board:
    """What it pays for each part of a year, in the shares of today."""

    def __init__(self, script: Script, random: Random) -> None:
        self._script, self._random = script, random
        even = len(set(script.weights)) == 1 and len(script.months) > 2
        self._raises_in = random.randrange(len(script.months)) if even else 0
        self._paid: dict[float, float] = {}
        self._decided: dict[float, tuple[int, float]] = {}
        self._lean, self._holds = 0.0, False

    def new_year(self, year: int) -> None:
        """Some years it is more generous than the plan, some years less, and in some it holds."""
        self._lean = self._random.uniform(-0.4, 0.3)
        slump = any(begins.year <= year <= ends.year for _, begins, ends, _ in SLUMPS)
        chance = self._script.holds * (HOLDS_IN_SLUMPS if slump else 1)
        self._holds = self._random.random() < chance

    def amount(self, day: date, slot: int, weight: float, cut: float) -> float:
        """A payment in the shares of its day. Raises come in the slot it is used to, cuts at once;
        no rounding lowers what is not meant to fall. cut: by what the story has cut it."""
        ratio, rates = split_ratio_after(self._script, day), self._script.rate
        before, rate = rates.get(day.year - 1, rates[day.year]), rates[day.year]
        held = self._paid.get(weight, 0.0) * ratio
        decided = self._decided.get(weight)
        due = slot >= self._raises_in or rate < before
        if decided is None or decided[1] != cut or (due and decided[0] < day.year):
            paid = self._decide(before, rate, weight * ratio, held, cut, decided)
            self._decided[weight] = (day.year, cut)
        else:
            paid = math.ceil(held / _tick(held) - 1e-6) * _tick(held)
        self._paid[weight] = paid / ratio
        return paid

    def _decide(
        self,
        before: float,
        rate: float,
        share: float,
        held: float,
        cut: float,
        decided: tuple[int, float] | None,
    ) -> float:
        growth = rate / before - 1 if before else 0.0
        aim = rate + (rate - before) * self._lean * (growth > STANDS)
        aim *= share * (1 - cut)
        tick = _tick(aim)
        paid = round(aim / tick) * tick
        if decided is None or decided[1] != cut or growth < -STANDS:
            return paid
        if growth <= STANDS or (self._holds and not cut):
            return math.ceil(held / tick - 1e-6) * tick
        return max(paid, (math.floor(held / tick + 1e-6) + 1) * tick)


def _tick(amount: float) -> float:
    return next(t for below, t in TICKS if amount < below)


def dividends(script: Script, first_year: int, random: Random) -> list[Record]:
    """Payments declared by the day the story is told to, in the shares of their ex-date."""
    board, rows = _Board(script, random), []
    for year in range(first_year, script.until.year + 1):
        board.new_year(year)
        regular = {}
        for slot, (month, weight) in enumerate(zip(*script.pays_in(year), strict=True)):
            ex = weekday(date(year, month, 8 + random.randrange(6)))
            declared = ex - timedelta(days=DECLARED_DAYS + random.randrange(5))
            cut = script.cut
            if cut is not None and (year, month) == (cut[1].year, cut[1].month):
                ex, declared = cut[1], cut[0]
            lost = cut[2] if cut is not None and ex >= cut[1] else 0.0
            declared = max(cut[0], declared) if cut is not None and lost else declared
            amount = board.amount(ex, slot, weight, lost)
            if script.pays and declared <= script.until and _is_paying(script, declared, ex):
                rows.append(_payment(script, ex, declared, "regular", amount))
            regular[month] = (ex, declared)
        rows += _extras(script, year, regular)
    return rows


def _extras(script: Script, year: int, regular: dict[int, tuple[date, date]]) -> Iterator[Record]:
    """Specials in their month, with the regular dividend if one goes ex then; returns of capital
    in spring."""
    for kind, amounts, month in (
        ("special", script.specials, script.special_month),
        ("return_of_capital", script.capital_returns, 4),
    ):
        ex = weekday(date(year, month, 20))
        ex, declared = regular.get(month, (ex, ex - timedelta(days=35)))
        if year in amounts and declared <= script.until:
            amount = amounts[year] * split_ratio_after(script, ex)
            yield _payment(script, ex, declared, kind, amount)


def _payment(script: Script, ex: date, declared: date, kind: str, amount: float) -> Record:
    credit = script.credit or (None, None)
    stated = script.stated_rhythm and kind == "regular"
    return owner(script) | {
        "ex_date": ex,
        "kind": kind,
        "declared_on": declared,
        "pay_date": weekday(ex + timedelta(days=PAY_DAYS)),
        "amount": round(amount, 6),
        "currency": script.land.currency,
        "payments_per_year": len(script.pays_in(ex.year)[0]) if stated else None,
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
    said = ((stopped, "suspended"), (resumed, "resumed"))
    return [
        owner(script) | {"declared_on": day, "kind": kind}
        for day, kind in said
        if day <= script.until
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
