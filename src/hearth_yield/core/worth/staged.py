"""Values of an amount per share that grows by stages: cash, dividends, FFO. (docs/method.md, Worth)

Elementwise over arrays and cells, as `trace.py` has it.
"""

from __future__ import annotations

from collections.abc import Sequence

from .growth import held_for_ever
from .trace import PLAIN, Trace, Value, not_under_nil, stages_worth

Stages = Sequence[tuple[int, Value]]
"""(years, growth) of each stage."""


def lasting_value(last: Value, growth: Value, r: Value, factor: Value) -> Value:
    """What goes on for ever from the last year's amount on, worth now. factor: of its discount."""
    g = held_for_ever(growth, r)
    return last * (1 + g) / (r - g) * factor


def diluted(stages: Stages, dilution: Value) -> list[tuple[int, Value]]:
    """Growth per share while shares grow by `dilution` a year: (1 + g) ÷ (1 + b) − 1.

    b not under 0: shares bought back at a fair price add nothing, as the cash that pays for them is
    gone.
    """
    b = not_under_nil(dilution)
    return [(n, (1 + g) / (1 + b) - 1) for n, g in stages]


def cash_value(
    start: Value, stages: Stages, lasting: Value, r: Value, dilution: Value, trace: Trace = PLAIN
) -> Value:
    """Cash per share by stages, then for ever.

    Source: docs/method.md. 412 ÷ 96, 5 years 5 %, 5 years 3 %, then 2 %, 8.5 % → 79.1634;
    dilution 1 % → 73.2518.
    """
    end = stages_worth(start, diluted(stages, dilution), r, trace=trace)
    return end.worth + trace.part(
        "for ever after", lasting_value(end.amount, lasting, r, end.factor)
    )


def cash_value_to_multiple(
    start: Value, stages: Stages, multiple: Value, r: Value, dilution: Value, trace: Trace = PLAIN
) -> Value:
    """Cash per share by stages, then sold at a multiple of the last year's.

    Source: docs/method.md. 412 ÷ 96, 5 years 5 %, 8.5 %, 15× → 74.1095.
    """
    end = stages_worth(start, diluted(stages, dilution), r, trace=trace)
    return end.worth + trace.part("sold", multiple * end.amount * end.factor)


def kept_of_dividend(tax: Value, credited: Value, company_tax: Value) -> Value:
    """What is kept of a dividend: (1 − tax)(1 + q·c ÷ (1 − c)). 25 %, q 1, c 20 % → 0.9375.

    credited: the share of it that carries a credit; company_tax: the rate behind the credit.
    """
    return (1 - tax) * (1 + credited * company_tax / (1 - company_tax))


def dividends_to_exit(
    rate: Value,
    stages: Stages,
    exit_yield: Value,
    r: Value,
    kept: Value = 1.0,
    trace: Trace = PLAIN,
) -> Value:
    """Dividends by stages after tax, then sold at a yield on the next year's.

    kept: of each dividend; buyers at the exit capitalise the cash dividend. Source: docs/method.md.
    0.84; 5 years 4 %, 5 years 2 %; 9 %; exit 6 % → 14.4924; kept 0.9375 → 14.0930.
    """
    end = stages_worth(rate, stages, r, kept, trace)
    following = end.amount * (1 + stages[-1][1])
    return end.worth + trace.part("sold", following / exit_yield * end.factor)


def funds_path_value(
    start: Value,
    stages: Stages,
    dilution: Value,
    payout: Value,
    multiple: Value,
    r: Value,
    trace: Trace = PLAIN,
) -> Value:
    """FFO or AFFO per unit by stages, paid out in part, then sold at a multiple.

    Source: docs/method.md. 2.65; 3 years 7 %, 3 years 5 %, 4 years 3 %; dilution 1.5 %; payout
    74 %; 8.5 %; 17× → 43.1574.
    """
    end = stages_worth(start, diluted(stages, dilution), r, payout, trace)
    return end.worth + trace.part("sold", multiple * end.amount * end.factor)


def graham_growth_value(eps: Value, growth: Value, base: Value, k: Value, aaa: Value) -> Value:
    """EPS × (base + k · 100 g) × 4.4 ÷ Y, Y the AAA yield in percent.

    Source: Graham 1974, docs/method.md. 3.10, 4 %, 8.5, 2, 5.1 % → 44.1294.
    """
    return eps * (base + k * 100 * growth) * 4.4 / (aaa * 100)


def next_year_multiple_value(multiple: Value, estimate: Value, dividend: Value, r: Value) -> Value:
    """(typical multiple × next year's estimate + this year's dividend) ÷ (1 + r).

    Source: docs/method.md. 16×, 3.80, 1.60, 8 % → 57.7778.
    """
    return (multiple * estimate + dividend) / (1 + r)
