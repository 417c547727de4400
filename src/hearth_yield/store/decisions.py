"""Decisions: dated, with a frozen copy of the figures they rested on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Any

from sqlalchemy import Connection, insert, select, update

from hearth_yield.core.errors import NotFound

from .tables import decision


@dataclass(frozen=True, slots=True, kw_only=True)
class Decision:
    """question: as asked, in names and texts. frozen: figures by name as they stood, each with
    label, unit, value and reason. intention: the key under which it was asked for. strains: what
    those kept on the payer said; disagreements: the person's words by stage. expectations: as
    said, each with what its measure was; looked_back: a note made afterwards, the only thing of a
    decision that changes. kept: what its memo shows, as it stood."""

    symbol: str
    exchange: str
    as_of: date
    recorded_at: str
    verdict: str
    words: str
    buy_below: Decimal | None
    currency: str
    state: str | None
    first_to_give: str | None
    question: Mapping[str, str]
    frozen: Mapping[str, Mapping[str, Any]]
    intention: str | None = None
    strains: Sequence[Mapping[str, Any]] = ()
    disagreements: Mapping[str, str] = field(default_factory=dict)
    pros: str = ""
    cons: str = ""
    risks: str = ""
    trim_above: Decimal | None = None
    next_look: date | None = None
    expectations: Sequence[Mapping[str, Any]] = ()
    looked_back: str = ""
    kept: Mapping[str, Any] = field(default_factory=dict)

    id: int | None = None

    @property
    def by_models(self) -> bool:
        """Made when the combined value was still the mean of models, not of three answers."""
        valued = self.frozen.get("worth.combined", {}).get("value") is not None
        return valued and not any(name.startswith("worth.worth_of_") for name in self.frozen)


def add(connection: Connection, made: Decision) -> int:
    """The decision's id; one asked for twice under the same key is recorded once."""
    if made.intention is not None:
        query = select(decision.c.id).where(decision.c.intention == made.intention)
        held = connection.scalar(query)
        if held is not None:
            return int(held)
    values = {c: getattr(made, c) for c in Decision.__slots__ if c != "id"}
    values["strains"] = list(made.strains)
    values["expectations"] = list(made.expectations)
    values["kept"] = dict(made.kept)
    result = connection.execute(insert(decision).values(withdrawn=False, **values))
    return int(result.lastrowid)


LISTED = [c for c in Decision.__slots__ if c != "kept"]
"""What lists of decisions read: what a memo shows is read when it is written."""


def of_payer(connection: Connection, exchange: str, symbol: str, as_of: date) -> Sequence[Decision]:
    """Standing decisions made on or before a day, newest first."""
    d = decision.c
    query = select(*(d[c] for c in LISTED)).where(
        d.exchange == exchange, d.symbol == symbol, d.as_of <= as_of, d.withdrawn.is_(False)
    )
    rows = connection.execute(query.order_by(d.as_of.desc(), d.id.desc())).mappings()
    return [Decision(**row) for row in rows]


def all_until(connection: Connection, as_of: date) -> Sequence[Decision]:
    """Standing decisions of all payers made on or before a day, newest first."""
    d = decision.c
    query = select(*(d[c] for c in LISTED)).where(d.as_of <= as_of, d.withdrawn.is_(False))
    rows = connection.execute(query.order_by(d.as_of.desc(), d.id.desc())).mappings()
    return [Decision(**row) for row in rows]


@dataclass(frozen=True, slots=True, kw_only=True)
class Waited:
    """A standing decision as far as something is waited for."""

    id: int
    exchange: str
    symbol: str
    as_of: date
    verdict: str
    buy_below: Decimal | None
    trim_above: Decimal | None
    next_look: date | None
    expectations: Sequence[Mapping[str, Any]]


def waited(connection: Connection, until: date = date.max) -> Sequence[Waited]:
    """Of all standing decisions made on or before a day, newest first."""
    d = decision.c
    query = select(*(d[c] for c in Waited.__slots__)).where(
        d.as_of <= until, d.withdrawn.is_(False)
    )
    rows = connection.execute(query.order_by(d.as_of.desc(), d.id.desc())).mappings()
    return [Waited(**row) for row in rows]


def of_id(connection: Connection, decision_id: int) -> Decision:
    """A decision that stands. Raises NotFound."""
    d = decision.c
    query = select(*(d[c] for c in Decision.__slots__)).where(
        d.id == decision_id, d.withdrawn.is_(False)
    )
    row = connection.execute(query).mappings().first()
    if row is None:
        raise NotFound("no such decision", field="decision", value=decision_id)
    return Decision(**row)


def looked_back(connection: Connection, decision_id: int) -> str:
    """The note made afterwards. Raises NotFound."""
    query = select(decision.c.looked_back).where(decision.c.id == decision_id)
    held = connection.execute(query).scalar_one_or_none()
    if held is None:
        raise NotFound("no such decision", field="decision", value=decision_id)
    return str(held)


def look_back(connection: Connection, decision_id: int, words: str) -> None:
    """Keeps a note made afterwards. Raises NotFound."""
    result = connection.execute(
        update(decision).where(decision.c.id == decision_id).values(looked_back=words)
    )
    if result.rowcount == 0:
        raise NotFound("no such decision", field="decision", value=decision_id)


def set_withdrawn(connection: Connection, decision_id: int, withdrawn: bool) -> None:
    result = connection.execute(
        update(decision).where(decision.c.id == decision_id).values(withdrawn=withdrawn)
    )
    if result.rowcount == 0:
        raise NotFound("no such decision", field="decision", value=decision_id)
