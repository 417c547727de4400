"""What Cover measures: on the leading basis of whatever kind a payer is, and on every basis."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from ..facts.statements import words
from ..figures.figure import Figure, Unit, unknown
from ..figures.measure import (
    AmongPeers,
    Direction,
    End,
    Key,
    Limit,
    Measure,
    Sentence,
    Stage,
    TestSpec,
    Usual,
    advisory,
    every_kind,
    measure,
    required,
)
from ..figures.ties import same
from ..kinds import Kind
from .bases import Basis
from .cover import BasisCover, Cover

NAMES = {
    Basis.FREE_CASH_FLOW: "FCF",
    Basis.EARNINGS: "Earnings",
    Basis.OPERATING_CASH_FLOW: "Operating cash",
    Basis.AFFO: "AFFO",
    Basis.FFO: "FFO",
    Basis.DISTRIBUTABLE_CASH: "Distributable cash",
}
BRIEF = {Basis.FREE_CASH_FLOW: "FCF", Basis.DISTRIBUTABLE_CASH: "distributable"}
"""Where there is little room, and the words are long."""

Read = Callable[[BasisCover], Figure | None]
Say = Callable[[Cover, BasisCover], Sentence]


NOW = "How much of a year’s cash or earnings the declared rate may take."
CYCLE = "How much of five years’ cash or earnings together it may take."
AHEAD = "How much of what analysts expect of the year ahead the declared rate may take."
PAID = "How much of its latest fiscal year’s cash or earnings was allowed to be paid out."


def brief(cover: Cover) -> str:
    basis = cover.leading.basis
    return BRIEF.get(basis, words(basis))


def _in(period: str, name: str, unit: Unit) -> Read:
    """A figure of one of the basis's periods; unknown where there is none."""

    def read(on: BasisCover) -> Figure:
        held = getattr(on, period)
        if held is None:
            label = f"{words(on.basis)} {name.replace('_', ' ')}"
            return unknown(label, unit, "no fiscal year is held")
        figure: Figure = getattr(held, name)
        return figure

    return read


def _declared_on(cover: Cover, _: BasisCover) -> Sentence:
    return (f"on the last {'fiscal year' if cover.trailing_note else '12 months'}",)


def _as_paid(_: Cover, on: BasisCover) -> Sentence:
    """What was paid through the cycle, where it differs from what is promised now."""
    now, paid = on.through_cycle, on.through_cycle_paid
    if now.value is None or paid.value is None or same(now.value, paid.value):
        return ()
    return (paid, " as paid")


def _overpaid(_: Cover, on: BasisCover) -> Sentence:
    return (on.overpaid, f" {on.overpaid.period} overpaid") if on.overpaid.value else ()


def _year(_: Cover, on: BasisCover) -> Sentence:
    return (on.latest.label,) if on.latest else ()


def _ahead(_: Cover, on: BasisCover) -> Sentence:
    """The year, and of how many analysts, as the estimate says."""
    if on.forward is None or not on.forward.known:
        return ()
    counted = [n for i in on.forward.inputs for n in _told(i) if n.startswith("of ")]
    return (", ".join((on.forward.period or "", *counted[:1])),)


def _told(figure: Figure) -> tuple[str, ...]:
    return (*figure.notes, *(n for i in figure.inputs for n in i.notes))


def _newest(_: Cover, on: BasisCover) -> Sentence:
    return (on.newest.label,) if on.newest else ()


def _cap(
    short: Callable[[Cover], str],
    falls: Callable[[Cover], str],
    limits: Mapping[Kind, Limit],
    means: str,
) -> TestSpec:
    return TestSpec(direction=Direction.CAP, limits=limits, short=short, falls=falls, means=means)


def _leading_cap(ending: str, kind: Callable[[float], Limit], means: str) -> TestSpec:
    """Of a payout on the leading basis, which every kind has its own limit for."""
    limits = {
        Kind.COMPANY: 0.60,
        Kind.PROPERTY_TRUST: 0.85,
        Kind.PARTNERSHIP: 0.90,
        Kind.FINANCIAL: 0.60,
    }
    return _cap(
        lambda cover: f"{brief(cover)} payout{ending}",
        lambda cover: words(cover.leading.basis),
        {k: kind(v) for k, v in limits.items()},
        means,
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Row:
    """What Cover says of a basis. id, name: on the leading basis; end, ending: of its id and name
    on a named one. better: the end of it that is, of a payout the lower. more, on: what else is
    declared of it, on the leading basis and on others."""

    id: str
    name: str
    end: str
    ending: str
    read: Read
    unit: Unit = Unit.FRACTION
    payout: bool = False
    better: End = "high"
    key: tuple[str, Say] | None = None
    more: Mapping[str, Any] = field(default_factory=dict)
    on: Mapping[Basis, Mapping[str, Any]] = field(default_factory=dict)


_ROWS = (
    _Row(
        id="payout",
        name="Payout, leading basis",
        end="payout",
        ending=" payout",
        payout=True,
        read=lambda b: b.declared,
        key=("Payout at the declared rate", _declared_on),
        more={
            "test": _leading_cap("", required, NOW),
            "columns": {"overview": 60, "cover": 10},
            "compared": {"cover": 10},
            "peers": AmongPeers(place=10, words="a lower payout"),
            "usual": Usual(name="payout", way="throughout"),
        },
        on={
            Basis.EARNINGS: {
                "test": _cap(
                    lambda _: "earnings payout",
                    lambda _: "earnings",
                    {Kind.COMPANY: required(0.60)},
                    "How much of its earnings the declared rate may take.",
                ),
                "columns": {"cover": 50},
            },
            Basis.FREE_CASH_FLOW: {
                "test": _cap(
                    lambda _: "FCF payout",
                    lambda _: "free cash flow",
                    {Kind.PARTNERSHIP: advisory(1.00)},
                    "How much of its free cash flow the declared rate may take.",
                ),
                "columns": {"cover": 60},
            },
        },
    ),
    _Row(
        id="payout_cycle",
        name="Payout, cycle",
        end="cycle",
        ending=" payout, cycle",
        payout=True,
        read=lambda b: b.through_cycle,
        key=("Through the cycle", _as_paid),
        more={
            "test": _leading_cap(", cycle", required, CYCLE),
            "columns": {"cover": 30},
            "compared": {"overview": 50, "cover": 20},
            "peers": AmongPeers(place=20, words="a lower payout through the cycle"),
        },
    ),
    _Row(
        id="payout_forward",
        name="Payout, forward",
        end="forward",
        ending=" payout, forward",
        payout=True,
        read=lambda b: b.forward,
        key=("Forward, on estimates", _ahead),
        more={"columns": {"cover": 35}, "compared": {"cover": 30}},
        on={
            Basis.EARNINGS: {
                "test": _cap(
                    lambda _: "forward payout",
                    lambda _: "expected earnings",
                    {Kind.COMPANY: advisory(0.60), Kind.FINANCIAL: advisory(0.60)},
                    AHEAD,
                )
            },
            Basis.AFFO: {
                "test": _cap(
                    lambda _: "forward payout",
                    lambda _: "expected AFFO",
                    {Kind.PROPERTY_TRUST: advisory(0.85)},
                    AHEAD,
                )
            },
        },
    ),
    _Row(
        id="payout_worst",
        name="Payout, worst of ten",
        end="worst",
        ending=" payout, worst of ten",
        payout=True,
        read=lambda b: b.worst_of_ten,
        key=("Worst of ten years", _overpaid),
        more={"columns": {"cover": 40}, "compared": {"cover": 40}},
    ),
    _Row(
        id="payout_paid",
        name="Payout, as paid",
        end="paid",
        ending=" payout, as paid",
        payout=True,
        read=_in("latest", "payout", Unit.FRACTION),
        key=("As paid", _year),
        more={"test": _leading_cap(", as paid", advisory, PAID), "columns": {"cover": 20}},
    ),
    _Row(
        id="payout_cycle_paid",
        name="Payout, cycle, as paid",
        end="cycle_paid",
        ending=" payout, cycle, as paid",
        payout=True,
        read=lambda b: b.through_cycle_paid,
    ),
    _Row(
        id="payout_trailing",
        name="Payout, 12 months",
        end="trailing",
        ending=" payout, 12 months",
        payout=True,
        read=_in("trailing", "payout", Unit.FRACTION),
    ),
    _Row(
        id="left",
        name="Left after the dividend",
        end="left",
        ending=" left after the dividend",
        unit=Unit.MONEY,
        read=_in("newest", "left", Unit.MONEY),
        key=("Left after the dividend", _newest),
    ),
    _Row(
        id="left_after_buybacks",
        name="Left after buybacks too",
        end="left_after_buybacks",
        ending=" left after buybacks too",
        unit=Unit.MONEY,
        read=_in("newest", "left_after_buybacks", Unit.MONEY),
        key=("Left after buybacks too", _newest),
    ),
    _Row(
        id="cash_per_share",
        name="Leading basis per share",
        end="per_share",
        ending=" per share",
        unit=Unit.PER_SHARE,
        better="neither",
        read=_in("latest", "per_share", Unit.PER_SHARE),
    ),
    _Row(
        id="per_share_trend",
        name="Cash per share, trend",
        end="trend",
        ending=" per share, trend",
        read=lambda b: b.per_share_trend,
        more={
            "test": TestSpec(
                direction=Direction.PASS,
                limits=every_kind(advisory(0.0)),
                short=lambda cover: f"{brief(cover)} trend",
                means="Over five years its cash per share should not have shrunk.",
            ),
            "columns": {"cover": 70},
            "compared": {"cover": 50},
        },
    ),
    _Row(
        id="overpaid",
        name="Years overpaid, of ten",
        end="overpaid",
        ending=", years overpaid",
        unit=Unit.COUNT,
        better="low",
        read=lambda b: b.overpaid,
        more={"compared": {"cover": 60}},
    ),
)


MATRIX = (
    ("At the declared rate", "payout"),
    ("Last 12 months", "trailing"),
    ("Latest year, as paid", "paid"),
    ("Forward, on estimates", "forward"),
    ("Through the cycle", "cycle"),
    ("Through the cycle, as paid", "cycle_paid"),
    ("Worst of ten", "worst"),
)
"""The payouts of a basis side by side: a column's head, and the end of the measure's id."""


def id_on(basis: Basis, end: str) -> str:
    """The id of an entry on a named basis."""
    return f"{basis.value}_{end}"


def _declared(entry: _Row, basis: Basis | None) -> Measure:
    """One entry, on the leading basis or on a named one."""

    def on(cover: Cover) -> BasisCover | None:
        return cover.leading if basis is None else cover.of(basis)

    def read(cover: Cover) -> Figure | None:
        held = on(cover)
        return None if held is None else entry.read(held)

    def key(name: str, say: Say) -> Key:
        def note(cover: Cover) -> Sentence:
            held = on(cover)
            return () if held is None else say(cover, held)

        return Key(name=name, note=note)

    return measure(
        Stage.COVER,
        entry.id if basis is None else id_on(basis, entry.end),
        entry.name if basis is None else f"{NAMES[basis]}{entry.ending}",
        entry.unit,
        read,
        signed=not entry.payout,
        better="low" if entry.payout else entry.better,
        breach="above" if entry.payout else None,
        digits=0 if entry.payout else None,
        group=None if basis is None else basis.value,
        key=key(*entry.key) if entry.key and basis is not None else None,
        **(entry.more if basis is None else entry.on.get(basis, {})),
    )


MEASURES: tuple[Measure, ...] = (
    *(_declared(entry, None) for entry in _ROWS),
    *(_declared(entry, basis) for basis in NAMES for entry in _ROWS),
    measure(
        Stage.COVER,
        "net_income",
        "Net income",
        Unit.MONEY,
        lambda cover: cover.net_income,
        signed=True,
        test=TestSpec(
            direction=Direction.PASS,
            strict=True,
            short=lambda _: "net income",
            means="It should have earned something in its latest fiscal year.",
            limits=every_kind(advisory(0.0)) | {Kind.FINANCIAL: required(0.0)},
        ),
    ),
)
PAYOUT = MEASURES[0]
"""The leading payout at the declared rate: what decides first whether a dividend is safe."""
