"""Who the twelve payers are and what happens to them. Every name and figure is invented."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date

TODAY = date(2026, 6, 30)
FIRST_YEAR = 2001
LAST_YEAR = 2025
EXCHANGE = "ELV"
CURRENCY = "TLL"
COUNTRY = "Sundrey Isles"
YEARS = range(FIRST_YEAR, TODAY.year + 1)

Path = Mapping[int, float]


def path(start: float, steps: Mapping[int, float]) -> dict[int, float]:
    """A yearly path: `start` in the first year, then growing at the newest step's rate."""
    found, rate, value = {}, 0.0, start
    for year in YEARS:
        rate = steps.get(year, rate)
        value = value * (1 + rate) if year > FIRST_YEAR else value
        found[year] = value
    return found


def levels(steps: Mapping[int, float]) -> dict[int, float]:
    """A yearly path that moves in a straight line between the named years."""
    known = sorted(steps)
    found = {}
    for year in YEARS:
        after = next((k for k in known if k >= year), known[-1])
        before = next((k for k in reversed(known) if k <= year), known[0])
        share = 0.0 if after == before else (year - before) / (after - before)
        found[year] = steps[before] + share * (steps[after] - steps[before])
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class Script:
    """One payer's story.

    rate: regular dividends per share for each calendar year, in the shares of today.
    worth_rate: the yearly dividend the market prices the payer on; by default the rate itself.
    payout, cash_payout: share of earnings (for a trust or partnership: of AFFO or distributable
        cash) and of free cash flow that the dividend takes.
    fortunes: by what a year's earnings and cash were above or below the script's plan.
    windfalls: a year's earnings with a one-off gain, as a multiple of the plan.
    months: ex-date months; weights: how a year's dividend divides among them.
    """

    symbol: str
    name: str
    kind: str
    sector: str
    industry: str
    description: str
    shares: float
    rate: Path
    payout: Path
    cash_payout: Path
    base_yield: float
    worth_rate: Path | None = None
    months: tuple[int, ...] = (3, 6, 9, 12)
    weights: tuple[float, ...] = (0.25, 0.25, 0.25, 0.25)
    stated_rhythm: bool = False
    listed: date | None = None
    margin: float = 0.12
    write_downs: float = 0.05
    beta: float = 1.0
    share_growth: float = -0.005
    debt_to_revenue: float = 0.5
    fortunes: Path = field(default_factory=dict)
    windfalls: Path = field(default_factory=dict)
    split: tuple[date, int] | None = None
    suspended: tuple[date, date] | None = None
    cut: tuple[date, date, float] | None = None
    pays: bool = True


NOTHING: dict[int, float] = dict.fromkeys(YEARS, 0.0)

SCRIPTS: tuple[Script, ...] = (
    Script(
        symbol="TRS", name="Tallow & Reed Soapworks", kind="company",
        sector="Household goods", industry="Soaps and cleaners",
        description="Soap, candles and laundry goods sold in every harbour of the isles.",
        shares=84_000, rate=path(0.36, {2002: 0.085, 2009: 0.05, 2012: 0.075, 2020: 0.06}),
        payout=levels({2001: 0.44, 2015: 0.50, 2026: 0.53}),
        cash_payout=levels({2001: 0.46, 2010: 0.49, 2026: 0.54}),
        base_yield=0.031, beta=0.6, share_growth=-0.012, margin=0.13, debt_to_revenue=0.35,
    ),
    Script(
        symbol="SKW", name="Skerry Water", kind="company",
        sector="Utilities", industry="Water utility",
        description="Reservoirs and mains on the three larger islands, under a price licence.",
        shares=120_000, rate=path(0.78, {2002: 0.03, 2009: 0.0}),
        payout=levels({2001: 0.58, 2014: 0.64, 2026: 0.72}),
        cash_payout=levels({2001: 0.70, 2014: 0.78, 2026: 0.88}),
        base_yield=0.052, beta=0.4, share_growth=0.0, margin=0.16, write_downs=0.16,
        debt_to_revenue=1.5,
        worth_rate=path(0.78, {2002: 0.03, 2009: 0.004}),
    ),
    Script(
        symbol="GWK", name="Greywake Kilns", kind="company",
        sector="Materials", industry="Bricks and tiles",
        description="Brick, tile and kiln furniture from the clay banks of Greywake.",
        shares=61_000, rate=path(0.62, {2002: 0.06, 2009: 0.02, 2012: 0.05, 2019: 0.0}),
        payout=levels({2001: 0.42, 2016: 0.55, 2021: 0.78, 2024: 0.95, 2026: 1.15}),
        cash_payout=levels({2001: 0.48, 2016: 0.60, 2021: 0.92, 2024: 1.12, 2026: 1.35}),
        worth_rate=path(0.62, {2002: 0.06, 2009: 0.02, 2012: 0.05, 2018: -0.01, 2020: -0.055}),
        fortunes={2008: 0.8, 2009: 0.7, 2019: 0.75},
        base_yield=0.046, beta=1.3, share_growth=0.002, margin=0.09, debt_to_revenue=0.7,
        cut=(date(2026, 5, 20), date(2026, 7, 10), 0.45), months=(1, 4, 7, 10),
    ),
    Script(
        symbol="MRB", name="Marlpit Broadcasting", kind="company",
        sector="Media", industry="Broadcasting",
        description="Two wireless stations and a printing house; subscriptions paid in arrears.",
        shares=45_000, rate=path(0.50, {2002: 0.05, 2010: 0.045, 2020: 0.03}),
        payout=levels({2001: 0.46, 2026: 0.49}),
        cash_payout=levels({2001: 0.50, 2018: 0.54, 2021: 0.68, 2023: 0.86, 2025: 1.08, 2026: 1.2}),
        worth_rate=path(0.50, {2002: 0.05, 2010: 0.045, 2020: 0.01, 2023: -0.03}),
        base_yield=0.041, beta=1.1, margin=0.14, share_growth=-0.01,
    ),
    Script(
        symbol="FND", name="Fennimore Dyes", kind="company",
        sector="Materials", industry="Dyes and pigments",
        description="Dyestuffs and inks; sold its harbour warehouses for a fortune in 2021.",
        shares=38_000, rate=path(0.44, {2002: 0.06, 2009: 0.0, 2011: 0.055, 2021: 0.065}),
        payout=levels({2001: 0.48, 2026: 0.47}), cash_payout=levels({2001: 0.47, 2026: 0.50}),
        fortunes={2009: 0.75, 2019: 0.85},
        base_yield=0.034, beta=0.9, windfalls={2021: 2.6}, margin=0.11,
    ),
    Script(
        symbol="OPT", name="Osprey Point Tools", kind="company",
        sector="Industrials", industry="Hand tools",
        description="Hand tools and ship's fittings, forged at Osprey Point since the old pier.",
        shares=150_000, rate=path(0.09, {2002: 0.10, 2009: 0.03, 2011: 0.13, 2021: 0.10}),
        payout=levels({2001: 0.28, 2026: 0.34}), cash_payout=levels({2001: 0.31, 2026: 0.37}),
        fortunes={2009: 0.65, 2019: 0.8},
        base_yield=0.019, beta=1.0, split=(date(2012, 5, 14), 3), margin=0.15,
        share_growth=-0.02, debt_to_revenue=0.15,
    ),
    Script(
        symbol="PLG",
        name="Saint Orrin’s Bay and Outer Skerries Provident Assurance Society",
        kind="financial", sector="Financials", industry="Life and marine assurance",
        description="Life, marine and harbour assurance; pays a small interim and a large final.",
        shares=210_000,
        rate=path(0.40, {2002: 0.05, 2009: 0.0, 2011: 0.06, 2019: 0.02, 2021: 0.05}),
        payout=levels({2001: 0.44, 2026: 0.50}), cash_payout=levels({2001: 0.40, 2026: 0.45}),
        base_yield=0.044, beta=1.2, months=(4, 9), weights=(0.65, 0.35), share_growth=0.0,
    ),
    Script(
        symbol="CRF", name="Corrie Ferries", kind="company",
        sector="Transport", industry="Ferries",
        description="Passenger and cattle ferries; laid up half its boats in the slump.",
        shares=52_000,
        rate=path(0.52, {2002: 0.04, 2010: 0.03, 2021: -0.55, 2022: 0.12, 2024: 0.08}),
        fortunes={2008: 0.7, 2009: 0.6, 2018: 0.7, 2019: -0.25, 2020: -0.35, 2021: 0.5},
        worth_rate=path(0.52, {2002: 0.04, 2010: 0.03, 2019: -0.25, 2020: -0.2, 2021: 0.02,
                               2022: 0.12, 2024: 0.08}),
        payout=levels({2001: 0.45, 2017: 0.55, 2018: 0.68, 2021: 0.30, 2026: 0.40}),
        cash_payout=levels({2001: 0.52, 2017: 0.66, 2018: 0.85, 2021: 0.34, 2026: 0.46}),
        base_yield=0.043, beta=1.5, months=(5, 11), weights=(0.5, 0.5), stated_rhythm=True,
        suspended=(date(2019, 3, 7), date(2021, 8, 19)), margin=0.08, debt_to_revenue=0.8,
        share_growth=0.004,
    ),
    Script(
        symbol="NWO", name="Newharbour Optics", kind="company",
        sector="Health", industry="Lenses and spectacles",
        description="Lenses for spectacles and lighthouses; came to the exchange in spring 2025.",
        shares=33_000, rate=path(0.30, {2002: 0.05, 2026: 0.08}),
        payout=levels({2001: 0.35, 2026: 0.42}), cash_payout=levels({2001: 0.40, 2026: 0.47}),
        base_yield=0.024, beta=1.1, listed=date(2025, 3, 14), stated_rhythm=True,
        months=(2, 5, 8, 11), margin=0.16, debt_to_revenue=0.1,
    ),
    Script(
        symbol="QLN", name="Quillon Instruments", kind="company",
        sector="Technology", industry="Measuring instruments",
        description="Barometers, tide gauges and loggers; keeps all it earns, so far.",
        shares=27_000, rate=NOTHING,
        worth_rate=path(0.12, {2002: 0.11, 2009: 0.04, 2011: 0.14}),
        payout=levels({2001: 0.30, 2026: 0.30}), cash_payout=levels({2001: 0.36, 2026: 0.34}),
        base_yield=0.016, beta=1.2, pays=False, margin=0.14, share_growth=0.01,
        debt_to_revenue=0.0,
    ),
    Script(
        symbol="LRT", name="Lintel Row Homes Trust", kind="property_trust",
        sector="Property", industry="Rented homes",
        description="Terraces and seafront flats let by the year on four islands.",
        shares=40_000, rate=path(0.92, {2002: 0.03, 2009: 0.0, 2011: 0.025, 2022: 0.04}),
        payout=levels({2001: 0.74, 2018: 0.79, 2026: 0.77}),
        cash_payout=levels({2001: 1.4, 2026: 1.5}),
        base_yield=0.056, beta=0.8, months=(2, 5, 8, 11), share_growth=0.03,
        debt_to_revenue=4.0,
    ),
    Script(
        symbol="WPP", name="Whinmoor Pipeline Partners", kind="partnership",
        sector="Energy", industry="Pipelines",
        description="Lamp-oil and gas pipelines between the mainland terminal and the isles.",
        shares=73_000, rate=path(1.05, {2002: 0.04, 2014: 0.01, 2019: 0.0, 2022: 0.02}),
        payout=levels({2001: 0.70, 2026: 0.76}),
        cash_payout=levels({2001: 0.9, 2018: 1.05, 2026: 1.12}),
        base_yield=0.079, beta=1.0, months=(2, 5, 8, 11), share_growth=0.008,
        debt_to_revenue=1.6, margin=0.2, write_downs=0.10,
    ),
)  # fmt: skip

SLUMPS = (
    ("The herring slump", date(2008, 3, 3), date(2009, 6, 30), 0.42),
    ("The breakwater slump", date(2019, 2, 4), date(2020, 3, 31), 0.36),
)
"""Name, begin, end, and how much of its value the market lost at the worst."""

INFLATION = levels(
    {2001: 0.024, 2006: 0.029, 2009: 0.011, 2013: 0.019, 2019: 0.014, 2021: 0.026, 2022: 0.061,
     2023: 0.052, 2024: 0.031, 2026: 0.022}
)  # fmt: skip
