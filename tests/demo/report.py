"""What the made-up world is like as a whole, read from its published rows alone.

`python -m tests.demo.report` prints it as it stands in docs/demo-world.md.
"""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date
from functools import cache
from itertools import combinations, pairwise
from statistics import median, quantiles
from typing import Any

import numpy as np

from hearth_yield.demo.cast import CAST
from hearth_yield.demo.indices import MARKET
from hearth_yield.demo.market import DAILY_FROM
from hearth_yield.demo.payments import split_ratio_after
from hearth_yield.demo.script import SLUMPS, TODAY

from .world import world

SCRIPTS = {s.symbol: s for s in CAST}
SLUMP_YEARS = (2001, 2002, 2008, 2009, 2019, 2020)
Row = Mapping[str, Any]


@cache
def of(table: str) -> dict[str, list[Row]]:
    found: dict[str, list[Row]] = defaultdict(list)
    for row in world()[table]:
        found[row["symbol"]].append(row)
    return found


@cache
def years(symbol: str) -> dict[int, Row]:
    """A payer's fiscal years as they stand in the end."""
    rows = sorted(of("statements")[symbol], key=lambda s: s["published_on"])
    return {s["period_end"].year: s for s in rows if s["span"] == "year"}


@cache
def line(symbol: str, name: str) -> dict[int, float]:
    """A line per share of today, by fiscal year."""
    return {
        y: s[name] / s["diluted_shares"] / split_ratio_after(SCRIPTS[symbol], s["published_on"])
        for y, s in years(symbol).items()
        if name in s
    }


@cache
def paid(symbol: str) -> dict[int, float]:
    """Regular dividends by the calendar year of their ex-date, per share of today."""
    found: dict[int, float] = defaultdict(float)
    for d in of("dividends")[symbol]:
        if d["kind"] == "regular":
            found[d["ex_date"].year] += d["amount"] / split_ratio_after(
                SCRIPTS[symbol], d["ex_date"]
            )
    return dict(found)


def changes_of_dividends() -> dict[int, tuple[int, int, int]]:
    """By year: payers that cut (a payment below nine tenths and a half of the one before, in any
    of its slots), held, raised."""
    found: dict[int, list[int]] = defaultdict(lambda: [0, 0, 0])
    for symbol, script in SCRIPTS.items():
        sums = paid(symbol)
        for year in range(1997, TODAY.year):
            before, now = sums.get(year - 1), sums.get(year, 0.0)
            if not before or (script.delisted and year >= script.delisted.year):
                continue
            if script.listed and year - 1 <= script.listed.year:
                continue
            kind = 0 if now < 0.995 * before else 2 if now > 1.005 * before else 1
            found[year][kind] += 1
    return {y: (c, h, r) for y, (c, h, r) in sorted(found.items())}


def share_cutting(inside: bool) -> float:
    counts = [v for y, v in changes_of_dividends().items() if (y in SLUMP_YEARS) is inside]
    return sum(c for c, _, _ in counts) / sum(sum(v) for v in counts)


def changes(symbol: str, name: str) -> list[float]:
    """Yearly changes of a line per share, where the year before was positive."""
    values = line(symbol, name)
    return [
        values[y] / values[y - 1] - 1
        for y in sorted(values)
        if y - 1 in values and values[y - 1] > 0
    ]


def companies() -> list[str]:
    return [s.symbol for s in CAST if s.kind == "company"]


def earnings_changes() -> list[float]:
    return [c for s in companies() for c in changes(s, "net_income")]


def autocorrelation() -> float:
    """Median over companies of the rank correlation of one year's change of earnings per share with
    the next year's."""
    found = []
    for symbol in companies():
        c = changes(symbol, "net_income")
        if len(c) > 12:
            ranks = np.argsort(np.argsort(c))
            found.append(float(np.corrcoef(ranks[:-1], ranks[1:])[0, 1]))
    return median(found)


@cache
def weekly(symbol: str) -> dict[date, float]:
    """Logarithmic weekly returns, Friday to Friday, splits taken out."""
    script = SCRIPTS[symbol]
    closes = [
        (p["day"], p["close"] / split_ratio_after(script, p["day"]))
        for p in of("prices")[symbol]
        if p["day"].weekday() == 4
    ]
    return {b[0]: float(np.log(b[1] / a[1])) for a, b in pairwise(closes)}


@cache
def daily_moves(symbol: str) -> dict[date, float]:
    """The sizes of logarithmic daily returns where closes follow each other by weekdays."""
    script = SCRIPTS[symbol]
    closes = [
        (p["day"], p["close"] / split_ratio_after(script, p["day"])) for p in of("prices")[symbol]
    ]
    return {
        b[0]: abs(float(np.log(b[1] / a[1]))) for a, b in pairwise(closes) if a[0] >= DAILY_FROM
    }


def result_days(symbol: str) -> set[date]:
    """The first trading days on or after those on which a quarter or a half was published."""
    days = sorted(daily_moves(symbol))
    told = {s["published_on"] for s in of("statements")[symbol] if s["span"] != "year"}
    return {days[bisect_left(days, d)] for d in told if days and days[0] <= d <= days[-1]}


def jumps_on_results() -> float:
    """How many times an ordinary day's move the typical one on a day of results is."""
    on: list[float] = []
    off: list[float] = []
    for symbol in SCRIPTS:
        told = result_days(symbol)
        for day, move in daily_moves(symbol).items():
            (on if day in told else off).append(move)
    return median(on) / median(off)


@cache
def index_returns() -> dict[date, float]:
    points = [
        (p["day"], p["value"])
        for p in world()["series_points"]
        if p["code"] == MARKET and p["day"].weekday() == 4
    ]
    return {b[0]: float(np.log(b[1] / a[1])) for a, b in pairwise(points)}


def volatility(returns: Iterable[float]) -> float:
    return float(np.std(list(returns)) * np.sqrt(52))


def kurtosis(returns: Sequence[float]) -> float:
    r = np.asarray(returns) - np.mean(returns)
    return float(np.mean(r**4) / np.mean(r**2) ** 2)


def worst_fall(returns: Mapping[date, float]) -> float:
    levels = np.exp(np.cumsum([returns[d] for d in sorted(returns)]))
    return float(np.min(levels / np.maximum.accumulate(levels) - 1))


def fall_in(slump: tuple[str, date, date, float]) -> float:
    inside = {d: r for d, r in index_returns().items() if slump[1] <= d <= slump[2]}
    return worst_fall(inside)


def correlations() -> tuple[float, float]:
    """Medians of weekly correlation within a trade and between trades."""
    inside, between = [], []
    for a, b in combinations(SCRIPTS, 2):
        ra, rb = weekly(a), weekly(b)
        both = sorted(ra.keys() & rb.keys())
        if len(both) > 500:
            c = float(np.corrcoef([ra[d] for d in both], [rb[d] for d in both])[0, 1])
            (inside if SCRIPTS[a].industry == SCRIPTS[b].industry else between).append(c)
    return median(inside), median(between)


def estimate_errors() -> dict[int, tuple[float, float]]:
    """By months before the fiscal year's end: median of (estimate − actual) ÷ |actual| of EPS, and
    of its size. Stories of payers always beaten, missed or halved are left out."""
    found: dict[int, list[float]] = defaultdict(list)
    for symbol in companies():
        if SCRIPTS[symbol].estimates != "usual" or SCRIPTS[symbol].warned:
            continue
        for e in of("estimates")[symbol]:
            year = years(symbol).get(e["fiscal_year"])
            if e["measure"] != "eps" or year is None:
                continue
            ratio = split_ratio_after(SCRIPTS[symbol], e["published_on"])
            there = split_ratio_after(SCRIPTS[symbol], year["published_on"])
            actual, mean = year["diluted_eps"] / there, e["mean"] / ratio
            months = round((date(e["fiscal_year"], 12, 31) - e["published_on"]).days / 30.4)
            if actual:
                found[months].append((mean - actual) / abs(actual))
    return {
        m: (median(v), median([abs(x) for x in v])) for m, v in sorted(found.items()) if len(v) > 60
    }


def payouts() -> list[float]:
    """Dividends ÷ earnings of the last three fiscal years together, of companies."""
    found = []
    for symbol in companies():
        last = [years(symbol)[y] for y in (2023, 2024, 2025) if y in years(symbol)]
        earned = sum(s["net_income"] for s in last)
        if last and earned > 0 and sum(s["dividends_paid"] for s in last):
            found.append(sum(s["dividends_paid"] for s in last) / earned)
    return found


def yields() -> list[float]:
    found = []
    for symbol, script in SCRIPTS.items():
        last = of("prices")[symbol][-1]
        rate = paid(symbol).get(2025, 0.0)
        if rate and not script.delisted and not script.listed:
            found.append(rate / last["close"])
    return found


def leverage() -> list[float]:
    """Net debt ÷ EBITDA, of companies, in the last fiscal year."""
    found = []
    for symbol in companies():
        s = years(symbol).get(2025)
        if s and s["ebit"] + s["depreciation_amortization"] > 0:
            owed = s["short_term_debt"] + s["long_term_debt"] - s["cash"]
            found.append(owed / (s["ebit"] + s["depreciation_amortization"]))
    return found


def depths_of_cuts() -> tuple[list[float], list[float]]:
    """By how much of the dividend of the year before was cut, of companies: those that owed more
    than twice EBITDA the year before, and the others."""
    deep, mild = [], []
    for symbol in companies():
        for year, sum_ in paid(symbol).items():
            before, s = paid(symbol).get(year - 1), years(symbol).get(year - 1)
            if not before or s is None or year >= TODAY.year or sum_ > 0.95 * before:
                continue
            owed = s["short_term_debt"] + s["long_term_debt"] - s["cash"]
            indebted = owed > 1.5 * (s["ebit"] + s["depreciation_amortization"])
            (deep if indebted else mild).append(1 - sum_ / before)
    return deep, mild


def worst_trade_in(slump: tuple[str, date, date, float]) -> str:
    """The industry whose payers fell most, from the slump's begin to its worst."""
    falls: dict[str, list[float]] = defaultdict(list)
    for symbol, script in SCRIPTS.items():
        inside = {d: r for d, r in weekly(symbol).items() if slump[1] <= d <= slump[2]}
        if inside:
            falls[script.industry].append(worst_fall(inside))
    return min(falls, key=lambda i: median(falls[i]))


def guidance_kept() -> tuple[int, int, int]:
    """Years whose EPS came in within what was guided in March or above; below; and years in which
    one who guides said nothing."""
    met = missed = silent = 0
    for symbol, script in SCRIPTS.items():
        if not script.guides or script.kind != "company":
            continue
        said = {g["fiscal_year"]: g for g in reversed(of("guidance")[symbol])}
        for year, s in years(symbol).items():
            if year < 2016:
                continue
            if year not in said:
                silent += 1
                continue
            now = split_ratio_after(script, s["published_on"])
            low = said[year]["low"] / split_ratio_after(script, said[year]["published_on"])
            met, missed = (met + 1, missed) if s["diluted_eps"] / now >= low else (met, missed + 1)
    return met, missed, silent


def unexplained(before: Row, now: Row) -> float:
    """What the published lines leave unexplained of a year's change of cash: paid for businesses,
    less what plant was sold for."""
    debt = sum(now[k] - before[k] for k in ("short_term_debt", "long_term_debt"))
    shown = (
        now["operating_cash_flow"]
        - now["capital_expenditure"]
        - now["dividends_paid"]
        - now["buybacks"]
        + now["share_issuance"]
        + debt
        + now.get("gains_on_property_sales", 0.0)
        - now.get("preferred_dividends", 0.0)
    )
    return float(shown - (now["cash"] - before["cash"]))


def lumps() -> dict[str, int]:
    """How often a year had one: a business bought, plant sold, shares issued or bought back by
    more than four per cent, a write-down."""
    found = dict.fromkeys(("acquired", "sold", "issued", "bought back", "written off"), 0)
    for symbol in SCRIPTS:
        for before, now in pairwise(years(symbol).values()):
            if "cash" not in now:
                continue
            bought = unexplained(before, now)
            found["acquired"] += bought > 0.05 * now["revenue"]
            found["sold"] += bought < -0.05 * now["revenue"]
            grown = now["shares_outstanding"] / before["shares_outstanding"] - 1
            found["issued"] += 0.04 < grown < 0.5
            found["bought back"] += -0.5 < grown < -0.04
            found["written off"] += now.get("impairments", 0.0) > 0
    return found


def loss_share() -> float:
    found = [s["net_income"] < 0 for c in companies() for s in years(c).values()]
    return sum(found) / len(found)


def per_cent(*shares: float, digits: int = 0) -> str:
    """As the documents write it: 46 %, or 32 · 44 · 58 %."""
    return " · ".join(f"{100 * s:.{digits}f}".replace("-", "−") for s in shares) + " %"


def plain(*values: float, digits: int = 2) -> str:
    return " · ".join(f"{v:.{digits}f}".replace("-", "−") for v in values)


def of_dividends() -> Iterator[tuple[str, str]]:
    counts = changes_of_dividends()
    usual = [r / (c + h + r) for y, (c, h, r) in counts.items() if y not in SLUMP_YEARS]
    worst = max(counts, key=lambda y: counts[y][0] / sum(counts[y]))
    share = counts[worst][0] / sum(counts[worst])
    deep, mild = (sum(d) / len(d) for d in depths_of_cuts())
    yield "payers that cut in a year, outside slumps", per_cent(share_cutting(False), digits=1)
    yield f"in the worst year, {worst}", per_cent(share)
    yield "payers that raise in an ordinary year", per_cent(median(usual))
    yield "depth of a cut, of indebted companies and of others", per_cent(deep, mild)


def of_accounts() -> Iterator[tuple[str, str]]:
    changes = earnings_changes()
    yield "payout of earnings over three years, quartiles", per_cent(*quantiles(payouts(), n=4))
    yield "dividend yield, quartiles", per_cent(*quantiles(yields(), n=4), digits=1)
    yield "net debt to EBITDA, quartiles", plain(*quantiles(leverage(), n=4), digits=1)
    yield "yearly change of net income per share, quartiles", per_cent(*quantiles(changes, n=4))
    yield "years in which it falls", per_cent(sum(c < 0 for c in changes) / len(changes))
    yield "years with a loss", per_cent(loss_share(), digits=1)
    yield "rank autocorrelation of these changes, median", plain(autocorrelation())


def of_prices() -> Iterator[tuple[str, str]]:
    own = [volatility(weekly(s).values()) for s in SCRIPTS]
    tails = median(kurtosis(list(weekly(s).values())) for s in SCRIPTS)
    falls = quantiles([worst_fall(weekly(s)) for s in SCRIPTS], n=4)
    yield "yearly volatility of a payer, quartiles", per_cent(*quantiles(own, n=4))
    yield "yearly volatility of the index", per_cent(volatility(index_returns().values()))
    yield "kurtosis of weekly returns, median (3 is a bell curve)", plain(tails, digits=1)
    yield "move on a day of results, ordinary days being 1", plain(jumps_on_results(), digits=1)
    yield "worst fall of a payer, quartiles", per_cent(*falls)
    yield "worst fall of the index in each slump", per_cent(*(fall_in(s) for s in SLUMPS))
    yield "weekly correlation, within a trade and between trades", plain(*correlations())


def of_expectations() -> Iterator[tuple[str, str]]:
    errors = estimate_errors()
    met, missed, silent = guidance_kept()
    for months in (24, 12, 6, min(errors)):
        off, size = errors[months]
        name = f"estimate of EPS less EPS, {months} months before the year ends, median and size"
        yield name, per_cent(off, size)
    yield "guidance met or beaten", per_cent(met / (met + missed))
    yield "years without any, of those who guide", str(silent)


def table() -> Iterator[tuple[str, str]]:
    """What is measured, and how it is here."""
    yield from of_dividends()
    yield from of_accounts()
    yield from of_prices()
    yield from of_expectations()


if __name__ == "__main__":
    for name, here in table():
        print(f"| {name} | {here} |")
