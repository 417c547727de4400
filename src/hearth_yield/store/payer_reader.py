"""Reading the facts of one payer as they count, table by table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

import numpy as np
from sqlalchemy import (
    ColumnElement,
    Connection,
    Select,
    Table,
    Text,
    bindparam,
    select,
    type_coerce,
)

from hearth_yield.core.facts.edits import Exclusion
from hearth_yield.core.facts.records import (
    Dividend,
    DividendKind,
    Estimate,
    Exposure,
    Guidance,
    Notice,
    NoticeKind,
    PayerNote,
    PriceHistory,
    Split,
)
from hearth_yield.core.facts.statements import STATEMENT_LINES, Lines, Span, Statement, words

from . import tables as t
from .edits import EXCLUDED, Edit, by_row


def _query(table: Table, order: str, *columns: ColumnElement[Any]) -> Select[Any]:
    """One table's rows of the payer asked for, in order; made once, as thousands are loaded."""
    mine = table.c.payer_id == bindparam("payer")
    return select(*columns).where(mine).order_by(table.c[order])


_n, _d, _o, _x, _p, _s, _e, _f, _g = (
    t.payer_note.c,
    t.dividend.c,
    t.dividend_notice.c,
    t.split.c,
    t.price.c,
    t.statement.c,
    t.exposure.c,
    t.estimate.c,
    t.guidance.c,
)
NOTES = _query(t.payer_note, "published_on", _n.field, _n.value, _n.published_on, _n.source_id)
DIVIDENDS = _query(
    t.dividend,
    "ex_date",
    _d.ex_date,
    _d.kind,
    _d.declared_on,
    _d.pay_date,
    _d.amount,
    _d.currency,
    _d.payments_per_year,
    _d.assumed,
    _d.source_id,
)
NOTICES = _query(t.dividend_notice, "declared_on", _o.declared_on, _o.kind, _o.source_id)
SPLITS = _query(
    t.split,
    "effective_on",
    _x.effective_on,
    _x.new_shares,
    _x.old_shares,
    _x.announced_on,
    _x.source_id,
)
PRICES = _query(t.price, "day", type_coerce(_p.day, Text), _p.close, _p.source_id)
STATEMENTS = _query(
    t.statement,
    "period_end",
    _s.period_end,
    _s.span,
    _s.published_on,
    _s.currency,
    _s.assumed,
    _s.source_id,
    *(_s[name] for name in STATEMENT_LINES),
)
EXPOSURES = _query(
    t.exposure,
    "fiscal_year",
    _e.fiscal_year,
    _e.basis,
    _e.name,
    _e.published_on,
    _e.share,
    _e.source_id,
)
ESTIMATES = _query(
    t.estimate,
    "published_on",
    _f.fiscal_year,
    _f.measure,
    type_coerce(_f.published_on, Text),
    _f.mean,
    _f.low,
    _f.high,
    _f.analysts,
    _f.source_id,
)
GUIDANCE = _query(
    t.guidance,
    "published_on",
    _g.fiscal_year,
    _g.measure,
    _g.published_on,
    _g.low,
    _g.high,
    _g.source_id,
)


class PayerReader:
    """Reads the facts of one payer as they count: edited where the person edited them, and
    without those the person excluded, which are named in exclusions."""

    def __init__(
        self, connection: Connection, payer_id: int, by_hand: frozenset[int], edited: Sequence[Edit]
    ) -> None:
        self._connection = connection
        self._payer_id = payer_id
        self._by_hand = by_hand
        self._edited = edited
        self.exclusions: list[Exclusion] = []

    def _rows(self, query: Select[Any]) -> Sequence[Any]:
        return self._connection.execute(query, {"payer": self._payer_id}).all()

    def _plain(self, query: Select[Any]) -> Sequence[Any]:
        """Rows straight from the driver: a row object for each of thousands costs as much."""
        cursor = self._connection.execute(query, {"payer": self._payer_id}).cursor
        return cursor.fetchall() if cursor is not None else []

    def _leave_out(
        self,
        made: Mapping[str, Edit],
        table: str,
        name: str,
        day: date,
        known_on: date,
        kind: str = "",
    ) -> bool:
        """Whether a row's edits leave it out."""
        found = made.get(EXCLUDED)
        if found is not None:
            self.exclusions.append(
                Exclusion(
                    table=table,
                    kind=kind,
                    name=name,
                    day=day,
                    known_on=known_on,
                    reason=found.reason,
                    made_on=found.edited.made_on,
                )
            )
        return found is not None

    def notes(self) -> tuple[PayerNote, ...]:
        changes = by_row(self._edited, "payer_notes")
        rows = self._rows(NOTES)
        return tuple(
            PayerNote(field=f, value=v, published_on=p, source=s, entered=s in self._by_hand)
            for f, v, p, s in rows
            if not self._leave_out(
                changes.get((f, p.isoformat()), {}), "payer_notes", f"{words(f)} “{v}”", p, p
            )
        )

    def dividends(self) -> tuple[Dividend, ...]:
        changes = by_row(self._edited, "dividends")
        rows = self._rows(DIVIDENDS)
        found = []
        for ex, kind, declared, pay, amount, currency, per_year, assumed, source in rows:
            made = changes.get((ex.isoformat(), kind), {}) if changes else {}
            if made:
                name = f"{words(kind)} dividend, ex {ex.isoformat()}"
                if self._leave_out(made, "dividends", name, ex, declared or ex, kind):
                    continue
            changed = made.get("amount")
            found.append(
                Dividend(
                    ex_date=ex,
                    kind=DividendKind(kind),
                    declared_on=declared,
                    pay_date=pay,
                    amount=changed.value if changed else amount,
                    currency=currency,
                    payments_per_year=per_year,
                    source=source,
                    assumed=assumed is not None,
                    entered=source in self._by_hand,
                    edited=changed.edited if changed else None,
                )
            )
        return tuple(found)

    def notices(self) -> tuple[Notice, ...]:
        changes = by_row(self._edited, "dividend_notices")
        rows = self._rows(NOTICES)
        return tuple(
            Notice(declared_on=a, kind=NoticeKind(b), source=c, entered=c in self._by_hand)
            for a, b, c in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "dividend_notices", f"notice “{b}” of {a}", a, a
            )
        )

    def splits(self) -> tuple[Split, ...]:
        changes = by_row(self._edited, "splits")
        rows = self._rows(SPLITS)
        return tuple(
            Split(
                effective_on=a,
                new_shares=b,
                old_shares=c,
                announced_on=d,
                source=e,
                entered=e in self._by_hand,
            )
            for a, b, c, d, e in rows
            if not self._leave_out(
                changes.get((a.isoformat(),), {}), "splits", f"split {b:g} for {c:g} of {a}", a, a
            )
        )

    def prices(self) -> PriceHistory:
        """Days stay text until numpy reads them all at once: ten times faster than date by date."""
        changes = by_row(self._edited, "prices")
        rows = self._plain(PRICES)
        texts, closes, sources = zip(*rows, strict=True) if rows else ((), (), ())
        days = np.array(texts, dtype="datetime64[D]")
        values = np.array(closes, dtype=np.float64)
        origins = np.array(sources, dtype=np.int64)
        counts = np.ones(len(days), dtype=np.bool_)
        edited = {}
        for (text,), made in changes.items():
            day, here = date.fromisoformat(text), days == np.datetime64(text)
            if self._leave_out(made, "prices", f"close of {text}", day, day):
                counts &= ~here
                continue
            values[here] = made["close"].value
            edited[day] = made["close"].edited
        return PriceHistory(
            days=days[counts],
            closes=values[counts],
            sources=origins[counts],
            entered=self._by_hand & frozenset(sources),
            edited=edited,
        )

    def statements(self) -> tuple[Statement, ...]:
        changes = by_row(self._edited, "statements")
        rows = self._rows(STATEMENTS)
        found = []
        for end, span, published, currency, assumed, source, *values in rows:
            key = (end.isoformat(), span, published.isoformat()) if changes else ()
            made = changes.get(key, {})
            lines: Mapping[str, float] = Lines(values)
            if made:
                lines = {**lines, **{n: a.value for n, a in made.items() if n != EXCLUDED}}
            statement = Statement(
                period_end=end,
                span=Span(span),
                published_on=published,
                currency=currency,
                source=source,
                assumed=assumed is not None,
                lines=lines,
                entered=source in self._by_hand,
                edited={n: a.edited for n, a in made.items() if n != EXCLUDED},
            )
            if made:
                name = f"{statement.period}, published {published.isoformat()}"
                if self._leave_out(made, "statements", name, end, published, span):
                    continue
            found.append(statement)
        return tuple(found)

    def exposures(self) -> tuple[Exposure, ...]:
        changes = by_row(self._edited, "exposures")
        found = []
        for year, basis, name, published, share, source in self._rows(EXPOSURES):
            made = changes.get((str(year), basis, name, published.isoformat()), {})
            said = f"{name} of fiscal {year}"
            if made and self._leave_out(made, "exposures", said, published, published, basis):
                continue
            found.append(
                Exposure(
                    fiscal_year=year,
                    basis=basis,
                    name=name,
                    share=share,
                    published_on=published,
                    source=source,
                    entered=source in self._by_hand,
                )
            )
        return tuple(found)

    def estimates(self) -> tuple[Estimate, ...]:
        changes = by_row(self._edited, "estimates")
        found = []
        for year, measure, text, mean, low, high, analysts, source in self._plain(ESTIMATES):
            published = date.fromisoformat(text)
            if changes and self._is_gone(changes, "estimates", year, measure, published):
                continue
            found.append(
                Estimate(
                    fiscal_year=year,
                    measure=measure,
                    published_on=published,
                    mean=mean,
                    low=low,
                    high=high,
                    analysts=analysts,
                    source=source,
                    entered=source in self._by_hand,
                )
            )
        return tuple(found)

    def guidance(self) -> tuple[Guidance, ...]:
        changes = by_row(self._edited, "guidance")
        found = []
        for year, measure, published, low, high, source in self._rows(GUIDANCE):
            if changes and self._is_gone(changes, "guidance", year, measure, published):
                continue
            found.append(
                Guidance(
                    fiscal_year=year,
                    measure=measure,
                    published_on=published,
                    low=low,
                    high=high,
                    source=source,
                    entered=source in self._by_hand,
                )
            )
        return tuple(found)

    def _is_gone(
        self,
        changes: Mapping[tuple[str, ...], Mapping[str, Edit]],
        table: str,
        year: int,
        measure: str,
        published: date,
    ) -> bool:
        made = changes.get((str(year), measure, published.isoformat()), {})
        name = f"{measure.upper()} of fiscal {year}, of {published.isoformat()}"
        return bool(made) and self._leave_out(made, table, name, published, published, measure)
