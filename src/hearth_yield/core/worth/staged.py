"""Values of something that grows by stages, discounted: cash, FFO, a dividend with its exit.

Pure numbers; rates are fractions a year, amounts per share. (docs/method.md, Worth)
"""

from __future__ import annotations

from collections.abc import Sequence

from ..errors import MethodError

Stages = Sequence[tuple[int, float]]
"""(years, growth) of each stage."""


def grown(start: float, stages: Stages) -> list[float]:
    """The amount of each year: start × (1 + g), and so on. 100 at 10 % for 2 → 110, 121."""
    found = []
    for years, growth in stages:
        for _ in range(years):
            start *= 1 + growth
            found.append(start)
    return found


def present(amounts: Sequence[float], r: float) -> float:
    """Σ amount ÷ (1 + r)^t, the first a year from now."""
    return float(sum(x / (1 + r) ** t for t, x in enumerate(amounts, 1)))


def lasting_value(last: float, growth: float, r: float, years: int) -> float:
    """What goes on for ever from the last year's amount on, worth now.

    Raises MethodError where r is not above growth.
    """
    if r <= growth:
        raise MethodError(
            "the required return must be above the growth for ever, or the value has no limit",
            field="growth",
            value=growth,
            rule=f"growth < required return ({r:.4g})",
        )
    return last * (1 + growth) / (r - growth) / (1 + r) ** years


def diluted(stages: Stages, dilution: float) -> list[tuple[int, float]]:
    """Growth per share while shares grow by `dilution` a year: (1 + g) ÷ (1 + b) − 1."""
    return [(n, (1 + g) / (1 + dilution) - 1) for n, g in stages]


def cash_value(start: float, stages: Stages, lasting: float, r: float, dilution: float) -> float:
    """Cash per share by stages, then for ever.

    Source: docs/method.md. 412 ÷ 96, 5 years 5 %, 5 years 3 %, then 2 %, 8.5 % → 79.1634;
    dilution 1 % → 73.2518.
    """
    amounts = grown(start, diluted(stages, dilution))
    return present(amounts, r) + lasting_value(amounts[-1], lasting, r, len(amounts))


def cash_value_to_multiple(
    start: float, stages: Stages, multiple: float, r: float, dilution: float
) -> float:
    """Cash per share by stages, then sold at a multiple of the last year's.

    Source: docs/method.md. 412 ÷ 96, 5 years 5 %, 8.5 %, 15× → 74.1095.
    """
    amounts = grown(start, diluted(stages, dilution))
    return present(amounts, r) + multiple * amounts[-1] / (1 + r) ** len(amounts)


def kept_of_dividend(tax: float, credited: float, company_tax: float) -> float:
    """What is kept of a dividend: (1 − tax)(1 + q·c ÷ (1 − c)). 25 %, q 1, c 20 % → 0.9375.

    credited: the share of it that carries a credit; company_tax: the rate behind the credit.
    """
    return (1 - tax) * (1 + credited * company_tax / (1 - company_tax))


def dividends_to_exit(
    rate: float, stages: Stages, exit_yield: float, r: float, kept: float = 1.0
) -> float:
    """Dividends by stages after tax, then sold at a yield on the next year's.

    kept: of each dividend; buyers at the exit capitalise the cash dividend. Source: docs/method.md.
    0.84; 5 years 4 %, 5 years 2 %; 9 %; exit 6 % → 14.4924; kept 0.9375 → 14.0930.
    """
    amounts = grown(rate, stages)
    following = amounts[-1] * (1 + stages[-1][1])
    return kept * present(amounts, r) + following / exit_yield / (1 + r) ** len(amounts)


def funds_path_value(
    start: float, stages: Stages, dilution: float, payout: float, multiple: float, r: float
) -> float:
    """FFO or AFFO per unit by stages, paid out in part, then sold at a multiple.

    Source: docs/method.md. 2.65; 3 years 7 %, 3 years 5 %, 4 years 3 %; dilution 1.5 %; payout
    74 %; 8.5 %; 17× → 43.1574.
    """
    amounts = grown(start, diluted(stages, dilution))
    sold = multiple * amounts[-1] / (1 + r) ** len(amounts)
    return payout * present(amounts, r) + sold


def graham_growth_value(eps: float, growth: float, base: float, k: float, aaa: float) -> float:
    """EPS × (base + k · 100 g) × 4.4 ÷ Y, Y the AAA yield in percent.

    Source: Graham 1974, docs/method.md. 3.10, 4 %, 8.5, 2, 5.1 % → 44.1294.
    """
    return eps * (base + k * 100 * growth) * 4.4 / (aaa * 100)


def next_year_multiple_value(multiple: float, estimate: float, dividend: float, r: float) -> float:
    """(typical multiple × next year's estimate + this year's dividend) ÷ (1 + r).

    Source: docs/method.md. 16×, 3.80, 1.60, 8 % → 57.7778.
    """
    return (multiple * estimate + dividend) / (1 + r)
