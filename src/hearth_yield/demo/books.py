"""Statements of the made-up payers: quarters that sum to years, balance sheets that balance.

The books roll forward quarter by quarter. All amounts are whole thousands, so that sums and
balances are exact; dividends paid are the payments of payments.py times the shares of the day.
What is left after dividends goes to buying shares back, then to debt, then into cash; a trust
puts it into property.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from random import Random

from .payments import Record, owner, split_ratio_after
from .script import Script, at

FIRST_QUARTERS = 2014
SEASONS = (0.235, 0.25, 0.25, 0.265)
CLOSING = timedelta(days=60)
"""Within which the books of a quarter are made and published."""
QUARTER_ENDS = ((3, 31), (6, 30), (9, 30), (12, 31))
TAX = 0.25
INTEREST = 0.045
STOCKS_TO_REVENUE = 0.16
PAYABLES_TO_REVENUE = 0.07
SHARE_PAY = 0.006
DRIVER_TO_REVENUE = {"property_trust": 0.45, "partnership": 0.30, "financial": 0.10}
BALANCES = frozenset(
    {
        "cash",
        "long_term_debt",
        "short_term_debt",
        "floating_rate_debt",
        "current_assets",
        "current_liabilities",
        "total_assets",
        "total_liabilities",
        "equity",
        "minority_interest",
        "preferred_equity",
        "shares",
    }
)
HELD_BACK = frozenset({"free", "shares"})
"""Lines of our own that no statement shows."""
Lines = dict[str, int]


@dataclass(slots=True)
class Books:
    """The balance sheet as it rolls forward, in thousands; shares in thousands of today's."""

    cash: int
    plant: int
    stocks: int
    payables: int
    debt: int
    equity: int
    shares: int


@dataclass(frozen=True, slots=True, kw_only=True)
class YearOfMoney:
    """What a year earns (its kind's leading measure), its free cash flow and its revenue."""

    earned: float
    free: float
    revenue: float
    preferred: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Quarter:
    end: date
    lines: Lines


def quarter_ends(first_year: int, script: Script) -> list[date]:
    """Quarter ends whose books are closed and published by the day the story is told to."""
    until = script.until
    days = [date(y, m, d) for y in range(first_year, until.year + 1) for m, d in QUARTER_ENDS]
    return [d for d in days if d <= min(script.last_day, until - CLOSING)]


def money_of(script: Script, shares: int, year: int) -> YearOfMoney:
    """Read backwards from the dividend: earnings = dividends ÷ payout, and so on, by the fortunes
    of the year; cash and revenue swing less than earnings do."""
    paid = script.earns_on(year) * shares
    planned = paid / at(script.payout, year)
    fortune = script.fortunes.get(year, 1.0)
    margin = DRIVER_TO_REVENUE.get(script.kind) or at(script.margin, year)
    return YearOfMoney(
        earned=planned * fortune,
        free=paid / at(script.cash_payout, year) * (1 - 0.7 * (1 - fortune)),
        revenue=planned / margin * (1 - 0.3 * (1 - fortune)),
        preferred=planned * script.preferred,
    )


def _opening(script: Script, first: YearOfMoney) -> Books:
    debt_share = at(script.debt, min(script.rate))
    held = 2.7 if script.kind == "property_trust" else 1.2
    plant_share = script.plant if script.plant is not None else 0.5 + held * debt_share
    cash, stocks, payables, plant, debt = (
        round(first.revenue * f)
        for f in (script.cash, STOCKS_TO_REVENUE, PAYABLES_TO_REVENUE, plant_share, debt_share)
    )
    equity = cash + stocks + plant - payables - debt
    if script.kind == "financial":
        equity = round(first.earned * 8)
    return Books(
        cash=cash,
        plant=plant,
        stocks=stocks,
        payables=payables,
        debt=debt,
        equity=equity,
        shares=round(script.shares),
    )


def quarters(
    script: Script,
    payments: Sequence[Record],
    closes: Mapping[date, float],
    first_year: int,
    random: Random,
) -> list[Quarter]:
    """Every quarter's lines, in thousands."""
    books = _opening(script, money_of(script, round(script.shares), first_year))
    days = list(closes)
    found, before = [], date(first_year, 1, 1) - timedelta(days=1)
    money = money_of(script, books.shares, first_year)
    for end in quarter_ends(first_year, script):
        if end.month == 3:
            money = money_of(script, books.shares, end.year)
        lines = _income(script, books, money, end, random)
        lines["dividends_paid"] = round(
            sum(
                p["amount"] / split_ratio_after(script, p["ex_date"]) * books.shares
                for p in payments
                if before < p["pay_date"] <= end
            )
        )
        close = closes[days[min(max(bisect_right(days, end) - 1, 0), len(days) - 1)]]
        if script.kind == "financial":
            _roll_financial(books, lines)
        else:
            _roll_forward(script, books, lines, money, end.year, close)
        lines["shares"] = books.shares
        found.append(Quarter(end=end, lines=lines))
        before = end
    return found


def _income(script: Script, books: Books, year: YearOfMoney, end: date, random: Random) -> Lines:
    """One quarter's income statement, and `free`: the free cash flow it is to come out at."""
    season = SEASONS[(end.month - 1) // 3]
    earned = round(year.earned * season * random.uniform(0.97, 1.03))
    revenue = round(year.revenue * season * random.uniform(0.99, 1.01))
    lines: Lines = {"revenue": revenue}
    lines["free"] = round(year.free * season * random.uniform(0.96, 1.04))
    if script.kind == "financial":
        return lines | {"net_income": earned}
    lines["depreciation_amortization"] = round(revenue * script.write_downs)
    lines["net_income"] = earned
    if script.kind == "partnership":
        lines["distributable_cash_flow"] = earned
        lines["net_income"] = round(earned * 0.72)
    if script.kind == "property_trust":
        lines |= _trust_income(earned, revenue)
    _one_offs(script, lines, year, end)
    income = lines["net_income"]
    lines["interest_expense"] = round(books.debt * INTEREST / 4)
    lines["tax"] = 0
    if script.kind == "company" and income > 0:
        lines["tax"] = round(income * TAX / (1 - TAX))
    lines["ebit"] = income + lines["tax"] + lines["interest_expense"]
    if script.kind != "property_trust":
        one_off = lines.get("gains_on_property_sales", 0) - lines.get("impairments", 0)
        lines["cost_of_revenue"] = round(revenue * at(script.cost_share, end.year))
        lines["operating_expenses"] = revenue - lines["cost_of_revenue"] - lines["ebit"] + one_off
    if script.kind == "company":
        lines["stock_based_compensation"] = round(revenue * SHARE_PAY)
    if script.preferred:
        lines["preferred_dividends"] = round(year.preferred / 4)
    return lines


def _one_offs(script: Script, lines: Lines, year: YearOfMoney, end: date) -> None:
    """A windfall comes in June, a write-down in December."""
    planned = abs(year.earned)
    if end.month == 6 and end.year in script.windfalls:
        gain = round(planned * (script.windfalls[end.year] - 1))
        lines["gains_on_property_sales"] = gain
        lines["net_income"] += gain
    if end.month == 12 and end.year in script.impairments:
        written_off = round(planned * script.impairments[end.year])
        lines["impairments"] = written_off
        lines["net_income"] -= written_off


def _trust_income(affo: int, revenue: int) -> Lines:
    capex, rent, written_down = (round(revenue * f) for f in (0.08, 0.01, 0.19))
    return {
        "recurring_capex": capex,
        "straight_line_rent": rent,
        "property_depreciation": written_down,
        "depreciation_amortization": written_down,
        "net_income": affo + capex + rent - written_down,
        "net_operating_income": round(revenue * 0.66),
    }


def _operating(books: Books, lines: Lines) -> None:
    """Operating cash flow, and capital expenditure: what is left between it and free cash flow."""
    written_down = lines["depreciation_amortization"]
    stocks = round(lines["revenue"] * 4 * STOCKS_TO_REVENUE)
    payables = round(lines["revenue"] * 4 * PAYABLES_TO_REVENUE)
    more_stocks = round((stocks - books.stocks) * 0.1)
    more_payables = round((payables - books.payables) * 0.1)
    without_cash = (
        written_down
        + lines.get("stock_based_compensation", 0)
        + lines.get("impairments", 0)
        - lines.get("gains_on_property_sales", 0)
        - lines.get("straight_line_rent", 0)
    )
    operating = lines["net_income"] + without_cash - more_stocks + more_payables
    capex = max(operating - lines["free"], round(0.3 * written_down))
    lines["operating_cash_flow"], lines["capital_expenditure"] = operating, capex
    books.stocks += more_stocks + lines.get("straight_line_rent", 0)
    books.payables += more_payables


def _roll_forward(
    script: Script, books: Books, lines: Lines, money: YearOfMoney, year: int, close: float
) -> None:
    """Cash flow and balance sheet of a quarter."""
    _operating(books, lines)
    issued = round(books.shares * at(script.issues, year) / 4)
    lines["share_issuance"] = round(issued * close)
    cash = (
        books.cash
        + lines["operating_cash_flow"]
        - lines["capital_expenditure"]
        + lines.get("gains_on_property_sales", 0)
        - lines["dividends_paid"]
        - lines.get("preferred_dividends", 0)
        + lines["share_issuance"]
    )
    target = round(money.revenue * at(script.debt, year))
    left = cash - round(money.revenue * script.cash) + target - books.debt
    if script.kind == "property_trust":
        more = max(left, -lines["capital_expenditure"])
        lines["capital_expenditure"] += more
        cash, left = cash - more, left - more
    written_down = lines["depreciation_amortization"]
    lines["maintenance_capex"] = min(lines["capital_expenditure"], round(0.8 * written_down))
    books.plant += lines["capital_expenditure"] - written_down - lines.get("impairments", 0)
    most = books.shares * close * at(script.buys_back, year) / 4
    bought = round(min(max(left, 0), most) / close) if script.kind == "company" else 0
    lines["buybacks"] = round(bought * close)
    debt = max(target - (left - lines["buybacks"]), 0)
    books.cash = cash - lines["buybacks"] + debt - books.debt
    books.debt = debt
    books.shares += issued - bought
    books.equity += (
        lines["net_income"]
        + lines.get("stock_based_compensation", 0)
        - lines["dividends_paid"]
        - lines.get("preferred_dividends", 0)
        - lines["buybacks"]
        + lines["share_issuance"]
    )
    _balance(script, books, lines)


def _balance(script: Script, books: Books, lines: Lines) -> None:
    soon, others = round(books.debt * 0.12), round(books.equity * script.minority)
    lines |= {
        "cash": books.cash,
        "short_term_debt": soon,
        "long_term_debt": books.debt - soon,
        "floating_rate_debt": round(books.debt * script.floating),
        "current_assets": books.cash + books.stocks,
        "current_liabilities": books.payables + soon,
        "total_assets": books.cash + books.stocks + books.plant,
        "total_liabilities": books.payables + books.debt,
        "equity": books.equity - others,
    }
    if others:
        lines["minority_interest"] = others
    if script.preferred:
        lines["preferred_equity"] = round(lines["preferred_dividends"] * 4 / 0.06)


def _roll_financial(books: Books, lines: Lines) -> None:
    """An assurer's or a bank's books: assets eleven times equity."""
    lines["operating_cash_flow"] = round(lines["net_income"] * 1.08)
    lines["capital_expenditure"] = round(abs(lines["net_income"]) * 0.03)
    lines["buybacks"] = lines["share_issuance"] = 0
    books.equity += lines["net_income"] - lines["dividends_paid"]
    lines |= {
        "equity": books.equity,
        "total_assets": books.equity * 11,
        "total_liabilities": books.equity * 10,
    }


def year_of(parts: Sequence[Quarter]) -> Lines:
    """Quarters as one period: flows summed, balances of the last."""
    names = {name for q in parts for name in q.lines}
    return {
        n: parts[-1].lines.get(n, 0) if n in BALANCES else sum(q.lines.get(n, 0) for q in parts)
        for n in names
    }


def statements(script: Script, books: Sequence[Quarter], random: Random) -> list[Record]:
    """Years throughout, quarters or halves from FIRST_QUARTERS, each with the day it was
    published; restated years stand twice."""
    records: list[Record] = []
    step = 2 if script.reports == "half" else 1
    for i, quarter in enumerate(books):
        end = quarter.end
        published = end + timedelta(days=38 + random.randrange(6))
        full = end + timedelta(days=50 + random.randrange(9))
        part = books[i + 1 - step : i + 1]
        if end.year >= FIRST_QUARTERS and len(part) == step and end.month % (3 * step) == 0:
            span = "half" if step == 2 else "quarter"
            records += _versions(script, end, span, published, year_of(part), full)
        if end.month == 12 and i >= 3:
            records += _versions(script, end, "year", full, year_of(books[i - 3 : i + 1]), full)
    return [r for r in records if _is_public(script, r)]


def _versions(
    script: Script, end: date, span: str, published: date, lines: Lines, full: date
) -> list[Record]:
    """As first published and, where a year was overstated, as restated with the year after."""
    if end in script.missing and span == "quarter":
        return []
    share = script.overstated.get(end.year)
    if share is None:
        return [_record(script, end, span, published, lines)]
    more = round(lines["net_income"] * share)
    raised = ("revenue", "ebit", "net_income", "current_assets", "total_assets", "equity")
    first = lines | {n: lines[n] + more for n in raised}
    restated = date(end.year + 2, 2, 22)
    return [
        _record(script, end, span, published, first),
        _record(script, end, span, max(restated, full), lines),
    ]


def _is_public(script: Script, record: Record) -> bool:
    """A newcomer shows two years in its prospectus, and quarters from then on."""
    if record["published_on"] > script.last_day:
        return False
    if script.listed is None:
        return True
    record["published_on"] = max(record["published_on"], script.listed)
    if record["span"] == "year":
        return bool(record["period_end"].year >= script.listed.year - 2)
    return bool(record["period_end"] > script.listed)


def _record(script: Script, end: date, span: str, published: date, lines: Lines) -> Record:
    """Thousands into single units; share counts and EPS in the shares of the publication day."""
    stated = round(lines["shares"] * 1000 / split_ratio_after(script, published))
    shown = {k: float(v) * 1000 for k, v in lines.items() if k not in HELD_BACK}
    if script.kind == "financial":
        shown["capital_ratio"] = round(script.capital_ratio + 0.002 * (end.year % 5), 4)
    if script.kind == "property_trust":
        shown["occupancy"] = round(0.955 + 0.004 * (end.year % 6), 4)
    period = {"period_end": end, "span": span, "published_on": published}
    return (
        owner(script)
        | period
        | {"currency": script.land.currency}
        | shown
        | {
            "diluted_shares": float(stated),
            "shares_outstanding": float(stated),
            "diluted_eps": round(lines["net_income"] * 1000 / stated, 4),
        }
    )
