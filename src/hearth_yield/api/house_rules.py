"""House rules: the limits as they stand, what a change of them would do, and their versions."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from hearth_yield.actions import set_house_rules as rules_set
from hearth_yield.actions.find_payers import words_in_use
from hearth_yield.actions.preview_prices import preview_prices
from hearth_yield.actions.preview_rules import preview_rules
from hearth_yield.core.figures.measure import Limit
from hearth_yield.core.finding.price_effects import PriceEffect
from hearth_yield.core.judging.house_rules import (
    DEFAULT_RETURNS,
    RETURN_BOUNDS,
    SETTINGS,
    Exemption,
    HouseRules,
)
from hearth_yield.core.kinds import JUDGED, Kind
from hearth_yield.core.signals.make import KINDS
from hearth_yield.core.stages import MEASURES, STAGES

from .answer import wire
from .context import Here, When
from .schemas import DirectionName, KindName, Problem, StageName, StateName, UnitName
from .wire import each, fill

router = APIRouter(prefix="/api", responses={422: {"model": Problem}})
MAX_TEXT = 200


class LimitIO(BaseModel):
    """required: the test decides the state of a payer; else it only advises."""

    value: float = Field(allow_inf_nan=False)
    required: bool


WhoseName = Literal["nobody", "followed", "held", "all"]


class ExemptionIO(BaseModel):
    """A limit of its own for a sector, or for one payer: EXCHANGE/SYMBOL."""

    scope: Literal["sector", "payer"]
    name: str = Field(min_length=1, max_length=MAX_TEXT)
    measure: str = Field(max_length=MAX_TEXT)
    limit: LimitIO


class RulesIO(BaseModel):
    """settings: by id. returns: required, by kind. built_up: kinds whose
    required return is built up from the risk-free yield and beta; built_up_payers: EXCHANGE/SYMBOL
    where that is otherwise. limits: by kind and measure, as far as they are
    not the house's own."""

    settings: dict[str, float]
    returns: dict[KindName, float]
    built_up: list[KindName] = Field(default_factory=list)
    built_up_payers: dict[str, bool] = Field(default_factory=dict)
    withheld: dict[str, float] = Field(
        default_factory=dict, description="by country, what part of a dividend it withholds"
    )
    limits: dict[KindName, dict[str, LimitIO]]
    exemptions: list[ExemptionIO] = Field(max_length=rules_set.MAX_EXEMPTIONS)
    signals: dict[str, WhoseName] = Field(
        default_factory=dict, description="of whom each kind is asked for, where not as the house"
    )


@wire
class SettingOut:
    """What one setting is, and the house's own value of it."""

    id: str
    name: str
    unit: UnitName
    low: float
    high: float
    step: float
    means: str
    default: float


@wire
class KindOut:
    """A kind of payer, and the house's own required return for it."""

    id: KindName
    name: str
    default_return: float


@wire
class TestedOut:
    """A test there is: limits are the house's own, of the kinds it is made for."""

    id: str
    name: str
    means: str
    stage: StageName
    stage_name: str
    unit: UnitName
    direction: DirectionName
    strict: bool
    limits: dict[KindName, LimitIO]


@wire
class SignalKindOut:
    """A kind of signal. of: of whom it may be asked for; default: of whom the house asks for it."""

    id: str
    name: str
    means: str
    of: list[WhoseName]
    default: WhoseName


@wire
class VersionOut:
    number: int
    made_at: str
    note: str


@wire
class HouseRulesOut:
    """version: of the rules that count, 0 for the house's own. sectors, countries: there are."""

    version: int
    rules: RulesIO
    settings: list[SettingOut]
    kinds: list[KindOut]
    lowest_return: float
    highest_return: float
    tests: list[TestedOut]
    signal_kinds: list[SignalKindOut]
    sectors: list[str]
    countries: list[str]
    versions: list[VersionOut]


@wire
class MovedPayerOut:
    exchange: str
    symbol: str
    name: str
    before: StateName | Literal["none"]
    after: StateName | Literal["none"]


@wire
class EffectOut:
    """moved: payers whose state would change, the first of `changed`. before, after: how many
    payers stand in each state. pending: payers whose measures are still being made."""

    moved: list[MovedPayerOut]
    changed: int
    payers: int
    pending: int
    before: dict[StateName, int]
    after: dict[StateName, int]


class RulesIn(BaseModel):
    """begun: the version that the rules were changed from; without it, they follow any."""

    rules: RulesIO
    begun: int | None = None
    note: str = Field(default="", max_length=rules_set.MAX_NOTE)


@wire
class VersionMade:
    version: int


@router.get("/house-rules")
def house_rules(here: Here, when: When) -> HouseRulesOut:
    standing = here.cache.house_rules(when.edition)
    in_use = words_in_use(here.cache, when.as_of)
    return HouseRulesOut(
        version=when.edition.rules,
        rules=_out(standing),
        settings=[
            fill(SettingOut, s, default=getattr(HouseRules(), s.id)) for s in SETTINGS.values()
        ],
        kinds=[
            KindOut(id=k.value, name=k.plural, default_return=DEFAULT_RETURNS[k]) for k in JUDGED
        ],
        lowest_return=RETURN_BOUNDS[0],
        highest_return=RETURN_BOUNDS[1],
        tests=[
            fill(
                TestedOut,
                m.test,
                id=m.id,
                name=m.name,
                stage=m.stage.value,
                stage_name=STAGES[m.stage].name,
                unit=m.unit.value,
            )
            for m in MEASURES.values()
            if m.test is not None
        ],
        signal_kinds=[
            fill(SignalKindOut, spec, of=[w.value for w in spec.of], default=spec.whose.value)
            for spec in KINDS.values()
        ],
        sectors=sorted(in_use["sector"]),
        countries=sorted({*in_use["country"], *standing.withheld}),
        versions=each(VersionOut, rules_set.versions(here.database)),
    )


@router.post("/house-rules/preview")
def preview(here: Here, when: When, rules: RulesIO) -> EffectOut:
    standing = here.cache.house_rules(when.edition)
    return fill(EffectOut, preview_rules(here.cache, when.as_of, standing, rules_in(rules)))


@router.post("/house-rules/preview-prices")
def preview_of_prices(here: Here, when: When, rules: RulesIO) -> PriceEffect | None:
    """Null where more payers are held than are kept ready."""
    standing = here.cache.house_rules(when.edition)
    return preview_prices(here.cache, when.as_of, when.edition, standing, rules_in(rules))


@router.put("/house-rules", status_code=201, responses={409: {"model": Problem}})
def save(here: Here, made: RulesIn) -> VersionMade:
    version = rules_set.set_house_rules(
        here.database, rules_in(made.rules), at=here.now(), note=made.note, begun=made.begun
    )
    return VersionMade(version=version)


@router.post("/house-rules/{version}/restore", status_code=201)
def restore(here: Here, version: int) -> VersionMade:
    """An earlier version counts again; 0: the house's own."""
    return VersionMade(version=rules_set.restore_house_rules(here.database, version, at=here.now()))


def _out(rules: HouseRules) -> RulesIO:
    return fill(
        RulesIO,
        rules,
        settings={id: getattr(rules, id) for id in SETTINGS},
        returns={k.value: v for k, v in rules.required_returns.items()},
    )


def _usual(kind: str) -> str | None:
    """Of whom the house asks for a kind; None where there is none of that name."""
    return KINDS[kind].whose.value if kind in KINDS else None


def rules_in(rules: RulesIO) -> HouseRules:
    """Raises InvalidInput for a setting there is not."""
    rules_set.check_names(rules.settings)
    settings = {
        n: int(v) if SETTINGS[n].whole and v.is_integer() else v for n, v in rules.settings.items()
    }
    limits: Mapping[Kind, Mapping[str, Limit]] = {
        Kind(k): {id: Limit(value=x.value, required=x.required) for id, x in mine.items()}
        for k, mine in rules.limits.items()
        if mine
    }
    return HouseRules(
        required_returns=DEFAULT_RETURNS | {Kind(k): v for k, v in rules.returns.items()},
        built_up=tuple(k for k in Kind if k.value in rules.built_up),
        built_up_payers=dict(rules.built_up_payers),
        withheld={country: rate for country, rate in rules.withheld.items() if rate},
        limits=limits,
        signals={k: w for k, w in rules.signals.items() if w != _usual(k)},
        exemptions=tuple(
            Exemption(
                scope=x.scope,
                name=x.name,
                measure=x.measure,
                limit=Limit(value=x.limit.value, required=x.limit.required),
            )
            for x in rules.exemptions
        ),
        **settings,  # type: ignore[arg-type]
    )
