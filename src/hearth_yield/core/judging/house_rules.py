"""House rules: the person's limits, and what they ask of a price. (docs/method.md, House rules)"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ..figures.figure import Unit
from ..figures.measure import Limit, Measure
from ..kinds import Kind

DEFAULT_RETURNS: dict[Kind, float] = {
    Kind.COMPANY: 0.08,
    Kind.PROPERTY_TRUST: 0.085,
    Kind.FINANCIAL: 0.09,
    Kind.PARTNERSHIP: 0.10,
    Kind.OTHER: 0.08,
}
RETURN_BOUNDS = (0.001, 0.5)


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """A rule that is one number for all payers: what it must lie between, and what it means."""

    id: str
    name: str
    unit: Unit
    low: float
    high: float
    step: float
    means: str

    @property
    def whole(self) -> bool:
        """Counted, not measured."""
        return self.unit is Unit.COUNT


SETTINGS: dict[str, Setting] = {
    s.id: s
    for s in (
        Setting(
            id="close_under",
            name="Close under a cushion of",
            unit=Unit.FRACTION,
            low=0.0,
            high=1.0,
            step=0.01,
            means="A test whose cushion is smaller than this is called close to its limit.",
        ),
        Setting(
            id="margin_of_safety",
            name="Margin of safety",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.95,
            step=0.01,
            means="How far under the combined value you would buy.",
        ),
        Setting(
            id="premium",
            name="Premium for the market’s risk",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.2,
            step=0.005,
            means="Built up, a required return is the risk-free yield plus beta times this.",
        ),
        Setting(
            id="market_return",
            name="Assumed market return",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.3,
            step=0.005,
            means="What you take the market to return; what a price offers is held against it.",
        ),
        Setting(
            id="dividend_tax",
            name="Tax on dividends",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.9,
            step=0.01,
            means="What you pay of each dividend; what a price offers after tax stands beside it.",
        ),
        Setting(
            id="withheld_credited",
            name="Credit for tax withheld abroad",
            unit=Unit.FRACTION,
            low=0.0,
            high=1.0,
            step=0.05,
            means="What part of it your tax at home is less by; it never falls under nil.",
        ),
        Setting(
            id="cap_rate",
            name="Cap rate",
            unit=Unit.YIELD,
            low=0.005,
            high=0.3,
            step=0.0005,
            means="What a buyer of buildings asks their rent to yield.",
        ),
        Setting(
            id="chance_low",
            name="Chance of the low case",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.5,
            step=0.05,
            means="How likely you take the low case of a model to be.",
        ),
        Setting(
            id="chance_high",
            name="Chance of the high case",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.5,
            step=0.05,
            means="How likely you take the high case of a model to be; the middle has the rest.",
        ),
        Setting(
            id="highest_growth",
            name="Highest growth for ever",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.1,
            step=0.005,
            means="No dividend is taken to grow faster than this without end.",
        ),
        Setting(
            id="early_years",
            name="Years of early growth",
            unit=Unit.COUNT,
            low=1,
            high=30,
            step=1,
            means="How long a faster growth is taken to last before it drops to the one for ever.",
        ),
        Setting(
            id="fade_years",
            name="Years of fading growth",
            unit=Unit.COUNT,
            low=1,
            high=40,
            step=1,
            means="How long a faster growth is taken to need to fade to the one for ever.",
        ),
        Setting(
            id="signal_ex_days",
            name="Signal before the ex-date, days",
            unit=Unit.COUNT,
            low=1,
            high=60,
            step=1,
            means="So many days before a declared dividend goes ex, you hear of it.",
        ),
        Setting(
            id="signal_mean",
            name="Signal far from the mean",
            unit=Unit.FRACTION,
            low=0.01,
            high=2.0,
            step=0.01,
            means="By how much a yield must differ from its five-year mean for you to hear of it.",
        ),
        Setting(
            id="signal_estimate",
            name="Signal of an estimate cut",
            unit=Unit.FRACTION,
            low=0.001,
            high=1.0,
            step=0.01,
            means="By how much an estimate must fall at once for you to hear of it.",
        ),
        Setting(
            id="signal_apart",
            name="Reached anew after",
            unit=Unit.FRACTION,
            low=0.0,
            high=0.5,
            step=0.01,
            means="How far a price must leave your target before reaching it is news again.",
        ),
    )
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Whom:
    """Whose limits are asked for."""

    kind: Kind
    sector: str | None = None
    exchange: str = ""
    symbol: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Exemption:
    """A limit of its own for one sector or one payer (EXCHANGE/SYMBOL), in place of the kind's."""

    scope: Literal["sector", "payer"]
    name: str
    measure: str
    limit: Limit

    def is_of(self, whom: Whom) -> bool:
        if self.scope == "sector":
            return self.name == whom.sector
        return self.name == f"{whom.exchange}/{whom.symbol}"

    @property
    def words(self) -> str:
        """For whom it stands, as a test says it."""
        return (
            f"your limit for {self.name}" if self.scope == "sector" else "your limit for it alone"
        )


OF_THE_HOUSEHOLD = frozenset({"withheld", "withheld_credited"})
"""Rules that no measure of a payer rests on."""


@dataclass(frozen=True, slots=True, kw_only=True)
class HouseRules:
    """What the person set; the rest is as the house has it.

    limits: by kind and measure, in the place of the measure's own. exemptions: of a payer before
    those of its sector. close_under: the cushion under which a test is close to its limit.
    highest_growth: the most that is taken to go on for ever; faster growth ends in it, after
    early_years at once or over fade_years. signals: of whom each kind of signal is asked for, by
    kind, where the person has said so. built_up: kinds whose required return is the
    risk-free yield + beta × premium; built_up_payers: EXCHANGE/SYMBOL where that is otherwise.
    withheld: by country of the payer, what it takes of a dividend before it comes.
    """

    required_returns: Mapping[Kind, float] = field(default_factory=lambda: dict(DEFAULT_RETURNS))
    margin_of_safety: float = 0.20
    highest_growth: float = 0.04
    early_years: int = 5
    fade_years: int = 8
    signal_ex_days: int = 7
    signal_mean: float = 0.15
    signal_estimate: float = 0.05
    signal_apart: float = 0.02
    signals: Mapping[str, str] = field(default_factory=dict)
    close_under: float = 0.10
    premium: float = 0.05
    market_return: float = 0.07
    dividend_tax: float = 0.0
    withheld_credited: float = 1.0
    withheld: Mapping[str, float] = field(default_factory=dict)
    cap_rate: float = 0.065
    chance_low: float = 0.25
    chance_high: float = 0.25
    built_up: tuple[Kind, ...] = ()
    built_up_payers: Mapping[str, bool] = field(default_factory=dict)
    limits: Mapping[Kind, Mapping[str, Limit]] = field(default_factory=dict)
    exemptions: tuple[Exemption, ...] = ()

    def builds_up(self, kind: Kind, exchange: str, symbol: str) -> bool:
        """Whether a payer's required return is built up; its own choice before its kind's."""
        return self.built_up_payers.get(f"{exchange}/{symbol}", kind in self.built_up)

    def required_return(self, kind: Kind) -> float:
        return self.required_returns.get(kind, DEFAULT_RETURNS[kind])

    def of_kind(self, measure: Measure, kind: Kind) -> Limit | None:
        """What a kind of payer is held against; None where the test is not made for it."""
        if measure.test is None or kind not in measure.test.limits:
            return None
        own = self.limits.get(kind, {})
        return own.get(measure.id) or measure.test.limits[kind]

    def exemption(self, measure: Measure, whom: Whom) -> Exemption | None:
        """The one that counts for a payer: its own before its sector's."""
        mine = [x for x in self.exemptions if x.measure == measure.id and x.is_of(whom)]
        return min(mine, key=lambda x: x.scope != "payer", default=None)

    def limit_of(self, measure: Measure, whom: Whom) -> Limit | None:
        """What a measure is held against; None where its test is not made for the kind."""
        plain = self.of_kind(measure, whom.kind)
        if plain is None or not self.exemptions:
            return plain
        own = self.exemption(measure, whom)
        return own.limit if own else plain
