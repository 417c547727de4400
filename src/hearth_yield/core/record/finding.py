"""What Record found, in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..figures.measure import Part, Sentence
from ..judging.judge import Test
from .history import Record
from .payments import Outcome
from .stage import RecordStage


def finding(stage: RecordStage, _: Sequence[Test]) -> Sentence:
    record, stopped = stage.record, stage.stopped
    rate = record.declared_rate
    running = record.years[-1] if record.years else None
    parts: list[Part]
    if not record.years:
        parts = ["No regular dividend on record"]
    elif rate.value == 0 and stopped is not None:
        parts = [
            f"Dividend {stopped.kind.value} on ",
            stopped.declared_on,
            "; nothing is being paid",
        ]
    elif not rate.known:
        parts = [f"Declared rate unknown: {rate.reason}"]
    elif running is not None and running.outcome is Outcome.CUT and record.last_cut is not None:
        parts = ["Cut on ", record.last_cut, ": ", rate, " a year is declared"]
        if record.gap_called_out:
            parts += [", while the past 12 months still show ", record.trailing_rate]
    else:
        parts = [*_streak(record), *_growth(stage)]
    doubts = (f" {d[:1].upper()}{d[1:]}." for d in record.doubts)
    return (*parts, ".", *doubts)


def _growth(stage: RecordStage) -> Sentence:
    growth, real = stage.record.growth[10], stage.inflation.real_growth[10]
    if not growth.known:
        return ()
    after = (", ", real, " after prices") if real.known else ()
    return ("; ", growth, " a year over ten", *after)


def _streak(record: Record) -> Sentence:
    raises, kept = record.raises_in_a_row, record.years_without_reduction
    if raises.value:
        return ("Raised ", raises, " running")
    if kept.value:
        return ("Held or raised ", kept, " running")
    last = next((y for y in reversed(record.years) if y.complete), record.years[-1])
    return (f"{last.outcome.value.capitalize()} in {last.year}",)
