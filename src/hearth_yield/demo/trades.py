"""What each trade is like: its seasons, how the economy moves it, what it needs to work with."""

from __future__ import annotations

from dataclasses import dataclass

Quarters = tuple[float, float, float, float]
Slumps = tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Trade:
    """An industry's temper.

    seasons: share of a year's revenue by quarter. cycle, own: spread of the logarithm of revenue
        about its plan, by the economy and the trade, and by the payer itself. costs: spread of the
        share that the cost of revenue takes, as a fraction of it.
    lost: share of revenue lost at the worst of each slump. fall: the slump's fall of the market
        times this is the fall of the trade's prices.
    plant, stocks, payables: in years of revenue.
    """

    sector: str
    seasons: Quarters = (0.245, 0.25, 0.25, 0.255)
    cycle: float
    own: float
    costs: float
    lost: Slumps
    fall: Slumps
    plant: float
    stocks: float
    payables: float


TRADES = {
    "Food and drink": Trade(
        sector="Consumer goods",
        seasons=(0.235, 0.245, 0.25, 0.27),
        cycle=0.014,
        own=0.024,
        costs=0.022,
        lost=(0.0, 0.02, 0.01),
        fall=(0.5, 0.7, 0.6),
        plant=0.55,
        stocks=0.17,
        payables=0.09,
    ),
    "Household goods": Trade(
        sector="Consumer goods",
        seasons=(0.24, 0.25, 0.245, 0.265),
        cycle=0.018,
        own=0.024,
        costs=0.015,
        lost=(0.02, 0.04, 0.02),
        fall=(0.6, 0.75, 0.7),
        plant=0.45,
        stocks=0.17,
        payables=0.09,
    ),
    "Clothing and leather": Trade(
        sector="Consumer goods",
        seasons=(0.22, 0.22, 0.25, 0.31),
        cycle=0.042,
        own=0.046,
        costs=0.024,
        lost=(0.04, 0.09, 0.12),
        fall=(0.8, 0.9, 1.2),
        plant=0.4,
        stocks=0.24,
        payables=0.10,
    ),
    "Shops and media": Trade(
        sector="Shops and media",
        seasons=(0.22, 0.235, 0.235, 0.31),
        cycle=0.034,
        own=0.034,
        costs=0.017,
        lost=(0.05, 0.07, 0.10),
        fall=(1.1, 0.9, 1.2),
        plant=0.5,
        stocks=0.14,
        payables=0.10,
    ),
    "Health care": Trade(
        sector="Health",
        seasons=(0.245, 0.25, 0.25, 0.255),
        cycle=0.012,
        own=0.031,
        costs=0.014,
        lost=(0.01, 0.01, 0.03),
        fall=(0.5, 0.6, 0.5),
        plant=0.45,
        stocks=0.20,
        payables=0.07,
    ),
    "Machinery": Trade(
        sector="Industry",
        seasons=(0.23, 0.255, 0.245, 0.27),
        cycle=0.07,
        own=0.054,
        costs=0.024,
        lost=(0.09, 0.15, 0.10),
        fall=(1.0, 1.1, 1.1),
        plant=0.5,
        stocks=0.26,
        payables=0.11,
    ),
    "Tools and clocks": Trade(
        sector="Industry",
        seasons=(0.225, 0.25, 0.24, 0.285),
        cycle=0.055,
        own=0.048,
        costs=0.018,
        lost=(0.07, 0.13, 0.10),
        fall=(1.0, 1.05, 1.1),
        plant=0.45,
        stocks=0.25,
        payables=0.10,
    ),
    "Transport": Trade(
        sector="Industry",
        seasons=(0.225, 0.26, 0.28, 0.235),
        cycle=0.055,
        own=0.046,
        costs=0.034,
        lost=(0.04, 0.10, 0.20),
        fall=(0.9, 1.0, 1.6),
        plant=1.0,
        stocks=0.09,
        payables=0.07,
    ),
    "Building materials": Trade(
        sector="Materials",
        seasons=(0.185, 0.275, 0.30, 0.24),
        cycle=0.068,
        own=0.048,
        costs=0.024,
        lost=(0.05, 0.20, 0.07),
        fall=(0.7, 1.4, 0.9),
        plant=0.8,
        stocks=0.19,
        payables=0.09,
    ),
    "Chemicals": Trade(
        sector="Materials",
        seasons=(0.24, 0.265, 0.255, 0.24),
        cycle=0.055,
        own=0.046,
        costs=0.034,
        lost=(0.06, 0.12, 0.06),
        fall=(0.9, 1.1, 0.9),
        plant=0.75,
        stocks=0.20,
        payables=0.09,
    ),
    "Instruments and wires": Trade(
        sector="Instruments and wires",
        seasons=(0.23, 0.24, 0.25, 0.28),
        cycle=0.06,
        own=0.054,
        costs=0.018,
        lost=(0.18, 0.09, 0.03),
        fall=(1.7, 0.9, 0.7),
        plant=0.5,
        stocks=0.20,
        payables=0.08,
    ),
    "Oil and pipelines": Trade(
        sector="Energy",
        seasons=(0.265, 0.235, 0.225, 0.275),
        cycle=0.09,
        own=0.042,
        costs=0.036,
        lost=(0.05, 0.12, 0.16),
        fall=(0.6, 1.0, 1.5),
        plant=1.0,
        stocks=0.12,
        payables=0.09,
    ),
    "Water and power": Trade(
        sector="Utilities",
        seasons=(0.285, 0.235, 0.22, 0.26),
        cycle=0.008,
        own=0.014,
        costs=0.026,
        lost=(0.0, 0.01, 0.02),
        fall=(0.3, 0.45, 0.5),
        plant=2.4,
        stocks=0.10,
        payables=0.07,
    ),
    "Banking": Trade(
        sector="Financials",
        cycle=0.03,
        own=0.024,
        costs=0.0,
        lost=(0.03, 0.13, 0.06),
        fall=(0.8, 1.7, 1.1),
        plant=0.0,
        stocks=0.0,
        payables=0.0,
    ),
    "Insurance": Trade(
        sector="Financials",
        cycle=0.02,
        own=0.036,
        costs=0.0,
        lost=(0.05, 0.07, 0.03),
        fall=(1.1, 1.2, 0.8),
        plant=0.0,
        stocks=0.0,
        payables=0.0,
    ),
    "Homes and care": Trade(
        sector="Property",
        seasons=(0.247, 0.25, 0.252, 0.251),
        cycle=0.008,
        own=0.01,
        costs=0.034,
        lost=(0.0, 0.02, 0.02),
        fall=(0.5, 1.0, 0.8),
        plant=9.5,
        stocks=0.05,
        payables=0.04,
    ),
    "Commercial property": Trade(
        sector="Property",
        seasons=(0.248, 0.25, 0.25, 0.252),
        cycle=0.014,
        own=0.014,
        costs=0.034,
        lost=(0.01, 0.04, 0.05),
        fall=(0.6, 1.3, 1.2),
        plant=10.0,
        stocks=0.05,
        payables=0.04,
    ),
}
