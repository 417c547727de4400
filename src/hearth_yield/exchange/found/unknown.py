"""A sheet in which no table is known again: its cells are shown, and it is asked what it is."""

from __future__ import annotations

from dataclasses import replace

from .dates import Order
from .months import grid_of
from .numbers import Style
from .settings import Answers, Setting
from .sheets import Sheet
from .table import Found, Line
from .tables import ESSENTIAL, KINDS, LOOKED_AHEAD, Kind, Lie, Place, periods_of

NAMES: dict[Kind | Lie, str] = {
    "prices": "closes, a row a day",
    "wide": "closes, a column for each payer",
    "dividends": "dividends, a row each",
    "yearly_dividends": "dividends of years",
    "statements": "statements",
    "estimates": "estimates",
    "series": "a price index or a yield",
    "payers": "a list of payers",
    "entries": "what I own: trades, dividends received, positions, cash",
}
MOST = 3
"""So many sheets of a file are asked about."""


def place_of(sheet: Sheet, order: Order, told: Answers, id: str) -> Place | None:
    """Where the table is that the person says is there; None until it is said. Headings are taken
    to be in the first row with the most texts, or periods, of those at the top."""
    said = told.own(id, "kind")
    if said == "wide":
        return replace(_place(sheet, "prices", head_of(sheet), across=False), lie="wide")
    kind = next((k for k in KINDS if k == said), None)
    if kind is None:
        return None
    top = range(min(len(sheet.rows), LOOKED_AHEAD))
    grids = (n for n in top if grid_of(sheet, n, range(n + 1, len(sheet.rows))))
    if kind in ("series", "prices", "dividends") and (head := next(grids, None)) is not None:
        return replace(_place(sheet, kind, head, across=False), lie="months")
    across = max(top, key=lambda n: len(periods_of(sheet, n, order)), default=0)
    if kind == "statements" and len(periods_of(sheet, across, order)) > 1:
        return _place(sheet, kind, across, across=True)
    return _place(sheet, kind, head_of(sheet), across=False)


def _place(sheet: Sheet, kind: Kind, head: int, *, across: bool) -> Place:
    rows = range(head + 1, len(sheet.rows))
    return Place(kind=kind, lie="across" if across else "down", head=head, rows=rows)


def head_of(sheet: Sheet) -> int:
    top = range(min(len(sheet.rows), LOOKED_AHEAD))
    return max(top, key=lambda n: len(sheet.texts(n)), default=0)


def asked(sheet: Sheet, told: Answers, id: str) -> Found:
    """The table with the one question that comes first."""
    head = head_of(sheet)
    found = Found(
        id=id,
        sheet=sheet,
        kind="prices",
        lie="down",
        head=head,
        rows=range(head + 1, len(sheet.rows)),
        lines=[
            Line(place=n, heading=c, target=None)
            for n, c in enumerate(sheet.rows[head])
            if isinstance(c, str)
        ],
        style=Style("."),
        order=Order(day_first=True),
        unknown=True,
    )
    found.skipped = told.own(id, "skip") == "yes"
    found.settings.append(
        Setting(
            id=f"{id}.kind",
            name="kind",
            asks="What is this table?",
            options=[*NAMES.items()],
            asked=True,
        )
    )
    return found


def lacking(found: Found) -> Setting | None:
    """What a list of its kind cannot do without, and no heading is taken for yet."""
    targets = {x.target for x in found.lines if x.target}
    if found.lie != "down" or any(wanted <= targets for wanted in ESSENTIAL[found.kind]):
        return None
    wanted = min((w - targets for w in ESSENTIAL[found.kind]), key=len)
    names = " and its ".join(sorted(w.replace("_", " ") for w in wanted))
    return Setting(
        id=f"{found.id}.columns",
        name="columns",
        asks=f"Choose below which heading is its {names}.",
        asked=True,
    )
