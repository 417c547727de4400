"""What was settled of files of one sort, kept under a name and known again by its headings."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

ALIKE = 0.8
"""So much of the headings of two tables must be the same for them to be of one sort."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ProfileTable:
    """headings: plain ones, by which the table is known. settled: answers, by what they are of; a
    line by its heading, as "line.net sales"."""

    kind: str
    headings: frozenset[str]
    settled: Mapping[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    name: str
    tables: Sequence[ProfileTable]


def kept_for(
    kind: str, headings: frozenset[str], profiles: Sequence[Profile], wanted: str | None
) -> tuple[str | None, Mapping[str, str]]:
    """The profile whose table is most like this one, and what it settles. wanted: the only one to
    use; "none": not any."""
    best: tuple[float, str, Mapping[str, str]] = (0.0, "", {})
    for profile in profiles:
        if wanted is not None and profile.name != wanted:
            continue
        for table in profile.tables:
            if table.kind != kind:
                continue
            together = headings | table.headings
            alike = len(headings & table.headings) / len(together) if together else 0.0
            if alike > best[0]:
                best = (alike, profile.name, table.settled)
    return (best[1], best[2]) if best[0] >= ALIKE else (None, {})
