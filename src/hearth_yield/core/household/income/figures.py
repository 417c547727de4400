"""The household's income as figures with their working. (docs/method.md, Household)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from ...figures.figure import Figure, Sample, SampleRow, Unit, Unknown, derive, given, unknown
from ...figures.parts import HoldsFigures
from ..positions import Position
from .change import Change, Changed

RULES = "your house rules"


@dataclass(frozen=True, kw_only=True)
class IncomeFigures(HoldsFigures):
    """apart: positions of each account. kept: the part of a dividend that tax leaves of each;
    None: before tax. prices: how they moved over the same span."""

    home: str
    apart: Sequence[Position]
    kept: Callable[[Position], float] | None
    changed: Changed
    prices: Figure

    @cached_property
    def a_year(self) -> Figure:
        """At declared rates and today's exchange rates; it holds what is known and names what is
        not."""
        found = [(p, self._of(p)) for p in self.apart]
        known = [f.but(label=f"{f.label} of {p.quote.name}") for p, f in found if f.known]
        without = [
            f"without {p.quote.name}: {p.income_at_home.reason}" for p, f in found if not f.known
        ]
        if not known:
            why = without[0] if without else "nothing is held"
            return unknown(self._label, Unit.INDEX, why, currency=self.home)
        return Figure(
            label=self._label,
            unit=Unit.INDEX,
            value=sum(f.value or 0.0 for f in known),
            formula="sum over the positions",
            inputs=tuple(known),
            notes=tuple(dict.fromkeys(without)),
            currency=self.home,
        )

    @property
    def _label(self) -> str:
        return "income a year" if self.kept is None else "income a year after tax"

    def _of(self, position: Position) -> Figure:
        if self.kept is None:
            return position.income_at_home
        left = given("part that tax leaves", Unit.FRACTION, self.kept(position), RULES)
        return derive(
            "income after tax",
            Unit.INDEX,
            "declared income a year × part that tax leaves",
            [position.income_at_home, left],
            lambda income, part: income * part,
            currency=self.home,
        )

    @cached_property
    def a_month(self) -> Figure:
        return derive(
            f"{self._label}, a month",
            Unit.INDEX,
            "income a year ÷ 12",
            [self.a_year],
            lambda year: year / 12,
            currency=self.home,
        )

    def _changes(self, among: Sequence[Change]) -> Sample:
        def rows() -> Sequence[SampleRow]:
            return [SampleRow(day=c.day, values=(c.by,), source=None) for c in among]

        return Sample(columns=(("change of the income a year", Unit.INDEX),), rows=rows)

    @cached_property
    def before(self) -> Figure:
        """At the beginning of the span."""
        return given(
            "income a year, before",
            Unit.INDEX,
            self.changed.first,
            "shares × declared rate × exchange rate of that day",
            currency=self.home,
        )

    @cached_property
    def change(self) -> Figure:
        return derive(
            "change of the income a year",
            Unit.INDEX,
            "income a year now − before",
            [self._now, self.before],
            lambda now, before: now - before,
            currency=self.home,
        ).but(sample=self._changes(self.changed.changes))

    @cached_property
    def growth(self) -> Figure:
        return derive(
            "growth of the income a year",
            Unit.FRACTION,
            "income a year now ÷ before − 1",
            [self._now, self.before],
            lambda now, before: now / before - 1 if before > 0 else Unknown("nothing paid then"),
        )

    @property
    def _now(self) -> Figure:
        return given(
            "income a year, now",
            Unit.INDEX,
            self.changed.last,
            "shares × declared rate × exchange rate of the day",
            currency=self.home,
        )

    @cached_property
    def linked(self) -> Figure:
        """Growth without new money."""
        label = "growth without new money"
        if self.changed.linked is None:
            return unknown(label, Unit.FRACTION, "nothing paid anything at the beginning")
        return Figure(
            label=label,
            unit=Unit.FRACTION,
            value=self.changed.linked,
            formula="income after ÷ before each change of a rate or a currency, linked over "
            "changes of shares",
            sample=self._changes(self.changed.changes),
        )

    @cached_property
    def real(self) -> Figure:
        return derive(
            "growth without new money, after prices",
            Unit.FRACTION,
            "(1 + growth without new money) ÷ (1 + rise of prices) − 1",
            [self.linked, self.prices],
            lambda growth, rise: (
                (1 + growth) / (1 + rise) - 1 if rise > -1 else Unknown("prices fell to nothing")
            ),
        )
