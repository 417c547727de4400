"""From what was earned to what pays the dividend, step by step: net income to FFO and AFFO, cash to
distributable cash, net income to free cash flow. (docs/method.md, Cover, Bridge)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..facts.derived import (
    adjusted_funds_from_operations,
    free_cash_flow,
    funds_from_operations,
    per_share_of,
)
from ..facts.periods import Period
from ..facts.statements import words
from ..figures.figure import Figure, Unit, derive
from ..figures.parts import HoldsFigures
from ..kinds import Kind

What = Literal["start", "step", "rest", "total"]
SHOWN = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class StepSpec:
    """A line of a bridge. sign: of a step. rest: what makes the steps since the last total come to
    the next one, so that it is exact. read: where it is no line of the statement's own."""

    id: str
    what: What
    sign: int = 1
    label: str = ""
    read: Callable[[Period], Figure] | None = None

    @property
    def name(self) -> str:
        return self.label or words(self.id)


def _step(id: str, sign: int) -> StepSpec:
    return StepSpec(id=id, what="step", sign=sign)


def _rest(id: str, label: str = "everything else, as published") -> StepSpec:
    return StepSpec(id=id, what="rest", label=label)


def _total(id: str, label: str, read: Callable[[Period], Figure]) -> StepSpec:
    return StepSpec(id=id, what="total", label=label, read=read)


def _line(name: str) -> Callable[[Period], Figure]:
    return lambda period: period.line(name)


START = StepSpec(id="net_income", what="start")
PAID = _step("dividends_paid", -1)
LEFT = StepSpec(id="left", what="total", label="left after the dividend")
BRIDGES: dict[Kind, tuple[StepSpec, ...]] = {
    Kind.COMPANY: (
        START,
        _step("depreciation_amortization", 1),
        _step("stock_based_compensation", 1),
        _rest("working_capital", "working capital and everything else"),
        _total("operating_cash_flow", "operating cash flow", _line("operating_cash_flow")),
        _step("capital_expenditure", -1),
        _total("free_cash_flow", "free cash flow", free_cash_flow),
        _step("preferred_dividends", -1),
        PAID,
        LEFT,
    ),
    Kind.PROPERTY_TRUST: (
        START,
        _step("property_depreciation", 1),
        _step("impairments", 1),
        _step("gains_on_property_sales", -1),
        _step("preferred_dividends", -1),
        _rest("ffo_rest"),
        _total("ffo", "FFO", funds_from_operations),
        _step("recurring_capex", -1),
        _step("straight_line_rent", -1),
        _rest("affo_rest"),
        _total("affo", "AFFO", adjusted_funds_from_operations),
        PAID,
        LEFT,
    ),
    Kind.PARTNERSHIP: (
        StepSpec(id="operating_cash_flow", what="start"),
        _step("maintenance_capex", -1),
        _rest("distributable_rest"),
        _total("distributable_cash", "distributable cash", _line("distributable_cash_flow")),
        _step("preferred_dividends", -1),
        PAID,
        LEFT,
    ),
    Kind.FINANCIAL: (START, _step("preferred_dividends", -1), PAID, LEFT),
    Kind.OTHER: (START, PAID, LEFT),
}
"""By kind, from what was earned down to what is left."""


@dataclass(frozen=True, kw_only=True)
class Bridge(HoldsFigures):
    """The steps of one period, in total and per share. capital_ratio: of financials."""

    period: Period
    id: str
    kind: Kind

    @property
    def key(self) -> str:
        return self.id

    @property
    def label(self) -> str:
        return self.period.label

    @cached_property
    def total(self) -> dict[str, Figure]:
        return _steps(self.period, BRIDGES[self.kind])

    @cached_property
    def per_share(self) -> dict[str, Figure]:
        shares = self.period.line("diluted_shares")
        return {
            id: per_share_of(f"{figure.label} per share", figure, shares)
            for id, figure in self.total.items()
        }

    @cached_property
    def capital_ratio(self) -> Figure | None:
        return self.period.at_end("capital_ratio") if self.kind is Kind.FINANCIAL else None


def bridges(kind: Kind, years: Sequence[Period], trailing: Period | None) -> tuple[Bridge, ...]:
    """The newest fiscal years, oldest first, and the newest twelve months where they are newer."""
    found = [Bridge(period=p, id=p.end.isoformat(), kind=kind) for p in years[-SHOWN:]]
    if trailing is not None and (not years or trailing.end > years[-1].end):
        found.append(Bridge(period=trailing, id="trailing", kind=kind))
    return tuple(found)


def _steps(period: Period, specs: Sequence[StepSpec]) -> dict[str, Figure]:
    """Every line; a rest is what the steps since the last total lack of the next, so that each
    total is exact; a step that is not reported is left to the rest."""
    found: dict[str, Figure] = {}
    since: list[tuple[Figure, int]] = []
    for place, spec in enumerate(specs):
        if spec.what == "rest":
            total = _read(specs[place + 1], period)
            found[spec.id] = _signed_sum(spec.name, period, [(total, 1), *_turned(since)])
            since.append((found[spec.id], 1))
        elif spec.what == "total":
            made = _signed_sum(spec.name, period, since) if spec.read is None else None
            found[spec.id] = made or _read(spec, period)
            since = [(found[spec.id], 1)]
        else:
            found[spec.id] = _read(spec, period)
            since.append((found[spec.id], spec.sign))
    return found


def _turned(parts: Sequence[tuple[Figure, int]]) -> list[tuple[Figure, int]]:
    """The other way round; what is not reported is not counted."""
    return [(f, -sign) for f, sign in parts if f.known]


def _read(spec: StepSpec, period: Period) -> Figure:
    return spec.read(period) if spec.read else period.line(spec.id)


def _signed_sum(label: str, period: Period, parts: Sequence[tuple[Figure, int]]) -> Figure:
    formula = "".join(
        f"{'' if n == 0 and sign > 0 else ' + ' if sign > 0 else ' − '}{f.label}"
        for n, (f, sign) in enumerate(parts)
    )
    signs = [sign for _, sign in parts]
    return derive(
        label,
        Unit.MONEY,
        formula.strip(),
        [f for f, _ in parts],
        lambda *v: sum(s * x for s, x in zip(signs, v, strict=True)),
        currency=period.statements[-1].currency,
        period=period.label,
    )
