"""The parts of revenue that can fall: all of it, or a segment, a region, a tenant."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..errors import InvalidInput
from ..figures.figure import Figure, Unit, given
from ..footing.parts import Split
from .inputs import ALL


@dataclass(frozen=True, slots=True, kw_only=True)
class RevenuePart:
    """id: as the address has it, "tenant/Name"; place: a key without dots; share: of the newest
    year told."""

    id: str
    name: str
    basis: str | None
    place: str
    share: Figure


def parts_of_revenue(splits: Sequence[Split]) -> tuple[RevenuePart, ...]:
    """All of it first, then what is named for the newest year."""
    whole = given("share of revenue", Unit.FRACTION, 1.0, "all of it")
    found = [RevenuePart(id=ALL, name="All revenue", basis=None, place=ALL, share=whole)]
    for split in splits:
        found += [
            RevenuePart(
                id=f"{split.basis}/{part.name}",
                name=part.name,
                basis=split.basis,
                place=f"{split.basis}-{part.key}",
                share=part.newest,
            )
            for part in split.parts
            if part.newest.known
        ]
    return tuple(found)


def part_asked(parts: Sequence[RevenuePart], id: str | None) -> RevenuePart:
    """Raises InvalidInput for a part that is not on record."""
    for part in parts:
        if part.id == (id or ALL):
            return part
    raise InvalidInput(
        "no such part of revenue is on record by this day",
        field="strain_part",
        value=id,
        rule="all, or a segment, region or tenant of the payer, such as tenant/Name",
    )
