"""Uses of cash: where a year's operating cash flow went, exact to the unit.
(docs/method.md, Cover)"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

from ..facts.derived import total_debt
from ..facts.periods import Period, in_a_row
from ..figures.figure import Figure, Unit, Unknown, derive
from ..figures.parts import HoldsFigures

TOGETHER = 5
PARTS = ("capital_expenditure", "dividends", "net_buybacks", "debt_repaid", "kept")


SEVERAL = "together"


@dataclass(frozen=True, kw_only=True)
class Uses(HoldsFigures):
    """A fiscal year, or several together: what came in, and where it went.

    maintenance: the part of capital expenditure that keeps things as they are, where it is known.
    debt_repaid: below 0 where debt was raised. kept: change of cash. other: what is left, so that
    the parts sum to what came in: acquisitions, disposals, working off what was owed.
    """

    id: str
    label: str
    operating_cash_flow: Figure
    capital_expenditure: Figure
    maintenance: Figure
    dividends: Figure
    net_buybacks: Figure
    debt_repaid: Figure
    kept: Figure
    other: Figure

    @property
    def key(self) -> str:
        return self.id

    @property
    def together(self) -> bool:
        """Whether it is of several years."""
        return self.id == SEVERAL

    @cached_property
    def shares(self) -> Mapping[str, Figure]:
        """Each part as a share of operating cash flow."""
        return {name: self._share(getattr(self, name)) for name in (*PARTS, "maintenance", "other")}

    def _share(self, part: Figure) -> Figure:
        def compute(went: float, came: float) -> float | Unknown:
            return went / came if came > 0 else Unknown("operating cash flow was not positive")

        return derive(
            f"{part.label}, share of operating cash flow",
            Unit.FRACTION,
            f"{part.label} ÷ operating cash flow",
            [part, self.operating_cash_flow],
            compute,
            period=part.period,
        )


def uses_of_cash(years: Sequence[Period]) -> tuple[Uses, ...]:
    """The newest fiscal years in a row, oldest first, and the last five together at the end; a year
    needs the balance sheet of the one before. Source: docs/method.md, Cover. 480 − 150 − 160 − 60
    + 10 + 30 + 5 (cash fell) → other 155."""
    row = in_a_row(years, TOGETHER + 1)
    found = [_of_year(before, now) for before, now in pairwise(row)]
    if len(found) > 1:
        found.append(_together(found))
    return tuple(found)


def _of_year(before: Period, now: Period) -> Uses:
    def money(
        label: str, formula: str, parts: Sequence[Figure], compute: Callable[..., float]
    ) -> Figure:
        currency = now.statements[-1].currency
        return derive(
            label, Unit.MONEY, formula, parts, compute, currency=currency, period=now.label
        )

    cash = now.line("operating_cash_flow")
    spent = now.line("capital_expenditure")
    dividends = money(
        "dividends",
        "dividends paid + preferred dividends",
        [now.line("dividends_paid"), now.line("preferred_dividends")],
        lambda paid, preferred: paid + preferred,
    )
    bought = money(
        "buybacks less issuance",
        "buybacks − share issuance",
        [now.line("buybacks"), now.line("share_issuance")],
        lambda bought, issued: bought - issued,
    )
    repaid = money(
        "debt repaid",
        "total debt at the end of the year before − at this one's",
        [total_debt(before), total_debt(now)],
        lambda then, left: then - left,
    )
    kept = money(
        "kept as cash",
        "cash at the end of the year − at the one before's",
        [now.at_end("cash"), before.at_end("cash")],
        lambda left, then: left - then,
    )
    return Uses(
        id=now.end.isoformat(),
        label=now.label,
        operating_cash_flow=cash,
        capital_expenditure=spent,
        maintenance=now.line("maintenance_capex"),
        dividends=dividends,
        net_buybacks=bought,
        debt_repaid=repaid,
        kept=kept,
        other=money(
            "everything else",
            "operating cash flow − capital expenditure − dividends − buybacks less issuance "
            "− debt repaid − kept as cash",
            [cash, spent, dividends, bought, repaid, kept],
            lambda came, *went: came - sum(went),
        ),
    )


def _together(years: Sequence[Uses]) -> Uses:
    """Each part summed over the years."""

    def total(name: str) -> Figure:
        parts: list[Figure] = [getattr(y, name) for y in years]
        return derive(
            parts[-1].label,
            Unit.MONEY,
            "sum over the years",
            parts,
            lambda *v: sum(v),
            currency=parts[-1].currency,
            period=f"{years[0].label} to {years[-1].label}",
        )

    names = ("operating_cash_flow", "maintenance", "other", *PARTS)
    return Uses(id=SEVERAL, label=f"{len(years)} years", **{name: total(name) for name in names})
