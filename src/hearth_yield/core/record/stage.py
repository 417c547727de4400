"""Record: what it has paid, and whether that beats inflation."""

from __future__ import annotations

from dataclasses import dataclass

from ..facts.records import Notice, PayerFile
from .history import Record, build_record
from .inflation import Inflation, build_inflation
from .payments import STOPS


@dataclass(frozen=True, slots=True, kw_only=True)
class RecordStage:
    """stopped: the newest notice of omission or suspension."""

    record: Record
    inflation: Inflation
    stopped: Notice | None


def build_record_stage(file: PayerFile, base_year: int | None = None) -> RecordStage:
    """base_year: a year of choice to keep pace since."""
    record = build_record(file)
    return RecordStage(
        record=record,
        inflation=build_inflation(file, record, base_year),
        stopped=next((n for n in reversed(file.notices) if n.kind in STOPS), None),
    )
