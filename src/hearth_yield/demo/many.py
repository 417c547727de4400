"""Payers without end, for measuring: stories drawn at random from the same kinds as the cast."""

from __future__ import annotations

from collections.abc import Iterator
from random import Random

from .script import TODAY, Script, levels, path

FIRST_YEAR = 2014
"""Twelve years are enough for every measure but the longest growth rates."""
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
TRADES = {
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
}
KINDS = (("company", 0.76), ("property_trust", 0.10), ("financial", 0.10), ("partnership", 0.04))
OTHER_TRADES = {
    "property_trust": ("Homes and care", "Homes Trust"),
    "financial": ("Banking", "Savings"),
    "partnership": ("Oil and pipelines", "Pipeline Partners"),
}


def many(count: int, seed: int) -> Iterator[Script]:
    """Scripts one at a time; the same seed gives the same."""
    random = Random(f"{seed}:many")
    for number in range(count):
        yield _story(number, random)


def _story(number: int, random: Random) -> Script:
    kind = random.choices([k for k, _ in KINDS], [share for _, share in KINDS])[0]
    if kind == "company":
        industry = random.choice(sorted(TRADES))
        trade = random.choice(TRADES[industry])
    else:
        industry, trade = OTHER_TRADES[kind]
    place = "".join(random.choice(SYLLABLES) for _ in range(2)) + random.choice(ENDS)
    growth = random.gauss(0.05, 0.04)
    start = random.uniform(0.1, 2.0)
    rate = path(start, {1997: growth, random.randrange(2016, 2026): growth / 2})
    ends = {"property_trust": 0.78, "partnership": 0.75}.get(kind, 0.5)
    payout = ends * random.uniform(0.7, 1.15)
    drift = random.choice((1.0, 1.0, 1.0, 1.2, 1.7))
    months = random.choice(((3, 6, 9, 12), (2, 5, 8, 11), (1, 4, 7, 10)))
    return Script(
        symbol=f"M{number:05d}",
        name=f"{place.capitalize()} {trade} {number}",
        kind=kind,
        industry=industry,
        description="Made up by the hundred, for measuring.",
        shares=random.uniform(5e3, 4e5),
        rate=rate,
        payout=levels({FIRST_YEAR: payout, TODAY.year: payout * drift}),
        cash_payout=levels({FIRST_YEAR: payout * 1.1, TODAY.year: payout * 1.1 * drift}),
        base_yield=random.uniform(0.012, 0.075),
        months=months,
        beta=random.uniform(0.3, 1.5),
        margin=random.uniform(0.05, 0.2),
        debt=random.uniform(0.0, 1.5) if kind == "company" else 2.0,
        analysts=0,
    )
