"""Every dividend, and what it buys when it is put back in. (docs/method.md, Range)"""

from __future__ import annotations

from datetime import date

import numpy as np

from ..facts.payer_file import PayerFile
from ..facts.records import DividendKind
from ..figures.arrays import Floats
from ..record.payments import Payment, payments_of


def paid_between(file: PayerFile, first: date, last: date) -> list[Payment]:
    """Every dividend that went ex after the first day and up to the last, of whatever kind."""
    found = [p for kind in DividendKind for p in payments_of(file, kind)]
    return sorted((p for p in found if first < p.ex_date <= last), key=lambda p: p.ordinal)


def put_back(file: PayerFile) -> Floats:
    """What one share of the first close became by each close, every dividend put back in."""
    return np.asarray(np.cumprod(added(file)), dtype=np.float64)


def added(file: PayerFile) -> Floats:
    """By what one share grows at each close: dividends buy at the close of their ex-date, or the
    next one held. Those in another currency do not."""
    days, closes = file.prices.days, file.adjusted_closes
    factors: Floats = np.ones(len(closes), dtype=np.float64)
    for p in paid_between(file, days[0].astype(date), file.last_day) if len(days) else ():
        at = int(np.searchsorted(days, np.datetime64(p.ex_date)))
        if at < len(closes) and p.fact.currency == file.payer.currency and closes[at] > 0:
            factors[at] *= 1 + p.amount / closes[at]
    return factors
