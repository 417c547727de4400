"""What is noted of the program's own faults, to be found again: kind, place and frames. A message
is noted only where it is one of ours, as others may carry a person's figures."""

from __future__ import annotations

import logging
import sys
from collections.abc import Iterator
from logging.handlers import RotatingFileHandler
from pathlib import Path
from traceback import extract_tb
from typing import TextIO

from .core.errors import HearthError, Miscomputed, Uncomputable

LOG = logging.getLogger("hearth_yield")
NAME = "hearth-yield.log"
MOST_BYTES, OLDER = 1_000_000, 3


class _Bare(logging.Formatter):
    """An exception as its kinds and frames, the cause first."""

    def format(self, record: logging.LogRecord) -> str:
        record.exc_text = None  # what another formatter made of it is kept there
        try:
            return super().format(record)
        finally:
            record.exc_text = None

    def formatException(self, ei: object) -> str:
        error = ei[1] if isinstance(ei, tuple) else None
        return "\n".join(_told(error)) if isinstance(error, BaseException) else ""


def _told(error: BaseException) -> Iterator[str]:
    before = error.__cause__ or (None if error.__suppress_context__ else error.__context__)
    if before is not None:
        yield from _told(before)
    for frame in extract_tb(error.__traceback__):
        yield f"  {frame.filename}:{frame.lineno} in {frame.name}"
    kind = type(error)
    message = f": {error.message}" if isinstance(error, HearthError) else ""
    yield f"{kind.__module__}.{kind.__qualname__}{message}"


class _Shown(logging.StreamHandler[TextIO]):
    """On stderr as it is then."""

    def emit(self, record: logging.LogRecord) -> None:
        self.stream = sys.stderr
        super().emit(record)


def tell(*, verbose: bool = False) -> None:
    """From now on faults are told on stderr. verbose: as Python tells them, with messages and lines
    of code."""
    _add(_Shown(), logging.Formatter if verbose else _Bare)
    LOG.propagate = False


def keep_in(folder: Path) -> None:
    """From now on faults are noted in a rotating file of this folder."""
    folder.mkdir(parents=True, exist_ok=True)
    kept = RotatingFileHandler(
        folder / NAME, maxBytes=MOST_BYTES, backupCount=OLDER, encoding="utf-8", delay=True
    )
    _add(kept, _Bare)


def _add(handler: logging.Handler, formatter: type[logging.Formatter]) -> None:
    """In the place of one of its kind."""
    handler.setFormatter(formatter("%(asctime)s %(levelname)s %(message)s"))
    for old in LOG.handlers[:]:
        if type(old) is type(handler):
            LOG.removeHandler(old)
            old.close()
    LOG.addHandler(handler)


def note(where: str, error: BaseException) -> None:
    """A fault of the program, met there."""
    LOG.error("a fault in %s", where, exc_info=error)


def note_if_ours(error: Uncomputable) -> None:
    """The same of one payer among many, over whom the others go on."""
    if isinstance(error, Miscomputed):
        note("the computation of a payer", error)
