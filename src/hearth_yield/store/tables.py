"""The tables. Every fact carries the source it came from and the day it became known."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from sqlalchemy import (
    JSON,
    BigInteger,
    Boolean,
    CheckConstraint,
    Column,
    ForeignKey,
    Index,
    Integer,
    MetaData,
    Table,
    Text,
    UniqueConstraint,
    text,
)
from sqlalchemy.schema import SchemaItem
from sqlalchemy.types import REAL, TypeEngine

from hearth_yield.core.facts import columns as facts
from hearth_yield.core.facts.columns import Type
from hearth_yield.core.facts.tables import TABLES, FactTable
from hearth_yield.core.household.entries import CostMethod, EntryKind

from .types import DecimalText, ExactDecimal, IsoDate

metadata = MetaData(
    naming_convention={
        "ix": "ix_%(column_0_N_label)s",
        "uq": "uq_%(table_name)s_%(column_0_N_name)s",
        "ck": "ck_%(table_name)s_%(constraint_name)s",
        "fk": "fk_%(table_name)s_%(column_0_N_name)s",
        "pk": "pk_%(table_name)s",
    }
)


def _one_of(name: str, *values: str) -> CheckConstraint:
    listed = ", ".join(f"'{v}'" for v in values)
    return CheckConstraint(f"{name} IN ({listed})", name=name)


def _source_id() -> Column[int]:
    """Indexed so that an import is undone at once, whatever else is held."""
    return Column("source_id", ForeignKey("source.id"), nullable=False, index=True)


source = Table(
    "source",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("kind", Text, nullable=False),
    Column("file_name", Text, nullable=False),
    Column("sha256", Text),
    Column("added_at", Text, nullable=False),
    Column("rows_added", Integer, nullable=False, default=0),
    Column("rows_changed", Integer, nullable=False, default=0),
    Column("undone_at", Text),
    Column("feed_after", BigInteger),
    Column("feed_last", BigInteger),
    _one_of("kind", "import", "feed", "manual", "demo"),
)

source_change = Table(
    "source_change",
    metadata,
    Column("id", Integer, primary_key=True),
    _source_id(),
    Column("table_name", Text, nullable=False),
    Column("row_key", JSON, nullable=False),
    Column("before", JSON, nullable=False),
    Column("before_source_id", ForeignKey("source.id"), nullable=False, index=True),
)
"""What a source's rows said before a later source changed them, so that it can be undone."""


def _facts(table: FactTable) -> Table:
    """As declared: rows by number, or, of very many small ones, by their key."""
    owner = TABLES[table.owner].held if table.owner else ""
    key = (f"{owner}_id", *table.key) if owner else table.key
    own: list[Column[Any]] = [_held(c, table.by_key and c.name in key) for c in table.stored]
    if owner:
        to = ForeignKey(f"{owner}.id")
        own.insert(0, Column(key[0], to, nullable=False, primary_key=table.by_key))
    parts: list[SchemaItem] = [_one_of(c.name, *c.choices) for c in table.stored if c.guarded]
    if not table.by_key:
        own.insert(0, Column("id", Integer, primary_key=True))
        parts.append(UniqueConstraint(*key))
    return Table(
        table.held,
        metadata,
        *own,
        _source_id(),
        *parts,
        sqlite_with_rowid=not table.by_key,
        sqlite_strict=table.by_key,
    )


def _type(column: facts.Column) -> TypeEngine[Any] | type[TypeEngine[Any]]:
    if column.type is Type.EXACT:
        return DecimalText() if column.places is None else ExactDecimal(column.places)
    return _TYPES.get(column.type, Text)


_TYPES: Mapping[Type, type[TypeEngine[Any]]] = {
    Type.DATE: IsoDate,
    Type.NUMBER: REAL,
    Type.INTEGER: Integer,
}


def _held(column: facts.Column, in_key: bool) -> Column[Any]:
    return Column(
        column.name,
        _type(column),
        primary_key=in_key,
        nullable=not (column.required or column.empty is not None),
        index=column.sought or None,
        default=column.empty,
    )


FACTS: Mapping[str, Table] = {name: _facts(table) for name, table in TABLES.items()}
"""Of each table of facts the one that holds it."""

payer = FACTS["payers"]
payer_note = FACTS["payer_notes"]
dividend = FACTS["dividends"]
dividend_notice = FACTS["dividend_notices"]
split = FACTS["splits"]
price = FACTS["prices"]
statement = FACTS["statements"]
estimate = FACTS["estimates"]
guidance = FACTS["guidance"]
exposure = FACTS["exposures"]
series = FACTS["series"]
series_point = FACTS["series_points"]
slump = FACTS["slumps"]

product_state = Table(
    "product_state",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("revision", Integer, nullable=False),
    Column("pinned_today", IsoDate),
    Column("kept_revision", Integer, nullable=False, default=0, server_default="0"),
    Column("calendar_secret", Text),
    Column("ledger", Integer, nullable=False, default=0, server_default="0"),
    Column("home", Text),
    CheckConstraint("id = 1", name="one_row"),
)
"""One row. revision grows with every change of facts, kept_revision with every change of what is
kept ready, ledger with every change of what a person owns; pinned_today holds a demo on its day;
calendar_secret is part of the address that a calendar asks; home is the currency in which a person
wants sums."""

decision = Table(
    "decision",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("symbol", Text, nullable=False),
    Column("exchange", Text, nullable=False),
    Column("as_of", IsoDate, nullable=False),
    Column("recorded_at", Text, nullable=False),
    Column("verdict", Text, nullable=False),
    Column("words", Text, nullable=False),
    Column("buy_below", ExactDecimal),
    Column("currency", Text, nullable=False),
    Column("state", Text),
    Column("first_to_give", Text),
    Column("frozen", JSON, nullable=False),
    Column("withdrawn", Boolean, nullable=False, default=False),
    Column("intention", Text, unique=True),
    Column("question", JSON, nullable=False, server_default=text("'{}'")),
    Column("strains", JSON, nullable=False, server_default=text("'[]'")),
    Column("disagreements", JSON, nullable=False, server_default=text("'{}'")),
    Column("pros", Text, nullable=False, server_default=""),
    Column("cons", Text, nullable=False, server_default=""),
    Column("risks", Text, nullable=False, server_default=""),
    Column("trim_above", ExactDecimal),
    Column("next_look", IsoDate),
    Column("expectations", JSON, nullable=False, server_default=text("'[]'")),
    Column("looked_back", Text, nullable=False, server_default=""),
    Column("kept", JSON, nullable=False, server_default=text("'{}'")),
    Index("ix_decision_payer", "exchange", "symbol", "as_of"),
    _one_of("verdict", "buy", "hold", "wait", "trim", "avoid"),
)
"""Kept by symbol, not by payer row: undoing an import must not take a decision with it."""

watched = Table(
    "watched",
    metadata,
    Column("exchange", Text, primary_key=True),
    Column("symbol", Text, primary_key=True),
    Column("note", Text, nullable=False),
    Column("group_name", Text, nullable=False),
    Column("kept_at", Text, nullable=False),
)
"""Payers that a person watches with a note or in a group, by symbol."""

house_rules = Table(
    "house_rules",
    metadata,
    Column("version", Integer, primary_key=True),
    Column("made_at", Text, nullable=False),
    Column("body", JSON, nullable=False),
    Column("note", Text, nullable=False, server_default=""),
)
"""Every version of the person's rules, as far as they differ from the house's own; the newest
counts."""

DERIVED: dict[str, Any] = {"derived": True}
"""Marks tables that can be computed again: a backup leaves them out."""

payer_change = Table(
    "payer_change",
    metadata,
    Column("payer_id", ForeignKey("payer.id", ondelete="CASCADE"), primary_key=True),
    Column("revision", Integer, nullable=False),
    info=DERIVED,
)
"""The revision at which a payer's facts last changed."""

signal = Table(
    "signal",
    metadata,
    Column("payer_id", ForeignKey("payer.id", ondelete="CASCADE"), primary_key=True),
    Column("kind", Text, primary_key=True),
    Column("event", Text, primary_key=True),
    Column("day", IsoDate, nullable=False),
    Column("stage", Text, nullable=False),
    Column("said", JSON, nullable=False),
    Index("ix_signal_day", "day"),
    info=DERIVED,
)
"""What happened that a person wants to hear of, each event once."""

signal_state = Table(
    "signal_state",
    metadata,
    Column("payer_id", ForeignKey("payer.id", ondelete="CASCADE"), primary_key=True),
    Column("ground", Text, nullable=False),
    Column("through", IsoDate, nullable=False),
    Column("since", IsoDate),
    info=DERIVED,
)
"""Up to which day a payer's signals are made, and on what ground; since: the first day from which
facts have changed after that."""

seen_signal = Table(
    "seen_signal",
    metadata,
    Column("exchange", Text, primary_key=True),
    Column("symbol", Text, primary_key=True),
    Column("kind", Text, primary_key=True),
    Column("event", Text, primary_key=True),
    Column("seen_at", Text, nullable=False),
)
"""Events that a person has seen, by symbol: an import that is undone and comes again is no news."""

kept_measures = Table(
    "kept_measures",
    metadata,
    Column("payer_id", ForeignKey("payer.id", ondelete="CASCADE"), primary_key=True),
    Column("as_of", IsoDate, primary_key=True),
    Column("facts_revision", Integer, nullable=False),
    Column("made_with", Text, nullable=False),
    Column("body", Text, nullable=False),
    info=DERIVED,
)
"""One payer's measures on one day, made from its facts at a revision and with rules and method
whose fingerprint is made_with."""

kept_past = Table(
    "kept_past",
    metadata,
    Column("payer_id", ForeignKey("payer.id", ondelete="CASCADE"), primary_key=True),
    Column("as_of", IsoDate, primary_key=True),
    Column("facts_revision", Integer, nullable=False),
    Column("method", Text, nullable=False),
    Column("body", Text, nullable=False),
    info=DERIVED,
)
"""One payer's tested measures at every year end before a day, whatever the rules."""

edit = Table(
    "edit",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("exchange", Text, nullable=False),
    Column("symbol", Text, nullable=False),
    Column("table_name", Text, nullable=False),
    Column("row_key", JSON, nullable=False),
    Column("field", Text, nullable=False),
    Column("original", REAL),
    Column("value", REAL, nullable=False),
    Column("reason", Text, nullable=False),
    Column("made_at", Text, nullable=False),
    Column("withdrawn_at", Text),
    Index("ix_edit_payer", "exchange", "symbol"),
)
"""A figure replaced by the person, or a fiscal year excluded on one basis; the fact itself is
untouched. Kept by symbol, as decisions are."""

source_warning = Table(
    "source_warning",
    metadata,
    Column("id", Integer, primary_key=True),
    _source_id(),
    Column("file", Text, nullable=False),
    Column("line", Integer),
    Column("column", Text),
    Column("value", Text),
    Column("expected", Text, nullable=False),
)
"""What a person accepted when a source was brought in."""


def _named_questions(name: str) -> Table:
    """Questions kept under a name. Kept by symbol, as decisions are."""
    return Table(
        name,
        metadata,
        Column("id", Integer, primary_key=True),
        Column("exchange", Text, nullable=False),
        Column("symbol", Text, nullable=False),
        Column("name", Text, nullable=False),
        Column("question", JSON, nullable=False),
        Column("kept_at", Text, nullable=False),
        UniqueConstraint("exchange", "symbol", "name"),
    )


kept_strain = _named_questions("kept_strain")
worth_case = _named_questions("worth_case")

price_line = Table(
    "price_line",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("exchange", Text, nullable=False),
    Column("symbol", Text, nullable=False),
    Column("name", Text, nullable=False),
    Column("first_day", IsoDate, nullable=False),
    Column("first_price", REAL, nullable=False),
    Column("last_day", IsoDate, nullable=False),
    Column("last_price", REAL, nullable=False),
    Column("drawn_on", IsoDate, nullable=False),
    Index("ix_price_line_payer", "exchange", "symbol"),
)
"""A level or line that a person drew on a price, in the shares of the day it was drawn on. Kept by
symbol, as decisions are."""

entry_step = Table(
    "entry_step",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("exchange", Text, nullable=False),
    Column("symbol", Text, nullable=False),
    Column("quantity", Text, nullable=False),
    Column("target", REAL, nullable=False),
    Column("amount", ExactDecimal, nullable=False),
    Column("kept_on", IsoDate, nullable=False),
    Index("ix_entry_step_payer", "exchange", "symbol"),
)
"""A value of a quantity at which a person would put an amount in. Kept by symbol, as decisions
are."""

account = Table(
    "account",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("name", Text, nullable=False),
    Column("currency", Text, nullable=False),
    Column("sheltered", Boolean, nullable=False),
    Column("method", Text, nullable=False),
    Column("keeps_cash", Boolean, nullable=False),
    Column("entered_from", IsoDate),
    Column("closed_on", IsoDate),
    Column("source_id", ForeignKey("source.id")),
    Column("made_at", Text, nullable=False),
    Column("deleted_at", Text),
    _one_of("method", *CostMethod),
)

entered_since = Table(
    "entered_since",
    metadata,
    Column("source_id", ForeignKey("source.id"), primary_key=True),
    Column("account_id", ForeignKey("account.id"), primary_key=True),
    Column("day", IsoDate, nullable=False),
)
"""From which day an import enters an account's dividends, where the account itself says none, or a
later one."""

entry = Table(
    "entry",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("account_id", ForeignKey("account.id"), nullable=False, index=True),
    Column("kind", Text, nullable=False),
    Column("day", IsoDate, nullable=False, index=True),
    Column("exchange", Text),
    Column("symbol", Text),
    Column("shares", BigInteger),
    Column("price", DecimalText),
    Column("amount", BigInteger),
    Column("currency", Text, nullable=False),
    *(
        Column(name, BigInteger, nullable=False, server_default="0")
        for name in ("fee", "tax", "withheld", "returned")
    ),
    Column("spent", BigInteger),
    Column("settled", BigInteger),
    Column("bought", IsoDate),
    Column("chosen", JSON, nullable=False, server_default=text("'[]'")),
    Column("to_id", ForeignKey("account.id")),
    Column("into_exchange", Text),
    Column("into_symbol", Text),
    *(Column(name, DecimalText) for name in ("new", "old", "cash", "moves")),
    Column("into_amount", BigInteger),
    Column("into_currency", Text),
    Column("note", Text, nullable=False, server_default=""),
    Column("reference", Text),
    Column("source_id", ForeignKey("source.id"), index=True),
    Column("made_at", Text, nullable=False),
    Column("deleted_at", Text),
    Column("intention", Text, unique=True),
    Index("ix_entry_payer", "exchange", "symbol"),
    _one_of("kind", *EntryKind),
)
"""A line of the ledger: shares in units of 10⁻⁸, money in minor units, prices and terms as typed.
It names its payer by symbol, as decisions do. source_id: none for what was typed. reference: what
an institution calls it. A deleted one is kept, so that it stays away when its file comes again."""

former_entry = Table(
    "former_entry",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("entry_id", ForeignKey("entry.id", ondelete="CASCADE"), nullable=False, index=True),
    Column("said", JSON, nullable=False),
    Column("until", Text, nullable=False),
)
"""What an entry said before it was changed."""

explained_payment = Table(
    "explained_payment",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("account_id", ForeignKey("account.id"), nullable=False),
    Column("exchange", Text, nullable=False),
    Column("symbol", Text, nullable=False),
    Column("ex_date", IsoDate, nullable=False),
    Column("words", Text, nullable=False),
    Column("made_at", Text, nullable=False),
    UniqueConstraint("account_id", "exchange", "symbol", "ex_date"),
)
"""Why a payment did not come, or not in full, in the person's words."""

disagreement = Table(
    "disagreement",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("exchange", Text, nullable=False),
    Column("symbol", Text, nullable=False),
    Column("stage", Text, nullable=False),
    Column("words", Text, nullable=False),
    Column("made_at", Text, nullable=False),
    UniqueConstraint("exchange", "symbol", "stage"),
)
"""That a person disagrees with what a stage found of a payer. Kept by symbol, as decisions are."""

saved_view = Table(
    "saved_view",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("kind", Text, nullable=False),
    Column("name", Text, nullable=False),
    Column("body", JSON, nullable=False),
    UniqueConstraint("kind", "name"),
    _one_of("kind", "search", "columns", "comparison"),
)
"""What a person named to come back to: a search over the payers, a set of columns, or payers and
measures to compare."""

import_profile = Table(
    "import_profile",
    metadata,
    Column("id", Integer, primary_key=True),
    Column("name", Text, nullable=False, unique=True),
    Column("tables", JSON, nullable=False),
    Column("kept_on", Text, nullable=False),
)
"""How files of one sort are read: of each table in it the headings that tell it and what was
settled."""
