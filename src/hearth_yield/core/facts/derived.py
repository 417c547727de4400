"""Lines that follow from others: derived once, marked as derived, and giving way to published ones.
(docs/method.md, Statements)"""

from __future__ import annotations

from collections.abc import Callable

from ..figures.figure import Figure, Unit, Unknown, derive
from .periods import Period

DERIVED = ("derived",)


def free_cash_flow(period: Period) -> Figure:
    """operating cash flow − capital expenditure, after interest, before dividends."""
    return derive(
        "free cash flow",
        Unit.MONEY,
        "operating cash flow − capital expenditure",
        [period.line("operating_cash_flow"), period.line("capital_expenditure")],
        lambda cash, capex: cash - capex,
        currency=period.statements[0].currency,
        period=period.label,
        notes=DERIVED,
    )


def funds_from_operations(period: Period) -> Figure:
    """FFO as published; else net income + property depreciation + impairments − gains on sales −
    preferred dividends. Source: docs/method.md, Statements, after Nareit's white paper."""
    published = period.line("ffo")
    if published.known:
        return published
    return derive(
        "FFO",
        Unit.MONEY,
        "net income + property depreciation + impairments − gains on property sales "
        "− preferred dividends",
        [
            period.line(n)
            for n in (
                "net_income",
                "property_depreciation",
                "impairments",
                "gains_on_property_sales",
                "preferred_dividends",
            )
        ],
        lambda ni, dep, imp, gains, pref: ni + dep + imp - gains - pref,
        currency=period.statements[0].currency,
        period=period.label,
        notes=DERIVED,
    )


def adjusted_funds_from_operations(period: Period) -> Figure:
    """AFFO as published; else FFO − recurring capex − straight-line rent."""
    published = period.line("affo")
    if published.known:
        return published
    return derive(
        "AFFO",
        Unit.MONEY,
        "FFO − recurring capex − straight-line rent",
        [
            funds_from_operations(period),
            period.line("recurring_capex"),
            period.line("straight_line_rent"),
        ],
        lambda ffo, capex, rent: ffo - capex - rent,
        currency=period.statements[0].currency,
        period=period.label,
        notes=DERIVED,
    )


def ebitda(period: Period) -> Figure:
    """EBITDA as published; else EBIT + depreciation and amortization."""
    published = period.line("ebitda")
    if published.known:
        return published
    return derive(
        "EBITDA",
        Unit.MONEY,
        "EBIT + depreciation and amortization",
        [period.line("ebit"), period.line("depreciation_amortization")],
        lambda ebit, written_down: ebit + written_down,
        currency=period.statements[0].currency,
        period=period.label,
        notes=DERIVED,
    )


def total_debt(period: Period) -> Figure:
    """short-term debt + long-term debt, at the period's end."""
    return derive(
        "total debt",
        Unit.MONEY,
        "short-term debt + long-term debt",
        [period.at_end("short_term_debt"), period.at_end("long_term_debt")],
        lambda short, long: short + long,
        currency=period.statements[-1].currency,
        period=period.label_at_end,
        notes=DERIVED,
    )


def net_debt(period: Period) -> Figure:
    """total debt − cash, at the period's end; negative with more cash than debt."""
    return derive(
        "net debt",
        Unit.MONEY,
        "total debt − cash",
        [total_debt(period), period.at_end("cash")],
        lambda debt, cash: debt - cash,
        currency=period.statements[-1].currency,
        period=period.label_at_end,
        notes=DERIVED,
    )


def book_value(period: Period) -> Figure:
    """assets − liabilities − minority interest − preferred equity, at the period's end: what is the
    common shareholders'."""
    return derive(
        "book value",
        Unit.MONEY,
        "assets − liabilities − minority interest − preferred equity",
        [
            period.at_end(n)
            for n in ("total_assets", "total_liabilities", "minority_interest", "preferred_equity")
        ],
        lambda owned, owed, others, preferred: owned - owed - others - preferred,
        currency=period.statements[-1].currency,
        period=period.label_at_end,
        notes=DERIVED,
    )


def per_share_of(label: str, total: Figure, shares: Figure) -> Figure:
    """total ÷ diluted shares."""
    return derive(
        label,
        Unit.PER_SHARE,
        f"{total.label} ÷ diluted shares",
        [total, shares],
        lambda t, n: t / n if n > 0 else Unknown("no diluted shares"),
        currency=total.currency,
        period=total.period,
    )


LINES: dict[str, Callable[[Period], Figure]] = {
    "free_cash_flow": free_cash_flow,
    "ebitda": ebitda,
    "total_debt": total_debt,
    "net_debt": net_debt,
    "ffo": funds_from_operations,
    "affo": adjusted_funds_from_operations,
}
"""Every derived line by name."""
