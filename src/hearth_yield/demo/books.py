"""Statements of the made-up payers: quarters that sum to years, balance sheets that balance.

All amounts are whole thousands, so that sums and balances are exact; dividends paid are the
payments of payments.py times the shares of the day.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from random import Random

from .payments import Record, owner, split_ratio_after
from .scripts import CURRENCY, FIRST_YEAR, LAST_YEAR, Script

SEASONS = (0.235, 0.25, 0.25, 0.265)
QUARTER_ENDS = ((3, 31), (6, 30), (9, 30), (12, 31))
TAX = 0.25
INTEREST = 0.045
CASH_TO_REVENUE = 0.08
STOCKS_TO_REVENUE = 0.16
PAYABLES_TO_REVENUE = 0.07
DRIVER_TO_REVENUE = {"property_trust": 0.45, "partnership": 0.30, "financial": 0.10}
BALANCES = frozenset(
    {
        "cash", "long_term_debt", "short_term_debt", "current_assets", "current_liabilities",
        "total_assets", "total_liabilities", "equity",
    }
)  # fmt: skip
Lines = dict[str, int]


@dataclass(slots=True)
class Books:
    """The balance sheet as it rolls forward, in thousands."""

    cash: int
    plant: int
    stocks: int
    payables: int
    debt: int
    equity: int


@dataclass(frozen=True, slots=True, kw_only=True)
class YearOfMoney:
    """What a year earns (its kind's leading measure), its free cash flow and its revenue."""

    earned: float
    free: float
    revenue: float


def quarter_ends() -> list[date]:
    days = [date(y, m, d) for y in range(FIRST_YEAR, LAST_YEAR + 1) for m, d in QUARTER_ENDS]
    return [*days, date(LAST_YEAR + 1, 3, 31)]


def share_counts(script: Script) -> dict[date, int]:
    """Shares in thousands at each quarter end, in today's shares."""
    ends = quarter_ends()
    return {
        end: round(script.shares * (1 + script.share_growth / 4) ** (i + 1))
        for i, end in enumerate(ends)
    }


def _money(script: Script, shares: dict[date, int], year: int) -> YearOfMoney:
    """Read backwards from the dividend: earnings = dividends ÷ payout, and so on."""
    rates = script.rate if script.pays else (script.worth_rate or script.rate)
    paid = rates[year] * shares[date(min(year, LAST_YEAR), 12, 31)]
    earned = paid / script.payout[year]
    margin = DRIVER_TO_REVENUE.get(script.kind, script.margin)
    return YearOfMoney(earned=earned, free=paid / script.cash_payout[year], revenue=earned / margin)


def _opening(script: Script, first: YearOfMoney) -> Books:
    cash, stocks, payables, plant, debt = (
        round(first.revenue * f)
        for f in (
            CASH_TO_REVENUE, STOCKS_TO_REVENUE, PAYABLES_TO_REVENUE,
            1 + 1.8 * script.debt_to_revenue, script.debt_to_revenue,
        )
    )  # fmt: skip
    equity = cash + stocks + plant - payables - debt
    if script.kind == "financial":
        equity = round(first.earned * 8)
    return Books(cash=cash, plant=plant, stocks=stocks, payables=payables, debt=debt, equity=equity)


def _dividends_by_quarter(
    script: Script, payments: Sequence[Record], shares: dict[date, int]
) -> dict[date, int]:
    """What was paid in each quarter: amount × the shares of the last quarter end, by pay date."""
    ends = list(shares)
    found = dict.fromkeys(ends, 0.0)
    for p in payments:
        i = bisect_right(ends, p["pay_date"] - timedelta(days=1))
        if i < len(ends):
            per_share = p["amount"] / split_ratio_after(script, p["ex_date"])
            found[ends[i]] += per_share * shares[ends[max(i - 1, 0)]]
    return {end: round(amount) for end, amount in found.items()}


def statements(
    script: Script, payments: Sequence[Record], closes: dict[date, float], random: Random
) -> list[Record]:
    """Quarterly and yearly statements with the day each was published."""
    shares = share_counts(script)
    paid = _dividends_by_quarter(script, payments, shares)
    books = _opening(script, _money(script, shares, FIRST_YEAR))
    days = list(closes)
    records: list[Record] = []
    quarters: list[Lines] = []
    before = round(script.shares)
    for end in quarter_ends():
        lines = _income(script, books, _money(script, shares, end.year), end, random)
        lines["dividends_paid"] = paid[end]
        close = closes[days[max(bisect_right(days, end) - 1, 0)]]
        _share_moves(lines, before, shares[end], close)
        if script.kind == "financial":
            _roll_financial(books, lines)
        else:
            _roll_forward(script, books, lines)
        before = shares[end]
        quarters.append(lines)
        published = end + timedelta(days=38 + random.randrange(6))
        records.append(_record(script, end, "quarter", published, lines, shares[end]))
        if end.month == 12:
            published = end + timedelta(days=50 + random.randrange(9))
            records.append(
                _record(script, end, "year", published, _year_of(quarters[-4:]), shares[end])
            )
    return [r for r in records if _is_public(script, r)]


def _is_public(script: Script, record: Record) -> bool:
    """A newcomer shows two years in its prospectus, and quarters from then on."""
    if script.listed is None:
        return True
    record["published_on"] = max(record["published_on"], script.listed)
    if record["span"] == "year":
        return bool(record["period_end"].year >= script.listed.year - 2)
    return bool(record["period_end"] > script.listed)


def _income(script: Script, books: Books, year: YearOfMoney, end: date, random: Random) -> Lines:
    """One quarter's income statement, and `free`: the free cash flow it is to come out at."""
    season = SEASONS[(end.month - 1) // 3]
    earned = round(year.earned * season * random.uniform(0.97, 1.03))
    revenue = round(year.revenue * season * random.uniform(0.99, 1.01))
    lines: Lines = {"revenue": revenue, "gain": 0}
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
    if end.month == 6 and end.year in script.windfalls:
        lines["gain"] = round(year.earned * (script.windfalls[end.year] - 1))
        lines["net_income"] += lines["gain"]
    income = lines["net_income"]
    lines["interest_expense"] = round(books.debt * INTEREST / 4)
    lines["tax"] = 0
    if script.kind == "company" and income > 0:
        lines["tax"] = round(income * TAX / (1 - TAX))
    lines["ebit"] = income + lines["tax"] + lines["interest_expense"]
    if script.kind != "property_trust":
        lines["cost_of_revenue"] = round(revenue * 0.52)
        lines["operating_expenses"] = (
            revenue - lines["cost_of_revenue"] - lines["ebit"] + lines["gain"]
        )
    return lines


def _trust_income(affo: int, revenue: int) -> Lines:
    capex, rent, written_down = (round(revenue * f) for f in (0.08, 0.01, 0.27))
    return {
        "recurring_capex": capex,
        "straight_line_rent": rent,
        "property_depreciation": written_down,
        "depreciation_amortization": written_down,
        "net_income": affo + capex + rent - written_down,
        "net_operating_income": round(revenue * 0.66),
    }


def _share_moves(lines: Lines, before: int, now: int, close: float) -> None:
    lines["buybacks"] = round(max(before - now, 0) * close)
    lines["share_issuance"] = round(max(now - before, 0) * close)


def _roll_forward(script: Script, books: Books, lines: Lines) -> None:
    """Cash flow and balance sheet of a quarter. Capital expenditure is what is left between
    operating and free cash flow; where that would be far above depreciation, half of the rest
    goes into stocks and unpaid bills instead."""
    written_down = lines["depreciation_amortization"]
    stocks = round(lines["revenue"] * 4 * STOCKS_TO_REVENUE)
    payables = round(lines["revenue"] * 4 * PAYABLES_TO_REVENUE)
    more_stocks = round((stocks - books.stocks) * 0.1)
    more_payables = round((payables - books.payables) * 0.1)
    operating = (
        lines["net_income"] - lines["gain"] + written_down - more_stocks + more_payables
    ) - lines.get("straight_line_rent", 0)
    capex = operating - lines["free"]
    if script.kind == "company" and capex > 1.4 * written_down:
        shift = round((capex - 1.4 * written_down) / 2)
        more_stocks, operating, capex = more_stocks + shift, operating - shift, capex - shift
    capex = max(capex, round(0.3 * written_down))
    lines["operating_cash_flow"], lines["capital_expenditure"] = operating, capex
    books.stocks += more_stocks + lines.get("straight_line_rent", 0)
    books.payables += more_payables
    books.plant += capex - written_down
    books.equity += (
        lines["net_income"] - lines["dividends_paid"] - lines["buybacks"] + lines["share_issuance"]
    )
    cash = (
        books.cash + operating - capex + lines["gain"] - lines["dividends_paid"]
        - lines["buybacks"] + lines["share_issuance"]
    )  # fmt: skip
    wanted = round(lines["revenue"] * 4 * CASH_TO_REVENUE)
    borrowed = max(wanted - cash, -books.debt)
    books.debt += borrowed
    books.cash = cash + borrowed
    soon = round(books.debt * 0.12)
    lines |= {
        "cash": books.cash,
        "short_term_debt": soon,
        "long_term_debt": books.debt - soon,
        "current_assets": books.cash + books.stocks,
        "current_liabilities": books.payables + soon,
        "total_assets": books.cash + books.stocks + books.plant,
        "total_liabilities": books.payables + books.debt,
        "equity": books.equity,
    }


def _roll_financial(books: Books, lines: Lines) -> None:
    """An assurer's books: assets eleven times equity."""
    lines["operating_cash_flow"] = round(lines["net_income"] * 1.08)
    lines["capital_expenditure"] = round(lines["net_income"] * 0.03)
    books.equity += (
        lines["net_income"] - lines["dividends_paid"] - lines["buybacks"] + lines["share_issuance"]
    )
    lines |= {
        "equity": books.equity,
        "total_assets": books.equity * 11,
        "total_liabilities": books.equity * 10,
    }


def _year_of(quarters: Sequence[Lines]) -> Lines:
    names = {name for q in quarters for name in q}
    return {
        n: quarters[-1].get(n, 0) if n in BALANCES else sum(q.get(n, 0) for q in quarters)
        for n in names
    }


def _record(
    script: Script, end: date, span: str, published: date, lines: Lines, shares: int
) -> Record:
    """Thousands into single units; share counts and EPS in the shares of the publication day."""
    ratio = split_ratio_after(script, published)
    stated = round(shares * 1000 / ratio)
    shown = {k: float(v) * 1000 for k, v in lines.items() if k not in ("gain", "free")}
    if lines["gain"]:
        shown["gains_on_property_sales"] = lines["gain"] * 1000.0
    if script.kind == "financial":
        shown["capital_ratio"] = round(0.142 + 0.002 * (end.year % 5), 4)
    if script.kind == "property_trust":
        shown["occupancy"] = round(0.955 + 0.004 * (end.year % 6), 4)
    return (
        owner(script)
        | {"period_end": end, "span": span, "published_on": published, "currency": CURRENCY}
        | shown
        | {
            "diluted_shares": float(stated),
            "shares_outstanding": float(stated),
            "diluted_eps": round(lines["net_income"] * 1000 / stated, 4),
        }
    )
