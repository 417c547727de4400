"""What is settled of a table before it can be read: found in it, said by the person, kept from the
last file of its sort; or open, and asked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """One thing that decides how a table is read. id: of the table and by its name, or by its name
    alone where it is asked once for the file. options: values and how each is told; none: a
    text. answer: None is open. asked: the sheet does not say it itself, so that the person did or
    has to. guess: what a text may be, to begin from."""

    id: str
    name: str
    asks: str
    options: Sequence[tuple[str, str]] = ()
    answer: str | None = None
    asked: bool = False
    guess: str = ""

    @property
    def open(self) -> bool:
        return self.answer is None


@dataclass(slots=True)
class Answers:
    """What a person told of a file, by question; kept: what a profile settles of it."""

    told: Mapping[str, str]
    kept: Mapping[str, str] = field(default_factory=dict)

    def own(self, table: str, name: str) -> str | None:
        """Of one table."""
        return self.told.get(f"{table}.{name}")

    def any(self, name: str) -> str | None:
        """Of the whole file, else kept."""
        return self.told.get(name) or self.kept.get(name)

    def with_kept(self, kept: Mapping[str, str]) -> Answers:
        return Answers(self.told, kept)
