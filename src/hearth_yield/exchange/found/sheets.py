"""Files of any common tabular sort as sheets of cells."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import chain
from pathlib import PurePosixPath

from hearth_yield.progress import Progress, unwatched

from .apart import Cell, FileRead, Unreadable, read_apart
from .reader import OLD_WORKBOOK

__all__ = ["OLD_WORKBOOK", "Cell", "Sheet", "Sheets", "Unreadable", "sheets_of"]


@dataclass(frozen=True, slots=True)
class Sheet:
    """rows: cells as they are held; a text is stripped, and an empty one is None. texts: of each
    row the cells that are one."""

    file: str
    name: str
    rows: Sequence[Sequence[Cell]]
    hidden: bool = False
    texts: Sequence[Sequence[str]] = field(init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        texts = [[c for c in row if type(c) is str] for row in self.rows]
        object.__setattr__(self, "texts", texts)

    def distinct(self, rows: range) -> list[str]:
        """The texts of some rows, each once, in the order in which they stand."""
        return list(dict.fromkeys(chain.from_iterable(self.texts[rows.start : rows.stop])))

    @property
    def width(self) -> int:
        return max((len(r) for r in self.rows), default=0)


@dataclass(frozen=True, slots=True)
class Sheets:
    """held: those that have cells. read: what was found of the file besides."""

    held: Sequence[Sheet]
    read: FileRead


def sheets_of(file: str, raw: bytes, encoding: str = "", progress: Progress = unwatched) -> Sheets:
    """Every sheet or table of a file that has cells. encoding: as the person chose. Raises
    Unreadable, TooLarge."""
    name = PurePosixPath(file).name
    read = read_apart(name, raw, encoding, progress)
    held = [Sheet(name, s.name, s.rows, s.hidden) for s in read.sheets]
    if not held:
        raise Unreadable("; ".join(read.left[:5]) or "there is nothing in it")
    return Sheets(held, read)
