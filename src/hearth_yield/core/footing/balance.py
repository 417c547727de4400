"""The balance sheet: what is owed, against what earns and what is owned.
(docs/method.md, Footing)"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date
from functools import cached_property

from ..facts.derived import book_value, ebitda, free_cash_flow, net_debt, per_share_of, total_debt
from ..facts.periods import Period
from ..facts.statements import fiscal_year_of
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures

SLIVER = 0.10
"""The share of assets under which equity is too little for debt to equity to say anything."""
NO_NET_DEBT = "more cash than debt"
NO_INTEREST = "no interest to pay"


def owed_against(
    label: str, formula: str, owed: Figure, base: Figure, unit: Unit, *, nothing: str, weak: str
) -> Figure:
    """What is owed as a multiple or a share of what carries it: owed ÷ base.

    nothing: said where nothing is owed and the base is not positive: a test on it is passed. weak:
    the breach where something is owed to a base that is not positive.
    Source: docs/method.md, Footing.
    """

    def compute(owes: float, carries: float) -> float | Unknown:
        if carries > 0:
            return owes / carries
        if owes <= 0:
            return Unknown(nothing, spared=nothing)
        return Unknown(f"{base.label} was not positive", breach=weak)

    return derive(label, unit, formula, [owed, base], compute, period=owed.period)


def interest_cover(ebit: Figure, interest: Figure) -> Figure:
    """EBIT ÷ interest: how many times it is earned. No interest to pay is passed without size.

    Source: docs/method.md, Footing. EBIT 360, interest 50 → 7.2.
    """

    def compute(earned: float, due: float) -> float | Unknown:
        return earned / due if due > 0 else Unknown(NO_INTEREST, spared=NO_INTEREST)

    return derive(
        "interest cover",
        Unit.MULTIPLE,
        "EBIT ÷ interest expense",
        [ebit, interest],
        compute,
        period=ebit.period,
    )


def debt_of_capital(debt: Figure, equity: Figure) -> Figure:
    """net debt ÷ (net debt + equity). Source: docs/method.md, Footing."""

    def compute(owed: float, own: float) -> float | Unknown:
        if owed + own > 0 and own > 0:
            return owed / (owed + own)
        if owed <= 0:
            return Unknown(NO_NET_DEBT, spared=NO_NET_DEBT)
        return Unknown("equity was not positive", breach="no equity")

    return derive(
        "net debt to capital",
        Unit.FRACTION,
        "net debt ÷ (net debt + equity)",
        [debt, equity],
        compute,
        period=debt.period,
    )


def share_cushion(measure: float, limit: float) -> float | Unknown:
    """How far equity can fall before net debt is a share `limit` of capital.

    1 − m(1 − L) ÷ (L(1 − m)). Source: docs/method.md. 0.40 against 0.50 → 0.3333.
    """
    if measure <= 0:
        return 1.0
    if measure >= 1:
        return Unknown("equity was not positive", breach="no equity")
    return 1 - measure * (1 - limit) / (limit * (1 - measure))


def debt_to_equity(debt: Figure, equity: Figure, assets: Figure) -> Figure:
    """total debt ÷ equity; unknown where equity is a sliver of assets, and says what to read
    instead. Source: docs/method.md, Footing."""

    def compute(owed: float, own: float, all_of_it: float) -> float | Unknown:
        if own < SLIVER * all_of_it:
            return Unknown(
                "equity is under a tenth of assets, so that this ratio says nothing; read net debt "
                "to EBITDA and debt to assets instead"
            )
        return owed / own

    return derive(
        "debt to equity",
        Unit.FRACTION,
        "total debt ÷ equity, where equity is at least a tenth of assets",
        [debt, equity, assets],
        compute,
        period=debt.period,
    )


def years_to_repay(debt: Figure, kept: Figure) -> Figure:
    """net debt ÷ what is left of a year's free cash flow after dividends.

    Source: docs/method.md, Footing. Net debt 720, free cash flow 200, dividends 110 → 8.0.
    """

    def compute(owed: float, a_year: float) -> float | Unknown:
        if owed <= 0:
            return Unknown(NO_NET_DEBT, spared=NO_NET_DEBT)
        if a_year <= 0:
            reason = "nothing is left of free cash flow after dividends"
            return Unknown(reason, breach="nothing left to repay with")
        return owed / a_year

    return derive(
        "years to repay net debt",
        Unit.YEARS,
        "net debt ÷ (free cash flow − dividends)",
        [debt, kept],
        compute,
        period=debt.period,
    )


@dataclass(frozen=True, kw_only=True)
class Balance(HoldsFigures):
    """One balance sheet, with the twelve months that end on it.

    What no test rests on is built when it is asked for.
    """

    period: Period

    @property
    def end(self) -> date:
        return self.period.end

    @property
    def year(self) -> int:
        """The fiscal year's name."""
        return fiscal_year_of(self.end)

    @property
    def key(self) -> str:
        return self.period.end.isoformat()

    @cached_property
    def assets(self) -> Figure:
        return self.period.at_end("total_assets")

    @cached_property
    def liabilities(self) -> Figure:
        return self.period.at_end("total_liabilities")

    @cached_property
    def equity(self) -> Figure:
        return self.period.at_end("equity")

    @cached_property
    def cash(self) -> Figure:
        return self.period.at_end("cash")

    @cached_property
    def total_debt(self) -> Figure:
        return total_debt(self.period)

    @cached_property
    def net_debt(self) -> Figure:
        return net_debt(self.period)

    @cached_property
    def debt_to_ebitda(self) -> Figure:
        found = owed_against(
            "net debt to EBITDA",
            "net debt ÷ EBITDA",
            self.net_debt,
            ebitda(self.period),
            Unit.MULTIPLE,
            nothing=NO_NET_DEBT,
            weak="no EBITDA to carry debt",
        )
        return self._dated(found)

    @cached_property
    def debt_of_capital(self) -> Figure:
        return debt_of_capital(self.net_debt, self.equity)

    @cached_property
    def debt_to_equity(self) -> Figure:
        return debt_to_equity(self.total_debt, self.equity, self.assets)

    @cached_property
    def debt_to_assets(self) -> Figure:
        return self._of_assets("debt to assets", "total debt ÷ total assets", self.total_debt)

    @cached_property
    def liabilities_to_assets(self) -> Figure:
        return self._of_assets(
            "liabilities to assets", "total liabilities ÷ total assets", self.liabilities
        )

    @cached_property
    def interest_cover(self) -> Figure:
        return interest_cover(self.period.line("ebit"), self.period.line("interest_expense"))

    @cached_property
    def current_ratio(self) -> Figure:
        return owed_against(
            "current ratio",
            "current assets ÷ current liabilities",
            self.period.at_end("current_assets"),
            self.period.at_end("current_liabilities"),
            Unit.MULTIPLE,
            nothing="nothing is due within a year",
            weak="nothing is due within a year",
        )

    @cached_property
    def cash_to_long_debt(self) -> Figure:
        def compute(cash: float, debt: float) -> float | Unknown:
            return cash / debt if debt > 0 else Unknown("no long-term debt")

        debt = self.period.at_end("long_term_debt")
        return self._derive(
            "cash to long-term debt",
            Unit.FRACTION,
            "cash ÷ long-term debt",
            compute,
            self.cash,
            debt,
        )

    @cached_property
    def years_to_repay(self) -> Figure:
        kept = self._derive(
            "free cash flow after dividends",
            Unit.MONEY,
            "free cash flow − dividends − preferred dividends",
            lambda cash, paid, preferred: cash - paid - preferred,
            free_cash_flow(self.period),
            self.period.line("dividends_paid"),
            self.period.line("preferred_dividends"),
        )
        return self._dated(years_to_repay(self.net_debt, kept))

    @cached_property
    def cash_less_liabilities(self) -> Figure:
        return self._derive(
            "free cash flow less total liabilities",
            Unit.MONEY,
            "free cash flow − total liabilities",
            lambda cash, owed: cash - owed,
            free_cash_flow(self.period),
            self.liabilities,
        )

    @cached_property
    def net_asset_value(self) -> Figure:
        total, shares = book_value(self.period), self.period.at_end("diluted_shares")
        return per_share_of("net asset value per share", total, shares)

    @cached_property
    def capital_ratio(self) -> Figure:
        return self.period.at_end("capital_ratio")

    def _of_assets(self, label: str, formula: str, owed: Figure) -> Figure:
        def compute(owes: float, owned: float) -> float | Unknown:
            return owes / owned if owned > 0 else Unknown("total assets were not positive")

        return self._derive(label, Unit.FRACTION, formula, compute, owed, self.assets)

    def _derive(
        self,
        label: str,
        unit: Unit,
        formula: str,
        compute: Callable[..., float | Unknown],
        *inputs: Figure,
    ) -> Figure:
        money = unit in (Unit.MONEY, Unit.PER_SHARE)
        period = self.period
        of = {x.period for x in inputs}
        found = derive(
            label,
            unit,
            formula,
            inputs,
            compute,
            currency=inputs[0].currency if money else None,
            period=period.label if period.label in of else period.label_at_end,
        )
        return self._dated(found)

    def _dated(self, figure: Figure) -> Figure:
        """With both dates, where what is owned and owed is newer than what was earned."""
        period = self.period
        if period.sheet is None or len({x.period for x in figure.inputs}) < 2:
            return figure
        both = f"owned and owed: {period.label_at_end}; earned: {period.label}"
        return figure.but(notes=(*figure.notes, both))
