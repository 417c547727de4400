"""What a person keeps of a dividend: after tax, with the credit that it carries."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts.payer_file import PayerFile
from ..facts.records import Dividend, DividendKind
from ..figures.figure import Figure, Unit, derive, given
from ..figures.inputs import Default
from ..judging.house_rules import HouseRules
from .staged import kept_of_dividend

NO_CREDIT = "none is told with its dividends"
MOST = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class Credit:
    """part: of a dividend, that carries a tax credit; rate: the tax behind it."""

    part: Default
    rate: Default


def credit_of(file: PayerFile) -> Credit:
    """That of the newest regular dividend that tells one: files leave it out, and a dividend typed
    by hand does, too. 0 ends it; a rate of 95 % or more is none."""
    newest = max(
        (d for d in file.dividends if d.kind is DividendKind.REGULAR and _tells(d)),
        key=lambda d: d.ex_date,
        default=None,
    )
    part = newest.credited_fraction if newest else None
    rate = newest.credit_tax_rate if newest else None
    if newest is None or not part or not rate or rate > MOST:
        touch = newest.touch if newest else None
        return Credit(
            part=_told("part credited", 0.0, touch=touch),
            rate=_told("tax rate behind it", 0.0, touch=touch),
        )
    origin = f"of the dividend that went ex on {newest.ex_date.isoformat()}"
    held = {"known_on": newest.known_on, "source": newest.source, "touch": newest.touch}
    return Credit(
        part=_told("part credited", part, origin, **held),
        rate=_told("tax rate behind it", rate, origin, **held),
    )


def _tells(dividend: Dividend) -> bool:
    return dividend.credited_fraction is not None or dividend.credit_tax_rate is not None


def _told(label: str, value: float, origin: str = NO_CREDIT, **meta: object) -> Default:
    return Default(given(label, Unit.FRACTION, value, origin, **meta), origin)


def kept_after_tax(file: PayerFile, rules: HouseRules) -> Figure:
    """Of a dividend of one: (1 − tax)(1 + q·c ÷ (1 − c)), the tax that of House rules.

    Source: docs/method.md, Worth. 25 %, half of it credited at 30 % → 0.9107.
    """
    tax = given("tax on dividends", Unit.FRACTION, rules.dividend_tax, "house rule")
    credit = credit_of(file)
    inputs, formula = [tax], "1 − tax on dividends"
    if credit.part.figure.value:
        inputs += [credit.part.figure, credit.rate.figure]
        formula = "(1 − tax on dividends) × (1 + part credited × rate ÷ (1 − rate))"
    return derive(
        "part kept of a dividend",
        Unit.FRACTION,
        formula,
        inputs,
        lambda t, q=0.0, c=0.0: kept_of_dividend(t, q, c),
    ).with_touch(credit.part.figure.touch)
