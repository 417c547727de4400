"""The return path of one payer: as figures, with its years and what its return comes from."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ...cover.measures import PAYOUT
from ...figures.figure import Figure, Unit, Unknown, derive, given, unknown
from ...figures.inputs import Input, choose
from ...figures.parts import HoldsFigures
from ...figures.ties import above
from ...range.quantity import YIELD, Quantity
from ..declare import Ground
from ..inputs import INPUTS
from .arithmetic import Path, driven, expected_then, grown
from .inputs import expected_years, margin_today
from .measures import EXPECTED, exit_of, path_by, path_quantity

CASES = ("low", "middle", "high")
COMMON = ("path_years", "path_start", "path_dividends")
DRIVERS = ("path_revenue", "path_margin", "path_shares")
NO_RETURN = Unknown("no yearly return solves it")


@dataclass(frozen=True, slots=True, kw_only=True)
class PathYear:
    """The end of one year: the measure, the dividend and the price per share; the payout of the
    measure; the dividend on today's price."""

    year: int
    measure: float
    dividend: float
    price: float
    payout: float | None
    yield_on_cost: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PathPart(HoldsFigures):
    """What one thing brings of the yearly return."""

    id: str
    name: str
    figure: Figure

    @property
    def key(self) -> str:
        return self.id


@dataclass(frozen=True, kw_only=True)
class ReturnPath(HoldsFigures):
    """held: the inputs that Worth has chosen already; the path's own are chosen beside them."""

    ground: Ground = field(repr=False)
    held: Mapping[str, Input] = field(repr=False)

    @property
    def quantity(self) -> Quantity:
        return path_quantity(self.ground)

    @property
    def by(self) -> str:
        return path_by(self.ground)

    @property
    def driven(self) -> bool:
        return self.by == "drivers" and self.quantity is not YIELD

    @property
    def awaited(self) -> bool:
        """Whether the first years are what somebody expects of them."""
        return self.by in EXPECTED and self.quantity is not YIELD

    @property
    def exit_id(self) -> str:
        return exit_of(self.quantity) or ""

    @property
    def takes(self) -> tuple[str, ...]:
        """Ids of the inputs that count, in the order they are shown."""
        if self.quantity is YIELD:
            return ("path_years", "path_dividends", self.exit_id)
        growth = DRIVERS if self.driven else ("path_growth",)
        return (*COMMON, *growth, self.exit_id)

    @cached_property
    def inputs(self) -> dict[str, Input]:
        wanted = {"path_start", "path_shares", *self.takes}
        found = choose(INPUTS, self.ground, self.ground.choices.inputs, wanted, self.held)
        return {id: found[id] for id in INPUTS if id in wanted}

    @cached_property
    def margin(self) -> Figure:
        """What of revenue the measure is today."""
        return margin_today(self.ground)

    @cached_property
    def expected(self) -> tuple[Figure, ...]:
        """What is expected of the measure in the first fiscal years, per share."""
        return tuple(expected_years(self.ground, self.inputs, self.by)) if self.awaited else ()

    def _reads(self, case: str) -> list[Figure]:
        """Price, declared rate, years, start, growth of the dividend, what is expected of the
        measure and what it grows by, and the exit."""
        held = {id: x.figure for id, x in self.inputs.items()}
        ended = self.inputs[self.exit_id]
        exits = {"low": ended.low, "middle": ended.figure, "high": ended.high}
        if self.quantity is YIELD:
            growth = []
        elif self.driven:
            growth = [self.margin, *(held[id] for id in DRIVERS)]
        else:
            growth = [*self.expected, held["path_growth"]]
        return [
            self.ground.file.price,
            self.ground.record.declared_rate,
            held["path_years"],
            held["path_start"],
            held["path_dividends"],
            *growth,
            exits[case],
        ]

    def _path(
        self, price: float, rate: float, years: float, start: float, rising: float, *rest: float
    ) -> Path | Unknown:
        """The path of these values, or why there is none."""
        n, (*growth, ended) = round(years), rest
        dividends = grown(rate, rising, n)
        if price <= 0:
            return Unknown("the price is not positive")
        if self.quantity is YIELD:
            if rate <= 0:
                return Unknown(YIELD.nothing)
            measures, multiple = grown(dividends[1], rising, n), 1 / ended
        else:
            if start <= 0:
                return Unknown(self.quantity.nothing)
            if self.driven and growth[0] <= 0:
                return Unknown("the margin is not positive")
            *first, after = growth
            if self.awaited and min(first) <= 0:
                return Unknown("an expected year is not positive")
            measures = (
                driven(start, growth[1], growth[0], growth[2], growth[3], n)
                if self.driven
                else expected_then([start, *first], after, n)
            )
            multiple = ended
        if measures[-1] <= 0:
            return Unknown("the margin in the last year is not positive")
        return Path(price=price, dividends=dividends[1:], measures=measures, multiple=multiple)

    def _told(
        self,
        label: str,
        unit: Unit,
        formula: str,
        compute: Callable[[Path], float | None],
        case: str = "middle",
        more: Sequence[Figure] = (),
    ) -> Figure:
        """What follows from the path; `more` is read by `compute` through its own figures."""

        def read(*values: float) -> float | Unknown:
            path = self._path(*values[: len(values) - len(more)])
            if isinstance(path, Unknown):
                return path
            found = compute(path)
            return NO_RETURN if found is None else found

        money = self.ground.file.payer.currency if unit is Unit.PER_SHARE else None
        reads = [*self._reads(case), *more]
        return derive(label, unit, formula, reads, read, currency=money)

    @cached_property
    def sold_at(self) -> dict[str, Figure]:
        formula = (
            "the dividend of the year after ÷ exit yield"
            if self.quantity is YIELD
            else f"exit multiple × {self.quantity.base_name} of the last year"
        )
        return {
            case: self._told(
                f"sold at, {case} exit", Unit.PER_SHARE, formula, lambda p: p.sold_at, case
            )
            for case in CASES
        }

    @cached_property
    def yearly(self) -> dict[str, Figure]:
        return {
            case: self._told(
                f"yearly return, {case} exit",
                Unit.FRACTION,
                "R that solves Σ dividend ÷ (1 + R)^t + price sold at ÷ (1 + R)^n = price",
                lambda p: p.yearly,
                case,
            )
            for case in CASES
        }

    @cached_property
    def reinvested(self) -> Figure:
        return self._told(
            "yearly return, dividends put back in",
            Unit.FRACTION,
            "(Π (1 + dividend ÷ price of the year) × price sold at ÷ price) ^ (1/n) − 1",
            lambda p: p.reinvested,
        )

    @cached_property
    def parts(self) -> tuple[PathPart, ...]:
        """Income, what the measure grows by, and the re-rating; they sum to the yearly return."""
        re_rating = f"ln(exit ÷ today’s {self.quantity.name}) ÷ n × R ÷ ln(1 + R)"
        grows = "ln(growth of the measure) ÷ n × R ÷ ln(1 + R)"
        of_growth: list[tuple[str, str, Callable[[Path], float]]] = (
            [
                ("revenue", "growth of revenue", self._revenue_factor),
                ("margin", "margin", self._margin_factor),
                ("shares", "change of the share count", self._share_factor),
            ]
            if self.driven
            else [("growth", "growth", lambda p: p.measures[-1] / p.measures[0])]
        )
        held = [
            PathPart(
                id="income",
                name="income",
                figure=self._told(
                    "income in the yearly return",
                    Unit.FRACTION,
                    "yearly return − what growth and re-rating bring",
                    lambda p: p.income,
                ),
            ),
            *(
                PathPart(
                    id=id,
                    name=name,
                    figure=self._told(
                        f"{name} in the yearly return",
                        Unit.FRACTION,
                        grows,
                        lambda p, factor=factor: p.part(factor(p)),  # type: ignore[misc]
                    ),
                )
                for id, name, factor in of_growth
            ),
            PathPart(
                id="re_rating",
                name="re-rating",
                figure=self._told(
                    "re-rating in the yearly return",
                    Unit.FRACTION,
                    re_rating,
                    lambda p: p.part(p.multiple / p.multiple_today),
                ),
            ),
        ]
        return tuple(held)

    def _value(self, id: str) -> float:
        return self.inputs[id].figure.value or 0.0

    def _revenue_factor(self, path: Path) -> float:
        return float((1 + self._value("path_revenue")) ** path.years)

    def _share_factor(self, path: Path) -> float:
        return float((1 + self._value("path_shares")) ** -path.years)

    def _margin_factor(self, path: Path) -> float:
        return self._value("path_margin") / (self.margin.value or 1.0)

    @cached_property
    def yield_on_cost(self) -> Figure:
        return self._told(
            "yield on cost in the last year",
            Unit.YIELD,
            "dividend of the last year ÷ price",
            lambda p: p.dividends[-1] / p.price,
        )

    @cached_property
    def payout_at_end(self) -> Figure:
        if self.quantity is YIELD or self.quantity.id in ("sales", "book"):
            why = f"{self.quantity.short} pays no dividend"
            return unknown("payout in the last year", Unit.FRACTION, why)
        return self._told(
            "payout in the last year",
            Unit.FRACTION,
            f"dividend ÷ {self.quantity.base_name} of the last year",
            lambda p: p.dividends[-1] / p.measures[-1],
        )

    @cached_property
    def price_for_required(self) -> Figure:
        return self._price_for(self.held["required_return"].figure)

    @cached_property
    def price_for_market(self) -> Figure:
        rule = self.ground.rules.market_return
        return self._price_for(given("assumed market return", Unit.FRACTION, rule, "house rule"))

    def _price_for(self, wanted: Figure) -> Figure:
        r = wanted.value or 0.0
        return self._told(
            f"price that would return the {wanted.label}",
            Unit.PER_SHARE,
            f"Σ dividend ÷ (1 + {wanted.label})^t + price sold at ÷ (1 + {wanted.label})^n",
            lambda p: p.price_for(r),
            more=[wanted],
        )

    @cached_property
    def after_dilution(self) -> Figure:
        """What the measure grows by in total while it grows as it does per share."""
        growth = "path_dividends" if self.quantity is YIELD else "path_growth"
        if self.driven or self.awaited:
            by = "drivers" if self.driven else self.by
            return derive(
                f"growth per share, by the {by}",
                Unit.FRACTION,
                "(measure of the last year ÷ today’s) ^ (1/n) − 1",
                self._reads("middle"),
                self._driven_growth,
            )
        return derive(
            "growth in total",
            Unit.FRACTION,
            "(1 + growth per share) × (1 + change of the share count) − 1",
            [self.inputs[growth].figure, self.inputs["path_shares"].figure],
            lambda g, b: (1 + g) * (1 + b) - 1,
        )

    def _driven_growth(self, *values: float) -> float | Unknown:
        path = self._path(*values)
        if isinstance(path, Unknown):
            return path
        return float((path.measures[-1] / path.measures[0]) ** (1 / path.years) - 1)

    @cached_property
    def years(self) -> tuple[PathYear, ...]:
        values = [x.value for x in self._reads("middle")]
        if None in values:
            return ()
        path = self._path(*values)  # type: ignore[arg-type]
        if isinstance(path, Unknown):
            return ()
        covers = self.payout_at_end.known
        rows = zip(path.dividends, path.measures[1:], path.prices, strict=True)
        return tuple(
            PathYear(
                year=t,
                measure=measure,
                dividend=dividend,
                price=price,
                payout=dividend / measure if covers else None,
                yield_on_cost=dividend / path.price,
            )
            for t, (dividend, measure, price) in enumerate(rows, 1)
        )

    @property
    def payout_limit(self) -> float | None:
        """The person's limit on the payout of the measure the path goes by."""
        leading = self.ground.cover.leading.basis.value
        id = PAYOUT.id if self.quantity.id == leading else f"{self.quantity.id}_payout"
        test = next((t for t in self.ground.tests if t.id == id), None)
        return test.limit if test else None

    @property
    def passes_limit(self) -> int | None:
        """The year in which the payout passes its limit on the way."""
        limit = self.payout_limit
        if limit is None:
            return None
        over = (y.year for y in self.years if y.payout is not None and above(y.payout, limit))
        return next(over, None)
