"""Parts: revenue or rent by segment, region and tenant over the years, and how concentrated it is.
(docs/method.md, Footing, Parts)"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from ..facts.edits import BY_HAND
from ..facts.payer_file import PayerFile
from ..facts.records import Exposure
from ..figures.figure import Figure, Touch, Unit, Unknown, derive, unknown
from ..figures.parts import HoldsFigures

REMAINDER = re.compile(
    r"(all |the )*(others?|rest|remainder|remaining)"
    r"( (ones?|parts?|tenants?|segments?|regions?|lands?|countries|markets?|businesses))?",
    re.IGNORECASE,
)
"""What a split calls that which it does not name: no part of its own. The whole name must say so:
"Rest Homes" is a tenant."""
BASES = {"segment": "Segments", "region": "Regions", "tenant": "Tenants"}
SHOWN_YEARS = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class Part(HoldsFigures):
    """One segment, region or tenant: its share year by year, and in the newest year."""

    name: str
    place: int
    years: dict[int, Figure]
    newest: Figure
    change: Figure

    @property
    def key(self) -> str:
        return str(self.place)


@dataclass(frozen=True, slots=True, kw_only=True)
class Split(HoldsFigures):
    """One way of splitting a payer: parts, the largest first, what is not named last. largest: the
    share of the largest that is named; equal_parts: how many parts of one size would be as
    concentrated, 1 ÷ Σ share² of what is named."""

    basis: str
    name: str
    years: tuple[int, ...]
    parts: tuple[Part, ...]
    largest: Figure
    equal_parts: Figure

    @property
    def key(self) -> str:
        return self.basis


def splits_of(file: PayerFile) -> tuple[Split, ...]:
    """Segments, regions and tenants, as far as they are held."""
    found = []
    for basis, name in BASES.items():
        mine = [x for x in file.exposures if x.basis == basis]
        if mine:
            found.append(_split(file, basis, name, mine))
    return tuple(found)


def _split(file: PayerFile, basis: str, name: str, held: Sequence[Exposure]) -> Split:
    years = tuple(sorted({x.fiscal_year for x in held}))[-SHOWN_YEARS:]
    newest = years[-1]
    shares: dict[str, dict[int, Figure]] = {}
    for x in held:
        if x.fiscal_year in years:
            shares.setdefault(x.name, {})[x.fiscal_year] = _share(x)
    now = {n: by_year for n, by_year in shares.items() if newest in by_year}
    order = sorted(now, key=lambda n: (is_remainder(n), -(now[n][newest].value or 0.0), n))
    gone = sorted(n for n in shares if n not in now)
    excluded = file.exclusions_within("exposures", file.day.replace(1900, 1, 1), file.day)
    parts = [_part(n, i, shares[n], years) for i, n in enumerate((*order, *gone))]
    figures = [p.newest for p in parts if p.newest.known and not is_remainder(p.name)]
    rest = [p.newest for p in parts if p.newest.known and is_remainder(p.name)]
    named = len(figures)
    nobody = unknown("largest part", Unit.FRACTION, "only the remainder is on record")
    period = f"fiscal {newest}"
    return Split(
        basis=basis,
        name=name,
        years=years,
        parts=tuple(parts),
        largest=(figures[0] if figures else nobody).with_exclusions(excluded),
        equal_parts=derive(
            "as concentrated as so many equal parts",
            Unit.COUNT,
            "(sum of the shares)² ÷ sum of the squared shares of what is named",
            [*figures, *rest],
            lambda *v: (
                sum(v) ** 2 / sum(x * x for x in v[:named])
                if named and any(v[:named])
                else Unknown("only the remainder is on record")
            ),
            period=period,
        ).with_exclusions(excluded),
    )


def is_remainder(name: str) -> bool:
    """Whether it is what a split does not name."""
    return REMAINDER.fullmatch(name.strip()) is not None


def _share(x: Exposure) -> Figure:
    return Figure(
        label=f"{x.name}, share",
        unit=Unit.FRACTION,
        value=x.share,
        period=f"fiscal {x.fiscal_year}",
        known_on=x.published_on,
        source=x.source,
        notes=(BY_HAND,) if x.entered else (),
        touch=Touch.ENTERED if x.entered else None,
    )


def _part(name: str, place: int, by_year: dict[int, Figure], years: Sequence[int]) -> Part:
    newest = by_year.get(years[-1])
    first = next((by_year[y] for y in years if y in by_year), None)
    nothing = f"not named for fiscal {years[-1]}"
    if newest is None or first is None:
        none = unknown(f"{name}, share", Unit.FRACTION, nothing)
        return Part(name=name, place=place, years=by_year, newest=none, change=none)
    if first is newest:
        why = "one year on record"
        change = unknown(f"{name}, change of share", Unit.FRACTION, why)
        return Part(name=name, place=place, years=by_year, newest=newest, change=change)
    return Part(
        name=name,
        place=place,
        years=by_year,
        newest=newest,
        change=derive(
            f"{name}, change of share",
            Unit.FRACTION,
            "newest share − earliest shown",
            [first, newest],
            lambda then, now: now - then,
            period=f"{first.period} to {newest.period}",
        ),
    )
