"""Payers of Thornmark: another exchange, another currency, tax withheld at the border."""

from __future__ import annotations

from datetime import date

from ..script import THORNMARK, Script, levels, path

FINALS = (5, 11)
FINAL_FIRST = (0.66, 0.34)

MAINLAND: tuple[Script, ...] = (
    Script(
        symbol="RKLC", name="Rookham Lace", kind="company", land=THORNMARK,
        industry="Clothing and leather",
        description="Lace and ribbon from Rookham; a mainland payer whose tax is kept at source.",
        shares=50_000, rate=path(0.22, {1997: 0.05, 2009: 0.0, 2012: 0.06}),
        payout=levels({1996: 0.42, 2026: 0.48}), cash_payout=levels({1996: 0.45, 2026: 0.51}),
        base_yield=0.033, beta=0.9, margin=0.13, debt=0.2,
        regions=(("Thornmark", 0.72), ("Sundrey Isles", 0.28)),
    ),
    Script(
        symbol="THWM", name="Thornwater Mills", kind="company", land=THORNMARK,
        industry="Food and drink",
        description="Flour and oatmeal; interim and final dividends with the tax credit attached.",
        shares=70_000, rate=path(0.26, {1997: 0.045, 2009: 0.01, 2013: 0.05}),
        payout=levels({1996: 0.48, 2026: 0.52}), cash_payout=levels({1996: 0.50, 2026: 0.55}),
        base_yield=0.039, beta=0.7, margin=0.08, debt=0.4, credit=(1.0, 0.20),
        months=FINALS, weights=FINAL_FIRST, reports="half",
    ),
    Script(
        symbol="ADRP", name="Adderstone Pumps", kind="company", land=THORNMARK,
        industry="Machinery",
        description="Pumps for mines and mills; pays once a year, in spring, as its country does.",
        shares=41_000, rate=path(0.50, {1997: 0.06, 2009: -0.2, 2010: 0.1, 2012: 0.06}),
        payout=levels({1996: 0.40, 2026: 0.44}), cash_payout=levels({1996: 0.43, 2026: 0.48}),
        base_yield=0.027, beta=1.2, months=(5,), weights=(1.0,), margin=0.12, debt=0.2,
    ),
    Script(
        symbol="BRKR", name="Brackenholt Rail", kind="company", land=THORNMARK,
        industry="Transport",
        description="Lines from Rookham to the coast, with more track than it would lay today.",
        shares=130_000, rate=path(0.32, {1997: 0.05, 2019: 0.04}),
        payout=levels({1996: 0.43, 2026: 0.46}), cash_payout=levels({1996: 0.48, 2026: 0.54}),
        base_yield=0.030, beta=0.9, margin=0.19, write_downs=0.11, debt=0.8, analysts=9,
        ratings=((date(2003, 9, 1), "A-"),),
    ),
    Script(
        symbol="CVHD", name="Culverhay Dairy", kind="company", land=THORNMARK,
        industry="Food and drink",
        description="Milk, butter and a hard cheese that travels.",
        shares=48_000, rate=path(0.19, {1997: 0.055, 2015: 0.05}),
        payout=levels({1996: 0.44, 2026: 0.49}), cash_payout=levels({1996: 0.47, 2026: 0.52}),
        base_yield=0.031, beta=0.6, margin=0.07, debt=0.3, credit=(0.5, 0.20),
        months=FINALS, weights=FINAL_FIRST, reports="half",
    ),
    Script(
        symbol="DVTC", name="Dovetail Casks", kind="company", land=THORNMARK,
        industry="Household goods",
        description="Casks, chests and joinery.",
        shares=27_000, rate=path(0.52, {1997: 0.03, 2011: 0.0}),
        payout=levels({1996: 0.46, 2026: 0.58}), cash_payout=levels({1996: 0.48, 2026: 0.59}),
        base_yield=0.050, beta=0.8, margin=0.09, debt=0.3, analysts=2,
        worth_rate=path(0.52, {1997: 0.03, 2011: 0.003}),
    ),
    Script(
        symbol="ELDB", name="Elderholm Bank", kind="financial", land=THORNMARK,
        industry="Banking",
        description="Lends to farms and mills; interim and final, with credits.",
        shares=160_000, rate=path(0.34, {1997: 0.05, 2009: -0.35, 2011: 0.08, 2020: 0.0,
                                        2022: 0.06}),
        payout=levels({1996: 0.45, 2026: 0.50}), cash_payout=0.47,
        fortunes={2008: 0.5, 2009: 0.3, 2020: 0.6},
        base_yield=0.051, beta=1.3, capital_ratio=0.146, credit=(1.0, 0.20),
        months=FINALS, weights=FINAL_FIRST, reports="half",
    ),
    Script(
        symbol="FLWM", name="Fallowmead Property Trust", kind="property_trust", land=THORNMARK,
        industry="Commercial property",
        description="Shops, flats and a brewery, spread over the mainland's four towns.",
        shares=30_000, rate=path(0.58, {1997: 0.02, 2009: -0.15, 2010: 0.0, 2013: 0.025}),
        payout=levels({1996: 0.74, 2008: 0.9, 2026: 0.79}), cash_payout=1.4,
        base_yield=0.058, beta=1.0, months=(3, 6, 9, 12), issues=0.01, debt=3.6, plant=8.0,
        tenants=(("Culverhay Dairy", 0.12), ("Thornwater Mills", 0.09), ("All others", 0.79)),
    ),
    Script(
        symbol="GRWP", name="Garrowby Pharmacy", kind="company", land=THORNMARK,
        industry="Health care",
        description="Two hundred counters; small dividend, quick to grow.",
        shares=66_000, rate=path(0.04, {1997: 0.12, 2009: 0.07, 2011: 0.12}),
        payout=levels({1996: 0.24, 2026: 0.31}), cash_payout=levels({1996: 0.26, 2026: 0.33}),
        base_yield=0.016, beta=0.9, margin=0.06, debt=0.1, analysts=7,
    ),
)  # fmt: skip
