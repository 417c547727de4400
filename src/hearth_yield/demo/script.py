"""What a payer's story is written in. Every name and figure of the made-up world is invented."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date

from .trades import TRADES, Quarters

TODAY = date(2026, 6, 30)
FIRST_YEAR = 1996
LAST_YEAR = 2025
YEARS = range(FIRST_YEAR, TODAY.year + 5)
"""Four years past the demo's day: what the stories plan."""
SLOWING = (0.35, 0.65)
"""What boards still raise by in the last two years before they stop raising, of what they did."""

Path = Mapping[int, float]


def path(start: float, steps: Path) -> dict[int, float]:
    """A yearly path: `start` in the first year, then growing at the newest step's rate, more slowly
    in the years before it stops."""
    rates, rate = {}, 0.0
    for year in YEARS:
        rate = steps.get(year, rate)
        rates[year] = rate
    found, value = {}, start
    for year in YEARS:
        if year > FIRST_YEAR:
            slowed = next(
                (s for n, s in enumerate(SLOWING, 1) if rates.get(year + n, rates[year]) <= 0), 1.0
            )
            value *= 1 + rates[year] * (slowed if rates[year] > 0 else 1.0)
        found[year] = value
    return found


def levels(steps: Path) -> dict[int, float]:
    """A yearly path that moves in a straight line between the named years."""
    known = sorted(steps)
    found = {}
    for year in YEARS:
        after = next((k for k in known if k >= year), known[-1])
        before = next((k for k in reversed(known) if k <= year), known[0])
        share = 0.0 if after == before else (year - before) / (after - before)
        found[year] = steps[before] + share * (steps[after] - steps[before])
    return found


def at(value: float | Path, year: int) -> float:
    """A figure that is the same in every year, or has a path."""
    return value if isinstance(value, int | float) else value[year]


@dataclass(frozen=True, slots=True)
class Land:
    """A country with its exchange, its currency and its prices. inflation: by year; isin: how its
    ISINs begin, with letters that ISO leaves to whoever wants them."""

    name: str
    exchange: str
    currency: str
    index_code: str
    index_name: str
    inflation: Path
    risk_free: Path
    aaa_spread: float
    withholding: float
    isin: str


ISLES = Land(
    "Sundrey Isles",
    "ELV",
    "TLL",
    "SUNDREY-PRICES",
    "Sundrey Isles price index",
    levels(
        {
            1996: 0.031,
            2001: 0.024,
            2006: 0.029,
            2009: 0.011,
            2013: 0.019,
            2019: 0.014,
            2021: 0.026,
            2022: 0.061,
            2023: 0.052,
            2024: 0.031,
            2026: 0.022,
        }
    ),
    levels(
        {1996: 0.062, 2003: 0.041, 2007: 0.046, 2012: 0.019, 2020: 0.006, 2023: 0.038, 2026: 0.031}
    ),
    0.011,
    0.0,
    "QS",
)
THORNMARK = Land(
    "Thornmark",
    "RKM",
    "THK",
    "THORNMARK-PRICES",
    "Thornmark consumer prices",
    levels(
        {
            1996: 0.022,
            2003: 0.015,
            2008: 0.026,
            2014: 0.006,
            2020: 0.004,
            2022: 0.074,
            2023: 0.058,
            2025: 0.024,
        }
    ),
    levels({1996: 0.051, 2005: 0.033, 2012: 0.011, 2020: -0.003, 2023: 0.024, 2026: 0.022}),
    0.009,
    0.15,
    "QT",
)
LANDS = (ISLES, THORNMARK)


@dataclass(frozen=True, slots=True, kw_only=True)
class Script:
    """One payer's story. A figure that may change over the years takes a path.

    rate: regular dividends per share that the board means to pay for each calendar year, in the
        shares of today.
    worth_rate, earns_rate: the yearly dividend the market prices the payer on, and that its results
        are planned on; by default the rate itself.
    payout, cash_payout: share of planned earnings (for a trust or partnership: of AFFO or
        distributable cash) and of planned free cash flow that the dividend takes.
    holds: chance that the board holds a raise back in an ordinary year.
    months: ex-date months; weights: how a year's dividend divides among them. changed: the year
        from which it pays in other months, those months and their weights.
    temper: how much it takes the swings of its trade, and has of its own; 1 is the trade's.
    seasons: share of a year's revenue by quarter, where it is not the trade's.
    fortunes: by what a year's earnings and cash are above or below the plan, 1 being the plan;
        warned: the day from which analysts know of those of its year and later.
    windfalls, impairments: a year's one-off gain or write-down, as a multiple of its earnings.
    debt, cash, plant: in years of revenue; debt is what the payer means to owe.
    arrears: share of what earnings are above free cash flow that customers owe, not plant takes.
    acquires: whether it buys businesses when its plant runs low.
    buys_back: most of its shares it buys in an ordinary year, out of what is left; issues: new
        shares or units a year, sold in lumps.
    splits: (day, new shares, old shares). cut: (declared, first lower ex-date, by how much).
    suspended: (stopped, resumed). specials, capital_returns: amount per share by year;
        special_month: in which specials go ex, with the regular dividend if there is one.
    credit: (credited fraction, tax rate behind it). reports: quarter or half.
    overstated: by what a fiscal year's profit was first published above what was then restated.
    missing: quarter ends whose statements are not to be had.
    segments, regions, tenants: share of revenue or rent. ratings: (day, rating).
    analysts: how many; estimates: how they turn out; guides: the company says what it expects.
    until: the day the story is told to.
    """

    symbol: str
    name: str
    kind: str
    industry: str
    description: str
    shares: float
    rate: Path
    payout: float | Path
    cash_payout: float | Path
    base_yield: float | Path
    land: Land = ISLES
    worth_rate: Path | None = None
    earns_rate: Path | None = None
    pays: bool = True
    holds: float = 0.14
    months: tuple[int, ...] = (3, 6, 9, 12)
    weights: tuple[float, ...] = (0.25, 0.25, 0.25, 0.25)
    changed: tuple[int, tuple[int, ...], tuple[float, ...]] | None = None
    temper: float = 1.0
    seasons: Quarters | None = None
    stated_rhythm: bool = False
    listed: date | None = None
    delisted: date | None = None
    margin: float | Path = 0.12
    cost_share: float | Path = 0.52
    write_downs: float = 0.05
    fortunes: Path = field(default_factory=dict)
    warned: date | None = None
    windfalls: Path = field(default_factory=dict)
    impairments: Path = field(default_factory=dict)
    debt: float | Path = 0.5
    cash: float = 0.08
    plant: float | None = None
    floating: float = 0.25
    arrears: float = 0.0
    acquires: bool = True
    buys_back: float | Path = 0.024
    issues: float | Path = 0.0
    preferred: float = 0.0
    minority: float = 0.0
    capital_ratio: float = 0.142
    beta: float = 1.0
    splits: tuple[tuple[date, float, float], ...] = ()
    suspended: tuple[date, date] | None = None
    cut: tuple[date, date, float] | None = None
    specials: Path = field(default_factory=dict)
    special_month: int = 10
    capital_returns: Path = field(default_factory=dict)
    credit: tuple[float, float] | None = None
    reports: str = "quarter"
    overstated: Path = field(default_factory=dict)
    missing: tuple[date, ...] = ()
    segments: tuple[tuple[str, float], ...] = ()
    regions: tuple[tuple[str, float], ...] = ()
    tenants: tuple[tuple[str, float], ...] = ()
    ratings: tuple[tuple[date, str], ...] = ()
    ownership: float = 0.55
    analysts: int = 5
    estimates: str = "usual"
    guides: bool = False
    until: date = TODAY

    @property
    def sector(self) -> str:
        return TRADES[self.industry].sector

    @property
    def last_day(self) -> date:
        return min(self.delisted or self.until, self.until)

    def pays_in(self, year: int) -> tuple[tuple[int, ...], tuple[float, ...]]:
        """Ex-date months of a year, and how the year's dividend divides among them."""
        if self.changed is not None and year >= self.changed[0]:
            return self.changed[1], self.changed[2]
        return self.months, self.weights

    def earns_on(self, year: int) -> float:
        """The dividend that a year's results are planned on."""
        return (self.earns_rate or self.rate)[year]


NOTHING: dict[int, float] = dict.fromkeys(YEARS, 0.0)

SLUMPS = (
    ("The lantern slump", date(2001, 5, 7), date(2002, 9, 30), 0.34),
    ("The herring slump", date(2008, 3, 3), date(2009, 6, 30), 0.42),
    ("The breakwater slump", date(2019, 2, 4), date(2020, 3, 31), 0.38),
)
"""Name, begin, end, and how much of its value the market lost at the worst."""
