"""What a sheet holds: its tables, which way they lie, what each heading means, and what has to be
asked before it can be read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from . import unknown
from .counting import A_SHARE
from .dates import Order, order_of
from .headings import meaning, plain, synonyms
from .months import is_of_years
from .numbers import Style
from .owned.accounts import Accounts
from .owned.content import aim_at_settled, aim_by_content
from .owned.told import SUMMED
from .patience import tick
from .payers import Payers
from .profiles import Profile, kept_for
from .settings import Answers
from .settling import Settling
from .sheets import Sheet
from .strangers import COLUMNS
from .table import TOTAL_DEBT, Found, Line
from .tables import KINDS, Place, label_of, periods_of, tables_of
from .units import HUNDREDTH, hundredths, own_unit, unit_beside


def understand(
    sheets: Sequence[Sheet],
    payers: Payers,
    accounts: Accounts,
    told: Answers,
    profiles: Sequence[Profile] = (),
) -> list[Found]:
    """The tables of all sheets that can be read, each with what has still to be answered."""
    found: list[Found] = []
    for sheet in sheets:
        if sheet.hidden:
            continue
        order = order_of(sheet.distinct(range(len(sheet.rows))))
        before: Found | None = None
        for place in tables_of(sheet, order, lambda text: payers.named(text) is not None):
            around = (payers, accounts, told, profiles)
            table = _read(sheet, place, order, str(len(found)), around, before)
            if table is not None:
                found.append(table)
                before = table
    return found or _unknown(sheets, (payers, accounts, told, profiles))


_Around = tuple[Payers, Accounts, Answers, Sequence[Profile]]


def _unknown(sheets: Sequence[Sheet], around: _Around) -> list[Found]:
    """Of a file in which no table is known again, what the person says of its first sheets."""
    found, told = [], around[2]
    tables = [
        s for s in sheets if not s.hidden and any(len(s.texts(n)) > 1 for n in range(len(s.rows)))
    ]
    shown = tables[: unknown.MOST]
    for n, sheet in enumerate(shown):
        order = order_of(sheet.distinct(range(len(sheet.rows))))
        place = unknown.place_of(sheet, order, told, str(n))
        table = _read(sheet, place, order, str(n), around, None) if place else None
        found.append(table or unknown.asked(sheet, told, str(n)))
    return found


def _read(
    sheet: Sheet, place: Place, order: Order, id: str, around: _Around, before: Found | None
) -> Found | None:
    payers, accounts, told, profiles = around
    kind = next((k for k in KINDS if k == told.own(id, "kind")), place.kind)
    if kind == "dividends" and told.own(id, "declared") == "received":
        kind = "entries"
    found = Found(
        id=id,
        sheet=sheet,
        kind=kind,
        lie=place.lie,
        head=place.head,
        rows=place.rows,
        lines=[],
        style=Style("."),
        order=order,
    )
    _head_lines(found)
    found.profile, kept = kept_for(
        found.kind, found.headings, profiles, told.own(id, "profile") or told.told.get("profile")
    )
    told = told.with_kept(kept)
    _aim(found, told, payers)
    said = told.own(id, "kind") is not None
    if not any(x.target for x in found.lines) and found.lie in ("across", "down") and not said:
        return None
    found.skipped = told.own(id, "skip") == "yes"
    lacks = unknown.lacking(found)
    if lacks is not None and said:
        found.settings.append(lacks)
        return found
    Settling(found, payers, accounts, told, before).all()
    return found


def _head_lines(found: Found) -> None:
    """The headings of a table, as they stand."""
    if found.lie == "across":
        for n in found.rows:
            label = label_of(found.sheet.rows[n])
            if label:
                found.lines.append(Line(place=n, heading=label, target=None))
        return
    for n, cell in enumerate(found.sheet.rows[found.head]):
        if isinstance(cell, str):
            found.lines.append(Line(place=n, heading=cell, target=None))


def _aim(found: Found, told: Answers, payers: Payers) -> None:
    """What each heading is taken for; the first of a target counts."""
    taken: set[str] = set()
    for n, line in enumerate(found.lines):
        tick()
        if (whose := _whose_said(found, line, told)) is not None:
            found.columns_of[whose] = line.place
            found.lines[n] = replace(line, target=None)
            continue
        target, sure = _target(found, line, told)
        target = None if found.lie == "months" else target
        if target is None and found.lie != "across" and found.kind != "payers":
            who = meaning("payer", line.heading)
            said = told.own(found.id, f"line.{line.place}")
            free = who is not None and who.target not in found.columns_of and said is None
            if who is not None and found.lie == "down" and free:
                found.columns_of[who.target] = line.place
        several = found.kind == "entries" and target in (*SUMMED, "note", "worth")
        if target in taken and not several:
            target = None
        if target:
            taken.add(target)
        found.lines[n] = replace(line, target=target, sure=sure)
    days = taken & {"day", "ex_date", "pay_date"}
    years = [x.place for x in found.lines if x.target is None and is_of_years(x.heading)]
    found.year_at = years[0] if days and years else None
    if found.kind == "entries":
        aim_by_content(found)
        aim_at_settled(found, {p.currency for p in payers.known})
    _units_of_lines(found)
    _all_debt(found, taken)


def _units_of_lines(found: Found) -> None:
    """What each line says that it is counted in: in its heading, in a cell beside it, or by the
    row without figures above it."""
    first = min((at for at, _, _ in periods_of(found.sheet, found.head, found.order)), default=0)
    section: str | None = None
    for n, line in enumerate(found.lines):
        own, beside = own_unit(line.heading), ""
        if found.across:
            row = found.sheet.rows[line.place]
            if not any(c is not None for c in row[first:]):
                section = own or section
                continue
            others = [c for c in row[:first] if isinstance(c, str) and c != line.heading]
            told = [c for c in others if unit_beside(c) or hundredths(f"({c})")]
            beside = next((c for c in told if unit_beside(c) != "1"), told[0] if told else "")
        unit = own or unit_beside(beside) or section
        if line.target in A_SHARE:
            unit = HUNDREDTH if hundredths(f"{line.heading} ({beside})") else None
        if unit or beside:
            found.lines[n] = replace(line, unit=unit, beside=beside)


def _all_debt(found: Found, taken: set[str]) -> None:
    """Debt that is not told apart by its term counts as long-term, and that is said."""
    if found.kind != "statements" or taken & {"long_term_debt", "short_term_debt"}:
        return
    for n, line in enumerate(found.lines):
        if line.target is None and plain(line.heading) in TOTAL_DEBT:
            found.lines[n] = replace(line, target="long_term_debt")
            return


def _whose_said(found: Found, line: Line, told: Answers) -> str | None:
    """That a heading of a list names the payer of each row, as the person said; by what."""
    said = told.own(found.id, f"line.{line.place}") or told.kept.get(f"line.{plain(line.heading)}")
    return said if said in COLUMNS and names_payers(found) else None


def names_payers(found: Found) -> bool:
    """Whether columns of a list may name the payer row by row."""
    return found.lie == "down" and found.kind not in ("payers", "series")


def _target(found: Found, line: Line, told: Answers) -> tuple[str | None, bool]:
    said = told.own(found.id, f"line.{line.place}") or told.kept.get(f"line.{plain(line.heading)}")
    if said is not None:
        return (said if said in synonyms()[found.kind].values() else None), True
    meant = meaning(found.kind, line.heading)
    return (meant.target, meant.sure) if meant else (None, True)
