"""Record: what it has paid, and whether that beats inflation."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property

from ..estimates.newest import newest_estimate
from ..facts.payer_file import PayerFile
from ..facts.records import Notice
from ..figures.figure import Figure
from .ahead import AHEAD_SPANS, Coming, growth_with_year_ahead, next_payment
from .downturns import SlumpPaid, slumps_paid
from .history import Record, build_record
from .inflation import Inflation, build_inflation
from .payments import STOPS


@dataclass(frozen=True, kw_only=True)
class RecordStage:
    """stopped: the newest notice of omission or suspension."""

    record: Record
    inflation: Inflation
    stopped: Notice | None
    file: PayerFile = field(repr=False, compare=False)

    @cached_property
    def ahead(self) -> dict[int, Figure]:
        """Growth by years that span to the year ahead."""
        return {n: growth_with_year_ahead(self.file, self.record, n) for n in AHEAD_SPANS}

    @cached_property
    def expected(self) -> Figure | None:
        """What analysts expect of the running year's dividends, where it is told."""
        running = self.running
        found = newest_estimate(self.file, "dps", running) if running else None
        return found if found is not None and found.known else None

    @property
    def running(self) -> int | None:
        """The year after the last complete one, where it has begun to pay."""
        last = self.record.years[-1] if self.record.years else None
        return last.year if last is not None and not last.complete else None

    @cached_property
    def coming(self) -> Coming | None:
        return next_payment(self.file, self.record)

    @cached_property
    def slumps(self) -> tuple[SlumpPaid, ...]:
        """What the dividend did in each; built when it is shown."""
        return slumps_paid(self.file)


def build_record_stage(file: PayerFile, base_years: Sequence[int] = ()) -> RecordStage:
    """base_years: of choice to keep pace since, at most two."""
    record = build_record(file)
    return RecordStage(
        record=record,
        inflation=build_inflation(file, record, base_years),
        file=file,
        stopped=next((n for n in reversed(file.notices) if n.kind in STOPS), None),
    )
