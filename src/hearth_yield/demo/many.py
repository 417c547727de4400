"""Payers without end, for measuring: stories drawn at random from the same kinds as the cast, told
in full: thirty years of daily prices, quarters and estimates."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta
from random import Random

from .script import FIRST_YEAR, SLUMPS, TODAY, YEARS, Script, levels, path
from .trades import TRADES
from .world import Extent

EXTENT = Extent(daily_from=date(FIRST_YEAR, 1, 1), quarters_from=FIRST_YEAR)
SYLLABLES = (
    "bar",
    "cor",
    "den",
    "fal",
    "gar",
    "hol",
    "kel",
    "lor",
    "mar",
    "nor",
    "pel",
    "ran",
    "sal",
    "tor",
    "ul",
    "ven",
    "wes",
    "yar",
)
ENDS = ("by", "dale", "ford", "gate", "ham", "low", "mere", "ness", "ridge", "stead", "wick")
NAMES = {
    "Food and drink": ("Mills", "Creamery", "Brewing"),
    "Household goods": ("Soaps", "Brushes"),
    "Building materials": ("Clay", "Timber", "Glass"),
    "Machinery": ("Engines", "Castings"),
    "Tools and clocks": ("Tools",),
    "Transport": ("Carriers", "Tugs"),
    "Water and power": ("Water", "Gas"),
    "Instruments and wires": ("Instruments", "Cables"),
    "Health care": ("Medicines", "Optics"),
    "Shops and media": ("Stores", "Printing"),
    "Clothing and leather": ("Linen", "Boots"),
    "Chemicals": ("Dyes",),
    "Oil and pipelines": ("Lamp Oil",),
}
KINDS = (("company", 0.76), ("property_trust", 0.10), ("financial", 0.10), ("partnership", 0.04))
OTHER_NAMES = {
    "property_trust": (("Homes and care", "Homes Trust"), ("Commercial property", "Lofts Trust")),
    "financial": (("Banking", "Savings"), ("Insurance", "Assurance")),
    "partnership": (("Oil and pipelines", "Pipeline Partners"),),
}
QUARTERLY = (((3, 6, 9, 12), 4), ((2, 5, 8, 11), 2), ((1, 4, 7, 10), 2))
COMES_LATE, GOES = 0.25, 0.05
"""Shares of payers that are listed after the first year, and that are gone again."""
CUTS = {True: 0.09, False: 0.012}
"""Chance of a cut in a year, in slumps and out of them."""


def many(count: int, seed: int) -> Iterator[Script]:
    """Scripts one at a time; the same seed gives the same."""
    random = Random(f"{seed}:many")
    for number in range(count):
        yield _story(number, random)


def _trade(kind: str, random: Random) -> tuple[str, str]:
    """An industry, and what a payer of it calls itself."""
    if kind != "company":
        return random.choice(OTHER_NAMES[kind])
    industry = random.choice(sorted(NAMES))
    return industry, random.choice(NAMES[industry])


def _story(number: int, random: Random) -> Script:
    kind = random.choices([k for k, _ in KINDS], [share for _, share in KINDS])[0]
    industry, called = _trade(kind, random)
    place = "".join(random.choice(SYLLABLES) for _ in range(2)) + random.choice(ENDS)
    growth = min(max(random.gauss(0.045, 0.035), -0.03), 0.16)
    debt = {"company": random.uniform(0.0, 1.0), "property_trust": random.uniform(2, 4.5)}
    usual = {"property_trust": 0.76, "partnership": 0.74}.get(kind, 0.62 - 2.5 * growth)
    payout = min(max(usual * random.uniform(0.75, 1.2), 0.12), 0.95)
    drift = random.choice((0.9, 1.0, 1.0, 1.15, 1.35))
    multiple = min(max(10 + 90 * growth + random.gauss(0, 1.5), 7), 24)
    months, weights = _rhythm(random)
    listed, delisted = _listing(random)
    return Script(
        symbol=f"M{number:05d}",
        name=f"{place.capitalize()} {called} {number}",
        kind=kind,
        industry=industry,
        description="Made up by the hundred, for measuring.",
        shares=random.uniform(5e3, 4e5),
        rate=path(random.uniform(0.1, 2.0), _raises(growth, random)),
        payout=levels({FIRST_YEAR: payout, TODAY.year: payout * drift}),
        cash_payout=levels({FIRST_YEAR: payout * 1.08, TODAY.year: payout * 1.1 * drift}),
        base_yield=payout / multiple,
        months=months,
        weights=weights,
        listed=listed,
        delisted=delisted,
        beta=random.uniform(0.4, 1.4),
        temper=random.uniform(0.5, 1.4),
        margin=random.uniform(0.05, 0.2),
        debt=debt.get(kind, 1.2),
        write_downs=0.05 + 0.06 * (TRADES[industry].plant > 1.5),
        floating=random.uniform(0.05, 0.6),
        buys_back=random.choice((0.0, 0.02, 0.024, 0.04)),
        issues=random.choice((0.0, 0.01, 0.03)) if kind in ("property_trust", "partnership") else 0,
        impairments={random.choice(YEARS[4:30]): random.uniform(0.2, 1.4)},
        specials={random.choice(YEARS[4:30]): 0.3} if random.random() < 0.15 else {},
        analysts=random.choice((0, 1, 2, 4, 6, 9)),
        guides=random.random() < 0.2,
    )


def _rhythm(random: Random) -> tuple[tuple[int, ...], tuple[float, ...]]:
    if random.random() < 0.2:
        return (5, 11), random.choice(((0.5, 0.5), (0.65, 0.35)))
    months = random.choices([m for m, _ in QUARTERLY], [n for _, n in QUARTERLY])[0]
    return months, (0.25,) * 4


def _raises(growth: float, random: Random) -> dict[int, float]:
    """Steps of a path: raises at a pace that slackens, and a cut now and then."""
    slower, steps = random.randrange(2004, 2022), {}
    for year in YEARS[1:]:
        pace = growth if year < slower else 0.6 * growth
        slump = any(begins.year <= year <= ends.year for _, begins, ends, _ in SLUMPS)
        steps[year] = pace
        if random.random() < CUTS[slump]:
            steps[year] = -random.uniform(0.12, 0.5)
    return steps


def _listing(random: Random) -> tuple[date | None, date | None]:
    """The days it came and went, if it did."""
    listed = delisted = None
    if random.random() < COMES_LATE:
        listed = date(random.randrange(FIRST_YEAR + 2, TODAY.year - 1), 3, 1)
    if random.random() < GOES:
        first = listed or date(FIRST_YEAR + 6, 1, 1)
        delisted = first + timedelta(days=random.randrange(600, 2000))
    return listed, delisted if delisted is None or delisted < TODAY else None
