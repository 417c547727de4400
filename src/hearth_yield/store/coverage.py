"""What is held of each payer, by kind of fact: how much, from when to when, from whose hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date

import numpy as np
from sqlalchemy import ColumnElement, Connection, Table, Text, case, func, select, type_coerce

from . import tables as t
from .payer_files import named_like

COUNTED: dict[str, tuple[Table, str]] = {
    "prices": (t.price, "day"),
    "dividends": (t.dividend, "ex_date"),
    "estimates": (t.estimate, "published_on"),
    "guidance": (t.guidance, "published_on"),
    "exposures": (t.exposure, "published_on"),
    "payer_notes": (t.payer_note, "published_on"),
}
"""Kinds of fact with the date they are placed by; statements are told apart by span."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """by_hand: some of it was entered by a person. sources: ids of those it comes from."""

    count: int
    first: date
    newest: date
    by_hand: bool
    sources: tuple[int, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class SeriesCoverage:
    """What is held of one series. published: when its newest point was."""

    code: str
    kind: str
    name: str
    currency: str
    of_currency: str | None
    span: Span
    published: date


@dataclass(frozen=True, slots=True, kw_only=True)
class Coverage:
    """ends: period ends held, by span. price_gap: the longest time between two closes, in days.
    edited: how many edits stand."""

    exchange: str
    symbol: str
    name: str
    listed_on: date | None
    delisted_on: date | None
    spans: Mapping[str, Span] = field(default_factory=dict)
    ends: Mapping[str, Sequence[date]] = field(default_factory=dict)
    price_gap: int = 0
    edited: int = 0


def count(connection: Connection, words: str) -> int:
    """Payers that hold every word."""
    return (
        connection.scalar(select(func.count()).select_from(t.payer).where(*named_like(words))) or 0
    )


def of_payers(connection: Connection, words: str, first: int, size: int) -> Sequence[Coverage]:
    """A window of the payers that hold every word, by name."""
    p = t.payer.c
    payers = connection.execute(
        select(p.id, p.exchange, p.symbol, p.name, p.listed_on, p.delisted_on)
        .where(*named_like(words))
        .order_by(p.name, p.exchange, p.symbol)
        .offset(first)
        .limit(size)
    ).all()
    ids = [r.id for r in payers]
    spans = _spans(connection, ids)
    ends = _ends(connection, ids, spans)
    gaps = _price_gaps(connection, ids)
    a = t.edit.c
    edited = {
        (exchange, symbol): n
        for exchange, symbol, n in connection.execute(
            select(a.exchange, a.symbol, func.count())
            .where(a.withdrawn_at.is_(None))
            .group_by(a.exchange, a.symbol)
        )
    }
    return [
        Coverage(
            exchange=r.exchange,
            symbol=r.symbol,
            name=r.name,
            listed_on=r.listed_on,
            delisted_on=r.delisted_on,
            spans=spans.get(r.id, {}),
            ends=ends.get(r.id, {}),
            price_gap=gaps.get(r.id, 0),
            edited=edited.get((r.exchange, r.symbol), 0),
        )
        for r in payers
    ]


def _by_hand(source_id: ColumnElement[int]) -> ColumnElement[int]:
    manual = select(t.source.c.id).where(t.source.c.kind == "manual").scalar_subquery()
    return func.max(case((source_id.in_(manual), 1), else_=0))


def _ids_in(text: str) -> tuple[int, ...]:
    """The ids that group_concat put into a row."""
    return tuple(sorted(int(i) for i in text.split(",")))


def of_series(connection: Connection) -> Sequence[SeriesCoverage]:
    """Every series that has points, by kind and code."""
    s, p = t.series.c, t.series_point.c
    rows = connection.execute(
        select(
            s.code,
            s.kind,
            s.name,
            s.currency,
            s.of_currency,
            func.count(),
            func.min(p.day),
            func.max(p.day),
            func.max(p.published_on),
            _by_hand(p.source_id),
            func.group_concat(p.source_id.distinct()),
        )
        .join(t.series_point, p.series_id == s.id)
        .group_by(s.id)
        .order_by(s.kind, s.code)
    )
    return [
        SeriesCoverage(
            code=code,
            kind=kind,
            name=name,
            currency=currency,
            of_currency=other,
            span=Span(
                count=n, first=first, newest=newest, by_hand=bool(hand), sources=_ids_in(ids)
            ),
            published=published,
        )
        for code, kind, name, currency, other, n, first, newest, published, hand, ids in rows
    ]


def _spans(connection: Connection, ids: Sequence[int]) -> dict[int, dict[str, Span]]:
    found: dict[int, dict[str, Span]] = {}
    for name, (table, column) in COUNTED.items():
        c = table.c
        rows = connection.execute(
            select(
                c.payer_id,
                func.count(),
                func.min(c[column]),
                func.max(c[column]),
                _by_hand(c.source_id),
                func.group_concat(c.source_id.distinct()),
            )
            .where(c.payer_id.in_(ids))
            .group_by(c.payer_id)
        )
        for id, n, first, newest, by_hand, sources in rows:
            found.setdefault(id, {})[name] = Span(
                count=n, first=first, newest=newest, by_hand=bool(by_hand), sources=_ids_in(sources)
            )
    return found


def _ends(
    connection: Connection, ids: Sequence[int], spans: dict[int, dict[str, Span]]
) -> dict[int, dict[str, list[date]]]:
    """Period ends by span; the counts of years and of shorter periods go to the spans."""
    s = t.statement.c
    rows = connection.execute(
        select(
            s.payer_id,
            s.span,
            s.period_end,
            _by_hand(s.source_id),
            func.group_concat(s.source_id.distinct()),
        )
        .where(s.payer_id.in_(ids))
        .group_by(s.payer_id, s.span, s.period_end)
        .order_by(s.period_end)
    )
    found: dict[int, dict[str, list[date]]] = {}
    hands: dict[tuple[int, str], bool] = {}
    origins: dict[tuple[int, str], set[int]] = {}
    for id, span, end, by_hand, sources in rows:
        found.setdefault(id, {}).setdefault(span, []).append(end)
        hands[id, span] = hands.get((id, span), False) or bool(by_hand)
        origins.setdefault((id, span), set()).update(_ids_in(sources))
    for id, by_span in found.items():
        for span, ends in by_span.items():
            name = "years" if span == "year" else "quarters"
            mine = Span(
                count=len(ends),
                first=ends[0],
                newest=ends[-1],
                by_hand=hands[id, span],
                sources=tuple(sorted(origins[id, span])),
            )
            other = spans.setdefault(id, {}).get(name)
            spans[id][name] = mine if other is None else _together(other, mine)
    return found


def _together(a: Span, b: Span) -> Span:
    """Quarters and halves of one payer."""
    return Span(
        count=a.count + b.count,
        first=min(a.first, b.first),
        newest=max(a.newest, b.newest),
        by_hand=a.by_hand or b.by_hand,
        sources=tuple(sorted({*a.sources, *b.sources})),
    )


def _price_gaps(connection: Connection, ids: Sequence[int]) -> dict[int, int]:
    """The longest time between two closes of each payer, in days. All days of a payer come as one
    text of days of one length, which is told apart at once: a fifth of what single rows take."""
    p = t.price.c
    query = (
        select(p.payer_id, func.group_concat(type_coerce(p.day, Text)))
        .where(p.payer_id.in_(ids))
        .group_by(p.payer_id)
    )
    return {id: _widest(text) for id, text in connection.execute(query)}


def _widest(text: str) -> int:
    """text: ISO days with commas between."""
    days = np.frombuffer(f"{text},".encode(), dtype="S11").astype("S10").astype("datetime64[D]")
    return int(np.diff(np.sort(days)).astype(np.int64).max(initial=0))


def usual_payer(connection: Connection) -> dict[str, str]:
    """The exchange, country and currency that most payers have together; empty without any."""
    p = t.payer.c
    query = (
        select(p.exchange, p.country, p.currency)
        .group_by(p.exchange, p.country, p.currency)
        .order_by(func.count().desc(), p.exchange)
        .limit(1)
    )
    row = connection.execute(query).mappings().first()
    return dict(row) if row else {}
