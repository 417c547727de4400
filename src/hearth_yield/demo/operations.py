"""How a payer's business goes, quarter by quarter and per share of today: what the story plans, and
what the economy, the trade, costs and chance make of it.

The plan is read backwards from the dividend: planned earnings = dividends ÷ the payout the story
wants. Revenue then swings about its plan; the cost of revenue moves with it and with input costs;
operating expenses stand nearly still and follow late. So profit swings more than revenue does, and
less where margins are wide.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from random import Random

from .economy import ENDS, Economy
from .script import YEARS, Script, at
from .trades import TRADES

TAX = 0.25
DRIVER_TO_REVENUE = {"property_trust": 0.45, "partnership": 0.30, "financial": 0.10}
PROPERTY_COSTS = 0.34
"""Of a trust's rents, before what it pays for loans and its own desk."""
STILL = 0.7
"""How much of operating expenses is the same in every quarter of a year."""
FOLLOWS = 0.45
"""How far operating expenses follow revenue, late."""
PULL = 0.82
OF_EACH = 0.8
"""How much of a swing in costs comes from the trade, and from the payer."""
CATASTROPHE = 0.05
"""Chance of one in a quarter, for an insurer."""
SHOWN_IN_REVENUE = 0.3
"""How much of a year's good or bad fortune shows in revenue; the rest is margin."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A year's plan as it stands in the middle of a quarter, per share: what is earned (its kind's
    leading measure), free cash flow and revenue."""

    earned: float
    free: float
    revenue: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Operation:
    """One quarter per share of today.

    revenue, cost, expenses, profit: profit = revenue − cost − expenses, before tax and before what
    interest is above or below its usual; of trusts and partnerships their leading measure, of
    financials net income. fortune: the story's factor on the quarter's plan. planned: the profit
    to be expected of such a quarter without chance or fortune.
    """

    end: date
    plan: Plan
    season: float
    fortune: float
    revenue: float
    cost: float
    expenses: float
    planned: float

    @property
    def profit(self) -> float:
        return self.revenue - self.cost - self.expenses


def plan_of(script: Script, end: date) -> Plan:
    """Between mid-years the plan moves smoothly."""
    t = end.year + (end.month - 1.5) / 12 - 0.5
    year, share = math.floor(t), t - math.floor(t)

    def between(of: Callable[[int], float]) -> float:
        first, second = (of(min(max(y, YEARS[0]), YEARS[-1])) for y in (year, year + 1))
        return math.exp((1 - share) * math.log(first) + share * math.log(second))

    earned = between(lambda y: script.earns_on(y) / at(script.payout, y))
    free = between(lambda y: script.earns_on(y) / at(script.cash_payout, y))
    margin = between(lambda y: DRIVER_TO_REVENUE.get(script.kind) or at(script.margin, y))
    return Plan(earned=earned, free=free, revenue=earned / margin)


def before_tax(script: Script) -> float:
    """Profit of an operation for one unit of what the plan says is earned."""
    return 1 / (1 - TAX) if script.kind == "company" else 1.0


def planned_profit(script: Script, plan: Plan, end: date, season: float) -> float:
    """Of a quarter without chance or fortune: revenue has its seasons, most expenses have none."""
    if script.kind == "financial":
        return plan.earned * season
    share = cost_share(script, end.year)
    return plan.revenue * season * (1 - share) - _expenses(script, plan, share, season)


def _expenses(script: Script, plan: Plan, share: float, season: float) -> float:
    yearly = plan.revenue * (1 - share) - plan.earned * before_tax(script)
    return yearly * (STILL / 4 + (1 - STILL) * season)


def operations(
    script: Script, economy: Economy, ends: Sequence[date], random: Random
) -> list[Operation]:
    """One of each quarter end."""
    run = _Run(script, economy, random)
    return [run.quarter(end) for end in ends]


def cost_share(script: Script, year: int) -> float:
    return PROPERTY_COSTS if script.kind == "property_trust" else at(script.cost_share, year)


class _Run:
    """What is carried from quarter to quarter."""

    def __init__(self, script: Script, economy: Economy, random: Random) -> None:
        self.script, self.economy, self.random = script, economy, random
        self.trade = TRADES[script.industry]
        self.demand = self.costs = self.lagged = 0.0
        own = script.seasons or self.trade.seasons
        shaken = [s * random.uniform(0.97, 1.03) for s in own]
        self.seasons = [s / sum(shaken) for s in shaken]
        self.weights: dict[int, list[float]] = {}

    def _fortune(self, end: date) -> float:
        """A year's fortune falls on its quarters unevenly."""
        year, quarter = end.year, end.month // 3 - 1
        if quarter == 0 or year not in self.weights:
            drawn = [self.random.uniform(0.6, 1.4) for _ in range(4)]
            self.weights[year] = [4 * w / sum(drawn) for w in drawn]
        return 1 + (self.script.fortunes.get(year, 1.0) - 1) * self.weights[year][quarter]

    def quarter(self, end: date) -> Operation:
        script, trade, random = self.script, self.trade, self.random
        plan, season = plan_of(script, end), self.seasons[end.month // 3 - 1]
        fortune = self._fortune(end)
        rest = math.sqrt(1 - PULL * PULL)
        self.demand = PULL * self.demand + rest * trade.own * random.gauss(0, 1)
        self.costs = PULL * self.costs + rest * random.gauss(0, 1)
        at_hand = ENDS.index(end)
        demand = script.temper * (self.economy.demand(script.industry, at_hand) + self.demand)
        self.lagged = 0.5 * self.lagged + 0.5 * demand
        chance = script.temper * random.gauss(0, 0.017)
        if script.kind == "financial":
            return self._lends(end, plan, season, fortune, demand, chance)
        share = cost_share(script, end.year)
        profit = plan.earned * before_tax(script)
        shown = plan.revenue * season * (1 - SHOWN_IN_REVENUE * (1 - fortune))
        revenue = shown * math.exp(demand)
        dearer = self.economy.costs(script.industry, at_hand) + self.costs
        dear = script.temper * trade.costs * OF_EACH * dearer
        hit = profit * season * (1 - fortune) - (plan.revenue * season - shown) * (1 - share)
        expenses = _expenses(script, plan, share, season)
        return Operation(
            end=end,
            plan=plan,
            season=season,
            fortune=fortune,
            revenue=revenue,
            cost=revenue * share * (1 + dear) + hit,
            expenses=expenses * (1 + FOLLOWS * self.lagged) * (1 + chance),
            planned=planned_profit(script, plan, end, season),
        )

    def _lends(
        self, end: date, plan: Plan, season: float, fortune: float, demand: float, chance: float
    ) -> Operation:
        """A bank's losses come in waves, with the economy; an insurer's at once."""
        worse = 3.2 * demand if self.script.industry == "Banking" else 1.2 * demand
        if self.script.industry == "Insurance" and self.random.random() < CATASTROPHE:
            worse -= self.random.uniform(0.4, 1.5) * self.script.temper
        revenue = plan.revenue * season * math.exp(demand)
        planned = planned_profit(self.script, plan, end, season)
        profit = planned * (fortune + max(worse, -1.9) + 3 * chance + 0.08 * self.costs)
        return Operation(
            end=end,
            plan=plan,
            season=season,
            fortune=fortune,
            revenue=revenue,
            cost=0.0,
            expenses=revenue - profit,
            planned=planned,
        )
