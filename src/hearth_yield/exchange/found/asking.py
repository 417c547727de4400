"""Asking of a table what it does not say: what stands around it, and how a question is settled."""

from __future__ import annotations

from collections.abc import Sequence

from .numbers import bare
from .payers import Payers
from .settings import Answers, Setting
from .table import Found
from .tables import is_figure
from .whose import first_above

LONGEST, MOST_AROUND = 300, 40
"""Characters of a text, and texts of a row, that are read for what they say around a table."""
SHOWN_BY = 5000
"""So many texts say how a table writes what it holds."""


def words_of(rows: Sequence[Sequence[str]]) -> str:
    """The texts of some rows that are no figures, a line each."""
    return " \n".join(c[:LONGEST] for r in rows for c in r[:MOST_AROUND] if not bare(c))


class Asking:
    """A table, the words around it, and what has been told of it. above: in the rows above it;
    around: beneath its headings too; title: of those, what is no row of its figures."""

    def __init__(
        self, found: Found, payers: Payers, told: Answers, before: Found | None = None
    ) -> None:
        """before: the table above it in the same sheet, which is of the same payer where nothing
        else is said."""
        self.found, self.payers, self.told, self.before = found, payers, told, before
        self._same = False
        self._one: set[str] = set()
        texts = found.sheet.texts
        self._rows_above = [texts(n) for n in range(first_above(found, before), found.head)]
        self.above = words_of([*self._rows_above, texts(found.head)])
        name = found.sheet.name
        called = "" if found.sheet.file.startswith(name) else name
        beneath = range(found.head + 1, min(found.head + 3, len(found.sheet.rows)))
        self.around = " \n".join((self.above, words_of([texts(n) for n in beneath]), called))
        words = [texts(n) for n in beneath if not any(map(is_figure, found.sheet.rows[n]))]
        self.title = " \n".join((self.above, words_of(words), called))

    def _settle(
        self,
        name: str,
        asks: str,
        options: Sequence[tuple[str, str]] = (),
        *,
        says: str | None = None,
        default: str | None = None,
        whole: bool = True,
        guess: str = "",
        free: bool = False,
    ) -> str | None:
        """says: what the sheet itself does; default: what it is taken for where nobody does.
        whole: it is asked once for the file. free: something else than the options may be said."""
        own = self.told.own(self.found.id, name)
        values = {v for v, _ in options}
        kept = self.told.any(name) if whole else self.told.kept.get(name)
        said = [v for v in (own, says, kept, default) if v and (free or not values or v in values)]
        answer = said[0] if said else None
        id = name if whole and answer is None else f"{self.found.id}.{name}"
        self.found.settings.append(
            Setting(
                id=id,
                name=name,
                asks=asks,
                options=options,
                answer=answer,
                asked=own is not None or says is None,
                guess=guess,
            )
        )
        return answer

    def _as_above(self, name: str) -> str | None:
        """What is settled of the table above, where both are of one payer."""
        return (self.before.answer(name) or None) if self._same and self.before else None

    @property
    def _above(self) -> Sequence[Setting]:
        return self.before.settings if self.before else ()
