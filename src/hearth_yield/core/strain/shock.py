"""A worse year, line by line: what a fall of revenue, of margins and a rise of interest leave.
(docs/method.md, Strain)"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import date

from ..facts.derived import total_debt
from ..facts.periods import Period
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures

AFTER_TAX = frozenset(
    {"net_income", "operating_cash_flow", "ffo", "affo", "distributable_cash_flow"}
)
"""Lines that lose what is lost after tax; FCF, and FFO and AFFO where derived, follow from them."""
BEFORE_TAX = frozenset({"ebit", "ebitda"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Shock(HoldsFigures):
    """revenue_fall: of the year's revenue; profit_lost: operating profit, as a share of the year's
    revenue; points: of interest on floating-rate and soon-due debt; tax_rate: on what is lost.
    credit_losses: of a lender's assets; None of others."""

    revenue_fall: Figure
    profit_lost: Figure
    points: Figure
    tax_rate: Figure
    credit_losses: Figure | None = None
    made: dict[tuple[date, str], Period] = field(
        default_factory=dict, init=False, repr=False, compare=False
    )

    def on(self, period: Period) -> Period:
        """The same twelve months, had they been so much worse; made once for each period."""
        key = (period.end, period.label)
        if key not in self.made:
            self.made[key] = WorsePeriod(
                label=period.label,
                end=period.end,
                statements=period.statements,
                note=period.note,
                excluded=period.excluded,
                sheet=period.sheet,
                calm=period,
                shock=self,
            )
        return self.made[key]


@dataclass(frozen=True, slots=True, kw_only=True)
class WorsePeriod(Period):
    """Twelve months under a shock: each line is worked out when it is read. calm: without it."""

    calm: Period
    shock: Shock

    def at_end(self, name: str) -> Figure:
        before, lost = self.calm.at_end(name), self._credit
        if name != "capital_ratio" or lost is None or not before.known:
            return before
        return _worse(
            before,
            "less credit losses after tax ÷ risk-weighted assets",
            [lost, self.shock.tax_rate, risk_weighted_assets(self.calm)],
            lambda ratio, lost, rate, weighted: ratio - lost * (1 - rate) / weighted,
        )

    def _sum(self, name: str) -> Figure:
        before = self.calm.line(name)
        if not before.known:
            return before
        if name == "revenue":
            return _worse(before, "× (1 − fall)", [self.shock.revenue_fall], _less)
        if name in BEFORE_TAX:
            return _worse(before, "− operating profit lost", [self._lost], _minus)
        if name in AFTER_TAX:
            inputs = [self.shock.tax_rate, self._lost, self._dearer]
            words = "− (operating profit lost + more interest) × (1 − tax rate)"
            if (credit := self._credit) is not None:
                inputs.append(credit)
                words = words.replace("more interest", "more interest + credit losses")
            return _worse(before, words, inputs, _after_tax)
        if name == "interest_expense":
            return _worse(before, "+ more interest", [self._dearer], _plus)
        return before

    @property
    def _lost(self) -> Figure:
        """In money; of the twelve months' own revenue."""
        revenue = self.calm.line("revenue")
        return derive(
            "operating profit lost",
            Unit.MONEY,
            "revenue × operating profit lost, as a share of revenue",
            [revenue, self.shock.profit_lost],
            lambda of, share: of * share,
            currency=revenue.currency,
            period=self.label,
        )

    @property
    def _credit(self) -> Figure | None:
        """In money; of all assets at the end of the twelve months. None where none are lost."""
        assets, share = self.calm.at_end("total_assets"), self.shock.credit_losses
        if share is None or not share.value:
            return None
        return derive(
            "credit losses",
            Unit.MONEY,
            "total assets × credit losses, of assets",
            [assets, share],
            lambda of, lost: of * lost,
            currency=assets.currency,
            period=self.label,
        )

    @property
    def _dearer(self) -> Figure:
        return more_interest(self, self.shock.points)


def risk_weighted_assets(period: Period) -> Figure:
    """What a lender's capital is held against: equity ÷ capital ratio.

    An approximation: a regulator's capital is not all of equity, nor equity alone. Source:
    docs/method.md, Strain. Equity 800, capital ratio 12.5 % → 6,400.
    """
    equity, ratio = period.at_end("equity"), period.at_end("capital_ratio")

    def compute(held: float, share: float) -> float | Unknown:
        if held <= 0 or share <= 0:
            return Unknown("equity or the capital ratio was not positive")
        return held / share

    return derive(
        "risk-weighted assets",
        Unit.MONEY,
        "equity ÷ capital ratio",
        [equity, ratio],
        compute,
        currency=equity.currency,
        period=period.label,
        notes=("as all of equity were the capital that the ratio counts",),
    )


def more_interest(period: Period, points: Figure) -> Figure:
    """What a rise of interest costs a year: on floating-rate and short-term debt, together no more
    than all debt. No rise costs nothing, whatever is known of the debt."""
    label, currency = "more interest", period.statements[-1].currency
    if points.value == 0:
        return derive(
            label, Unit.MONEY, "no rise of interest", [points], lambda _: 0.0, currency=currency
        )
    held = [period.at_end("floating_rate_debt"), period.at_end("short_term_debt")]
    return derive(
        label,
        Unit.MONEY,
        "(floating-rate debt + short-term debt, at most all debt) × points of interest",
        [*held, total_debt(period), points],
        lambda floating, soon, all_of_it, rise: min(floating + soon, all_of_it) * rise,
        currency=currency,
        period=period.label,
    )


def _worse(
    before: Figure, words: str, by: Sequence[Figure], compute: Callable[..., float]
) -> Figure:
    return derive(
        before.label,
        before.unit,
        f"{before.label} {words}",
        [before, *by],
        compute,
        currency=before.currency,
        period=before.period,
        notes=("under the strain",),
    )


def _less(x: float, share: float) -> float:
    return x * (1 - share)


def _plus(x: float, more: float) -> float:
    return x + more


def _minus(x: float, by: float) -> float:
    return x - by


def _after_tax(x: float, rate: float, *lost: float) -> float:
    return x - sum(lost) * (1 - rate)
