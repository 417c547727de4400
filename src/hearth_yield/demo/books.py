"""The books of the made-up payers: income, cash flows and balance sheets that agree.

They roll forward quarter by quarter from what operations.py says of the business. All amounts are
whole thousands, so that sums and balances are exact; dividends paid are the payments of payments.py
times the shares of the day. Plant is worn down and renewed in campaigns; when it runs low a
business is bought. What is left buys shares back when it suits, then repays loans, then stays in
the till; a trust or a partnership puts it into property. Loans are taken up and paid back in lumps.
"""

from __future__ import annotations

import math
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from datetime import date
from random import Random

from .accounts import PREFERRED_RATE, RATIO_SCALE, Books, Lines, Quarter
from .economy import QUARTER_ENDS
from .income import Income
from .operations import Operation
from .payments import Record, split_ratio_after
from .script import Script, at
from .trades import TRADES

STAFF = 0.006
"""Of its shares, that a company's people take each spring."""
ORDINARY_MARGIN = 0.12
"""Of which the swings of working capital and building are those of the trade; less of thinner."""
BUILT_BY = (0.22, 0.24, 0.25, 0.29)
"""Share of a year's building by quarter."""
LEAST_EQUITY = 0.05
"""Of assets, below which no shares are bought back."""
FORGONE = 0.06
"""Discount at which new shares are sold."""
LOAN, REPAID = 0.04, 0.02
"""Lumps of loans taken up and paid back, in years of revenue."""
PRICE_OF_A_BUSINESS = 1.8
"""In years of its revenue."""


def quarter_ends(first_year: int, script: Script) -> list[date]:
    """Quarters that are over by the last day of the story."""
    last = script.last_day
    days = [date(y, m, d) for y in range(first_year, last.year + 1) for m, d in QUARTER_ENDS]
    return [d for d in days if d <= last]


def quarters(
    script: Script,
    business: Sequence[Operation],
    payments: Sequence[Record],
    closes: Mapping[date, float],
    random: Random,
) -> list[Quarter]:
    """Every quarter's lines, in thousands."""
    rolling = _Rolling(script, business[0], random)
    days = list(closes)
    found, before = [], date.min
    for op in business:
        paid = sum(
            p["amount"] / split_ratio_after(script, p["ex_date"])
            for p in payments
            if before < p["pay_date"] <= op.end
        )
        close = closes[days[min(max(bisect_right(days, op.end) - 1, 0), len(days) - 1)]]
        found.append(rolling.quarter(op, paid, close))
        before = op.end
    return found


class _Rolling:
    """A payer's books and its habits."""

    def __init__(self, script: Script, first: Operation, random: Random) -> None:
        self.script, self.random = script, random
        self.trade = TRADES[script.industry]
        thin = min(max(at(script.margin, first.end.year) / ORDINARY_MARGIN, 0.45), 1.1)
        self.calm = thin * min(script.temper, 1.0) ** 0.5
        owed = at(script.debt, first.end.year)
        usual = self.trade.plant + (0 if script.kind == "property_trust" else owed)
        self.plant_share = usual if script.plant is None else script.plant
        wear = script.write_downs if script.kind != "property_trust" else 0.19
        worn = wear / self.plant_share / 4 if self.plant_share else 0.0
        self.income = Income(script, worn, random)
        self.swings = [0.0, 0.0]
        self.others = self.building = self.soon = self.assets = 0.0
        self.eager = 1.0
        self.once = 0.0
        self.books = self._opening(first)
        self.acquired = 0

    def _opening(self, first: Operation) -> Books:
        script, shares = self.script, round(self.script.shares)
        revenue = first.plan.revenue * shares
        debt = at(script.debt, first.end.year)
        cash, stocks, payables, plant, owed = (
            round(revenue * f)
            for f in (
                script.cash,
                self.trade.stocks,
                self.trade.payables,
                max(self.plant_share, 0.2 + debt),
                debt,
            )
        )
        preferred = round(first.plan.earned * shares * script.preferred / PREFERRED_RATE)
        equity = cash + stocks + plant - payables - owed
        if script.kind == "financial":
            equity = round(first.plan.earned * shares * 8)
        return Books(
            cash=cash,
            plant=plant,
            stocks=stocks,
            payables=payables,
            debt=owed,
            equity=equity,
            shares=shares,
            preferred=preferred,
        )

    def quarter(self, op: Operation, paid: float, close: float) -> Quarter:
        books = self.books
        self.acquired = 0
        self._new_year(op)
        lines = self.income.quarter(op, books)
        lines["dividends_paid"] = round(paid * books.shares)
        if self.script.kind == "financial":
            self._roll_financial(op, lines)
        else:
            self._work(op, lines)
            self._build(op, lines)
            self._finance(op, lines, close)
            self._balance(op, lines)
        lines["shares"] = books.shares
        return Quarter(end=op.end, lines=lines, acquired=self.acquired)

    def _new_year(self, op: Operation) -> None:
        """What is decided once a year: how eagerly to build and to buy back, how to pay its own."""
        random = self.random
        if op.end.month == 3:
            self.building = 0.55 * self.building + random.gauss(0, 0.17)
            self.eager = random.choice((0.25, 0.6, 1.0, 1.0, 1.5, 1.9))
            pays = self.income.generous
            self.income.generous = 0.5 * pays + 0.5 * random.uniform(0.4, 1.7)
            if self.books.preferred and op.end.year % 5 == 0:
                self.books.preferred = round(
                    op.plan.earned * self.books.shares * self.script.preferred / PREFERRED_RATE
                )
        self.books.bought *= 0.965

    # What working and building take

    def _work(self, op: Operation, lines: Lines) -> None:
        """Operating cash flow: earnings, what they hold that is not cash, and working capital."""
        books, trade, random, script = self.books, self.trade, self.random, self.script
        yearly = 0.6 * 4 * lines["revenue"] + 0.4 * op.plan.revenue * books.shares
        self.swings = [0.55 * s + random.gauss(0, 0.036) * self.calm for s in self.swings]
        if script.arrears:
            held_up = max(op.plan.earned - op.plan.free, 0) * books.shares / 4
            books.arrears += round(script.arrears * held_up * random.uniform(0.7, 1.3))
        stocks = round(yearly * trade.stocks * math.exp(self.swings[0])) + books.arrears
        payables = round(yearly * trade.payables * math.exp(self.swings[1]))
        operating = lines["net_income"] + _without_cash(lines)
        operating += books.stocks - stocks + payables - books.payables
        lines["operating_cash_flow"] = operating
        books.stocks = stocks + lines.get("straight_line_rent", 0)
        books.payables = payables

    def _build(self, op: Operation, lines: Lines) -> None:
        """Capital expenditure: what the plan leaves between operating and free cash flow, in
        campaigns; less when earnings or credit are short. And what is bought, or sold at its book
        value when there is more than a shrinking business needs."""
        books, script, random = self.books, self.script, self.random
        worn = lines["depreciation_amortization"]
        earned, free = op.plan.earned * books.shares, op.plan.free * books.shares
        if script.kind == "partnership":
            earned -= 4 * (worn - lines["maintenance_capex"])
        if script.kind == "property_trust":
            earned += 4 * (lines["recurring_capex"] - worn)
        gap = (1 - script.arrears) * (earned - free) if earned > free else earned - free
        growing = op.plan.revenue * books.shares * (self.trade.stocks - self.trade.payables) * 0.04
        yearly = gap + 4 * worn + 4 * lines.get("stock_based_compensation", 0) - growing
        campaign, chance = self.building + random.gauss(0, 0.09), random.random()
        share = BUILT_BY[op.end.month // 3 - 1]
        capex = max(yearly * share * math.exp(campaign * self.calm), 0.4 * worn)
        if op.profit < 0.8 * op.planned or books.debt > 1.3 * self._means_to_owe(op):
            capex = max(0.75 * capex, 0.4 * worn)
        lines["capital_expenditure"] = round(capex)
        if "maintenance_capex" not in lines:
            kept_up = round(worn * random.uniform(0.62, 0.95))
            most = round(lines["capital_expenditure"] * random.uniform(0.7, 0.98))
            lines["maintenance_capex"] = min(most, kept_up)
        lost = min(lines.get("impairments", 0), books.plant)
        books.plant += lines["capital_expenditure"] - worn - lost
        need = self.plant_share * op.plan.revenue * books.shares
        if script.kind == "company" and script.acquires:
            self._acquire(op, need)
        shrinks = op.plan.revenue < self.once
        if op.end.month == 12:
            self.once = op.plan.revenue
        if shrinks and books.plant > 1.6 * need and chance < 0.12:
            sold = round((books.plant - 1.2 * need) * random.uniform(0.3, 0.8))
            books.plant -= sold
            self.acquired -= sold

    def _means_to_owe(self, op: Operation) -> float:
        revenue = op.plan.revenue * self.books.shares
        return revenue * (at(self.script.debt, op.end.year) + LOAN)

    def _acquire(self, op: Operation, need: float) -> None:
        """A business is bought when plant runs low against revenue, and now and then otherwise."""
        books, random = self.books, self.random
        revenue = op.plan.revenue * books.shares
        low = books.plant < 0.72 * need
        rich = books.cash > (self.script.cash + 0.12) * revenue
        chance = random.random()
        size = random.uniform(0.03, 0.13)
        if op.profit < 0.7 * op.planned or chance > (0.14 if low or rich else 0.015):
            return
        price = size * PRICE_OF_A_BUSINESS * revenue
        if low:
            price = max(price, 0.5 * (need - books.plant))
        room = books.cash + 1.1 * self._means_to_owe(op) - books.debt
        if at(self.script.debt, op.end.year) == 0:
            room = 0.5 * books.cash
        self.acquired = round(max(min(price, room), 0))
        books.plant += self.acquired
        books.bought += self.acquired / PRICE_OF_A_BUSINESS / revenue

    # Who is paid, and who lends

    def _finance(self, op: Operation, lines: Lines, close: float) -> None:
        books, script = self.books, self.script
        yearly = op.plan.revenue * books.shares
        issued = self._issue(op, lines, close)
        cash = (
            books.cash
            + lines["operating_cash_flow"]
            - lines["capital_expenditure"]
            + lines.get("gains_on_property_sales", 0)
            - self.acquired
            - lines["dividends_paid"]
            - lines.get("preferred_dividends", 0)
            + lines["share_issuance"]
        )
        goal, target = yearly * script.cash, yearly * at(script.debt, op.end.year)
        if script.kind != "company":
            cash -= self._buy_property(op, lines, cash - goal + target - books.debt)
        bought = self._buy_back(op, cash - goal + target - books.debt, close)
        lines["buybacks"] = round(bought * close)
        cash -= lines["buybacks"]
        owed = self._lend(books.debt, cash, goal, target, yearly)
        books.cash, books.debt = cash + owed - books.debt, owed
        taken = round(STAFF * books.shares) if op.end.month == 3 and script.kind == "company" else 0
        books.shares += issued + taken - bought
        books.equity += (
            lines["net_income"]
            + lines.get("stock_based_compensation", 0)
            - lines["dividends_paid"]
            - lines.get("preferred_dividends", 0)
            - lines["buybacks"]
            + lines["share_issuance"]
        )

    def _issue(self, op: Operation, lines: Lines, close: float) -> int:
        """New shares or units are sold in lumps, when enough of them are due; a trust buys with
        what comes in."""
        books, script, random = self.books, self.script, self.random
        books.unsold += at(script.issues, op.end.year) / 4
        issued, chance = 0, random.random()
        if books.unsold > 0.012 and chance < 0.45 and op.profit > 0.75 * op.planned:
            issued, books.unsold = round(books.shares * books.unsold), 0.0
        lines["share_issuance"] = round(issued * close * (1 - FORGONE))
        if script.kind == "property_trust" and issued:
            lines["capital_expenditure"] += lines["share_issuance"]
            books.plant += lines["share_issuance"]
        return issued

    def _buy_property(self, op: Operation, lines: Lines, room: float) -> int:
        """What a trust or a partnership has over, once it is worth a purchase."""
        revenue = op.plan.revenue * self.books.shares
        if room < 0.25 * revenue or self.random.random() > 0.4:
            return 0
        spent = round(room * 0.9)
        lines["capital_expenditure"] += spent
        self.books.plant += spent
        return spent

    def _buy_back(self, op: Operation, room: float, close: float) -> int:
        """Shares, in lumps: much in one year and little in the next, none when profit is short,
        and never so many that equity would be gone."""
        script, books = self.script, self.books
        pace = at(script.buys_back, op.end.year) / 4 * self.random.uniform(0.3, 1.7)
        if pace < 0.012:
            pace *= self.eager * (2.2 if room > 0.08 * op.plan.revenue * books.shares else 1.0)
        if script.kind != "company" or op.profit < 0.65 * op.planned:
            return 0
        assets = books.cash + books.stocks + books.plant
        most = min(books.shares * close * pace, books.equity - LEAST_EQUITY * assets)
        return round(max(min(room, most), 0) / close)

    def _lend(self, debt: int, cash: int, goal: float, target: float, yearly: float) -> int:
        """Loans after the quarter: taken up when the till runs low, paid back when it is full, and
        a little of either in between."""
        chance = self.random.gauss(0, 0.014)
        if cash < 0.45 * goal:
            lump = max(round(LOAN * yearly), 1)
            return debt + lump * math.ceil((goal - cash) / lump)
        over = cash - goal
        if debt and over > 0.5 * goal and (debt > target or over > 4 * goal):
            lump = max(round(REPAID * yearly), 1)
            return round(max(debt - lump * round(over / lump), min(0.9 * target, debt)))
        return max(debt + round(debt * chance), debt - max(round(cash - 0.4 * goal), 0))

    def _balance(self, op: Operation, lines: Lines) -> None:
        script, books, random = self.script, self.books, self.random
        self.soon = 0.75 * self.soon + random.gauss(0, 0.035)
        soon = round(books.debt * min(max(0.12 + self.soon, 0.02), 0.4))
        self.others = 0.9 * self.others + random.gauss(0, 0.04)
        others = round(books.equity * script.minority * math.exp(self.others))
        floats = script.floating * (1 + 0.4 * (self.soon + self.swings[0]))
        lines |= {
            "cash": books.cash,
            "short_term_debt": soon,
            "long_term_debt": books.debt - soon,
            "floating_rate_debt": round(books.debt * min(floats, 1.0)),
            "current_assets": books.cash + books.stocks,
            "current_liabilities": books.payables + soon,
            "total_assets": books.cash + books.stocks + books.plant,
            "total_liabilities": books.payables + books.debt,
            "equity": books.equity - others,
        }
        if others:
            lines["minority_interest"] = others
        if books.preferred:
            lines["preferred_equity"] = books.preferred

    def _roll_financial(self, op: Operation, lines: Lines) -> None:
        """An assurer's or a bank's books: it lends or insures about eleven times its equity."""
        books, random = self.books, self.random
        lines["operating_cash_flow"] = round(lines["net_income"] * random.uniform(0.7, 1.5))
        lines["capital_expenditure"] = round(lines["revenue"] * random.uniform(0.002, 0.005))
        lines["buybacks"] = lines["share_issuance"] = 0
        books.equity += lines["net_income"] - lines["dividends_paid"]
        self.assets = 0.85 * self.assets + random.gauss(0, 0.018)
        thinner = books.equity / (op.plan.earned * books.shares * 8)
        assets = round(books.equity / thinner**0.3 * 11 * math.exp(self.assets))
        held = self.script.capital_ratio * thinner**0.22 * math.exp(-0.4 * self.assets)
        lines |= {
            "equity": books.equity,
            "total_assets": assets,
            "total_liabilities": assets - books.equity,
            "capital_ratio": round(held * RATIO_SCALE),
        }


def _without_cash(lines: Lines) -> int:
    """What stands in earnings and neither came in nor went out."""
    return (
        lines["depreciation_amortization"]
        + lines.get("stock_based_compensation", 0)
        + lines.get("impairments", 0)
        - lines.get("gains_on_property_sales", 0)
        - lines.get("straight_line_rent", 0)
    )
