"""What is wrong with a file: the first hundred of each cause, and how many there are in all."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace

from hearth_yield.texts import visible

LISTED = 100
"""So many faults of one cause are listed; the rest are counted."""
MOST = 2000
"""So many are listed of one import, whatever their causes."""
COUNTED = 200_000
"""After so many in one table the rest of it is left unread."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """One thing wrong with a file. A warning does not stop the import. slip: what a likely slip
    would be mended by, as "shares:1000"; of: whose row it is, as EXCHANGE/SYMBOL. grave: a
    warning of figures that cannot stand together: it is answered by itself, never with others."""

    file: str
    line: int | None
    column: str | None
    value: str | None
    expected: str
    warning: bool = False
    slip: str | None = None
    of: str | None = None
    grave: bool = False


Cause = tuple[bool, str]


@dataclass(slots=True)
class Faults:
    """The faults of one file by cause: a warning or not, and what was expected in which column."""

    file: str
    _listed: dict[Cause, list[Fault]] = field(default_factory=dict)
    _counts: Counter[Cause] = field(default_factory=Counter)
    wrong: set[int] = field(default_factory=set)
    """Every line with a fault that is no warning, listed or not."""

    def add(
        self,
        line: int | None,
        column: str | None,
        value: object,
        expected: str,
        *,
        warning: bool = False,
        cause: str = "",
        slip: str | None = None,
        of: str | None = None,
        grave: bool = False,
    ) -> None:
        """cause: what faults of a kind share, where what is expected differs from one to the
        next."""
        key = (warning, cause or f"{column}: {expected}")
        self._counts[key] += 1
        if line is not None and not warning:
            self.wrong.add(line)
        listed = self._listed.setdefault(key, [])
        if len(listed) >= LISTED:
            return
        shown = None if value is None else visible(str(value)[:120])
        listed.append(
            Fault(
                file=self.file,
                line=line,
                column=column,
                value=shown,
                expected=expected[:500],
                warning=warning,
                slip=slip,
                of=of,
                grave=grave or slip is not None,
            )
        )

    @property
    def found(self) -> int:
        return self._counts.total()

    @property
    def too_many(self) -> bool:
        return self.found >= COUNTED

    def listed(self) -> list[Fault]:
        """By line, and at the end, for each cause of which there are more, how many."""
        plain = [f for part in self._listed.values() for f in part]
        plain.sort(key=lambda f: f.line or 0)
        return plain + [
            replace(
                part[-1],
                line=None,
                value=None,
                expected=f"{self._counts[key] - LISTED:,} more like this: {part[-1].expected}",
            )
            for key, part in self._listed.items()
            if self._counts[key] > LISTED
        ]


def within_bounds(files: Iterable[Sequence[Fault]]) -> list[Fault]:
    """The faults of several files, at most so many; the last then says how many are left out."""
    found = [f for part in files for f in part]
    if len(found) <= MOST:
        return found
    rest = found[MOST:]
    return [
        *found[:MOST],
        Fault(
            file=rest[0].file,
            line=None,
            column=None,
            value=None,
            expected=f"{len(rest):,} further lines of faults and warnings are not listed",
            warning=all(f.warning for f in rest),
        ),
    ]
