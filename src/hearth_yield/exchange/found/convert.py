"""Rows of the product's own tables, made of what was understood: then they pass every check of an
import. What was turned, assumed or left out is said."""

from __future__ import annotations

from collections.abc import Mapping

from hearth_yield.core.facts.isin import is_isin
from hearth_yield.exchange.cells import Cell as Told

from . import receipts
from .counting import NOT_IN_UNITS
from .lists import dividends, estimates, payer_list, prices, series, wide_prices, yearly
from .made import Made
from .months import grid_of
from .numbers import PENCE_OF, is_small
from .owned.accounts import Accounts
from .owned.entries import entries
from .payers import Known, Payers
from .settings import Answers
from .statements import statements
from .table import Found, is_all_debt
from .units import HUNDREDTH, NAMES


def convert(
    found: Found, payers: Payers, accounts: Accounts, paid: frozenset[int], answers: Answers
) -> Made:
    """What a table gives, once nothing is left to ask of it. paid: the years for which payments of
    its payer are stored already."""
    made, today = Made(found.spelling), accounts.today
    payers = payers.joined(found.new)
    for who in {p.key: p for p in found.new.values()}.values():
        made.add("payers", _new_payer(found, who), f"“{who.name}”")
    match found.kind:
        case "statements":
            statements(found, made, payers, today, paid, answers)
        case "series":
            series(found, made, answers)
        case "dividends":
            dividends(found, made, payers)
        case "yearly_dividends":
            yearly(found, made, payers, paid)
        case "prices" if found.lie == "wide":
            wide_prices(found, made, payers)
        case "prices":
            prices(found, made, payers)
        case "estimates":
            estimates(found, made, payers, today)
        case "payers":
            payer_list(found, made, payers, today)
        case "entries":
            entries(found, made, accounts)
    _left(found, made)
    if made.untold:
        made.left_out.append(f"and {made.untold:,} more rows like these")
    return made


def _new_payer(found: Found, who: Known) -> Mapping[str, Told]:
    return {
        "exchange": who.exchange,
        "symbol": who.symbol,
        "name": who.name,
        "isin": who.symbol if is_isin(who.symbol) else "",
        "kind": found.answer("payer_kind"),
        "country": found.answer("country"),
        "currency": who.currency,
        "fiscal_year_end_month": who.year_ends,
    }


ELSEWHERE = frozenset(
    (
        *(
            "period_end",
            "published_on",
            "day",
            "ex_date",
            "pay_date",
            "close",
            "adjusted_close",
            "year",
            "currency",
        ),
        *("fiscal_year", "measure", "symbol", "exchange", "name", "sector", "industry"),
        receipts.COLUMN,
    )
)
"""What a heading may mean without a column of its own in what is made."""


def _gave_nothing(found: Found, made: Made) -> None:
    """Headings that were understood, and under which nothing came in."""
    given = made.columns | ELSEWHERE
    if "dividends" in made.tables:
        given.add("dividends_per_share")
    told = " ".join((*made.left_out, *made.notes))
    empty = [
        x.heading
        for x in found.lines
        if x.target
        and x.target not in given
        and x.target.replace("_", " ") not in told
        and x.heading not in told
    ]
    if empty and made.counts:
        made.left_out.append(f"nothing came of: {', '.join(empty[:20])}")


def _left_of_months(found: Found, made: Made) -> None:
    within = {at for _, at, _ in grid_of(found.sheet, found.head, found.rows)}
    lost = [x.heading for x in found.lines[1:] if x.place not in within]
    if lost:
        made.left_out.append(f"not understood: {', '.join(lost[:20])}")
    if found.kind != "series":
        made.notes.append("a month stands for its last day")


def _left(found: Found, made: Made) -> None:
    """The headings that were not read, and those that were by likeness only."""
    if found.lie == "wide":
        return
    if found.lie == "months":
        _left_of_months(found, made)
        return
    named = {*found.columns_of.values(), found.year_at}
    taken = {x.target for x in found.lines if x.target}
    lost = [x for x in found.lines if x.target is None and x.place not in named]
    if lost:
        words = ", ".join(x.heading for x in lost[:40])
        more = f" and {len(lost) - 40} more" if len(lost) > 40 else ""
        made.left_out.append(f"not understood: {words}{more}")
    if "adjusted_close" in taken and "close" in taken:
        made.left_out.append("adjusted closes")
    if found.kind != "entries":
        _gave_nothing(found, made)
    whole = next((x.heading for x in found.lines if is_all_debt(x)), "")
    if whole and made.counts:
        made.notes.append(f"“{whole}” is taken as long-term debt, all of it")
    if found.kind != "entries":
        _units_said(found, made)
    liked = [f"{x.heading} as {x.target}" for x in found.lines if x.target and not x.sure]
    if liked:
        made.notes.append("taken by likeness: " + ", ".join(x.replace("_", " ") for x in liked))


def _units_said(found: Found, made: Made) -> None:
    """What amounts are counted in, as far as it is not plain."""
    cells = found.sheet.distinct(found.rows)
    small = any(is_small(c) or c in PENCE_OF for c in cells)
    hundredths = [x.heading for x in found.lines if x.unit == HUNDREDTH]
    if hundredths and found.answer("per_share") != "0.01":
        made.notes.append(f"read as hundredths, as they say: {', '.join(hundredths)}")
    elif small or found.answer("per_share") == "0.01":
        made.notes.append("amounts a share in pence or cents are read as hundredths")
    unit = found.answer("unit", "1")
    apart: dict[str, list[str]] = {}
    for x in found.lines if found.kind == "statements" else ():
        if x.target and x.unit and x.target not in NOT_IN_UNITS and x.unit != unit:
            apart.setdefault(x.unit, []).append(x.heading)
    for own, lines in apart.items():
        more = f" and {len(lines) - 8} more" if len(lines) > 8 else ""
        made.notes.append(f"read in {NAMES[own]}, as they say: {', '.join(lines[:8])}{more}")
    if (told := found.answer("receipts")) in ("divided", "times"):
        done = "divided" if told == "divided" else "multiplied"
        each = receipts.spelt(found.receipts.values())
        made.notes.append(f"amounts a share are {done} by {each} a receipt, as you said")
