"""The payout on what is expected of the year ahead. (docs/method.md, Cover)"""

from __future__ import annotations

from ..estimates.newest import newest_estimate, unit_of, year_ahead
from ..facts.derived import per_share_of
from ..facts.payer_file import PayerFile
from ..facts.periods import Period
from ..facts.statements import words
from ..figures.figure import Figure, Unit
from .bases import Basis, rate_over

ESTIMATED = {
    Basis.FREE_CASH_FLOW: "fcf",
    Basis.EARNINGS: "eps",
    Basis.AFFO: "affo",
    Basis.FFO: "ffo",
}
"""What estimates of a basis are called."""


def forward_payout(
    basis: Basis, file: PayerFile, declared_rate: Figure, newest: Period | None
) -> Figure | None:
    """declared rate ÷ the estimate per share of the next fiscal year; None where no estimates are
    made of the basis.

    newest: the twelve months whose diluted shares an estimate in total is divided by.
    Source: docs/method.md, Cover.
    """
    measure = ESTIMATED.get(basis)
    if measure is None:
        return None
    label = f"{words(basis)} payout, forward"
    expected = newest_estimate(file, measure, year_ahead(file))
    if unit_of(measure) is Unit.MONEY and newest is not None:
        expected = per_share_of(
            f"{expected.label} per share", expected, newest.line("diluted_shares")
        )
    return rate_over(label, declared_rate, expected)
