"""Keep a step to buy in by on a payer, with what one would put in there."""

from __future__ import annotations

import math
from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from hearth_yield.core.errors import InvalidInput
from hearth_yield.core.range.entry_steps import EntryStep, PricedStep, priced_steps
from hearth_yield.core.range.multiples import suiting
from hearth_yield.core.record.stage import build_record_stage
from hearth_yield.store import entry_steps
from hearth_yield.store.database import Edition

from .review_cache import ReviewCache

MAX_STEPS = 20
MAX_TARGET = 1e6
MAX_AMOUNT = Decimal(10) ** 12


def steps_of(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition
) -> Sequence[PricedStep]:
    """Those of a payer with the prices they are on a day. Raises NotFound without such a payer."""
    file = cache.cut_file(at, exchange, symbol, as_of)
    with cache.database.read() as connection:
        held = entry_steps.of_payer(connection, exchange, symbol)
    return priced_steps(file, build_record_stage(file, ()).record, held) if held else []


def keep_entry_step(
    cache: ReviewCache, exchange: str, symbol: str, as_of: date, at: Edition, step: EntryStep
) -> int:
    """Returns the step's id. Raises InvalidInput for one that cannot be, NotFound without such a
    payer."""
    file = cache.cut_file(at, exchange, symbol, as_of)
    known = [q.id for q in suiting(file.payer.kind)]
    if step.quantity not in known:
        raise InvalidInput(
            "no such quantity of this payer",
            field="quantity",
            value=step.quantity,
            rule=f"one of {', '.join(known)}",
        )
    if not (math.isfinite(step.target) and 0 < step.target <= MAX_TARGET):
        raise InvalidInput(
            "a target must be above 0", field="target", value=step.target, rule="above 0"
        )
    if not 0 < step.amount <= MAX_AMOUNT or step.amount != step.amount.quantize(Decimal("0.01")):
        raise InvalidInput(
            "an amount must be above 0, to two decimals at most",
            field="amount",
            value=str(step.amount),
            rule="above 0, at most two decimals",
        )
    with cache.database.write(facts=False) as connection:
        if entry_steps.count(connection, exchange, symbol) >= MAX_STEPS:
            raise InvalidInput(
                "there are as many steps as a payer can have",
                field="target",
                value=step.target,
                rule=f"at most {MAX_STEPS} steps",
            )
        return entry_steps.put(connection, exchange, symbol, step)


def forget_entry_step(cache: ReviewCache, id: int) -> None:
    """Raises NotFound."""
    with cache.database.write(facts=False) as connection:
        entry_steps.remove(connection, id)
