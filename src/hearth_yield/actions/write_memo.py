"""A recorded decision as one page to print or to keep."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hearth_yield.core.expecting.expectation import Side, Way
from hearth_yield.exchange.memo.render import Memo, render
from hearth_yield.exchange.memo.words import day, show
from hearth_yield.store import decisions
from hearth_yield.store.database import Database
from hearth_yield.store.decisions import Decision

from .since_decided import expectation_of


def write_memo(database: Database, decision_id: int) -> tuple[str, str]:
    """A name for the file, and the page. Raises NotFound."""
    with database.read() as connection:
        made = decisions.of_id(connection, decision_id)
    name = f"{made.symbol.lower()}-{made.as_of.isoformat()}"
    safe = "".join(c for c in name if c.isascii() and (c.isalnum() or c == "-"))
    return safe or "memo", render(memo_of(made))


def memo_of(made: Decision) -> Memo:
    return Memo(
        exchange=made.exchange,
        symbol=made.symbol,
        made=made.as_of,
        verdict=made.verdict,
        words=made.words,
        currency=made.currency,
        buy_below=None if made.buy_below is None else float(made.buy_below),
        trim_above=None if made.trim_above is None else float(made.trim_above),
        next_look=made.next_look,
        pros=made.pros,
        cons=made.cons,
        risks=made.risks,
        expectations=[_expected(e, made.currency) for e in made.expectations],
        strains=[_strained(s) for s in made.strains],
        disagreements=made.disagreements,
        looked_back=made.looked_back,
        kept=made.kept,
        figures=made.frozen,
    )


def _expected(held: Mapping[str, Any], currency: str) -> str:
    e = expectation_of(held)
    side = "at least" if e.side is Side.AT_LEAST else "at most"
    if e.way is Way.GROWTH:
        return f"{e.spec.name} grows {side} {show(e.value, 'fraction')} a year to {day(e.until)}"
    when = "until" if e.way is Way.THROUGHOUT else "by"
    return (
        f"{e.spec.name} {side} {show(e.value, e.spec.unit.value, currency)} {when} {day(e.until)}"
    )


def _strained(said: Mapping[str, Any]) -> str:
    """A strain as it was kept."""
    if said.get("refused"):
        return f"{said['name']}: {said['refused']}"
    first = f"; first to give: {said['first']}" if said.get("first") else ""
    gives = said.get("gives_at")
    at = f"; a test gives at a fall of {show(gives, 'fraction')}" if gives is not None else ""
    state = f": {said['state']}" if said.get("state") else ""
    return f"{said['name']} ({said.get('words') or 'as kept'}){state}{first}{at}"
