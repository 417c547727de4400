"""What Footing measures: the debt ladder of the balance sheet, and the business behind it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ..figures.figure import Figure, Unit
from ..figures.measure import (
    AmongPeers,
    Direction,
    Key,
    Limit,
    Measure,
    Sentence,
    Stage,
    TestSpec,
    Usual,
    advisory,
    measure,
    required,
)
from ..kinds import JUDGED, Kind
from .balance import Balance, share_cushion
from .business import Business, Course
from .stage import Footing

FRACTION, MULTIPLE = Unit.FRACTION, Unit.MULTIPLE
COMPANY, TRUST, PARTNERS = Kind.COMPANY, Kind.PROPERTY_TRUST, Kind.PARTNERSHIP
WITH_DEBT = frozenset({COMPANY, TRUST, PARTNERS})
"""Kinds that are judged by their debt; a financial's is its trade, and its capital ratio counts."""
EVERY = frozenset(JUDGED)
SHARE_SIZE = ("1 − m(1 − L) ÷ (L(1 − m))", share_cushion)
BALANCE, BUSINESS = "balance", "business"


def _test(
    direction: Direction,
    short: str,
    falls: str,
    limits: Mapping[Kind, Limit],
    means: str,
    **more: Any,
) -> TestSpec:
    return TestSpec(
        direction=direction,
        limits=limits,
        short=lambda _: short,
        falls=lambda _: falls,
        means=means,
        **more,
    )


def _measure(
    id: str,
    name: str,
    unit: Unit,
    read: Callable[[Footing], Figure],
    *,
    kinds: frozenset[Kind] = EVERY,
    key: str | None = None,
    note: Callable[[Footing], Sentence] = lambda _: (),
    **more: Any,
) -> Measure:
    """A measure of the kinds it is used for. key: its name among the key figures."""

    def of(footing: Footing) -> Figure | None:
        return read(footing) if footing.kind in kinds else None

    shown = Key(name=key, note=note) if key else None
    return measure(Stage.FOOTING, id, name, unit, of, key=shown, **more)


def _lower(name: str) -> str:
    return name[0].lower() + name[1:]


def _owed(
    id: str, name: str, unit: Unit, read: Callable[[Balance], Figure], **more: Any
) -> Measure:
    """Off the newest balance sheet."""
    more.setdefault("key", name)
    return _measure(
        id, name, unit, lambda f: f.owed(read, _lower(name), unit), group=BALANCE, **more
    )


def _earned(id: str, name: str, read: Callable[[Business], Figure], **more: Any) -> Measure:
    """Off the newest twelve months."""
    return _measure(
        id, name, FRACTION, lambda f: f.earned(read, _lower(name), FRACTION), group=BUSINESS, **more
    )


def _over_years(id: str, name: str, read: Callable[[Course], Figure], **more: Any) -> Measure:
    """Off the newest fiscal years together."""
    return _measure(
        id,
        name,
        FRACTION,
        lambda f: f.over_years(read),
        note=_span(read),
        signed=True,
        group=BUSINESS,
        **more,
    )


def _span(read: Callable[[Course], Figure]) -> Callable[[Footing], Sentence]:
    def note(footing: Footing) -> Sentence:
        period = read(footing.course).period
        return (f"a year, {period.replace('fiscal ', '')}",) if period else ()

    return note


def _as_of(footing: Footing) -> Sentence:
    return ("at ", footing.balance.period.end) if footing.balance else ()


MEASURES: tuple[Measure, ...] = (
    _owed(
        "debt_to_ebitda",
        "Net debt to EBITDA",
        MULTIPLE,
        lambda b: b.debt_to_ebitda,
        kinds=WITH_DEBT,
        breach="above",
        columns={"footing": 10},
        frozen=True,
        test=_test(
            Direction.CAP,
            "net debt to EBITDA",
            "EBITDA",
            {COMPANY: required(3.0), TRUST: required(6.5), PARTNERS: required(4.5)},
            "How many years of EBITDA its net debt may come to.",
        ),
        compared={"overview": 60, "footing": 10},
        peers=AmongPeers(place=30, words="less debt to EBITDA"),
        usual=Usual(name="debt", way="level"),
    ),
    _owed(
        "interest_cover",
        "Interest cover",
        MULTIPLE,
        lambda b: b.interest_cover,
        kinds=WITH_DEBT,
        breach="below",
        columns={"footing": 20},
        frozen=True,
        test=_test(
            Direction.FLOOR,
            "interest cover",
            "EBIT",
            {COMPANY: required(4.0), TRUST: required(2.5), PARTNERS: required(2.5)},
            "How many times EBIT should earn the interest.",
        ),
        compared={"overview": 70, "footing": 20},
        peers=AmongPeers(place=40, words="more interest cover"),
        usual=Usual(name="interest cover", way="throughout"),
    ),
    _owed(
        "debt_to_assets",
        "Debt to assets",
        FRACTION,
        lambda b: b.debt_to_assets,
        kinds=WITH_DEBT,
        columns={"footing": 30},
        digits=0,
        test=_test(
            Direction.CAP,
            "debt to assets",
            "assets",
            {COMPANY: required(0.50), TRUST: required(0.50), PARTNERS: required(0.55)},
            "How much of what it owns may be borrowed.",
        ),
        compared={"footing": 30},
        peers=AmongPeers(place=50, words="less debt to assets"),
    ),
    _owed(
        "debt_of_capital",
        "Net debt to capital",
        FRACTION,
        lambda b: b.debt_of_capital,
        kinds=WITH_DEBT,
        breach="above",
        digits=0,
        test=_test(
            Direction.CAP,
            "net debt to capital",
            "equity",
            {COMPANY: advisory(0.50), TRUST: advisory(0.55), PARTNERS: advisory(0.60)},
            "How much of its capital may be net debt.",
            size=SHARE_SIZE,
        ),
    ),
    _owed(
        "current_ratio",
        "Current ratio",
        MULTIPLE,
        lambda b: b.current_ratio,
        kinds=WITH_DEBT,
        breach="below",
        test=_test(
            Direction.FLOOR,
            "current ratio",
            "current assets",
            {COMPANY: advisory(1.0), PARTNERS: advisory(1.0)},
            "How many times current assets should cover what is due within a year.",
        ),
    ),
    _owed(
        "capital_ratio",
        "Capital ratio",
        FRACTION,
        lambda b: b.capital_ratio,
        kinds=frozenset({Kind.FINANCIAL}),
        note=_as_of,
        columns={"footing": 40},
        frozen=True,
        test=_test(
            Direction.FLOOR,
            "capital ratio",
            "capital",
            {Kind.FINANCIAL: required(0.12)},
            "How much capital it should hold against its risks, as it reports it.",
        ),
        peers=AmongPeers(place=60, words="more capital"),
    ),
    _owed(
        "debt_to_equity",
        "Debt to equity",
        FRACTION,
        lambda b: b.debt_to_equity,
        kinds=WITH_DEBT,
        digits=0,
        better="low",
    ),
    _owed(
        "liabilities_to_assets",
        "Liabilities to assets",
        FRACTION,
        lambda b: b.liabilities_to_assets,
        digits=0,
        better="low",
    ),
    _owed(
        "cash_to_long_debt",
        "Cash to long-term debt",
        FRACTION,
        lambda b: b.cash_to_long_debt,
        kinds=WITH_DEBT,
        digits=0,
        better="high",
    ),
    _owed(
        "years_to_repay",
        "Years to repay net debt",
        Unit.YEARS,
        lambda b: b.years_to_repay,
        kinds=WITH_DEBT,
        breach="above",
        better="low",
    ),
    _owed(
        "cash_less_liabilities",
        "Free cash flow less total liabilities",
        Unit.MONEY,
        lambda b: b.cash_less_liabilities,
        kinds=WITH_DEBT,
        key="Free cash flow less liabilities",
        better="high",
    ),
    _owed(
        "net_debt",
        "Net debt",
        Unit.MONEY,
        lambda b: b.net_debt,
        kinds=WITH_DEBT,
        note=_as_of,
        better="low",
    ),
    _owed(
        "net_asset_value",
        "Net asset value per share",
        Unit.PER_SHARE,
        lambda b: b.net_asset_value,
        better="neither",
    ),
    _earned("gross_margin", "Gross margin", lambda b: b.gross_margin, better="high"),
    _earned(
        "operating_margin",
        "Operating margin",
        lambda b: b.operating_margin,
        kinds=WITH_DEBT,
        better="high",
        peers=AmongPeers(place=70, words="a higher operating margin"),
    ),
    _earned(
        "net_margin", "Net margin", lambda b: b.net_margin, columns={"footing": 50}, better="high"
    ),
    _earned(
        "cash_margin",
        "Free cash flow margin",
        lambda b: b.cash_margin,
        kinds=WITH_DEBT,
        better="high",
        peers=AmongPeers(place=80, words="a higher cash margin"),
    ),
    _earned("return_on_assets", "Return on assets", lambda b: b.return_on_assets, better="high"),
    _earned(
        "return_on_equity",
        "Return on equity",
        lambda b: b.return_on_equity,
        columns={"footing": 60},
        better="high",
        peers=AmongPeers(place=100, words="a higher return on equity"),
    ),
    _earned(
        "return_on_capital",
        "Return on invested capital",
        lambda b: b.return_on_capital,
        kinds=WITH_DEBT,
        better="high",
        compared={"footing": 40},
        peers=AmongPeers(place=90, words="a higher return on capital"),
    ),
    _over_years(
        "revenue_growth",
        "Revenue growth",
        lambda c: c.revenue_growth,
        key="Revenue",
        columns={"footing": 70},
        better="high",
        compared={"footing": 50},
        peers=AmongPeers(place=110, words="faster revenue"),
    ),
    _over_years("cost_growth", "Cost growth", lambda c: c.cost_growth, key="Costs", better="low"),
    _over_years(
        "share_growth",
        "Share count growth",
        lambda c: c.share_growth,
        key="Share count",
        columns={"footing": 80},
        better="low",
        compared={"footing": 60},
        peers=AmongPeers(place=120, words="fewer new shares"),
    ),
    _over_years(
        "cash_growth",
        "Cash growth",
        lambda c: c.cash_growth,
        key="What pays the dividend",
        better="high",
    ),
    _over_years(
        "cash_per_share_growth",
        "Cash growth per share",
        lambda c: c.cash_per_share_growth,
        key="The same per share, after issuance",
        columns={"footing": 90},
        better="high",
    ),
    _over_years("revenue_trend", "Revenue, trend", lambda c: c.revenue_trend, better="high"),
    _over_years(
        "net_income_trend", "Net income, trend", lambda c: c.net_income_trend, better="high"
    ),
    _over_years(
        "share_trend",
        "Share count, trend",
        lambda c: c.share_trend,
        better="low",
        usual=Usual(name="share count", way="throughout", value=0.01),
    ),
)
DEBT_TO_EBITDA = MEASURES[0]
